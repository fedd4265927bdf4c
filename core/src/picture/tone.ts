/** Scene-linear picture to display: exposure, view transform, sRGB. The draft view uses the same formulas. */
import type { Grade } from '../document/index.ts';
import { encodeSrgb } from '../maths/colour.ts';

/**
 * Soft shoulder: the Khronos PBR Neutral tone mapper (KHR specification, 2024), which leaves colours below
 * 0.8 as they are (save a small toe) and rolls brighter ones off towards white.
 */
const SHOULDER = 0.8 - 0.04;
const DESATURATION = 0.15;

/** Applies the soft shoulder in place to r g b at `at`. */
export function softShoulder(rgb: Float32Array | Float64Array | number[], at = 0): void {
  let [r, g, b] = [rgb[at], rgb[at + 1], rgb[at + 2]];
  const least = Math.min(r, g, b);
  const toe = least < 0.08 ? least - 6.25 * least * least : 0.04;
  r -= toe;
  g -= toe;
  b -= toe;
  const peak = Math.max(r, g, b);
  if (peak >= SHOULDER) {
    const d = 1 - SHOULDER;
    const rolled = 1 - (d * d) / (peak + d - SHOULDER);
    const scale = rolled / peak;
    const keep = 1 / (DESATURATION * (peak - rolled) + 1);
    r = r * scale * keep + rolled * (1 - keep);
    g = g * scale * keep + rolled * (1 - keep);
    b = b * scale * keep + rolled * (1 - keep);
  }
  rgb[at] = r;
  rgb[at + 1] = g;
  rgb[at + 2] = b;
}

/** What of a grade each pixel is shown by on its own. */
export type Tone = Pick<Grade, 'exposure' | 'view'> & Partial<Pick<Grade, 'backdrop' | 'backdrop_colour'>>;

/** What stands behind where a picture is open, linear on the display; null for nothing. */
export function backdropOf({ backdrop, backdrop_colour }: Tone): readonly number[] | null {
  if (backdrop === 'black') return [0, 0, 0];
  return backdrop === 'colour' ? (backdrop_colour ?? [0, 0, 0]) : null;
}

const STEPS = 4096;
const ENCODED = Float32Array.from({ length: STEPS + 2 }, (_, i) => encodeSrgb(Math.min(1, i / STEPS)));

/** sRGB by a table with linear interpolation, within 2e-4 of the exact curve above 1e-3. */
function encoded(v: number): number {
  if (!(v > 0)) return 0;
  if (v < 0.004) return encodeSrgb(v);
  if (v >= 1) return 1;
  const x = v * STEPS;
  const i = x | 0;
  return ENCODED[i] + (ENCODED[i + 1] - ENCODED[i]) * (x - i);
}

/** Display values 0 … 1 (sRGB-encoded) of one scene-linear colour. */
export function displayed(rgb: readonly number[], grade: Tone): [number, number, number] {
  const gain = 2 ** grade.exposure;
  const out = [rgb[0] * gain, rgb[1] * gain, rgb[2] * gain];
  if (grade.view === 'soft') softShoulder(out);
  return [encoded(out[0]), encoded(out[1]), encoded(out[2])];
}

/** Fills `out` with values 0 … top; integer arrays truncate, so `round` is ½ for them and 0 for clamped ones. */
function toned<T extends Uint8ClampedArray | Uint16Array>(
  linear: Float32Array,
  grade: Tone,
  out: T,
  top: number,
  round: number,
): T {
  const gain = 2 ** grade.exposure;
  const soft = grade.view === 'soft';
  const rgb = new Float64Array(3);
  const behind = backdropOf(grade);
  for (let i = 0; i < linear.length; i += 4) {
    const alpha = linear[i + 3];
    // associated alpha: the display wants straight colour
    const scale = alpha > 0 && alpha < 1 ? gain / alpha : gain;
    rgb[0] = linear[i] * scale;
    rgb[1] = linear[i + 1] * scale;
    rgb[2] = linear[i + 2] * scale;
    if (soft) softShoulder(rgb);
    if (behind && alpha < 1) {
      // laid together as light, on the display
      const cover = Math.max(0, alpha);
      for (let c = 0; c < 3; c++) rgb[c] = Math.min(1, Math.max(0, rgb[c])) * cover + behind[c] * (1 - cover);
    }
    out[i] = encoded(rgb[0]) * top + round;
    out[i + 1] = encoded(rgb[1]) * top + round;
    out[i + 2] = encoded(rgb[2]) * top + round;
    out[i + 3] = (behind ? 1 : Math.min(1, Math.max(0, alpha))) * top + round;
  }
  return out;
}

/** Eight-bit sRGB with straight alpha of a linear picture (r g b a, alpha-associated). */
export function toneMapped8(linear: Float32Array, grade: Tone): Uint8ClampedArray<ArrayBuffer> {
  return toned(linear, grade, new Uint8ClampedArray(linear.length), 255, 0);
}

/** Sixteen-bit sRGB with straight alpha. */
export function toneMapped16(linear: Float32Array, grade: Tone): Uint16Array<ArrayBuffer> {
  return toned(linear, grade, new Uint16Array(linear.length), 65535, 0.5);
}

/** Lays an eight-bit picture with straight alpha over one opaque grey (0 … 255). */
export function overGrey(picture: Uint8ClampedArray, grey: number): void {
  for (let i = 0; i < picture.length; i += 4) {
    const a = picture[i + 3] / 255;
    for (let c = 0; c < 3; c++) picture[i + c] = picture[i + c] * a + grey * (1 - a);
    picture[i + 3] = 255;
  }
}
