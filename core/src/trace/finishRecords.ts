/** Compiles interpreted surfaces into the records the kernel reads (FINISH in kernel/layout.mjs); nothing is sampled. */
import { BRUSHINGS } from '../document/kinds.ts';
import { filmGloss, type FilmGloss } from '../finish/filmGloss.ts';
import { fuzzAt } from '../finish/fuzz.ts';
import { ENTRIES, facingAlbedo, opticsOf, type Optics } from '../finish/optics.ts';
import { surfacesOf } from '../finish/recipe.ts';
import { recipeWords, type Pictures } from './recipeRecords.ts';
import {
  brushedRow,
  dielectricRow,
  furtherMeetings,
  meanOfRow,
  mirrorRow,
  roughnessOf,
  rowValue,
  turnedRows,
  widened,
  widths,
  cosineOf,
  type Row,
} from '../finish/energy.ts';
import type { Rgb } from '../finish/reflectance.ts';
import { luminance } from '../maths/colour.ts';
import { cos, sin } from '../maths/reproducible.ts';
import * as K from './kernelLayout.ts';

/** Floats of a record. */
export const RECORD = K.FINISH_BYTES / 4;
/** Share of the residual light that crosses a glass interface where nothing forbids it. */
const THROUGH = 0.9;
/** Widest lobe through a sheet that counts as straight. */
const STRAIGHT = 2e-3;
/** Stands for finishes that are no mirrors at all. */
const NO_MIRROR = 9;
/** Share of light below which it does not matter where what is lost comes back. */
const LEAST_LOST = 1e-4;
/** What of a surface's light is sought all around at least, so that no light is never chosen. */
const LEAST_DIFFUSE = 0.02;

const at = (offset: number) => offset / 4;
/** Places of a record's numbers, in floats. */
export const F = {
  emission: at(K.F_EMISSION_R),
  cast: at(K.F_CAST),
  albedo: at(K.F_ALBEDO_R),
  sheet: at(K.F_SHEET),
  sheetAlpha: at(K.F_SHEET_ALPHA),
} as const;

/** Compiles one surface; RECORD floats. */
export function compileSurface(optics: Optics): Float32Array {
  return optics.thin ? compileSheet(optics) : compileSolid(optics);
}

