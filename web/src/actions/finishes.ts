/** What an artist does with finishes: adding, laying on, painting, removing. */
import { newId, type ChartTarget, type Finish, type Project, type Zone } from '@wemlox/core/document';
import * as edits from '@wemlox/core/edits';
import { choose, useChoice, useRemoving, type ChosenFace } from '../state/choice.ts';
import { perform, useStudio } from '../state/studio.ts';
import { currentLook } from './document.ts';

interface Letter {
  block: string;
  letter: string;
}

/** Letters that stand in one column of the chart with another. */
function ofColumn(project: Project, { block, letter }: ChartTarget): string[] {
  if (!letter || !useChoice.getState().groupedChart) return [];
  const groups = edits.alikeLetters(project, currentLook(project));
  return (groups.find((g) => g.some((l) => l.letter === letter && l.block === block)) ?? []).map(
    (l) => l.letter,
  );
}

/** Lays a finish on faces, and on those of letters in the same column of the chart; null clears them. */
export const dressFaces = (target: ChartTarget, finish: string | null) =>
  perform((p) => edits.dressFaces(p, currentLook(p).id, target, finish, ofColumn(p, target)));

/** Lays a finish on the faces that were pointed at in the picture, and on no others. */
export const dressPointed = (target: ChartTarget, finish: string | null) =>
  perform((p) => edits.dressFaces(p, currentLook(p).id, target, finish));

/** Lays a finish on one more cell of a stroke. */
export const paintFace = (face: ChosenFace, finish: string | null) =>
  perform((p) => edits.paintFace(p, currentLook(p).id, face, finish, ofColumn(p, face)));

/** Lays a finish on the letters of a block that a pattern picks: on one zone of theirs, or on all of them. */
export const dressPattern = (
  block: string,
  pattern: edits.Pattern,
  zone: Zone | null,
  finish: string | null,
  seed: number,
) => perform((p) => edits.dressPattern(p, currentLook(p).id, block, pattern, zone, finish, seed));

/** Dresses letters as another is dressed. */
export const copyDress = (from: Letter, to: readonly Letter[]) =>
  perform((p) => edits.copyDress(p, currentLook(p).id, from, to));

/** Adds the project's own copy of a finish; its identifier is returned. */
export function addFinish(source: Finish | null): string {
  const id = newId();
  if (perform((p) => edits.addFinish(p, source, id))) choose({ finish: id, brush: id });
  return id;
}

/** Gives the look that is open a copy of a finish of its own. */
export function ownFinish(id: string): void {
  const copy = newId();
  const { finish, brush } = useChoice.getState();
  if (perform((p) => edits.ownFinish(p, currentLook(p).id, id, copy)))
    choose({ finish: finish === id ? copy : finish, brush: brush === id ? copy : brush });
}

/** Removes a finish; one that is worn is asked about first. */
export function askRemoveFinish(id: string): void {
  if (edits.wornAt(useStudio.getState().seen, id).length > 0) useRemoving.setState({ finish: id });
  else removeFinish(id, null);
}

/** Removes a finish; faces and pieces that wore it wear another, or are left bare. */
export function removeFinish(id: string, instead: string | null): void {
  perform((p) => edits.removeFinish(p, id, instead));
  const { finish, brush } = useChoice.getState();
  choose({ finish: finish === id ? null : finish, brush: brush === id ? null : brush });
}
