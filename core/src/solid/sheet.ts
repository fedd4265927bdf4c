/** Growing lists of triangle corners, and their joining into solids with zones. */
import type { Zone } from '../document/index.ts';
import type { BevelLimits } from './limits.ts';

/** A watertight solid: nine floats a triangle; zones follow each other. */
export interface Solid {
  positions: Float32Array;
  normals: Float32Array;
  /** Unit vectors along the outline; on fronts and backs along the line of text. */
  tangents: Float32Array;
  /**
   * Four floats a corner: along and across the outline (lengths on the surface, across growing from back to
   * front and 0 where the front bevel begins; on fronts and backs the plane's x and y), then the plane's x and y, in
   * which bevels and sides go on from the front's edge as if they were rolled out beside it.
   */
  uv: Float32Array;
  /** The zones it has; points of light once for each of their colours. */
  zones: readonly Zone[];
  /** First triangle of each zone, and at the end their number. */
  zoneStarts: Uint32Array;
  /** Least and greatest x, y and z, three each; null without triangles. */
  box: [number, number, number, number, number, number] | null;
  /** Null when the outline is beyond bevelling, and the solid goes without. */
  limits: BevelLimits | null;
}

/** Floats of a corner: position, normal, tangent, along and across, distance from the outline inward. */
const CORNER = 12;

/** A growing list of corners, three a triangle. */
export class Sheet {
  data = new Float32Array(CORNER * 768);
  corners = 0;

  /** @param nx normal, (tx, ty, tz) tangent */
  corner(
    x: number,
    y: number,
    z: number,
    nx: number,
    ny: number,
    nz: number,
    tx: number,
    ty: number,
    tz: number,
    along: number,
    across: number,
    inward = 0,
  ): void {
    let at = this.corners++ * CORNER;
    if (at === this.data.length) {
      const grown = new Float32Array(at * 2);
      grown.set(this.data);
      this.data = grown;
    }
    const d = this.data;
    d[at++] = x;
    d[at++] = y;
    d[at++] = z;
    d[at++] = nx;
    d[at++] = ny;
    d[at++] = nz;
    d[at++] = tx;
    d[at++] = ty;
    d[at++] = tz;
    d[at++] = along;
    d[at++] = across;
    d[at] = inward;
  }
}

/**
 * A sheet in its place: `sign` −1 mirrors it in z; `acrossAt` is where its across begins, null for faces; `rolledOut` is
 * how much longer the way over the front bevel is than the bevel is wide, null for what lies in the plane as it is.
 */
export interface PlacedSheet {
  sheet: Sheet;
  offset: number;
  sign: 1 | -1;
  acrossAt: number | null;
  rolledOut: number | null;
}

export const inPlace = (sheet: Sheet, acrossAt: number | null = 0): PlacedSheet => ({
  sheet,
  offset: 0,
  sign: 1,
  acrossAt,
  rolledOut: null,
});

type SolidBox = NonNullable<Solid['box']>;

function boxOf(positions: Float32Array): SolidBox | null {
  if (positions.length === 0) return null;
  const box: SolidBox = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
  for (let i = 0; i < positions.length; i++) {
    const k = i % 3;
    if (positions[i] < box[k]) box[k] = positions[i];
    if (positions[i] > box[k + 3]) box[k + 3] = positions[i];
  }
  return box;
}

const bothBoxes = (a: SolidBox, b: SolidBox) =>
  a.map((v, k) => (k < 3 ? Math.min(v, b[k]) : Math.max(v, b[k]))) as SolidBox;

/**
 * Joins the sheets of zones in their order; a mirrored sheet is rewound.
 * @param sheets one for each zone
 */
export function assemble(zones: readonly Zone[], sheets: readonly PlacedSheet[]): Omit<Solid, 'limits'> {
  const corners = sheets.reduce((sum, { sheet }) => sum + sheet.corners, 0);
  const positions = new Float32Array(corners * 3);
  const normals = new Float32Array(corners * 3);
  const tangents = new Float32Array(corners * 3);
  const uv = new Float32Array(corners * 4);
  const zoneStarts = new Uint32Array(zones.length + 1);
  let at = 0;
  sheets.forEach(({ sheet, offset, sign, acrossAt, rolledOut }, k) => {
    const d = sheet.data;
    zoneStarts[k] = at / 3;
    for (let i = 0; i < sheet.corners; i++, at++) {
      const from = (sign < 0 ? i - 2 * (i % 3) + 2 : i) * CORNER;
      const z = offset + sign * d[from + 2];
      positions[at * 3] = d[from];
      positions[at * 3 + 1] = d[from + 1];
      positions[at * 3 + 2] = z;
      normals[at * 3] = d[from + 3];
      normals[at * 3 + 1] = d[from + 4];
      normals[at * 3 + 2] = sign * d[from + 5];
      tangents[at * 3] = d[from + 6];
      tangents[at * 3 + 1] = d[from + 7];
      tangents[at * 3 + 2] = sign * d[from + 8];
      uv[at * 4] = d[from + 9];
      uv[at * 4 + 1] = acrossAt === null ? d[from + 10] : acrossAt + sign * d[from + 10];
      // outward is the tangent, turned
      const out = rolledOut === null ? 0 : rolledOut - uv[at * 4 + 1] + d[from + 11];
      uv[at * 4 + 2] = d[from] + out * d[from + 7];
      uv[at * 4 + 3] = d[from + 1] - out * d[from + 6];
    }
  });
  zoneStarts[zones.length] = corners / 3;
  return {
    positions,
    normals,
    tangents,
    uv,
    zones,
    zoneStarts,
    box: boxOf(positions),
  };
}

/** A solid that is not there. */
export const nothing = (zones: readonly Zone[]): Solid => ({
  ...assemble(
    zones,
    zones.map(() => inPlace(new Sheet())),
  ),
  limits: null,
});

/** Two solids as one; the limits are the first one's. */
export function together(a: Solid, b: Solid): Solid {
  const floats = (x: Float32Array, y: Float32Array) => {
    const out = new Float32Array(x.length + y.length);
    out.set(x);
    out.set(y, x.length);
    return out;
  };
  const first = a.positions.length / 9;
  return {
    positions: floats(a.positions, b.positions),
    normals: floats(a.normals, b.normals),
    tangents: floats(a.tangents, b.tangents),
    uv: floats(a.uv, b.uv),
    zones: [...a.zones, ...b.zones],
    zoneStarts: Uint32Array.from([...a.zoneStarts, ...[...b.zoneStarts].slice(1).map((t) => t + first)]),
    box: a.box && b.box ? bothBoxes(a.box, b.box) : (a.box ?? b.box),
    limits: a.limits,
  };
}
