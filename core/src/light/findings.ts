/**
 * Why a picture is black, burnt or off: what the light of its faces and the places of its lights tell, each with a move
 * that mends it. Told from counts of the traced picture, so that it costs nothing.
 */
import { cos, exp, log } from '../maths/reproducible.ts';
import type { Light } from '../document/index.ts';
import { bearingOf, frameOf, placeLight, standingOf, type Vec } from './placing.ts';

/** Bins of levels: half stops from −16 to 16 about one nit; the first has all that is darker. */
export const LEVELS = 64;
const STEPS = 2;
const LOWEST = -16;

/** The bin of a luminance, nits. */
export function levelOf(nits: number): number {
  if (!(nits > 0)) return 0;
  const bin = Math.floor((log(nits) / Math.LN2 - LOWEST) * STEPS);
  return Math.min(LEVELS - 1, Math.max(0, bin));
}

/** Light on a row of faces, as the camera sees it. */
export interface LitRow {
  name: string;
  /** Of the type, and no piece of the stage. */
  type: boolean;
  /** Most of its faces mirror; most glow. */
  mirrors: boolean;
  glows: boolean;
  /** Places by level. */
  levels: ArrayLike<number>;
}

/** What mends it. */
export type LightMend =
  | { by: 'exposure'; stops: number }
  | { by: 'move'; light: string; azimuth: number; elevation: number }
  | { by: 'away'; light: string }
  | { by: 'aim'; light: string }
  | { by: 'step back' }
  | { by: 'fill'; azimuth: number; elevation: number }
  | { by: 'cards' }
  | { by: 'lamps' };

export interface LightFinding {
  code:
    | 'inside a letter'
    | 'camera inside'
    | 'one side'
    | 'under the floor'
    | 'behind the wall'
    | 'past the type'
    | 'mirrors darkness'
    | 'unlit'
    | 'exposure'
    | 'burnt';
  /** Rows or lights it is about. */
  where: string[];
  /** Stops it is off by, or the share of it that is burnt. */
  amount: number;
  mend: LightMend;
}

/** What is within type: lights by identifier, and whether the camera is. */
export interface Within {
  lights: readonly string[];
  camera: boolean;
}

/** What a source gives the type, and all that is seen, in one unit; without a light it comes from all around. */
export interface TypeShare {
  share: number;
  all: number;
  light: Light | null;
}

/** A light gives nothing where it gives less than this of all there is. */
const NOTHING = 1e-4;
/** Places of the type's box, each way, that are looked at from a light. */
const LOOKED_AT = [0, 0.125, 0.25, 0.375, 0.5, 0.625, 0.75, 0.875, 1];

/** Whether a light shines past all of the type, by its cone or by the side that glows. */
function shinesPast(light: Light, { min, max }: TypeBounds, centre: Vec): boolean {
  if (light.kind !== 'spot' && light.kind !== 'area') return false;
  const { position, forward } = placeLight(light, centre);
  const edge = light.kind === 'spot' ? cos(light.cone) : 0;
  for (const x of LOOKED_AT)
    for (const y of LOOKED_AT)
      for (const z of [0, 0.5, 1]) {
        const way = [x, y, z].map((v, k) => min[k] + v * (max[k] - min[k]) - position[k]) as Vec;
        const length = Math.sqrt(way[0] * way[0] + way[1] * way[1] + way[2] * way[2]);
        if (way[0] * forward[0] + way[1] * forward[1] + way[2] * forward[2] > edge * length) return false;
      }
  return true;
}

/** Where the type is, metres. */
export interface TypeBounds {
  min: Vec;
  max: Vec;
}

/** Light of the type that comes from one side: all of it but so much, and from within so many radians of its mean. */
const ELSEWHERE = 0.1;
const NARROW = 0.94;
/** No light is told to be one-sided from before the type: it flattens, but shows it. */
const FRONT = 0.8;

/** The side all light comes from; null where it comes from several, or from the front. */
function oneSide(shares: readonly TypeShare[]): { names: string[]; way: Vec } | null {
  const sum: Vec = [0, 0, 0];
  let whole = 0;
  for (const { share, light } of shares) {
    whole += share;
    if (!light || light.kind === 'ambient' || light.kind === 'array') continue;
    const { away } = frameOf(standingOf(light));
    for (let k = 0; k < 3; k++) sum[k] += away[k] * share;
  }
  const length = Math.sqrt(sum[0] * sum[0] + sum[1] * sum[1] + sum[2] * sum[2]);
  if (!(whole > 0) || length < NARROW * (1 - ELSEWHERE) * whole) return null;
  const way = sum.map((v) => v / length) as Vec;
  if (way[2] > FRONT) return null;
  const names = shares.flatMap(({ light, share }) =>
    light && share > ELSEWHERE * whole ? [light.name] : [],
  );
  return { names, way };
}

/** Places darker than this are black to the eye, brighter are burnt, of display white. */
const BLACK = 1 / 256;
const WHITE = 1;
/** Share of a row's places that is told. */
const MOSTLY = 0.85;
const BURNT = 0.35;
/** Middle grey, and stops the type may be off it. */
const GREY = 0.18;
const OFF = 2.5;
const UNLIT = 9;
/** A light is raised or brought round to here. */
const RAISED = 0.25;

