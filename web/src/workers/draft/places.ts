/** Where the corners of a placement lie on what feeds are laid along: attributes of the draft's meshes. */
import type { Recipe } from '@wemlox/core/finish/recipe';
import { blockBounds, boundsOf, picturedFaces, wordBounds, type Bounds } from '@wemlox/core/scene/faces';
import type { RenderScene } from '@wemlox/core/scene/renderScene';
import { composed, scaleOf } from '@wemlox/core/scene/transform';

type Span = 'letter' | 'word' | 'block';
type Lay = Span | 'tiles';

/** Attributes, and their numbers a corner. */
export const PLACES = {
  /** Along the outline and in from it, metres. */
  fedOutline: 2,
  /** In the box of the letter, word or block, 0 … 1. */
  fedBoxLetter: 3,
  fedBoxWord: 3,
  fedBoxBlock: 3,
  /** In the plane that pictures lie in: from its middle, and its sides; in the letter's unit, or metres. */
  fedPlaneLetter: 4,
  fedPlaneWord: 4,
  fedPlaneBlock: 4,
  fedPlaneTiles: 4,
} as const;
export type PlaceName = keyof typeof PLACES;

const named = (of: Lay) => (of[0].toUpperCase() + of.slice(1)) as Capitalize<Lay>;
export const boxOf = (of: Span): PlaceName => `fedBox${named(of) as 'Letter'}`;
export const planeOf = (lay: Lay): PlaceName => `fedPlane${named(lay)}`;

/** Attributes that the code of a recipe reads. */
export function placesNeeded({ axes }: Recipe): PlaceName[] {
  const needed = new Set<PlaceName>();
  for (const { source, of, laid } of axes) {
    if (['outline', 'rim', 'weave', 'bricks', 'tiles'].includes(source)) needed.add('fedOutline');
    if (['along', 'up', 'through'].includes(source)) needed.add(boxOf(of));
    if (laid) needed.add(planeOf(laid.lay));
  }
  return [...needed].sort();
}

type Corner = (uv: Float32Array, position: Float32Array, c: number) => readonly number[];

const inBox = ({ min, max }: Bounds, p: readonly number[]) =>
  p.map((v, k) => (max[k] > min[k] ? (v - min[k]) / (max[k] - min[k]) : 0));

/** Finds places of a scene's corners. */
export class PlaceFinder {
  private readonly blocks: Bounds[];
  private readonly words: Bounds[];
  private readonly faces: ReturnType<typeof picturedFaces>;

  constructor(private readonly scene: RenderScene) {
    this.blocks = blockBounds(scene);
    this.words = wordBounds(scene, this.blocks);
    this.faces = picturedFaces(scene, this.blocks, this.words);
  }

  /** Places of all corners of some instances of a placement, one after the other. */
  of(name: PlaceName, members: readonly number[]): Float32Array<ArrayBuffer> {
    const { solids, instances } = this.scene;
    const size = PLACES[name];
    const count = members.reduce((sum, i) => sum + solids[instances.solid[i]].triangles, 0);
    const out = new Float32Array(count * 3 * size);
    let at = 0;
    for (const i of members) {
      const { uv, positions, triangles } = solids[instances.solid[i]];
      const corner = this.corner(name, i);
      for (let c = 0; c < triangles * 3; c++, at += size) out.set(corner(uv, positions, c), at);
    }
    return out;
  }

  /** Alike signatures, alike places, the corners being alike. */
  signature(names: readonly PlaceName[], members: readonly number[]): string {
    const { blocks, words, faces } = this;
    const { instances } = this.scene;
    const [first] = members;
    const spans = members.map((i) => [words[i], faces.word[i]]);
    return JSON.stringify([names, blocks[instances.placement[first]], faces.block[first], spans]);
  }

  private corner(name: PlaceName, i: number): Corner {
    const { solids, instances, placements } = this.scene;
    const m = instances.rest.subarray(i * 12, i * 12 + 12);
    const inBlock = (x: number, y: number, z: number) =>
      [0, 4, 8].map((r) => m[r] * x + m[r + 1] * y + m[r + 2] * z + m[r + 3]);
    const unit = scaleOf(composed(placements.now, instances.placement[i], instances.rest, i));
    if (name === 'fedOutline') return (uv, _, c) => [uv[c * 4] * unit, uv[c * 4 + 1] * unit];
    const boxes = {
      fedBoxLetter: boundsOf(solids[instances.solid[i]]),
      fedBoxWord: this.words[i],
      fedBoxBlock: this.blocks[instances.placement[i]],
    };
    const box = boxes[name as 'fedBoxWord'] as Bounds | undefined;
    if (box)
      return (_, p, c) => {
        const own = [p[c * 3], p[c * 3 + 1], p[c * 3 + 2]];
        return inBox(box, name === 'fedBoxLetter' ? own : inBlock(own[0], own[1], own[2]));
      };
    if (name === 'fedPlaneLetter') {
      const [x, y, w, h] = this.faces.letter[i];
      return (uv, _, c) => [uv[c * 4 + 2] - x, uv[c * 4 + 3] - y, w, h];
    }
    const faces = { fedPlaneWord: this.faces.word, fedPlaneBlock: this.faces.block };
    const [x, y, w, h] = faces[name as 'fedPlaneWord']?.[i] ?? [0, 0, 0, 0];
    return (uv, _, c) => {
      const [bx, by] = inBlock(uv[c * 4 + 2], uv[c * 4 + 3], 0);
      return [bx - x, by - y, w, h];
    };
  }
}
