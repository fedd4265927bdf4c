/**
 * Measured metals: complex refractive index over photon energy or wavelength, brought to linear Rec.709.
 * Gold, silver, copper: Johnson & Christy, Phys. Rev. B 6, 4370 (1972). Aluminium: Smith, Shiles & Inokuti in
 * Palik, Handbook of Optical Constants (1985). Chromium and iron: values at 650, 550 and 450 nm after
 * Johnson & Christy, Phys. Rev. B 9, 5056 (1974), and so titanium. Brass (70 % copper): Querry, CRDC-CR-85034 (1985).
 * The last eight are rounded values that give each metal's known reflectance within some hundredths; they have not
 * been set against the tables (Johnson & Christy 1974 for nickel, cobalt and palladium; Palik 1985 for the rest).
 */
import type { Metal } from '../document/index.ts';
import { colourMatching, xyzToRec709 } from '../maths/colour.ts';
import { cos, sin } from '../maths/reproducible.ts';
import { conductor } from './fresnel.ts';
import { filmReflectance } from './thinFilm.ts';

/** h·c in eV·nm. */
const HC = 1239.84198;

/** Rows of [photon energy eV, n, k]. */
type IndexTable = readonly (readonly [number, number, number])[];

const GOLD: IndexTable = [
  [1.64, 0.14, 4.542],
  [1.76, 0.13, 4.103],
  [1.88, 0.14, 3.697],
  [2.01, 0.21, 3.272],
  [2.14, 0.29, 2.863],
  [2.26, 0.43, 2.455],
  [2.38, 0.62, 2.081],
  [2.5, 1.04, 1.833],
  [2.63, 1.31, 1.849],
  [2.75, 1.38, 1.914],
  [2.88, 1.45, 1.948],
  [3.0, 1.46, 1.958],
  [3.12, 1.47, 1.952],
];
const SILVER: IndexTable = [
  [1.64, 0.03, 5.242],
  [1.76, 0.04, 4.838],
  [1.88, 0.05, 4.483],
  [2.01, 0.06, 4.152],
  [2.14, 0.05, 3.858],
  [2.26, 0.06, 3.586],
  [2.38, 0.05, 3.324],
  [2.5, 0.05, 3.093],
  [2.63, 0.05, 2.869],
  [2.75, 0.04, 2.657],
  [2.88, 0.04, 2.462],
  [3.0, 0.05, 2.275],
  [3.12, 0.05, 2.07],
];
const COPPER: IndexTable = [
  [1.64, 0.24, 4.665],
  [1.76, 0.21, 4.205],
  [1.88, 0.22, 3.747],
  [2.01, 0.3, 3.205],
  [2.14, 0.7, 2.704],
  [2.26, 1.02, 2.577],
  [2.38, 1.18, 2.608],
  [2.5, 1.22, 2.564],
  [2.63, 1.25, 2.483],
  [2.75, 1.24, 2.397],
  [2.88, 1.25, 2.305],
  [3.0, 1.28, 2.207],
  [3.12, 1.32, 2.116],
];
const byWavelength = (rows: [number, number, number][]): IndexTable =>
  rows.map(([nm, n, k]) => [HC / nm, n, k] as const);
const ALUMINIUM = byWavelength([
  [700, 1.83, 8.31],
  [650, 1.47, 7.79],
  [600, 1.2, 7.26],
  [550, 0.958, 6.69],
  [500, 0.769, 6.08],
  [450, 0.618, 5.47],
  [400, 0.49, 4.86],
]);
const CHROMIUM = byWavelength([
  [650, 3.11, 3.31],
  [550, 3.18, 3.32],
  [450, 2.32, 3.14],
]);
const IRON = byWavelength([
  [650, 2.91, 3.08],
  [550, 2.95, 2.93],
  [450, 2.58, 2.77],
]);

const TITANIUM = byWavelength([
  [650, 2.74, 3.81],
  [550, 2.54, 3.43],
  [450, 2.24, 3.02],
]);
const BRASS = byWavelength([
  [650, 0.444, 3.695],
  [550, 0.527, 2.765],
  [450, 1.094, 1.829],
]);
const NICKEL = byWavelength([
  [650, 1.96, 3.84],
  [550, 1.84, 3.41],
  [450, 1.76, 2.91],
]);
const COBALT = byWavelength([
  [650, 2.24, 4.24],
  [550, 2.05, 3.82],
  [450, 1.81, 3.35],
]);
const PALLADIUM = byWavelength([
  [650, 1.77, 4.29],
  [550, 1.64, 3.84],
  [450, 1.49, 3.38],
]);
const PLATINUM = byWavelength([
  [650, 2.37, 4.26],
  [550, 2.13, 3.72],
  [450, 1.87, 3.13],
]);
const RHODIUM = byWavelength([
  [650, 2.12, 5.51],
  [550, 2.0, 5.11],
  [450, 1.83, 4.63],
]);
const TUNGSTEN = byWavelength([
  [650, 3.65, 2.92],
  [550, 3.5, 2.72],
  [450, 3.31, 2.46],
]);
const MOLYBDENUM = byWavelength([
  [650, 3.71, 3.52],
  [550, 3.77, 3.56],
  [450, 3.12, 3.34],
]);
const TIN = byWavelength([
  [650, 1.72, 5.69],
  [550, 1.35, 4.94],
  [450, 1.02, 4.2],
]);

