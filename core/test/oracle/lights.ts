/**
 * Local lights and glowing surfaces, chosen in proportion to what each would give the point if nothing stood
 * in the way. The surround takes part in the choice as one more light.
 */
import { luminance } from '../../src/maths/colour.ts';
import type { FlatScene } from '../../src/scene/flatScene.ts';
import type { Environment } from './environment.ts';
import type { PreparedScene } from './prepare.ts';
import { F, RECORD } from './surface.ts';

const AREA = 0;
const SPOT = 1;
const DIRECTIONAL = 2;
const GLOW = 3;
const POINT = 4;

/** Result of sample. `delta` lights cannot be hit by chance. */
export const lightSample = {
  x: 0,
  y: 0,
  z: 0,
  distance: 0,
  r: 0,
  g: 0,
  b: 0,
  pdf: 0,
  delta: false,
  shadow: true,
};

/** A glowing part as rays see it, whatever it glows with. */
interface Glow {
  /** First triangle, and the share of the area up to each. */
  first: number;
  cdf: Float64Array;
  /** m², middle, and squared radius about it. */
  area: number;
  middle: [number, number, number];
  radius2: number;
}

/** Shapes of parts that glow, or glowed in some cell: all eyes on the same triangles share them. */
const shapes = new WeakMap<FlatScene, Map<number, Glow>>();

function glowOf(flat: FlatScene, part: number, count: number): Glow {
  let known = shapes.get(flat);
  if (!known) shapes.set(flat, (known = new Map()));
  let glow = known.get(part);
  if (!glow) known.set(part, (glow = glowShape(flat.positions, flat.first[part], count)));
  return glow;
}

function glowShape(p: Float32Array, first: number, count: number): Glow {
  const cdf = new Float64Array(count + 1);
  const box = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
  for (let k = 0; k < count; k++) {
    const at = (first + k) * 9;
    const e1 = [p[at + 3] - p[at], p[at + 4] - p[at + 1], p[at + 5] - p[at + 2]];
    const e2 = [p[at + 6] - p[at], p[at + 7] - p[at + 1], p[at + 8] - p[at + 2]];
    const nx = e1[1] * e2[2] - e1[2] * e2[1];
    const ny = e1[2] * e2[0] - e1[0] * e2[2];
    const nz = e1[0] * e2[1] - e1[1] * e2[0];
    cdf[k + 1] = cdf[k] + 0.5 * Math.sqrt(nx * nx + ny * ny + nz * nz);
    for (let c = 0; c < 9; c++) {
      box[c % 3] = Math.min(box[c % 3], p[at + c]);
      box[3 + (c % 3)] = Math.max(box[3 + (c % 3)], p[at + c]);
    }
  }
  const area = cdf[count];
  if (area > 0) for (let k = 1; k <= count; k++) cdf[k] /= area;
  const middle: Glow['middle'] = [0, 0, 0];
  let radius2 = 0;
  for (let a = 0; a < 3; a++) {
    middle[a] = (box[a] + box[a + 3]) / 2;
    radius2 += ((box[a + 3] - box[a]) / 2) ** 2;
  }
  return { first, cdf, area, middle, radius2 };
}

export class Lights {
  /** Number of local lights; the surround is number `count`. */
  readonly count: number;
  /** Glow of each part, or −1. */
  readonly glowOfPart: Int32Array;
  /** First light triangle stands for light `areaOf[0]`, two triangles each. */
  readonly areaOf: Int32Array;
  private readonly kind: Uint8Array;
  private readonly position: Float64Array;
  private readonly forward: Float64Array;
  private readonly right: Float64Array;
  private readonly up: Float64Array;
  private readonly colour: Float64Array;
  private readonly lum: Float64Array;
  /** Area of a surface light, m². */
  private readonly area: Float64Array;
  /** Squared radius of a glow. */
  private readonly radius2: Float64Array;
  /** Distance at which a point or spot has faded to nothing, metres. */
  private readonly range: Float64Array;
  private readonly cosInner: Float64Array;
  private readonly cosOuter: Float64Array;
  private readonly shadow: Uint8Array;
  private readonly glows: (Glow | null)[] = [];
  private readonly weight: Float64Array;
  private readonly skyWeight: number;
  private readonly p: Float32Array;
  private readonly environment: Environment;

