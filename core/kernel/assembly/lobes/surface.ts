// How a finish scatters light: fuzz over a coat over a blend of metal, glass and glossy diffuse, all GGX, closed by a residual
// lobe that returns what single scattering loses (after Kulla & Conty 2017), so that lossless finishes lose nothing.
// What lies under the coat gets what the coat lets towards the viewer (albedo scaling, OpenPBR §3.7).
//
// Directions are in the shading frame, z along the normal on the viewer's side. Transmission carries basic radiance
// L/n²: no index squared appears. All four paths of a group wear one finish and are on one side of it: outside, in its
// glass, or beneath its surface, where light that seeps in wanders until it comes out again.
import {
  F_ALPHA_X, F_ALPHA_Y, F_BASE_B, F_BASE_G, F_BASE_R, F_COAT, F_COAT_ALPHA_X, F_COAT_ALPHA_Y, F_COAT_B, F_COAT_G, F_COAT_IOR, F_COAT_R,
  F_DIFFUSE_ROUGHNESS, F_DISPERSION, F_FILM, F_FUZZ, F_FUZZ_B, F_FUZZ_G, F_FUZZ_R, F_GLASS, F_GLOSS_MEAN, F_IOR, F_LIT, F_LOST_IN, F_LOST_OUT, F_METAL, F_OPAQUE, F_RESIDUAL_B,
  F_RESIDUAL_G, F_RESIDUAL_R, F_SHEET, F_SHEET_ALPHA, F_SPECULAR_B, F_SPECULAR_G, F_SPECULAR_R, F_SUBSURFACE, F_THROUGH_IN,
  F_THROUGH_OUT, F_TINT_B, F_TINT_G, F_TINT_R, F_TURNS, F_WIDE, F_WIDE_X, F_WIDE_Y,
} from '../layout';
import {
  above, add, below, both, div, dot3, flip, mad, most, mul, pick, root, splat, sub, where,
} from '../lanes';
import { cosOut, sinOut, turn4 } from '../maths4';
import { diffuseOf, roughDiffuse } from './diffuse';
import { fresnel, halfX, halfY, halfZ, lambda, normals, visibleNormal } from './ggx';
import { indices } from '../spectrum';
import { drawFuzz, fuzzDensity, fuzzReflects, fuzzX, fuzzY, fuzzZ, viewFuzz } from './fuzz';
import { againRows, brushedRows, filmGlossRows, filmRows, layerRows, metalRows, row0, row1, row2, row3 } from './rows';

const INV_PI: f32 = 0.3183098861837907;
const ZERO: f32 = 0;
/** The widened lobe returns at least this share, so that nothing is made larger without bounds. */
const LEAST_RETURNED: f32 = 0.1;
/** Lobes no wider than this are sharp: what they send on of a caustic is traced, not taken from photons. */
const SHARP: f32 = 0.1;
/** Indices closer than this, one over the other, are alike. */
const LEAST_STEP: f32 = 5e-5;

// the finish under way, and what depends on the viewer alone
let R: usize = 0;
/** Whether from within its glass, and whether from beneath its surface. */
let inside: bool = false;
let beneath: bool = false;
let film: bool = false;
let fuzz: f32 = 0;
/** Share of the opaque body that lets light seep in. */
let seeps: f32 = 0;
let metal: f32 = 0;
let glass: f32 = 0;
let opaque: f32 = 0;
let coat: f32 = 0;
let sheetAlpha: f32 = 0;
/** Share of what is lost that comes back in a widened lobe, and whether what is lost differs with the turn. */
let wide: f32 = 0;
let turns: bool = false;
let ax: v128 = f32x4.splat(0);
let ay: v128 = f32x4.splat(0);
let eta: v128 = f32x4.splat(0);
let ox: v128 = f32x4.splat(0);
let oy: v128 = f32x4.splat(0);
let oz: v128 = f32x4.splat(0);
let lambdaO: v128 = f32x4.splat(0);
let glossO: v128 = f32x4.splat(0);
let coatO: v128 = f32x4.splat(0);
let lostO: v128 = f32x4.splat(0);
/** One over what the widened lobe returns for this view. */
let wideO: v128 = f32x4.splat(0);
/** Colour of what is lost and comes back for this view. */
let againR: v128 = f32x4.splat(0);
let againG: v128 = f32x4.splat(0);
let againB: v128 = f32x4.splat(0);
/** Of the film, what each channel reflects for this view over the mean of them. */
let filmR: v128 = f32x4.splat(1);
let filmG: v128 = f32x4.splat(1);
let filmB: v128 = f32x4.splat(1);
/** Shares of the lobes for this view; they sum to one: coat, gloss, glass, sheet, diffuse, residual, fuzz, seeping. */
let wCoat: v128 = f32x4.splat(0);
let wGloss: v128 = f32x4.splat(0);
let wGlass: v128 = f32x4.splat(0);
let wSheet: v128 = f32x4.splat(0);
let wDiffuse: v128 = f32x4.splat(0);
let wResidual: v128 = f32x4.splat(0);
let wFuzz: v128 = f32x4.splat(0);
let wSeep: v128 = f32x4.splat(0);

