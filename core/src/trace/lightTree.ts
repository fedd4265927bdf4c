/** Everything that shines for an eye, and the tree by which the kernel chooses among it (kernel/assembly/choosing.ts). */
import { luminance } from '../maths/colour.ts';
import { SOFTEST } from '../scene/beam.ts';
import type { Reach, RenderScene, SceneLight, SceneSolid } from '../scene/renderScene.ts';
import { composed, scaleOf } from '../scene/transform.ts';
import { F, RECORD } from './finishRecords.ts';
import { BALL } from './lightBodies.ts';
import * as K from './kernelLayout.ts';

type Vec = [number, number, number];

/** What shines, as the tree bounds it. */
interface Bound {
  emitter: number;
  /** Intensity straight ahead, candela. */
  power: number;
  middle: Vec;
  radius: number;
  axis: Vec;
  /** Cosine of the angle between the axis and what faces furthest from it; −1 all around. */
  cosSpread: number;
  /** Cosine of the angle beyond that at which nothing is sent any more, and of the one within which all is. */
  cosReach: number;
  cosFull: number;
  /** Whether what is sent grows with the square between the two, and not evenly. */
  squared: boolean;
  /** Whether it is thrown through something, so that what it sends is looked up. */
  beam: boolean;
}

export interface EyeLights {
  /** Emitters, directional ones first. */
  emitters: ArrayBuffer;
  count: number;
  directionals: number;
  nodes: ArrayBuffer;
  nodeCount: number;
  /** Emitter of each part, or −1. */
  ofPart: Int32Array;
  /** Emitter of each light that has a body, in their order (hasBody). */
  ofBody: number[];
  /** Cards follow the directional ones. */
  cards: number;
  /** Whether lights reach lobes differently, or only some things; and whether directional ones have a size. */
  parted: boolean;
  discs: boolean;
  /** Of each thing, a bit for each choice of things that it is among. */
  links: Int32Array;
  /** Where each emitter is: the middle and radius of a ball about it; directional ones are nowhere. */
  places: { middle: Vec; radius: number }[];
  /** Whether lights shine that no bounce finds. */
  points: boolean;
  /** How many are sought at once where a path from the camera stands first. */
  sought: number;
}

/**
 * Lights from which on several are sought at once: by fewer, what one of them leaves out is worth less than the time
 * (docs/decisions/many-lights.md).
 */
const MANY = 4;

/** Whether rays may run into a light: a rectangle, or a ball. */
export const hasBody = (
  light: SceneLight,
): light is SceneLight & ({ kind: 'area' } | { kind: 'point'; radius: number }) =>
  light.kind === 'area' || isBall(light);

/** White cards, which mirrors see as they are lit; each is a part of its own beyond the scene's. */
export const isWhite = (light: SceneLight): light is SceneLight & { kind: 'area'; white: number } =>
  light.kind === 'area' && light.white !== undefined;

export const isBall = (light: SceneLight): light is SceneLight & { kind: 'point'; radius: number } =>
  light.kind === 'point' && (light.radius ?? 0) > 0 && !light.profile;

/** Whether a light is a point or a single direction, that no ray runs into. */
const isDelta = (light: SceneLight): boolean =>
  light.kind === 'directional' ? (light.cosEdge ?? 1) >= 1 : !hasBody(light);

const isCard = (light: SceneLight) => light.kind === 'area' && light.card === true;

/** Bits of what a light or surround reaches. */
export const feedsOf = (reach: Reach | undefined): number =>
  reach
    ? (reach.diffuse ? K.FEEDS_DIFFUSE : 0) |
      (reach.mirrored ? K.FEEDS_MIRROR : 0) |
      (reach.through ? K.FEEDS_THROUGH : 0)
    : K.FEEDS_ALL;

/** Choices of things that lights may fall on, in one scene: bits of a word, but its sign. */
const MOST_LINKS = 31;

/**
 * A bit for each choice of things, and of each thing the choices it is among.
 * @throws RangeError when lights fall on more than 31 different choices of things
 */
