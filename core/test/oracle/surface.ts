/**
 * How compiled finishes scatter light: a coat over a blend of metal, glass and glossy diffuse, all GGX
 * (Walter et al. 2007; Heitz 2014), closed by a residual lobe that returns what single scattering loses
 * (after Kulla & Conty 2017), so that lossless finishes lose nothing.
 *
 * Directions are in the shading frame, z along the normal on the viewer's side. Transmission carries basic
 * radiance L/n²: no index squared appears, and f(o,i)/nᵢ² is what stays alike when o and i change places.
 */
import { cos, sin } from '../../src/maths/reproducible.ts';
import * as K from '../../src/trace/kernelLayout.ts';

const at = (offset: number) => offset / 4;
/** Places of a finish's numbers, in floats. */
export const F = {
  metal: at(K.F_METAL),
  glass: at(K.F_GLASS),
  opaque: at(K.F_OPAQUE),
  base: at(K.F_BASE_R),
  specular: at(K.F_SPECULAR_R),
  alphaX: at(K.F_ALPHA_X),
  alphaY: at(K.F_ALPHA_Y),
  ior: at(K.F_IOR),
  coat: at(K.F_COAT),
  coatColor: at(K.F_COAT_R),
  coatAlphaX: at(K.F_COAT_ALPHA_X),
  coatAlphaY: at(K.F_COAT_ALPHA_Y),
  coatIor: at(K.F_COAT_IOR),
  emission: at(K.F_EMISSION_R),
  glassTint: at(K.F_TINT_R),
  absorption: at(K.F_ABSORPTION_R),
  turnCos: at(K.F_TURN_COS),
  turnSin: at(K.F_TURN_SIN),
  residualTint: at(K.F_RESIDUAL_R),
  lostOut: at(K.F_LOST_OUT),
  lostIn: at(K.F_LOST_IN),
  throughOut: at(K.F_THROUGH_OUT),
  throughIn: at(K.F_THROUGH_IN),
  glossMean: at(K.F_GLOSS_MEAN),
  albedo: at(K.F_ALBEDO_R),
  diffuseRoughness: at(K.F_DIFFUSE_ROUGHNESS),
  sheet: at(K.F_SHEET),
  sheetAlpha: at(K.F_SHEET_ALPHA),
  wide: at(K.F_WIDE),
  wideX: at(K.F_WIDE_X),
  wideY: at(K.F_WIDE_Y),
  turns: at(K.F_TURNS),
} as const;

/** Rows over the cosine, four numbers an entry. */
export const T = {
  metal: at(K.METAL_ROWS),
  sheet: at(K.METAL_ROWS) + 3,
  gloss: at(K.LAYER_ROWS),
  coat: at(K.LAYER_ROWS) + 1,
  lostOutside: at(K.LAYER_ROWS) + 2,
  lostInside: at(K.LAYER_ROWS) + 3,
  widened: at(K.BRUSHED_ROWS),
  lostMore: at(K.BRUSHED_ROWS) + 2,
  again: at(K.AGAIN_ROWS),
  slack: at(K.AGAIN_ROWS) + 3,
} as const;
export const RECORD = K.FINISH_BYTES / 4;

/** Result of evaluate and sample: f·|cos| r g b, pdf, and for sample the direction x y z. */
export const scattered = new Float64Array(7);

const INV_PI = 1 / Math.PI;

/** A row at a cosine: linear in its root. */
export function lookup(R: Float32Array, row: number, cosine: number): number {
  const x = Math.sqrt(cosine < 0 ? 0 : cosine > 1 ? 1 : cosine) * (K.ROWS - 1);
  const i = x >= K.ROWS - 1 ? K.ROWS - 2 : x | 0;
  const a = R[row + i * 4];
  return a + (R[row + i * 4 + 4] - a) * (x - i);
}

function lambda(ax: number, ay: number, x: number, y: number, z: number): number {
  const a = ax * x;
  const b = ay * y;
  return 0.5 * (Math.sqrt(1 + (a * a + b * b) / (z * z)) - 1);
}

function ggx(ax: number, ay: number, x: number, y: number, z: number): number {
  const a = x / ax;
  const b = y / ay;
  const c = a * a + b * b + z * z;
  return INV_PI / (ax * ay * c * c);
}