/** Results of evaluate and sample: f · |cos|, density; of sample the direction, and whether the path goes on. */
export let scatteredR: v128 = f32x4.splat(0);
export let scatteredG: v128 = f32x4.splat(0);
export let scatteredB: v128 = f32x4.splat(0);
export let scatteredPdf: v128 = f32x4.splat(0);
export let toX: v128 = f32x4.splat(0);
export let toY: v128 = f32x4.splat(0);
export let toZ: v128 = f32x4.splat(0);
export let goesOn: v128 = f32x4.splat(0);
/** Of sample, which directions were drawn from a diffuse lobe. */
export let drawnDiffuse: v128 = f32x4.splat(0);
/** Of sample, which directions go in beneath the surface. */
export let drawnIn: v128 = f32x4.splat(0);
/** Share of what evaluate and sample found that sharp lobes scatter; only where it is asked for. */
export let scatteredSharp: v128 = f32x4.splat(0);
let splits: bool = false;
/** Share of what evaluate and sample found on the viewer's side that diffuse lobes scatter; only where it is asked for. */
export let diffuseR: v128 = f32x4.splat(0);
export let diffuseG: v128 = f32x4.splat(0);
export let diffuseB: v128 = f32x4.splat(0);
let parts: bool = false;

/** @param wanted whether to tell diffuse lobes from mirroring ones */
export function tellDiffuse(wanted: bool): void {
  parts = wanted;
}

/** @param wanted whether to tell sharp lobes from wide ones */
export function tellSharp(wanted: bool): void {
  splits = wanted;
}

// @ts-ignore: decorator
@inline function spread4(offset: usize): v128 { return v128.load32_splat(R + offset); }
// @ts-ignore: decorator
@inline function num(offset: usize): f32 { return load<f32>(R + offset); }

/**
 * Weighs the lobes for four viewing directions; evaluate and sample are about these.
 * @param from 0 outside, 1 in its glass, 2 beneath its surface; @param around index of what its glass lies in
 */
