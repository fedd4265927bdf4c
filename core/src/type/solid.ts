/**
 * One letter as a bevelled solid. The outline is the widest section; bevels run inward from it, each level an
 * exact offset of the outline, so that a bevel stops where strokes meet and never crosses itself.
 */
import { ZONES, type Profile, type Zone } from '../document/index.ts';
import type { Contour } from './font.ts';
import { profilePieces, type ProfilePiece } from './profile.ts';
import { inset } from './region.ts';
import { raisedRidges } from './ridge.ts';
import { triangulate } from './triangulate.ts';

/** Bevels narrower than this, thousandths of an em, are upright: less than an offset can tell from rounding. */
const LEAST_WIDTH = 0.05;

/** Shape of a solid, all in the unit of the outline. The back lies at z = 0, the front at z = depth. */
export interface SolidShape {
  depth: number;
  front: { width: number; height: number; profile: Profile; segments: number };
  back: { width: number; height: number; profile: Profile; segments: number };
}

/** A watertight solid: nine floats a triangle; zones follow each other in the order of ZONES. */
export interface Solid {
  positions: Float32Array;
  normals: Float32Array;
  /** First triangle of each zone, and at the end their number. */
  zoneStarts: Uint32Array;
}

/** Outline corners sharper than this stay crisp, flatter ones shade smoothly. */
const CREASE = Math.cos((32 * Math.PI) / 180);

/** A contour with its outward unit normals, before and after each vertex (alike where the outline is smooth). */
interface DressedContour {
  points: Contour;
  before: Float64Array;
  after: Float64Array;
}

/**
 * Outward normals of a contour's vertices. Smooth vertices take the normal of the circle through them and
 * their neighbours, which weighs each edge by the other's length.
 */
export function dress(points: Contour): DressedContour {
  const n = points.length / 2;
  const before = new Float64Array(n * 2);
  const after = new Float64Array(n * 2);
  const edge = (i: number) => {
    const j = (i + 1) % n;
    const dx = points[j * 2] - points[i * 2];
    const dy = points[j * 2 + 1] - points[i * 2 + 1];
    const l = Math.hypot(dx, dy) || 1;
    return [dy / l, -dx / l, l];
  };
  let last = edge(n - 1);
  for (let i = 0; i < n; i++) {
    const next = edge(i);
    let [ax, ay] = last;
    let [bx, by] = next;
    if (ax * bx + ay * by > CREASE) {
      const x = ax * next[2] + bx * last[2];
      const y = ay * next[2] + by * last[2];
      const l = Math.hypot(x, y) || 1;
      ax = bx = x / l;
      ay = by = y / l;
    }
    before.set([ax, ay], i * 2);
    after.set([bx, by], i * 2);
    last = next;
  }
  return { points, before, after };
}

/** Growing triangle lists of one zone. */
class Sheet {
  readonly positions: number[] = [];
  readonly normals: number[] = [];
  corner(x: number, y: number, z: number, nx: number, ny: number, nz: number): void {
    this.positions.push(x, y, z);
    this.normals.push(nx, ny, nz);
  }
}

/** Upright strip along contours between two heights. `facing` 1 for walls seen from outside. */
function wall(sheet: Sheet, dressed: DressedContour[], z0: number, z1: number): void {
  if (z1 - z0 <= 0) return;
  for (const { points, before, after } of dressed) {
    const n = points.length / 2;
    for (let i = 0; i < n; i++) {
      const j = (i + 1) % n;
      const [x0, y0, x1, y1] = [points[i * 2], points[i * 2 + 1], points[j * 2], points[j * 2 + 1]];
      const [ax, ay, bx, by] = [after[i * 2], after[i * 2 + 1], before[j * 2], before[j * 2 + 1]];
      sheet.corner(x0, y0, z0, ax, ay, 0);
      sheet.corner(x1, y1, z0, bx, by, 0);
      sheet.corner(x1, y1, z1, bx, by, 0);
      sheet.corner(x0, y0, z0, ax, ay, 0);
      sheet.corner(x1, y1, z1, bx, by, 0);
      sheet.corner(x0, y0, z1, ax, ay, 0);
    }
  }
}

