/** One bevel: its size, way, profile and shading. */
import type { Block, Profile } from '@wemlox/core/document';
import { drawProfile, setProfile, type BevelSide } from '@wemlox/core/edits';
import type { BevelLimits } from '@wemlox/core/solid/limits';
import { isCurved } from '@wemlox/core/solid/profile';
import { blockAddress } from '../../actions/document.ts';
import { ParameterRow, ParameterRows } from '../../desk/ParameterRow.tsx';
import { perform } from '../../state/studio.ts';
import { ProfileCurve } from './ProfileCurve.tsx';
import { ProfileRow } from './ProfileRow.tsx';

/** Reach of the faders: a quarter of a capital, and at least this, millimetres. */
const LEAST_REACH = 50;

export function BevelRows({
  block,
  side,
  limits,
}: {
  block: Block;
  side: BevelSide;
  limits: BevelLimits | null | undefined;
}) {
  const bevel = block[side];
  const of = `${blockAddress(block.id)}/${side}`;
  const reach = Math.max(LEAST_REACH, block.capHeight * 250);
  const marks = limits
    ? [
        { at: limits.flat, name: 'flat front everywhere' },
        { at: limits.ridge, name: 'ridge everywhere' },
      ]
    : [];
  return (
    <>
      <ParameterRow address={`${of}/width`} reach={reach} marks={marks} />
      <ParameterRow address={`${of}/height`} reach={reach} />
      <ProfileRow
        value={bevel.profile}
        points={bevel.points}
        onChange={(profile: Profile) => perform((p) => setProfile(p, block.id, side, profile))}
      />
      {bevel.profile === 'free' && (
        <ProfileCurve
          points={bevel.points}
          onChange={(points) => perform((p) => drawProfile(p, block.id, side, points))}
        />
      )}
      <ParameterRows
        of={of}
        without={['width', 'height', 'profile', ...(isCurved(bevel) ? [] : ['segments'])]}
      />
    </>
  );
}
