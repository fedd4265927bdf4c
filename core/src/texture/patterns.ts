/** Pictures that light is thrown through: black holds it back, white lets it through. */
import { encodeSrgb } from '../maths/colour.ts';
import { lot } from '../maths/lot.ts';
import { cos, sin } from '../maths/reproducible.ts';
import type { PaintedTexture, Pixels } from './texture.ts';

const SIDE = 512;
/** Width of an edge, as a share of the picture: two of its pixels. */
const SOFT = 2 / SIDE;

/** How much gets through at a place: from the left and from below, 0 … 1. */
type Hole = (u: number, v: number) => number;

/** 1 inside of a distance to an edge, 0 outside, between them over the edge. */
const inside = (distance: number) => Math.min(1, Math.max(0, 0.5 + distance / SOFT));

const slats: Hole = (u, v) => {
  const at = v * 9;
  const edge = Math.min(u - 0.04, 0.96 - u);
  return inside(Math.min(edge, (0.27 - Math.abs(at - Math.floor(at) - 0.5)) / 9));
};

const panes: Hole = (u, v) => {
  const within = (t: number, n: number, bar: number) => {
    const at = ((t - 0.08) / 0.84) * n;
    return at < 0 || at > n ? -1 : (0.5 - Math.abs(at - Math.floor(at) - 0.5)) * (0.84 / n) - bar;
  };
  return inside(Math.min(within(u, 2, 0.018), within(v, 3, 0.018)));
};

const porthole: Hole = (u, v) => {
  const [x, y] = [u - 0.5, v - 0.5];
  const glass = inside(0.34 - Math.sqrt(x * x + y * y));
  const bars = inside(Math.min(Math.abs(x), Math.abs(y)) - 0.014);
  let bolts = 0;
  for (let k = 0; k < 8; k++) {
    const angle = ((k + 0.5) * Math.PI) / 4;
    const [bx, by] = [x - 0.42 * cos(angle), y - 0.42 * sin(angle)];
    bolts = Math.max(bolts, inside(0.018 - Math.sqrt(bx * bx + by * by)));
  }
  return Math.max(glass * bars, bolts);
};

/** Sprigs of long leaves, scattered; each is two arcs about its middle line. */
const leaves: Hole = (u, v) => {
  let through = 1;
  const cells = 7;
  const [i0, j0] = [Math.floor(u * cells), Math.floor(v * cells)];
  for (let j = j0 - 1; j <= j0 + 1; j++)
    for (let i = i0 - 1; i <= i0 + 1; i++) {
      if (lot(i, j, 3) > 0.72) continue;
      const angle = lot(i, j, 5) * Math.PI;
      const [dx, dy] = [u * cells - i - 0.2 - 0.6 * lot(i, j, 1), v * cells - j - 0.2 - 0.6 * lot(i, j, 2)];
      const [c, s] = [cos(angle), sin(angle)];
      const along = (dx * c + dy * s) / 0.85;
      const across = Math.abs(dy * c - dx * s);
      const width = 0.26 * (1 - along * along);
      const stem = Math.abs(along) < 1 ? inside((across - 0.012) / cells) : 1;
      if (Math.abs(along) < 1)
        through = Math.min(through, Math.max(inside((across - width) / cells), 1 - stem));
    }
  return through;
};

/** Light gathered by waves: where crests of several trains meet, thin bright lines. */
const water: Hole = (u, v) => {
  let sum = 0;
  for (let k = 0; k < 6; k++) {
    const angle = (k * Math.PI) / 6 + 0.3 * lot(k, 1, 7);
    const waves = 3 + 2.5 * lot(k, 2, 7);
    const bent = 0.35 * sin(2 * Math.PI * (v * 1.5 + u * (k - 2) * 0.7 + lot(k, 4, 7)));
    sum += sin(2 * Math.PI * (waves * (u * cos(angle) + v * sin(angle)) + lot(k, 3, 7)) + bent);
  }
  const line = 1 - Math.min(1, Math.abs(sum) / 1.6);
  return 0.08 + 0.92 * line * line * line;
};

/** Shrouds and ratlines: ropes that run together towards the masthead, and steps across them. */
const rigging: Hole = (u, v) => {
  const x = (u - 0.5) / Math.max(0.02, 1.05 - v);
  let rope = Infinity;
  for (const at of [-0.42, -0.21, 0, 0.21, 0.42])
    rope = Math.min(rope, Math.abs(x - at) * (1.05 - v) - 0.006);
  const step = v * 14;
  const rung = Math.abs(x) < 0.42 ? Math.abs(step - Math.round(step)) / 14 - 0.004 : Infinity;
  return inside(Math.min(rope, rung));
};

/** Round holes of many sizes, as light through a canopy. */
const dapples: Hole = (u, v) => {
  let through = 0;
  for (const [cells, seed] of [
    [5, 11],
    [9, 12],
  ]) {
    const [i0, j0] = [Math.floor(u * cells), Math.floor(v * cells)];
    for (let j = j0 - 1; j <= j0 + 1; j++)
      for (let i = i0 - 1; i <= i0 + 1; i++) {
        const [dx, dy] = [u * cells - i - lot(i, j, seed), v * cells - j - lot(i, j, seed + 20)];
        const radius = 0.1 + 0.3 * lot(i, j, seed + 40);
        through = Math.max(through, inside((radius - Math.sqrt(dx * dx + dy * dy)) / cells));
      }
  }
  return through;
};

const PATTERNS: readonly (PaintedTexture & { hole: Hole })[] = [
  { id: 'slats', name: 'Slats', hole: slats },
  { id: 'panes', name: 'Wheelhouse window', hole: panes },
  { id: 'porthole', name: 'Porthole', hole: porthole },
  { id: 'leaves', name: 'Leaves', hole: leaves },
  { id: 'water', name: 'Light off the water', hole: water },
  { id: 'rigging', name: 'Rigging', hole: rigging },
  { id: 'dapples', name: 'Dapples', hole: dapples },
];

export const LIGHT_PATTERNS: readonly PaintedTexture[] = PATTERNS;

/** Paints one of them; null when there is none of that name. */
export function paintPattern(id: string): Pixels | null {
  const pattern = PATTERNS.find((p) => p.id === id);
  if (!pattern) return null;
  const data = new Uint8Array(SIDE * SIDE * 4).fill(255);
  for (let y = 0; y < SIDE; y++)
    for (let x = 0; x < SIDE; x++) {
      const through = pattern.hole((x + 0.5) / SIDE, 1 - (y + 0.5) / SIDE);
      data.fill(Math.round(encodeSrgb(through) * 255), (y * SIDE + x) * 4, (y * SIDE + x) * 4 + 3);
    }
  return { width: SIDE, height: SIDE, data };
}
