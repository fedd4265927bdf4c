/** Compiles interpreted surfaces into the records the tracer reads, with their energy tables. */
import type { Optics } from '../finish/optics.ts';
import { cos, sin } from '../maths/reproducible.ts';
import { F, lookup, RECORD, sample, scattered, T, TABLE, weigh } from './surface.ts';

/** Smoothest GGX width: below it a lobe is narrower than a pixel sees, and single precision suffers. */
const SMOOTHEST = 1e-3;
/** Samples for each entry of a table. */
const SAMPLES = 1536;
/** More where lobes of different brightness take turns, as under a coat. */
const MIXED_SAMPLES = 5000;
/** More still where the share depends on the turn as well. */
const BRUSHED_SAMPLES = 16_000;
/** Steps of the four-dimensional Kronecker sequence R4 (Roberts, 2018): powers of 1 / 1.16730397…. */
const STEP = [0.8566748838545029, 0.7338918566271259, 0.6287067210378086, 0.5385972572236101];
/** Records kept; the oldest go first. */
const MOST_KEPT = 200;
/** Share of the residual light that crosses a glass interface where nothing forbids it. */
const THROUGH = 0.9;

const alphaOf = (roughness: number) => Math.max(SMOOTHEST, roughness * roughness);

/** Cosine an entry of a table stands for; the grazing end is kept off zero. */
const cosineOf = (i: number) => Math.max(1e-3, (i / (TABLE - 1)) ** 2);

/** 2 ∫ table(μ) μ dμ, the mean over the hemisphere, with the table read as the tracer reads it. */
function mean(R: Float32Array, table: number): number {
  const n = 512;
  let sum = 0;
  for (let i = 0; i < n; i++) {
    const mu = (i + 0.5) / n;
    sum += lookup(R, table, mu) * mu;
  }
  return (2 * sum) / n;
}

/** Directional albedo of what a record describes, by quasi-random sampling, averaged over azimuth. */
function albedo(R: Float32Array, mu: number, inside = false, samples = SAMPLES): number {
  const s = Math.sqrt(1 - mu * mu);
  let sum = 0;
  weigh(R, 0, mu, inside);
  for (let n = 1; n <= samples; n++) {
    const pick = (0.5 + n * STEP[0]) % 1;
    const u = (0.5 + n * STEP[1]) % 1;
    const v = (0.5 + n * STEP[2]) % 1;
    const turn = 2 * Math.PI * ((0.5 + n * STEP[3]) % 1);
    if (sample(R, 0, s * cos(turn), s * sin(turn), mu, inside, pick, u, v))
      sum += scattered[0] / scattered[3];
  }
  return Math.min(1, sum / samples);
}

/** A record of one GGX reflection that loses nothing to residuals: the building block of the tables. */
function bareRecord(): Float32Array {
  const R = new Float32Array(RECORD);
  R.fill(1, F.base, F.specular + 3);
  R[F.alphaX] = R[F.alphaY] = R[F.coatAlpha] = 1;
  R[F.ior] = R[F.coatIor] = 1.5;
  R.fill(1, F.coatColor, F.coatColor + 3);
  R.fill(1, F.glassTint, F.glassTint + 3);
  R.fill(1, T.metalR, T.gloss);
  R.fill(1, T.outside, T.inside + TABLE);
  return R;
}

/** Evaluates a share at each entry of a table. */
const table = (share: (mu: number) => number) =>
  Float32Array.from({ length: TABLE }, (_, i) => share(cosineOf(i)));

/** Tables by what they come of: colours, tints and what glows are no part of it, so finishes share them. */
const tables = new Map<string, Float32Array>();
/** Tables kept; the oldest go first. */
const MOST_TABLES = 2000;

function shared(key: string, make: () => Float32Array): Float32Array {
  let known = tables.get(key);
  if (!known) {
    known = make();
    tables.set(key, known);
    if (tables.size > MOST_TABLES) tables.delete(tables.keys().next().value!);
  }
  return known;
}

