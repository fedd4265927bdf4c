/**
 * How a light's strength differs by direction: read from photometric files (ANSI/IES LM-63, 1986 to 2019), or ready.
 * Directions are told by their angle from straight ahead, and around that from the light's right towards its top.
 */
import { inWords, PROFILE } from '../ceilings.ts';
import { acos, atan2, cos, pow, sin } from '../maths/reproducible.ts';

/** A photometric file that cannot be read; the message says what of it and where. */
export class ProfileError extends Error {}

export interface Profile {
  /** Radians, rising: from straight ahead, 0 … π. */
  from: Float64Array;
  /** Radians, rising: around, 0 … 2π; one alone is alike all around. */
  around: Float64Array;
  /** Shares of the greatest strength: for each angle around, one for each from straight ahead. */
  shares: Float64Array;
  /** The greatest strength, candela; 0 where nobody states it. */
  candela: number;
}

const DEG = Math.PI / 180;
/** The most of a file: far beyond those that are measured. */
const MOST = { angles: 1000, values: 400_000 };
/** Photometric types: about the way the light looks; a polar axis that lies across; one that stands upright. */
const TYPES = { C: 1, B: 2, A: 3 } as const;
const SIGNED = { [TYPES.A]: 90, [TYPES.B]: 90 } as Readonly<Record<number, number>>;

/** Numbers of a file one after the other, whatever lines they stand on; each knows its line. */
function* numbersOf(lines: readonly string[], first: number): Generator<{ value: number; line: number }> {
  for (let i = first; i < lines.length; i++)
    for (const word of lines[i].split(/[\s,]+/)) {
      if (word === '') continue;
      const value = Number(word);
      if (!Number.isFinite(value))
        throw new ProfileError(`line ${i + 1}: “${word.slice(0, 20)}” is no number`);
      yield { value, line: i + 1 };
    }
}

/**
 * Reads a photometric file. Types A and B, about a polar axis that stands upright or lies across, are turned into
 * angles from straight ahead and around.
 * @throws ProfileError when it is none, or is damaged
 */
export function readProfile(bytes: Uint8Array): Profile {
  if (bytes.length > PROFILE.bytes)
    throw new ProfileError(`the file is larger than ${inWords(PROFILE.bytes)}`);
  const lines = new TextDecoder('latin1').decode(bytes).split(/\r\n|\r|\n/);
  const tilt = lines.findIndex((l) => /^\s*TILT\s*=/i.test(l));
  if (tilt < 0) throw new ProfileError('there is no TILT line: this is no IES photometric file');
  const numbers = numbersOf(lines, tilt + 1);
  const next = (what: string): { value: number; line: number } => {
    const { value, done } = numbers.next();
    if (done || !value) throw new ProfileError(`the file ends before ${what}`);
    return value;
  };
  const count = (what: string, most: number) => {
    const { value, line } = next(what);
    if (!Number.isInteger(value) || value < 1 || value > most)
      throw new ProfileError(`line ${line}: ${value} is no ${what}, 1 … ${most}`);
    return value;
  };
  const kind = lines[tilt].split('=')[1].trim().toUpperCase();
  if (kind === 'INCLUDE') {
    next('the lamp’s stance');
    const pairs = count('number of tilts', MOST.angles);
    for (let i = 0; i < 2 * pairs; i++) next('the tilts');
  } else if (kind !== 'NONE') throw new ProfileError(`line ${tilt + 1}: tilts in another file are not read`);
  next('the lamps');
  next('the lumens');
  const factor = next('the factor of its values').value;
  const vertical = count('number of vertical angles', MOST.angles);
  const horizontal = count('number of horizontal angles', MOST.angles);
  if (vertical * horizontal > MOST.values) throw new ProfileError('the file holds too many values');
  const type = next('the photometric type');
  if (!(Object.values(TYPES) as number[]).includes(type.value))
    throw new ProfileError(`line ${type.line}: ${type.value} is no photometric type, 1 to 3`);
  const reach = SIGNED[type.value];
  for (const what of ['units', 'width', 'length', 'height']) next(`the ${what}`);
  const ballast = next('the ballast’s factor').value;
  next('the field kept free');
  next('the watts');
  const angles = (length: number, what: string, least: number, most: number) => {
    const out = new Float64Array(length);
    for (let i = 0; i < length; i++) {
      const { value, line } = next(`the ${what} angles`);
      if (value < least || value > most || (i > 0 && value <= out[i - 1]))
        throw new ProfileError(
          `line ${line}: ${what} angles rise from ${least} to ${most}, and ${value} does not`,
        );
      out[i] = value;
    }
    return out;
  };
  const from = angles(vertical, 'vertical', reach ? -reach : 0, reach ?? 180);
  const around = angles(horizontal, 'horizontal', reach ? -reach : 0, reach ?? 360);
  const values = new Float64Array(vertical * horizontal);
  for (let i = 0; i < values.length; i++) {
    const { value, line } = next('the candela values');
    if (value < 0) throw new ProfileError(`line ${line}: light of ${value} cd`);
    values[i] = value * factor * ballast;
  }
  const candela = values.reduce((a, b) => Math.max(a, b), 0);
  if (!(candela > 0)) throw new ProfileError('the file’s light gives nothing in any direction');
  return reach
    ? turned({ vertical: from, horizontal: around, values, candela }, type.value === TYPES.A)
    : unfolded(from, around, values, candela);
}