function compileSolid(optics: Optics): Float32Array {
  const R = new Float32Array(RECORD);
  const put = (offset: number, ...values: number[]) => R.set(values, at(offset));
  const { metal, glass, opaque, coat } = optics;
  // an index of one is no interface at all, and its half vector is undefined
  const ior = Math.max(1.0001, optics.iorWeighted);
  const coatIor = Math.max(1.0001, coat.ior);
  const [alphaX, alphaY] = widths(optics.roughness, optics.anisotropy);
  const [coatAlphaX, coatAlphaY] = widths(coat.roughness, coat.anisotropy);

  // what single scattering returns, and what is lost to be returned by the residual
  const mirror = mirrorRow(optics.roughness, optics.anisotropy);
  const filmed = optics.filmOver ? filmGloss(optics.filmOver, optics.roughness) : null;
  const gloss = opaque > 0 ? (filmed?.mean ?? dielectricRow('reflected', optics.roughness, ior)) : null;
  const over = coat.weight > 0 ? brushedRow(coat.roughness, coat.anisotropy, coatIor) : null;
  const outside = glass > 0 ? dielectricRow('outside', optics.roughness, ior) : null;
  const inside = glass > 0 ? dielectricRow('inside', optics.roughness, ior) : null;
  const lostOf = (i: number, solid: Row | null) =>
    metal * (1 - mirror[i]) + (solid ? glass * (1 - solid[i]) : 0);
  const rows = at(K.LAYER_ROWS);
  const under = new Float32Array(K.ROWS).map((_, i) => 1 - coat.weight * (over ? over[i] : 0));
  for (let i = 0; i < K.ROWS; i++) {
    R.set(
      [gloss ? gloss[i] : 0, over ? over[i] : 0, under[i] * lostOf(i, outside), lostOf(i, inside)],
      rows + i * 4,
    );
    for (let c = 0; c < 3; c++) R[at(K.METAL_ROWS) + i * 4 + c] = optics.metalOver[c * ENTRIES + i];
    R[at(K.METAL_ROWS) + i * 4 + 3] = 1;
  }
  const glossMean = meanOfRow(R, rows, 4);
  const coatMean = meanOfRow(R, rows + 1, 4);
  const lostOut = meanOfRow(R, rows + 2, 4);
  const lostIn = meanOfRow(R, rows + 3, 4);
  // reciprocity of the crossing residual: share / (lost on the other side · its index²) alike both ways
  const n2 = ior * ior;
  const widest = Math.max(lostIn * n2, lostOut, 1e-9);
  const { beneath, fuzz } = optics;
  const lit = Math.max(...optics.body);

  put(K.F_METAL, metal, glass, opaque, coat.weight);
  put(K.F_BASE_R, ...optics.body, optics.diffuseRoughness);
  put(K.F_SPECULAR_R, ...optics.specular, ior);
  put(K.F_COAT_R, ...coat.colour, coatIor);
  put(K.F_ALPHA_X, alphaX, alphaY, coatAlphaX, 0);
  put(K.F_COAT_ALPHA_Y, coatAlphaY);
  put(K.F_EMISSION_R, ...optics.glow.nits, lostOut);
  put(K.F_CAST, optics.glow.cast, glass > 0 ? optics.dispersion : 0);
  put(K.F_FUZZ_R, ...fuzz.colour, fuzz.weight);
  put(K.F_SCATTER_R, ...(glass > 0 ? optics.scatter : [0, 0, 0]), optics.scatterAhead);
  put(K.F_DEPTH_R, ...beneath.extinction, beneath.ahead);
  put(K.F_AGAIN_R, ...beneath.again, beneath.weight);
  const fuzzMean = writeFuzz(R, fuzz);
  put(K.F_PRIORITY, optics.priority);
  put(K.F_BRUSH, BRUSHINGS.indexOf(optics.brushing));
  if (optics.filmOver && filmed) {
    put(K.F_FILM, 1);
    writeFilm(R, optics.filmOver, filmed);
  }
  put(K.F_TINT_R, ...optics.tint, lostIn);
  put(K.F_ABSORPTION_R, ...optics.absorption, glass > 0 ? (glass * THROUGH * lostIn * n2) / widest : 0);
  writeWidened(R, optics, mirror, under, lostOut);
  const metalMean = [0, 1, 2].map((c) => meanOfRow(R, at(K.METAL_ROWS) + c, 4)) as Rgb;
  put(K.F_RESIDUAL_R, ...writeAgain(R, optics), glass > 0 ? (glass * THROUGH * lostOut) / widest : 0);
  put(K.F_ALBEDO_R, ...facingAlbedo(optics), glossMean);
  const body = luminance(...optics.body);
  const diffuse =
    opaque * (1 - glossMean) * (body + (luminance(...beneath.colour) - body) * beneath.weight) + fuzzMean;
  const alphas = [alphaX, alphaY, ...(over ? [coatAlphaX, coatAlphaY] : [])];
  // a mirror is as sharp as its widest lobe; the kernel decides from which on lights are sought for it
  const dull = opaque * lit + opaque * beneath.weight + fuzzMean;
  const sharp = dull === 0 && lostOut < 1e-3 ? Math.max(...alphas) : NO_MIRROR;
  put(K.F_TURN_COS, cos(optics.turn), sin(optics.turn), 0, sharp);
  put(
    K.F_CHOOSE_DIFFUSE,
    Math.max(LEAST_DIFFUSE, diffuse + glass + lostOut),
    metal * luminance(...metalMean) + opaque * glossMean + coat.weight * coatMean,
    Math.max(...alphas) ** 2,
    lit,
  );
  return R;
}

function writeFilm(R: Float32Array, over: Float32Array, gloss: FilmGloss): void {
  for (let i = 0; i < K.ROWS; i++) {
    const [r, g, b] = [0, 1, 2].map((c) => over[c * ENTRIES + i]);
    R.set([r, g, b, (r + g + b) / 3], at(K.FILM_ROWS) + i * 4);
    for (let c = 0; c < 3; c++) R[at(K.FILM_GLOSS_ROWS) + i * 4 + c] = gloss.shares[c][i];
  }
}

/** Writes the fuzz's rows. @returns what it reflects on the whole */
function writeFuzz(R: Float32Array, { weight, colour, roughness }: Optics['fuzz']): number {
  if (weight === 0) return 0;
  const rows = at(K.FUZZ_ROWS);
  for (let i = 0; i < K.ROWS; i++) {
    const { reflects, along, lean } = fuzzAt(cosineOf(i), roughness);
    R.set([reflects, along, lean, 0], rows + i * 4);
  }
  return weight * luminance(...colour) * meanOfRow(R, rows, 4);
}

/**
 * A thin wall: its reflection is that of the opaque surface, and what that would let into its base goes through
 * instead, as much of it as is glass: straight when smooth, spread when rough. Both faces reflect as one.
 */
function compileSheet(optics: Optics): Float32Array {
  const body = 1 - optics.metal;
  const glass = body > 0 ? optics.glass / body : 0;
  const R = compileSolid({
    ...optics,
    thin: false,
    glass: 0,
    opaque: body,
    body: optics.body.map((v) => v * (1 - glass)) as Rgb,
  });
  R[F.sheet] = body * glass;
  R.set(optics.tint, at(K.F_TINT_R));
  R.set(facingAlbedo(optics), F.albedo);
  // two interfaces, each tilting what passes by (n − 1) θ: as a mirror lobe of this width turned through
  const alpha = (optics.roughness * optics.roughness * (optics.iorWeighted - 1)) / Math.SQRT2;
  if (glass > 0 && alpha > STRAIGHT) {
    R[F.sheetAlpha] = alpha;
    R[at(K.F_SHARP)] = NO_MIRROR;
    R[at(K.F_CHOOSE_DIFFUSE)] += glass;
    const spread = mirrorRow(Math.sqrt(alpha), 0);
    for (let i = 0; i < K.ROWS; i++) R[at(K.METAL_ROWS) + i * 4 + 3] = rowValue(spread, cosineOf(i));
  }
  return R;
}