/** Reflected share of a dielectric layer of a roughness and index, per angle. */
const layerAlbedo = (ior: number, alphaX: number, alphaY: number): Float32Array =>
  shared(`layer ${ior} ${alphaX} ${alphaY}`, () => layerTable(ior, alphaX, alphaY));

function layerTable(ior: number, alphaX: number, alphaY: number): Float32Array {
  const R = bareRecord();
  // glossy diffuse without its diffuse part: a layer that lets nothing through
  R.fill(0, F.base, F.base + 3);
  R.fill(1, T.gloss, T.gloss + TABLE);
  R[F.ior] = ior;
  R[F.alphaX] = alphaX;
  R[F.alphaY] = alphaY;
  return table((mu) => albedo(R, mu));
}

/** Total share a white record returns. */
function totalAlbedo(white: Float32Array, inside: boolean): Float32Array {
  const { metal, glass, alphaX, alphaY, ior, coat, coatAlpha, coatIor, diffuseRoughness } = F;
  const of = [metal, glass, alphaX, alphaY, ior, coat, coatAlpha, coatIor, diffuseRoughness];
  return shared(`total ${inside} ${of.map((k) => white[k]).join(' ')}`, () => totalTable(white, inside));
}

/** Without coat or rough base the parts add up, and glossy diffuse loses nothing. */
function totalTable(white: Float32Array, inside: boolean): Float32Array {
  const opaque = 1 - white[F.metal] - white[F.glass];
  if ((white[F.coat] > 0 || (opaque > 0 && white[F.diffuseRoughness] > 0)) && !inside)
    return table((mu) => albedo(white, mu, false, MIXED_SAMPLES));
  const metal = Float32Array.from(white);
  metal[F.metal] = 1;
  metal[F.glass] = 0;
  const glass = Float32Array.from(white);
  glass[F.metal] = 0;
  glass[F.glass] = 1;
  const [m, g] = [white[F.metal], white[F.glass]];
  const metalSamples = white[F.alphaX] === white[F.alphaY] ? SAMPLES : BRUSHED_SAMPLES;
  return table(
    (mu) =>
      1 -
      m -
      g +
      (m > 0 ? m * albedo(metal, mu, inside, metalSamples) : 0) +
      (g > 0 ? g * albedo(glass, mu, inside, MIXED_SAMPLES) : 0),
  );
}

/** Compiles one surface; RECORD floats. */
export function compileSurface(optics: Optics): Float32Array {
  if (optics.thin) return compileSheet(optics);
  const R = bareRecord();
  const alpha = alphaOf(optics.roughness);
  // OpenPBR §3.4: anisotropy keeps αx² + αy² = 2α²
  const squash = 1 - optics.anisotropy;
  R[F.alphaX] = Math.max(SMOOTHEST, alpha * Math.sqrt(2 / (1 + squash * squash)));
  R[F.alphaY] = Math.max(SMOOTHEST, R[F.alphaX] * squash);
  R[F.metal] = optics.metal;
  R[F.glass] = optics.glass;
  // an index of one is no interface at all, and its half vector is undefined
  R[F.ior] = Math.max(1.0001, optics.iorWeighted);
  R[F.diffuseRoughness] = optics.diffuseRoughness;
  R[F.coat] = optics.coat.weight;
  R[F.coatAlpha] = alphaOf(optics.coat.roughness);
  R[F.coatIor] = Math.max(1.0001, optics.coat.ior);
  R[F.turnCos] = cos(optics.turn);
  R[F.turnSin] = sin(optics.turn);

  const opaque = 1 - R[F.metal] - R[F.glass];
  if (opaque > 0) R.set(layerAlbedo(R[F.ior], R[F.alphaX], R[F.alphaY]), T.gloss);
  if (R[F.coat] > 0) R.set(layerAlbedo(R[F.coatIor], R[F.coatAlpha], R[F.coatAlpha]), T.coat);
  R[F.glossMean] = opaque > 0 ? mean(R, T.gloss) : 0;

  // R is still white throughout: its albedo short of one is what single scattering loses
  const white = R.slice();
  R.set(totalAlbedo(white, false), T.outside);
  if (R[F.glass] > 0) R.set(totalAlbedo(white, true), T.inside);
  R[F.lostOut] = 1 - mean(R, T.outside);
  R[F.lostIn] = 1 - mean(R, T.inside);
  if (R[F.glass] > 0) {
    // reciprocity of the crossing residual: share / (lost on the other side · its index²) alike both ways
    const n2 = R[F.ior] * R[F.ior];
    const widest = Math.max(R[F.lostIn] * n2, R[F.lostOut], 1e-9);
    R[F.throughOut] = (R[F.glass] * THROUGH * R[F.lostIn] * n2) / widest;
    R[F.throughIn] = (R[F.glass] * THROUGH * R[F.lostOut]) / widest;
  }

  R.set(optics.metalOver, T.metalR);
  for (let c = 0; c < 3; c++) {
    R[F.base + c] = optics.body[c];
    R[F.specular + c] = optics.specular[c];
    R[F.coatColor + c] = optics.coat.colour[c];
    R[F.emission + c] = optics.glow.nits[c];
    R[F.glassTint + c] = optics.tint[c];
    R[F.absorption + c] = optics.absorption[c];
    R[F.residualTint + c] = residualTint(R, optics, c);
    R[F.albedo + c] = facingAlbedo(optics, c);
  }
  return R;
}

