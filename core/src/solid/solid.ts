/**
 * One letter as a bevelled solid. The outline is the widest section; bevels run inward from it, their height a
 * function of the true distance to the outline, so that a bevel ends in a ridge where strokes meet and never
 * crosses itself.
 */
import { SOLID_ZONES, type Bevel } from '../document/index.ts';
import type { Contour } from '../plane/flatten.ts';
import { bevelLimits } from './limits.ts';
import { profilePieces, type ProfilePiece } from './profile.ts';
import { contourOf, loopsOf, roofOf, type Roof } from './roof.ts';
import { grown } from '../plane/region.ts';
import { assemble, Sheet, type PlacedSheet, type Solid } from './sheet.ts';
import { sitesOf, type Sites } from '../plane/sites.ts';
import { withoutSlivers } from './slivers.ts';
import { triangulate } from '../plane/triangulate.ts';
import { diagramOf } from '../plane/diagram.ts';
import type { Voronoi } from '../plane/voronoi.ts';

/** Bevels narrower than this, thousandths of an em, are upright: nearer to the outline than rounding leaves levels apart. */
const LEAST_WIDTH = 0.05;
/** Outline vertices that turn more than this stay crisp, others shade smoothly. */
const CREASE = (32 * Math.PI) / 180;

/** Shape of a solid, all in the unit of the outline. The back lies at z = 0, the front at z = depth. */
export interface SolidShape {
  depth: number;
  front: Bevel;
  back: Bevel;
  /** Greatest angle of the sectors in which bevels turn round corners; as fine as for close views by itself. */
  sector?: number;
}

type Flat = [number, number];

/** Outline with what shading and texturing need to know of it. */
export class Outline {
  readonly sites: Sites;
  /** Length of the contour before each vertex. */
  private readonly start: Float64Array;
  /** Outward normals of each edge at its start and end, four numbers an edge. */
  private readonly normals: Float64Array;

  constructor(sites: Sites) {
    this.sites = sites;
    this.start = new Float64Array(sites.count);
    for (let i = 0; i < sites.count; i++) {
      const j = sites.next[i];
      if (j > i) this.start[j] = this.start[i] + sites.length[i];
    }
    this.normals = new Float64Array(sites.count * 4);
    for (let k = 0; k < sites.count; k++) {
      this.normals.set(this.normalAt(k, false), k * 4);
      this.normals.set(this.normalAt(k, true), k * 4 + 2);
    }
  }

  /** Outward normal of edge k at its start or end: smooth vertices share the one of the circle through them. */
  private normalAt(k: number, end: boolean): Flat {
    const s = this.sites;
    const vertex = end ? s.next[k] : k;
    const [nx, ny] = [s.dy[k], -s.dx[k]];
    if (s.corner[vertex] || Math.abs(s.turn[vertex]) > CREASE) return [nx, ny];
    const other = end ? vertex : s.previous[k];
    // each edge's normal weighs by the other's length
    const x = nx * s.length[other] + s.dy[other] * s.length[k];
    const y = ny * s.length[other] - s.dx[other] * s.length[k];
    const l = Math.hypot(x, y);
    return [x / l, y / l];
  }

  /** Foot of a point on edge k: share of its length, within it, and the length along the contour. */
  private foot(k: number, x: number, y: number): { share: number; along: number } {
    const s = this.sites;
    const p = (x - s.x[k]) * s.dx[k] + (y - s.y[k]) * s.dy[k];
    const share = Math.min(1, Math.max(0, p / s.length[k]));
    return { share, along: this.start[k] + share * s.length[k] };
  }

  /** Outward normal and length along the outline where a point of a site's cell has its foot. */
  at(site: number, x: number, y: number): { normal: Flat; along: number } {
    const s = this.sites;
    if (site < s.count) {
      const { share, along } = this.foot(site, x, y);
      const n = this.normals;
      const at = site * 4;
      const nx = n[at] + (n[at + 2] - n[at]) * share;
      const ny = n[at + 1] + (n[at + 3] - n[at + 1]) * share;
      const l = Math.sqrt(nx * nx + ny * ny);
      return { normal: [nx / l, ny / l], along };
    }
    const v = site - s.count;
    const [wx, wy] = [s.x[v] - x, s.y[v] - y];
    const l = Math.hypot(wx, wy);
    return { normal: l > 0 ? [wx / l, wy / l] : [NaN, NaN], along: this.start[v] };
  }
}

