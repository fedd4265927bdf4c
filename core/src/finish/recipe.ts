/**
 * What a finish's coats and feeds come to: plain data that the tracer, the draft and files are made from.
 *
 * A feed is an axis over the face, 0 … 1, and values along it. A coat whose parameters are fed is a family of plain
 * surfaces, one for each place of a grid over its axes; a place between them takes one of its neighbours by chance,
 * so that the mean is interpolated and each of them keeps its energy. Which coat a path meets is chance too, by how
 * far each covers what lies under it: a mixture of surfaces is their mean (OpenPBR 1.1, "Mixing").
 */
import { plainSurface } from '../document/defaults.ts';
import type { Coat, Feed, FeedSource, Finish, PictureRef, Surface } from '../document/index.ts';
import { COAT, SURFACE } from '../document/parameters.ts';
import { linearOf, oklabOf } from '../maths/oklab.ts';
import { glowOf } from './glow.ts';
import { srgbStep, type Channel, type Coding } from '../texture/texture.ts';

/** One axis over the faces that wear a finish; lengths in metres. */
export interface Axis {
  source: FeedSource;
  of: Feed['of'];
  /** Of distances: to what. */
  toward: Feed['toward'];
  late: boolean;
  /** Of pictures: which one, what of it, and how it lies. */
  laid: LaidPicture | null;
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

/** A picture over faces. */
export interface LaidPicture {
  picture: PictureRef;
  coding: Coding;
  channel: Channel;
  /** Light that glows is as bright as the picture's brightest; all else as it stands, to white. */
  toPeak: boolean;
  lay: Feed['lay'];
  tile: number;
  zoom: number;
  shift: readonly [number, number];
  edges: Feed['edges'];
}

/** Values along an axis: places in rising order, and numbers or colours at them, interpolated between. */
export interface Course {
  axis: number;
  at: number[];
  values: number[][];
  /** Of a colour's channel alone: which one. */
  channel?: number;
}

export interface RecipeCoat {
  /** Share of what lies under it that it hides; of the lowest, 1. */
  cover: number | Course;
  /** Height in metres along its axis; null when it is flat. */
  relief: Course | null;
  surface: Surface;
  /** What is fed of the surface. */
  fed: (Course & { parameter: keyof Surface })[];
  /** Coats above that only add their light. */
  added: AddedLight[];
  /** There is nothing: light goes straight through. */
  nothing?: true;
  /** The grid of its surfaces: axes, and the places along them. */
  grid: { axis: number; at: number[] }[];
}

/** The light of a coat that lies as light upon others: as much as it covers of what it gives. */
export interface AddedLight {
  cover: number | Course;
  surface: Surface;
  fed: RecipeCoat['fed'];
}

/** Coats from the top down, and the axes they are laid along. */
export interface Recipe {
  axes: Axis[];
  coats: RecipeCoat[];
}

/** Most surfaces of one coat's family, and of one axis of it. */
const MOST_SURFACES = 256;
/** The same where a picture gives a colour, which takes three. */
const MOST_PICTURED = 512;
const MOST_ALONG = 48;

/** Whether a feed gives relief by a normal map, so that its stops do not count. */
export const isNormalMap = ({ parameter, source, take }: Pick<Feed, 'parameter' | 'source' | 'take'>) =>
  parameter === 'relief' && source === 'picture' && take === 'normals';

/** How the picture of a feed is read: normals are numbers. */
export const codingOf = (feed: Pick<Feed, 'parameter' | 'source' | 'take' | 'coding'>): Coding =>
  isNormalMap(feed) ? 'numbers' : feed.coding;

function laidOf(feed: Feed, channel: Channel): LaidPicture {
  const { picture, lay, tile, zoom, edges } = feed;
  const coding = codingOf(feed);
  const toPeak = feed.parameter === 'emission_color';
  return { picture, coding, channel, toPeak, lay, tile, zoom, shift: [feed.shift_x, feed.shift_y], edges };
}

const axisOf = (feed: Feed, channel: Channel): Axis => ({
  source: feed.source,
  laid: feed.source === 'picture' ? laidOf(feed, channel) : null,
  of: feed.of,
  toward: feed.toward,
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

  of(feed: Feed, channel: Channel = feed.take === 'cover' ? 'cover' : 'light'): number {
    const axis = axisOf(feed, channel);
    const key = JSON.stringify(axis);
    let number = this.numbers.get(key);
    if (number === undefined) {
      number = this.all.push(axis) - 1;
      this.numbers.set(key, number);
    }
    return number;
  }
}

/** Steps of a colour that a picture gives: even to the eye, and exact at each. */
const PICTURE_STEPS = 8;

/** Whether a feed gives a colour that is the picture's own, and its stops do not count. */
export const isPicturesColour = (feed: Feed) =>
  feed.source === 'picture' &&
  feed.take === 'colour' &&
  SURFACE[feed.parameter as 'base_color']?.kind === 'colour';

/** The courses of a colour that is a picture's own: each channel along its own axis. */
function channelCourses(feed: Feed, axes: Axes): Course[] {
  const at = Array.from({ length: PICTURE_STEPS }, (_, i) => srgbStep(i / (PICTURE_STEPS - 1)));
  const values = at.map((v) => [v]);
  const whole = { ...feed, from: 0, to: 1, breakup: 0 };
  return (['red', 'green', 'blue'] as const).map((name, channel) => ({
    axis: axes.of(whole, name),
    at,
    values,
    channel,
  }));
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
  const most = fed.some((f) => f.channel !== undefined) ? MOST_PICTURED : MOST_SURFACES;
  // rounded, for a cube root of 512 is not quite 8
  const room = Math.max(2, Math.min(MOST_ALONG, Math.floor(most ** (1 / Math.max(1, byAxis.size)) + 1e-9)));
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

function coatOf(
  surface: Surface,
  feeds: readonly Feed[],
  axes: Axes,
  cover: number | Course,
  added: AddedLight[] = [],
): RecipeCoat {
  const ofRelief = feeds.find((f) => f.parameter === 'relief');
  const fed = feeds
    .filter((f) => f !== ofRelief && f.parameter !== 'cover' && f.parameter !== 'geometry_opacity')
    .flatMap((f) => {
      const courses = isPicturesColour(f) ? channelCourses(f, axes) : [courseOf(f, axes)];
      return courses.map((course) => ({ ...course, parameter: f.parameter as keyof Surface }));
    });
  return {
    cover,
    relief: ofRelief
      ? isNormalMap(ofRelief)
        ? { axis: axes.of(ofRelief, 'normals'), at: [0], values: [[0]] }
        : courseOf(ofRelief, axes)
      : null,
    surface,
    fed,
    added,
    grid: gridOf([...fed, ...added.flatMap(lightCourses)]),
  };
}

/** What of an added light differs over the face, as courses of a surface's own light. */
const lightCourses = ({ cover, fed }: AddedLight): RecipeCoat['fed'] => [
  ...fed,
  ...(typeof cover === 'number' ? [] : [{ ...cover, parameter: 'emission_luminance' as const }]),
];

/** A surface that gives so much more light. */
function withLight(surface: Surface, more: readonly number[]): Surface {
  if (!more.some((v) => v > 0)) return surface;
  const nits = glowOf(surface).nits.map((v, c) => v + more[c]);
  const most = Math.max(...nits);
  return {
    ...surface,
    emission_gas: 'none',
    emission_color: nits.map((v) => v / most),
    emission_luminance: most,
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
  if (worn.length === 0 && feeds.length === 0 && surface.geometry_opacity === 1) return null;
  const axes = new Axes();
  const over: RecipeCoat[] = [];
  const lights: AddedLight[] = [];
  for (const c of [...worn].reverse()) {
    const coat = coatOf(c.surface, c.feeds, axes, coverOf(c, axes), c.lies === 'over' ? [...lights] : []);
    if (c.lies === 'over') over.push(coat);
    else lights.push({ cover: coat.cover, surface: coat.surface, fed: coat.fed });
  }
  const lowest = coatOf(surface, feeds, axes, 1, lights);
  const ofOpacity = feeds.find((f) => f.parameter === 'geometry_opacity');
  const opacity = ofOpacity ? courseOf(ofOpacity, axes) : surface.geometry_opacity;
  if (opacity === 1) return { coats: [...over, lowest], axes: axes.all };
  const nothing = coatOf(NOTHING, [], axes, 1);
  return { coats: [...over, { ...lowest, cover: opacity }, { ...nothing, nothing: true }], axes: axes.all };
}

/** Where nothing is: light goes straight through. */
const NOTHING: Surface = plainSurface({
  geometry_thin_walled: true,
  transmission_weight: 1,
  specular_weight: 0,
  specular_ior: 1,
});

/** Steps in which the product of two courses is laid between their stops. */
const PRODUCT_STEPS = 8;

/**
 * How far a coat hides what lies under it, place by place: its cover times its opacity. Where both are fed along axes of
 * their own, its opacity counts by its mean.
 */
function coverOf({ cover, surface, feeds }: Coat, axes: Axes): number | Course {
  const fed = (parameter: string) => {
    const feed = feeds.find((f) => f.parameter === parameter);
    return feed && courseOf(feed, axes);
  };
  const [covers, opens] = [fed('cover') ?? cover, fed('geometry_opacity') ?? surface.geometry_opacity];
  if (typeof covers === 'number') return typeof opens === 'number' ? covers * opens : times(opens, covers);
  if (typeof opens === 'number') return times(covers, opens);
  return covers.axis === opens.axis ? product(covers, opens) : times(covers, meanOf(opens));
}

const times = (course: Course, by: number): Course =>
  by === 1 ? course : { ...course, values: course.values.map((v) => [v[0] * by]) };

/** Mean of a course over its axis. */
function meanOf(course: Course): number {
  const at = [0, ...course.at, 1];
  let sum = 0;
  for (let i = 1; i < at.length; i++)
    if (at[i] > at[i - 1])
      sum += ((valueAt(course, at[i - 1])[0] + valueBefore(course, at[i])[0]) / 2) * (at[i] - at[i - 1]);
  return sum;
}

/** The product of two courses along one axis, edges kept. */
function product(a: Course, b: Course): Course {
  const stops = [...new Set([...a.at, ...b.at])].sort((x, y) => x - y);
  const out: Course = { axis: a.axis, at: [], values: [] };
  const put = (at: number, value: number) => {
    out.at.push(at);
    out.values.push([value]);
  };
  stops.forEach((stop, i) => {
    const isEdge = [a, b].some(({ at }) => at.indexOf(stop) !== at.lastIndexOf(stop));
    if (isEdge) put(stop, valueBefore(a, stop)[0] * valueBefore(b, stop)[0]);
    const next = stops[i + 1];
    for (let k = 0; k < (next === undefined ? 1 : PRODUCT_STEPS); k++) {
      const at = k === 0 ? stop : stop + ((next - stop) * k) / PRODUCT_STEPS;
      put(at, valueAt(a, at)[0] * valueAt(b, at)[0]);
    }
  });
  return out;
}

/** The family of a coat's surfaces: the grid's places, the first axis running fastest. */
export function surfacesOf(coat: RecipeCoat): Surface[] {
  const { grid } = coat;
  const count = grid.reduce((n, { at }) => n * at.length, 1);
  return Array.from({ length: count }, (_, n) => {
    let rest = n;
    const chosen = new Map<number, number>();
    for (const { axis, at } of grid) {
      chosen.set(axis, rest % at.length);
      rest = Math.floor(rest / at.length);
    }
    const here = (course: Course): number[] => {
      const { at } = grid.find((g) => g.axis === course.axis)!;
      const i = chosen.get(course.axis)!;
      // the first of two places at an edge belongs to what comes before it
      return at[i + 1] === at[i] ? valueBefore(course, at[i]) : valueAt(course, at[i]);
    };
    return surfaceAt(coat, here);
  });
}

/** A coat's surface where its courses give what they give, with the light that lies on it. */
export const surfaceAt = (
  { surface, fed, added }: RecipeCoat,
  valueOf: (course: Course) => number[],
): Surface => withLight(fedSurface(surface, fed, valueOf), lightOf(added, valueOf));

/** A surface with what is fed, by what each course gives. */
function fedSurface(
  surface: Surface,
  fed: RecipeCoat['fed'],
  valueOf: (course: Course) => number[],
): Surface {
  const made: Record<string, unknown> = { ...surface };
  for (const course of fed) {
    const { parameter, channel } = course;
    const value = valueOf(course);
    if (channel !== undefined)
      made[parameter] = (made[parameter] as number[]).map((v, c) => (c === channel ? value[0] : v));
    else made[parameter] = value.length === 1 ? value[0] : value;
  }
  return made as unknown as Surface;
}

/** What coats that lie as light add, nits. */
function lightOf(added: readonly AddedLight[], valueOf: (course: Course) => number[]): number[] {
  const sum = [0, 0, 0];
  for (const { cover, surface, fed } of added) {
    const share = typeof cover === 'number' ? cover : valueOf(cover)[0];
    glowOf(fedSurface(surface, fed, valueOf)).nits.forEach((v, c) => (sum[c] += share * v));
  }
  return sum;
}

/** Value of a course just before a place. */
function valueBefore({ at, values }: Omit<Course, 'axis'>, u: number): number[] {
  const i = at.indexOf(u);
  return i >= 0 ? values[i] : valueAt({ at, values }, u);
}