/**
 * A thin wall: its reflection is that of the opaque surface, and what that would let into its base goes straight
 * through instead, as much of it as is glass. Both faces reflect as one, and roughness does not spread what passes.
 */
function compileSheet(optics: Optics): Float32Array {
  const body = 1 - optics.metal;
  const glass = body > 0 ? optics.glass / body : 0;
  const R = compileSurface({
    ...optics,
    thin: false,
    glass: 0,
    opaque: body,
    body: optics.body.map((v) => v * (1 - glass)) as Optics['body'],
  });
  R[F.sheet] = body * (1 - optics.coat.weight) * glass;
  for (let c = 0; c < 3; c++) {
    R[F.glassTint + c] = optics.tint[c];
    R[F.albedo + c] = facingAlbedo(optics, c);
  }
  return R;
}

/** Share of white light a surface sends back facing the viewer, mirrored, scattered or through the glass. */
const facingAlbedo = (optics: Optics, c: number): number =>
  optics.metal * optics.metalFacing[c] +
  optics.glass * (optics.depth < Infinity ? optics.depthColour[c] : optics.tint[c]) +
  optics.opaque * optics.body[c];

/** Colour of light that scattered more than once (Kulla & Conty 2017, slide 17, for the metal). */
function residualTint(R: Float32Array, optics: Optics, c: number): number {
  const f = mean(R, T.metalR + c * TABLE);
  const kept = 1 - R[F.lostOut];
  const bounce = (f * f * kept) / (1 - f * (1 - kept));
  const coatTint = 1 - optics.coat.weight + optics.coat.weight * optics.coat.colour[c];
  const glass = R[F.glass] * R[F.specular + c];
  const opaque = (1 - R[F.metal] - R[F.glass]) * R[F.base + c];
  return (R[F.metal] * bounce + glass + opaque) * coatTint;
}

/** Keeps compiled records, so that editing one finish compiles one finish. */
export class FinishRecords {
  private readonly known = new Map<string, Float32Array>();

  /** Records of all finishes, one after the other. */
  compile(finishes: readonly Optics[]): Float32Array {
    const out = new Float32Array(finishes.length * RECORD);
    finishes.forEach((optics, i) => {
      const { key } = optics;
      let record = this.known.get(key);
      if (!record) {
        record = compileSurface(optics);
        this.known.set(key, record);
        if (this.known.size > MOST_KEPT) this.known.delete(this.known.keys().next().value!);
      }
      out.set(record, i * RECORD);
    });
    return out;
  }
}
