/**
 * What a finish's coats and feeds come to: plain data that the tracer, the draft and files are made from.
 *
 * A feed is an axis over the face, 0 … 1, and values along it. A coat whose parameters are fed is a family of plain
 * surfaces, one for each place of a grid over its axes; a place between them takes one of its neighbours by chance,
 * so that the mean is interpolated and each of them keeps its energy. Which coat a path meets is chance too, by how
 * far each covers what lies under it: a mixture of surfaces is their mean (OpenPBR 1.1, "Mixing").
 */
import type { Coat, Feed, FeedSource, Finish, Surface } from '../document/index.ts';
import { COAT, SURFACE } from '../document/parameters.ts';
import { linearOf, oklabOf } from '../maths/oklab.ts';

/** One axis over the faces that wear a finish; lengths in metres. */
export interface Axis {
  source: FeedSource;
  of: 'letter' | 'block';
  late: boolean;
  scale: number;
  stretch: number;
  turn: number;
  octaves: number;
  contrast: number;
  seed: number;
  from: number;
  to: number;
  breakup: number;
  breakupScale: number;
}

/** Values along an axis: places in rising order, and numbers or colours at them, interpolated between. */
export interface Course {
  axis: number;
  at: number[];
  values: number[][];
}

export interface RecipeCoat {
  /** Share of what lies under it that it hides; of the lowest, 1. */
  cover: number | Course;
  /** Height in metres along its axis; null when it is flat. */
  relief: Course | null;
  surface: Surface;
  /** What is fed of the surface. */
  fed: (Course & { parameter: keyof Surface })[];
  /** The grid of its surfaces: axes, and the places along them. */
  grid: { axis: number; at: number[] }[];
}

/** Coats from the top down, and the axes they are laid along. */
export interface Recipe {
  axes: Axis[];
  coats: RecipeCoat[];
}

/** Most surfaces of one coat's family, and of one axis of it. */
const MOST_SURFACES = 256;
const MOST_ALONG = 48;

const axisOf = (feed: Feed): Axis => ({
  source: feed.source,
  of: feed.of,
  late: feed.shape === 'fresnel',
  scale: feed.scale,
  stretch: feed.stretch,
  turn: feed.turn,
  octaves: feed.octaves,
  contrast: feed.contrast,
  seed: feed.seed,
  from: feed.from,
  to: feed.to,
  breakup: feed.breakup,
  breakupScale: feed.breakup_scale,
});

/** Axes of a finish, alike ones once. */
class Axes {
  readonly all: Axis[] = [];
  private readonly numbers = new Map<string, number>();

  of(feed: Feed): number {
    const axis = axisOf(feed);
    const key = JSON.stringify(axis);
    let number = this.numbers.get(key);
    if (number === undefined) {
      number = this.all.push(axis) - 1;
      this.numbers.set(key, number);
    }
    return number;
  }
}

/** The course of a feed, its values in the range of its parameter. */
function courseOf(feed: Feed, axes: Axes): Course {
  const parameter = { ...SURFACE, ...COAT }[feed.parameter as keyof typeof SURFACE];
  const stops = [...feed.stops].sort((a, b) => a.at - b.at);
  const course: Course = { axis: axes.of(feed), at: [], values: [] };
  if (parameter.kind === 'colour') {
    // steps that look alike are laid as so many more stops, between which light mixes as it does
    const steps = feed.blend === 'even' ? 8 : 1;
    stops.forEach((stop, i) => {
      const next = stops[i + 1];
      for (let k = 0; k < (next && next.at > stop.at ? steps : 1); k++) {
        const t = k / steps;
        course.at.push(next ? stop.at + (next.at - stop.at) * t : stop.at);
        course.values.push(k === 0 ? stop.colour : mixedEvenly(stop.colour, next!.colour, t));
      }
    });
    return course;
  }
  const { min, max } = parameter as { min: number; max: number };
  for (const { at, value } of stops) {
    course.at.push(at);
    course.values.push([Math.min(max, Math.max(min, value))]);
  }
  return course;
}

