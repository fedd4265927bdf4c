/** A surround looked at by itself: at any exposure, with what is clipped marked, and read off in stops. */
import { displayed } from '@wemlox/core/picture/tone';
import { luminance } from '@wemlox/core/maths/colour';
import { positionOf, type SurroundPicture } from '@wemlox/core/light/surround';

export interface Inspection {
  /** Exposure it is looked at with. */
  stops: number;
  /** Whether what is brighter than the screen is marked. */
  clips: boolean;
}

/** Marks of what the screen cannot show. */
const CLIPPED = [214, 92, 60];
/** Work between two looks at the hands, ms. */
const SLICE = 12;

/** The pixel of a picture in a direction. */
const pixelAt = ({ width, height }: SurroundPicture, [x, y, z]: readonly number[]): number => {
  const [u, v] = positionOf(x, Math.min(1, Math.max(-1, y)), z);
  const column = Math.min(width - 1, Math.floor(u * width));
  return (Math.min(height - 1, Math.floor(v * height)) * width + column) * 3;
};

/** Luminance of a picture in a direction, nits, and stops above one nit. */
export function readOff(
  picture: SurroundPicture,
  direction: readonly number[],
): { nits: number; stops: number } {
  const at = pixelAt(picture, direction);
  const nits = luminance(picture.data[at], picture.data[at + 1], picture.data[at + 2]);
  return { nits, stops: Math.log2(Math.max(nits, 1e-9)) };
}

/** One row of a view of a picture, as it is shown. @param direction in the picture, of a pixel of the view */
export function rowOf(
  picture: SurroundPicture,
  { stops, clips }: Inspection,
  width: number,
  y: number,
  direction: (x: number, y: number) => readonly number[],
): Uint8ClampedArray<ArrayBuffer> {
  const out = new Uint8ClampedArray(width * 4);
  const gain = 2 ** stops;
  for (let x = 0; x < width; x++) {
    const at = pixelAt(picture, direction(x, y));
    const rgb = [picture.data[at], picture.data[at + 1], picture.data[at + 2]];
    // hatched, so that its place is seen whatever its colour
    const clipped = clips && Math.max(...rgb) * gain > 1 && (x + y) % 4 < 2;
    const shown = clipped ? CLIPPED : displayed(rgb, { exposure: stops, view: 'plain' }).map((v) => v * 255);
    out.set([...shown, 255], x * 4);
  }
  return out;
}

/** Draws a view row by row without holding up the hands. @returns what stops it */
export function drawInRows(
  canvas: HTMLCanvasElement,
  width: number,
  height: number,
  row: (y: number) => Uint8ClampedArray<ArrayBuffer>,
): () => void {
  if (canvas.width !== width || canvas.height !== height) Object.assign(canvas, { width, height });
  const context = canvas.getContext('2d')!;
  let y = 0;
  let due: ReturnType<typeof setTimeout> | undefined;
  const slice = () => {
    const until = performance.now() + SLICE;
    while (y < height && performance.now() < until) {
      context.putImageData(new ImageData(row(y), width, 1), 0, y);
      y++;
    }
    if (y < height) due = setTimeout(slice);
  };
  slice();
  return () => clearTimeout(due);
}