const TABLES: Record<Exclude<Metal, 'none'>, IndexTable> = {
  gold: GOLD,
  silver: SILVER,
  copper: COPPER,
  aluminium: ALUMINIUM,
  chromium: CHROMIUM,
  iron: IRON,
  titanium: TITANIUM,
  brass: BRASS,
  nickel: NICKEL,
  cobalt: COBALT,
  palladium: PALLADIUM,
  platinum: PLATINUM,
  rhodium: RHODIUM,
  tungsten: TUNGSTEN,
  molybdenum: MOLYBDENUM,
  tin: TIN,
};

/** Complex index of a metal at a wavelength (nm), linear in photon energy, held constant outside the table. */
function complexIndex(metal: Exclude<Metal, 'none'>, nm: number): [number, number] {
  const rows = TABLES[metal];
  const energy = Math.min(Math.max(HC / nm, rows[0][0]), rows[rows.length - 1][0]);
  const i = Math.max(
    1,
    rows.findIndex((row) => row[0] >= energy),
  );
  const [a, b] = [rows[i - 1], rows[i]];
  const t = (energy - a[0]) / (b[0] - a[0]);
  return [a[1] + (b[1] - a[1]) * t, a[2] + (b[2] - a[2]) * t];
}

const WAVELENGTHS = Array.from({ length: 67 }, (_, i) => 390 + i * 5);
/** Rec.709 weight of each wavelength, scaled so that a perfect mirror is exactly (1, 1, 1). */
const WEIGHTS = (() => {
  const raw = WAVELENGTHS.map((nm) => xyzToRec709(...colourMatching(nm)));
  const white = [0, 1, 2].map((c) => raw.reduce((sum, w) => sum + w[c], 0));
  return raw.map((w) => w.map((v, c) => v / white[c]));
})();

/** Reflectance of a measured metal in linear Rec.709, clipped to [0, 1]. */
export function metalReflectance(metal: Exclude<Metal, 'none'>, cosine: number): [number, number, number] {
  const rgb: [number, number, number] = [0, 0, 0];
  WAVELENGTHS.forEach((nm, i) => {
    const r = conductor(cosine, ...complexIndex(metal, nm));
    for (let c = 0; c < 3; c++) rgb[c] += r * WEIGHTS[i][c];
  });
  return rgb.map((v) => Math.min(1, Math.max(0, v))) as [number, number, number];
}

/** A film: its index, and how thick it is in micrometres. */
export interface Film {
  ior: number;
  thickness: number;
}

const turned = (phase: number): [number, number] => [cos(phase), sin(phase)];

/**
 * Reflectance of a metal under a thin film in linear Rec.709, clipped to [0, 1].
 * @param metal a measured one; or the reflectance of each channel, of which it is made a mirror of that strength
 */
export function filmedReflectance(
  metal: Exclude<Metal, 'none'> | readonly number[],
  { ior, thickness }: Film,
  cosine: number,
): [number, number, number] {
  const rgb: [number, number, number] = [0, 0, 0];
  const given = typeof metal === 'string' ? null : metal.map(indexOfReflectance);
  WAVELENGTHS.forEach((nm, i) => {
    const measured = given ? null : complexIndex(metal as Exclude<Metal, 'none'>, nm);
    for (let c = 0; c < 3; c++) {
      if (measured && c > 0) break;
      const [n, k] = measured ?? given![c];
      const r = filmReflectance(cosine, ior, thickness * 1000, nm, n, k, turned);
      if (measured) for (let all = 0; all < 3; all++) rgb[all] += r * WEIGHTS[i][all];
      else rgb[c] += r * WEIGHTS[i][c];
    }
  });
  return rgb.map((v) => Math.min(1, Math.max(0, v))) as [number, number, number];
}

/** Reflectance of a dielectric of an index under a thin film, in linear Rec.709, clipped to [0, 1]. */
export function filmedDielectric(
  n: number,
  { ior, thickness }: Film,
  cosine: number,
): [number, number, number] {
  const rgb: [number, number, number] = [0, 0, 0];
  WAVELENGTHS.forEach((nm, i) => {
    const r = filmReflectance(cosine, ior, thickness * 1000, nm, n, 0, turned);
    for (let c = 0; c < 3; c++) rgb[c] += r * WEIGHTS[i][c];
  });
  return rgb.map((v) => Math.min(1, Math.max(0, v))) as [number, number, number];
}

/** An index that reflects so much facing: n of a good metal, and the k that follows (Born & Wolf §14.2). */
function indexOfReflectance(f0: number): [number, number] {
  const f = Math.min(0.999, Math.max(0.001, f0));
  // between the least and the greatest n that can reflect so much (Gulbrandsen, JCGT 2014)
  const n = 0.5 * ((1 - f) / (1 + f)) + 0.5 * ((1 + Math.sqrt(f)) / (1 - Math.sqrt(f)));
  const k2 = (f * (n + 1) ** 2 - (n - 1) ** 2) / (1 - f);
  return [n, Math.sqrt(Math.max(0, k2))];
}
