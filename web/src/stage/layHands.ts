/** Laying a picture by hand: what a drag or the wheel over a letter does to how it lies. */
import { wordsOf, wornOf, type Feed, type Project } from '@wemlox/core/document';
import { codingOf } from '@wemlox/core/finish/recipe';
import type { Vec } from '@wemlox/core/light/placing';
import { textureKey } from '@wemlox/core/texture/texture';
import { layPicture } from '../actions/coats.ts';
import { usePlacing, usePreviews, type Placing } from '../state/pictures.ts';
import type { Draft } from '../engine/draft.ts';
import { shotOf, useStudio } from '../state/studio.ts';
import { inPlane } from './projection.ts';

const RADIANS_PER_PIXEL = 0.006;
const SIZED = 0.0012;

function feedOf(project: Project, { finish, coat, feed }: Placing): Feed | undefined {
  const of = project.finishes.find((f) => f.id === finish);
  return wornOf(of, coat)?.feeds.find((f) => f.id === feed);
}

/** Width of the picture on the letter, metres, and its width by its height; null while it is not known. */
function extentOf(feed: Feed, draft: Draft, block: string, letter: string): [number, number] | null {
  const preview = usePreviews.getState().known[textureKey(feed.picture, codingOf(feed))];
  if (!preview) return null;
  const aspect = preview.width / preview.height;
  if (feed.lay === 'tiles') return [feed.tile * feed.zoom, aspect];
  const box =
    feed.lay === 'word'
      ? wordBox(draft, block, letter)
      : draft.boxOf(block, feed.lay === 'letter' ? letter : null);
  if (!box) return null;
  const across = Math.hypot(box.max[0] - box.min[0], box.max[2] - box.min[2]);
  return [Math.max(across, (box.max[1] - box.min[1]) * aspect) * feed.zoom, aspect];
}

/** Box of all letters of a letter's word. */
function wordBox(draft: Draft, block: string, letter: string): ReturnType<Draft['boxOf']> {
  const of = useStudio.getState().seen.blocks.find((b) => b.id === block);
  if (!of) return null;
  const words = wordsOf(of);
  const boxes = of.letters
    .filter((l) => words.get(l) === words.get(letter))
    .flatMap((l) => draft.boxOf(block, l) ?? []);
  if (boxes.length === 0) return null;
  return {
    min: boxes[0].min.map((_, k) => Math.min(...boxes.map((b) => b.min[k]))) as Vec,
    max: boxes[0].max.map((_, k) => Math.max(...boxes.map((b) => b.max[k]))) as Vec,
  };
}

/** A letter held by its picture. */
export interface HeldPicture {
  block: string;
  letter: string;
}

/** Moves or turns the picture that is laid by hand. @param from @param to places on the stage, pixels */
export function dragPicture(
  { block, letter }: HeldPicture,
  draft: Draft,
  from: readonly [number, number],
  to: readonly [number, number],
  turning: boolean,
): void {
  const { placing } = usePlacing.getState();
  const { seen: project } = useStudio.getState();
  const feed = placing && feedOf(project, placing);
  if (!placing || !feed) return;
  if (turning) {
    const turned = feed.turn + (to[0] - from[0]) * RADIANS_PER_PIXEL;
    layPicture(placing, feed.id, { turn: turned - Math.round(turned / (2 * Math.PI)) * 2 * Math.PI });
    return;
  }
  const of = project.blocks.find((b) => b.id === block);
  const extent = extentOf(feed, draft, block, letter);
  if (!of || !extent) return;
  const { camera } = shotOf(project);
  const [a, b] = [from, to].map(([x, y]) => inPlane(camera, draft.frame, of, x, y));
  if (!a || !b) return;
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  const [c, s] = [Math.cos(feed.turn), Math.sin(feed.turn)];
  const [width, aspect] = extent;
  layPicture(placing, feed.id, {
    shift_x: feed.shift_x + (dx * c + dy * s) / width,
    shift_y: feed.shift_y + ((dy * c - dx * s) / width) * aspect,
  });
}

/** Sizes the picture that is laid by hand. @returns whether there is one */
export function sizePicture(delta: number): boolean {
  const { placing } = usePlacing.getState();
  const feed = placing && feedOf(useStudio.getState().seen, placing);
  if (!placing || !feed) return false;
  layPicture(placing, feed.id, { zoom: feed.zoom * Math.exp(-delta * SIZED) });
  return true;
}
