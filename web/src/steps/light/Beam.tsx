/** What a light is thrown through: a picture, and how its strength differs by direction. */
import { arc, curveLinearClosed, lineRadial } from 'd3';
import { useEffect, useMemo, useState } from 'react';
import type { LightOf, ProfileRef } from '@wemlox/core/document';
import { patternLight, profileLight } from '@wemlox/core/edits';
import {
  lumensPerCandela,
  readProfile,
  READY_PROFILES,
  readyProfile,
  shareAt,
  type Profile,
} from '@wemlox/core/light/profile';
import { LIGHT_PATTERNS } from '@wemlox/core/texture/patterns';
import { currentLook, lookAddress, set } from '../../actions/document.ts';
import { FileButton } from '../../desk/FileButton.tsx';
import { PickMenu } from '../../desk/PickMenu.tsx';
import { ParameterRows } from '../../desk/ParameterRow.tsx';
import { PlayedRows } from '../../desk/PlayedRows.tsx';
import { PicturePicker } from '../../desk/PicturePicker.tsx';
import { useUploads } from '../../desk/useUploads.ts';
import { assetUrl } from '../../state/api.ts';
import { numberText } from '../../state/language.ts';
import { attempt, notify } from '../../state/notices.ts';
import { perform } from '../../state/studio.ts';

const SIZE = 112;
const STEPS = 180;

/** An uploaded profile. @throws ProfileError, or what the server said */
async function uploadedProfile(hash: string): Promise<Profile> {
  const response = await fetch(assetUrl(hash));
  if (!response.ok) throw new Error(`the file is not there (${response.status})`);
  return readProfile(new Uint8Array(await response.arrayBuffer()));
}

/** The profile of a reference, read once more for its picture; null until it is there. */
function useProfile(ref: ProfileRef | null): Profile | null {
  const [read, setRead] = useState<{ id: string; profile: Profile } | null>(null);
  useEffect(() => {
    if (!ref) return;
    let gone = false;
    void attempt(`${ref.name} could not be shown`, async () => {
      const profile = ref.source === 'ready' ? readyProfile(ref.id) : await uploadedProfile(ref.id);
      if (!gone) setRead({ id: ref.id, profile });
    });
    return () => {
      gone = true;
    };
  }, [ref]);
  return ref && read?.id === ref.id ? read.profile : null;
}

/** Strength by direction, from the side and from above: straight ahead is down. */
function Polar({ profile, name }: { profile: Profile; name: string }) {
  const paths = useMemo(() => {
    const radius = SIZE / 2 - 4;
    const drawn = (phi: number) =>
      lineRadial<number>()
        .angle((i) => Math.PI - (2 * Math.PI * i) / STEPS)
        .radius((i) => {
          const theta = (2 * Math.PI * i) / STEPS;
          const behind = theta > Math.PI;
          return (
            radius * shareAt(profile, behind ? 2 * Math.PI - theta : theta, behind ? phi + Math.PI : phi)
          );
        })
        .curve(curveLinearClosed)(Array.from({ length: STEPS }, (_, i) => i))!;
    const ring = (share: number) =>
      arc()({
        innerRadius: radius * share,
        outerRadius: radius * share,
        startAngle: 0,
        endAngle: 2 * Math.PI,
      })!;
    return { across: drawn(0), up: drawn(Math.PI / 2), rings: [0.25, 0.5, 0.75, 1].map(ring) };
  }, [profile]);
  return (
    <svg
      width={SIZE}
      height={SIZE}
      viewBox={`${-SIZE / 2} ${-SIZE / 2} ${SIZE} ${SIZE}`}
      className="shrink-0"
      role="img"
      aria-label={`${name}: strength by direction, straight ahead below; from its side and from above`}
    >
      {paths.rings.map((d, i) => (
        <path key={i} d={d} fill="none" stroke="var(--line)" />
      ))}
      <path d={paths.up} fill="none" stroke="var(--quiet)" strokeDasharray="3 2" />
      <path d={paths.across} fill="none" stroke="var(--color-primary)" strokeWidth={1.5} />
    </svg>
  );
}

/** Stands for no profile among those at hand. */
const NONE = '';

function ProfilePicker({ light }: { light: LightOf<'spot'> | LightOf<'point'> }) {
  const { profile: ref } = light;
  const { files, sent, take } = useUploads('profile');
  const profile = useProfile(ref);
  const pick = (profile: ProfileRef | null) =>
    perform((p) => profileLight(p, currentLook(p).id, light.id, profile));
  const refOf = (source: ProfileRef['source'], id: string, name: string, read: Profile): ProfileRef => ({
    source,
    id,
    name,
    candela: read.candela,
    lumens: lumensPerCandela(read),
  });
  const file = async (hash: string, name: string) => {
    const read = await attempt(`${name} could not be read`, () => uploadedProfile(hash));
    if (read) pick(refOf('asset', hash, name, read));
  };
  const choose = (id: string) => {
    const ready = READY_PROFILES.find((p) => p.id === id);
    const own = files.find((a) => a.hash === id);
    if (id === NONE) pick(null);
    else if (ready) pick(refOf('ready', id, ready.name, readyProfile(id)));
    else if (own) void file(id, own.name);
  };
  return (
    <div className="flex items-center gap-2 py-1">
      {profile && ref && <Polar profile={profile} name={ref.name} />}
      <div className="flex min-w-0 grow flex-col gap-1">
        <PickMenu
          label="Profile"
          text={ref?.name ?? 'No profile'}
          items={[
            { id: NONE, name: 'No profile' },
            ...READY_PROFILES,
            ...files.map((a) => ({ id: a.hash, name: a.name })),
          ]}
          onPick={choose}
        />
        <FileButton
          label="Photometric file"
          text="From an .ies file"
          accept=".ies"
          sent={sent}
          onFile={(f) => void take(f).then((asset) => asset && file(asset.hash, asset.name))}
        />
        {ref && ref.candela > 0 && (
          <button
            type="button"
            className="btn btn-xs"
            title="Sets the strength to what the file states"
            onClick={() => {
              set(`looks/${currentLook().id}/rig/${light.id}/strength`, ref.candela);
              notify('done', `${light.name} is as strong as ${ref.name} says`);
            }}
          >
            {numberText(ref.candela, 0)} cd, as it says
          </button>
        )}
      </div>
    </div>
  );
}

export function Beam({ light }: { light: LightOf<'spot'> | LightOf<'point'> }) {
  return (
    <>
      {light.kind === 'spot' && (
        <PicturePicker
          label="Pattern"
          picture={light.pattern}
          coding="colour"
          painted={LIGHT_PATTERNS}
          none="No pattern"
          played={
            <PlayedRows plays={light.pattern?.plays}>
              <ParameterRows of={`${lookAddress()}/rig/${light.id}/pattern/plays`} />
            </PlayedRows>
          }
          onPick={(pattern) => perform((p) => patternLight(p, currentLook(p).id, light.id, pattern))}
        />
      )}
      <ProfilePicker light={light} />
    </>
  );
}