/**
 * Where light leaves that a metal's facets lost: of all that is lost, the share in a widened lobe, its rows, and how much
 * more or less is lost along its brushing and across.
 */
function writeWidened(R: Float32Array, optics: Optics, mirror: Row, under: Row, lostOut: number): void {
  const { metal, roughness, anisotropy } = optics;
  if (metal === 0 || lostOut < LEAST_LOST) return;
  const wide = widened(roughness, anisotropy);
  const wider = roughnessOf(wide.x, wide.y);
  const { along, across } = turnedRows(wider.roughness, wider.anisotropy);
  const own = turnedRows(roughness, anisotropy);
  const rows = at(K.BRUSHED_ROWS);
  const ofMetal = under.map((share, i) => share * metal * (1 - mirror[i]));
  for (let i = 0; i < K.ROWS; i++)
    R.set(
      [
        along[i],
        across[i],
        under[i] * metal * (mirror[i] - own.along[i]),
        under[i] * metal * (mirror[i] - own.across[i]),
      ],
      rows + i * 4,
    );
  R.set([(wide.share * meanOfRow(ofMetal)) / lostOut, wide.x, wide.y, 1], at(K.F_WIDE));
  for (let i = 0; i < K.ROWS; i++) R[at(K.AGAIN_ROWS) + i * 4 + 3] = own.slack[i];
}

/**
 * Writes the colour of light that scattered more than once, by angle: of metal as walks over it have it, of glass its
 * own. @returns its mean, which is all there is to it without metal
 */
function writeAgain(
  R: Float32Array,
  { metal, glass, opaque, coat, specular, metalOver, ...optics }: Optics,
): Rgb {
  const { returned, cosine } = furtherMeetings(optics.roughness, optics.anisotropy);
  // only metal and glass lose light
  const share = metal + glass > 0 ? metal + glass : 1;
  const rows = at(K.AGAIN_ROWS);
  return [0, 1, 2].map((c) => {
    const coatTint = 1 - coat.weight + coat.weight * coat.colour[c];
    const facets = metalOver.subarray(c * ENTRIES, (c + 1) * ENTRIES);
    for (let i = 0; i < K.ROWS; i++) {
      const f = metal > 0 ? rowValue(facets, cosine[i]) : 0;
      const ofMetal = (f * f * returned[i]) / (1 - f * (1 - returned[i]));
      const ofRest = metal + glass > 0 ? 0 : opaque;
      R[rows + i * 4 + c] = ((metal * ofMetal + glass * specular[c] + ofRest) / share) * coatTint;
    }
    return meanOfRow(R, rows + c, 4);
  }) as Rgb;
}

/** Records kept beside those of the scene in use. */
const MOST_KEPT = 2400;

export interface CompiledFinishes {
  /** RECORD floats each. */
  records: Float32Array;
  /** Of each finish that has coats or feeds, what the kernel reads of them. */
  recipes: (Uint8Array | null)[];
}

/** Keeps compiled records, so that editing one finish compiles one finish. */
export class FinishRecords {
  private readonly known = new Map<string, { record: Float32Array; used: number }>();
  private count = 0;

  private kept(key: string, make: () => Optics): Float32Array {
    let kept = this.known.get(key);
    if (!kept) {
      kept = { record: compileSurface(make()), used: 0 };
      this.known.set(key, kept);
    }
    kept.used = this.count;
    return kept.record;
  }

  /** Forgets what this scene does not have, once there is too much of it. */
  private tidy(): void {
    if (this.known.size <= MOST_KEPT) return;
    for (const [key, { used }] of this.known) if (used < this.count) this.known.delete(key);
  }

  /**
   * Records of all finishes, one after the other, then those of the surfaces that their recipes are made of.
   * @param pictures where those they are fed from lie
   */
  compile(finishes: readonly Optics[], pictures: Pictures): CompiledFinishes {
    this.count++;
    const all = finishes.map((optics) => this.kept(optics.key, () => optics));
    const recipes = finishes.map(({ recipe }) => {
      if (!recipe) return null;
      const first = recipe.coats.map((coat) => {
        const at = all.length;
        for (const surface of surfacesOf(coat))
          all.push(this.kept(JSON.stringify(surface), () => opticsOf(surface)));
        return at;
      });
      return recipeWords(recipe, first, pictures);
    });
    this.tidy();
    const records = new Float32Array(all.length * RECORD);
    all.forEach((record, i) => records.set(record, i * RECORD));
    return { records, recipes };
  }
}