export function view(finish: usize, from: i32, x: v128, y: v128, z: v128, around: v128): void {
  R = finish;
  inside = from === 1;
  beneath = from === 2;
  ox = x;
  oy = y;
  oz = z;
  metal = num(F_METAL);
  glass = num(F_GLASS);
  seeps = num(F_OPAQUE) * num(F_SUBSURFACE);
  opaque = num(F_OPAQUE) - seeps;
  film = num(F_FILM) > 0;
  fuzz = inside ? ZERO : num(F_FUZZ);
  if (beneath) {
    wSeep = splat(1);
    return;
  }
  coat = inside ? ZERO : num(F_COAT);
  sheetAlpha = num(F_SHEET_ALPHA);
  ax = spread4(F_ALPHA_X);
  ay = spread4(F_ALPHA_Y);
  const b = num(F_DISPERSION);
  const ior = b > 0 ? indices(spread4(F_IOR), splat(b)) : spread4(F_IOR);
  eta = inside ? div(around, ior) : div(ior, around);
  // where glass meets its like there is no face, and no half vector
  eta = pick(below(f32x4.abs(sub(eta, splat(1))), splat(LEAST_STEP)), splat(1.0001), eta);
  layerRows(R, oz);
  glossO = row0;
  coatO = mul(splat(coat), row1);
  lostO = most(splat(0), inside ? row3 : row2);
  wide = inside ? ZERO : num(F_WIDE);
  turns = !inside && num(F_TURNS) > 0;
  if (turns) {
    againRows(R, oz);
    againR = row0;
    againG = row1;
    againB = row2;
    const along = alongBrushing(ox, oy, row3);
    brushedRows(R, oz);
    lostO = most(splat(0), add(lostO, mad(sub(row2, row3), along, row3)));
    wideO = div(splat(1), most(splat(LEAST_RETURNED), mad(sub(row0, row1), along, row1)));
  } else {
    againR = spread4(F_RESIDUAL_R);
    againG = spread4(F_RESIDUAL_G);
    againB = spread4(F_RESIDUAL_B);
  }
  lambdaO = lambda(ax, ay, ox, oy, oz);
  const under = sub(splat(1), coatO);
  wCoat = coatO;
  wGloss = mul(under, mad(splat(opaque + seeps), glossO, splat(metal)));
  wGlass = mul(under, splat(glass));
  const base = mul(under, sub(splat(1), glossO));
  wSheet = sheetAlpha > 0 ? mul(base, spread4(F_SHEET)) : splat(0);
  wDiffuse = mul(base, splat(opaque * num(F_LIT)));
  wSeep = inside ? splat(0) : mul(base, splat(seeps));
  wResidual = lostO;
  if (film) {
    filmGlossRows(R, outerCosine(oz));
    filmR = row0;
    filmG = row1;
    filmB = row2;
  }
  wFuzz = splat(0);
  if (fuzz > 0) {
    viewFuzz(R, ox, oy, oz);
    wFuzz = mul(splat(fuzz), fuzzReflects);
  }
  const sum = add(add(add(wCoat, wGloss), add(wGlass, wSheet)), add(add(wDiffuse, wSeep), wResidual));
  const scale = where(above(sum, splat(0)), div(sub(splat(1), wFuzz), sum));
  wCoat = mul(wCoat, scale);
  wGloss = mul(wGloss, scale);
  wGlass = mul(wGlass, scale);
  wSheet = mul(wSheet, scale);
  wDiffuse = mul(wDiffuse, scale);
  wResidual = mul(wResidual, scale);
  wSeep = mul(wSeep, scale);
}

/** How much of what differs along and across a brushed face is seen as along it (turnedRows in finish/energy.ts). */
// @ts-ignore: decorator
@inline function alongBrushing(x: v128, y: v128, slack: v128): v128 {
  const xx = mul(x, x);
  return div(xx, most(mad(mul(y, y), slack, xx), splat(1e-12)));
}

/** Cosine outside that goes with one on this side of the interface. */
// @ts-ignore: decorator
@inline function outerCosine(c: v128): v128 {
  if (!inside) return c;
  const s2 = div(sub(splat(1), mul(c, c)), mul(eta, eta));
  return root(most(splat(0), sub(splat(1), s2)));
}

/** Results of interface: what it reflects at a cosine on this side, by channel, and their mean. */
let faceR: v128 = f32x4.splat(0);
let faceG: v128 = f32x4.splat(0);
let faceB: v128 = f32x4.splat(0);
let faceMean: v128 = f32x4.splat(0);

/** What the glossy interface reflects, under its film. */
// @ts-ignore: decorator
@inline function face(c: v128): void {
  faceMean = fresnel(c, eta);
  faceR = faceMean;
  faceG = faceMean;
  faceB = faceMean;
  if (!film) return;
  filmRows(R, outerCosine(c));
  const bare = f32x4.ge(faceMean, splat(1));
  faceR = pick(bare, faceMean, row0);
  faceG = pick(bare, faceMean, row1);
  faceB = pick(bare, faceMean, row2);
  faceMean = pick(bare, faceMean, row3);
}

/** What the gloss lets through to the body in a channel. */
// @ts-ignore: decorator
@inline function letsBy(tone: v128): v128 {
  return most(splat(0), sub(splat(1), film ? mul(glossO, tone) : glossO));
}