  /** @param partFinish finish of each part, as worn in this eye */
  constructor({ scene, flat, records }: PreparedScene, partFinish: Int32Array, environment: Environment) {
    this.environment = environment;
    this.p = flat.positions;
    const glowing: number[] = [];
    for (let i = 0; i < partFinish.length; i++) {
      const at = partFinish[i] * RECORD + F.emission;
      if (luminance(records[at], records[at + 1], records[at + 2]) > 0) glowing.push(i);
    }
    const n = scene.lights.length + glowing.length;
    this.count = n;
    this.kind = new Uint8Array(n);
    this.position = new Float64Array(n * 3);
    this.forward = new Float64Array(n * 3);
    this.right = new Float64Array(n * 3);
    this.up = new Float64Array(n * 3);
    this.colour = new Float64Array(n * 3);
    this.lum = new Float64Array(n);
    this.area = new Float64Array(n);
    this.radius2 = new Float64Array(n);
    this.range = new Float64Array(n).fill(Infinity);
    this.cosInner = new Float64Array(n);
    this.cosOuter = new Float64Array(n);
    this.shadow = new Uint8Array(n).fill(1);
    this.weight = new Float64Array(n + 1);
    this.glowOfPart = new Int32Array(scene.parts.count).fill(-1);
    const areaOf: number[] = [];
    scene.lights.forEach((light, i) => {
      const { placed } = light;
      this.position.set(placed.position, i * 3);
      this.forward.set(placed.forward, i * 3);
      this.right.set(placed.right, i * 3);
      this.up.set(placed.up, i * 3);
      this.colour.set(placed.colour, i * 3);
      this.lum[i] = luminance(...placed.colour);
      this.shadow[i] = light.shadow ? 1 : 0;
      if (light.kind === 'area') {
        this.kind[i] = AREA;
        areaOf.push(i);
        this.area[i] = light.width * light.height;
        for (let a = 0; a < 3; a++) {
          this.right[i * 3 + a] *= light.width;
          this.up[i * 3 + a] *= light.height;
        }
      } else if (light.kind === 'spot') {
        this.kind[i] = SPOT;
        this.cosInner[i] = light.cosInner;
        this.cosOuter[i] = light.cosOuter;
      } else {
        this.kind[i] = light.kind === 'point' ? POINT : DIRECTIONAL;
      }
      if ((light.kind === 'point' || light.kind === 'spot') && light.range) this.range[i] = light.range;
      this.glows.push(null);
    });
    glowing.forEach((partNumber, k) => {
      const i = scene.lights.length + k;
      const at = partFinish[partNumber] * RECORD + F.emission;
      this.kind[i] = GLOW;
      this.glowOfPart[partNumber] = i;
      this.colour.set(records.subarray(at, at + 3), i * 3);
      this.lum[i] = luminance(records[at], records[at + 1], records[at + 2]);
      const glow = glowOf(flat, partNumber, scene.parts.triangles[partNumber]);
      this.area[i] = glow.area;
      this.position.set(glow.middle, i * 3);
      this.radius2[i] = glow.radius2;
      this.glows.push(glow);
    });
    this.areaOf = Int32Array.from(areaOf);
    this.skyWeight = Math.PI * environment.mean;
  }