/** Level of a bevel: the inset contours and how high they lie. */
interface Level {
  dressed: DressedContour[];
  z: number;
}

/** Sloping or flat band between two levels of different inset. */
function band(
  sheet: Sheet,
  lower: Level,
  upper: Level,
  piece: ProfilePiece,
  distance: { lower: number; upper: number },
): void {
  const contours = [...lower.dressed, ...upper.dressed].map((d) => d.points);
  if (contours.length === 0) return;
  const lowerCount = lower.dressed.reduce((sum, d) => sum + d.points.length / 2, 0);
  const flat: { x: number; y: number; normals: number[] }[] = [];
  for (const { points, before, after } of [...lower.dressed, ...upper.dressed]) {
    for (let i = 0; i < points.length; i += 2) {
      flat.push({
        x: points[i],
        y: points[i + 1],
        normals: [before[i], before[i + 1], after[i], after[i + 1]],
      });
    }
  }
  const rise = upper.z - lower.z;
  const triangles = triangulate(contours);
  const ridges = rise > 0 ? raisedRidges(triangles, flat, lowerCount, distance.upper - distance.lower) : null;
  const zOf = (i: number) => (i < lowerCount ? lower.z : upper.z);
  const emit = (a: number, b: number, c: number) => {
    const face = faceDirection(flat, [zOf(a), zOf(b), zOf(c)], a, b, c);
    for (const i of [a, b, c]) {
      const p = flat[i];
      const z = zOf(i);
      if (face === null && i < lowerCount && rise > 0) {
        sheet.corner(p.x, p.y, z, 0, 0, 1);
        continue;
      }
      const [out, up] = i < lowerCount ? piece.normal0 : piece.normal1;
      const [nx, ny] = nearestNormal(p.normals, face);
      sheet.corner(p.x, p.y, z, nx * out, ny * out, up);
    }
  };
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [triangles[t], triangles[t + 1], triangles[t + 2]];
    const raised = ridges?.get(t);
    if (!raised) {
      emit(a, b, c);
      continue;
    }
    for (const corners of raised) {
      const at = corners.map((k) => ({ ...k, z: lower.z + rise * k.rise }));
      const normal = faceNormal(at);
      for (const p of at) sheet.corner(p.x, p.y, p.z, ...normal);
    }
  }
}

/** Of a vertex's two outline normals, the one nearer to the face's downhill direction. */
function nearestNormal(normals: number[], face: [number, number] | null): [number, number] {
  const [ax, ay, bx, by] = normals;
  if (face && face[0] * bx + face[1] * by > face[0] * ax + face[1] * ay) return [bx, by];
  return [ax, ay];
}

/** Downhill direction of a triangle in the plane, or null when it is level. */
function faceDirection(
  points: { x: number; y: number }[],
  z: number[],
  a: number,
  b: number,
  c: number,
): [number, number] | null {
  const [pa, pb, pc] = [points[a], points[b], points[c]];
  const [ux, uy, uz] = [pb.x - pa.x, pb.y - pa.y, z[1] - z[0]];
  const [vx, vy, vz] = [pc.x - pa.x, pc.y - pa.y, z[2] - z[0]];
  const nx = uy * vz - uz * vy;
  const ny = uz * vx - ux * vz;
  const l = Math.hypot(nx, ny);
  return l > 0 ? [nx / l, ny / l] : null;
}

function faceNormal(p: { x: number; y: number; z: number }[]): [number, number, number] {
  const [a, b, c] = p;
  const [ux, uy, uz] = [b.x - a.x, b.y - a.y, b.z - a.z];
  const [vx, vy, vz] = [c.x - a.x, c.y - a.y, c.z - a.z];
  const n: [number, number, number] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
  const l = Math.hypot(...n) || 1;
  return [n[0] / l, n[1] / l, n[2] / l];
}

/**
 * Bevel and face on one side, built upward from z = 0 at the outline.
 * @returns the bevel's and the face's sheets
 */
