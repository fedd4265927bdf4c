/**
 * A plain surface as the draft's shader mixes it: numbers whose mean over several surfaces is near what their light
 * comes to. Four floats a texel.
 */
import { ENTRIES, type Optics } from '@wemlox/core/finish/optics';

/** Texels of a surface: what it scatters, mirrors as metal, mirrors as glass, gives, its clear coat, its fuzz. */
export const ROW_TEXELS = 6;
/** Entries of what a filmed surface mirrors over the cosine; entry i stands for (i / (entries − 1))². */
export const FILM_ENTRIES = 16;
/** The same of metal, then of the rest. */
export const FILM_TEXELS = 2 * FILM_ENTRIES;
/** Way through cloudy glass after which it is seen as what it scatters, metres. */
const CLOUD_DEPTH = 0.02;

export const isFilmed = ({ film, metal, filmOver }: Optics) =>
  film.weight > 0 && (metal > 0 || filmOver !== null);

/** Reflectance of an index, seen face on. */
const facing = (n: number) => ((n - 1) / (n + 1)) ** 2;

/** What a dielectric mirrors, face on, by channel. */
const mirrored = (optics: Optics) => {
  const bare = facing(optics.iorWeighted);
  return optics.specular.map((v) => v * bare * (1 - optics.metal));
};

/** What of light goes through, of what is no metal; cloudy glass shows what it scatters. */
export function throughOf({ metal, glass, scatter }: Optics): number {
  if (metal >= 1) return 0;
  return (glass / (1 - metal)) * Math.min(...scatter.map((v) => Math.exp(-v * CLOUD_DEPTH)));
}

/** The numbers of one surface. @param nothing light goes straight through */
export function surfaceRow(optics: Optics, filmed: boolean): number[] {
  const { metal, glass, opaque, coat, fuzz, beneath, glow } = optics;
  // what lies under a clear coat is seen through its colour
  const under = coat.colour.map((v) => 1 + (v - 1) * coat.weight);
  const rest = Math.max(1e-6, glass + opaque);
  const body = optics.body.map((v, c) => v + (beneath.colour[c] - v) * beneath.weight);
  const scattered = body.map(
    (v, c) => (under[c] * (1 - metal) * (opaque * v + glass * optics.tint[c])) / rest,
  );
  const metallic = optics.metalFacing.map((v, c) => v * metal * under[c]);
  const other = mirrored(optics).map((v, c) => v * under[c]);
  const grazing = metal + (1 - metal) * Math.min(1, optics.specularWeight);
  const row = [
    ...[...scattered, Math.max(0.02, optics.roughness)],
    ...[...metallic, metal],
    ...[...other, grazing],
    ...[...glow.nits, throughOf(optics)],
    ...[coat.weight, coat.roughness, facing(coat.ior), 0],
    ...[...fuzz.colour.map((v) => v * fuzz.weight), fuzz.roughness],
  ];
  if (!filmed) return row;
  const over = (table: Float32Array | null, bare: readonly number[], share: number) =>
    Array.from({ length: FILM_ENTRIES }, (_, i) => {
      const at = Math.round((i / (FILM_ENTRIES - 1)) * (ENTRIES - 1));
      const value = isFilmed(optics) && table;
      const rgb = bare.map((v, c) => (value ? value[c * ENTRIES + at] * share * under[c] : v));
      return [...rgb, value ? Math.max(...rgb) : share];
    }).flat();
  return [...row, ...over(optics.metalOver, metallic, metal), ...over(optics.filmOver, other, 1 - metal)];
}