  /** What light `i` might give the point, in lux; positive wherever it can give anything. */
  private estimate(i: number, x: number, y: number, z: number): number {
    const k = i * 3;
    if (this.kind[i] === DIRECTIONAL) return this.lum[i];
    const dx = x - this.position[k];
    const dy = y - this.position[k + 1];
    const dz = z - this.position[k + 2];
    const d2 = dx * dx + dy * dy + dz * dz;
    if (this.kind[i] === GLOW) return (this.lum[i] * this.area[i] * 0.25) / (d2 + this.radius2[i]);
    if (this.kind[i] === POINT) return (this.lum[i] * this.rangeFade(i, d2)) / d2;
    const along = dx * this.forward[k] + dy * this.forward[k + 1] + dz * this.forward[k + 2];
    if (along <= 0) return 0;
    const cosine = along / Math.sqrt(d2);
    if (this.kind[i] === AREA) return (this.lum[i] * this.area[i] * cosine) / (d2 + 0.3 * this.area[i]);
    return (this.lum[i] * this.spotFade(i, cosine) * this.rangeFade(i, d2)) / d2;
  }

  /** Spot fall-off after KHR_lights_punctual: squared linear ramp between the cone's cosines. */
  private spotFade(i: number, cosine: number): number {
    const span = this.cosInner[i] - this.cosOuter[i];
    const t = span > 1e-6 ? (cosine - this.cosOuter[i]) / span : cosine >= this.cosOuter[i] ? 1 : 0;
    const c = t < 0 ? 0 : t > 1 ? 1 : t;
    return c * c;
  }

  /** Window that ends a light at its range, after KHR_lights_punctual: 1 − (d / range)⁴. */
  private rangeFade(i: number, d2: number): number {
    const share = d2 / (this.range[i] * this.range[i]);
    return share >= 1 ? 0 : 1 - share * share;
  }

  /** Weighs all lights for a point; the sum, which pdfs divide by. */
  weigh(x: number, y: number, z: number): number {
    let sum = 0;
    for (let i = 0; i < this.count; i++) {
      const w = this.estimate(i, x, y, z);
      this.weight[i] = w;
      sum += w;
    }
    this.weight[this.count] = this.skyWeight;
    return sum + this.skyWeight;
  }

  /** Chance with which the surround is chosen where the weights sum to `sum`. */
  skyChance(sum: number): number {
    return sum > 0 ? this.skyWeight / sum : 0;
  }

  /** Density (solid angle) with which sampling from (x, y, z) would have found this point of a surface light. */
  densityOf(
    i: number,
    sum: number,
    x: number,
    y: number,
    z: number,
    distance: number,
    cosine: number,
  ): number {
    if (!(sum > 0) || !(this.area[i] > 0) || cosine <= 0) return 0;
    return ((this.estimate(i, x, y, z) / sum) * distance * distance) / (this.area[i] * cosine);
  }

  /** Radiance of light `i`, by channel. */
  radiance(i: number, channel: number): number {
    return this.colour[i * 3 + channel];
  }

  /** Cosine at which a ray along d meets the shining side of area light `i`; negative on its back. */
  facing(i: number, dx: number, dy: number, dz: number): number {
    const k = i * 3;
    return -(dx * this.forward[k] + dy * this.forward[k + 1] + dz * this.forward[k + 2]);
  }