// of the directions under way
let sumR: v128 = f32x4.splat(0);
let sumG: v128 = f32x4.splat(0);
let sumB: v128 = f32x4.splat(0);
let sumPdf: v128 = f32x4.splat(0);
let sumSharp: v128 = f32x4.splat(0);
let diffR: v128 = f32x4.splat(0);
let diffG: v128 = f32x4.splat(0);
let diffB: v128 = f32x4.splat(0);

// @ts-ignore: decorator
@inline function summed(): v128 { return add(add(sumR, sumG), sumB); }
// @ts-ignore: decorator
@inline function isSharp(): bool { return max(num(F_ALPHA_X), num(F_ALPHA_Y)) <= SHARP; }

// @ts-ignore: decorator
@inline function gives(r: v128, g: v128, b: v128): void {
  sumR = add(sumR, r);
  sumG = add(sumG, g);
  sumB = add(sumB, b);
}

/** What the coat leaves of light from under it, by channel: as it is where there is none, else dimmed and coloured. */
// @ts-ignore: decorator
@inline function underCoat(channel: usize): v128 {
  const c = num(F_COAT);
  return mad(sub(splat(c), coatO), spread4(channel), splat(<f32>1 - c));
}

/** Light that stays on the viewer's side. */
function reflected(ix: v128, iy: v128, iz: v128, here: v128): void {
  let hx = add(ox, ix);
  let hy = add(oy, iy);
  let hz = add(oz, iz);
  const hl = div(splat(1), root(most(dot3(hx, hy, hz, hx, hy, hz), splat(1e-20))));
  hx = mul(hx, hl);
  hy = mul(hy, hl);
  hz = mul(hz, hl);
  const oh = dot3(ox, oy, oz, hx, hy, hz);
  const cr = coat > 0 ? underCoat(F_COAT_R) : splat(1);
  const cg = coat > 0 ? underCoat(F_COAT_G) : splat(1);
  const cb = coat > 0 ? underCoat(F_COAT_B) : splat(1);
  const over = div(splat(0.25), oz);
  const visible = where(here, mul(normals(ax, ay, hx, hy, hz), over));
  const shape = div(visible, add(add(splat(1), lambdaO), lambda(ax, ay, ix, iy, iz)));
  let density = mul(wGloss, visible);
  if (glass + opaque + seeps > 0) {
    face(oh);
    const dull = splat(glass + opaque + seeps);
    gives(
      mul(cr, mul(mul(dull, mul(faceR, shape)), spread4(F_SPECULAR_R))),
      mul(cg, mul(mul(dull, mul(faceG, shape)), spread4(F_SPECULAR_G))),
      mul(cb, mul(mul(dull, mul(faceB, shape)), spread4(F_SPECULAR_B))),
    );
    density = mad(mul(wGlass, faceMean), visible, density);
  }
  if (metal > 0) {
    metalRows(R, oh);
    const m = mul(splat(metal), shape);
    gives(mul(cr, mul(m, row0)), mul(cg, mul(m, row1)), mul(cb, mul(m, row2)));
  }
  sumPdf = add(sumPdf, div(density, add(splat(1), lambdaO)));
  if (splits && isSharp()) sumSharp = summed();
  if (coat > 0) {
    const cx = spread4(F_COAT_ALPHA_X);
    const cy = spread4(F_COAT_ALPHA_Y);
    const seen = where(here, mul(normals(cx, cy, hx, hy, hz), over));
    const lo = add(splat(1), lambda(cx, cy, ox, oy, oz));
    const f = div(
      mul(splat(coat), mul(fresnel(oh, spread4(F_COAT_IOR)), seen)),
      add(lo, lambda(cx, cy, ix, iy, iz)),
    );
    gives(f, f, f);
    if (splits && max(num(F_COAT_ALPHA_X), num(F_COAT_ALPHA_Y)) <= SHARP) sumSharp = mad(f, splat(3), sumSharp);
    sumPdf = add(sumPdf, div(mul(wCoat, seen), lo));
  }
  const cosine = where(here, mul(iz, splat(INV_PI)));
  layerRows(R, iz);
  const glossI = row0;
  let lostI = inside ? row3 : row2;
  if (turns && wide < 1) {
    againRows(R, iz);
    const along = alongBrushing(ix, iy, row3);
    brushedRows(R, iz);
    lostI = add(lostI, mad(sub(row2, row3), along, row3));
  }
  lostI = most(splat(0), lostI);
  if (opaque > 0) {
    const mirroredR = sumR;
    const mirroredG = sumG;
    const mirroredB = sumB;
    const rough = num(F_DIFFUSE_ROUGHNESS);
    // over a rough body the coupling that suits a Lambertian one would lose light
    const coupling = div(sub(splat(1), glossI), splat(<f32>1 - num(F_GLOSS_MEAN)));
    const passes = mad(splat(rough), sub(splat(1), coupling), coupling);
    const fr = mul(mul(splat(opaque), mul(letsBy(filmR), passes)), cosine);
    const fg = film ? mul(mul(splat(opaque), mul(letsBy(filmG), passes)), cosine) : fr;
    const fb = film ? mul(mul(splat(opaque), mul(letsBy(filmB), passes)), cosine) : fr;
    if (rough > 0) {
      roughDiffuse(splat(rough), dot3(ox, oy, oz, ix, iy, iz), oz, iz);
      gives(
        mul(cr, mul(fr, diffuseOf(spread4(F_BASE_R)))),
        mul(cg, mul(fg, diffuseOf(spread4(F_BASE_G)))),
        mul(cb, mul(fb, diffuseOf(spread4(F_BASE_B)))),
      );
    } else {
      gives(mul(cr, mul(fr, spread4(F_BASE_R))), mul(cg, mul(fg, spread4(F_BASE_G))), mul(cb, mul(fb, spread4(F_BASE_B))));
    }
    sumPdf = mad(wDiffuse, cosine, sumPdf);
    if (parts) {
      diffR = sub(sumR, mirroredR);
      diffG = sub(sumG, mirroredG);
      diffB = sub(sumB, mirroredB);
    }
  }
  const lost = num(inside ? F_LOST_IN : F_LOST_OUT);
  const stay: f32 = <f32>1 - num(inside ? F_THROUGH_IN : F_THROUGH_OUT);
  const even: f32 = stay * (<f32>1 - wide);
  if (lost > <f32>1e-6) {
    let f = mul(lostI, mul(cosine, splat(even / lost)));
    if (wide > 0) {
      const wx = spread4(F_WIDE_X);
      const wy = spread4(F_WIDE_Y);
      const seen = where(here, mul(normals(wx, wy, hx, hy, hz), mul(over, splat(stay * wide))));
      const lo = add(splat(1), lambda(wx, wy, ox, oy, oz));
      f = mad(div(seen, add(lo, lambda(wx, wy, ix, iy, iz))), wideO, f);
      sumPdf = add(sumPdf, div(mul(wResidual, seen), lo));
    }
    f = mul(f, lostO);
    gives(mul(f, againR), mul(f, againG), mul(f, againB));
  }
  sumPdf = mad(mul(wResidual, splat(even)), cosine, sumPdf);
}