/** Fresnel of a dielectric; see finish/fresnel.ts for the reference form. */
function fresnel(c: number, eta: number): number {
  const sin2 = (1 - c * c) / (eta * eta);
  if (sin2 >= 1) return 1;
  const t = Math.sqrt(1 - sin2);
  const s = (c - eta * t) / (c + eta * t);
  const p = (eta * c - t) / (eta * c + t);
  return 0.5 * (s * s + p * p);
}

/**
 * Rough diffuse reflection that keeps its energy: EON (Portsmouth, Kutz & Hill, "EON: A practical
 * energy-preserving rough diffuse BRDF", JCGT 2025), with its fit of the directional albedo.
 */
const FON_A = 0.5 - 2 / (3 * Math.PI);
const FON_B = 2 / 3 - 28 / (15 * Math.PI);
let singleScatter = 1;
let multipleScatter = 0;
let meanSingle = 1;

function fonAlbedo(mu: number, roughness: number): number {
  const m = 1 - mu;
  const g = m * (0.0571085289 + m * (0.491881867 + m * (-0.332181442 + m * 0.0714429953)));
  return (1 + roughness * g) / (1 + FON_A * roughness);
}

/** Prepares diffuseOf for a pair of directions with cosine `oi` between them. */
function roughDiffuse(roughness: number, oi: number, oz: number, iz: number): void {
  const s = oi - oz * iz;
  const t = s > 0 ? s / (oz > iz ? oz : iz) : s;
  const scale = 1 / (1 + FON_A * roughness);
  singleScatter = scale * (1 + roughness * t);
  meanSingle = scale * (1 + FON_B * roughness);
  const lost = (1 - fonAlbedo(oz, roughness)) * (1 - fonAlbedo(iz, roughness));
  multipleScatter = lost > 0 ? lost / (1 - meanSingle) : 0;
}

/** π times the rough diffuse BRDF of an albedo. */
const diffuseOf = (albedo: number): number =>
  albedo * singleScatter +
  ((albedo * albedo * meanSingle) / (1 - albedo * (1 - meanSingle))) * multipleScatter;

/** How much of what differs along and across a brushed face is seen as along it. */
const alongBrushing = (R: Float32Array, b: number, x: number, y: number, z: number) =>
  (x * x) / Math.max(x * x + lookup(R, b + T.slack, z) * y * y, 1e-12);

const turned = (R: Float32Array, b: number, row: number, x: number, y: number, z: number) => {
  const across = lookup(R, row + 1, z);
  return across + (lookup(R, row, z) - across) * alongBrushing(R, b, x, y, z);
};

/** What single scattering loses towards a direction. */
function lostAt(R: Float32Array, b: number, x: number, y: number, z: number, inside: boolean): number {
  if (inside) return Math.max(0, lookup(R, b + T.lostInside, z));
  const more = R[b + F.turns] > 0 ? turned(R, b, b + T.lostMore, x, y, z) : 0;
  return Math.max(0, lookup(R, b + T.lostOutside, z) + more);
}

/** Lobe weights for the viewing direction last weighed: coat, gloss, glass, diffuse, residual, sheet; they sum to 1. */
const weights = new Float64Array(6);

/** Weighs the lobes for a viewing direction; evaluate and sample use the weights of the last call. */
export function weigh(R: Float32Array, b: number, ox: number, oy: number, oz: number, inside: boolean): void {
  const metal = R[b + F.metal];
  const glass = R[b + F.glass];
  const rest = R[b + F.opaque];
  const coat = inside ? 0 : R[b + F.coat] * lookup(R, b + T.coat, oz);
  const gloss = lookup(R, b + T.gloss, oz);
  const base = b + F.base;
  const lost = lostAt(R, b, ox, oy, oz, inside);
  const lit = Math.max(R[base], R[base + 1], R[base + 2]);
  weights[0] = coat;
  weights[1] = (1 - coat) * (metal + rest * gloss);
  weights[2] = (1 - coat) * glass;
  weights[3] = (1 - coat) * rest * (1 - gloss) * lit;
  weights[4] = lost;
  weights[5] = R[b + F.sheetAlpha] > 0 ? (1 - coat) * (1 - gloss) * R[b + F.sheet] : 0;
  const sum = weights.reduce((all, w) => all + w, 0);
  for (let i = 0; i < 6; i++) weights[i] *= sum > 0 ? 1 / sum : 0;
}