/** Mixes two scene-linear colours in OKLab, within what can be shown. @param t 0 … 1 */
export function mixedEvenly(a: readonly number[], b: readonly number[], t: number): number[] {
  const [from, to] = [oklabOf(a), oklabOf(b)];
  return linearOf(from.map((v, i) => v + (to[i] - v) * t)).map((v) => Math.min(1, Math.max(0, v)));
}

/** Value of a course at a place of its axis. Of two stops at one place the second counts from there on. */
export function valueAt({ at, values }: Omit<Course, 'axis'>, u: number): number[] {
  let i = at.length - 1;
  while (i >= 0 && at[i] > u) i--;
  if (i < 0) return values[0];
  if (i === at.length - 1) return values[i];
  const t = (u - at[i]) / (at[i + 1] - at[i]);
  return values[i].map((v, c) => v + (values[i + 1][c] - v) * t);
}

/** Places of a grid along an axis: each stop of what is fed along it, and as many between as there is room for. */
function placesAlong(courses: readonly Course[], room: number): number[] {
  // a place that stands twice is an edge, and is kept as one
  const stops: number[] = [];
  for (const { at } of courses)
    for (const [i, place] of at.entries()) {
      const twice = at[i - 1] === place;
      const known = stops.filter((s) => s === place).length;
      if (known === 0 || (twice && known === 1)) stops.push(place);
    }
  stops.sort((a, b) => a - b);
  if (stops.length <= room) return stops;
  return Array.from({ length: room }, (_, i) => i / (room - 1));
}

/** Whether all that is fed changes along with light as it mixes, so that nothing lies between two stops but their mean. */
const MIXES: ReadonlySet<string> = new Set([
  'base_weight',
  'base_metalness',
  'transmission_weight',
  'coat_weight',
  'base_color',
  'specular_color',
  'emission_color',
  'emission_luminance',
]);
/** Most places between two stops of what does not. */
const MOST_BETWEEN = 16;

function gridOf(fed: RecipeCoat['fed']): RecipeCoat['grid'] {
  const byAxis = new Map<number, RecipeCoat['fed']>();
  for (const course of fed) byAxis.set(course.axis, [...(byAxis.get(course.axis) ?? []), course]);
  const room = Math.max(2, Math.min(MOST_ALONG, Math.floor(MOST_SURFACES ** (1 / Math.max(1, byAxis.size)))));
  return [...byAxis].map(([axis, courses]) => {
    const finer = courses.map((course) => {
      if (MIXES.has(course.parameter) && courses.length === 1) return course;
      const between = Math.max(
        1,
        Math.min(MOST_BETWEEN, Math.floor((room - 1) / Math.max(1, course.at.length - 1))),
      );
      const at = course.at.flatMap((place, i) => {
        const next = course.at[i + 1];
        if (next === undefined || next === place) return [place];
        return Array.from({ length: between }, (_, k) => place + ((next - place) * k) / between);
      });
      return { ...course, at };
    });
    return { axis, at: placesAlong(finer, room) };
  });
}

function coatOf(surface: Surface, feeds: readonly Feed[], axes: Axes, cover: number | null): RecipeCoat {
  const ofCover = feeds.find((f) => f.parameter === 'cover');
  const ofRelief = feeds.find((f) => f.parameter === 'relief');
  const fed = feeds
    .filter((f) => f !== ofCover && f !== ofRelief)
    .map((f) => ({ ...courseOf(f, axes), parameter: f.parameter as keyof Surface }));
  return {
    cover: cover === null ? 1 : ofCover ? courseOf(ofCover, axes) : cover,
    relief: ofRelief ? courseOf(ofRelief, axes) : null,
    surface,
    fed,
    grid: gridOf(fed),
  };
}

