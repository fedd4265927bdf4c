/** Where a block stands. */
import type { Block } from '@wemlox/core/document';
import { lowestCorner } from '@wemlox/core/stage/blockPlace';
import { standOffWall, standOnFloor } from '../../actions/blocks.ts';
import { blockAddress } from '../../actions/document.ts';
import { floorOf, wallOf } from '../../actions/stage.ts';
import { ParameterRows } from '../../desk/ParameterRow.tsx';
import { Section } from '../../desk/rows.tsx';
import { useStudio } from '../../state/studio.ts';
import type { BandBlock } from '../../workers/messages.ts';

/** Nearer than this is touching, metres. */
const NEAR = 5e-5;

/** How far the lowest or rearmost point is from floor or wall, in words; null when it stands. */
function standing(gap: number, above: string, into: string): string | null {
  if (Math.abs(gap) < NEAR) return null;
  const mm = `${(Math.abs(gap) * 1000).toFixed(1)} mm`;
  return gap > 0 ? `${mm} ${above}` : `${mm} ${into}`;
}

export function PlaceRows({ block, shaped }: { block: Block; shaped: BandBlock | undefined }) {
  const project = useStudio((s) => s.seen);
  const hasFloor = project.pieces.some((p) => p.kind === 'floor' && p.on);
  const wall = wallOf(project);
  const { place } = block;
  const isUpright = place.turn === 0 && place.tilt === 0 && place.roll === 0;
  const notes = [
    hasFloor && shaped?.bounds
      ? standing(
          lowestCorner(place, shaped.bounds, shaped.reach) - floorOf(project),
          'above the floor',
          'sunk into the floor',
        )
      : null,
    wall !== null && shaped && isUpright
      ? standing(place.position[2] + shaped.reach[0] - wall, 'off the wall', 'sunk into the wall')
      : null,
  ].filter((n) => n !== null);
  return (
    <Section
      title="Place"
      aside={notes.map((note) => (
        <span
          key={note}
          className={
            note.includes('sunk') || note.includes('above')
              ? 'rounded-sm bg-warning px-1.5 py-0.5 text-warning-content'
              : ''
          }
        >
          {note}
        </span>
      ))}
    >
      <div className="flex flex-wrap gap-1.5 pb-1">
        <button type="button" className="btn btn-xs" onClick={() => standOnFloor(block.id)}>
          Stand on the floor
        </button>
        <button type="button" className="btn btn-xs" onClick={() => standOnFloor(block.id, 0.05)}>
          Float by 50 mm
        </button>
        {wall !== null && (
          <>
            <button type="button" className="btn btn-xs" onClick={() => standOffWall(block.id, 0)}>
              On the wall
            </button>
            <button type="button" className="btn btn-xs" onClick={() => standOffWall(block.id, 0.03)}>
              Off it by 30 mm
            </button>
          </>
        )}
      </div>
      <ParameterRows of={`${blockAddress(block.id)}/place`} />
    </Section>
  );
}
