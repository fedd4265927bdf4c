/** What stands around the type, as triangles about a foot of its own, and where that stands. */
import type { Piece } from '../document/index.ts';
import { cos, sin } from '../maths/reproducible.ts';
import { cameraFrame, rayOf, type Box, type OrbitCamera } from './camera.ts';
import { gridTriangles } from './grid.ts';
import { tableTriangles } from './table.ts';
import { TriangleList, type Corner, type Triangles } from './triangles.ts';

/** How far a piece reaches, in sizes of the type and at least in metres. */
const REACH = 40;
const LEAST_REACH = 20;
/** How far a grid, a table or a niche reaches that has no size, in sizes of the type. */
export const NEAR_REACH = 4;
/** Where a plate stands at the nearest, as a share of the way to what the camera aims at. */
const NEAREST_PLATE = 0.05;
/** Flat parts are split at these shares of their reach: small triangles where precision matters. */
const SPLITS = [-1, -1 / 5, -1 / 25, 1 / 25, 1 / 5, 1];
/** Chords of the backdrop's quarter circle. */
const SWEEP = 32;

/** What of a piece its triangles come of. */
export type PieceShape = Pick<
  Piece,
  'kind' | 'at' | 'width' | 'height' | 'depth' | 'radius' | 'thickness' | 'spacing'
>;

/** Longest side of the type, metres. */
export const largest = (type: Box) => Math.max(...type.max.map((v, i) => v - type.min[i]), 0.01);

/** A point of a section in the y–z plane, with its normal. */
interface Point {
  y: number;
  z: number;
  ny: number;
  nz: number;
}

/**
 * Triangles of a piece where it stands before it is moved or turned, sized to the type it stands with.
 * @param aspect width over height of what a plate shows
 */
export function pieceTriangles(piece: PieceShape, type: Box, aspect = 1): Triangles {
  const size = largest(type);
  const reach = Math.max(LEAST_REACH, REACH * size);
  const cx = (type.min[0] + type.max[0]) / 2;
  const cy = (type.min[1] + type.max[1]) / 2;
  const cz = (type.min[2] + type.max[2]) / 2;
  const { at, width, height, depth } = piece;
  /** Splits of what is so large; further than is seen at 0. */
  const spread = (middle: number, own: number) =>
    own > 0 ? [middle - own / 2, middle + own / 2] : SPLITS.map((share) => middle + share * reach);
  const across = spread(cx, width);
  const flat = (y: number) => spread(-cz, depth).map((z): Point => ({ y, z: -z, ny: 1, nz: 0 }));
  switch (piece.kind) {
    case 'floor':
      return extruded(flat(at), across);
    case 'wall': {
      const ups = height > 0 ? [type.min[1], type.min[1] + height] : spread(cy, 0);
      return extruded(
        ups.map((y) => ({ y, z: at, ny: 0, nz: 1 })),
        across,
      );
    }
    case 'backdrop':
      return extruded(backdrop(piece, type, reach), across);
    case 'table':
      return moved(
        tableTriangles(width || NEAR_REACH * size, depth || NEAR_REACH * size, piece.thickness, piece.radius),
        [cx, at, cz],
      );
    case 'niche': {
      const [w, h, d] = [width, height, depth].map((v) => v || NEAR_REACH * size);
      return moved(niche(w, h, d), [cx, type.min[1], at]);
    }
    case 'grid':
      return moved(
        gridTriangles(
          width || NEAR_REACH * size,
          height || NEAR_REACH * size,
          piece.spacing,
          piece.thickness,
        ),
        [cx, type.min[1], at],
      );
    case 'plate': {
      const w = width || NEAR_REACH * size;
      return moved(sheet(w, w / aspect), [cx, cy, at]);
    }
    case 'model':
      throw new RangeError('a model has triangles of its own');
  }
}

/** A floor under the type that sweeps up into a wall behind it at z = at. */
function backdrop({ at, height, radius: own }: PieceShape, type: Box, reach: number): Point[] {
  const floor = type.min[1];
  const cz = (type.min[2] + type.max[2]) / 2;
  const wanted = own > 0 ? own : Math.max(0.05, 1.2 * (type.max[1] - type.min[1]));
  const radius = height > 0 ? Math.min(wanted, height) : wanted;
  const section: Point[] = SPLITS.map((share) => cz - share * reach)
    .filter((z) => z > at + radius)
    .map((z) => ({ y: floor, z, ny: 1, nz: 0 }));
  for (let i = 0; i <= SWEEP; i++) {
    const a = (Math.PI / 2) * (i / SWEEP);
    section.push({
      y: floor + radius * (1 - cos(a)),
      z: at + radius * (1 - sin(a)),
      ny: cos(a),
      nz: sin(a),
    });
  }
  const top = floor + radius;
  if (height > 0) {
    if (height > radius) section.push({ y: floor + height, z: at, ny: 0, nz: 1 });
  } else
    for (const share of SPLITS) if (share > 0) section.push({ y: top + share * reach, z: at, ny: 0, nz: 1 });
  return section;
}