function cap(
  outline: DressedContour[],
  region: Contour[],
  bevel: SolidShape['front'],
  width: number,
): [Sheet, Sheet] {
  const bevelSheet = new Sheet();
  const faceSheet = new Sheet();
  let level: Level = { dressed: outline, z: 0 };
  let insetNow = 0;
  for (const piece of profilePieces(bevel.profile, bevel.segments, width, bevel.height)) {
    const z = piece.up1 * bevel.height;
    if (piece.across1 === piece.across0 || width === 0) {
      wall(bevelSheet, level.dressed, level.z, z);
      level = { dressed: level.dressed, z };
      continue;
    }
    const insetNext = piece.across1 * width;
    const next: Level = { dressed: inset(region, insetNext).map(dress), z };
    band(bevelSheet, level, next, piece, { lower: insetNow, upper: insetNext });
    level = next;
    insetNow = insetNext;
  }
  const contours = level.dressed.map((d) => d.points);
  const points = contours.flatMap((c) =>
    Array.from({ length: c.length / 2 }, (_, i) => [c[i * 2], c[i * 2 + 1]]),
  );
  for (const i of triangulate(contours)) faceSheet.corner(points[i][0], points[i][1], level.z, 0, 0, 1);
  return [bevelSheet, faceSheet];
}

/**
 * Builds a letter's solid.
 * @param region merged contours, outers counter-clockwise, holes clockwise
 */
export function buildSolid(region: Contour[], shape: SolidShape): Solid {
  const outline = region.map(dress);
  // bevels that together are deeper than the letter share its depth in proportion
  const wanted = shape.front.height + shape.back.height;
  const share = wanted > shape.depth ? shape.depth / wanted : 1;
  const fitted = (bevel: SolidShape['front']) => ({
    ...bevel,
    width: bevel.width < LEAST_WIDTH ? 0 : bevel.width,
    height: bevel.height * share,
    // each segment steps inward by what an offset can tell
    segments: Math.max(1, Math.min(bevel.segments, Math.floor(Math.sqrt(bevel.width / LEAST_WIDTH)))),
  });
  const front = fitted(shape.front);
  const back = fitted(shape.back);
  const [frontBevel, frontFace] = cap(outline, region, front, front.width);
  const [backBevel, backFace] = cap(outline, region, back, back.width);
  const side = new Sheet();
  wall(side, outline, back.height, shape.depth - front.height);
  const sheets: Record<Zone, [Sheet, number, number]> = {
    front: [frontFace, shape.depth - front.height, 1],
    frontBevel: [frontBevel, shape.depth - front.height, 1],
    side: [side, 0, 1],
    backBevel: [backBevel, back.height, -1],
    back: [backFace, back.height, -1],
  };
  return assemble(sheets);
}

/** Joins the zones; a sheet turned about (`sign` −1) is mirrored in z and rewound. */
function assemble(sheets: Record<Zone, [Sheet, number, number]>): Solid {
  const total = ZONES.reduce((sum, zone) => sum + sheets[zone][0].positions.length, 0);
  const positions = new Float32Array(total);
  const normals = new Float32Array(total);
  const zoneStarts = new Uint32Array(ZONES.length + 1);
  let at = 0;
  ZONES.forEach((zone, k) => {
    const [sheet, offset, sign] = sheets[zone];
    zoneStarts[k] = at / 9;
    for (let i = 0; i < sheet.positions.length; i += 9) {
      for (let c = 0; c < 3; c++) {
        const from = i + (sign < 0 ? 2 - c : c) * 3;
        positions[at] = sheet.positions[from];
        positions[at + 1] = sheet.positions[from + 1];
        positions[at + 2] = offset + sign * sheet.positions[from + 2];
        normals[at] = sheet.normals[from];
        normals[at + 1] = sheet.normals[from + 1];
        normals[at + 2] = sign * sheet.normals[from + 2];
        at += 3;
      }
    }
  });
  zoneStarts[ZONES.length] = total / 9;
  return { positions, normals, zoneStarts };
}
