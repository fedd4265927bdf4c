import { newCamera, plainSurface, type Coat, type Feed, type Surface } from '../../src/document/index.ts';
import type { Vec } from '../../src/light/placing.ts';
import type { SurroundPicture } from '../../src/light/surround.ts';
import { finishOptics } from '../../src/finish/optics.ts';
import type { RenderScene, SceneLight, SceneSurround } from '../../src/scene/renderScene.ts';
import { SceneBuilder } from '../../src/scene/sceneBuilder.ts';
import { IDENTITY } from '../../src/scene/transform.ts';
import { plainTangents } from '../../src/maths/tangents.ts';
import { kernelMemory } from '../../src/trace/kernel.ts';
import { developed } from '../../src/trace/developing.ts';
import { createFilm, type Film, type FilmOptions } from '../../src/trace/film.ts';
import { createControl, nextRun, traceShare } from '../../src/trace/tiles.ts';
import { FINISH_BYTES, LANE_RAYS } from '../../src/trace/kernelLayout.ts';
import { prepared } from '../../src/trace/prepare.ts';
import { SceneMemory } from '../../src/trace/sceneMemory.ts';
import { WaveTracer } from '../../src/trace/waveTracer.ts';
import type { Eye } from '../../src/trace/eye.ts';
import { kernelModule } from './kernelFixture.ts';

/** Two triangles: corner and two edges; the normal is their cross product. */
export function quad(corner: Vec, a: Vec, b: Vec): number[] {
  const at = (s: number, t: number) => corner.map((v, i) => v + a[i] * s + b[i] * t);
  return [...at(0, 0), ...at(1, 0), ...at(1, 1), ...at(0, 0), ...at(1, 1), ...at(0, 1)];
}

/** A closed box, faces outward. */
export function box([x0, y0, z0]: Vec, [x1, y1, z1]: Vec): number[] {
  const [w, h, d] = [x1 - x0, y1 - y0, z1 - z0];
  return [
    ...quad([x0, y0, z1], [w, 0, 0], [0, h, 0]),
    ...quad([x1, y0, z0], [-w, 0, 0], [0, h, 0]),
    ...quad([x0, y1, z1], [w, 0, 0], [0, 0, -d]),
    ...quad([x0, y0, z0], [w, 0, 0], [0, 0, d]),
    ...quad([x1, y0, z1], [0, 0, -d], [0, h, 0]),
    ...quad([x0, y0, z0], [0, 0, d], [0, h, 0]),
  ];
}

export const flatSurround = (r: number, g = r, b = r): SurroundPicture => ({
  width: 8,
  height: 4,
  data: Float32Array.from({ length: 96 }, (_, i) => [r, g, b][i % 3]),
});

type Loose<T> = T extends unknown ? Omit<T, 'id' | 'group'> : never;

/** A light without the numbers that follow from its place in the scene. */
export type TestLight = Loose<SceneLight>;

/** A scene's changes, without the numbers that only follow from their place. */
export type SceneChanges = Omit<Partial<RenderScene>, 'lights' | 'surround'> & {
  lights?: TestLight[];
  surround?: Loose<SceneSurround>;
};