const stopsOf = (bin: number) => LOWEST + (bin + 0.5) / STEPS;

/** Share of a row's places that are brighter than a luminance, nits. */
function above({ levels }: LitRow, nits: number): number {
  const from = levelOf(nits);
  let [over, all] = [0, 0];
  for (let i = 0; i < levels.length; i++) {
    all += levels[i];
    if (i > from) over += levels[i];
  }
  return all > 0 ? over / all : 0;
}

/** Level that half the places of some rows are above, stops about one nit; null where there are none. */
function middleOf(rows: readonly LitRow[]): number | null {
  const sums = new Array<number>(LEVELS).fill(0);
  for (const { levels } of rows) for (let i = 0; i < LEVELS; i++) sums[i] += levels[i];
  const half = sums.reduce((a, b) => a + b, 0) / 2;
  if (half === 0) return null;
  let sum = 0;
  for (let i = 0; i < LEVELS; i++) if ((sum += sums[i]) >= half) return stopsOf(i);
  return null;
}

/**
 * What is wrong with the light, the gravest first.
 * @param exposure of the picture, stops
 * @param lights that shine about the type
 * @param stage height of the floor and depth of the wall that stand, metres
 * @param within what is inside type @param shares what each source gives the type
 */
export function lightFindings(
  rows: readonly LitRow[],
  exposure: number,
  lights: readonly Light[],
  type: TypeBounds,
  stage: { floor: number | null; wall: number | null },
  within: Within = { lights: [], camera: false },
  shares: readonly TypeShare[] = [],
): LightFinding[] {
  const out: LightFinding[] = [];
  const centre = type.min.map((v, k) => (v + type.max[k]) / 2) as Vec;
  const given = shares.reduce((sum, s) => sum + s.all, 0);
  if (within.camera) out.push({ code: 'camera inside', where: [], amount: 0, mend: { by: 'step back' } });
  for (const light of lights) {
    if (!('distance' in light)) continue;
    const { azimuth, elevation } = standingOf(light);
    const { position } = placeLight(light, centre);
    const moved = (azimuth: number, elevation: number): LightMend => ({
      by: 'move',
      light: light.id,
      azimuth,
      elevation,
    });
    if (within.lights.includes(light.id))
      out.push({
        code: 'inside a letter',
        where: [light.name],
        amount: 0,
        mend: { by: 'away', light: light.id },
      });
    else if (stage.floor !== null && position[1] < stage.floor)
      out.push({
        code: 'under the floor',
        where: [light.name],
        amount: 0,
        mend: moved(azimuth, Math.max(RAISED, -elevation)),
      });
    else if (stage.wall !== null && position[2] < stage.wall)
      out.push({
        code: 'behind the wall',
        where: [light.name],
        amount: 0,
        // as far to the side, before the wall
        mend: moved((azimuth < 0 ? -1 : 1) * (Math.PI - Math.abs(azimuth)), elevation),
      });
  }
  // one that lights what stands about the type is meant to
  for (const { light, all } of shares)
    if (light && all <= NOTHING * given && shinesPast(light, type, centre))
      out.push({
        code: 'past the type',
        where: [light.name],
        amount: 0,
        mend: { by: 'aim', light: light.id },
      });
  const faces = rows.filter((r) => r.type);
  // letters that are lamps are meant to be bright, and what lies about them dark
  if (faces.some((r) => r.glows)) return out;
  const middle = middleOf(faces);
  const far = middle === null ? 0 : middle + exposure - log(GREY) / Math.LN2;
  // what is farther off than any exposure is not lit
  const off = Math.abs(far) > OFF && Math.abs(far) < UNLIT ? far : 0;
  if (off !== 0)
    out.push({ code: 'exposure', where: [], amount: off, mend: { by: 'exposure', stops: -off } });
  const gain = exp((exposure - off) * Math.LN2);
  const black = faces.filter((r) => above(r, BLACK / gain) < 1 - MOSTLY);
  const mirroring = black.filter((r) => r.mirrors);
  const scattering = black.filter((r) => !r.mirrors);
  if (mirroring.length > 0)
    out.push({
      code: 'mirrors darkness',
      where: mirroring.map((r) => r.name),
      amount: 0,
      mend: { by: 'cards' },
    });
  if (scattering.length > 0)
    out.push({ code: 'unlit', where: scattering.map((r) => r.name), amount: 0, mend: { by: 'lamps' } });
  const side = black.length === 0 ? null : oneSide(shares);
  if (side) {
    const { azimuth, elevation } = bearingOf([-side.way[0], Math.abs(side.way[1]), Math.abs(side.way[2])]);
    out.push({ code: 'one side', where: side.names, amount: 0, mend: { by: 'fill', azimuth, elevation } });
  }
  const burnt = faces
    .map((row) => ({ row, share: above(row, WHITE / gain) }))
    .filter(({ share }) => share > BURNT);
  if (burnt.length > 0 && off <= 0) {
    const most = Math.max(...burnt.map((b) => b.share));
    out.push({
      code: 'burnt',
      where: burnt.map((b) => b.row.name),
      amount: most,
      mend: { by: 'exposure', stops: -1 },
    });
  }
  return out;
}