/**
 * Evaluates all lobes for a pair of directions into `scattered` (f·|cos i| and pdf of sampling i), after weigh().
 * @param b offset of the record; `inside`: the viewer is inside the glass
 */
export function evaluate(
  R: Float32Array,
  b: number,
  ox: number,
  oy: number,
  oz: number,
  ix: number,
  iy: number,
  iz: number,
  inside: boolean,
): void {
  let r = 0;
  let g = 0;
  let bl = 0;
  let pdf = 0;
  const metal = R[b + F.metal];
  const glass = R[b + F.glass];
  const rest = R[b + F.opaque];
  const ax = R[b + F.alphaX];
  const ay = R[b + F.alphaY];
  const eta = inside ? 1 / R[b + F.ior] : R[b + F.ior];
  const coat = inside ? 0 : R[b + F.coat];
  const wide = inside ? 0 : R[b + F.wide];
  const lostO = lostAt(R, b, ox, oy, oz, inside);
  // what the coat leaves of light from under it
  const coatO = coat * lookup(R, b + T.coat, oz);
  const under = (c: number) => 1 - R[b + F.coat] + (R[b + F.coat] - coatO) * R[b + F.coatColor + c];
  if (iz > 0) {
    const [cr, cg, cb] = coat > 0 ? [under(0), under(1), under(2)] : [1, 1, 1];
    let hx = ox + ix;
    let hy = oy + iy;
    let hz = oz + iz;
    const hl = 1 / Math.sqrt(hx * hx + hy * hy + hz * hz);
    hx *= hl;
    hy *= hl;
    hz *= hl;
    const oh = ox * hx + oy * hy + oz * hz;
    if (metal > 0 || glass > 0 || rest > 0) {
      const d = ggx(ax, ay, hx, hy, hz);
      if (d > 1e-12) {
        const lo = lambda(ax, ay, ox, oy, oz);
        const li = lambda(ax, ay, ix, iy, iz);
        const fd = fresnel(oh, eta);
        const visible = d / (4 * oz);
        const shape = visible / (1 + lo + li);
        const dull = (glass + rest) * fd * shape;
        r += cr * dull * R[b + F.specular];
        g += cg * dull * R[b + F.specular + 1];
        bl += cb * dull * R[b + F.specular + 2];
        if (metal > 0) {
          const m = metal * shape;
          r += cr * m * lookup(R, b + T.metal, oh);
          g += cg * m * lookup(R, b + T.metal + 1, oh);
          bl += cb * m * lookup(R, b + T.metal + 2, oh);
        }
        pdf += ((weights[1] + weights[2] * fd) * visible) / (1 + lo);
      }
    }
    if (coat > 0) {
      const [cx, cy] = [R[b + F.coatAlphaX], R[b + F.coatAlphaY]];
      const d = ggx(cx, cy, hx, hy, hz);
      if (d > 1e-12) {
        const lo = lambda(cx, cy, ox, oy, oz);
        const li = lambda(cx, cy, ix, iy, iz);
        const visible = d / (4 * oz);
        const f = (coat * fresnel(oh, R[b + F.coatIor]) * visible) / (1 + lo + li);
        r += f;
        g += f;
        bl += f;
        pdf += (weights[0] * visible) / (1 + lo);
      }
    }
    const cosine = iz * INV_PI;
    if (rest > 0) {
      const coupling = (1 - lookup(R, b + T.gloss, iz)) / (1 - R[b + F.glossMean]);
      const smooth = 1 - R[b + F.diffuseRoughness];
      const pass = (1 - lookup(R, b + T.gloss, oz)) * (1 + (coupling - 1) * smooth);
      const f = rest * pass * cosine;
      const rough = R[b + F.diffuseRoughness];
      if (rough > 0) {
        roughDiffuse(rough, ox * ix + oy * iy + oz * iz, oz, iz);
        r += cr * f * diffuseOf(R[b + F.base]);
        g += cg * f * diffuseOf(R[b + F.base + 1]);
        bl += cb * f * diffuseOf(R[b + F.base + 2]);
      } else {
        r += cr * f * R[b + F.base];
        g += cg * f * R[b + F.base + 1];
        bl += cb * f * R[b + F.base + 2];
      }
      pdf += weights[3] * cosine;
    }
    const lost = R[b + (inside ? F.lostIn : F.lostOut)];
    if (lost > 1e-6 && lostO > 0) {
      const lostI = lostAt(R, b, ix, iy, iz, inside);
      const stay = 1 - R[b + (inside ? F.throughIn : F.throughOut)];
      let f = (stay * (1 - wide) * lostO * lostI * cosine) / lost;
      if (wide > 0) {
        const [wx, wy] = [R[b + F.wideX], R[b + F.wideY]];
        const lo = lambda(wx, wy, ox, oy, oz);
        const seen = (stay * wide * ggx(wx, wy, hx, hy, hz)) / (4 * oz);
        const returned = turned(R, b, b + T.widened, ox, oy, oz);
        f += (lostO * seen) / (1 + lo + lambda(wx, wy, ix, iy, iz)) / Math.max(0.1, returned);
        pdf += (weights[4] * seen) / (1 + lo);
      }
      const again = (c: number) =>
        !inside && R[b + F.turns] > 0 ? lookup(R, b + T.again + c, oz) : R[b + F.residualTint + c];
      r += f * again(0);
      g += f * again(1);
      bl += f * again(2);
    }
    pdf += weights[4] * (1 - wide) * (1 - R[b + (inside ? F.throughIn : F.throughOut)]) * cosine;
  } else if (iz < 0 && glass > 0) {
    // refraction: the half vector of Walter et al. 2007, eq. 16, on the viewer's side
    let hx = ox + eta * ix;
    let hy = oy + eta * iy;
    let hz = oz + eta * iz;
    const hl = Math.sqrt(hx * hx + hy * hy + hz * hz);
    const sign = hz < 0 ? -1 : 1;
    const tintR = R[b + F.glassTint] * under(0);
    const tintG = R[b + F.glassTint + 1] * under(1);
    const tintB = R[b + F.glassTint + 2] * under(2);
    if (hl > 1e-9) {
      hx *= sign / hl;
      hy *= sign / hl;
      hz *= sign / hl;
      const oh = ox * hx + oy * hy + oz * hz;
      const ih = ix * hx + iy * hy + iz * hz;
      if (oh > 0 && ih < 0) {
        const d = ggx(ax, ay, hx, hy, hz);
        if (d > 1e-12) {
          const lo = lambda(ax, ay, ox, oy, oz);
          const li = lambda(ax, ay, ix, iy, iz);
          const pass = 1 - fresnel(oh, eta);
          const q = oh + eta * ih;
          const spread = (d * oh * -ih * eta * eta) / (oz * q * q);
          const f = (glass * pass * spread) / ((1 + lo) * (1 + li));
          r += f * tintR;
          g += f * tintG;
          bl += f * tintB;
          pdf += (weights[2] * pass * spread) / (1 + lo);
        }
      }
    }
    const lost = R[b + (inside ? F.lostOut : F.lostIn)];
    const through = R[b + (inside ? F.throughIn : F.throughOut)];
    const cosine = -iz * INV_PI;
    if (lost > 1e-6 && lostO > 0) {
      const lostI = lookup(R, b + (inside ? T.lostOutside : T.lostInside), -iz);
      const f = lostI > 0 ? (through * lostO * lostI * cosine) / lost : 0;
      r += f * tintR;
      g += f * tintG;
      bl += f * tintB;
    }
    pdf += weights[4] * through * cosine;
  } else if (iz < 0 && R[b + F.sheetAlpha] > 0) {
    // through a rough sheet: a mirror lobe turned to the far side
    const a = R[b + F.sheetAlpha];
    const n = 1 / Math.hypot(ox + ix, oy + iy, oz - iz);
    const d = ggx(a, a, (ox + ix) * n, (oy + iy) * n, (oz - iz) * n);
    const lo = lambda(a, a, ox, oy, oz);
    const li = lambda(a, a, ix, iy, iz);
    const visible = d / (4 * oz);
    const f =
      (R[b + F.sheet] * (1 - lookup(R, b + T.gloss, oz)) * (1 - coatO) * visible) /
      ((1 + lo + li) * lookup(R, b + T.sheet, oz));
    r += f * R[b + F.glassTint];
    g += f * R[b + F.glassTint + 1];
    bl += f * R[b + F.glassTint + 2];
    pdf += (weights[5] * visible) / (1 + lo);
  }
  scattered[0] = r;
  scattered[1] = g;
  scattered[2] = bl;
  scattered[3] = pdf;
}