  /**
   * Chooses a light after weigh() and a point on it, into `lightSample`.
   * @param pick chooses the light, u and v the point
   * @returns false when nothing shines there
   */
  sample(sum: number, x: number, y: number, z: number, pick: number, u: number, v: number): boolean {
    if (!(sum > 0)) return false;
    let rest = pick * sum;
    let i = 0;
    while (i < this.count && rest >= this.weight[i]) rest -= this.weight[i++];
    const chance = this.weight[i] / sum;
    const out = lightSample;
    if (!(chance > 0)) return false;
    if (i === this.count) {
      const density = this.environment.sample(u, v);
      if (!(density > 0)) return false;
      const { direction, rgb } = this.environment;
      out.x = direction[0];
      out.y = direction[1];
      out.z = direction[2];
      out.distance = 1e30;
      out.r = rgb[0];
      out.g = rgb[1];
      out.b = rgb[2];
      out.pdf = density * chance;
      out.delta = false;
      out.shadow = true;
      return true;
    }
    const k = i * 3;
    out.shadow = this.shadow[i] === 1;
    if (this.kind[i] === DIRECTIONAL) {
      out.x = -this.forward[k];
      out.y = -this.forward[k + 1];
      out.z = -this.forward[k + 2];
      out.distance = 1e30;
      return this.give(i, 1, chance);
    }
    let px = this.position[k];
    let py = this.position[k + 1];
    let pz = this.position[k + 2];
    let nx = this.forward[k];
    let ny = this.forward[k + 1];
    let nz = this.forward[k + 2];
    if (this.kind[i] === AREA) {
      px += this.right[k] * (u - 0.5) + this.up[k] * (v - 0.5);
      py += this.right[k + 1] * (u - 0.5) + this.up[k + 1] * (v - 0.5);
      pz += this.right[k + 2] * (u - 0.5) + this.up[k + 2] * (v - 0.5);
    } else if (this.kind[i] === GLOW) {
      const glow = this.glows[i]!;
      let lo = 0;
      let hi = glow.cdf.length - 1;
      while (hi - lo > 1) {
        const mid = (lo + hi) >> 1;
        if (glow.cdf[mid] <= u) lo = mid;
        else hi = mid;
      }
      const s = Math.sqrt(Math.min(1, (u - glow.cdf[lo]) / (glow.cdf[lo + 1] - glow.cdf[lo])));
      const b1 = s * (1 - v);
      const b2 = s * v;
      const b0 = 1 - s;
      const at = (glow.first + lo) * 9;
      const p = this.p;
      px = p[at] * b0 + p[at + 3] * b1 + p[at + 6] * b2;
      py = p[at + 1] * b0 + p[at + 4] * b1 + p[at + 7] * b2;
      pz = p[at + 2] * b0 + p[at + 5] * b1 + p[at + 8] * b2;
      const e1x = p[at + 3] - p[at];
      const e1y = p[at + 4] - p[at + 1];
      const e1z = p[at + 5] - p[at + 2];
      const e2x = p[at + 6] - p[at];
      const e2y = p[at + 7] - p[at + 1];
      const e2z = p[at + 8] - p[at + 2];
      nx = e1y * e2z - e1z * e2y;
      ny = e1z * e2x - e1x * e2z;
      nz = e1x * e2y - e1y * e2x;
      const l = Math.sqrt(nx * nx + ny * ny + nz * nz);
      if (!(l > 0)) return false;
      nx /= l;
      ny /= l;
      nz /= l;
    }
    const dx = px - x;
    const dy = py - y;
    const dz = pz - z;
    const d2 = dx * dx + dy * dy + dz * dz;
    const d = Math.sqrt(d2);
    if (!(d > 1e-7)) return false;
    out.x = dx / d;
    out.y = dy / d;
    out.z = dz / d;
    out.distance = d;
    const cosine = -(out.x * nx + out.y * ny + out.z * nz);
    if (this.kind[i] === POINT) return this.give(i, this.rangeFade(i, d2) / d2, chance);
    if (this.kind[i] === SPOT)
      return this.give(i, (this.spotFade(i, cosine) * this.rangeFade(i, d2)) / d2, chance);
    if (cosine <= 0) return false;
    out.r = this.colour[k];
    out.g = this.colour[k + 1];
    out.b = this.colour[k + 2];
    out.pdf = (chance * d2) / (this.area[i] * cosine);
    out.delta = false;
    return true;
  }

  private give(i: number, factor: number, chance: number): boolean {
    const out = lightSample;
    out.r = this.colour[i * 3] * factor;
    out.g = this.colour[i * 3 + 1] * factor;
    out.b = this.colour[i * 3 + 2] * factor;
    out.pdf = chance;
    out.delta = true;
    return factor > 0;
  }
}
