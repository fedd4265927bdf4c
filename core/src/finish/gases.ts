/**
 * Gases that glow in tubes: their lines of the visible spectrum, and the colour these come to.
 * Wavelengths and relative intensities of the strong lines of the neutral atoms: Sansonetti & Martin, "Handbook of Basic
 * Atomic Spectroscopic Data", J. Phys. Chem. Ref. Data 34, 1559 (2005); the intensities are estimates, to one or two
 * figures, of discharges at low pressure. Of argon beside mercury only mercury's lines show.
 */
import type { Gas } from '../document/index.ts';
import { colourMatching, luminance, xyzToRec709 } from '../maths/colour.ts';

/** Wavelength in nanometres in air, and relative intensity. */
type Line = readonly [number, number];

const NEON: readonly Line[] = [
  [540.06, 200],
  [585.25, 2000],
  [588.19, 1000],
  [594.48, 500],
  [597.55, 600],
  [603.0, 1000],
  [607.43, 1000],
  [609.62, 300],
  [614.31, 1000],
  [616.36, 1000],
  [621.73, 1000],
  [626.65, 1000],
  [633.44, 1000],
  [638.3, 1000],
  [640.22, 2000],
  [650.65, 1500],
  [659.9, 1000],
  [667.83, 500],
];
const MERCURY: readonly Line[] = [
  [404.66, 1800],
  [435.83, 4000],
  [546.07, 1100],
  [576.96, 240],
  [579.07, 280],
];
const HELIUM: readonly Line[] = [
  [402.62, 50],
  [447.15, 200],
  [471.31, 30],
  [492.19, 20],
  [501.57, 100],
  [587.56, 500],
  [667.82, 100],
  [706.52, 200],
];
const ARGON: readonly Line[] = [
  [415.86, 400],
  [419.83, 200],
  [420.07, 400],
  [425.94, 200],
  [427.22, 150],
  [430.01, 100],
  [433.36, 100],
  [451.07, 100],
  [549.59, 50],
  [603.21, 70],
  [641.63, 70],
  [675.28, 150],
  [687.13, 150],
  [696.54, 10000],
  [706.72, 10000],
];
const KRYPTON: readonly Line[] = [
  [427.4, 1000],
  [431.96, 1000],
  [436.26, 500],
  [437.61, 800],
  [446.37, 800],
  [450.24, 600],
  [557.03, 2000],
  [587.09, 3000],
  [645.63, 200],
];
const XENON: readonly Line[] = [
  [450.1, 500],
  [462.43, 1000],
  [467.12, 2000],
  [473.42, 600],
  [480.7, 500],
  [482.97, 400],
  [491.65, 500],
  [492.32, 500],
  [618.24, 300],
  [631.81, 500],
  [688.22, 300],
];

const LINES: Record<Exclude<Gas, 'none'>, readonly Line[]> = {
  neon: NEON,
  mercury: MERCURY,
  helium: HELIUM,
  argon: ARGON,
  krypton: KRYPTON,
  xenon: XENON,
};

/** CIE 1931 XYZ of a gas, scaled to Y = 1. */
export function gasXyz(gas: Exclude<Gas, 'none'>): [number, number, number] {
  const sum: [number, number, number] = [0, 0, 0];
  for (const [nm, intensity] of LINES[gas]) colourMatching(nm).forEach((v, i) => (sum[i] += v * intensity));
  return sum.map((v) => v / sum[1]) as [number, number, number];
}

/**
 * Colour of a gas, or of two mixed, linear Rec.709 of luminance 1; what lies outside Rec.709 is clipped to it.
 * @param share of the light that is the second's
 */
export function gasColour(gas: Exclude<Gas, 'none'>, second: Gas, share: number): [number, number, number] {
  const first = gasXyz(gas);
  const other = second === 'none' ? first : gasXyz(second);
  const [x, y, z] = first.map((v, i) => v + (other[i] - v) * share);
  const rgb = xyzToRec709(x, y, z).map((v) => Math.max(0, v));
  const scale = 1 / luminance(rgb[0], rgb[1], rgb[2]);
  return rgb.map((v) => v * scale) as [number, number, number];
}