/** Light that comes through a solid's interface: half vector of Walter et al. 2007, eq. 16, on the viewer's side. */
function refracted(ix: v128, iy: v128, iz: v128, here: v128): void {
  let hx = mad(eta, ix, ox);
  let hy = mad(eta, iy, oy);
  let hz = mad(eta, iz, oz);
  const hl = root(dot3(hx, hy, hz, hx, hy, hz));
  const turn = div(pick(below(hz, splat(0)), splat(-1), splat(1)), most(hl, splat(1e-9)));
  hx = mul(hx, turn);
  hy = mul(hy, turn);
  hz = mul(hz, turn);
  const oh = dot3(ox, oy, oz, hx, hy, hz);
  const ih = dot3(ix, iy, iz, hx, hy, hz);
  const valid = both(both(here, above(hl, splat(1e-9))), both(above(oh, splat(0)), below(ih, splat(0))));
  const q = mad(eta, ih, oh);
  face(oh);
  const spread = where(
    valid,
    div(
      mul(mul(normals(ax, ay, hx, hy, hz), mul(oh, flip(ih))), mul(eta, eta)),
      most(mul(oz, mul(q, q)), splat(1e-20)),
    ),
  );
  const ways = mul(sub(splat(1), faceMean), spread);
  const lo = add(splat(1), lambdaO);
  const masked = mul(lo, add(splat(1), lambda(ax, ay, ix, iy, iz)));
  const fr = div(mul(splat(glass), mul(sub(splat(1), faceR), spread)), masked);
  const fg = film ? div(mul(splat(glass), mul(sub(splat(1), faceG), spread)), masked) : fr;
  const fb = film ? div(mul(splat(glass), mul(sub(splat(1), faceB), spread)), masked) : fr;
  const tintR = mul(spread4(F_TINT_R), underCoat(F_COAT_R));
  const tintG = mul(spread4(F_TINT_G), underCoat(F_COAT_G));
  const tintB = mul(spread4(F_TINT_B), underCoat(F_COAT_B));
  gives(mul(fr, tintR), mul(fg, tintG), mul(fb, tintB));
  sumPdf = add(sumPdf, div(mul(wGlass, ways), lo));
  const through = num(inside ? F_THROUGH_IN : F_THROUGH_OUT);
  const cosine = where(here, mul(flip(iz), splat(INV_PI)));
  const lost = num(inside ? F_LOST_OUT : F_LOST_IN);
  if (lost > <f32>1e-6) {
    layerRows(R, flip(iz));
    const lostI = most(splat(0), inside ? row2 : row3);
    const more = mul(mul(lostO, lostI), mul(cosine, splat(through / lost)));
    gives(mul(more, tintR), mul(more, tintG), mul(more, tintB));
  }
  sumPdf = mad(mul(wResidual, splat(through)), cosine, sumPdf);
  if (splits && isSharp()) sumSharp = pick(here, summed(), sumSharp);
}

