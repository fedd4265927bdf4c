/** Colour: CIE observer, Rec.709, sRGB and black bodies. Colours are scene-linear Rec.709 unless said otherwise. */
import { exp } from './reproducible.ts';

function lobe(x: number, mean: number, below: number, above: number): number {
  const t = (x - mean) / (x < mean ? below : above);
  return exp(-0.5 * t * t);
}

/** CIE 1931 colour matching functions, multi-lobe fit by Wyman, Sloan & Shirley (JCGT 2013). */
export function colourMatching(nm: number): [number, number, number] {
  return [
    1.056 * lobe(nm, 599.8, 37.9, 31.0) +
      0.362 * lobe(nm, 442.0, 16.0, 26.7) -
      0.065 * lobe(nm, 501.1, 20.4, 26.2),
    0.821 * lobe(nm, 568.8, 46.9, 40.5) + 0.286 * lobe(nm, 530.9, 16.3, 31.1),
    1.217 * lobe(nm, 437.0, 11.8, 36.0) + 0.681 * lobe(nm, 459.0, 26.0, 13.8),
  ];
}

/** CIE XYZ to linear Rec.709 (ITU-R BT.709 primaries, D65). */
export function xyzToRec709(x: number, y: number, z: number): [number, number, number] {
  return [
    3.2404542 * x - 1.5371385 * y - 0.4985314 * z,
    -0.969266 * x + 1.8760108 * y + 0.041556 * z,
    0.0556434 * x - 0.2040259 * y + 1.0572252 * z,
  ];
}

/** Luminance of linear Rec.709 (ITU-R BT.709). */
export const luminance = (r: number, g: number, b: number) => 0.2126 * r + 0.7152 * g + 0.0722 * b;

/** sRGB transfer function (IEC 61966-2-1), linear to encoded; both 0 … 1. */
export const encodeSrgb = (v: number) => (v <= 0.0031308 ? 12.92 * v : 1.055 * Math.pow(v, 1 / 2.4) - 0.055);

/** sRGB transfer function (IEC 61966-2-1), encoded to linear; both 0 … 1. */
export const decodeSrgb = (v: number) => (v <= 0.04045 ? v / 12.92 : Math.pow((v + 0.055) / 1.055, 2.4));

/** "#rrggbb" to linear Rec.709. */
export function fromHex(hex: string): [number, number, number] {
  const n = parseInt(hex.slice(1), 16);
  return [
    decodeSrgb(((n >> 16) & 255) / 255),
    decodeSrgb(((n >> 8) & 255) / 255),
    decodeSrgb((n & 255) / 255),
  ];
}

/** Linear Rec.709 to "#rrggbb", clipped. */
export function toHex(rgb: readonly number[]): string {
  const byte = (v: number) => Math.round(encodeSrgb(Math.min(1, Math.max(0, v))) * 255);
  return `#${rgb.map((v) => byte(v).toString(16).padStart(2, '0')).join('')}`;
}

/** Second radiation constant, nm·K (CODATA 2018). */
const C2 = 1.438776877e7;

/**
 * Colour of a black body, scaled to luminance 1 (Planck's law through the CIE 1931 observer); components
 * outside Rec.709 are clipped to 0.
 * @param kelvin 1000 … 40000
 */
export function blackBody(kelvin: number): [number, number, number] {
  let [x, y, z] = [0, 0, 0];
  for (let nm = 390; nm <= 720; nm += 5) {
    const power = 1 / (nm ** 5 * (exp(C2 / (nm * kelvin)) - 1));
    const cmf = colourMatching(nm);
    x += power * cmf[0];
    y += power * cmf[1];
    z += power * cmf[2];
  }
  const rgb = xyzToRec709(x / y, 1, z / y).map((v) => Math.max(0, v));
  const scale = 1 / luminance(rgb[0], rgb[1], rgb[2]);
  return rgb.map((v) => v * scale) as [number, number, number];
}