/** A scene of flat-shaded triangle lists, one part each. */
export function sceneOf(
  pieces: {
    triangles: number[];
    surface?: Partial<Surface>;
    feeds?: Feed[];
    coats?: Coat[];
    /** Stands for a letter of a block of its own. */
    type?: true;
    /** Leaves only shadow and reflection. */
    catches?: true;
    /** It was there before all else. */
    stays?: true;
  }[],
  changes: SceneChanges = {},
): RenderScene {
  const builder = new SceneBuilder();
  builder.place('fixture', IDENTITY);
  pieces.forEach(({ triangles: all, type, catches, stays }, i) => {
    if (type) builder.place(`block/${i}`, IDENTITY);
    const normals: number[] = [];
    for (let t = 0; t < all.length; t += 9) {
      const e1 = [0, 1, 2].map((k) => all[t + 3 + k] - all[t + k]);
      const e2 = [0, 1, 2].map((k) => all[t + 6 + k] - all[t + k]);
      const n = [e1[1] * e2[2] - e1[2] * e2[1], e1[2] * e2[0] - e1[0] * e2[2], e1[0] * e2[1] - e1[1] * e2[0]];
      const l = Math.hypot(...n);
      for (let k = 0; k < 3; k++) normals.push(...n.map((v) => v / l));
    }
    const triangles = all.length / 9;
    const solid = {
      key: `solid ${i}`,
      triangles,
      positions: Float32Array.from(all),
      normals: Float32Array.from(normals),
      tangents: Float32Array.from(plainTangents(normals, [1, 0, 0], [0, 0, 1])),
      // along x and across y, in the plane of the page
      uv: Float32Array.from({ length: triangles * 12 }, (_, k) => all[Math.floor(k / 4) * 3 + (k % 2)]),
    };
    const part = { first: 0, triangles, zone: null, colour: null, finish: i, group: null };
    builder.add(
      solid,
      IDENTITY,
      type
        ? { block: `b${i}`, letter: 'l', piece: null }
        : { block: null, letter: null, piece: `p${i}`, catches, stays },
      [part],
    );
  });
  const { lights = [], surround, ...rest } = changes;
  return {
    solids: builder.solids,
    things: builder.things,
    ...builder.built(false),
    finishes: pieces.map(({ surface, feeds = [], coats = [] }) =>
      finishOptics({ surface: plainSurface(surface), feeds, coats }),
    ),
    within: pieces.map(() => 0),
    textures: [],
    lights: lights.map((l, i) => ({ ...l, id: `light-${i}`, group: i }) as SceneLight),
    surround: {
      ...(surround ?? { picture: flatSurround(0), gain: 1, turn: 0, seen: true }),
      group: lights.length,
    },
    groups: [...lights.map((l) => l.name), 'Surround'],
    typeBox: { min: [-1, -1, -1], max: [1, 1, 1] },
    camera: newCamera({ target: [0, 0, 0], elevation: 0, distance: 1 }),
    aspect: 1,
    bounces: 4,
    limits: null,
    time: 0,
    ...rest,
  };
}

/** A narrow look straight along a direction, so that the whole film sees one spot. */
export const spotView = (origin: Vec, forward: Vec, width = 8): Eye => ({
  width,
  height: width,
  orthographic: true,
  origin,
  forward,
  right: [1e-4, 0, 0],
  up: Math.abs(forward[1]) > 0.9 ? [0, 0, 1e-4] : [0, 1e-4, 0],
  visible: null,
  dress: null,
  bounces: 1,
  limits: null,
});

export function tracerFor(scene: RenderScene, view: Eye): WaveTracer {
  const memory = kernelMemory(false);
  const tracer = new WaveTracer(kernelModule, memory, 0);
  tracer.aim(prepared(new SceneMemory(kernelModule, memory, 1), scene), view);
  return tracer;
}

/** Stages of the kernel that can be tried alone (kernel/assembly/probe.ts). */
export const STAGES = { evaluate: 0, sample: 1, draw: 2, look: 3, sky: 4 } as const;
/** Vectors a stage takes and gives. */
const TAKEN = { evaluate: 6, sample: 6, draw: 1, look: 3, sky: 2 };
const GIVEN = { evaluate: 4, sample: 8, draw: 2, look: 4, sky: 7 };

/** Paths probed at once: they lie where a lane has its batches. */
const MOST_PROBED = 128;

/** Single stages of the kernel on one scene's finishes and surround, one path at a time. */
export class Probe {
  readonly records: Float32Array;
  private readonly kernel: WaveTracer['kernel'];
  private readonly memory: WebAssembly.Memory;
  private readonly finishes: number;
  private readonly at: number;

  constructor(scene: RenderScene) {
    this.memory = kernelMemory(false);
    const tracer = new WaveTracer(kernelModule, this.memory, 0);
    const made = prepared(new SceneMemory(kernelModule, this.memory, 1), scene);
    tracer.aim(made, spotView([0, 0, 1], [0, 0, -1]));
    this.kernel = tracer.kernel;
    this.records = made.records;
    this.finishes = made.addresses.finishes;
    this.at = made.addresses.lanes + LANE_RAYS;
  }