/**
 * Light that comes through a rough sheet without thickness: as a mirror lobe turned to the far side. Two interfaces of
 * width α, each tilting what passes by (n - 1) θ, spread it by (n - 1) α / √2 of such a lobe.
 */
function spreadThrough(ix: v128, iy: v128, iz: v128, here: v128): void {
  const a = splat(sheetAlpha);
  const jz = flip(iz);
  let hx = add(ox, ix);
  let hy = add(oy, iy);
  let hz = add(oz, jz);
  const hl = div(splat(1), root(most(dot3(hx, hy, hz, hx, hy, hz), splat(1e-20))));
  hx = mul(hx, hl);
  hy = mul(hy, hl);
  hz = mul(hz, hl);
  const seen = where(here, mul(normals(a, a, hx, hy, hz), div(splat(0.25), oz)));
  const lo = add(splat(1), lambda(a, a, ox, oy, oz));
  metalRows(R, oz);
  const masked = mul(row3, add(lo, lambda(a, a, ix, iy, jz)));
  const under = sub(splat(1), coatO);
  const fr = mul(div(mul(seen, mul(spread4(F_SHEET), letsBy(filmR))), masked), under);
  const fg = film ? mul(div(mul(seen, mul(spread4(F_SHEET), letsBy(filmG))), masked), under) : fr;
  const fb = film ? mul(div(mul(seen, mul(spread4(F_SHEET), letsBy(filmB))), masked), under) : fr;
  gives(mul(fr, spread4(F_TINT_R)), mul(fg, spread4(F_TINT_G)), mul(fb, spread4(F_TINT_B)));
  sumPdf = add(sumPdf, div(mul(wSheet, seen), lo));
}

/**
 * Light that seeps in through the surface, or comes out of it again: diffusely, the gloss over it keeping its share.
 * What goes in is not sought for: only the way through tells where it comes out.
 */
function seeping(iz: v128, here: v128): void {
  const cosine = where(here, mul(flip(iz), splat(INV_PI)));
  if (beneath) {
    layerRows(R, flip(iz));
    const f = mul(cosine, div(sub(splat(1), row0), splat(<f32>1 - num(F_GLOSS_MEAN))));
    gives(f, f, f);
    sumPdf = add(sumPdf, cosine);
    return;
  }
  sumPdf = mad(wSeep, cosine, sumPdf);
  if (seeking) return;
  const f = mul(splat(seeps), cosine);
  gives(
    mul(mul(f, letsBy(filmR)), underCoat(F_COAT_R)), mul(mul(f, letsBy(filmG)), underCoat(F_COAT_G)),
    mul(mul(f, letsBy(filmB)), underCoat(F_COAT_B)),
  );
}