/** Visible normal of a GGX surface by spherical caps (Dupuy & Benyoub 2023); into `half`. */
const half = new Float64Array(3);
function visibleNormal(
  ax: number,
  ay: number,
  ox: number,
  oy: number,
  oz: number,
  u: number,
  v: number,
): void {
  let sx = ox * ax;
  let sy = oy * ay;
  let sz = oz;
  const l = 1 / Math.sqrt(sx * sx + sy * sy + sz * sz);
  sx *= l;
  sy *= l;
  sz *= l;
  const phi = 2 * Math.PI * u;
  const z = (1 - v) * (1 + sz) - sz;
  const s2 = 1 - z * z;
  const s = s2 > 0 ? Math.sqrt(s2) : 0;
  const x = (s * cos(phi) + sx) * ax;
  const y = (s * sin(phi) + sy) * ay;
  const w = z + sz;
  const n = 1 / Math.sqrt(x * x + y * y + w * w);
  half[0] = x * n;
  half[1] = y * n;
  half[2] = w * n;
}

/**
 * Draws a direction in proportion to the lobes and evaluates it into `scattered`, after weigh().
 * @param pick chooses the lobe; u and v, each in [0, 1), the direction in it
 * @returns false when the path ends here
 */
export function sample(
  R: Float32Array,
  b: number,
  ox: number,
  oy: number,
  oz: number,
  inside: boolean,
  pick: number,
  u: number,
  v: number,
): boolean {
  let ix = 0;
  let iy = 0;
  let iz = 0;
  const toGloss = weights[0] + weights[1];
  const toGlass = toGloss + weights[2];
  const toSheet = toGlass + weights[5];
  const toResidual = toSheet + weights[3];
  // of the residual, first what crosses, then what is widened, then the rest
  const left = weights[4] > 0 ? (pick - toResidual) / weights[4] : -1;
  const through = R[b + (inside ? F.throughIn : F.throughOut)];
  const ofWide = left >= through && left < through + (1 - through) * (inside ? 0 : R[b + F.wide]);
  if (pick < toSheet || ofWide) {
    const coat = pick < weights[0];
    const sheet = pick >= toGlass && !ofWide;
    const widthOf = (of: 'X' | 'Y') =>
      ofWide
        ? R[b + F[`wide${of}`]]
        : coat
          ? R[b + F[`coatAlpha${of}`]]
          : sheet
            ? R[b + F.sheetAlpha]
            : R[b + F[`alpha${of}`]];
    const [ax, ay] = [widthOf('X'), widthOf('Y')];
    visibleNormal(ax, ay, ox, oy, oz, u, v);
    const oh = ox * half[0] + oy * half[1] + oz * half[2];
    let reflects = true;
    const eta = inside ? 1 / R[b + F.ior] : R[b + F.ior];
    if (pick >= toGloss && !sheet && !ofWide) {
      // the pick is used again within the glass lobe's own share
      reflects = (pick - toGloss) / weights[2] < fresnel(oh, eta);
    }
    if (reflects) {
      ix = 2 * oh * half[0] - ox;
      iy = 2 * oh * half[1] - oy;
      iz = 2 * oh * half[2] - oz;
      if (iz <= 0) return false;
      if (sheet) iz = -iz;
    } else {
      const k = 1 / eta;
      const t2 = 1 - k * k * (1 - oh * oh);
      if (t2 <= 0) return false;
      const m = k * oh - Math.sqrt(t2);
      ix = m * half[0] - k * ox;
      iy = m * half[1] - k * oy;
      iz = m * half[2] - k * oz;
      if (iz >= 0) return false;
    }
  } else {
    // cosine-weighted, on the near side or (a share of the residual) on the far side
    const radius = Math.sqrt(u);
    const phi = 2 * Math.PI * v;
    ix = radius * cos(phi);
    iy = radius * sin(phi);
    iz = Math.sqrt(1 - u);
    if (iz <= 1e-9) return false;
    if (left >= 0 && left < through) iz = -iz;
  }
  evaluate(R, b, ox, oy, oz, ix, iy, iz, inside);
  scattered[4] = ix;
  scattered[5] = iy;
  scattered[6] = iz;
  return scattered[3] > 0;
}
