/** Path tracing with the kernel, for one thread: aims it with an eye, and adds its waves to films. */
import { intoPicture } from '../light/surround.ts';
import { luminance } from '../maths/colour.ts';
import type { Eye } from './eye.ts';
import { addSample, isGoodEnough } from './adding.ts';
import { addAlone, addBehind, isCaught } from './catching.ts';
import { squareOf, type Film } from './film.ts';
import { F, RECORD } from './finishRecords.ts';
import { instantiate, type KernelExports } from './kernel.ts';
import * as K from './kernelLayout.ts';
import { eyeLights, feedsOf, isWhite, type EyeLights } from './lightTree.ts';
import { photonCount, photonRadius, photonSources, type PhotonSources } from './photonSources.ts';
import type { PreparedScene } from './prepare.ts';

/** What a tracer is seen as by those who share a film between several. */
export interface TileTracer {
  traceTile(
    film: Film,
    x0: number,
    y0: number,
    x1: number,
    y1: number,
    first: number,
    last: number,
    seed: number,
  ): void;
  /** How light that comes by photons is brought; null where none does. */
  readonly photons: PhotonWork | null;
}

/** The map of photons that a sample of the whole picture shares; see tiles.ts for who does what when. */
export interface PhotonWork {
  /** Waves of photons a sample sends. */
  waves: number;
  send(wave: number, sample: number, seed: number): void;
  /** Sorts what has landed, once all of a sample's waves are sent. */
  sort(sample: number): void;
  /** Takes in photons of a sample's map from now on, or none. */
  use(sample: number | null): void;
}

/** Widest lobe for which lights that have a size are not sought; wider where nothing small and bright shines. */
const MIRROR = 2e-3;
const MIRROR_IN_SOFT_LIGHT = 1e-2;
/** How the kernel knows an eye that gives its rays. */
const GIVEN_RAYS = 2;
/** Bounces of one kind that count as no limit. */
const NO_LIMIT = 1023;

/** Whether light goes straight through a finish. */
const isPane = (records: Float32Array, finish: number) =>
  records[finish * RECORD + F.sheet] > 0 && records[finish * RECORD + F.sheetAlpha] === 0;

/** Whether it goes through one of the surfaces that stand from a number on. */
function hasPane(records: Float32Array, from: number): boolean {
  for (let i = from; i < records.length / RECORD; i++) if (isPane(records, i)) return true;
  return false;
}

export class WaveTracer implements TileTracer {
  /** The thread's own instance of the kernel. */
  readonly kernel: KernelExports;
  private readonly memory: WebAssembly.Memory;
  private readonly lane: number;
  private prepared: PreparedScene | null = null;
  private eye: Eye | null = null;
  /** Lights by what glows: eyes that dress the same parts alike share them. */
  private lights = new Map<string, EyeLights>();
  photons: PhotonWork | null = null;
  /** Radius within which photons are taken in now; 0 takes none. */
  private taking = 0;

  constructor(module: WebAssembly.Module, memory: WebAssembly.Memory, lane: number) {
    this.kernel = instantiate(module, memory);
    this.memory = memory;
    this.lane = lane;
  }

  /** Rays traced so far, of all kinds. */
  get rays(): number {
    return this.kernel.raysTraced();
  }