/** What a finish's coats and feeds come to; null when it is one plain surface. */
export function recipeOf({
  surface,
  feeds,
  coats,
}: Pick<Finish, 'surface' | 'feeds' | 'coats'>): Recipe | null {
  const worn = coats.filter(
    (c: Coat) => c.on && (c.cover > 0 || c.feeds.some((f) => f.parameter === 'cover')),
  );
  if (worn.length === 0 && feeds.length === 0) return null;
  const axes = new Axes();
  const over = [...worn].reverse().map((c) => coatOf(c.surface, c.feeds, axes, c.cover));
  return { coats: [...over, coatOf(surface, feeds, axes, null)], axes: axes.all };
}

/** The family of a coat's surfaces: the grid's places, the first axis running fastest. */
export function surfacesOf({ surface, fed, grid }: RecipeCoat): Surface[] {
  const count = grid.reduce((n, { at }) => n * at.length, 1);
  return Array.from({ length: count }, (_, n) => {
    const made: Record<string, unknown> = { ...surface };
    let rest = n;
    const chosen = new Map<number, number>();
    for (const { axis, at } of grid) {
      chosen.set(axis, rest % at.length);
      rest = Math.floor(rest / at.length);
    }
    for (const course of fed) {
      const { at } = grid.find((g) => g.axis === course.axis)!;
      const i = chosen.get(course.axis)!;
      // the first of two places at an edge belongs to what comes before it
      const before = at[i + 1] === at[i];
      const value = before ? valueBefore(course, at[i]) : valueAt(course, at[i]);
      made[course.parameter] = value.length === 1 ? value[0] : value;
    }
    return made as unknown as Surface;
  });
}

/** Value of a course just before a place. */
function valueBefore({ at, values }: Omit<Course, 'axis'>, u: number): number[] {
  const i = at.indexOf(u);
  return i >= 0 ? values[i] : valueAt({ at, values }, u);
}

/** A coat that covers next to nothing still gives light where it does. */
const LEAST_COVER = 1e-3;

/** Each coat with its share of all that is seen, on average along the axes. */
function sharesOf({ coats }: Recipe): { coat: RecipeCoat; share: number }[] {
  let left = 1;
  return coats.map((coat) => {
    const cover = typeof coat.cover === 'number' ? coat.cover : Math.max(LEAST_COVER, meanOf(coat.cover)[0]);
    const share = left * cover;
    left -= share;
    return { coat, share };
  });
}

/** Mean of what the surfaces of a finish give, nits: what its light is weighed by. */
export function meanGlow(recipe: Recipe): number[] {
  const sum = [0, 0, 0];
  for (const { coat, share } of sharesOf(recipe)) {
    const surfaces = surfacesOf(coat);
    for (const { emission_color, emission_luminance } of surfaces)
      emission_color.forEach((v, c) => (sum[c] += (share * v * emission_luminance) / surfaces.length));
  }
  return sum;
}

/**
 * One plain surface that stands for a finish where coats and feeds cannot be shown: its numbers and colours are their
 * means, its choices and switches those of the coat that shows most.
 */
export function meanSurface(recipe: Recipe): Surface {
  const shares = sharesOf(recipe);
  const most = shares.reduce((a, b) => (b.share > a.share ? b : a)).coat.surface;
  const out: Record<string, unknown> = { ...most };
  for (const [key, { kind }] of Object.entries(SURFACE)) {
    if (kind !== 'number' && kind !== 'colour') continue;
    let sum: number[] = kind === 'number' ? [0] : [0, 0, 0];
    for (const { coat, share } of shares) {
      const fed = coat.fed.find((f) => f.parameter === key);
      const own = coat.surface[key as keyof Surface] as number | number[];
      const mean = fed ? meanOf(fed) : typeof own === 'number' ? [own] : own;
      sum = sum.map((v, c) => v + share * mean[c]);
    }
    out[key] = kind === 'number' ? sum[0] : sum;
  }
  return out as unknown as Surface;
}

/** Mean of a course along its axis. */
function meanOf({ at, values }: Course): number[] {
  const steps = 32;
  const sum = values[0].map(() => 0);
  for (let i = 0; i < steps; i++)
    valueAt({ at, values }, (i + 0.5) / steps).forEach((v, c) => (sum[c] += v / steps));
  return sum;
}
