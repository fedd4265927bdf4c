/**
 * Scenes in the kernel's memory. Each solid has a tree of its own, built once and kept by content; a small tree over
 * the instances places them. So an edit builds the letters it changes, and what only moves builds none.
 */
import { blurredSurround } from '../light/blurred.ts';
import type { SurroundPicture } from '../light/surround.ts';
import type { RenderScene, SceneSolid, SceneSurround } from '../scene/renderScene.ts';
import { composed } from '../scene/transform.ts';
import { Arena } from './arena.ts';
import { MOST_GROUPS } from './film.ts';
import { FinishRecords } from './finishRecords.ts';
import { isLaidOut, type PictureAddress, type Pictures } from './recipeRecords.ts';
import { byteTable, textureKey, type Texture } from '../texture/texture.ts';
import { sitesOf } from './sites.ts';
import { instantiate, type KernelExports, type RayAddresses } from './kernel.ts';
import * as K from './kernelLayout.ts';
import { areaOfTriangle, bodyOf } from './lightBodies.ts';
import { hasBody, isWhite } from './lightTree.ts';
import { isSharp, MOST_PHOTONS } from './photonSources.ts';
import { halfFloats, surroundMap, type SurroundMap } from './surroundMap.ts';

/** Where a scene lies in memory: plain data, for the threads that trace it. */
export interface SceneAddresses extends RayAddresses {
  finishes: number;
  /** Sites of the instances; 0 where nothing is fed. */
  sites: number;
  surround: SurroundAddress;
  /** Room for what a lane's eye sees: parts, emitters, light tree. */
  eyes: number;
  eyeBytes: number;
  /** Cumulative areas of each solid's triangles, run by run (a place in them for each triangle, and one more). */
  areas: number[];
  /** The same of each light that has a body, in their order (hasBody). */
  bodies: number[];
  /** Pictures that lights are thrown through, by their keys. */
  textures: Record<string, number>;
  /** Room for photons as they land, as they are sorted, and for their cells; the same for all scenes that have something sharp. */
  photons: { landed: number; sorted: number; cells: number } | null;
  /** Room for a lane's share groups of a wave. */
  shares: number;
  shareBytes: number;
  /** Instances of the lights that have bodies begin here (hasBody). */
  firstLight: number;
  /** Triangles of all instances. */
  triangles: number;
}

/** A picture of half floats, and nits of a stored unit. */
interface SkyPicture {
  picture: number;
  width: number;
  height: number;
  unit: number;
}

interface SurroundAddress extends SkyPicture {
  /** What the camera and mirrors see in its place, blurred. */
  behind: SkyPicture | null;
  mirrored: SkyPicture | null;
  map: number;
  columns: number;
  rows: number;
  mean: number;
  sunny: boolean;
  sun: SurroundMap['sun'];
}

interface Kept<T> {
  what: T;
  blocks: number[];
  bytes: number;
  /** Scene that used it last. */
  used: number;
}

interface SolidAddress {
  nodes: number;
  packs: number;
  triangles: number;
  areas: number;
}

/** Beyond everything. */
const NOWHERE = 1e30;
/** Stands for a picture that is not there; the kernel takes it for black. */
const NO_PICTURE: PictureAddress = { at: 0, peak: 0 };
/** Bytes of what no present scene uses that are kept for the next. */
const MOST_UNUSED = 384 * 1024 * 1024;
export class SceneMemory {
  readonly memory: WebAssembly.Memory;
  private readonly arena: Arena;
  private readonly kernel: KernelExports;
  private readonly lanes: number;
  private readonly lanesAt: number;
  private readonly finishes = new FinishRecords();
  private readonly solids = new Map<string, Kept<SolidAddress>>();
  private readonly uvs = new Map<string, Kept<number>>();
  private readonly textures = new Map<string, Kept<PictureAddress>>();
  private readonly surrounds = new Map<SurroundPicture, Kept<SurroundAddress>>();
  private readonly blurs = new Map<SurroundPicture, Map<number, Kept<SkyPicture>>>();
  /** Blocks of the last two scenes: tracers may still look at the older. */
  private scenes: number[][] = [];
  private count = 0;
  private photons: SceneAddresses['photons'] | null = null;
  /** Solids whose trees were built so far. */
  built = 0;

