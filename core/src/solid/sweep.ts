/** Sweeping circles along lines in space. */
import { cos, sin } from '../maths/reproducible.ts';
import type { Course } from '../plane/curve.ts';
import type { Sheet } from './sheet.ts';

/** Rings follow each other where the line has turned by this much, radians. */
const RING_TURN = 0.1;
/** Rings of a round end. */
const END_RINGS = 4;

export type Vec = [number, number, number];

/** A course in space, with its direction at each point. */
export interface Line {
  at: Vec[];
  towards: Vec[];
  length: number[];
}

export function lineOf(stroke: Course, z: (along: number) => number): Line {
  const at = stroke.x.map((x, i): Vec => [x, stroke.y[i], z(stroke.length[i])]);
  const n = at.length;
  const towards = at.map((_, i): Vec => {
    const [p, q] = stroke.closed
      ? [at[i === 0 ? n - 2 : i - 1], at[i === n - 1 ? 1 : i + 1]]
      : [at[Math.max(0, i - 1)], at[Math.min(n - 1, i + 1)]];
    const d = [q[0] - p[0], q[1] - p[1], q[2] - p[2]];
    const l = Math.hypot(...d) || 1;
    return [d[0] / l, d[1] / l, d[2] / l];
  });
  const length = [0];
  for (let i = 1; i < n; i++) {
    length.push(length[i - 1] + Math.hypot(...at[i].map((v, k) => v - at[i - 1][k])));
  }
  return { at, towards, length };
}

/** Part of a line between two lengths, with points of its own at the ends. */
export function cut(line: Line, from: number, to: number): Line {
  const point = (s: number): [Vec, Vec] => {
    let i = line.length.findIndex((l) => l > s);
    if (i < 1) i = i < 0 ? line.length.length - 1 : 1;
    const t = (s - line.length[i - 1]) / (line.length[i] - line.length[i - 1] || 1);
    const mix = (a: Vec, b: Vec) => a.map((v, k) => v + t * (b[k] - v)) as Vec;
    const towards = mix(line.towards[i - 1], line.towards[i]);
    const l = Math.hypot(...towards) || 1;
    return [mix(line.at[i - 1], line.at[i]), towards.map((v) => v / l) as Vec];
  };
  const inner = [...line.length.keys()].filter(
    (i) => line.length[i] > from + 1e-6 && line.length[i] < to - 1e-6,
  );
  const [a, b] = [point(from), point(to)];
  return {
    at: [a[0], ...inner.map((i) => line.at[i]), b[0]],
    towards: [a[1], ...inner.map((i) => line.towards[i]), b[1]],
    length: [from, ...inner.map((i) => line.length[i]), to],
  };
}

/** Leaves out points where the line hardly turns; `kept` lengths stay. */
export function sparse(line: Line, reach: number, kept: readonly number[] = []): Line {
  const n = line.at.length;
  const chosen = [0];
  for (let i = 1; i < n - 1; i++) {
    const last = chosen[chosen.length - 1];
    const [a, b] = [line.towards[last], line.towards[i + 1]];
    const cosine = a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
    const wanted = kept.some((s) => Math.abs(s - line.length[i]) < 1e-6);
    if (wanted || cosine < cos(RING_TURN) || line.length[i + 1] - line.length[last] > reach) chosen.push(i);
  }
  chosen.push(n - 1);
  return {
    at: chosen.map((i) => line.at[i]),
    towards: chosen.map((i) => line.towards[i]),
    length: chosen.map((i) => line.length[i]),
  };
}

/** A ring of a sweep: its middle, frame, radius, and how far its normals lean along the tube. */
export interface Ring {
  at: Vec;
  along: Vec;
  right: Vec;
  up: Vec;
  radius: number;
  lean: number;
  length: number;
}

function ringAt(at: Vec, along: Vec, radius: number, lean: number, length: number): Ring {
  // up is as near to out of the wall as the direction leaves it; a tube straight out of the wall takes the page's up
  const base: Vec = Math.abs(along[2]) > 0.99 ? [0, 1, 0] : [0, 0, 1];
  const d = base[0] * along[0] + base[1] * along[1] + base[2] * along[2];
  const raw = base.map((v, i) => v - d * along[i]);
  const l = Math.hypot(...raw);
  const up = raw.map((v) => v / l) as Vec;
  const right: Vec = [
    up[1] * along[2] - up[2] * along[1],
    up[2] * along[0] - up[0] * along[2],
    up[0] * along[1] - up[1] * along[0],
  ];
  return { at, along, right, up, radius, lean, length };
}

