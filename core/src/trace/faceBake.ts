/** Finishes that are fed along faces, as pictures of a part laid flat: what formats without feeds are given. */
import { surfacesOf } from '../finish/recipe.ts';
import { gltfMaterial } from '../finish/gltf.ts';
import { mixAt } from '../finish/places.ts';
import { opticsOf } from '../finish/optics.ts';
import { encodeSrgb } from '../maths/colour.ts';
import { flatPart, normalsOf, type FlatPart } from '../scene/flatPart.ts';
import type { BakedPart } from '../scene/exportKinds.ts';
import type { RenderScene } from '../scene/renderScene.ts';
import { AxisPlaces } from './axisPlaces.ts';

/** Where by viewing angle a face is seen on the mean (recipeMeans.ts): ∫ u (1 − u)⁴ du over ∫ (1 − u)⁴ du. */
const MEAN_ANGLE = 1 / 6;
/** Texels of the longer side of a part's pictures at most, and of all parts together. */
const LONGEST = 1024;
const MOST_TEXELS = 4 * LONGEST * LONGEST;
/** Where a surface's numbers stand: base colour, opacity, metalness, roughness, light in nits. */
const NUMBERS = 9;

/** Lays parts of a scene down as pictures, one after the other. */
export class FaceBaker {
  private readonly places: AxisPlaces;
  private readonly most: number;
  private readonly surfaces = new Map<number, Float32Array[]>();

  /** @param module over shared memory, or not, as `shared` says */
  constructor(
    module: WebAssembly.Module,
    shared: boolean,
    private readonly scene: RenderScene,
  ) {
    this.places = new AxisPlaces(module, shared);
    this.places.take(scene);
    const fed = [...scene.parts.finish].filter((f) => this.isLaid(f)).length;
    this.most = Math.min(LONGEST, Math.floor(Math.sqrt(MOST_TEXELS / Math.max(1, fed))));
  }

  /** Whether a finish differs from place to place, and not only by angle. */
  private isLaid(finish: number): boolean {
    const { recipe } = this.scene.finishes[finish];
    if (!recipe) return false;
    const varies = (axis: number) => recipe.axes[axis].source !== 'angle';
    return recipe.coats.some(
      ({ cover, fed, grid }) =>
        (typeof cover !== 'number' && varies(cover.axis)) ||
        fed.some((f) => varies(f.axis)) ||
        grid.some((g) => varies(g.axis)),
    );
  }

  /** A part's pictures; null where its finish is the same all over. */
  bake(part: number): BakedPart | null {
    const { parts } = this.scene;
    const finish = parts.finish[part];
    if (!this.isLaid(finish) || parts.triangles[part] === 0) return null;
    const recipe = this.scene.finishes[finish].recipe!;
    const flat = flatPart(this.scene, part, this.most);
    const surfaces = this.numbersOf(finish);
    const texels = flat.width * flat.height;
    const numbers = new Float32Array(texels * NUMBERS);
    const byAngle = recipe.axes.flatMap(({ source }, k) => (source === 'angle' ? [k] : []));
    this.along(part, flat, recipe.axes.length, (texel, axes) => {
      for (const k of byAngle) axes[k] = MEAN_ANGLE;
      mixAt(recipe, axes, surfaces, NUMBERS, numbers, texel * NUMBERS);
    });
    spreadOut(numbers, flat);
    return picturesOf(numbers, flat);
  }

  private numbersOf(finish: number): Float32Array[] {
    const known = this.surfaces.get(finish);
    if (known) return known;
    const made = this.scene.finishes[finish].recipe!.coats.map((coat) =>
      Float32Array.from(
        surfacesOf(coat).flatMap((surface) => {
          const said = gltfMaterial(opticsOf(surface));
          const { color, strength } = said.emission;
          const opacity = coat.nothing ? 0 : said.opacity;
          return [
            ...said.baseColor,
            opacity,
            said.metallic,
            said.roughness,
            ...color.map((v) => v * strength),
          ];
        }),
      ),
    );
    this.surfaces.set(finish, made);
    return made;
  }