  /** @param lanes how many threads will trace at once */
  constructor(module: WebAssembly.Module, memory: WebAssembly.Memory, lanes: number) {
    this.memory = memory;
    this.arena = new Arena(memory);
    this.kernel = instantiate(module, memory);
    this.lanes = lanes;
    this.lanesAt = this.arena.allocate(lanes * K.LANE_BYTES);
  }

  /** Bytes taken of the memory. */
  get used(): number {
    return this.arena.used;
  }

  /**
   * Lays a scene out beside the one before, which stays as it is until the next.
   * @throws RangeError when it does not fit into the kernel's memory
   */
  take(scene: RenderScene): SceneAddresses {
    this.count++;
    while (this.scenes.length > 1) for (const at of this.scenes.shift()!) this.arena.release(at);
    this.tidy();
    const own: number[] = [];
    this.scenes.push(own);
    const block = (bytes: number) => {
      const at = this.arena.allocate(bytes);
      own.push(at);
      return at;
    };
    const runs = runsOf(scene);
    const solids = scene.solids.map((solid, i) => this.solid(solid, runs[i]));
    const lights = scene.lights.filter(hasBody);
    const bodies = lights.map((light) => {
      const body = bodyOf(light);
      return this.solid({ uv: new Float32Array(0), ...body }, [body.triangles]);
    });
    const { instances, placements, parts } = scene;
    const instanceCount = instances.count + bodies.length;
    const instancesAt = block(instanceCount * K.INSTANCE_BYTES);
    const turns = new Map<string, number>();
    const firstPart = new Int32Array(instances.count);
    for (let p = parts.count - 1; p >= 0; p--) firstPart[parts.instance[p]] = p;
    let triangles = 0;
    for (let i = 0; i < instances.count; i++) {
      const world = composed(placements.now, instances.placement[i], instances.local, i);
      const address = solids[instances.solid[i]];
      const { catches, stays } = scene.things[parts.thing[firstPart[i]]];
      const flags = K.CASTS_SHADOW | (catches || stays ? K.STAYS : 0);
      this.instance(instancesAt, i, world, address, firstPart[i], flags, turns);
      triangles += scene.solids[instances.solid[i]].triangles;
    }
    let white = parts.count;
    lights.forEach((light, k) => {
      const { position, right, up, forward } = light.placed;
      const [w, h, d] =
        light.kind === 'area' ? [light.width, light.height, 1] : [light.radius, light.radius, light.radius];
      const world = [0, 1, 2].flatMap((a) => [right[a] * w, up[a] * h, -forward[a] * d, position[a]]);
      // white cards have parts of their own, after the scene's
      const part = isWhite(light) ? white++ : 0;
      this.instance(instancesAt, instances.count + k, world, bodies[k], part, K.IS_LIGHT, turns);
    });
    const pictures = this.pictures(scene);
    const { records, recipes } = this.finishes.compile(scene.finishes, pictures);
    const finishes = block(records.byteLength);
    this.arena.floats(finishes, records.length).set(records);
    scene.within.forEach((number, i) => {
      this.arena.words(finishes + i * K.FINISH_BYTES, K.FINISH_BYTES / 4)[K.F_WITHIN / 4] = number;
    });
    recipes.forEach((recipe, i) => {
      if (!recipe) return;
      const at = block(recipe.byteLength);
      new Uint8Array(this.memory.buffer, at, recipe.byteLength).set(recipe);
      this.arena.words(finishes + i * K.FINISH_BYTES, K.FINISH_BYTES / 4)[K.F_RECIPE / 4] = at;
    });
    // what lies over letters and blocks needs to know where it stands in them, and so do strokes that do not follow outlines
    const isPlaced = scene.finishes.some(({ recipe, brushing }) => recipe !== null || brushing !== 'outline');
    const sites = isPlaced ? this.sites(scene, block) : 0;
    const most = scene.lights.length + parts.count + 1;
    const eyeBytes =
      Math.ceil(
        (white * K.PART_BYTES + (most + 1) * (K.EMITTER_BYTES + K.LIGHT_NODE_BYTES + K.SOURCE_BYTES)) / 64,
      ) *
        64 +
      64;
    const eyes = block(eyeBytes * this.lanes);
    const shareBytes = Math.min(MOST_GROUPS, scene.groups.length) * K.WAVE * 12;
    const shares = block(shareBytes * this.lanes);
    const surround = this.surround(scene.surround);
    const top = block(this.kernel.nodeBytes(instanceCount));
    if (instanceCount > 0) {
      const scratch = this.arena.allocate(this.kernel.scratchBytes(instanceCount));
      this.kernel.buildTop(instancesAt, instanceCount, scratch, top);
      this.arena.release(scratch);
    } else {
      // boxes turned inside out, which no ray enters
      const root = this.arena.floats(top, K.NODE_CHILDREN / 4);
      for (let i = 0; i < root.length; i++) root[i] = i % 8 < 4 ? NOWHERE : -NOWHERE;
    }
    return {
      top,
      instances: instancesAt,
      lanes: this.lanesAt,
      finishes,
      sites,
      surround,
      eyes,
      eyeBytes,
      areas: solids.map((s) => s.areas),
      bodies: bodies.map((b) => b.areas),
      textures: this.beams(scene),
      photons: scene.finishes.some((_, i) => isSharp(records, i))
        ? (this.photons ??= this.roomForPhotons())
        : null,
      shares,
      shareBytes,
      firstLight: instances.count,
      triangles,
    };
  }