function linked(scene: RenderScene): { of: Int32Array; bits: number[] } {
  const of = new Int32Array(scene.things.length);
  const known = new Map<string, number>();
  const bits = scene.lights.map(({ only }) => {
    if (!only) return 0;
    const key = [...only].sort((a, b) => a - b).join(' ');
    let bit = known.get(key);
    if (bit === undefined) {
      if (known.size === MOST_LINKS)
        throw new RangeError(`lights fall on more than ${MOST_LINKS} different choices of things`);
      bit = 1 << known.size;
      known.set(key, bit);
      for (const thing of only) of[thing] |= bit;
    }
    return bit;
  });
  return { of, bits };
}

/** Shape of a run of triangles about its solid's origin. */
interface RunShape {
  area: number;
  middle: Vec;
  radius: number;
  axis: Vec;
  cosSpread: number;
}

const shapes = new WeakMap<SceneSolid, Map<number, RunShape>>();

/** The shape of a run of a solid's triangles; known from then on. */
function shapeOf(solid: SceneSolid, first: number, count: number): RunShape {
  let known = shapes.get(solid);
  if (!known) shapes.set(solid, (known = new Map()));
  let shape = known.get(first);
  if (!shape) known.set(first, (shape = measured(solid.positions, first, count)));
  return shape;
}

function measured(p: Float32Array, first: number, count: number): RunShape {
  const low: Vec = [Infinity, Infinity, Infinity];
  const high: Vec = [-Infinity, -Infinity, -Infinity];
  const normals: Vec[] = [];
  const sum: Vec = [0, 0, 0];
  let area = 0;
  for (let t = first; t < first + count; t++) {
    const at = t * 9;
    for (let k = 0; k < 9; k++) {
      low[k % 3] = Math.min(low[k % 3], p[at + k]);
      high[k % 3] = Math.max(high[k % 3], p[at + k]);
    }
    const e1 = [0, 1, 2].map((k) => p[at + 3 + k] - p[at + k]);
    const e2 = [0, 1, 2].map((k) => p[at + 6 + k] - p[at + k]);
    const n: Vec = [
      e1[1] * e2[2] - e1[2] * e2[1],
      e1[2] * e2[0] - e1[0] * e2[2],
      e1[0] * e2[1] - e1[1] * e2[0],
    ];
    const l = Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]);
    area += l / 2;
    for (let k = 0; k < 3; k++) sum[k] += n[k];
    if (l > 0) normals.push([n[0] / l, n[1] / l, n[2] / l]);
  }
  const length = Math.sqrt(sum[0] ** 2 + sum[1] ** 2 + sum[2] ** 2);
  const axis: Vec = length > 0 ? [sum[0] / length, sum[1] / length, sum[2] / length] : [0, 0, 1];
  // a closed shape's normals sum to nothing and face all around
  let cosSpread = length > area * 0.2 ? 1 : -1;
  for (const n of normals) cosSpread = Math.min(cosSpread, n[0] * axis[0] + n[1] * axis[1] + n[2] * axis[2]);
  const middle = low.map((v, k) => (v + high[k]) / 2) as Vec;
  const radius = Math.sqrt(low.reduce((s, v, k) => s + ((high[k] - v) / 2) ** 2, 0));
  return { area, middle, radius, axis, cosSpread: cosSpread > 0.01 ? cosSpread * 0.9999 : -1 };
}

const CLOSED_FACES = 0.25;

/** What of lights lies in the kernel's memory. */
export interface LaidLights {
  /** Where each light that has a body has its cumulative areas, in their order (hasBody). */
  bodies: readonly number[];
  /** Number of the first of their instances. */
  first: number;
  /** Addresses of pictures, by their keys. */
  textures: Readonly<Record<string, number>>;
}

/**
 * Gathers what shines for an eye.
 * @param dressed finish of each part as this eye sees it
 * @param areas addresses of the solids' cumulative areas
 */
