/** What a feed does on a letter, as a small picture of its front. */
import { plainFinish, plainSurface, ZONES, type Feed } from '../document/index.ts';
import { SURFACE } from '../document/parameters.ts';
import { opticsOf } from '../finish/optics.ts';
import { isNormalMap, recipeOf, valueAt, type Recipe } from '../finish/recipe.ts';
import { encodeSrgb } from '../maths/colour.ts';
import { flatPart, normalsOf } from '../scene/flatPart.ts';
import type { RenderScene } from '../scene/renderScene.ts';
import { AxisPlaces } from './axisPlaces.ts';

/** Texels of the longer side. */
const SIDE = 96;
/** Larger scenes are left alone: their trees would have to be built once more. */
const MOST_TRIANGLES = 500_000;
/** Greys of the least and the greatest number that a feed gives. */
const [DARK, BRIGHT] = [38, 235];

export interface FeedPicture {
  width: number;
  height: number;
  /** Bytes of sRGB and opacity, from the top left on. */
  data: Uint8ClampedArray<ArrayBuffer>;
}

/** A recipe of a feed alone: of a colour, or of a number that stands for any. */
function aloneOf(feed: Feed): Recipe | null {
  const kind = feed.parameter in SURFACE ? SURFACE[feed.parameter as keyof typeof SURFACE].kind : 'number';
  const parameter = kind === 'colour' ? 'base_color' : 'specular_ior';
  return recipeOf({ ...plainFinish({ id: 'alone', name: 'Alone' }), feeds: [{ ...feed, parameter }] });
}

/** The part of a letter that is looked at: its front, or the largest where it has none. */
function partOf({ parts, things }: RenderScene, block: string, letter: string): number | null {
  let found: number | null = null;
  for (let i = 0; i < parts.count; i++) {
    const thing = things[parts.thing[i]];
    if (thing.block !== block || thing.letter !== letter) continue;
    if (ZONES[parts.zone[i]] === 'front') return i;
    if (found === null || parts.triangles[i] > parts.triangles[found]) found = i;
  }
  return found;
}

export class FeedPictures {
  private readonly places: AxisPlaces;

  /** @param module over shared memory, or not, as `shared` says */
  constructor(module: WebAssembly.Module, shared: boolean) {
    this.places = new AxisPlaces(module, shared);
  }

  /** The picture; null where a feed goes by more than places, or there is no such letter, or far too much of a scene. */
  of(scene: RenderScene, feed: Feed, block: string, letter: string): FeedPicture | null {
    if (feed.source === 'angle' || isNormalMap(feed)) return null;
    const triangles = scene.solids.reduce((sum, solid) => sum + solid.triangles, 0);
    const part = partOf(scene, block, letter);
    const recipe = aloneOf(feed);
    if (triangles > MOST_TRIANGLES || part === null || !recipe) return null;
    const { parts } = scene;
    this.places.take({
      ...scene,
      finishes: [{ ...opticsOf(plainSurface({})), recipe }],
      parts: { ...parts, finish: parts.finish.slice().fill(0) },
      within: [0],
    });
    return this.drawn(scene, part, recipe);
  }

  private drawn(scene: RenderScene, part: number, recipe: Recipe): FeedPicture {
    const flat = flatPart(scene, part, SIDE);
    const { width, height, triangle, weights } = flat;
    const data = new Uint8ClampedArray(width * height * 4);
    const { fed } = recipe.coats[0];
    const numbers = fed[0].values.map((v) => v[0]);
    const [low, high] = [Math.min(...numbers), Math.max(...numbers)];
    const axes = recipe.axes.length;
    const room = this.places.room(axes);
    const { parts } = scene;
    const normal = normalsOf(scene, part);
    const shown = [...triangle.keys()].filter((at) => triangle[at] >= 0);
    for (let first = 0; first < shown.length; first += room) {
      const some = shown.slice(first, first + room);
      some.forEach((at, i) => {
        const [w1, w2] = [weights[at * 2], weights[at * 2 + 1]];
        const t = parts.first[part] + triangle[at];
        this.places.put(i, parts.instance[part], t, w1, w2, ...normal(triangle[at], w1, w2));
      });
      const found = this.places.ask(0, axes, flat.texel, some.length);
      some.forEach((at, i) => {
        const pixel = data.subarray(at * 4, at * 4 + 4);
        pixel[3] = 255;
        for (const course of fed) {
          const value = valueAt(course, found[i * axes + course.axis]);
          if (course.channel !== undefined) pixel[course.channel] = 255 * encodeSrgb(value[0]);
          else if (value.length === 3) value.forEach((v, c) => (pixel[c] = 255 * encodeSrgb(v)));
          else pixel.fill(DARK + ((BRIGHT - DARK) * (value[0] - low)) / Math.max(1e-9, high - low), 0, 3);
        }
      });
    }
    return { width, height, data };
  }
}
