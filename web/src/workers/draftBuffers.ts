/** What the draft draws a scene from, prepared here so that the page only hands it on to the graphics card. */
import { shownPicture, type ShownPicture } from '@wemlox/core/finish/recipeMeans';
import { picturedFaces, type PicturedFaces } from '@wemlox/core/scene/faces';
import { placed, turned } from '@wemlox/core/scene/flatScene';
import type { RenderScene } from '@wemlox/core/scene/renderScene';
import { laying } from '@wemlox/core/texture/laying';
import { textureKey } from '@wemlox/core/texture/texture';

export interface DraftPlacement {
  name: string;
  /** Corners and normals in the placement's own space; null when they are the ones sent before. WebGL takes no shared memory. */
  corners: { position: Float32Array<ArrayBuffer>; normal: Float32Array<ArrayBuffer> } | null;
  /** Places of the pictures that its parts are fed from; null where there are none, or they are those sent before. */
  places: Float32Array<ArrayBuffer> | null;
  /** Corners ordered by finish. */
  index: Uint32Array<ArrayBuffer>;
  /** Stretches of the index that have one finish. */
  groups: { start: number; count: number; finish: number }[];
  /** Into the world: three rows of four. */
  matrix: number[];
}

export interface DraftBuffers {
  placements: DraftPlacement[];
}

/** Names the triangles of a placement: alike contents, alike corners. */
function contentOf({ solids, instances }: RenderScene, members: readonly number[]): string {
  return members
    .map((i) => `${solids[instances.solid[i]].key}@${instances.local.subarray(i * 12, i * 12 + 12).join()}`)
    .join('|');
}

/** Prepares scenes one after the other, and leaves out corners that the page has. */
export class DraftPreparer {
  private sent = new Map<string, string>();
  private laid = new Map<string, string>();

  prepare(scene: RenderScene): DraftBuffers {
    const { placements, instances, parts } = scene;
    const members = Array.from({ length: placements.count }, (): number[] => []);
    for (let i = 0; i < instances.count; i++) members[instances.placement[i]].push(i);
    const partsOf = Array.from({ length: instances.count }, (): number[] => []);
    for (let p = 0; p < parts.count; p++) partsOf[parts.instance[p]].push(p);
    const now = new Map<string, string>();
    const laidNow = new Map<string, string>();
    const pictures = scene.finishes.map(({ recipe }) => (recipe ? shownPicture(recipe) : null));
    const faces = pictures.some((p) => p !== null) ? picturedFaces(scene) : null;
    const all = members.map((own, p): DraftPlacement => {
      const name = placements.names[p];
      const content = contentOf(scene, own);
      now.set(name, content);
      const pictured = faces && own.flatMap((i) => partsOf[i]).some((q) => pictures[parts.finish[q]]);
      const lies = pictured
        ? JSON.stringify([content, own.flatMap((i) => partsOf[i].map((q) => pictures[parts.finish[q]]))])
        : '';
      laidNow.set(name, lies);
      const places =
        pictured && this.laid.get(name) !== lies ? placesOf(scene, own, partsOf, pictures, faces) : null;
      return {
        name,
        corners: this.sent.get(name) === content ? null : cornersOf(scene, own),
        places,
        ...indexOf(scene, own, partsOf),
        matrix: [...placements.now.subarray(p * 12, p * 12 + 12)],
      };
    });
    this.sent = now;
    this.laid = laidNow;
    return { placements: all };
  }

  /** The page did not get what was prepared: next time it is given all. */
  forget(): void {
    this.sent = new Map();
    this.laid = new Map();
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

/** Where the corners of a placement lie on the pictures of their finishes, across and down. */
function placesOf(
  { solids, instances, parts, textures }: RenderScene,
  members: readonly number[],
  partsOf: readonly number[][],
  pictures: readonly (ShownPicture | null)[],
  faces: PicturedFaces,
): Float32Array<ArrayBuffer> {
  const count = members.reduce((sum, i) => sum + solids[instances.solid[i]].triangles, 0);
  const out = new Float32Array(count * 6);
  let at = 0;
  for (const i of members) {
    const { uv, triangles } = solids[instances.solid[i]];
    const m = instances.local.subarray(i * 12, i * 12 + 12);
    for (const p of partsOf[i]) {
      const shown = pictures[parts.finish[p]];
      const texture =
        shown && textures.find((t) => t.key === textureKey(shown.laid.picture, shown.laid.coding));
      if (!texture) continue;
      const { laid, turn } = shown;
      const own = laid.lay === 'letter';
      const face = faces[laid.lay === 'tiles' ? 'block' : laid.lay][i];
      const place = laying({ ...laid, turn }, texture.width / texture.height, face);
      for (let c = parts.first[p] * 3; c < (parts.first[p] + parts.triangles[p]) * 3; c++) {
        const [x, y] = [uv[c * 4 + 2], uv[c * 4 + 3]];
        const [u, v] = own ? place(x, y) : place(m[0] * x + m[1] * y + m[3], m[4] * x + m[5] * y + m[7]);
        out[(at + c) * 2] = u;
        // our rows run from the top
        out[(at + c) * 2 + 1] = 1 - v;
      }
    }
    at += triangles * 3;
  }
  return out;
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
export const handedOver = ({ placements }: DraftBuffers): ArrayBuffer[] =>
  placements.flatMap(({ corners, places, index }) => [
    index.buffer,
    ...(places ? [places.buffer] : []),
    ...(corners ? [corners.position.buffer, corners.normal.buffer] : []),
  ]);