export function eyeLights(
  scene: RenderScene,
  records: Float32Array,
  dressed: Int32Array,
  areas: readonly number[],
  laid: LaidLights = { bodies: [], first: 0, textures: {} },
): EyeLights {
  const { parts, instances, placements } = scene;
  const glowing: number[] = [];
  for (let i = 0; i < parts.count; i++) {
    const at = dressed[i] * RECORD + F.emission;
    if (luminance(records[at], records[at + 1], records[at + 2]) > 0) glowing.push(i);
  }
  const distant = scene.lights.filter((l) => l.kind === 'directional');
  const cards = scene.lights.filter(isCard);
  const local = scene.lights.filter((l) => l.kind !== 'directional' && !isCard(l));
  const links = linked(scene);
  const count = scene.lights.length + glowing.length;
  const emitters = new ArrayBuffer(count * K.EMITTER_BYTES);
  const floats = new Float32Array(emitters);
  const words = new Int32Array(emitters);
  const bounds: Bound[] = [];
  const ofPart = new Int32Array(parts.count).fill(-1);
  const embodied = scene.lights.filter(hasBody);
  const ofBody: number[] = embodied.map(() => 0);
  let number = 0;
  for (const light of [...distant, ...cards, ...local]) {
    const body = hasBody(light) ? embodied.indexOf(light) : -1;
    if (body >= 0) ofBody[body] = number;
    writeLight(light, number, floats, words, body, laid);
    words[(number * K.EMITTER_BYTES + K.E_LINKS) / 4] = links.bits[scene.lights.indexOf(light)];
    if (light.kind !== 'directional') bounds.push({ emitter: number, ...boundOf(light) });
    number++;
  }
  const runOf = runNumbers(scene);
  for (const part of glowing) {
    const instance = parts.instance[part];
    const solid = scene.solids[instances.solid[instance]];
    const shape = shapeOf(solid, parts.first[part], parts.triangles[part]);
    const at = dressed[part] * RECORD + F.emission;
    const cast = records[dressed[part] * RECORD + F.cast];
    const colour = [records[at] * cast, records[at + 1] * cast, records[at + 2] * cast] as Vec;
    const world = composed(placements.now, instances.placement[instance], instances.local, instance);
    const unit = scaleOf(world);
    const turned = (v: Vec, w: number) =>
      [0, 4, 8].map(
        (r) => world[r] * v[0] + world[r + 1] * v[1] + world[r + 2] * v[2] + world[r + 3] * w,
      ) as Vec;
    const base = (number * K.EMITTER_BYTES) / 4;
    const area = shape.area * unit * unit;
    words[base + K.E_KIND / 4] = K.GLOW;
    words[base + K.E_FLAGS / 4] = K.CASTS | (scene.finishes[dressed[part]].recipe ? K.FED : 0);
    words[base + K.E_GROUP / 4] = parts.group[part];
    words[base + K.E_FEEDS / 4] = K.FEEDS_ALL;
    floats[base + K.E_AREA / 4] = area;
    floats.set([...colour, luminance(...colour)], base + K.E_RED / 4);
    words[base + K.E_CDF / 4] = areas[instances.solid[instance]] + (parts.first[part] + runOf[part]) * 4;
    words[base + K.E_COUNT / 4] = parts.triangles[part];
    words[base + K.E_FIRST / 4] = parts.first[part];
    words[base + K.E_INSTANCE / 4] = instance;
    ofPart[part] = number;
    const facing = shape.cosSpread > 0 ? CLOSED_FACES + (1 - CLOSED_FACES) * shape.cosSpread : CLOSED_FACES;
    bounds.push({
      emitter: number,
      power: luminance(...colour) * area * facing,
      middle: turned(shape.middle, 1),
      radius: shape.radius * unit,
      axis: turned(shape.axis, 0).map((v) => v / unit) as Vec,
      cosSpread: shape.cosSpread,
      ...BY_COSINE,
    });
    number++;
  }
  const places: EyeLights['places'] = Array.from({ length: count }, () => ({ middle: [0, 0, 0], radius: 0 }));
  for (const { emitter, middle, radius } of bounds) places[emitter] = { middle, radius };
  const shining = bounds.filter((b) => b.power > 0);
  const { nodes, nodeCount, parents } = treeOver(shining);
  for (const [emitter, parent] of parents) words[(emitter * K.EMITTER_BYTES + K.E_PARENT) / 4] = parent;
  return {
    emitters,
    count,
    directionals: distant.length,
    nodes,
    nodeCount,
    ofPart,
    ofBody,
    cards: cards.length,
    parted:
      scene.lights.some((l) => l.only || feedsOf(l.reach) !== K.FEEDS_ALL || isCard(l)) ||
      feedsOf(scene.surround.reach) !== K.FEEDS_ALL ||
      (scene.surround.blur?.mirrored ?? 0) > 0,
    discs: distant.some((l) => !isDelta(l)),
    links: links.of,
    places,
    points: scene.lights.some(isDelta),
    sought: scene.lights.length - cards.length < MANY ? 1 : K.MOST_SOUGHT,
  };
}