  /** Lays out the pictures that finishes are fed from. */
  private pictures({ textures }: RenderScene): Pictures {
    const laid = new Map(textures.map((t) => [t.key, this.texture(t)]));
    return ({ picture, coding }) => laid.get(textureKey(picture, coding)) ?? NO_PICTURE;
  }

  /** Addresses of the pictures that lights are thrown through. */
  private beams({ lights, textures }: RenderScene): Record<string, number> {
    const keys = new Set(lights.flatMap((l) => (l.kind === 'spot' || l.kind === 'point' ? [l.profile] : [])));
    for (const light of lights) if (light.kind === 'spot') keys.add(light.pattern?.texture);
    return Object.fromEntries(
      textures.filter((t) => keys.has(t.key)).map((t) => [t.key, this.texture(t).at]),
    );
  }

  private texture(texture: Texture): PictureAddress {
    const { key, coding, width, height, deep, data, levels, peak } = texture;
    let kept = this.textures.get(key);
    if (!kept) {
      const at = this.arena.allocate(K.PICTURE_BYTES + data.byteLength);
      const words = this.arena.words(at, K.PICTURE_BYTES / 4);
      words[K.PI_WIDTH / 4] = width;
      words[K.PI_HEIGHT / 4] = height;
      words[K.PI_LEVELS / 4] = levels.length;
      words[K.PI_DEEP / 4] = deep ? 1 : 0;
      this.arena.floats(at + K.PICTURE_TABLE, 256).set(byteTable(coding));
      levels.forEach((from, i) => (words[K.PICTURE_LEVELS / 4 + i] = at + K.PICTURE_BYTES + from));
      new Uint8Array(this.memory.buffer, at + K.PICTURE_BYTES, data.byteLength).set(data);
      kept = { what: { at, peak }, blocks: [at], bytes: data.byteLength, used: 0 };
      this.textures.set(key, kept);
    }
    kept.used = this.count;
    return kept.what;
  }

  private sites(scene: RenderScene, block: (bytes: number) => number): number {
    const laidOut = scene.finishes.some(({ recipe }) => recipe !== null && isLaidOut(recipe));
    const sites = sitesOf(
      scene,
      scene.solids.map((solid) => (laidOut ? this.coordinates(solid) : 0)),
    );
    const at = block(sites.byteLength);
    new Uint8Array(this.memory.buffer, at, sites.byteLength).set(sites);
    return at;
  }

  /** Texture coordinates of a solid's triangles. */
  private coordinates({ key, uv }: SceneSolid): number {
    let kept = this.uvs.get(key);
    if (!kept) {
      const at = this.arena.allocate(uv.byteLength);
      this.arena.floats(at, uv.length).set(uv);
      kept = { what: at, blocks: [at], bytes: uv.byteLength, used: 0 };
      this.uvs.set(key, kept);
    }
    kept.used = this.count;
    return kept.what;
  }

  private roomForPhotons() {
    return {
      landed: this.arena.allocate(MOST_PHOTONS * K.PHOTON_BYTES),
      sorted: this.arena.allocate(MOST_PHOTONS * K.PHOTON_BYTES),
      cells: this.arena.allocate((K.CELLS + 1) * 4),
    };
  }

  /** The finishes of a scene as floats, RECORD each. */
  records(scene: RenderScene): Float32Array {
    return this.finishes.compile(scene.finishes, this.pictures(scene)).records;
  }

