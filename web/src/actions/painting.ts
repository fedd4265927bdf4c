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

/** Time after which what could not be kept is tried again, ms. */
const RETRY = 5000;

/** A picture that is painted on, and whose it is. */
interface Held {
  sheet: PaintSheet;
  on: Placing;
  project: string;
  /** It differs from what is kept, and it is being kept. */
  changed: boolean;
  keeping: boolean;
}

/** The picture in hand. */
let held: Held | null = null;

function hold(sheet: PaintSheet, on: Placing): void {
  held = { sheet, on, project: useStudio.getState().id, changed: false, keeping: false };
}

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
  const feed = feedsOf(worn).find((f) => f.parameter === parameter);
  if (!feed) return;
  const on = { ...worn, feed: feed.id };
  hold(blank, on);
  setBrush({ radius: BRUSH_SHARE * Math.min(w, h) });
  takeBrush(on);
}

/** Takes the brush in hand for a picture that is there. */
export async function paintOn(worn: WornCoat, feed: Feed): Promise<void> {
  const on = { ...worn, feed: feed.id };
  if (await holdPicture(on, feed)) takeBrush(on);
}

/** Has a feed's picture in hand as it is kept. */
async function holdPicture(on: Placing, { picture: { id } }: Feed): Promise<boolean> {
  if (held?.on.feed === on.feed && held.sheet.hash === id) return true;
  const made = await attempt('This picture cannot be painted on', async () =>
    PaintSheet.of(id, await (await fetch(assetUrl(id))).blob()),
  );
  if (made) hold(made, on);
  return made !== null;
}

/** Follows the document: after a step back or forth the picture in hand is the one it has. */
export function followPicture(feed: Feed): void {
  const { on } = usePainting.getState();
  if (on?.feed === feed.id && !held?.keeping && !held?.changed) void holdPicture(on, feed);
}

/** Paints where a ray met a face. @param takesAway whatever the brush, it paints dark */
export function dabAt(hit: Picked, takesAway: boolean): void {
  const { radius, amount, soft } = usePainting.getState();
  const { scene } = useShown.getState();
  const feed = held && feedOn(held.on);
  if (!held || !scene || !feed) return;
  const { at, width } = inPicture(scene, hit, feed, held.sheet.aspect);
  held.sheet.dab(at, radius / width, { amount: takesAway ? 0 : amount, soft });
  held.changed = true;
}

/** Ends a stroke: what was painted is kept. */
export function endStroke(): void {
  if (!held) return;
  held.sheet.endStroke();
  void keepPainted(held);
}

/** Paints all of it at once. */
export function fillSheet(amount: number): void {
  if (!held) return;
  held.sheet.fill(amount);
  held.changed = true;
  void keepPainted(held);
}

/** Keeps what was painted since, one picture after the other; what could not be kept is tried again. */
async function keepPainted(of: Held): Promise<void> {
  if (of.keeping) return;
  of.keeping = true;
  try {
    while (of.changed) {
      of.changed = false;
      const asset = await kept(of.sheet);
      if (useStudio.getState().id !== of.project) return;
      if (!asset) {
        of.changed = true;
        setTimeout(() => void keepPainted(of), RETRY);
        return;
      }
      if (asset.hash === of.sheet.hash) continue;
      of.sheet.hash = asset.hash;
      feedPicture(of.on, of.on.feed, pictureOf(asset.hash));
    }
  } finally {
    of.keeping = false;
  }
}