/** Number of each part's run within its solid. */
function runNumbers({ parts }: RenderScene): Int32Array {
  const out = new Int32Array(parts.count);
  for (let p = 1; p < parts.count; p++)
    out[p] = parts.instance[p] === parts.instance[p - 1] ? out[p - 1] + 1 : 0;
  return out;
}

const FALLS = {
  square: K.FALL_SQUARE,
  linear: K.FALL_LINEAR,
  none: K.FALL_NONE,
  clamped: K.FALL_CLAMPED,
};

function writeLight(
  light: SceneLight,
  number: number,
  floats: Float32Array,
  words: Int32Array,
  body: number,
  laid: LaidLights,
): void {
  const base = (number * K.EMITTER_BYTES) / 4;
  const { placed } = light;
  const put = (offset: number, ...values: number[]) => floats.set(values, base + offset / 4);
  const [wide, high] = light.kind === 'area' ? [light.width, light.height] : [1, 1];
  const kinds = { area: K.AREA, spot: K.SPOT, directional: K.DIRECTIONAL, point: K.POINT };
  words[base + K.E_KIND / 4] = kinds[light.kind];
  const round = light.kind === 'area' && light.round === true;
  words[base + K.E_FLAGS / 4] =
    (light.shadow ? K.CASTS : 0) |
    (isCard(light) ? K.CARD : 0) |
    (round ? K.ROUND : 0) |
    (isWhite(light) ? K.WHITE : 0) |
    ('seen' in light && light.seen ? K.SEEN : 0);
  words[base + K.E_GROUP / 4] = light.group;
  words[base + K.E_FEEDS / 4] = isCard(light) ? K.FEEDS_MIRROR : feedsOf(light.reach);
  const edge = light.kind === 'directional' ? (light.cosEdge ?? 1) : 1;
  const solid = edge < 1 ? 2 * Math.PI * (1 - edge) : 1;
  put(K.E_X, ...placed.position, wide * high * faceShare(light) * solid);
  put(K.E_RIGHT_X, ...placed.right.map((v) => v * wide), light.kind === 'spot' ? light.cosInner : edge);
  put(K.E_UP_X, ...placed.up.map((v) => v * high), light.kind === 'spot' ? light.cosOuter : 0);
  const range = light.kind === 'spot' || light.kind === 'point' ? (light.range ?? 0) : 0;
  put(K.E_FORWARD_X, ...placed.forward, range);
  const fall = light.kind === 'spot' || light.kind === 'point' ? light.fall : undefined;
  words[base + K.E_FALL / 4] = FALLS[fall?.way ?? 'square'];
  put(K.E_REFERENCE, fall?.reference ?? 1);
  const radiance = placed.colour.map((v) => v * perStrength(light)) as Vec;
  // how much a directional light may give a plane is asked for, not how bright it looks
  put(K.E_RED, ...radiance, luminance(...(light.kind === 'directional' ? placed.colour : radiance)));
  writeBeam(light, base, floats, words, laid.textures);
  const triangles = isBall(light) ? BALL.triangles : faceTriangles(light);
  if (triangles === 0) return;
  // what is no rectangle is met and drawn by its triangles
  words[base + K.E_KIND / 4] = K.GLOW;
  put(K.E_X + 12, isBall(light) ? 4 * Math.PI * light.radius ** 2 : wide * high * faceShare(light));
  words[base + K.E_CDF / 4] = laid.bodies[body];
  words[base + K.E_COUNT / 4] = triangles;
  words[base + K.E_FIRST / 4] = 0;
  words[base + K.E_INSTANCE / 4] = laid.first + body;
}

const faceTriangles = (light: SceneLight) =>
  light.kind === 'area' && light.face ? light.face.positions.length / 9 : 0;

/** Share of its rectangle that an area light is. */
const faceShare = (light: SceneLight) =>
  light.kind !== 'area' ? 1 : light.face ? light.face.area : light.round ? Math.PI / 4 : 1;

