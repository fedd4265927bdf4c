/**
 * A letter of the chart, unfolded: its front, and its bevel, side and back bevel as rings round it, each place as the
 * camera sees it in the present light; what is turned away is hatched. Its places are those of the letter in the picture.
 */
import { useEffect, useMemo, useRef, useState } from 'react';
import { ZONE_NAMES, ZONES } from '@wemlox/core/document';
import type { Unfolded, UnfoldView } from '@wemlox/core/scene/unfolded';
import { useCellPicture, want } from '../engine/cells.ts';
import { engine } from '../engine/engine.ts';
import { useChoice, useHover, type ChosenFace } from '../state/choice.ts';
import { useShown } from '../state/shown.ts';
import type { BandLetter } from '../workers/messages.ts';
import { useSeen } from './CellPicture.tsx';
import { viewBoxOf } from './glyph.ts';

/** Places of a picture that show nothing. */
const NOTHING = 0xff;
/** Pixels of the picture for one of the page. */
const DETAIL = 1.5;
/** Widths of the rings in all, a share of the room, and pixels at most; how they share it. */
const RINGS_SHARE = 0.17;
const RINGS_MOST = 24;
const RINGS = [0.42, 0.38, 0.2] as const;
/** Hatching of what is turned away: every so many pixels, and how strong. */
const HATCH = 6;
const HATCHED = { stripe: 90, between: 40 };
/** What is left of the light of faces that stand back. */
const DIMMED = 0.2;
/** Half a hovered place's mark, pixels. */
const MARK = 3;

/** One scale and one baseline for all letters; lengths in the outlines' unit. */
export interface LetterScale {
  unit: number;
  bottom: number;
  /** Width of all rings together, pixels. */
  rings: number;
}

export function letterScale(letters: readonly BandLetter[], width: number, height: number): LetterScale {
  let [top, bottom, widest] = [-Infinity, Infinity, 1];
  for (const { outline } of letters) {
    if (outline.length === 0) continue;
    const [, y, w, h] = viewBoxOf(outline);
    top = Math.max(top, -y);
    bottom = Math.min(bottom, -y - h);
    widest = Math.max(widest, w);
  }
  if (!(top > bottom)) [top, bottom] = [1, 0];
  const rings = Math.min(RINGS_MOST, RINGS_SHARE * Math.min(width, height));
  const unit = Math.max(
    (top - bottom) / Math.max(1, height - 2 * rings),
    widest / Math.max(1, width - 2 * rings),
  );
  // what is left of the height is shared above and below
  const spare = (height * unit - (top - bottom)) / 2;
  return { unit, bottom: bottom - spare, rings };
}

/** The letter unfolded anew whenever the type or the room changes; the last one until then. */
function useUnfolded({ block, letter }: BandLetter, view: UnfoldView | null): Unfolded | null {
  const geometry = useShown((v) => v.geometry);
  const [made, setMade] = useState<Unfolded | null>(null);
  useEffect(() => {
    const asked = engine();
    if (!view || geometry === 0 || !asked) return;
    let current = true;
    asked.ask({ ask: 'unfold', block, letter, view }).then(
      (answer) => current && setMade(answer),
      () => undefined,
    );
    return () => {
      current = false;
    };
  }, [geometry, block, letter, view]);
  return made;
}

/** The picture over the hatching of what is turned away. */
function drawn(picture: ImageData | null, { width, height, zones }: Unfolded, dim: string): ImageData {
  const out = new ImageData(width, height);
  const back = new Set(dim.split(' ').map((zone) => (ZONES as readonly string[]).indexOf(zone)));
  const fits = picture?.width === width && picture.height === height;
  for (let i = 0; i < zones.length; i++) {
    if (zones[i] === NOTHING) continue;
    const x = i % width;
    const y = (i - x) / width;
    const grey = (x + y) % HATCH < 1.5 ? HATCHED.stripe : HATCHED.between;
    const cover = fits ? picture.data[i * 4 + 3] / 255 : 0;
    const light = back.has(zones[i]) ? DIMMED : 1;
    for (let c = 0; c < 3; c++)
      out.data[i * 4 + c] = light * (cover * (fits ? picture.data[i * 4 + c] : 0) + (1 - cover) * grey);
    out.data[i * 4 + 3] = 255;
  }
  return out;
}

/** Pixel whose place on the letter is nearest to a point; null when none is near. */
function nearest(
  { zones, surface, width }: Unfolded,
  zone: number,
  point: readonly number[],
): [number, number] | null {
  let [best, at] = [Infinity, -1];
  for (let i = 0; i < zones.length; i++) {
    if (zones[i] !== zone) continue;
    const d =
      (surface[i * 6] - point[0]!) ** 2 +
      (surface[i * 6 + 1] - point[1]!) ** 2 +
      (surface[i * 6 + 2] - point[2]!) ** 2;
    if (d < best) [best, at] = [d, i];
  }
  return at < 0 ? null : [at % width, Math.floor(at / width)];
}

