/** Black shapes on transparent or white pictures to smooth outlines. */
import { contours as contoursOf } from 'd3-contour';
import fitCurve from 'fit-curve';
import { decode as decodeJpeg } from 'jpeg-js';
import { BITMAP, inWords } from '../ceilings.ts';
import { atan2 } from '../maths/reproducible.ts';
import { flattened, type PathCommand } from '../plane/flatten.ts';
import { readPng } from '../picture/png.ts';
import { DrawingError, type Painted } from './painted.ts';
import { merged, signedArea } from '../plane/region.ts';

/** Darkness at which the outline runs. */
const EDGE = 0.5;
/** Shapes with less area are specks, square pixels. */
const SPECK = 12;
/** Points looked at on each side for a corner, and the turn that makes one. */
const CORNER_REACH = 4;
const CORNER = (50 * Math.PI) / 180;
/** Squared distance of the fitted curve from the traced points, square pixels. */
const FIT = 0.3;

interface Darkness {
  width: number;
  height: number;
  /** 0 where there is nothing, 1 where it is black. */
  values: Float64Array;
}

interface Pixels {
  width: number;
  height: number;
  /** Writes red, green, blue and alpha of pixel i, 0 … 1. */
  read: (i: number, to: Float64Array) => void;
}

function jpegPixels(bytes: Uint8Array): Pixels {
  const { width, height, data } = decodeJpeg(bytes, {
    useTArray: true,
    maxResolutionInMP: BITMAP.pixels / 1e6,
    maxMemoryUsageInMB: 1024,
  });
  const read = (i: number, to: Float64Array) => {
    for (let c = 0; c < 3; c++) to[c] = data[i * 4 + c] / 255;
    to[3] = 1;
  };
  return { width, height, read };
}

function pngPixels(bytes: Uint8Array): Pixels {
  const head = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length > 24 && head.getUint32(16) * head.getUint32(20) > BITMAP.pixels)
    throw new DrawingError(`the picture has more than ${BITMAP.pixels / 1e6} million pixels`);
  const { width, height, channels, colours, data, full } = readPng(bytes);
  const read = (i: number, to: Float64Array) => {
    for (let c = 0; c < 3; c++) to[c] = data[i * channels + (colours === 1 ? 0 : c)] / full;
    to[3] = channels === colours ? 1 : data[i * channels + colours] / full;
  };
  return { width, height, read };
}

/** How dark each pixel is, averaged down to a size that can be traced. */
function darknessOf(bytes: Uint8Array): Darkness {
  if (bytes.length > BITMAP.bytes)
    throw new DrawingError(`the picture is larger than ${inWords(BITMAP.bytes)}`);
  let pixels: Pixels;
  try {
    pixels = (bytes[0] === 0xff && bytes[1] === 0xd8 ? jpegPixels : pngPixels)(bytes);
  } catch (error) {
    if (error instanceof DrawingError) throw error;
    throw new DrawingError('the picture cannot be read; PNG and JPEG are');
  }
  const step = Math.max(1, Math.ceil(Math.max(pixels.width, pixels.height) / BITMAP.width));
  const width = Math.floor(pixels.width / step);
  const height = Math.floor(pixels.height / step);
  const values = new Float64Array(width * height);
  let opaque = true;
  let dark = 0;
  const alpha = new Float64Array(width * height);
  const rgba = new Float64Array(4);
  const share = 1 / (step * step);
  for (let y = 0; y < height * step; y++) {
    const row = Math.floor(y / step) * width;
    for (let x = 0; x < width * step; x++) {
      pixels.read(y * pixels.width + x, rgba);
      const at = row + Math.floor(x / step);
      const value = rgba[3] * (1 - (0.2126 * rgba[0] + 0.7152 * rgba[1] + 0.0722 * rgba[2])) * share;
      values[at] += value;
      alpha[at] += rgba[3] * share;
      dark += value;
      if (rgba[3] < 0.5) opaque = false;
    }
  }
  // light shapes on nothing: their cover is what counts
  const light = !opaque && dark < 0.05 * alpha.reduce((sum, a) => sum + a, 0);
  return { width, height, values: light ? alpha : values };
}