  /** Asks where the texels that show a part lie on the axes of its finish. */
  private along(
    part: number,
    { triangle, weights, texel }: FlatPart,
    axes: number,
    take: (at: number, axes: Float32Array) => void,
  ): void {
    const { parts } = this.scene;
    const instance = parts.instance[part];
    const normal = normalsOf(this.scene, part);
    const room = this.places.room(axes);
    const asked = new Int32Array(room);
    let count = 0;
    const ask = () => {
      const found = this.places.ask(parts.finish[part], axes, texel, count);
      for (let i = 0; i < count; i++) take(asked[i], found.subarray(i * axes, (i + 1) * axes));
      count = 0;
    };
    for (let at = 0; at < triangle.length; at++) {
      if (triangle[at] < 0) continue;
      const t = parts.first[part] + triangle[at];
      const [w1, w2] = [weights[at * 2], weights[at * 2 + 1]];
      const [nx, ny, nz] = normal(triangle[at], w1, w2);
      this.places.put(count, instance, t, w1, w2, nx, ny, nz);
      asked[count++] = at;
      if (count === room) ask();
    }
    ask();
  }
}

/** Rounds in which what is beside a part takes on what lies next to it, so that smaller levels do not darken edges. */
const ROUNDS = 2;

/** Carries numbers over the edges of what is shown. */
function spreadOut(numbers: Float32Array, { width, height, triangle }: FlatPart): void {
  const known = Uint8Array.from(triangle, (t) => (t >= 0 ? 1 : 0));
  for (let round = 0; round < ROUNDS; round++) {
    const before = known.slice();
    for (let at = 0; at < known.length; at++) {
      if (before[at]) continue;
      const x = at % width;
      const beside =
        x > 0 && before[at - 1]
          ? at - 1
          : x < width - 1 && before[at + 1]
            ? at + 1
            : at >= width && before[at - width]
              ? at - width
              : at + width < width * height && before[at + width]
                ? at + width
                : -1;
      if (beside < 0) continue;
      numbers.copyWithin(at * NUMBERS, beside * NUMBERS, (beside + 1) * NUMBERS);
      known[at] = 1;
    }
  }
}

const byte = (v: number) => Math.round(255 * Math.min(1, Math.max(0, v)));

function picturesOf(numbers: Float32Array, { coordinates, width, height, triangle }: FlatPart): BakedPart {
  const texels = width * height;
  const low = new Array<number>(NUMBERS).fill(Infinity);
  const high = new Array<number>(NUMBERS).fill(-Infinity);
  for (let i = 0; i < texels; i++) {
    if (triangle[i] < 0) continue;
    for (let k = 0; k < NUMBERS; k++) {
      low[k] = Math.min(low[k], numbers[i * NUMBERS + k]);
      high[k] = Math.max(high[k], numbers[i * NUMBERS + k]);
    }
  }
  const varies = (from: number, to: number) =>
    low.slice(from, to).some((v, k) => high[from + k] - v > 1e-4 * Math.max(1, v));
  const picture = (write: (at: number, to: Uint8Array) => void) => {
    const data = new Uint8Array(texels * 4).fill(255);
    for (let i = 0; i < texels; i++) write(i * NUMBERS, data.subarray(i * 4, i * 4 + 4));
    return { width, height, data };
  };
  const strongest = Math.max(...high.slice(6, 9));
  return {
    coordinates,
    base: varies(0, 4)
      ? picture((at, to) => {
          for (let c = 0; c < 3; c++) to[c] = byte(encodeSrgb(Math.min(1, numbers[at + c])));
          to[3] = byte(numbers[at + 3]);
        })
      : null,
    opaque: low[3] > 0.999,
    gloss: varies(4, 6)
      ? picture((at, to) => {
          to[0] = 0;
          to[1] = byte(numbers[at + 5]);
          to[2] = byte(numbers[at + 4]);
        })
      : null,
    light:
      strongest > 0 && varies(6, 9)
        ? {
            ...picture((at, to) => {
              for (let c = 0; c < 3; c++)
                to[c] = byte(encodeSrgb(Math.min(1, numbers[at + 6 + c] / strongest)));
            }),
            strongest,
          }
        : null,
  };
}