/** Upright strip over steps of a site's outline or level, from z0 up to z1. */
export function wall(
  sheet: Sheet,
  outline: Outline,
  steps: Iterable<[number, number, number]>,
  { x, y }: { x: ArrayLike<number>; y: ArrayLike<number> },
  z0: number,
  z1: number,
  across0: number,
  inward = 0,
): void {
  if (z1 - z0 <= 0) return;
  const across1 = across0 + z1 - z0;
  for (const [site, a, b] of steps) {
    const p = outline.at(site, x[a], y[a]);
    const q = outline.at(site, x[b], y[b]);
    if (q.along < p.along) q.along = p.along + Math.hypot(x[b] - x[a], y[b] - y[a]);
    const put = (i: number, { normal: [nx, ny], along }: typeof p, z: number, across: number) =>
      sheet.corner(x[i], y[i], z, nx, ny, 0, -ny, nx, 0, along, across, inward);
    put(a, p, z0, across0);
    put(b, q, z0, across0);
    put(b, q, z1, across1);
    put(a, p, z0, across0);
    put(b, q, z1, across1);
    put(a, p, z1, across1);
  }
}

/** One band of a bevel, between two levels. */
function slope(
  sheet: Sheet,
  outline: Outline,
  roof: Roof,
  band: number,
  piece: ProfilePiece,
  levels: [number, number],
  heights: [number, number],
  across: [number, number],
): void {
  const share = (i: number) => (roof.r[i] - levels[0]) / (levels[1] - levels[0]);
  for (const patch of roof.bands[band]) {
    for (let t = 0; t < patch.triangles.length; t += 3) {
      const corners = patch.triangles.slice(t, t + 3).map((i) => {
        const { normal, along } = outline.at(patch.site, roof.x[i], roof.y[i]);
        return { i, normal, along };
      });
      // a corner's own vertex takes the direction of what it fans out to
      const apex = corners.find((c) => Number.isNaN(c.normal[0]));
      if (apex) {
        const [p, q] = corners.filter((c) => c !== apex);
        const [nx, ny] = [p.normal[0] + q.normal[0], p.normal[1] + q.normal[1]];
        const l = Math.hypot(nx, ny) || 1;
        apex.normal = [nx / l, ny / l];
      }
      for (const { i, normal, along } of corners) {
        const s = share(i);
        const out = piece.normal0[0] + (piece.normal1[0] - piece.normal0[0]) * s;
        const up = piece.normal0[1] + (piece.normal1[1] - piece.normal0[1]) * s;
        const l = Math.sqrt(out * out + up * up);
        sheet.corner(
          roof.x[i],
          roof.y[i],
          heights[0] + (heights[1] - heights[0]) * s,
          (normal[0] * out) / l,
          (normal[1] * out) / l,
          up / l,
          -normal[1],
          normal[0],
          0,
          along,
          across[0] + (across[1] - across[0]) * s,
          roof.r[i],
        );
      }
    }
  }
}

/** Steps of the outline itself. */
export function* outlineSteps(s: Sites): Generator<[number, number, number]> {
  for (let k = 0; k < s.count; k++) yield [k, k, s.next[k]];
}

/**
 * Corners of the triangles of a flat face. Where the face has shrunk to slivers whose rims touch, it is put
 * together from its parts in each cell.
 */
function* faceCorners(
  contours: Contour[],
  diagram: Voronoi | null,
  levels: number[],
  sector: number | undefined,
): Generator<[number, number]> {
  let triangles: Uint32Array;
  try {
    triangles = triangulate(contours);
  } catch (error) {
    if (!diagram) throw error;
    const { x, y, bands } = roofOf(diagram, [...levels, Infinity], sector);
    for (const patch of bands[levels.length - 1]) for (const i of patch.triangles) yield [x[i], y[i]];
    return;
  }
  const points = contours.flatMap((c) =>
    Array.from({ length: c.length / 2 }, (_, i): [number, number] => [c[i * 2], c[i * 2 + 1]]),
  );
  for (const i of triangles) yield points[i];
}