/** Pixels at which the outlines pass from dark to light along a row or column. */
function outlinePixels({ width, height, values }: Darkness): number {
  let count = 0;
  for (let y = 0; y < height; y++)
    for (let x = 0, i = y * width; x < width; x++, i++) {
      const inside = values[i] >= EDGE;
      if (x > 0 && inside !== values[i - 1] >= EDGE) count++;
      if (y > 0 && inside !== values[i - width] >= EDGE) count++;
    }
  return count;
}

/** A ring as curves between its corners. */
function smooth(ring: [number, number][]): PathCommand[] {
  const n = ring.length;
  const turnAt = (i: number) => {
    const [a, p, b] = [ring[(i + n - CORNER_REACH) % n], ring[i], ring[(i + CORNER_REACH) % n]];
    const [ux, uy, vx, vy] = [p[0] - a[0], p[1] - a[1], b[0] - p[0], b[1] - p[1]];
    return Math.abs(atan2(ux * vy - uy * vx, ux * vx + uy * vy));
  };
  const turns = ring.map((_, i) => turnAt(i));
  const corners = turns.flatMap((t, i) => {
    if (t < CORNER) return [];
    for (let k = 1; k <= CORNER_REACH; k++) {
      if (turns[(i + k) % n] > t || turns[(i + n - k) % n] >= t) return [];
    }
    return [i];
  });
  // a ring without corners is cut in three, with neighbours' tangents alike at the cuts
  const cuts = corners.length > 0 ? corners : [0, Math.floor(n / 3), Math.floor((2 * n) / 3)];
  const out: PathCommand[] = [{ type: 'M', values: ring[cuts[0]] }];
  cuts.forEach((from, k) => {
    const to = cuts[(k + 1) % cuts.length];
    const count = (to - from + n) % n || n;
    const points = Array.from({ length: count + 1 }, (_, i): [number, number] => [...ring[(from + i) % n]]);
    for (const [, b, c, d] of fitCurve(points, FIT)) out.push({ type: 'C', values: [...b, ...c, ...d] });
  });
  out.push({ type: 'Z', values: [] });
  return out;
}

/**
 * The dark shapes of a PNG or JPEG picture, y up, in pixels.
 * @param fineness chords per height of the picture
 * @throws DrawingError
 */
export function tracedBitmap(bytes: Uint8Array, fineness: number): { painted: Painted[]; leftOut: string[] } {
  const darkness = darknessOf(bytes);
  const { width, height, values } = darkness;
  if (outlinePixels(darkness) > BITMAP.outline)
    throw new DrawingError(
      `the picture is too noisy: its outlines run through more than ${BITMAP.outline} pixels`,
    );
  // a frame of nothing closes shapes that run off the picture
  const framed = new Float64Array((width + 2) * (height + 2));
  for (let y = 0; y < height; y++) {
    framed.set(values.subarray(y * width, (y + 1) * width), (y + 1) * (width + 2) + 1);
  }
  const [shape] = contoursOf()
    .size([width + 2, height + 2])
    .smooth(true)
    .thresholds([EDGE])([...framed]);
  let specks = 0;
  let rings = 0;
  const commands = shape.coordinates.flat().flatMap((closed) => {
    const ring = closed.slice(0, -1).map(([x, y]): [number, number] => [x, height + 2 - y]);
    if (Math.abs(signedArea(Float64Array.from(ring.flat()))) < SPECK) {
      specks++;
      return [];
    }
    if (++rings > BITMAP.rings)
      throw new DrawingError(`the picture has more than ${BITMAP.rings} shapes and holes`);
    return smooth(ring);
  });
  const region = merged(flattened(commands, 1, height / fineness), 'evenodd');
  return {
    painted: region.length > 0 ? [{ name: '', region, paint: 'black', lines: null }] : [],
    leftOut: specks > 0 ? [`${specks} specks smaller than ${SPECK} square pixels`] : [],
  };
}
