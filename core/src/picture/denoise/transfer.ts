/**
 * From linear light to what the network was trained on, and back: a perceptually uniform curve (Aydın, Mantiuk & Seidel,
 * "Extending quality metrics to full luminance range images", 2008), fitted in three pieces by the network's makers.
 */
import { exp, log, pow } from '../../maths/reproducible.ts';

const [A, B, C, D] = [1.41283765e3, 1.64593172, 4.31384981e-1, -2.94139609e-3];
const [E, F, G] = [1.92653254e-1, 6.26026094e-3, 9.98620152e-1];
const [Y0, Y1, X0, X1] = [1.5794576e-6, 3.22087631e-2, 2.23151711e-3, 3.70974749e-1];
/** Brightest light told apart. */
const MOST = 65504;

const curve = (y: number) => (y <= Y0 ? A * y : y <= Y1 ? B * pow(y, C) + D : E * log(y + F) + G);
const SCALE = 1 / curve(MOST);

/** Light (times the exposure) to 0 … 1. */
export const encoded = (light: number) => curve(light > 0 ? Math.min(light, MOST) : 0) * SCALE;

/** Back again. */
export function decoded(value: number): number {
  const x = Math.max(0, value) / SCALE;
  const y = x <= X0 ? x / A : x <= X1 ? pow((x - D) / B, 1 / C) : exp((x - G) / E) - F;
  return Math.max(0, y);
}

/** Middle grey, to which pictures are exposed before they are cleaned. */
const KEY = 0.18;
/** Side of the bins whose mean luminances are averaged, pixels. */
const BIN = 16;
const DARKEST = 1e-8;

/** Exposure of a picture: 0.18 over the geometric mean of its bins' mean luminances; 1 when it is black. */
export function exposureOf(width: number, height: number, luminanceAt: (pixel: number) => number): number {
  let sum = 0;
  let count = 0;
  const [across, down] = [Math.ceil(width / BIN), Math.ceil(height / BIN)];
  for (let by = 0; by < down; by++) {
    for (let bx = 0; bx < across; bx++) {
      const [x0, x1] = [Math.floor((bx * width) / across), Math.floor(((bx + 1) * width) / across)];
      const [y0, y1] = [Math.floor((by * height) / down), Math.floor(((by + 1) * height) / down)];
      let light = 0;
      for (let y = y0; y < y1; y++) for (let x = x0; x < x1; x++) light += luminanceAt(y * width + x);
      light /= (x1 - x0) * (y1 - y0);
      if (light > DARKEST) {
        sum += log(light) / Math.LN2;
        count++;
      }
    }
  }
  return count > 0 ? KEY / pow(2, sum / count) : 1;
}
