/** Why the picture is black, burnt or off, with the one move that mends it. */
import { useMemo } from 'react';
import { lightFindings, type LightFinding } from '@wemlox/core/light/findings';
import { shining } from '@wemlox/core/light/placing';
import { centreOf } from '@wemlox/core/stage/camera';
import { moveLight } from '@wemlox/core/edits';
import { addCards, addThreePoint } from '../actions/lights.ts';
import { currentLook, setExposure } from '../actions/document.ts';
import { useLook } from '../state/chosen.ts';
import { numberText } from '../state/language.ts';
import { isBalanced, rowName, useBalance, useLightChart } from '../state/light.ts';
import { useShown } from '../state/shown.ts';
import { perform, useStudio } from '../state/studio.ts';

/** What is wrong with the light of the picture, the gravest first; nothing while it is weighed otherwise. */
export function useLightFindings(): LightFinding[] {
  const counted = useLightChart((l) => l.counted);
  const balanced = useBalance(isBalanced);
  const typeBox = useShown((v) => v.scene?.typeBox);
  const { rig, grade } = useLook();
  const pieces = useStudio((s) => s.project.pieces);
  return useMemo(() => {
    if (!counted || !typeBox || balanced) return [];
    const { chart, rows, mirrors, glows } = counted;
    const lit = rows.flatMap((row, i) =>
      chart.places[i] > 0
        ? [
            {
              name: rowName(row, pieces),
              type: 'zone' in row,
              mirrors: mirrors[i],
              glows: glows[i],
              levels: chart.levels[i],
            },
          ]
        : [],
    );
    const at = (kind: 'floor' | 'wall') => pieces.find((p) => p.kind === kind && p.on)?.at ?? null;
    const stage = { floor: at('floor'), wall: at('wall') };
    return lightFindings(lit, grade.exposure, shining(rig), centreOf(typeBox), stage);
  }, [counted, typeBox, balanced, rig, grade.exposure, pieces]);
}

const list = (names: readonly string[]) =>
  names.length > 1 ? `${names.slice(0, -1).join(', ')} and ${names.at(-1)}` : names[0];

function textOf({ code, where, amount }: LightFinding): string {
  const [is, names] = [where.length > 1 ? 'are' : 'is', list(where)];
  switch (code) {
    case 'under the floor':
      return `${names} stands under the floor: nothing of it arrives`;
    case 'behind the wall':
      return `${names} stands behind the wall: nothing of it arrives`;
    case 'mirrors darkness':
      return `${names} ${is} black: what mirrors there sees only darkness`;
    case 'unlit':
      return `${names} ${is} black: next to no light reaches it`;
    case 'exposure':
      return `The type is ${numberText(Math.abs(amount), 1)} stops too ${amount > 0 ? 'bright' : 'dark'} for this exposure`;
    case 'burnt':
      return `${numberText(amount * 100, 0)} % of ${names} ${is} burnt out`;
  }
}

/** Name of the move, and the move. */
function mendOf({ mend, where }: LightFinding): [string, () => void] {
  const change = (stops: number) => () => setExposure(currentLook().grade.exposure + stops);
  switch (mend.by) {
    case 'exposure':
      return [`Expose ${mend.stops > 0 ? '+' : ''}${numberText(mend.stops, 1)} EV`, change(mend.stops)];
    case 'move':
      return [
        `Bring ${where[0]} out`,
        () => void perform((p) => moveLight(p, currentLook(p).id, mend.light, mend)),
      ];
    case 'cards':
      return ['Cards and strips', () => addCards()];
    case 'lamps':
      return ['Key, fill and rim', addThreePoint];
  }
}

export function LightAdvice({ finding, more }: { finding: LightFinding; more: number }) {
  const [name, mend] = mendOf(finding);
  return (
    <span className="flex min-w-0 items-center gap-2 text-xs" data-testid="light-advice">
      <span className="truncate rounded-sm bg-warning px-1.5 py-0.5 text-warning-content">
        {textOf(finding)}
        {more > 0 && `; ${more} more`}
      </span>
      <button type="button" className="btn btn-xs" onClick={mend}>
        {name}
      </button>
    </span>
  );
}
