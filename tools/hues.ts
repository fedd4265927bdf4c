// Prints the knots of core/kernel/assembly/spectrum.ts: node --import tsx tools/hues.ts
// What each channel has of a wavelength, over an even spectrum (CIE 1931 through Rec.709), without light below zero: what
// is above it, tilted so that glass bends each channel by as much in the mean as with what is below.
import { colourMatching, xyzToRec709 } from '../core/src/maths/colour.ts';

const [SHORTEST, LONGEST, INTERVALS] = [390, 700, 32];
const STEPS = 3100;
const wavelengths = Array.from(
  { length: STEPS + 1 },
  (_, i) => SHORTEST + ((LONGEST - SHORTEST) * i) / STEPS,
);
/** How a wavelength is bent, after Cauchy, per square micrometre. */
const bends = wavelengths.map((nm) => 1e6 / (nm * nm));
const sum = (values: number[]) => values.reduce((all, v) => all + v, 0);

function curveOf(channel: number): number[] {
  const wanted = wavelengths.map((nm) => xyzToRec709(...colourMatching(nm))[channel]);
  const [all, bent] = [sum(wanted), sum(wanted.map((v, i) => v * bends[i]))];
  // what is above zero is tilted towards one end until its bend in the mean is that of the whole
  const tilted = (by: number) => wanted.map((v, i) => Math.max(0, v) * Math.exp(by * bends[i]));
  const meanBend = (curve: number[]) => sum(curve.map((v, i) => v * bends[i])) / sum(curve);
  let [low, high] = [-20, 20];
  for (let round = 0; round < 60; round++) {
    const middle = (low + high) / 2;
    if (meanBend(tilted(middle)) < bent / all) low = middle;
    else high = middle;
  }
  return tilted(low);
}

const knots = [0, 1, 2].map((channel) => {
  const curve = curveOf(channel);
  const at = Array.from(
    { length: INTERVALS + 1 },
    (_, k) => curve[(k * STEPS) / INTERVALS] ?? curve[Math.round((k * STEPS) / INTERVALS)],
  );
  // straight lines between knots: the ends count half
  const mean = (sum(at) - (at[0] + at[INTERVALS]) / 2) / INTERVALS;
  return at.map((v) => v / mean);
});
for (let k = 0; k <= INTERVALS; k++)
  console.log(`  ${[0, 1, 2].map((c) => knots[c][k].toFixed(4)).join(', ')}, 0,`);
