/** What the draft draws a scene from, prepared here so that the page only hands it on to the graphics card. */
import { worldBoxes } from '@wemlox/core/scene/faces';
import { placed, turned } from '@wemlox/core/scene/flatScene';
import type { RenderScene } from '@wemlox/core/scene/renderScene';
import { boxOf } from '@wemlox/core/scene/runs';
import { composed, inverseOf } from '@wemlox/core/scene/transform';
import { PlaceFinder, PLACES, placesNeeded, type PlaceName } from './places.ts';
import { draftFinish, MOST_BOXES, type DraftFinish } from './shader.ts';
import { ofKept, thinned, type Thin } from './thinned.ts';

export interface DraftPlacement {
  /** Its placement's own, or one for a letter that is moved by itself. */
  name: string;
  /** Corners and normals in the placement's own space, where letters are as they are laid; null when they are the ones sent before. WebGL takes no shared memory. */
  corners: {
    position: Float32Array<ArrayBuffer>;
    normal: Float32Array<ArrayBuffer>;
    /** Of their box. */
    middle: number[];
  } | null;
  /** Where its corners lie on what its finishes are fed along; null when they are those sent before. */
  places: Partial<Record<PlaceName, Float32Array<ArrayBuffer>>> | null;
  /** Corners ordered by finish; null when they are ordered as before. */
  drawn: {
    index: Uint32Array<ArrayBuffer>;
    /** Stretches of the index that have one finish. */
    groups: { start: number; count: number; finish: number }[];
  } | null;
  /** Into the world: three rows of four. */
  matrix: number[];
}

/** Of a scene that is not drawn. */
export const NOT_DRAWN: DraftBuffers = { placements: [], finishes: [], near: { type: [], stage: [] } };

export interface DraftBuffers {
  placements: DraftPlacement[];
  /** Of the scene's finishes, those that are worn and were not sent before; null for the rest. */
  finishes: (DraftFinish | null)[];
  /** What distances are told to, where a finish is fed by them: six numbers a box, metres in the world. */
  near: Record<'type' | 'stage', number[]>;
}

/** Names the triangles of a placement: alike contents, alike corners. */
function contentOf({ solids, instances }: RenderScene, members: readonly number[]): string {
  return members
    .map((i) => `${solids[instances.solid[i]].key}@${instances.rest.subarray(i * 12, i * 12 + 12).join()}`)
    .join('|');
}

/** Instances that are moved as one, with the name and the transform of all of them. */
interface MovedAsOne {
  name: string;
  members: number[];
  matrix: number[];
}

const isMoved = ({ instances: { local, rest } }: RenderScene, i: number) =>
  local !== rest && local.subarray(i * 12, i * 12 + 12).some((v, k) => v !== rest[i * 12 + k]);

/** Placements, of which letters that are moved by themselves are apart: their corners stay those that were sent. */
function movedAsOne(scene: RenderScene): MovedAsOne[] {
  const { placements, instances } = scene;
  const all = placements.names.map((name, p): MovedAsOne => {
    const matrix = [...placements.now.subarray(p * 12, p * 12 + 12)];
    return { name, members: [], matrix };
  });
  for (let i = 0; i < instances.count; i++) {
    const p = instances.placement[i];
    const of = all[p];
    if (!isMoved(scene, i)) {
      of.members.push(i);
      continue;
    }
    const world = composed(placements.now, p, instances.local, i);
    const matrix = [...composed(world, 0, inverseOf(instances.rest, i), 0)];
    all.push({ name: `${of.name}/${i}`, members: [i], matrix });
  }
  return all.filter((of) => of.members.length > 0);
}

/** Triangles of a placement above which some are left out where they can be. */
export const MOST_DRAWN = 100_000;

/** Whether a placement may be so large; a scene that is not has none. */
export const mayBeThinned = ({ solids, instances }: RenderScene): boolean => {
  let all = 0;
  for (let i = 0; i < instances.count; i++) all += solids[instances.solid[i]].triangles;
  return all > MOST_DRAWN;
};

/** What the page has of a placement. */
interface Sent {
  /** Names its triangles, what they wear, and what its feeds are laid over. */
  content: string;
  dress: string;
  laid: string;
  /** The corners that were sent; null for all. */
  kept: Uint32Array | null;
}

/** Prepares scenes one after the other, and leaves out what the page has. */
export class DraftPreparer {
  private sent = new Map<string, Sent>();
  private finishes = new Set<string>();

  /** @param thin leaves triangles of large placements out; null draws all */
  prepare(scene: RenderScene, thin: Thin | null): DraftBuffers {
    const { instances, parts } = scene;
    const partsOf = Array.from({ length: instances.count }, (): number[] => []);
    for (let p = 0; p < parts.count; p++) partsOf[parts.instance[p]].push(p);
    const now = new Map<string, Sent>();
    const needed = scene.finishes.map(({ recipe }) => (recipe ? placesNeeded(recipe) : []));
    const finder = needed.some((n) => n.length > 0) ? new PlaceFinder(scene) : null;
    const all = movedAsOne(scene).map(({ name, members, matrix }): DraftPlacement => {
      const last = this.sent.get(name);
      const content = contentOf(scene, members);
      const dress = members
        .map((i) => partsOf[i].map((q) => `${parts.first[q]}:${parts.finish[q]}`).join())
        .join('|');
      const worn = new Set(members.flatMap((i) => partsOf[i].map((q) => parts.finish[q])));
      const names = [...new Set([...worn].flatMap((f) => needed[f]))];
      const laid = finder && names.length > 0 ? `${content} ${finder.signature(names, members)}` : '';
      const isDrawn = last?.content === content && last.dress === dress;
      const { kept, corners, drawn } = isDrawn
        ? { kept: last.kept, corners: null, drawn: null }
        : drawnAnew(scene, members, partsOf, thin, last?.content === content && !last.kept);
      now.set(name, { content, dress, laid, kept });
      const isLaid = !corners && (last?.laid ?? '') === laid;
      const places = isLaid
        ? null
        : Object.fromEntries(names.map((n) => [n, ofKept(finder!.of(n, members), PLACES[n], kept)]));
      return { name, corners, places, drawn, matrix };
    });
    this.sent = now;
    return { placements: all, finishes: this.finishesOf(scene), near: nearOf(scene) };
  }