export function UnfoldedLetter({
  letter,
  width,
  height,
  scale,
  chosen,
  dim,
  onPress,
}: {
  letter: BandLetter;
  width: number;
  height: number;
  scale: LetterScale;
  chosen: boolean;
  /** Zones that stand back, one after the other. */
  dim: string;
  onPress: (face: ChosenFace, x: number, y: number) => void;
}) {
  const { block, letter: id } = letter;
  const key = `unfolded/${block}/${id}`;
  const [box, seen] = useSeen<HTMLDivElement>();
  const canvas = useRef<HTMLCanvasElement>(null);
  const view = useMemo((): UnfoldView | null => {
    if (width < 8 || height < 8) return null;
    const [x, , w] = viewBoxOf(letter.outline);
    return {
      width: Math.round(width * DETAIL),
      height: Math.round(height * DETAIL),
      unit: scale.unit / DETAIL,
      middle: x + w / 2,
      bottom: scale.bottom,
      rings: RINGS.map((share) => share * scale.rings * DETAIL) as unknown as UnfoldView['rings'],
    };
  }, [letter, width, height, scale]);
  const unfolded = useUnfolded(letter, seen ? view : null);
  const picture = useCellPicture(key);
  useEffect(() => {
    if (!seen || !unfolded) return;
    const { width, height } = unfolded;
    return want({ key, block, letter: id, finish: null, width, height, unfolded });
  }, [key, block, id, seen, unfolded]);
  useEffect(() => {
    if (!unfolded || !canvas.current) return;
    Object.assign(canvas.current, { width: unfolded.width, height: unfolded.height });
    canvas.current.getContext('2d')!.putImageData(drawn(picture, unfolded, dim), 0, 0);
  }, [picture, unfolded, dim]);

  const pixelAt = (clientX: number, clientY: number) => {
    if (!unfolded || !canvas.current) return null;
    const { left, top, width, height } = canvas.current.getBoundingClientRect();
    const x = Math.floor(((clientX - left) / width) * unfolded.width);
    const y = Math.floor(((clientY - top) / height) * unfolded.height);
    if (x < 0 || y < 0 || x >= unfolded.width || y >= unfolded.height) return null;
    const i = y * unfolded.width + x;
    const zone = ZONES[unfolded.zones[i]!];
    return zone ? { zone, point: [...unfolded.surface.subarray(i * 6, i * 6 + 3)] } : null;
  };
  // what is dropped or painted finds its face by the element under the pointer
  useEffect(() => {
    const element = box.current;
    const follow = (event: PointerEvent) => {
      if (!element) return;
      const at = pixelAt(event.clientX, event.clientY);
      const face = at && `${block}/${id}/${at.zone}`;
      if (face) {
        element.dataset.cell = face;
        element.dataset.drop = face;
      } else {
        delete element.dataset.cell;
        delete element.dataset.drop;
      }
    };
    window.addEventListener('pointermove', follow, true);
    return () => window.removeEventListener('pointermove', follow, true);
  });
  const mark = useHover((h) => (h.face?.block === block && h.face.letter === id ? h.point : null));
  const hovered = useHover((h) => (h.face?.block === block && h.face.letter === id ? h.face.zone : null));
  const at = mark && hovered && unfolded ? nearest(unfolded, ZONES.indexOf(hovered), mark) : null;
  const zone = useChoice((c) => (chosen ? c.face?.zone : null));
  return (
    <div
      ref={box}
      className="absolute inset-x-0 top-0 cursor-pointer"
      style={{ height }}
      title={hovered ? `${ZONE_NAMES[hovered]} of ${letter.text}` : letter.text}
      onPointerMove={(e) => {
        const here = pixelAt(e.clientX, e.clientY);
        useHover.setState(
          here
            ? { face: { block, letter: id, zone: here.zone }, point: here.point }
            : { face: null, point: null },
        );
      }}
      onPointerLeave={() => useHover.setState({ face: null, point: null })}
      onPointerDown={(e) => {
        const here = pixelAt(e.clientX, e.clientY);
        if (e.button === 0 && here) onPress({ block, letter: id, zone: here.zone }, e.clientX, e.clientY);
      }}
    >
      <canvas
        ref={canvas}
        role="img"
        aria-label={`${letter.text} unfolded${zone ? `, ${ZONE_NAMES[zone]} chosen` : ''}`}
        data-testid="unfolded"
        data-traced={picture && unfolded ? 'yes' : 'no'}
        className="h-full w-full"
        width={1}
        height={1}
      />
      {at && unfolded && (
        <span
          className="pointer-events-none absolute rounded-full border border-primary bg-base-100"
          data-testid="unfolded-mark"
          style={{
            width: 2 * MARK,
            height: 2 * MARK,
            left: `calc(${((at[0] + 0.5) / unfolded.width) * 100}% - ${MARK}px)`,
            top: `calc(${((at[1] + 0.5) / unfolded.height) * 100}% - ${MARK}px)`,
          }}
        />
      )}
    </div>
  );
}