const moved = (at: Vec, along: Vec, by: number): Vec => [
  at[0] + along[0] * by,
  at[1] + along[1] * by,
  at[2] + along[2] * by,
];

/** Rings of a tube; `ends` round, flat, or none for a closed one. */
export function ringsOf(line: Line, radius: number, ends: 'round' | 'flat' | 'none'): Ring[] {
  const rings = line.at.map((at, i) => ringAt(at, line.towards[i], radius, 0, line.length[i]));
  if (ends === 'none') return rings;
  const cap = (ring: Ring, sign: 1 | -1): Ring[] => {
    if (ends === 'flat') {
      const face = { ...ring, lean: sign };
      return [face, { ...face, radius: 0 }];
    }
    return Array.from({ length: END_RINGS }, (_, k) => {
      const angle = ((k + 1) / END_RINGS) * (Math.PI / 2);
      const by = sign * radius * sin(angle);
      return {
        ...ring,
        at: moved(ring.at, ring.along, by),
        radius: k === END_RINGS - 1 ? 0 : radius * cos(angle),
        lean: sign * sin(angle),
        length: ring.length + by,
      };
    });
  };
  return [...cap(rings[0], -1).reverse(), ...rings, ...cap(rings[rings.length - 1], 1)];
}

/** Joins rings by quads; `sheetOf` says which sheet the stretch after a ring belongs to. */
export function sweep(rings: Ring[], sides: number, sheetOf: (from: Ring, to: Ring) => Sheet): void {
  const put = (sheet: Sheet, ring: Ring, j: number) => {
    const angle = (2 * Math.PI * (j % sides)) / sides;
    const [c, s] = [cos(angle), sin(angle)];
    const flat = Math.sqrt(Math.max(0, 1 - ring.lean * ring.lean));
    const p: number[] = [];
    const n: number[] = [];
    for (let k = 0; k < 3; k++) {
      const out = ring.right[k] * c + ring.up[k] * s;
      p.push(ring.at[k] + (ring.radius === 0 ? 0 : ring.radius * out));
      n.push(out * flat + ring.along[k] * ring.lean);
    }
    const across = ((2 * Math.PI * j) / sides) * ring.radius;
    const around = Math.abs(ring.lean) > 0.9;
    const t = around ? ring.right : ring.along;
    sheet.corner(p[0], p[1], p[2], n[0], n[1], n[2], t[0], t[1], t[2], ring.length, across);
  };
  for (let i = 0; i + 1 < rings.length; i++) {
    const [a, b] = [rings[i], rings[i + 1]];
    // a flat end's face follows its edge at the same place
    if (a.at === b.at && a.radius === b.radius) continue;
    const sheet = sheetOf(a, b);
    for (let j = 0; j < sides; j++) {
      if (a.radius > 0) {
        put(sheet, a, j);
        put(sheet, a, j + 1);
        put(sheet, b, b.radius > 0 ? j + 1 : j);
      }
      if (b.radius > 0) {
        put(sheet, a, j);
        put(sheet, b, j + 1);
        put(sheet, b, j);
      }
    }
  }
}

/** Rounds to single precision now, so that rings that coincide do so exactly. */
export const single = (rings: Ring[]): Ring[] =>
  rings.map((r) => ({ ...r, at: r.at.map(Math.fround) as Vec }));

/** A line with one more point. */
export function withPoint(line: Line, s: number): Line {
  if (line.length.some((l) => Math.abs(l - s) < 1e-6)) return line;
  const head = cut(line, line.length[0], s);
  const tail = cut(line, s, line.length.at(-1)!);
  return {
    at: [...head.at, ...tail.at.slice(1)],
    towards: [...head.towards, ...tail.towards.slice(1)],
    length: [...head.length, ...tail.length.slice(1)],
  };
}
