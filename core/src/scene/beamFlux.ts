/** What patterns and profiles let through of a light's beam, on the whole and straight ahead. */
import type { Beam } from '../light/units.ts';
import { luminance } from '../maths/colour.ts';
import { cos, sin } from '../maths/reproducible.ts';
import { levelInLight, type Texture } from '../texture/texture.ts';
import type { RenderScene, SceneLight } from './renderScene.ts';

/** Steps from straight ahead to the edge of what is lit, and around. */
const RINGS = 96;
const AROUND = 192;
/** Widest level that is looked at, pixels: finer detail changes sums by little. */
const WIDEST = 512;

type Look = (u: number, v: number) => number;
const looks = new WeakMap<Texture, Look>();

/** Brightness of a texture between its pixels; 0 … 1 from the first pixel's middle to the last's. */
function lookOf(texture: Texture): Look {
  const known = looks.get(texture);
  if (known) return known;
  const { width, height, data } = levelInLight(texture, WIDEST);
  const pixel = (x: number, y: number) => {
    const at = (y * width + x) * 4;
    return luminance(data[at], data[at + 1], data[at + 2]);
  };
  const look: Look = (u, v) => {
    const [x, y] = [u * (width - 1), v * (height - 1)];
    const [x0, y0] = [Math.min(width - 1, Math.floor(x)), Math.min(height - 1, Math.floor(y))];
    const [x1, y1] = [Math.min(width - 1, x0 + 1), Math.min(height - 1, y0 + 1)];
    const [tx, ty] = [x - x0, y - y0];
    return (
      (1 - ty) * ((1 - tx) * pixel(x0, y0) + tx * pixel(x1, y0)) +
      ty * ((1 - tx) * pixel(x0, y1) + tx * pixel(x1, y1))
    );
  };
  looks.set(texture, look);
  return look;
}

/**
 * The beam of a spot or point that is thrown through something, in lumens and candela for a candela of strength; null
 * for all other lights, and where its pictures are not at hand. Directions are looked up as the kernel does
 * (kernel/assembly/beams.ts); a pattern out of focus counts as if it were in focus.
 */
export function beamOf(light: SceneLight, { textures }: Pick<RenderScene, 'textures'>): Beam | null {
  if (light.kind !== 'spot' && light.kind !== 'point') return null;
  const pattern = light.kind === 'spot' ? light.pattern : undefined;
  if (!pattern && !light.profile) return null;
  const textureOf = (key: string | undefined) => textures.find((t) => t.key === key);
  const [mask, spread] = [textureOf(pattern?.texture), textureOf(light.profile)];
  if ((pattern && !mask) || (light.profile && !spread)) return null;
  const [throughMask, throughSpread] = [mask && lookOf(mask), spread && lookOf(spread)];
  /** Intensity in a direction right, up and ahead of the light. */
  const sent = (a: number, b: number, c: number): number => {
    let out = 1;
    if (light.kind === 'spot') {
      const t = (c - light.cosOuter) / Math.max(1e-6, light.cosInner - light.cosOuter);
      out = Math.min(1, Math.max(0, t)) ** 2;
    }
    if (throughMask) {
      const scale = pattern!.scale / Math.max(c, 1e-6);
      const [u, v] = [0.5 + 0.5 * a * scale, 0.5 - 0.5 * b * scale];
      if (u < 0 || u > 1 || v < 0 || v > 1) return 0;
      out *= throughMask(u, v);
    }
    if (throughSpread) {
      const all = Math.abs(a) + Math.abs(b) + Math.abs(c);
      let [p, q] = [a / all, b / all];
      if (c < 0) [p, q] = [(1 - Math.abs(q)) * (p < 0 ? -1 : 1), (1 - Math.abs(p)) * (q < 0 ? -1 : 1)];
      out *= throughSpread(0.5 + 0.5 * p, 0.5 - 0.5 * q);
    }
    return out;
  };
  const edge = light.kind === 'spot' ? light.cosOuter : -1;
  let sum = 0;
  for (let i = 0; i < RINGS; i++) {
    const c = 1 - ((i + 0.5) / RINGS) * (1 - edge);
    const s = Math.sqrt(1 - c * c);
    for (let k = 0; k < AROUND; k++) {
      const turn = ((k + 0.5) / AROUND) * 2 * Math.PI;
      sum += sent(s * cos(turn), s * sin(turn), c);
    }
  }
  return { lumens: (sum / (RINGS * AROUND)) * 2 * Math.PI * (1 - edge), ahead: sent(0, 0, 1) };
}
