/**
 * Fine fibres over a surface as a bent cosine lobe: fits of Zeltner, Burley & Chiang's table ("Practical
 * Multiple-Scattering Sheen Using Linearly Transformed Cosines", 2022) as MaterialX 1.39 gives them for OpenPBR.
 */
import { exp } from '../maths/reproducible.ts';

/** Smoothest fuzz: below it the fits leave their ground. */
const SMOOTHEST = 0.01;

/**
 * The lobe for one view.
 * @param cosine of the view with the normal, 0 … 1
 * @param roughness 0 … 1
 * @returns share it reflects, and the numbers of the map that straightens it: x → along·x + lean·z, y → along·y
 */
export function fuzzAt(cosine: number, roughness: number): { reflects: number; along: number; lean: number } {
  const x = Math.min(1, Math.max(1e-3, cosine));
  const y = Math.min(1, Math.max(SMOOTHEST, roughness));
  const s = (y * (0.0206607 + 1.58491 * y)) / (0.0379424 + y * (1.32227 + y));
  const m = (y * (-0.193854 + y * (-1.14885 + y * (1.7932 - 0.95943 * y * y)))) / (0.046391 + y);
  const o = (y * (0.000654023 + (-0.0207818 + 0.119681 * y) * y)) / (1.26264 + y * (-1.92021 + y));
  const t = (x - m) / s;
  const reflects = exp(-0.5 * t * t) / (s * Math.sqrt(2 * Math.PI)) + o;
  const along = ((2.58126 * x + 0.813703 * y) * y) / (1 + 0.310327 * x * x + 2.60994 * x * y);
  const lean =
    (Math.sqrt(1 - x) * (y - 1) * y * y * y) /
    (0.0000254053 + 1.71228 * x - 1.71506 * x * y + 1.34174 * y * y);
  return { reflects: Math.min(1, Math.max(0, reflects)), along: Math.max(1e-3, along), lean };
}
