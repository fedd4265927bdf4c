/** What the draft draws a scene from, prepared here so that the page only hands it on to the graphics card. */
import { placed, turned } from '@wemlox/core/scene/flatScene';
import type { RenderScene } from '@wemlox/core/scene/renderScene';
import { PlaceFinder, placesNeeded, type PlaceName } from './places.ts';
import { draftFinish, type DraftFinish } from './shader.ts';

export interface DraftPlacement {
  name: string;
  /** Corners and normals in the placement's own space; null when they are the ones sent before. WebGL takes no shared memory. */
  corners: { position: Float32Array<ArrayBuffer>; normal: Float32Array<ArrayBuffer> } | null;
  /** Where its corners lie on what its finishes are fed along; null when they are those sent before. */
  places: Partial<Record<PlaceName, Float32Array<ArrayBuffer>>> | null;
  /** Corners ordered by finish. */
  index: Uint32Array<ArrayBuffer>;
  /** Stretches of the index that have one finish. */
  groups: { start: number; count: number; finish: number }[];
  /** Into the world: three rows of four. */
  matrix: number[];
}

export interface DraftBuffers {
  placements: DraftPlacement[];
  /** Of the scene's finishes, those that are worn and were not sent before; null for the rest. */
  finishes: (DraftFinish | null)[];
}

/** Names the triangles of a placement: alike contents, alike corners. */
function contentOf({ solids, instances }: RenderScene, members: readonly number[]): string {
  return members
    .map((i) => `${solids[instances.solid[i]].key}@${instances.local.subarray(i * 12, i * 12 + 12).join()}`)
    .join('|');
}

/** Prepares scenes one after the other, and leaves out what the page has. */
export class DraftPreparer {
  private sent = new Map<string, string>();
  private laid = new Map<string, string>();
  private finishes = new Set<string>();

  prepare(scene: RenderScene): DraftBuffers {
    const { placements, instances, parts } = scene;
    const members = Array.from({ length: placements.count }, (): number[] => []);
    for (let i = 0; i < instances.count; i++) members[instances.placement[i]].push(i);
    const partsOf = Array.from({ length: instances.count }, (): number[] => []);
    for (let p = 0; p < parts.count; p++) partsOf[parts.instance[p]].push(p);
    const now = new Map<string, string>();
    const laidNow = new Map<string, string>();
    const needed = scene.finishes.map(({ recipe }) => (recipe ? placesNeeded(recipe) : []));
    const finder = needed.some((n) => n.length > 0) ? new PlaceFinder(scene) : null;
    const all = members.map((own, p): DraftPlacement => {
      const name = placements.names[p];
      const content = contentOf(scene, own);
      now.set(name, content);
      const worn = new Set(own.flatMap((i) => partsOf[i].map((q) => parts.finish[q])));
      const names = [...new Set([...worn].flatMap((f) => needed[f]))];
      const lies = finder && names.length > 0 ? `${content} ${finder.signature(names, own)}` : '';
      const moved = (this.laid.get(name) ?? '') !== lies;
      laidNow.set(name, lies);
      return {
        name,
        corners: this.sent.get(name) === content ? null : cornersOf(scene, own),
        places: moved ? Object.fromEntries(names.map((n) => [n, finder!.of(n, own)])) : null,
        ...indexOf(scene, own, partsOf),
        matrix: [...placements.now.subarray(p * 12, p * 12 + 12)],
      };
    });
    this.sent = now;
    this.laid = laidNow;
    return { placements: all, finishes: this.finishesOf(scene) };
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
    this.laid = new Map();
    this.finishes = new Set();
  }
}

function cornersOf({ solids, instances }: RenderScene, members: readonly number[]) {
  const count = members.reduce((sum, i) => sum + solids[instances.solid[i]].triangles, 0);
  const position = new Float32Array(count * 9);
  const normal = new Float32Array(count * 9);
  let at = 0;
  for (const i of members) {
    const solid = solids[instances.solid[i]];
    const local = Float64Array.from(instances.local.subarray(i * 12, i * 12 + 12));
    placed(solid.positions, position, at, local);
    turned(solid.normals, normal, at, local);
    at += solid.triangles * 9;
  }
  return { position, normal };
}

/** Corners of a placement's parts, ordered by finish. */
function indexOf(
  { solids, instances, parts, finishes }: RenderScene,
  members: readonly number[],
  partsOf: readonly number[][],
): Pick<DraftPlacement, 'index' | 'groups'> {
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
  ...placements.flatMap(({ corners, places, index }) => [
    index.buffer,
    ...Object.values(places ?? {}).map((p) => p.buffer),
    ...(corners ? [corners.position.buffer, corners.normal.buffer] : []),
  ]),
  ...finishes.flatMap((f) => (f ? [f.data.buffer] : [])),
];