/** Whether directions are those of lights, not drawn. */
let seeking: bool = true;

// @ts-ignore: decorator
@inline function shareOf(part: v128, all: v128): v128 {
  return f32x4.pmin(splat(1), div(part, most(all, splat(1e-30))));
}

/** Evaluates all lobes for four directions, after view(). */
export function evaluate(ix: v128, iy: v128, iz: v128): void {
  sumR = splat(0);
  sumG = splat(0);
  sumB = splat(0);
  sumPdf = splat(0);
  sumSharp = splat(0);
  diffR = splat(0);
  diffG = splat(0);
  diffB = splat(0);
  const near = above(iz, splat(0));
  if (!beneath && v128.any_true(near)) reflected(ix, iy, iz, near);
  if (!beneath && (glass > 0 || sheetAlpha > 0)) {
    const far = below(iz, splat(0));
    if (v128.any_true(far)) {
      if (glass > 0) refracted(ix, iy, iz, far);
      else spreadThrough(ix, iy, iz, far);
    }
  }
  if (beneath || (seeps > 0 && !inside)) {
    const far = below(iz, splat(0));
    if (v128.any_true(far)) seeping(iz, far);
  }
  if (fuzz > 0 && !beneath) {
    // what lies under the fuzz gets what it does not reflect
    const passed = mad(splat(-fuzz), fuzzReflects, splat(1));
    sumR = mul(sumR, passed);
    sumG = mul(sumG, passed);
    sumB = mul(sumB, passed);
    sumSharp = mul(sumSharp, passed);
    const density = fuzzDensity(ix, iy, iz);
    const f = mul(mul(splat(fuzz), fuzzReflects), density);
    if (parts) {
      diffR = mad(diffR, passed, mul(f, spread4(F_FUZZ_R)));
      diffG = mad(diffG, passed, mul(f, spread4(F_FUZZ_G)));
      diffB = mad(diffB, passed, mul(f, spread4(F_FUZZ_B)));
    }
    gives(mul(f, spread4(F_FUZZ_R)), mul(f, spread4(F_FUZZ_G)), mul(f, spread4(F_FUZZ_B)));
    sumPdf = mad(wFuzz, density, sumPdf);
  }
  scatteredR = sumR;
  scatteredG = sumG;
  scatteredB = sumB;
  scatteredPdf = sumPdf;
  if (parts) {
    diffuseR = shareOf(diffR, sumR);
    diffuseG = shareOf(diffG, sumG);
    diffuseB = shareOf(diffB, sumB);
  }
  if (splits) scatteredSharp = f32x4.pmin(splat(1), div(sumSharp, most(summed(), splat(1e-30))));
}

/**
 * Draws four directions in proportion to the lobes and evaluates them, after view().
 * @param lot chooses the lobe; u and v the direction in it
 */
