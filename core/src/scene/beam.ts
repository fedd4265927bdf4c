/** What goes each way of a light that is thrown through a pattern or spread by a profile. */
import { levelInLight, type Texture } from '../texture/texture.ts';
import type { RenderScene, SceneLight } from './renderScene.ts';

/** Widest level that is looked at, pixels: finer detail changes sums by little. */
const WIDEST = 512;

/** Adds what a texture lets through to r g b, by factors; 0 … 1 from the first pixel's middle to the last's. */
type Look = (u: number, v: number, rgb: number[]) => void;
const looks = new WeakMap<Texture, Map<number, Look>>();

function lookOf(texture: Texture, widest = WIDEST): Look {
  let known = looks.get(texture);
  if (!known) looks.set(texture, (known = new Map()));
  let look = known.get(widest);
  if (!look) known.set(widest, (look = lookAt(texture, widest)));
  return look;
}

function lookAt(texture: Texture, widest: number): Look {
  const { width, height, data } = levelInLight(texture, widest);
  return (u, v, rgb) => {
    const [x, y] = [u * (width - 1), v * (height - 1)];
    const [x0, y0] = [Math.min(width - 1, Math.floor(x)), Math.min(height - 1, Math.floor(y))];
    const [x1, y1] = [Math.min(width - 1, x0 + 1), Math.min(height - 1, y0 + 1)];
    const [tx, ty] = [x - x0, y - y0];
    for (let c = 0; c < 3; c++) {
      const pixel = (px: number, py: number) => data[(py * width + px) * 4 + c];
      rgb[c] *=
        (1 - ty) * ((1 - tx) * pixel(x0, y0) + tx * pixel(x1, y0)) +
        ty * ((1 - tx) * pixel(x0, y1) + tx * pixel(x1, y1));
    }
  };
}

/** Sets r g b to what goes in a unit direction right, up and ahead of the light. */
export type Through = (a: number, b: number, c: number, rgb: number[]) => void;

/**
 * What of a spot or point that is thrown through something goes each way, without the fading of its cone; null for all
 * other lights, and where its pictures are not at hand. Directions are looked up as the kernel does
 * (kernel/assembly/beams.ts).
 * @param soft levels by which a pattern is out of focus
 */
export function throughOf(
  light: SceneLight,
  { textures }: Pick<RenderScene, 'textures'>,
  soft = 0,
): Through | null {
  if (light.kind !== 'spot' && light.kind !== 'point') return null;
  const pattern = light.kind === 'spot' ? light.pattern : undefined;
  if (!pattern && !light.profile) return null;
  const textureOf = (key: string | undefined) => textures.find((t) => t.key === key);
  const [mask, spread] = [textureOf(pattern?.texture), textureOf(light.profile)];
  if ((pattern && !mask) || (light.profile && !spread)) return null;
  const blurred = mask && Math.max(1, Math.min(WIDEST, Math.max(mask.width, mask.height) >> soft));
  const [throughMask, throughSpread] = [mask && lookOf(mask, blurred), spread && lookOf(spread)];
  return (a, b, c, rgb) => {
    rgb.fill(1);
    if (throughMask) {
      const scale = pattern!.scale / Math.max(c, 1e-6);
      const [u, v] = [0.5 + 0.5 * a * scale, 0.5 - 0.5 * b * scale];
      if (u < 0 || u > 1 || v < 0 || v > 1) {
        rgb.fill(0);
        return;
      }
      throughMask(u, v, rgb);
    }
    if (throughSpread) {
      const all = Math.abs(a) + Math.abs(b) + Math.abs(c);
      let [p, q] = [a / all, b / all];
      if (c < 0) [p, q] = [(1 - Math.abs(q)) * (p < 0 ? -1 : 1), (1 - Math.abs(p)) * (q < 0 ? -1 : 1)];
      throughSpread(0.5 + 0.5 * p, 0.5 - 0.5 * q, rgb);
    }
  };
}
