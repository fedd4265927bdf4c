/** Matching the camera to the one that took a plate, by edges laid over the picture. */
import { aspectOf } from '@wemlox/core/document';
import { moveCamera as moved } from '@wemlox/core/edits';
import { cameraOfEdges, type FramePoint, type LinePair } from '@wemlox/core/stage/vanishing';
import { useMatching } from '../state/matching.ts';
import { perform, shotOf, useStudio } from '../state/studio.ts';

/** Has the camera see the edges as they are drawn; says why not where none does. */
function match(): void {
  const shot = shotOf(useStudio.getState().seen);
  const found = cameraOfEdges(useMatching.getState().pairs, aspectOf(shot), shot.camera);
  const why = typeof found === 'string' ? found : null;
  useMatching.setState({ why });
  if (typeof found !== 'string') perform((p) => moved(p, shot.id, 'Match the plate', found, true));
}

/** Lays an end of an edge elsewhere, and matches the camera. */
export function moveEdge(
  { pair, line, end }: { pair: number; line: number; end: number },
  to: FramePoint,
): void {
  const { pairs } = useMatching.getState();
  const next = pairs.map((lines, p) =>
    p !== pair ? lines : lines.map((of, l) => (l !== line ? of : of.map((at, k) => (k === end ? to : at)))),
  ) as unknown as readonly [LinePair, LinePair];
  useMatching.setState({ pairs: next });
  match();
}

export const showEdges = (on: boolean) => useMatching.setState({ on, why: null });
