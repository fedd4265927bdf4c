/** Painting by hand: strokes fall on a picture, which is kept after each of them and feeds the parameter anew. */
import { newId, wornOf, type Feed } from '@wemlox/core/document';
import { paintParameter } from '@wemlox/core/edits';
import { PaintSheet } from '../engine/paintSheet.ts';
import type { Picked } from '../engine/pick.ts';
import { inPicture, sheetOf } from '../engine/sheets.ts';
import { api, assetUrl } from '../state/api.ts';
import { attempt, notify } from '../state/notices.ts';
import { setBrush, takeBrush, usePainting } from '../state/painting.ts';
import type { Placing } from '../state/pictures.ts';
import { sceneShown, useShown } from '../state/shown.ts';
import { perform, useStudio } from '../state/studio.ts';
import { feedPicture, type WornCoat } from './coats.ts';

const NAME = 'Painted by hand';
/** Pixels of the longer and the least shorter side of a picture to paint on. */
const LONGEST = 2048;
const SHORTEST = 8;
/** Room around all that it covers, as a share. */
const ROOM = 1.02;
/** A first brush's radius, as a share of the shorter side of what is painted. */
const BRUSH_SHARE = 0.05;

/** The picture in hand. */
let sheet: PaintSheet | null = null;
/** It differs from what is kept, and it is being kept. */
let changed = false;
let keeping = false;

const feedsOf = ({ finish, coat }: WornCoat): readonly Feed[] =>
  wornOf(
    useStudio.getState().seen.finishes.find((f) => f.id === finish),
    coat,
  )?.feeds ?? [];

const feedOn = (on: Placing) => feedsOf(on).find((f) => f.id === on.feed);

const kept = (of: PaintSheet) =>
  attempt('What was painted is not kept', async () => api.upload('painting', NAME, await of.png()));

const pictureOf = (hash: string) => ({ source: 'asset' as const, id: hash, name: NAME });

/**
 * Feeds a parameter from a picture that is dark all over, and takes the brush in hand.
 * @param block whose letters it is laid over
 */
export async function paintBlank(worn: WornCoat, parameter: string, block: string): Promise<void> {
  const face = sheetOf(await sceneShown(), block);
  if (!face) {
    notify('problem', 'There is nothing to paint on: the block has no letters');
    return;
  }
  const [x, y, w, h] = face;
  const pixels = LONGEST / (Math.max(w, h) * ROOM);
  const [width, height] = [w, h].map((side) => Math.max(SHORTEST, Math.ceil(side * ROOM * pixels)));
  const blank = PaintSheet.blank(width, height);
  const asset = await kept(blank);
  if (!asset) return;
  blank.hash = asset.hash;
  const laid = { tile: width / pixels, shift_x: (x * pixels) / width, shift_y: (y * pixels) / height };
  const { finish, coat } = worn;
  const made = newId();
  if (!perform((p) => paintParameter(p, finish, coat, parameter, made, pictureOf(asset.hash), laid))) return;
  sheet = blank;
  const feed = feedsOf(worn).find((f) => f.parameter === parameter);
  if (!feed) return;
  setBrush({ radius: BRUSH_SHARE * Math.min(w, h) });
  takeBrush({ ...worn, feed: feed.id });
}

/** Takes the brush in hand for a picture that is there. */
export async function paintOn(worn: WornCoat, feed: Feed): Promise<void> {
  if (await holdPicture(feed)) takeBrush({ ...worn, feed: feed.id });
}

/** Has a feed's picture in hand as it is kept: after a step back it is another one. */
async function holdPicture({ picture: { id } }: Feed): Promise<boolean> {
  if (sheet?.hash === id) return true;
  const made = await attempt('This picture cannot be painted on', async () =>
    PaintSheet.of(id, await (await fetch(assetUrl(id))).blob()),
  );
  if (made) sheet = made;
  return made !== null;
}

/** Follows the document: after a step back or forth the picture in hand is the one it has. */
export function followPicture(feed: Feed): void {
  if (!keeping && !changed) void holdPicture(feed);
}

/** Paints where a ray met a face. @param takesAway whatever the brush, it paints dark */
export function dabAt(hit: Picked, takesAway: boolean): void {
  const { on, radius, amount, soft } = usePainting.getState();
  const { scene } = useShown.getState();
  const feed = on && feedOn(on);
  if (!sheet || !scene || !feed) return;
  const { at, width } = inPicture(scene, hit, feed, sheet.aspect);
  sheet.dab(at, radius / width, { amount: takesAway ? 0 : amount, soft });
  changed = true;
}

/** Ends a stroke: what was painted is kept. */
export function endStroke(): void {
  sheet?.endStroke();
  void keepPainted();
}

/** Paints all of it at once. */
export function fillSheet(amount: number): void {
  sheet?.fill(amount);
  changed = sheet !== null;
  void keepPainted();
}

/** Keeps what was painted since, one picture after the other. */
async function keepPainted(): Promise<void> {
  if (keeping) return;
  keeping = true;
  try {
    while (changed && sheet) {
      changed = false;
      const { on } = usePainting.getState();
      const held = sheet;
      const asset = await kept(held);
      if (!asset || !on || asset.hash === held.hash) continue;
      held.hash = asset.hash;
      feedPicture(on, on.feed, pictureOf(asset.hash));
    }
  } finally {
    keeping = false;
  }
}
