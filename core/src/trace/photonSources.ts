/**
 * What throws caustics, and from where light is sent to it by photons (kernel/assembly/photons.ts): lamps that are small
 * as the casters see them, and what of the surround stands far out of the rest. Large lights are found by paths as well.
 */
import { luminance } from '../maths/colour.ts';
import { pow } from '../maths/reproducible.ts';
import { centreOf, type Box } from '../stage/camera.ts';
import type { RenderScene, SceneSolid } from '../scene/renderScene.ts';
import { composed } from '../scene/transform.ts';
import type { Eye } from './eye.ts';
import { F, RECORD } from './finishRecords.ts';
import * as K from './kernelLayout.ts';
import { feedsOf, type EyeLights } from './lightTree.ts';
import type { SurroundMap } from './surroundMap.ts';

type Vec = [number, number, number];

export interface PhotonSources {
  /** 1 for parts that are casters. */
  casters: Uint8Array;
  box: Box;
  /** Emitters whose caustics come by photons. */
  emitters: number[];
  /** SOURCE records. */
  records: ArrayBuffer;
  count: number;
  /** Whether the surround is a source, and the luminance above which it is, nits. */
  ofSky: boolean;
  clip: number;
  /** Metres that lead out of the scene. */
  reach: number;
}

/** Widest lobe that throws a caustic; wider ones are lit well enough by seeking lights. */
const SHARP = 0.1;
/** Solid angle under which casters see a lamp at most, for photons to be better than paths. */
const SMALL = 0.05;
/** Casters larger than the type by this are stages: light off them is found by paths. */
const LARGEST = 4;
/** Share of the photons that is given to all sources alike, so that none is starved. */
const EVEN = 0.1;
/** Photons sent a pixel and sample, and the least and most of a sample. */
const PER_PIXEL = 0.5;
const FEWEST = 1 << 12;
export const MOST_PHOTONS = 1 << 18;
/** Radius within which photons are taken in at the first sample, in pixels at the casters, and how it shrinks. */
const FIRST_RADIUS = 2;
const SHRINKS = -1 / 6;

/** Photons of a sample of a picture: a multiple of WAVE. */
export const photonCount = (width: number, height: number) =>
  Math.ceil(Math.min(MOST_PHOTONS, Math.max(FEWEST, width * height * PER_PIXEL)) / K.WAVE) * K.WAVE;

/** Radius within which photons are taken in at a sample, metres (Knaus & Zwicker 2011, α = 2/3). */
export function photonRadius(sources: PhotonSources, eye: Eye, sample: number): number {
  const { min, max } = sources.box;
  const middle = min.map((v, k) => (v + max[k]) / 2);
  const distance = eye.orthographic
    ? 1
    : middle.reduce((s, v, k) => s + (v - eye.origin[k]) * eye.forward[k], 0);
  const half = Math.sqrt(eye.up.reduce((s, v) => s + v * v, 0));
  const pixel = (2 * half * Math.max(distance, diagonalOf(sources.box) / 2)) / eye.height;
  return FIRST_RADIUS * pixel * pow(1 + sample, SHRINKS);
}

const known = new WeakMap<SceneSolid, Box>();

function boxOf(solid: SceneSolid): Box {
  let bounds = known.get(solid);
  if (!bounds) {
    bounds = { min: [Infinity, Infinity, Infinity], max: [-Infinity, -Infinity, -Infinity] };
    for (let i = 0; i < solid.positions.length; i++) {
      bounds.min[i % 3] = Math.min(bounds.min[i % 3], solid.positions[i]);
      bounds.max[i % 3] = Math.max(bounds.max[i % 3], solid.positions[i]);
    }
    known.set(solid, bounds);
  }
  return bounds;
}

function placed(m: ArrayLike<number>, { min, max }: Box): Box {
  const out: Box = { min: [Infinity, Infinity, Infinity], max: [-Infinity, -Infinity, -Infinity] };
  for (let corner = 0; corner < 8; corner++) {
    const [x, y, z] = [0, 1, 2].map((k) => ((corner >> k) & 1 ? max[k] : min[k]));
    for (let k = 0; k < 3; k++) {
      const v = m[k * 4] * x + m[k * 4 + 1] * y + m[k * 4 + 2] * z + m[k * 4 + 3];
      out.min[k] = Math.min(out.min[k], v);
      out.max[k] = Math.max(out.max[k], v);
    }
  }
  return out;
}

const joined = (a: Box, b: Box): Box => ({
  min: a.min.map((v, k) => Math.min(v, b.min[k])) as Vec,
  max: a.max.map((v, k) => Math.max(v, b.max[k])) as Vec,
});
const diagonalOf = ({ min, max }: Box) => Math.sqrt(min.reduce((s, v, k) => s + (max[k] - v) ** 2, 0));

/** Distance of a point from a box; 0 within. */
const distanceTo = ({ min, max }: Box, p: ArrayLike<number>) =>
  Math.sqrt(min.reduce((s, v, k) => s + Math.max(0, v - p[k], p[k] - max[k]) ** 2, 0));