/**
 * Bevel and face on one side, built upward from z = 0 at the outline.
 * @returns the bevel's and the face's sheets, and how much longer the way over the bevel is than it is wide
 */
function cap(
  outline: Outline,
  diagram: Voronoi | null,
  bevel: SolidShape['front'],
  sector: number | undefined,
): [Sheet, Sheet, number] {
  const bevelSheet = new Sheet();
  const faceSheet = new Sheet();
  const { sites } = outline;
  const pieces = profilePieces(bevel);
  const levels = [0];
  for (const p of pieces) if (p.across1 > p.across0 && bevel.width > 0) levels.push(p.across1 * bevel.width);
  const roof = diagram && levels.length > 1 ? roofOf(diagram, levels, sector) : null;
  let band = 0;
  let z = 0;
  let across = 0;
  for (const piece of pieces) {
    const top = piece.up1 * bevel.height;
    if (piece.across1 === piece.across0 || !roof) {
      const places = band === 0 ? sites : roof!;
      const steps = band === 0 ? outlineSteps(sites) : roof!.steps[band];
      wall(bevelSheet, outline, steps, places, z, top, across, levels[band]);
      across += top - z;
    } else {
      const next = across + Math.hypot(levels[band + 1] - levels[band], top - z);
      slope(
        bevelSheet,
        outline,
        roof,
        band,
        piece,
        [levels[band], levels[band + 1]],
        [z, top],
        [across, next],
      );
      across = next;
      band++;
    }
    z = top;
  }
  const outlines = roof ? loopsOf(roof.steps[band]).map((loop) => contourOf(loop, roof)) : sites.contours;
  for (const [x, y] of faceCorners(outlines, diagram, levels, sector)) {
    faceSheet.corner(x, y, z, 0, 0, 1, 1, 0, 0, x, y);
  }
  return [bevelSheet, faceSheet, across - levels[band]];
}

/**
 * Builds a letter's solid.
 * @param region merged contours, outers counter-clockwise, holes clockwise
 */
export function buildSolid(region: Contour[], shape: SolidShape): Solid {
  const reach = Math.max(0, ...[shape.front, shape.back].map((b) => (b.way === 'outward' ? b.width : 0)));
  // outward bevels run inward too, from the outline widened by them
  const widest = reach < LEAST_WIDTH ? region : grown(region, reach);
  const diagram = diagramOf(widest);
  const outline = new Outline(diagram?.sites ?? sitesOf(widest));
  // bevels that together are deeper than the letter share its depth in proportion
  const wanted = shape.front.height + shape.back.height;
  const share = wanted > shape.depth ? shape.depth / wanted : 1;
  const fitted = (bevel: SolidShape['front']) => ({
    ...bevel,
    width: bevel.width < LEAST_WIDTH || !diagram ? 0 : bevel.width,
    height: bevel.height * share,
    // each segment steps inward by more than rounding
    segments: Math.max(1, Math.min(bevel.segments, Math.floor(Math.sqrt(bevel.width / LEAST_WIDTH)))),
  });
  const front = fitted(shape.front);
  const back = fitted(shape.back);
  const [frontBevel, frontFace, rolledOut] = cap(outline, diagram, front, shape.sector);
  const [backBevel, backFace] = cap(outline, diagram, back, shape.sector);
  const side = new Sheet();
  const [low, high] = [back.height, shape.depth - front.height];
  wall(side, outline, outlineSteps(outline.sites), outline.sites, low, high, low - high);
  const sheets: PlacedSheet[] = [
    { sheet: frontFace, offset: high, sign: 1, acrossAt: null, rolledOut: null },
    { sheet: frontBevel, offset: high, sign: 1, acrossAt: 0, rolledOut },
    { sheet: side, offset: 0, sign: 1, acrossAt: 0, rolledOut },
    { sheet: backBevel, offset: low, sign: -1, acrossAt: low - high, rolledOut },
    { sheet: backFace, offset: low, sign: -1, acrossAt: null, rolledOut: null },
  ];
  return { ...withoutSlivers(assemble(SOLID_ZONES, sheets)), limits: diagram && bevelLimits(diagram) };
}
