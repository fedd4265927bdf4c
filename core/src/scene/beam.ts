/** What goes each way of a light that is thrown through a pattern or spread by a profile. */
import { levelInLight, type Texture } from '../texture/texture.ts';
import type { RenderScene, SceneLight } from './renderScene.ts';

/** Widest level that is looked at, pixels: finer detail changes sums by little. */
const WIDEST = 512;

/** Levels of a pattern by which it is out of focus at most. */
export const SOFTEST = 6;

/** Multiplies r g b by what a texture lets through; 0 … 1 from the first pixel's middle to the last's. */
type Look = (u: number, v: number, rgb: number[]) => void;
const looks = new WeakMap<Texture, Map<number, Look>>();

function lookOf(texture: Texture, widest: number): Look {
  let known = looks.get(texture);
  if (!known) looks.set(texture, (known = new Map()));
  let look = known.get(widest);
  if (!look) known.set(widest, (look = lookAt(texture, widest)));
  return look;
}

function lookAt(texture: Texture, widest: number): Look {
  const { width, height, data } = levelInLight(texture, widest);
  return (u, v, rgb) => {
    // asked for every pixel of a picture: nothing is made on the way
    const x = u * (width - 1);
    const y = v * (height - 1);
    const x0 = Math.min(width - 1, Math.floor(x));
    const y0 = Math.min(height - 1, Math.floor(y));
    const tx = x - x0;
    const ty = y - y0;
    const right = x0 + 1 < width ? 4 : 0;
    const upper = (y0 * width + x0) * 4;
    const lower = y0 + 1 < height ? upper + width * 4 : upper;
    for (let c = 0; c < 3; c++)
      rgb[c] *=
        (1 - ty) * ((1 - tx) * data[upper + c] + tx * data[upper + right + c]) +
        ty * ((1 - tx) * data[lower + c] + tx * data[lower + right + c]);
  };
}

/** Sets r g b to what goes in a unit direction right, up and ahead of the light. */
export type Through = (a: number, b: number, c: number, rgb: number[]) => void;

/**
 * What of a spot or point that is thrown through something goes each way, without the fading of its cone; null for all
 * other lights, and where its pictures are not at hand. Directions are looked up as the kernel does
 * (kernel/assembly/beams.ts).
 * @param soft levels by which a pattern is out of focus
 * @param widest level that is looked at at most, pixels
 */
export function throughOf(
  light: SceneLight,
  { textures }: Pick<RenderScene, 'textures'>,
  soft = 0,
  widest = WIDEST,
): Through | null {
  if (light.kind !== 'spot' && light.kind !== 'point') return null;
  const pattern = light.kind === 'spot' ? light.pattern : undefined;
  if (!pattern && !light.profile) return null;
  const textureOf = (key: string | undefined) => textures.find((t) => t.key === key);
  const [mask, spread] = [textureOf(pattern?.texture), textureOf(light.profile)];
  if ((pattern && !mask) || (light.profile && !spread)) return null;
  const inFocus = mask ? Math.max(mask.width, mask.height) : 0;
  const throughMask = mask && lookOf(mask, Math.max(1, Math.min(widest, inFocus >> soft)));
  const throughSpread = spread && lookOf(spread, widest);
  return (a, b, c, rgb) => {
    rgb[0] = rgb[1] = rgb[2] = 1;
    if (throughMask) {
      const scale = pattern!.scale / Math.max(c, 1e-6);
      const u = 0.5 + 0.5 * a * scale;
      const v = 0.5 - 0.5 * b * scale;
      if (u < 0 || u > 1 || v < 0 || v > 1) {
        rgb[0] = rgb[1] = rgb[2] = 0;
        return;
      }
      throughMask(u, v, rgb);
    }
    if (throughSpread) {
      const all = Math.abs(a) + Math.abs(b) + Math.abs(c);
      let p = a / all;
      let q = b / all;
      if (c < 0) {
        const folded = (1 - Math.abs(q)) * (p < 0 ? -1 : 1);
        q = (1 - Math.abs(p)) * (q < 0 ? -1 : 1);
        p = folded;
      }
      throughSpread(0.5 + 0.5 * p, 0.5 - 0.5 * q, rgb);
    }
  };
}
