/**
 * A plain surface as the draft's shader mixes it: numbers whose mean over several surfaces is near what their light
 * comes to. Four floats a texel.
 */
import { ENTRIES, type Optics } from '@wemlox/core/finish/optics';

/** Texels of a surface: what it scatters, mirrors as metal, mirrors as glass, gives, its clear coat, its fuzz, what goes through. */
export const ROW_TEXELS = 7;
/** Entries of what a filmed surface mirrors over the cosine; entry i stands for (i / (entries − 1))². */
export const FILM_ENTRIES = 16;
/** The same of metal, then of the rest. */
export const FILM_TEXELS = 2 * FILM_ENTRIES;
/** Way through solid glass where the rasteriser cannot know it, metres. */
export const GLASS_THICKNESS = 0.05;
/** Of what gets through a cloud astray, as much as comes from where the viewer stands. */
const ASTRAY = 0.5;
/** What a face of glass mirrors of even light from outside. */
const OUTSIDE = 0.092;

export const isFilmed = ({ film, metal, filmOver }: Optics) =>
  film.weight > 0 && (metal > 0 || filmOver !== null);

/** Reflectance of an index, seen face on. */
const facing = (n: number) => ((n - 1) / (n + 1)) ** 2;

/** What a dielectric mirrors, face on, by channel. */
const mirrored = (optics: Optics) => {
  const bare = facing(optics.iorWeighted);
  return optics.specular.map((v) => v * bare * (1 - optics.metal));
};

/**
 * What a slab of glass sends back of the light on it, and what goes straight through, by channel: two streams, after
 * Kubelka & Munk, "Ein Beitrag zur Optik der Farbanstriche" (1931), with S = ¾ σs (1 − g) and K = 2 σa, and what the
 * glass's own face turns back inside (Saunderson, 1942).
 */
function cloud({ scatter, scatterAhead, absorption, ior }: Optics): { back: number[]; through: number[] } {
  const inside = Math.max(0, 1 - (1 - OUTSIDE) / (ior * ior));
  const back = scatter.map((scattered, c) => {
    const s = 0.75 * scattered * (1 - scatterAhead);
    if (s < 1e-6) return 0;
    const a = 1 + (2 * absorption[c]) / s;
    const b = Math.sqrt(Math.max(1e-9, a * a - 1));
    const deep = b * s * GLASS_THICKNESS;
    const astray = b / (a * Math.sinh(deep) + b * Math.cosh(deep));
    const straight = Math.exp(-(scattered + absorption[c]) * GLASS_THICKNESS);
    const sent = Math.min(1, 1 / (a + b / Math.tanh(deep)) + ASTRAY * Math.max(0, astray - straight));
    return ((1 - inside) * sent) / (1 - inside * sent);
  });
  return { back, through: scatter.map((v) => Math.exp(-v * GLASS_THICKNESS)) };
}

/** The numbers of one surface. @param nothing light goes straight through */
export function surfaceRow(optics: Optics, filmed: boolean): number[] {
  const { metal, glass, opaque, coat, fuzz, beneath, glow, tint } = optics;
  // what lies under a clear coat is seen through its colour
  const under = coat.colour.map((v) => 1 + (v - 1) * coat.weight);
  const body = optics.body.map((v, c) => v + (beneath.colour[c] - v) * beneath.weight);
  const { back, through } = cloud(optics);
  const scattered = body.map((v, c) => under[c] * (opaque * v + glass * tint[c] * back[c]));
  const metallic = optics.metalFacing.map((v, c) => v * metal * under[c]);
  const other = mirrored(optics).map((v, c) => v * under[c]);
  const grazing = metal + (1 - metal) * Math.min(1, optics.specularWeight);
  const row = [
    ...[...scattered, Math.max(0.02, optics.roughness)],
    ...[...metallic, metal],
    ...[...other, grazing],
    ...[...glow.nits, 0],
    ...[coat.weight, coat.roughness, facing(coat.ior), 0],
    ...[...fuzz.colour.map((v) => v * fuzz.weight), fuzz.roughness],
    ...[...through.map((v, c) => under[c] * glass * tint[c] * v), 0],
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