  private solid(
    solid: Pick<SceneSolid, 'key' | 'triangles' | 'positions' | 'normals' | 'tangents'> & {
      uv: Float32Array;
    },
    runs: number[],
  ): SolidAddress {
    const key = `${solid.key} ${runs.join(' ')}`;
    let kept = this.solids.get(key);
    if (!kept) {
      kept = this.build(solid, runs);
      this.solids.set(key, kept);
    }
    kept.used = this.count;
    return kept.what;
  }

  private build(solid: Pick<SceneSolid, 'triangles' | 'positions' | 'normals' | 'tangents'>, runs: number[]) {
    const { arena, kernel } = this;
    this.built++;
    const n = solid.triangles;
    const stride = K.TRIANGLE_BYTES / 4;
    const triangles = arena.allocate(n * K.TRIANGLE_BYTES + 16);
    const areas = arena.allocate((n + runs.length) * 4);
    const scratch = arena.allocate(kernel.scratchBytes(n));
    const roomyNodes = arena.allocate(kernel.nodeBytes(n));
    const roomyPacks = arena.allocate(kernel.packBytes(n));
    const out = arena.floats(triangles, n * stride);
    const words = arena.words(triangles, n * stride);
    const sums = arena.floats(areas, n + runs.length);
    let t = 0;
    runs.forEach((length, run) => {
      let sum = 0;
      const first = t + run;
      sums[first] = 0;
      for (const end = t + length; t < end; t++) {
        out.set(solid.positions.subarray(t * 9, t * 9 + 9), t * stride);
        out.set(solid.normals.subarray(t * 9, t * 9 + 9), t * stride + 9);
        out.set(solid.tangents.subarray(t * 9, t * 9 + 9), t * stride + 18);
        words[t * stride + 27] = run;
        sum += areaOfTriangle(solid.positions, t * 9);
        sums[first + (t - (first - run)) + 1] = sum;
      }
      if (sum > 0) for (let k = first + 1; k <= first + length; k++) sums[k] /= sum;
    });
    kernel.build(triangles, n, scratch, roomyNodes, roomyPacks);
    const nodeBytes = kernel.nodesBuilt() * K.NODE_BYTES;
    const packBytes = kernel.packsBuilt() * K.PACK_BYTES;
    const nodes = arena.allocate(nodeBytes);
    const packs = arena.allocate(packBytes);
    const bytes = new Uint8Array(arena.memory.buffer);
    bytes.copyWithin(nodes, roomyNodes, roomyNodes + nodeBytes);
    bytes.copyWithin(packs, roomyPacks, roomyPacks + packBytes);
    for (const at of [scratch, roomyNodes, roomyPacks]) arena.release(at);
    return {
      what: { nodes, packs, triangles, areas },
      blocks: [nodes, packs, triangles, areas],
      bytes: nodeBytes + packBytes + n * K.TRIANGLE_BYTES,
      used: this.count,
    };
  }

  private instance(
    base: number,
    i: number,
    world: ArrayLike<number>,
    solid: SolidAddress,
    part: number,
    flags: number,
    turns: Map<string, number>,
  ): void {
    const at = base + i * K.INSTANCE_BYTES;
    const m = this.arena.floats(at, K.INSTANCE_BYTES / 4);
    const w = this.arena.words(at, K.INSTANCE_BYTES / 4);
    const back = inverted(world);
    for (let c = 0; c < 4; c++)
      for (let r = 0; r < 3; r++) {
        m[c * 4 + r] = world[r * 4 + c];
        m[16 + c * 4 + r] = back[r * 4 + c];
      }
    w[K.INSTANCE_NODES / 4] = solid.nodes;
    w[K.INSTANCE_PACKS / 4] = solid.packs;
    w[K.INSTANCE_TRIANGLES / 4] = solid.triangles;
    w[K.INSTANCE_PART / 4] = part;
    w[K.INSTANCE_FLAGS / 4] = flags;
    w[K.INSTANCE_TURN / 4] = numberOf(back, turns);
  }

  private surround({ picture, blur }: SceneSurround): SurroundAddress {
    const sharp = this.sharp(picture);
    const blurred = (radians = 0) => (radians > 0 ? this.blurred(picture, radians) : null);
    return { ...sharp, behind: blurred(blur?.behind), mirrored: blurred(blur?.mirrored) };
  }