  /** Runs a stage for many paths: of each what the stage takes, then what it gives. Words are given as their bits. */
  many(
    stage: keyof typeof STAGES,
    finish: number,
    inside: number,
    numbers: ArrayLike<number>,
    words = false,
  ): Float32Array {
    const [taken, given] = [TAKEN[stage], GIVEN[stage]];
    const paths = numbers.length / taken;
    const out = new Float32Array(paths * given);
    for (let first = 0; first < paths; first += MOST_PROBED) {
      const count = Math.min(MOST_PROBED, paths - first);
      const groups = Math.ceil(count / 4);
      const outAt = this.at + groups * taken * 16;
      const input = words
        ? new Int32Array(this.memory.buffer, this.at, groups * taken * 4)
        : new Float32Array(this.memory.buffer, this.at, groups * taken * 4);
      for (let p = 0; p < groups * 4; p++)
        for (let k = 0; k < taken; k++)
          input[((p >> 2) * taken + k) * 4 + (p & 3)] = numbers[(first + Math.min(p, count - 1)) * taken + k];
      this.kernel.probe(STAGES[stage], finish, inside, this.at, taken, outAt, given, groups);
      const output = new Float32Array(this.memory.buffer, outAt, groups * given * 4);
      for (let p = 0; p < count; p++)
        for (let k = 0; k < given; k++)
          out[(first + p) * given + k] = output[((p >> 2) * given + k) * 4 + (p & 3)];
    }
    return out;
  }

  /** Address of one of the scene's finishes. */
  finish = (number: number) => this.finishes + number * FINISH_BYTES;

  private run(stage: keyof typeof STAGES, finish: number, inside: number, numbers: number[], words = false) {
    return [...this.many(stage, finish, inside, numbers, words)];
  }

  /** f · |cos| r g b and density. @param finish a finish of the scene */
  evaluate(finish: number, inside: boolean, o: readonly number[], i: readonly number[]): number[] {
    return this.run('evaluate', this.finish(finish), inside ? 1 : 0, [...o, ...i]);
  }

  /** f · |cos| r g b, density, direction x y z; null when the path ends. */
  sample(finish: number, inside: boolean, o: readonly number[], lot: number, u: number, v: number) {
    const out = this.run('sample', this.finish(finish), inside ? 1 : 0, [...o, lot, u, v]);
    return out[7] === 0 ? null : out;
  }

  /** A point of a dimension pair. */
  draw(pixel: number, index: number, pair: number): number[] {
    return this.run('draw', index, pair, [pixel], true);
  }

  /**
   * Chances with which lights are chosen: the surround's, then each emitter's (directional lights first).
   * @param place position, normal, mirrored view, diffuse and mirror shares, squared width, whether light comes through
   */
  lights(place: readonly number[], emitters: number): number[] {
    new Float32Array(this.memory.buffer, this.at, 13).set(place);
    this.kernel.probeLights(this.at, this.at + 64, emitters);
    return [...new Float32Array(this.memory.buffer, this.at + 64, emitters + 1)];
  }

  /** The light chosen at the place last asked for: −1 the surround, −2 none; and its chance. */
  choice(u: number): [number, number] {
    const chosen = this.kernel.probeChoice(u, this.at);
    return [chosen, new Float32Array(this.memory.buffer, this.at, 1)[0]];
  }

  /** Radiance r g b and density. */
  look(direction: readonly number[]): number[] {
    return this.run('look', 0, 0, [...direction]);
  }

  /** Radiance r g b, density, direction x y z. */
  sky(u: number, v: number): number[] {
    return this.run('sky', 0, 0, [u, v]);
  }
}

/** A film of so many samples, traced as the product does. */
export function tracedFilm(
  scene: RenderScene,
  view: Eye,
  samples: number,
  seed = 1,
  options: FilmOptions = {},
): Film {
  const film = createFilm(view.width, view.height, options);
  const control = createControl();
  traceShare(tracerFor(scene, view), film, control, nextRun(control), 0, samples, seed);
  return film;
}

/** The developed film, r g b alpha a pixel. */
export const traced = (scene: RenderScene, view: Eye, samples: number, seed = 1): Float32Array =>
  developed(tracedFilm(scene, view, samples, seed), samples);

/** Mean of one channel over the film. */
export function meanOf(picture: Float32Array, channel: number): number {
  let sum = 0;
  for (let i = channel; i < picture.length; i += 4) sum += picture[i];
  return sum / (picture.length / 4);
}