/** Whether a finish only mirrors and refracts, sharply. */
export function isSharp(records: Float32Array, finish: number): boolean {
  const get = (offset: number) => records[finish * RECORD + offset / 4];
  const glow = [0, 1, 2].some((c) => records[finish * RECORD + F.emission + c] > 0);
  return (
    !glow &&
    get(K.F_SHEET) === 0 &&
    get(K.F_OPAQUE) * get(K.F_LIT) === 0 &&
    Math.max(get(K.F_ALPHA_X), get(K.F_ALPHA_Y)) <= SHARP &&
    (get(K.F_COAT) === 0 || Math.max(get(K.F_COAT_ALPHA_X), get(K.F_COAT_ALPHA_Y)) <= SHARP)
  );
}

/** What throws caustics in a scene and what light they are thrown from; null when there is none. */
export function photonSources(
  scene: RenderScene,
  records: Float32Array,
  lights: EyeLights,
  surround: Pick<SurroundMap, 'sun'>,
): PhotonSources | null {
  const { parts, instances, placements, solids, typeBox } = scene;
  // coats and feeds are met by chance, and what has another side is met as two: paths alone follow them
  const sharp = scene.finishes.map(({ recipe }, i) => !recipe && !scene.within[i] && isSharp(records, i));
  const glassy = scene.finishes.map((_, i) => records[i * RECORD + K.F_GLASS / 4] > 0);
  const stage = LARGEST * diagonalOf(typeBox);
  const casters = new Uint8Array(parts.count);
  const glass: Box[] = [];
  let box: Box | null = null;
  let all: Box | null = null;
  let own: Box | null = null;
  for (let p = 0; p < parts.count; p++) {
    const i = parts.instance[p];
    if (p === 0 || parts.instance[p - 1] !== i) {
      const world = composed(placements.now, instances.placement[i], instances.local, i);
      own = placed(world, boxOf(solids[instances.solid[i]]));
      all = all ? joined(all, own) : own;
    }
    if (glassy[parts.finish[p]]) glass.push(own!);
    if (!sharp[parts.finish[p]] || diagonalOf(own!) > stage) continue;
    casters[p] = 1;
    box = box ? joined(box, own!) : own!;
  }
  if (!box || !all) return null;

  const emitters: number[] = [];
  const sent: { emitter: number; way: number; weight: number }[] = [];
  const [ex, ey, ez] = box.max.map((v, k) => v - box.min[k]);
  /** About the box's area across any direction. */
  const area = (ex * ey + ey * ez + ez * ex) / 1.5;
  const middle = centreOf(box);
  const floats = new Float32Array(lights.emitters);
  const words = new Int32Array(lights.emitters);
  for (let e = 0; e < lights.count; e++) {
    const at = (e * K.EMITTER_BYTES) / 4;
    const kind = words[at + K.E_KIND / 4];
    if ((words[at + K.E_FLAGS / 4] & K.CASTS) === 0) continue;
    // photons do not know what lobes and things they may reach
    if (words[at + K.E_FEEDS / 4] !== K.FEEDS_ALL || words[at + K.E_LINKS / 4] !== 0) continue;
    const strength = floats[at + K.E_LUMINANCE / 4];
    if (!(strength > 0)) continue;
    if (kind === K.DIRECTIONAL) {
      sent.push({ emitter: e, way: K.ALONG, weight: strength * area });
      emitters.push(e);
      continue;
    }
    const { middle: place, radius } = lights.places[e];
    const distance = distanceTo(box, place) - radius;
    const size = kind === K.AREA || kind === K.GLOW ? floats[at + K.E_AREA / 4] : 0;
    if (!(distance > 0) || size > SMALL * distance * distance) continue;
    // photons set out in the air
    if (glass.some((b) => distanceTo(b, place) <= radius)) continue;
    const away2 = middle.reduce((s, v, k) => s + (v - place[k]) ** 2, 0);
    sent.push({ emitter: e, way: K.TO_BOX, weight: (strength * (size || 1) * area) / away2 });
    emitters.push(e);
  }
  const { tint, reach, blur } = scene.surround;
  const gain = scene.surround.gain * (tint ? luminance(tint[0], tint[1], tint[2]) : 1);
  const clip = surround.sun.clip * gain;
  const whole = feedsOf(reach) === K.FEEDS_ALL && !((blur?.mirrored ?? 0) > 0);
  const ofSky = whole && surround.sun.excess > 0 && gain > 0;
  if (ofSky) sent.push({ emitter: -1, way: K.ALONG, weight: surround.sun.excess * gain * area });
  const total = sent.reduce((s, { weight }) => s + weight, 0);
  if (!(total > 0)) return null;
  const sources = new ArrayBuffer(sent.length * K.SOURCE_BYTES);
  const view = new DataView(sources);
  let upTo = 0;
  sent.forEach(({ emitter, way, weight }, i) => {
    const chance = (1 - EVEN) * (weight / total) + EVEN / sent.length;
    upTo += chance;
    const at = i * K.SOURCE_BYTES;
    view.setInt32(at + K.SO_EMITTER, emitter, true);
    view.setInt32(at + K.SO_WAY, way, true);
    view.setFloat32(at + K.SO_CHANCE, chance, true);
    view.setFloat32(at + K.SO_UP_TO, upTo, true);
  });
  return {
    casters,
    box,
    emitters,
    records: sources,
    count: sent.length,
    ofSky,
    clip: ofSky ? clip : 1e30,
    reach: 1.1 * diagonalOf(all),
  };
}