  private halves(picture: SurroundPicture): { at: number; unit: number; bytes: number } {
    const { halves, unit } = halfFloats(picture);
    const at = this.arena.allocate(halves.byteLength);
    new Uint16Array(this.memory.buffer, at, halves.length).set(halves);
    return { at, unit, bytes: halves.byteLength };
  }

  private blurred(picture: SurroundPicture, radians: number): SkyPicture {
    let all = this.blurs.get(picture);
    if (!all) this.blurs.set(picture, (all = new Map<number, Kept<SkyPicture>>()));
    let kept = all.get(radians);
    if (!kept) {
      const soft = blurredSurround(picture, radians);
      const { at, unit, bytes } = this.halves(soft);
      kept = {
        what: { picture: at, width: soft.width, height: soft.height, unit },
        blocks: [at],
        bytes,
        used: 0,
      };
      all.set(radians, kept);
    }
    kept.used = this.count;
    return kept.what;
  }

  private sharp(picture: SurroundPicture): SurroundAddress {
    let kept = this.surrounds.get(picture);
    if (!kept) {
      const made = surroundMap(picture);
      const { at: halves, unit, bytes } = this.halves(picture);
      const map = this.arena.allocate(made.map.byteLength);
      new Uint8Array(this.memory.buffer, map, made.map.byteLength).set(new Uint8Array(made.map));
      const { columns, rows, mean, sunny, sun } = made;
      const { width, height } = picture;
      kept = {
        what: {
          picture: halves,
          map,
          width,
          height,
          columns,
          rows,
          unit,
          mean,
          sunny,
          sun,
          behind: null,
          mirrored: null,
        },
        blocks: [halves, map],
        bytes: bytes + made.map.byteLength,
        used: 0,
      };
      this.surrounds.set(picture, kept);
    }
    kept.used = this.count;
    return kept.what;
  }

  /** Gives back what neither the present scene nor the last uses, the longest unused first, beyond what is kept. */
  private tidy(): void {
    const unused: { kept: Kept<unknown>; forget: () => void }[] = [];
    const look = <Key>(map: Map<Key, Kept<unknown>>) => {
      for (const [key, kept] of map)
        if (kept.used < this.count - 1) unused.push({ kept, forget: () => map.delete(key) });
    };
    look(this.solids);
    look(this.uvs);
    look(this.textures);
    look(this.surrounds);
    for (const all of this.blurs.values()) look(all);
    let bytes = unused.reduce((sum, { kept }) => sum + kept.bytes, 0);
    unused.sort((a, b) => a.kept.used - b.kept.used);
    for (const { kept, forget } of unused) {
      if (bytes <= MOST_UNUSED) break;
      for (const at of kept.blocks) this.arena.release(at);
      forget();
      bytes -= kept.bytes;
    }
  }
}

/** Triangles of each solid's runs, from the parts of the first instance that has it. */
function runsOf({ solids, instances, parts }: RenderScene): number[][] {
  const first = new Map<number, number>();
  for (let i = 0; i < instances.count; i++)
    if (!first.has(instances.solid[i])) first.set(instances.solid[i], i);
  const runs: number[][] = solids.map(() => []);
  for (let p = 0; p < parts.count; p++) {
    const solid = instances.solid[parts.instance[p]];
    if (first.get(solid) === parts.instance[p]) runs[solid].push(parts.triangles[p]);
  }
  return runs;
}

/** Number of a matrix's turn and size: alike ones have the same. @param turns numbers of those seen before; grows */
function numberOf(matrix: Float64Array, turns: Map<string, number>): number {
  const key = matrix.filter((_, k) => k % 4 !== 3).join(' ');
  const known = turns.get(key) ?? turns.size;
  turns.set(key, known);
  return known;
}

/** The way back of a transform, by cofactors. */
function inverted(m: ArrayLike<number>): Float64Array {
  const [a, b, c, x, d, e, f, y, g, h, i, z] = Array.from(m);
  const A = e * i - f * h;
  const B = f * g - d * i;
  const C = d * h - e * g;
  const s = 1 / (a * A + b * B + c * C);
  const rows = [
    [A * s, (c * h - b * i) * s, (b * f - c * e) * s],
    [B * s, (a * i - c * g) * s, (c * d - a * f) * s],
    [C * s, (b * g - a * h) * s, (a * e - b * d) * s],
  ];
  return Float64Array.from(rows.flatMap((r) => [...r, -(r[0] * x + r[1] * y + r[2] * z)]));
}
