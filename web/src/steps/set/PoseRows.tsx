/** How letters stand from where their line has them: all of them alike, and the chosen one by itself. */
import type { Block } from '@wemlox/core/document';
import { poseLetter, unposeLetter } from '@wemlox/core/edits';
import { blockAddress } from '../../actions/document.ts';
import { ParameterRows } from '../../desk/ParameterRow.tsx';
import { Fold } from '../../desk/rows.tsx';
import { useChoice } from '../../state/choice.ts';
import { perform } from '../../state/studio.ts';

export function PoseRows({ block }: { block: Block }) {
  const letter = useChoice((c) => (c.face?.block === block.id ? c.face.letter : null));
  const at = letter === null ? -1 : block.letters.indexOf(letter);
  const text = [...block.text][at];
  const pose = block.poses.find((p) => p.id === letter);
  return (
    <Fold title="Each letter">
      <ParameterRows of={`${blockAddress(block.id)}/each`} />
      {letter !== null && text?.trim() && (
        <div className="border-t border-(--line) pt-1.5" role="group" aria-label={`${text} alone`}>
          <div className="flex items-center justify-between pb-1">
            <h3 className="font-semibold">{text} alone</h3>
            <button
              type="button"
              className="btn btn-xs"
              onClick={() => perform((p) => (pose ? unposeLetter : poseLetter)(p, block.id, letter))}
            >
              {pose ? 'As the others' : 'Move it by itself'}
            </button>
          </div>
          {pose && <ParameterRows of={`${blockAddress(block.id)}/poses/${letter}`} />}
        </div>
      )}
    </Fold>
  );
}
