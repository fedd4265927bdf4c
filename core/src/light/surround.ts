/**
 * Environment pictures. Equirectangular, top row first; direction d is at u = atan2(d.z, d.x) / 2π + ½ and
 * v = asin(d.y) / π + ½, v = 1 being the top row. Values are nits in linear Rec.709.
 */
import { asin, atan2, cos, log, sin } from '../maths/reproducible.ts';
import { luminance } from '../maths/colour.ts';

export interface SurroundPicture {
  width: number;
  height: number;
  /** r, g, b for each pixel, row by row from the top. */
  data: Float32Array;
}

/** Direction of a picture position, u and v in 0 … 1 with v counted from the top. */
export function directionAt(u: number, vFromTop: number): [number, number, number] {
  const phi = (u - 0.5) * 2 * Math.PI;
  const theta = (0.5 - vFromTop) * Math.PI;
  const c = cos(theta);
  return [c * cos(phi), sin(theta), c * sin(phi)];
}

/** Picture position of a unit direction: u in 0 … 1 and v counted from the top. */
export function positionOf(x: number, y: number, z: number): [number, number] {
  return [atan2(z, x) / (2 * Math.PI) + 0.5, 0.5 - asin(y) / Math.PI];
}

/** How a surround stands, radians. */
export interface Stance {
  turn: number;
  tilt?: number;
  roll?: number;
}

/**
 * From the world into a surround's picture, row by row. The picture is turned about the upright axis, then tilted about
 * the one to the right, then rolled about the one to the front.
 */
export function intoPicture({ turn, tilt = 0, roll = 0 }: Stance): number[] {
  const [ct, st, ca, sa, cr, sr] = [cos(turn), sin(turn), cos(tilt), sin(tilt), cos(roll), sin(roll)];
  // the transpose of Rz(roll) · Rx(tilt) · Ry(turn)
  return [
    cr * ct - sr * sa * st,
    sr * ct + cr * sa * st,
    -ca * st,
    -sr * ca,
    cr * ca,
    sa,
    cr * st + sr * sa * ct,
    sr * st - cr * sa * ct,
    ca * ct,
  ];
}

/** A world direction as the picture has it, by intoPicture. */
export const inPicture = (
  m: readonly number[],
  x: number,
  y: number,
  z: number,
): [number, number, number] => [
  m[0] * x + m[1] * y + m[2] * z,
  m[3] * x + m[4] * y + m[5] * z,
  m[6] * x + m[7] * y + m[8] * z,
];

/** Where in the world a picture's direction is, by intoPicture. */
export const outOfPicture = (
  m: readonly number[],
  x: number,
  y: number,
  z: number,
): [number, number, number] => [
  m[0] * x + m[3] * y + m[6] * z,
  m[1] * x + m[4] * y + m[7] * z,
  m[2] * x + m[5] * y + m[8] * z,
];

/** What an artist asks about an environment: range in stops, brightest direction, mean luminance. */
export interface SurroundFacts {
  mean: number;
  peak: number;
  peakDirection: [number, number, number];
  /** Stops from the darkest pixel that carries light to the brightest. */
  stops: number;
}

export function surroundFacts(picture: SurroundPicture): SurroundFacts {
  const { width, height, data } = picture;
  let sum = 0;
  let weight = 0;
  let peak = -1;
  let peakAt = 0;
  let darkest = Infinity;
  for (let y = 0; y < height; y++) {
    const w = sin(((y + 0.5) / height) * Math.PI);
    for (let x = 0; x < width; x++) {
      const at = y * width + x;
      const l = luminance(data[at * 3], data[at * 3 + 1], data[at * 3 + 2]);
      sum += l * w;
      weight += w;
      if (l > peak) {
        peak = l;
        peakAt = at;
      }
      if (l > 1e-6 && l < darkest) darkest = l;
    }
  }
  const u = ((peakAt % width) + 0.5) / width;
  const v = (Math.floor(peakAt / width) + 0.5) / height;
  return {
    mean: sum / weight,
    peak,
    peakDirection: directionAt(u, v),
    stops: peak > 0 && darkest < Infinity ? log(peak / darkest) / Math.LN2 : 0,
  };
}

/** Halves a picture's sides until it is at most `widest` wide, averaging. */
export function reduced(picture: SurroundPicture, widest: number): SurroundPicture {
  let { width, height, data } = picture;
  while (width > widest && width % 2 === 0 && height % 2 === 0) {
    const w = width / 2;
    const h = height / 2;
    const out = new Float32Array(w * h * 3);
    for (let y = 0; y < h; y++) {
      for (let x = 0; x < w; x++) {
        const a = (y * 2 * width + x * 2) * 3;
        const b = a + width * 3;
        for (let c = 0; c < 3; c++) {
          out[(y * w + x) * 3 + c] = (data[a + c] + data[a + 3 + c] + data[b + c] + data[b + 3 + c]) / 4;
        }
      }
    }
    width = w;
    height = h;
    data = out;
  }
  return { width, height, data };
}