  /** Looks at a scene through an eye; cheap when it is what it looked at before. */
  aim(prepared: PreparedScene, eye: Eye): void {
    if (this.prepared === prepared && this.eye === eye) return;
    if (this.prepared !== prepared) this.lights.clear();
    this.prepared = prepared;
    this.eye = eye;
    const { scene, addresses, records } = prepared;
    const { parts } = scene;
    const { buffer } = this.memory;
    const laneAt = addresses.lanes + this.lane * K.LANE_BYTES;
    const partsAt = addresses.eyes + this.lane * addresses.eyeBytes;
    const dressed = Int32Array.from(parts.finish, (finish, i) => {
      const worn = eye.dress?.[i] ?? -1;
      return worn >= 0 ? worn : finish;
    });
    const lights = this.lightsOf(prepared, dressed);
    // small looks at single finishes do without photons
    const sources =
      eye.dress || eye.visible || !addresses.photons
        ? null
        : photonSources(scene, records, lights, addresses.surround);
    const whites = scene.lights.filter(isWhite);
    const allParts = parts.count + whites.length;
    const words = new Int32Array(buffer, partsAt, (allParts * K.PART_BYTES) / 4);
    // surfaces of coats may be panes, whatever the coat below is
    let sheets = hasPane(records, scene.finishes.length);
    for (let i = 0; i < parts.count; i++) {
      if (isPane(records, dressed[i])) sheets = true;
      const hidden = eye.visible !== null && eye.visible[i] === 0;
      const at = (i * K.PART_BYTES) / 4;
      words[at] = dressed[i];
      words[at + K.PART_FLAGS / 4] =
        (hidden ? K.PART_HIDDEN : 0) |
        (parts.twoSided[i] ? K.PART_TWO_SIDED : 0) |
        (sources?.casters[i] ? K.PART_CASTER : 0) |
        (scene.things[parts.thing[i]].catches ? K.PART_CATCHES : 0);
      words[at + K.PART_EMITTER / 4] = lights.ofPart[i];
      words[at + K.PART_GROUP / 4] = parts.group[i];
      words[at + K.PART_LINKS / 4] = lights.links[parts.thing[i]];
    }
    whites.forEach(({ white }, k) => {
      words.fill(0, ((parts.count + k) * K.PART_BYTES) / 4, ((parts.count + k + 1) * K.PART_BYTES) / 4);
      const at = ((parts.count + k) * K.PART_BYTES) / 4;
      words[at] = white;
      words[at + K.PART_EMITTER / 4] = -1;
    });
    const emittersAt = partsAt + allParts * K.PART_BYTES;
    new Uint8Array(buffer, emittersAt, lights.emitters.byteLength).set(new Uint8Array(lights.emitters));
    const flags = new Int32Array(buffer, emittersAt, lights.emitters.byteLength / 4);
    for (const e of sources?.emitters ?? []) flags[(e * K.EMITTER_BYTES + K.E_FLAGS) / 4] |= K.BY_PHOTONS;
    const nodesAt = emittersAt + lights.emitters.byteLength;
    new Uint8Array(buffer, nodesAt, lights.nodes.byteLength).set(new Uint8Array(lights.nodes));
    const instances = new DataView(buffer);
    lights.ofBody.forEach((emitter, k) => {
      const at = addresses.instances + (addresses.firstLight + k) * K.INSTANCE_BYTES;
      // the same for every lane and eye
      instances.setInt32(at + K.INSTANCE_EMITTER, emitter, true);
    });
    const { kernel } = this;
    kernel.init(addresses.top, addresses.instances, laneAt);
    kernel.setScene(addresses.instances, addresses.finishes, addresses.sites, laneAt);
    kernel.setLights(
      partsAt,
      emittersAt,
      nodesAt,
      lights.nodeCount,
      lights.directionals,
      lights.points ? 1 : 0,
      sheets ? 1 : 0,
      lights.count === 0 && !addresses.surround.sunny ? MIRROR_IN_SOFT_LIGHT : MIRROR,
      lights.cards,
      lights.parted ? 1 : 0,
      lights.discs ? 1 : 0,
      lights.sought,
    );
    const at = laneAt + K.LANE_RAYS;
    const { radius, focus, blades, turn } = eye.lens ?? { radius: 0, focus: 1, blades: 0, turn: 0 };
    new Float32Array(buffer, at, 18).set([
      ...eye.origin,
      ...eye.forward,
      ...eye.right,
      ...eye.up,
      ...(eye.shift ?? [0, 0]),
      radius,
      focus,
      blades,
      turn / (2 * Math.PI) - Math.floor(turn / (2 * Math.PI)),
    ]);
    kernel.setEye(at, eye.width, eye.height, eye.rays ? GIVEN_RAYS : eye.orthographic ? 1 : 0);
    kernel.setMasks(eye.visible === null ? 0 : 1);
    const { scattered, mirrored, through } = eye.limits ?? {
      scattered: NO_LIMIT,
      mirrored: NO_LIMIT,
      through: NO_LIMIT,
    };
    kernel.setLimits(scattered, mirrored, through);
    this.setPhotons(sources, nodesAt + lights.nodes.byteLength, at, eye);
    this.setSurround(prepared, at);
  }

