/** What stands for a finish where its coats and feeds cannot be shown place by place: means. */
import type { Surface } from '../document/index.ts';
import { SURFACE } from '../document/parameters.ts';
import { glowOf } from './glow.ts';
import {
  surfaceAt,
  surfacesOf,
  valueAt,
  type Axis,
  type Course,
  type LaidPicture,
  type Recipe,
  type RecipeCoat,
} from './recipe.ts';

/** A coat that covers next to nothing still gives light where it does. */
const LEAST_COVER = 1e-3;

/** Mean of one channel of a picture as it is laid; null where the picture is not at hand. */
export type PictureMeans = (laid: LaidPicture) => number | null;
const NO_MEANS: PictureMeans = () => null;

/** Each coat with its share of all that is seen, on average along the axes. */
function sharesOf({ coats, axes }: Recipe, means: PictureMeans): { coat: RecipeCoat; share: number }[] {
  let left = 1;
  return coats.map((coat) => {
    const cover =
      typeof coat.cover === 'number' ? coat.cover : Math.max(LEAST_COVER, meanOf(coat.cover, axes, means)[0]);
    const share = left * cover;
    left -= share;
    return { coat, share };
  });
}

/** Mean of what the surfaces of a finish give, nits: what its light is weighed by. */
export function meanGlow(recipe: Recipe, means: PictureMeans = NO_MEANS): number[] {
  const sum = [0, 0, 0];
  for (const { coat, share } of sharesOf(recipe, means)) {
    // a picture's places are not all alike frequent
    const surfaces = [...coat.fed, ...coat.added.flatMap((a) => a.fed)].some((f) => f.channel !== undefined)
      ? [meanOfCoat(coat, recipe.axes, means)]
      : surfacesOf(coat);
    for (const surface of surfaces)
      glowOf(surface).nits.forEach((v, c) => (sum[c] += (share * v) / surfaces.length));
  }
  return sum;
}

/**
 * One plain surface that stands for a finish where coats and feeds cannot be shown: its numbers and colours are their
 * means, its choices and switches those of the coat that shows most.
 */
export function meanSurface(recipe: Recipe, means: PictureMeans = NO_MEANS): Surface {
  const all = sharesOf(recipe, means);
  const there = Math.max(LEAST_COVER, 1 - all.reduce((sum, s) => sum + (s.coat.nothing ? s.share : 0), 0));
  const shares = all
    .filter(({ coat }) => !coat.nothing)
    .map(({ coat, share }) => ({ coat, share: share / there }));
  const most = shares.reduce((a, b) => (b.share > a.share ? b : a)).coat.surface;
  const plain = shares.map(({ coat, share }) => ({ share, surface: meanOfCoat(coat, recipe.axes, means) }));
  const out: Record<string, unknown> = { ...most };
  for (const [key, { kind }] of Object.entries(SURFACE)) {
    if (kind !== 'number' && kind !== 'colour') continue;
    const value = (of: Surface) => of[key as keyof Surface] as number | number[];
    if (kind === 'number')
      out[key] = plain.reduce((sum, { share, surface }) => sum + share * (value(surface) as number), 0);
    else
      out[key] = [0, 1, 2].map((c) =>
        plain.reduce((sum, { share, surface }) => sum + share * (value(surface) as number[])[c], 0),
      );
  }
  return { ...(out as unknown as Surface), geometry_opacity: there };
}

/** One coat with the means of what is fed. */
export const meanOfCoat = (coat: RecipeCoat, axes: readonly Axis[], means: PictureMeans): Surface =>
  surfaceAt(coat, (course) => meanOf(course, axes, means));

/** How much more what faces the viewer counts in a mean by angle: this power of one less the axis. */
const FACING = 4;

/** Mean of a course along its axis; of a picture's, where the picture's mean stands. */
function meanOf({ at, values, axis }: Course, axes: readonly Axis[], means: PictureMeans): number[] {
  const { laid } = axes[axis]!;
  const mean = laid && means(laid);
  if (mean !== null) return valueAt({ at, values }, mean);
  // faces are seen more often from before them than from their edge: by angle, what is near facing counts more
  const facing = axes[axis]!.source === 'angle';
  const steps = 32;
  const sum = values[0].map(() => 0);
  let all = 0;
  for (let i = 0; i < steps; i++) {
    const u = (i + 0.5) / steps;
    const weight = facing ? (1 - u) ** FACING : 1;
    all += weight;
    valueAt({ at, values }, u).forEach((v, c) => (sum[c] += v * weight));
  }
  return sum.map((v) => v / all);
}
