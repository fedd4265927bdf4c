/** A light's strength in another unit, and against the strongest light of the rig. */
import { useState } from 'react';
import { create } from 'zustand';
import type { Light } from '@wemlox/core/document';
import { beamOf } from '@wemlox/core/scene/beamFlux';
import type { RenderScene, SceneLight } from '@wemlox/core/scene/renderScene';
import {
  inUnit,
  STRENGTH_UNITS,
  stopsAgainst,
  type LightFacts,
  type StrengthUnit,
} from '@wemlox/core/light/units';
import { set } from '../../actions/document.ts';
import { typedNumber } from '../../desk/typedNumber.ts';
import { useLook } from '../../state/chosen.ts';
import { numberText } from '../../state/language.ts';
import { useShown } from '../../state/shown.ts';

const SIGNS: Record<StrengthUnit, string> = { nits: 'nit', candela: 'cd', lumen: 'lm', lux: 'lx' };

/** The unit strengths are shown in, where a light has it; its own when null. */
const useUnit = create<{ unit: StrengthUnit | null }>()(() => ({ unit: null }));

const known = new WeakMap<SceneLight, LightFacts>();

/** What the scene on the stage knows of a light. */
function factsOf(scene: RenderScene | null, { id }: Light): LightFacts {
  const found = scene?.lights.find((l) => l.id === id);
  if (!found) return {};
  let facts = known.get(found);
  if (!facts) {
    facts = { face: found.kind === 'area' ? (found.face ?? null) : null, beam: beamOf(found, scene!) };
    known.set(found, facts);
  }
  return facts;
}

/** How the strength of a light is shown. */
export function useStrengthUnit(light: Light): { sign: string; factor: number } | undefined {
  const unit = useUnit((u) => u.unit);
  const scene = useShown((v) => v.scene);
  const factor = unit && inUnit(light, unit, factsOf(scene, light));
  return unit && factor ? { sign: SIGNS[unit], factor } : undefined;
}

const inShort = (v: number) => (v >= 1000 ? numberText(v, 0) : Number(v.toPrecision(3)).toString());

/** Stops against the strongest other light, read and typed. */
function AgainstKey({ light, stops, other }: { light: Light; stops: number; other: string }) {
  const look = useLook();
  const [typed, setTyped] = useState<string | null>(null);
  const commit = () => {
    const meant = typed === null ? NaN : typedNumber(typed, 'EV');
    if (Number.isFinite(meant)) {
      const strength = light.strength * 2 ** (meant - stops);
      set(`looks/${look.id}/rig/${light.id}/strength`, strength);
    }
    setTyped(null);
  };
  return (
    <label
      className="quiet flex items-baseline gap-1"
      title="What it gives its aim, beside what the strongest other light gives its own"
    >
      <input
        className="w-10 border-b border-(--line) bg-transparent text-right"
        aria-label={`Stops against ${other}`}
        inputMode="decimal"
        value={typed ?? `${stops >= 0 ? '+' : ''}${numberText(stops, 1)}`}
        onFocus={(e) => e.target.select()}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={commit}
        onKeyDown={(e) => {
          if (e.key === 'Enter') e.currentTarget.blur();
          if (e.key === 'Escape') setTyped(null);
        }}
      />
      EV to {other}
    </label>
  );
}

export function StrengthUnits({ light, rig }: { light: Light; rig: readonly Light[] }) {
  const chosen = useUnit((u) => u.unit);
  const scene = useShown((v) => v.scene);
  const facts = (l: Light) => factsOf(scene, l);
  const units = STRENGTH_UNITS.flatMap((unit) => {
    const factor = inUnit(light, unit, facts(light));
    return factor ? [{ unit, value: factor * light.strength }] : [];
  });
  const lux = (l: Light) => (inUnit(l, 'lux', facts(l)) ?? 0) * l.strength;
  const key = rig.filter((l) => l.on && l.id !== light.id).sort((a, b) => lux(b) - lux(a))[0];
  const stops = key ? stopsAgainst(light, key, facts) : null;
  if (units.length < 2) return null;
  return (
    <div
      className="flex flex-wrap items-center gap-x-2 pb-1 pl-[114px] text-xs"
      role="group"
      aria-label="Units"
    >
      {units.map(({ unit, value }) => (
        <button
          key={unit}
          type="button"
          className={`cursor-pointer ${chosen === unit ? 'text-primary' : 'quiet'}`}
          aria-pressed={chosen === unit}
          title={
            unit === 'lux'
              ? 'At what it aims at. Click to set the strength in it'
              : 'Click to set the strength in it'
          }
          onClick={() => useUnit.setState({ unit: chosen === unit ? null : unit })}
        >
          {inShort(value)} {SIGNS[unit]}
        </button>
      ))}
      {stops !== null && <AgainstKey light={light} stops={stops} other={key.name} />}
    </div>
  );
}