/** What a light is thrown through. */
function writeBeam(
  light: SceneLight,
  base: number,
  floats: Float32Array,
  words: Int32Array,
  textures: LaidLights['textures'],
): void {
  if (light.kind !== 'spot' && light.kind !== 'point') return;
  if (!isBall(light)) floats[base + K.E_RADIUS / 4] = light.radius ?? 0;
  if (light.profile) words[base + K.E_PROFILE / 4] = textures[light.profile] ?? 0;
  if (light.kind !== 'spot' || !light.pattern) return;
  const { texture, scale, soft } = light.pattern;
  words[base + K.E_PATTERN / 4] = textures[texture] ?? 0;
  floats[base + K.E_PATTERN_SCALE / 4] = scale;
  floats[base + K.E_PATTERN_LEVEL / 4] = soft * SOFTEST;
}

/** What a light's body gives for its strength: radiance of a ball for its candela, of a disc at infinity for its lux. */
function perStrength(light: SceneLight): number {
  if (isBall(light)) return 1 / (Math.PI * light.radius ** 2);
  if (light.kind !== 'directional') return 1;
  const edge = light.cosEdge ?? 1;
  // from all around strength is luminance already
  return edge >= 1 || edge <= -1 ? 1 : 1 / (Math.PI * (1 - Math.max(0, edge) ** 2));
}

function boundOf(light: SceneLight): Omit<Bound, 'emitter'> {
  const { placed } = light;
  const strength = luminance(...placed.colour);
  const any = { middle: placed.position, axis: placed.forward, radius: 0 };
  if (light.kind === 'area') {
    const { width, height } = light;
    const share = faceShare(light);
    const radius = Math.sqrt(width * width + height * height) / 2;
    return { ...any, power: strength * width * height * share, radius, cosSpread: 1, ...BY_COSINE };
  }
  if (light.kind === 'spot') {
    const { cosInner, cosOuter, radius = 0 } = light;
    const cone = { cosReach: cosOuter, cosFull: cosInner, squared: true };
    const beam = Boolean(light.pattern ?? light.profile);
    return { ...any, power: strength, radius, cosSpread: 1, ...cone, beam };
  }
  const radius = light.kind === 'point' ? (light.radius ?? 0) : 0;
  const beam = light.kind === 'point' && light.profile !== undefined;
  return { ...any, power: strength, radius, cosSpread: -1, ...BY_COSINE, beam };
}

/** What gives light as paper does. */
const BY_COSINE = { cosReach: 0, cosFull: 1, squared: false, beam: false };
/** Least difference of the cosines between which a spot fades. */
const SHARPEST_EDGE = 1e-4;

/** Children that the kernel weighs at a time. */
const LANES = 4;

/**
 * A tree of so many children a node that lights far apart are told apart at once: what bounds lights on all sides of a
 * place says nothing of them. Nodes are split in half along their longest side again and again; each is a row of
 * records of four children, known by the number of the first.
 */
function treeOver(bounds: Bound[]): { nodes: ArrayBuffer; nodeCount: number; parents: Map<number, number> } {
  const nodes = new ArrayBuffer((bounds.length + LANES) * K.LIGHT_NODE_BYTES);
  const floats = new Float32Array(nodes);
  const words = new Int32Array(nodes);
  const parents = new Map<number, number>();
  let nodeCount = 0;
  const make = (list: Bound[], parent: number): number => {
    const groups =
      list.length <= K.LIGHT_CHILDREN ? nearby(list).map((b) => [b]) : split(list, K.LIGHT_CHILDREN);
    const me = nodeCount;
    const records = Math.ceil(groups.length / LANES);
    nodeCount += records;
    words[(me * K.LIGHT_NODE_BYTES) / 4 + 48] = parent;
    words[(me * K.LIGHT_NODE_BYTES) / 4 + 49] = records;
    groups.forEach((group, child) => {
      const base = ((me + Math.floor(child / LANES)) * K.LIGHT_NODE_BYTES) / 4;
      const lane = child % LANES;
      const { power, middle, radius, axis, cosSpread, cosReach, cosFull, squared, beam } = merged(group);
      const row = [...middle, radius * radius, ...axis, cosSpread];
      row.push(Math.sqrt(Math.max(0, 1 - cosSpread * cosSpread)), cosReach, power);
      row.forEach((v, k) => (floats[base + k * 4 + lane] = v));
      // one that is flat or shines all around gives nothing only where its middle gives nothing
      const isSingle = group.length === 1 && (cosSpread === 1 || cosSpread < 0) && !(squared && radius > 0);
      words[base + 50] = isSingle && (lane === 0 || words[base + 50] === 1) ? 1 : 0;
      if (beam) words[base + 51] |= 1 << lane;
      floats[base + 52 + lane] = Math.max(SHARPEST_EDGE, cosFull - cosReach);
      floats[base + 56 + lane] = squared ? 1 : 0;
      const ref = me * K.LIGHT_CHILDREN + child;
      if (group.length === 1) {
        words[base + 44 + lane] = ~group[0].emitter;
        parents.set(group[0].emitter, ref);
      } else {
        words[base + 44 + lane] = make(group, ref);
      }
    });
    return me;
  };
  if (bounds.length > 0) make(bounds, 0);
  return { nodes: nodes.slice(0, nodeCount * K.LIGHT_NODE_BYTES), nodeCount, parents };
}

