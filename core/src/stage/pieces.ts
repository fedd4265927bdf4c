/** Floor, wall and curved backdrop as triangles. */
import type { Piece } from '../document/index.ts';
import { cos, sin } from '../maths/reproducible.ts';
import type { Box } from './camera.ts';

/** How far a piece reaches, in sizes of the type and at least in metres. */
const REACH = 40;
const LEAST_REACH = 20;
/** Flat parts are split at these shares of their reach: small triangles where precision matters. */
const SPLITS = [-1, -1 / 5, -1 / 25, 1 / 25, 1 / 5, 1];
/** Chords of the backdrop's quarter circle. */
const SWEEP = 32;

interface Soup {
  positions: Float32Array;
  normals: Float32Array;
  tangents: Float32Array;
  /** Four floats a corner, metres: across the piece and along its section, twice. */
  uv: Float32Array;
}

/** Triangles of a piece, sized to the type it stands with. */
export function pieceTriangles(piece: Pick<Piece, 'kind' | 'at'>, type: Box): Soup {
  const size = Math.max(...type.max.map((v, i) => v - type.min[i]), 0.01);
  const reach = Math.max(LEAST_REACH, REACH * size);
  const cx = (type.min[0] + type.max[0]) / 2;
  const cz = (type.min[2] + type.max[2]) / 2;
  /** The section in the y–z plane, from the front to the top, with a normal at each point. */
  let section: { y: number; z: number; ny: number; nz: number }[];
  if (piece.kind === 'floor') {
    section = SPLITS.map((share) => ({ y: piece.at, z: cz - share * reach, ny: 1, nz: 0 }));
  } else if (piece.kind === 'wall') {
    const cy = (type.min[1] + type.max[1]) / 2;
    section = SPLITS.map((share) => ({ y: cy + share * reach, z: piece.at, ny: 0, nz: 1 }));
  } else {
    // a floor under the type that sweeps up into a wall behind it at z = at
    const floor = type.min[1];
    const radius = Math.max(0.05, 1.2 * (type.max[1] - type.min[1]));
    section = SPLITS.map((share) => cz - share * reach)
      .filter((z) => z > piece.at + radius)
      .map((z) => ({ y: floor, z, ny: 1, nz: 0 }));
    for (let i = 0; i <= SWEEP; i++) {
      const a = (Math.PI / 2) * (i / SWEEP);
      section.push({
        y: floor + radius * (1 - cos(a)),
        z: piece.at + radius * (1 - sin(a)),
        ny: cos(a),
        nz: sin(a),
      });
    }
    const top = floor + radius;
    for (const share of SPLITS)
      if (share > 0) section.push({ y: top + share * reach, z: piece.at, ny: 0, nz: 1 });
  }
  return extrude(
    section,
    SPLITS.map((share) => cx + share * reach),
  );
}

function extrude(section: { y: number; z: number; ny: number; nz: number }[], across: number[]): Soup {
  const positions: number[] = [];
  const normals: number[] = [];
  const tangents: number[] = [];
  const uv: number[] = [];
  const corner = (x: number, p: { y: number; z: number; ny: number; nz: number }, along: number) => {
    positions.push(x, p.y, p.z);
    normals.push(0, p.ny, p.nz);
    tangents.push(1, 0, 0);
    uv.push(x, along, x, along);
  };
  let start = 0;
  for (let i = 1; i < section.length; i++) {
    const [a, b] = [section[i - 1], section[i]];
    const end = start + Math.hypot(b.y - a.y, b.z - a.z);
    for (let k = 1; k < across.length; k++) {
      const [x0, x1] = [across[k - 1], across[k]];
      corner(x0, a, start);
      corner(x1, a, start);
      corner(x1, b, end);
      corner(x0, a, start);
      corner(x1, b, end);
      corner(x0, b, end);
    }
    start = end;
  }
  return {
    positions: Float32Array.from(positions),
    normals: Float32Array.from(normals),
    tangents: Float32Array.from(tangents),
    uv: Float32Array.from(uv),
  };
}