/** What symmetry leaves out is filled in: files state a half or a quarter of the way around, or one angle for all. */
function unfolded(from: Float64Array, around: Float64Array, values: Float64Array, candela: number): Profile {
  const n = from.length;
  const row = (i: number) => Array.from(values.subarray(i * n, i * n + n), (v) => v / candela);
  const last = around[around.length - 1];
  const planes = Array.from(around, (angle, i) => ({ angle, values: row(i) }));
  const mirrored = (at: number) =>
    planes
      .filter((p) => p.angle < at && 2 * at - p.angle <= 360)
      .map((p) => ({ angle: 2 * at - p.angle, values: p.values }))
      .reverse();
  if (around.length > 1 && last <= 90) planes.push(...mirrored(90));
  // stated for the side from 90 to 270 alone
  if (around[0] === 90 && last === 270)
    for (const p of planes.slice()) planes.push({ angle: (540 - p.angle) % 360, values: p.values });
  else if (around.length > 1 && last <= 180) planes.push(...mirrored(180));
  planes.sort((a, b) => a.angle - b.angle);
  const rows = planes.filter((p, i) => i === 0 || p.angle > planes[i - 1].angle);
  return {
    from: from.map((v) => v * DEG),
    around: Float64Array.from(rows, (p) => p.angle * DEG),
    shares: Float64Array.from(rows.flatMap((p) => p.values)),
    candela,
  };
}

/** Degrees between the directions that a file of type A or B is looked up at. */
const FINE = 1;

/**
 * A file of type A or B by angles from straight ahead and around; nothing goes where it states nothing, and what is
 * stated for one side alone is alike on the other.
 * @param upright the polar axis stands upright (A): horizontal angles are longitudes; else it lies across (B)
 */
function turned(
  {
    vertical,
    horizontal,
    values,
    candela,
  }: { vertical: Float64Array; horizontal: Float64Array; values: Float64Array; candela: number },
  upright: boolean,
): Profile {
  const from = Float64Array.from({ length: 90 / FINE + 1 }, (_, i) => i * FINE * DEG);
  const around = Float64Array.from({ length: 360 / FINE }, (_, i) => i * FINE * DEG);
  const oneSided = horizontal[0] === 0;
  const stated = (v: number, h: number) => {
    const [row, column] = [within(horizontal, oneSided ? Math.abs(h) : h), within(vertical, v)];
    if (!row || !column) return 0;
    const n = vertical.length;
    const at = (r: number, c: number) => values[Math.min(horizontal.length - 1, r) * n + Math.min(n - 1, c)];
    const mix = (r: number) => at(r, column[0]) + (at(r, column[0] + 1) - at(r, column[0])) * column[1];
    return mix(row[0]) + (mix(row[0] + 1) - mix(row[0])) * row[1];
  };
  const shares = new Float64Array(from.length * around.length);
  around.forEach((phi, k) =>
    from.forEach((theta, i) => {
      const [x, y, z] = [sin(theta) * cos(phi), sin(theta) * sin(phi), cos(theta)];
      const polar = (v: number) => 90 - acos(Math.min(1, Math.max(-1, v))) / DEG;
      const longitude = (v: number) => atan2(v, Math.max(0, z)) / DEG;
      const light = upright ? stated(polar(y), longitude(x)) : stated(longitude(y), polar(x));
      shares[k * from.length + i] = light / candela;
    }),
  );
  return { from, around, shares, candela };
}

/** Where a value lies among rising ones: the place before it, and how far on to the next; outside of them, null. */
function within(rising: Float64Array, value: number): [number, number] | null {
  const last = rising.length - 1;
  if (value < rising[0] || value > rising[last]) return null;
  let low = 0;
  let high = last;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (rising[middle] <= value) low = middle;
    else high = middle;
  }
  return last === 0 ? [0, 0] : [low, (value - rising[low]) / (rising[high] - rising[low])];
}

/** Rounding may carry an angle this far past the last that is stated, radians. */
const SLACK = 1e-9;

/**
 * Share of the greatest strength that goes in a direction, mixed between the angles stated; nothing beyond them.
 * @param theta from straight ahead, 0 … π @param phi around, from the light's right towards its top, radians
 */