/** A floor, a wall behind it and one on its left: a corner of a room, the wall behind in z = 0. */
function niche(width: number, height: number, depth: number): Triangles {
  const list = new TriangleList();
  const [l, r] = [-width / 2, width / 2];
  const on = (at: Corner['at'], normal: Corner['normal'], uv: Corner['uv']): Corner => ({
    at,
    normal,
    tangent: normal[0] > 0 ? [0, 0, -1] : [1, 0, 0],
    uv,
  });
  const floor = (x: number, z: number) => on([x, 0, z], [0, 1, 0], [x, -z]);
  const behind = (x: number, y: number) => on([x, y, 0], [0, 0, 1], [x, y]);
  const left = (z: number, y: number) => on([l, y, z], [1, 0, 0], [l - z, y]);
  list.face(floor(l, depth), floor(r, depth), floor(r, 0), floor(l, 0));
  list.face(behind(l, 0), behind(r, 0), behind(r, height), behind(l, height));
  list.face(left(depth, 0), left(0, 0), left(0, height), left(depth, height));
  return list.done();
}

/** An upright face about the origin. */
function sheet(width: number, height: number): Triangles {
  const list = new TriangleList();
  const corner = (x: number, y: number): Corner => ({
    at: [x * width, y * height, 0],
    normal: [0, 0, 1],
    tangent: [1, 0, 0],
    uv: [x * width, y * height],
  });
  list.face(corner(-0.5, -0.5), corner(0.5, -0.5), corner(0.5, 0.5), corner(-0.5, 0.5));
  return list.done();
}

function moved(triangles: Triangles, by: readonly [number, number, number]): Triangles {
  for (let i = 0; i < triangles.positions.length; i++) triangles.positions[i] += by[i % 3];
  return triangles;
}

function extruded(section: readonly Point[], across: readonly number[]): Triangles {
  const list = new TriangleList();
  const corner = (x: number, { y, z, ny, nz }: Point, along: number): Corner => ({
    at: [x, y, z],
    normal: [0, ny, nz],
    tangent: [1, 0, 0],
    uv: [x, along],
  });
  let start = 0;
  for (let i = 1; i < section.length; i++) {
    const [a, b] = [section[i - 1], section[i]];
    const end = start + Math.hypot(b.y - a.y, b.z - a.z);
    for (let k = 1; k < across.length; k++) {
      const [x0, x1] = [across[k - 1], across[k]];
      list.face(corner(x0, a, start), corner(x1, a, start), corner(x1, b, end), corner(x0, b, end));
    }
    start = end;
  }
  return list.done();
}

/** Kinds that stand on something at their height; the others stand behind the type at their place. */
export const stands = (kind: Piece['kind']) => kind === 'floor' || kind === 'table' || kind === 'model';

/** What a piece turns about: its foot, before it is moved. */
export function footOf({ kind, at }: Pick<Piece, 'kind' | 'at'>, type: Box): [number, number, number] {
  const [cx, cy, cz] = [0, 1, 2].map((i) => (type.min[i] + type.max[i]) / 2);
  if (stands(kind)) return [cx, at, cz];
  return [cx, kind === 'plate' ? cy : type.min[1], at];
}

/** Rows of a turn about the axis to the front, then the one across, then the upright one. */
export function turnOf({ turn, tilt, roll }: Pick<Piece, 'turn' | 'tilt' | 'roll'>): number[][] {
  // a top that tilts away turns the other way about the axis across
  const [cr, sr, ct, st, cu, su] = [cos(roll), sin(roll), cos(-tilt), sin(-tilt), cos(turn), sin(turn)];
  const [x, y, z] = [
    [cr, -sr, 0],
    [ct * sr, ct * cr, -st],
    [st * sr, st * cr, ct],
  ];
  return [x.map((v, i) => cu * v + su * z[i]), y, z.map((v, i) => -su * x[i] + cu * v)];
}

/** Where a piece that was moved or turned stands: rows of a transform that carries its triangles there. */
export function pieceTransform(piece: Piece, type: Box): number[] {
  const foot = footOf(piece, type);
  const rows = turnOf(piece);
  return rows.flatMap((row, i) => {
    const carried = row[0] * foot[0] + row[1] * foot[1] + row[2] * foot[2];
    return [...row, foot[i] - carried + piece.move[i]];
  });
}

/**
 * Where a plate stands that fills the frame: across the sight, so far behind what the camera aims at as its place is
 * behind the type.
 * @param aspect width over height of what it shows @returns its width, and the transform of a sheet about the origin
 */
export function filling(
  { at }: Pick<Piece, 'at'>,
  camera: OrbitCamera,
  frame: number,
  aspect: number,
): { width: number; transform: number[] } {
  const of = cameraFrame(camera, frame);
  const depth = Math.max(camera.distance * NEAREST_PLATE, camera.distance - at);
  const far = of.parallel ? 1 : depth;
  const { origin, direction } = rayOf(of, 0, 0);
  const middle = origin.map((v, i) => v + direction[i] * depth);
  const back = of.forward.map((v) => -v);
  return {
    // so large that nothing of the frame stays open
    width: 2 * far * Math.max(of.halfWidth, of.halfHeight * aspect),
    transform: middle.flatMap((v, i) => [of.right[i], of.up[i], back[i], v]),
  };
}