  private finishesOf({ finishes, parts, textures }: RenderScene): DraftBuffers['finishes'] {
    const had = this.finishes;
    this.finishes = new Set();
    const out = finishes.map((): DraftFinish | null => null);
    for (const i of new Set(parts.finish.subarray(0, parts.count))) {
      const { key } = finishes[i];
      if (!had.has(key) && !this.finishes.has(key)) out[i] = draftFinish(finishes[i], textures);
      this.finishes.add(key);
    }
    return out;
  }

  /** The page did not get what was prepared: next time it is given all. */
  forget(): void {
    this.sent = new Map();
    this.finishes = new Set();
  }
}

/** Triangles in the order they are drawn in, few enough for who draws them. @param hasCorners whether the page has all corners */
function drawnAnew(
  scene: RenderScene,
  members: readonly number[],
  partsOf: readonly number[][],
  thin: Thin | null,
  hasCorners: boolean,
): Pick<DraftPlacement, 'corners' | 'drawn'> & { kept: Uint32Array | null } {
  const drawn = indexOf(scene, members, partsOf);
  const thins = thin !== null && drawn.index.length > 3 * MOST_DRAWN;
  if (!thins) return { kept: null, corners: hasCorners ? null : cornersOf(scene, members), drawn };
  const { position, normal, middle } = cornersOf(scene, members);
  const { kept, index, groups } = thinned(drawn, { position, normal }, MOST_DRAWN, thin);
  return {
    kept,
    corners: { position: ofKept(position, 3, kept), normal: ofKept(normal, 3, kept), middle },
    drawn: { index, groups },
  };
}

function cornersOf({ solids, instances }: RenderScene, members: readonly number[]) {
  const count = members.reduce((sum, i) => sum + solids[instances.solid[i]].triangles, 0);
  const position = new Float32Array(count * 9);
  const normal = new Float32Array(count * 9);
  let at = 0;
  for (const i of members) {
    const solid = solids[instances.solid[i]];
    const rest = Float64Array.from(instances.rest.subarray(i * 12, i * 12 + 12));
    placed(solid.positions, position, at, rest);
    turned(solid.normals, normal, at, rest);
    at += solid.triangles * 9;
  }
  const box = new Float32Array(6);
  boxOf(position, 0, count, box, 0);
  return { position, normal, middle: [0, 1, 2].map((k) => (box[k] + box[3 + k]) / 2) };
}

/** The boxes that finishes tell their distance to. */
function nearOf(scene: RenderScene): DraftBuffers['near'] {
  const towards = new Set(
    scene.finishes.flatMap(({ recipe }) =>
      (recipe?.axes ?? []).flatMap(({ source, toward }) => (source === 'near' ? [toward] : [])),
    ),
  );
  const boxes = (of: 'type' | 'stage') =>
    towards.has(of)
      ? worldBoxes(scene, of)
          .slice(0, MOST_BOXES)
          .flatMap(({ min, max }) => [...min, ...max])
      : [];
  return { type: boxes('type'), stage: boxes('stage') };
}

/** Corners of a placement's parts, ordered by finish. */
function indexOf(
  { solids, instances, parts, finishes }: RenderScene,
  members: readonly number[],
  partsOf: readonly number[][],
): NonNullable<DraftPlacement['drawn']> {
  const byFinish = finishes.map((): [first: number, triangles: number][] => []);
  let at = 0;
  for (const i of members) {
    for (const p of partsOf[i]) byFinish[parts.finish[p]].push([at + parts.first[p], parts.triangles[p]]);
    at += solids[instances.solid[i]].triangles;
  }
  const index = new Uint32Array(at * 3);
  let to = 0;
  const groups = byFinish.flatMap((runs, finish) => {
    const start = to;
    for (const [first, triangles] of runs)
      for (let v = first * 3; v < (first + triangles) * 3; v++) index[to++] = v;
    return to > start ? [{ start, count: to - start, finish }] : [];
  });
  return { index: index.subarray(0, to), groups };
}

/** Memory that can be handed over instead of copied. */
export const handedOver = ({ placements, finishes }: DraftBuffers): ArrayBuffer[] => [
  ...placements.flatMap(({ corners, places, drawn }) => [
    ...(drawn ? [drawn.index.buffer] : []),
    ...Object.values(places ?? {}).map((p) => p.buffer),
    ...(corners ? [corners.position.buffer, corners.normal.buffer] : []),
  ]),
  ...finishes.flatMap((f) => (f ? [f.data.buffer] : [])),
];
