/** One bevel: its size, way, profile and shading. */
import {
  BEVEL_WAYS,
  FREE_PROFILE,
  newBlock,
  SHADINGS,
  type Bevel,
  type Block,
} from '@wemlox/core/src/document/index.ts';
import type { BevelLimits } from '@wemlox/core/src/solid/limits.ts';
import { isCurved } from '@wemlox/core/src/solid/profile.ts';
import { NumberRow, SegmentRow } from '../../desk/rows.tsx';
import { editBlock } from '../../actions/actions.ts';
import { ProfileCurve } from './ProfileCurve.tsx';
import { ProfileRow } from './ProfileRow.tsx';

/** What rows go back to. */
const PLAIN = newBlock('');
/** Segments a newly chosen profile has at least. */
const FEWEST_SEGMENTS = 4;

export function BevelRows({
  block,
  side,
  limits,
}: {
  block: Block;
  side: 'front' | 'back';
  limits: BevelLimits | null | undefined;
}) {
  const bevel = block[side];
  const where = side === 'front' ? 'Front bevel' : 'Back bevel';
  const set = (what: string, change: Partial<Bevel>) =>
    editBlock(block.id, `${where} ${what}`, (b) => Object.assign(b[side], change));
  const widest = Math.max(50, block.capHeight * 250);
  return (
    <>
      <NumberRow
        label="Width"
        unit="mm"
        factor={1000}
        min={0}
        max={1000}
        faderMax={widest}
        step={0.1}
        marks={
          limits
            ? [
                { at: limits.flat, name: 'flat front everywhere' },
                { at: limits.ridge, name: 'ridge everywhere' },
              ]
            : []
        }
        value={bevel.width}
        initial={PLAIN[side].width}
        onChange={(width) => set('width', { width })}
      />
      <NumberRow
        label="Height"
        unit="mm"
        factor={1000}
        min={0}
        max={1000}
        faderMax={widest}
        step={0.1}
        value={bevel.height}
        initial={PLAIN[side].height}
        onChange={(height) => set('height', { height })}
      />
      <ProfileRow
        value={bevel.profile}
        points={bevel.points}
        onChange={(profile) =>
          set('profile', {
            profile,
            ...(profile === 'free' && bevel.points.length < 2 ? { points: FREE_PROFILE } : {}),
            // a curve of one segment is none
            segments: Math.max(bevel.segments, FEWEST_SEGMENTS),
          })
        }
      />
      {bevel.profile === 'free' && (
        <ProfileCurve points={bevel.points} onChange={(points) => set('curve', { points })} />
      )}
      {isCurved(bevel) && (
        <NumberRow
          label="Segments"
          min={2}
          max={32}
          step={1}
          value={bevel.segments}
          initial={PLAIN[side].segments}
          hint="How many flat facets make up the curve of the bevel"
          onChange={(segments) => set('segments', { segments })}
        />
      )}
      <SegmentRow
        label="Runs"
        hint="Whether the bevel eats into the letter or grows out around it"
        value={bevel.way}
        options={BEVEL_WAYS.map((w) => [w, w[0].toUpperCase() + w.slice(1)] as const)}
        onChange={(way) => set(way, { way })}
      />
      <SegmentRow
        label="Edges"
        hint="Whether the profile’s edges are rounded off in shading"
        value={bevel.shading}
        options={SHADINGS.map(
          (s) => [s, s === 'drawn' ? 'As drawn' : s[0].toUpperCase() + s.slice(1)] as const,
        )}
        onChange={(shading) => set(`edges ${shading}`, { shading })}
      />
    </>
  );
}
