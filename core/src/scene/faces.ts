/** How far letters and blocks reach: what feeds and pictures are laid over. */
import { carried } from '../stage/blockPlace.ts';
import type { Face } from '../texture/laying.ts';
import type { RenderScene, SceneSolid } from './renderScene.ts';
import { composed } from './transform.ts';

export interface Bounds {
  min: number[];
  max: number[];
}

const none = (): Bounds => ({ min: [Infinity, Infinity, Infinity], max: [-Infinity, -Infinity, -Infinity] });

function widen({ min, max }: Bounds, p: ArrayLike<number>): void {
  for (let k = 0; k < 3; k++) {
    min[k] = Math.min(min[k], p[k]);
    max[k] = Math.max(max[k], p[k]);
  }
}

const known = new WeakMap<SceneSolid, Bounds>();

/** Least and greatest coordinates of a solid, in its own unit. */
export function boundsOf(solid: SceneSolid): Bounds {
  let bounds = known.get(solid);
  if (!bounds) {
    bounds = none();
    const { positions } = solid;
    const { min, max } = bounds;
    // models have millions of corners
    for (let i = 0; i < positions.length; i += 3)
      for (let k = 0; k < 3; k++) {
        const v = positions[i + k];
        if (v < min[k]) min[k] = v;
        if (v > max[k]) max[k] = v;
      }
    known.set(solid, bounds);
  }
  return bounds;
}

const corners = ({ min, max }: Bounds) =>
  Array.from({ length: 8 }, (_, i) => [0, 1, 2].map((k) => (i & (1 << k) ? max[k] : min[k])));

/** Boxes in the world of the instances that are type, or pieces of the stage; metres. */
export function worldBoxes(scene: RenderScene, of: 'type' | 'stage'): Bounds[] {
  const { instances, placements, solids } = scene;
  const pieces = piecesOf(scene);
  const boxes: Bounds[] = [];
  for (let i = 0; i < instances.count; i++) {
    if (pieces.has(i) !== (of === 'stage')) continue;
    const world = composed(placements.now, instances.placement[i], instances.local, i);
    const box = none();
    for (const corner of corners(boundsOf(solids[instances.solid[i]]))) widen(box, carried(world, corner));
    if (box.max[0] >= box.min[0]) boxes.push(box);
  }
  return boxes;
}

const wrapped = new WeakMap<SceneSolid, Bounds>();

/** All of a piece as it lies unrolled, which a picture laid over it is to cover. */
function unrolledBoundsOf(solid: SceneSolid): Bounds {
  let bounds = wrapped.get(solid);
  if (!bounds) {
    bounds = none();
    const { uv } = solid;
    for (let k = 0; k < uv.length; k += 4) widen(bounds, [uv[k + 2], uv[k + 3], 0]);
    wrapped.set(solid, bounds);
  }
  return bounds;
}

/** Instances that are pieces of the stage. */
export function piecesOf({ parts, things }: RenderScene): Set<number> {
  const out = new Set<number>();
  for (let p = 0; p < parts.count; p++) if (things[parts.thing[p]].piece !== null) out.add(parts.instance[p]);
  return out;
}

/** Middle and sides of a box, across and up. */
const faceOf = ({ min, max }: Bounds): Face =>
  max[0] >= min[0]
    ? [(min[0] + max[0]) / 2, (min[1] + max[1]) / 2, max[0] - min[0], max[1] - min[1]]
    : [0, 0, 1, 1];

/** Bounds of each placement, metres. */
export function blockBounds({ instances, placements, solids }: RenderScene): Bounds[] {
  const blocks = Array.from({ length: placements.count }, none);
  for (let i = 0; i < instances.count; i++)
    for (const corner of corners(boundsOf(solids[instances.solid[i]])))
      widen(blocks[instances.placement[i]], carried(instances.rest, corner, i * 12));
  return blocks;
}

/** Corners in the world of each placement's box, by its name; of those that are empty none. @param bounds of all, each in its own space */
export const placedCorners = (
  { placements }: RenderScene,
  bounds: readonly Bounds[],
): Map<string, number[][]> =>
  new Map(
    bounds.flatMap((box, p): [string, number[][]][] =>
      box.max[0] >= box.min[0]
        ? [[placements.names[p], corners(box).map((corner) => carried(placements.now, corner, p * 12))]]
        : [],
    ),
  );

/** Of each instance, the bounds of its word, metres; of pieces and drawings, those of all of it. */
export function wordBounds(scene: RenderScene, blocks: readonly Bounds[]): Bounds[] {
  const { instances, parts, solids, things } = scene;
  const word = Array.from({ length: instances.count }, (): number | undefined => undefined);
  for (let p = 0; p < parts.count; p++) word[parts.instance[p]] = things[parts.thing[p]].word;
  const words = new Map<string, Bounds>();
  const nameOf = (i: number) => `${instances.placement[i]} ${word[i]}`;
  for (let i = 0; i < instances.count; i++) {
    if (word[i] === undefined) continue;
    const bounds = words.get(nameOf(i)) ?? none();
    for (const corner of corners(boundsOf(solids[instances.solid[i]])))
      widen(bounds, carried(instances.rest, corner, i * 12));
    words.set(nameOf(i), bounds);
  }
  return word.map((w, i) => (w === undefined ? blocks[instances.placement[i]] : words.get(nameOf(i))!));
}

/** What pictures cover that are laid over each instance: the letter, in its unit, its word and its block, metres. */
export interface PicturedFaces {
  letter: Face[];
  word: Face[];
  block: Face[];
}

export function picturedFaces(
  scene: RenderScene,
  blocks = blockBounds(scene),
  words = wordBounds(scene, blocks),
): PicturedFaces {
  const { instances, solids } = scene;
  const pieces = piecesOf(scene);
  const faces: PicturedFaces = { letter: [], word: [], block: [] };
  for (let i = 0; i < instances.count; i++) {
    const solid = solids[instances.solid[i]];
    const unrolled = pieces.has(i) ? unrolledBoundsOf(solid) : null;
    faces.letter.push(faceOf(unrolled ?? boundsOf(solid)));
    faces.word.push(faceOf(unrolled ?? words[i]));
    faces.block.push(faceOf(unrolled ?? blocks[instances.placement[i]]));
  }
  return faces;
}