  /** @param at where the words of a surround fit */
  private setSurround({ scene: { surround }, addresses: { surround: s } }: PreparedScene, at: number): void {
    const words = new Int32Array(this.memory.buffer, at, K.SURROUND_BYTES / 4);
    const floats = new Float32Array(this.memory.buffer, at, K.SURROUND_BYTES / 4);
    const { gain, tint = [1, 1, 1] } = surround;
    const put = (from: number, { picture, width, height, unit }: typeof s) => {
      words.set([picture, width, height], from / 4);
      floats[from / 4 + 3] = unit * gain;
    };
    put(K.SU_PICTURE, s);
    put(K.SU_BEHIND, s.behind ? { ...s, ...s.behind } : s);
    put(K.SU_MIRRORED, s.mirrored ? { ...s, ...s.mirrored } : s);
    const m = intoPicture(surround);
    for (let row = 0; row < 3; row++)
      floats.set([...m.slice(row * 3, row * 3 + 3), tint[row]], (K.SU_XX + row * 16) / 4);
    words.set([s.map, s.columns, s.rows], K.SU_MAP / 4);
    floats[K.SU_WEIGHT / 4] = Math.PI * s.mean * gain * luminance(tint[0], tint[1], tint[2]);
    const { ground } = surround;
    words.set(
      [surround.group, surround.seen ? 1 : 0, feedsOf(surround.reach), ground ? 1 : 0],
      K.SU_GROUP / 4,
    );
    if (ground) floats.set([...ground.at, ground.eye], K.SU_GROUND_X / 4);
    this.kernel.setSurround(at);
  }

  /**
   * What rays from one place meet first, as the eye's masks are not.
   * @param rays directions, of any length @param hit is told of each ray that meets something
   */
  firstHits(
    [ox, oy, oz]: readonly number[],
    rays: readonly (readonly number[])[],
    reach: number,
    hit: (ray: number, instance: number, triangle: number) => void,
  ): void {
    const lane = this.prepared!.addresses.lanes + this.lane * K.LANE_BYTES;
    const [raysAt, hitsAt] = [lane + K.LANE_RAYS, lane + K.LANE_HITS];
    const given = new Float32Array(this.memory.buffer, raysAt, (K.BATCH_RAYS * K.RAY_BYTES) / 4);
    const found = new Int32Array(this.memory.buffer, hitsAt, (K.BATCH_RAYS * K.HIT_BYTES) / 4);
    for (let first = 0; first < rays.length; first += K.BATCH_RAYS) {
      const count = Math.min(K.BATCH_RAYS, rays.length - first);
      for (let i = 0; i < count; i++) {
        const [x, y, z] = rays[first + i];
        const l = Math.hypot(x, y, z);
        given.set([ox, oy, oz, 0, x / l, y / l, z / l, reach], i * 8);
      }
      this.kernel.closestBatch(raysAt, hitsAt, count);
      for (let i = 0; i < count; i++)
        if (found[i * 8 + 3] >= 0) hit(first + i, found[i * 8 + 4], found[i * 8 + 3]);
    }
    // the eye's own numbers stand where rays were
    this.eye = null;
  }

  /** @param room where source records fit; @param scratch where a box fits */
  private setPhotons(sources: PhotonSources | null, room: number, scratch: number, eye: Eye): void {
    const { kernel, memory } = this;
    const { photons } = this.prepared!.addresses;
    kernel.usePhotons(0);
    this.taking = 0;
    this.photons = null;
    if (!sources || !photons) return;
    new Uint8Array(memory.buffer, room, sources.records.byteLength).set(new Uint8Array(sources.records));
    new Float32Array(memory.buffer, scratch, 6).set([...sources.box.min, ...sources.box.max]);
    kernel.setSources(room, sources.count, sources.ofSky ? 1 : 0, scratch, sources.reach);
    kernel.setPhotons(photons.landed, photons.sorted, photons.cells, sources.clip);
    const all = photonCount(eye.width, eye.height);
    const radius = (sample: number) => photonRadius(sources, eye, sample);
    this.photons = {
      waves: all / K.WAVE,
      send: (wave, sample, seed) => kernel.sendPhotons(wave * K.WAVE, all, sample, seed, eye.bounces),
      sort: (sample) => void kernel.sortPhotons(all, radius(sample)),
      use: (sample) => {
        this.taking = sample === null ? 0 : radius(sample);
        kernel.usePhotons(this.taking);
      },
    };
  }

  private lightsOf({ scene, records, addresses }: PreparedScene, dressed: Int32Array): EyeLights {
    const glows: number[] = [];
    for (let i = 0; i < dressed.length; i++) {
      const at = dressed[i] * RECORD + F.emission;
      if (records[at] + records[at + 1] + records[at + 2] > 0) glows.push(i, dressed[i]);
    }
    const key = glows.join(' ');
    let lights = this.lights.get(key);
    if (!lights) {
      lights = eyeLights(scene, records, dressed, addresses.areas, {
        bodies: addresses.bodies,
        textures: addresses.textures,
        first: addresses.firstLight,
      });
      this.lights.set(key, lights);
    }
    return lights;
  }