export function shareAt({ from, around, shares }: Profile, theta: number, phi: number): number {
  const n = from.length;
  const top = from[n - 1];
  const place = within(from, theta > top && theta < top + SLACK ? top : theta);
  if (!place) return 0;
  const [v, t] = place;
  const along = (row: number) => {
    const a = shares[row * n + v];
    return n === 1 ? a : a + (shares[row * n + v + 1] - a) * t;
  };
  if (around.length === 1) return along(0);
  const turned = phi - 2 * Math.PI * Math.floor(phi / (2 * Math.PI));
  const side = within(around, turned);
  if (side) {
    const [h, s] = side;
    return along(h) + (along(h + 1) - along(h)) * s;
  }
  // between the last angle and the first
  const last = around.length - 1;
  const gap = around[0] + 2 * Math.PI - around[last];
  const s = (turned < around[0] ? turned + 2 * Math.PI - around[last] : turned - around[last]) / gap;
  return along(last) + (along(0) - along(last)) * s;
}

/** Steps in which a profile is summed over the sphere. */
const STEPS = { from: 720, around: 144 };

/** Lumens that a light of a profile gives in all for each candela of its greatest strength. */
export function lumensPerCandela(profile: Profile): number {
  let sum = 0;
  for (let i = 0; i < STEPS.from; i++) {
    const [low, high] = [i, i + 1].map((k) => cos((k * Math.PI) / STEPS.from));
    const theta = ((i + 0.5) * Math.PI) / STEPS.from;
    let ring = 0;
    for (let k = 0; k < STEPS.around; k++)
      ring += shareAt(profile, theta, ((k + 0.5) * 2 * Math.PI) / STEPS.around);
    sum += (ring / STEPS.around) * 2 * Math.PI * (low - high);
  }
  return sum;
}

/**
 * A profile over all directions as a square: what an octahedron about the light unfolds to, its middle straight ahead,
 * its right and top at right and top (Meyer et al., "On Floating-Point Normal Vectors", 2010).
 * @returns `side` rows from the top, of shares from left to right; the outer ones stand on the square's edge
 */
export function profileSquare(profile: Profile, side: number): Float64Array {
  const out = new Float64Array(side * side);
  for (let row = 0; row < side; row++)
    for (let column = 0; column < side; column++) {
      let [p, q] = [(2 * column) / (side - 1) - 1, 1 - (2 * row) / (side - 1)];
      const ahead = 1 - Math.abs(p) - Math.abs(q);
      if (ahead < 0) [p, q] = [(1 - Math.abs(q)) * (p < 0 ? -1 : 1), (1 - Math.abs(p)) * (q < 0 ? -1 : 1)];
      const length = Math.sqrt(p * p + q * q + ahead * ahead);
      const theta = acos(Math.min(1, Math.max(-1, ahead / length)));
      out[row * side + column] = shareAt(profile, theta, atan2(q, p));
    }
  return out;
}

/** A profile of a rule: its share of the greatest strength by angle from straight ahead, and around. */
function ruled(rule: (theta: number, phi: number) => number, last = 180): Profile {
  const from = Float64Array.from({ length: last + 1 }, (_, i) => i * DEG);
  const around = Float64Array.from({ length: 37 }, (_, i) => i * 10 * DEG);
  const shares = Float64Array.from(
    Array.from(around).flatMap((phi) => Array.from(from, (theta) => rule(theta, phi))),
  );
  const most = shares.reduce((a, b) => Math.max(a, b), 0);
  return { from, around, shares: shares.map((v) => v / most), candela: 0 };
}

const bell = (x: number, width: number) => pow(2, -((x / width) ** 2));

/** Profiles that lie ready. */
const READY: readonly { id: string; name: string; make: () => Profile }[] = [
  { id: 'beam', name: 'Narrow beam', make: () => ruled((t) => bell(t, 7 * DEG) + 0.02 * bell(t, 30 * DEG)) },
  { id: 'flood', name: 'Flood', make: () => ruled((t) => (t < Math.PI / 2 ? pow(cos(t), 1.5) : 0)) },
  {
    id: 'wall',
    name: 'Wall washer',
    make: () =>
      ruled((t, p) => bell(t - 35 * DEG, 22 * DEG) * (0.08 + 0.92 * bell(p - Math.PI / 2, 50 * DEG)), 90),
  },
  {
    id: 'wings',
    name: 'Two wings',
    make: () =>
      ruled(
        (t, p) => bell(t - 55 * DEG, 16 * DEG) * (0.1 + 0.9 * cos(p) ** 2) + 0.15 * bell(t, 40 * DEG),
        90,
      ),
  },
  {
    id: 'lantern',
    name: 'Deck lantern',
    make: () => ruled((t, p) => sin(t) * (0.75 + 0.25 * cos(6 * p)) * bell(t - 95 * DEG, 45 * DEG)),
  },
  {
    id: 'ringed',
    name: 'Ringed beam',
    make: () =>
      ruled(
        (t) => bell(t, 9 * DEG) + 0.3 * bell(t - 20 * DEG, 2.5 * DEG) + 0.12 * bell(t - 29 * DEG, 2 * DEG),
      ),
  },
];

export const READY_PROFILES: readonly { id: string; name: string }[] = READY;

/** @throws ProfileError when there is none of that name */
export function readyProfile(id: string): Profile {
  const ready = READY.find((p) => p.id === id);
  if (!ready) throw new ProfileError(`no profile ${id} comes with this version`);
  return ready.make();
}
