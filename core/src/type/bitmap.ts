/** Black shapes on transparent or white pictures to smooth outlines. */
import { contours as contoursOf } from 'd3-contour';
import { decode as decodePng } from 'fast-png';
import fitCurve from 'fit-curve';
import { decode as decodeJpeg } from 'jpeg-js';
import { flattened, type PathCommand } from './flatten.ts';
import { DrawingError, type Painted } from './painted.ts';
import { merged, signedArea } from './region.ts';

/** Widest picture that is traced; larger ones are averaged down, very large ones refused. */
const WIDEST = 2048;
const MOST_PIXELS = 100_000_000;
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

/** Red, green, blue and alpha, 0 … 1. */
function pixelsOf(bytes: Uint8Array): {
  width: number;
  height: number;
  at: (i: number) => [number, number, number, number];
} {
  if (bytes[0] === 0xff && bytes[1] === 0xd8) {
    const { width, height, data } = decodeJpeg(bytes, {
      useTArray: true,
      maxResolutionInMP: MOST_PIXELS / 1e6,
      maxMemoryUsageInMB: 1024,
    });
    return { width, height, at: (i) => [data[i * 4] / 255, data[i * 4 + 1] / 255, data[i * 4 + 2] / 255, 1] };
  }
  const head = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length > 24 && head.getUint32(16) * head.getUint32(20) > MOST_PIXELS) {
    throw new DrawingError('the picture has more than 100 million pixels');
  }
  const png = decodePng(bytes);
  const { width, height, channels, data, depth, palette } = png;
  if (palette) {
    const perByte = 8 / depth;
    const row = Math.ceil(width / perByte);
    return {
      width,
      height,
      at: (i) => {
        const [x, y] = [i % width, Math.floor(i / width)];
        const byte = data[y * row + Math.floor(x / perByte)];
        const index = (byte >> (8 - depth - (x % perByte) * depth)) & (2 ** depth - 1);
        const [r, g, b, a = 255] = palette[index] ?? [255, 255, 255, 255];
        return [r / 255, g / 255, b / 255, a / 255];
      },
    };
  }
  if (depth < 8)
    throw new DrawingError('pictures with less than 8 bits per pixel are read only with a palette');
  const full = 2 ** depth - 1;
  return {
    width,
    height,
    at: (i) => {
      const v = (c: number) => data[i * channels + c] / full;
      if (channels < 3) return [v(0), v(0), v(0), channels === 2 ? v(1) : 1];
      return [v(0), v(1), v(2), channels === 4 ? v(3) : 1];
    },
  };
}

/** How dark each pixel is, averaged down to a size that can be traced. */
function darknessOf(bytes: Uint8Array): Darkness {
  let pixels: ReturnType<typeof pixelsOf>;
  try {
    pixels = pixelsOf(bytes);
  } catch (error) {
    if (error instanceof DrawingError) throw error;
    throw new DrawingError('the picture cannot be read; PNG and JPEG are');
  }
  const step = Math.max(1, Math.ceil(Math.max(pixels.width, pixels.height) / WIDEST));
  const width = Math.floor(pixels.width / step);
  const height = Math.floor(pixels.height / step);
  const values = new Float64Array(width * height);
  let opaque = true;
  let dark = 0;
  const alpha = new Float64Array(width * height);
  for (let y = 0; y < height * step; y++) {
    for (let x = 0; x < width * step; x++) {
      const [r, g, b, a] = pixels.at(y * pixels.width + x);
      const at = Math.floor(y / step) * width + Math.floor(x / step);
      const value = (a * (1 - (0.2126 * r + 0.7152 * g + 0.0722 * b))) / (step * step);
      values[at] += value;
      alpha[at] += a / (step * step);
      dark += value;
      if (a < 0.5) opaque = false;
    }
  }
  // light shapes on nothing: their cover is what counts
  const light = !opaque && dark < 0.05 * alpha.reduce((sum, a) => sum + a, 0);
  return { width, height, values: light ? alpha : values };
}

/** A ring as curves between its corners. */
function smooth(ring: [number, number][]): PathCommand[] {
  const n = ring.length;
  const turnAt = (i: number) => {
    const [a, p, b] = [ring[(i + n - CORNER_REACH) % n], ring[i], ring[(i + CORNER_REACH) % n]];
    const [ux, uy, vx, vy] = [p[0] - a[0], p[1] - a[1], b[0] - p[0], b[1] - p[1]];
    return Math.abs(Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy));
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
  const { width, height, values } = darknessOf(bytes);
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
  const commands = shape.coordinates.flat().flatMap((closed) => {
    const ring = closed.slice(0, -1).map(([x, y]): [number, number] => [x, height + 2 - y]);
    if (Math.abs(signedArea(Float64Array.from(ring.flat()))) < SPECK) {
      specks++;
      return [];
    }
    return smooth(ring);
  });
  const region = merged(flattened(commands, 1, height / fineness), 'evenodd');
  return {
    painted: region.length > 0 ? [{ name: '', region, paint: 'black', lines: null }] : [],
    leftOut: specks > 0 ? [`${specks} specks smaller than ${SPECK} square pixels`] : [],
  };
}