  /** Lays the rays of a square of pixels out for its wave, row by row. */
  private giveRays(
    rays: Float32Array,
    width: number,
    x: number,
    y: number,
    right: number,
    bottom: number,
  ): void {
    const { addresses } = this.prepared!;
    const at = addresses.lanes + this.lane * K.LANE_BYTES + K.LANE_HITS;
    const room = new Float32Array(this.memory.buffer, at, K.WAVE * 6);
    for (let py = y, to = 0; py < bottom; py++, to += (right - x) * 6)
      room.set(rays.subarray((py * width + x) * 6, (py * width + right) * 6), to);
  }

  /** Where a wave was caught, adds what would be there without all else, and what lies behind. */
  private lookPast(
    film: Film,
    left: Float32Array,
    x: number,
    y: number,
    right: number,
    bottom: number,
    s: number,
    seed: number,
  ): void {
    const caught: number[] = [];
    const count = (right - x) * (bottom - y);
    for (let i = 0; i < count; i++) if (isCaught(left, i * K.FILM_WORDS)) caught.push(i);
    if (caught.length === 0) return;
    const { kernel } = this;
    const pixelOf = (i: number) => (y + Math.floor(i / (right - x))) * film.width + x + (i % (right - x));
    kernel.setShares(0, 0);
    kernel.usePhotons(0);
    kernel.setView(K.ALONE);
    kernel.traceWave(x, y, right, bottom, s, seed, this.eye!.bounces);
    for (const i of caught) addAlone(film, left, i * K.FILM_WORDS, pixelOf(i));
    kernel.usePhotons(this.taking);
    kernel.setView(K.PAST);
    kernel.traceWave(x, y, right, bottom, s, seed, this.eye!.bounces);
    for (const i of caught) addBehind(film, left, i * K.FILM_WORDS, pixelOf(i));
    kernel.setView(K.WHOLE);
    const { addresses } = this.prepared!;
    kernel.setShares(film.groups > 0 ? addresses.shares + this.lane * addresses.shareBytes : 0, film.groups);
  }

  /** Adds samples [first, last) of a tile of pixels to a film. */
  traceTile(
    film: Film,
    x0: number,
    y0: number,
    x1: number,
    y1: number,
    first: number,
    last: number,
    seed: number,
  ): void {
    const { addresses } = this.prepared!;
    const eye = this.eye!;
    const left = new Float32Array(
      this.memory.buffer,
      addresses.lanes + this.lane * K.LANE_BYTES + K.LANE_RAYS,
      K.WAVE * K.FILM_WORDS,
    );
    const { shares, stopped, width } = film;
    const { kernel } = this;
    const sharesAt = addresses.shares + this.lane * addresses.shareBytes;
    kernel.setShares(film.groups > 0 ? sharesAt : 0, film.groups);
    const apart = new Float32Array(this.memory.buffer, sharesAt, film.groups * K.WAVE * 3);
    const plane = width * film.height * 3;
    for (let y = y0; y < y1; y += K.WAVE_SIDE) {
      for (let x = x0; x < x1; x += K.WAVE_SIDE) {
        const [right, bottom] = [Math.min(x1, x + K.WAVE_SIDE), Math.min(y1, y + K.WAVE_SIDE)];
        const square = squareOf(film, x, y);
        if (eye.rays) this.giveRays(eye.rays, width, x, y, right, bottom);
        for (let s = first; s < last && stopped[square] === 0; s++) {
          if (isGoodEnough(film, x, y, s)) {
            stopped[square] = s;
            break;
          }
          kernel.traceWave(x, y, x1, y1, s, seed, eye.bounces);
          for (let py = y, from = 0; py < bottom; py++)
            for (let px = x; px < right; px++, from += K.FILM_WORDS)
              addSample(film, left, from, px, py, s, x, y, right, bottom);
          for (let g = 0; g < film.groups; g++)
            for (let py = y, from = g * K.WAVE * 3; py < bottom; py++) {
              const to = g * plane + (py * width + x) * 3;
              for (let k = 0; k < (right - x) * 3; k++, from++) shares[to + k] += apart[from];
            }
          if (film.catchAt > 0) this.lookPast(film, left, x, y, right, bottom, s, seed);
        }
      }
    }
  }
}