/** The same lights so that four in a row stand near each other: of those behind a surface, most go at a glance. */
const nearby = (list: Bound[]): Bound[] =>
  list.length <= LANES ? list : halved(list).flatMap((half) => nearby(half));

/** So many groups of about as many lights each. @param count a power of two */
const split = (list: Bound[], count: number): Bound[][] =>
  count === 1 ? [list] : halved(list).flatMap((half) => split(half, count / 2));

function halved(list: Bound[]): Bound[][] {
  if (list.length < 2) return [list];
  const low = [0, 1, 2].map((a) => Math.min(...spanOf(list, a)));
  const high = [0, 1, 2].map((a) => Math.max(...spanOf(list, a)));
  const sides = high.map((v, a) => v - low[a]);
  const axis = sides.indexOf(Math.max(...sides));
  const sorted = [...list].sort((a, b) => a.middle[axis] - b.middle[axis] || a.emitter - b.emitter);
  const half = sorted.length >> 1;
  return [sorted.slice(0, half), sorted.slice(half)];
}

function spanOf(list: Bound[], axis: number): number[] {
  let [low, high] = [Infinity, -Infinity];
  for (const { middle } of list) {
    low = Math.min(low, middle[axis]);
    high = Math.max(high, middle[axis]);
  }
  return [low, high];
}

/** One bound about several. */
function merged(list: Bound[]): Omit<Bound, 'emitter'> {
  if (list.length === 1) return list[0];
  const low: Vec = [Infinity, Infinity, Infinity];
  const high: Vec = [-Infinity, -Infinity, -Infinity];
  let power = 0;
  const axis: Vec = [0, 0, 0];
  let [cosReach, cosFull] = [1, 1];
  for (const b of list) {
    power += b.power;
    cosReach = Math.min(cosReach, b.cosReach);
    cosFull = Math.min(cosFull, b.cosFull);
    for (let k = 0; k < 3; k++) {
      low[k] = Math.min(low[k], b.middle[k] - b.radius);
      high[k] = Math.max(high[k], b.middle[k] + b.radius);
      axis[k] += b.axis[k] * b.power;
    }
  }
  const middle = low.map((v, k) => (v + high[k]) / 2) as Vec;
  const radius = Math.sqrt(low.reduce((s, v, k) => s + ((high[k] - v) / 2) ** 2, 0));
  const length = Math.sqrt(axis[0] ** 2 + axis[1] ** 2 + axis[2] ** 2);
  let cosSpread = list.some((b) => b.cosSpread < 0) || !(length > power * 1e-3) ? -1 : 1;
  if (cosSpread > 0) {
    for (let k = 0; k < 3; k++) axis[k] /= length;
    for (const b of list) {
      const c = Math.min(1, Math.max(-1, b.axis[0] * axis[0] + b.axis[1] * axis[1] + b.axis[2] * axis[2]));
      // cosine of the sum of the two angles
      const s = Math.sqrt(1 - c * c) * Math.sqrt(Math.max(0, 1 - b.cosSpread * b.cosSpread));
      cosSpread = Math.min(cosSpread, c * b.cosSpread - s);
    }
    if (cosSpread < 0.01) cosSpread = -1;
  }
  const squared = list.every((b) => b.squared);
  return { power, middle, radius, axis, cosSpread, cosReach, cosFull, squared, beam: false };
}
