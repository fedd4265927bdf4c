// Fits furtherMeetings of core/src/finish/energy.ts to walks over a Smith surface: node --import tsx tools/energyFit.ts
// Prints the ten numbers, the ones of MET first, and the largest share of all that comes back by which they miss a walk.
import { mirrorRow, meanOfRow, rowValue, widths } from '../core/src/finish/energy.ts';
import { walk } from '../core/test/oracle/smithWalk.ts';
import { seeded } from '../core/test/trace/kernelFixture.ts';

const FACETS = [0.2, 0.35, 0.5, 0.65, 0.8, 0.95];
const ANGLES = [0, 30, 45, 60, 70, 80];
const ROUGHNESSES = [0.2, 0.3, 0.45, 0.6, 0.8, 1];
/** What a facet reflects at a cosine (Schlick 1994). */
const schlick = (facing: number, cosine: number) => facing + (1 - facing) * (1 - cosine) ** 5;

interface Walked {
  roughness: number;
  mu: number;
  /** What one meeting returns on the whole, and at this angle. */
  mean: number;
  once: number;
  lost: number;
  /** What comes back of what is lost, by facets. */
  back: number[];
}

function walked(roughness: number, anisotropy: number, degrees: number): Walked {
  const [ax, ay] = widths(roughness, anisotropy);
  const row = mirrorRow(roughness, anisotropy);
  const mu = Math.cos((degrees * Math.PI) / 180);
  const across = Math.sqrt(1 - mu * mu);
  const random = seeded(5);
  // smooth surfaces lose little, and need more walks to tell what becomes of it
  const walks = roughness < 0.4 ? 300_000 : 100_000;
  const back = FACETS.map(() => 0);
  let lost = 0;
  for (let i = 0; i < walks; i++) {
    const turn = anisotropy > 0 ? 2 * Math.PI * random() : 0;
    walk(ax, ay, [across * Math.cos(turn), across * Math.sin(turn), mu], random, (_, cosines) => {
      if (cosines.length < 2) return;
      lost++;
      FACETS.forEach((facing, k) => {
        back[k] += cosines.reduce((share, cosine) => share * schlick(facing, cosine), 1);
      });
    });
  }
  return {
    roughness,
    mu,
    mean: meanOfRow(row),
    once: rowValue(row, mu),
    lost: lost / walks,
    back: back.map((sum) => sum / Math.max(1, lost)),
  };
}

const all = [0, 0.8].flatMap((anisotropy) =>
  ROUGHNESSES.flatMap((roughness) => ANGLES.map((degrees) => walked(roughness, anisotropy, degrees))),
);

/** Shares of all that comes back by which a fit misses each walk. */
function misses([c0, c1, c2, p0, p1, p2, slope, m0, m1, m2]: number[]): number[] {
  return all.flatMap(({ roughness: r, mu, mean, once, lost, back }) => {
    const cosine = Math.min(
      1,
      Math.max(0.01, (c0 + r * (c1 + r * c2)) * mu ** Math.max(0, p0 + r * (p1 + r * p2))),
    );
    const returned = Math.min(1, Math.max(0.05, m0 + mean * (m1 + mean * m2) + slope * (once - mean)));
    return FACETS.map((facing, k) => {
      const f = schlick(facing, cosine);
      const got = (f * f * returned) / (1 - f * (1 - returned));
      return (Math.abs(got - back[k]) * lost) / (schlick(facing, mu) * once + back[k] * lost);
    });
  });
}
// the fourth power looks at the worst
const badness = (fit: number[]) => misses(fit).reduce((sum, miss) => sum + miss ** 4, 0);

let fit = [0.25, 0.45, -0.2, 0.75, -1, 0.35, 0.65, 0.16, 1.17, -0.39];
let steps = fit.map((v) => Math.abs(v) / 10);
let least = badness(fit);
for (let round = 0; round < 400; round++) {
  let better = false;
  for (let i = 0; i < fit.length; i++)
    for (const way of [1, -1]) {
      const tried = fit.map((v, k) => (k === i ? v + way * steps[i] : v));
      const bad = badness(tried);
      if (bad >= least) continue;
      [fit, least, better] = [tried, bad, true];
      steps[i] *= 1.3;
    }
  if (!better) steps = steps.map((v) => v * 0.6);
}
console.log(fit.map((v) => v.toFixed(4)).join(', '));
console.log(`worst ${(Math.max(...misses(fit)) * 100).toFixed(2)} %`);