export function sample(lot: v128, u: v128, v: v128): void {
  if (beneath) {
    sampleOut(u, v);
    return;
  }
  const toGloss = add(wCoat, wGloss);
  const toGlass = add(toGloss, wGlass);
  const toSheet = add(toGlass, wSheet);
  const toDiffuse = add(toSheet, wDiffuse);
  const toResidual = add(toDiffuse, wResidual);
  const toSeep = add(toResidual, wSeep);
  const ofCoat = below(lot, wCoat);
  // of the residual, first what crosses, then what is widened, then the rest
  const left = div(sub(lot, toDiffuse), most(wResidual, splat(1e-20)));
  const ofResidual = both(f32x4.ge(lot, toDiffuse), below(lot, toResidual));
  const through: f32 = num(inside ? F_THROUGH_IN : F_THROUGH_OUT);
  const ofWide = both(
    ofResidual, both(f32x4.ge(left, splat(through)), below(left, splat(through + (<f32>1 - through) * wide))),
  );
  const shiny = v128.or(below(lot, toSheet), ofWide);
  drawnIn = splat(0);
  let ix = splat(0);
  let iy = splat(0);
  let iz = splat(0);
  let valid = splat(0);
  if (v128.any_true(shiny)) {
    const ofSheet = both(f32x4.ge(lot, toGlass), below(lot, toSheet));
    const sa = splat(sheetAlpha);
    let wx = pick(ofCoat, spread4(F_COAT_ALPHA_X), pick(ofSheet, sa, ax));
    let wy = pick(ofCoat, spread4(F_COAT_ALPHA_Y), pick(ofSheet, sa, ay));
    if (wide > 0) {
      wx = pick(ofWide, spread4(F_WIDE_X), wx);
      wy = pick(ofWide, spread4(F_WIDE_Y), wy);
    }
    visibleNormal(wx, wy, ox, oy, oz, u, v);
    const oh = dot3(ox, oy, oz, halfX, halfY, halfZ);
    const twice = add(oh, oh);
    ix = sub(mul(twice, halfX), ox);
    iy = sub(mul(twice, halfY), oy);
    iz = sub(mul(twice, halfZ), oz);
    valid = above(iz, splat(0));
    iz = pick(ofSheet, flip(iz), iz);
    if (glass > 0) {
      face(oh);
      // the lot is used again within the glass lobe's own share
      const again = div(sub(lot, toGloss), most(wGlass, splat(1e-20)));
      const crosses = both(
        both(f32x4.ge(lot, toGloss), below(lot, toGlass)),
        f32x4.ge(again, faceMean),
      );
      const k = div(splat(1), eta);
      const t2 = sub(splat(1), mul(mul(k, k), sub(splat(1), mul(oh, oh))));
      const m = sub(mul(k, oh), root(most(splat(0), t2)));
      const rx = sub(mul(m, halfX), mul(k, ox));
      const ry = sub(mul(m, halfY), mul(k, oy));
      const rz = sub(mul(m, halfZ), mul(k, oz));
      valid = pick(crosses, both(above(t2, splat(0)), below(rz, splat(0))), valid);
      ix = pick(crosses, rx, ix);
      iy = pick(crosses, ry, iy);
      iz = pick(crosses, rz, iz);
    }
  }
  if (!v128.all_true<i32>(shiny)) {
    // cosine-weighted, on the near side or (a share of the residual) on the far side
    const radius = root(u);
    turn4(v);
    const up = root(most(splat(0), sub(splat(1), u)));
    const seeped = both(f32x4.ge(lot, toResidual), below(lot, toSeep));
    drawnIn = seeped;
    const crosses = v128.or(
      seeped, both(ofResidual, below(left, splat(through))),
    );
    valid = pick(shiny, valid, above(up, splat(1e-5)));
    ix = pick(shiny, ix, mul(radius, cosOut));
    iy = pick(shiny, iy, mul(radius, sinOut));
    iz = pick(shiny, iz, pick(crosses, flip(up), up));
    if (fuzz > 0) {
      const ofFuzz = f32x4.ge(lot, toSeep);
      drawFuzz(u, v);
      ix = pick(ofFuzz, fuzzX, ix);
      iy = pick(ofFuzz, fuzzY, iy);
      iz = pick(ofFuzz, fuzzZ, iz);
      valid = pick(ofFuzz, above(iz, splat(1e-5)), valid);
    }
  }
  seeking = false;
  evaluate(ix, iy, iz);
  seeking = true;
  toX = ix;
  toY = iy;
  toZ = iz;
  drawnDiffuse = v128.not(shiny);
  goesOn = both(valid, above(scatteredPdf, splat(0)));
}

/** Draws four directions out of what lies beneath the surface. */
function sampleOut(u: v128, v: v128): void {
  const radius = root(u);
  turn4(v);
  toX = mul(radius, cosOut);
  toY = mul(radius, sinOut);
  toZ = flip(root(most(splat(0), sub(splat(1), u))));
  evaluate(toX, toY, toZ);
  drawnDiffuse = i32x4.splat(-1);
  drawnIn = splat(0);
  goesOn = above(scatteredPdf, splat(0));
}
