/**
 * Where strokes meet below the full width of a bevel, the flat that is left is raised to a ridge along its
 * chordal axis (Prasad, "Morphological analysis of shapes", 1997): the middle of each inner chord rises by its
 * distance to the outline.
 */

/** A corner of a raised triangle; `rise` is the share of the band's height, 0 … 1. */
export interface RaisedCorner {
  x: number;
  y: number;
  rise: number;
}

interface PlanePoint {
  x: number;
  y: number;
}

/**
 * Finds the level triangles of a band (all corners on the lower contour) and splits them at raised chords.
 * @param triangles corner numbers, three a triangle
 * @param lowerCount points before this number lie on the lower contour
 * @param reach inset between the lower and the upper contour
 * @returns for each raised triangle, by its first index in `triangles`, the triangles that replace it
 */
export function raisedRidges(
  triangles: Uint32Array,
  points: PlanePoint[],
  lowerCount: number,
  reach: number,
): Map<number, RaisedCorner[][]> {
  const isLevel = (t: number) =>
    triangles[t] < lowerCount && triangles[t + 1] < lowerCount && triangles[t + 2] < lowerCount;
  const position = (i: number) => `${points[i].x},${points[i].y}`;
  const chordKey = (a: number, b: number) => {
    const [p, q] = [position(a), position(b)];
    return p < q ? `${p};${q}` : `${q};${p}`;
  };
  // a chord is an edge that two level triangles share
  const uses = new Map<string, number>();
  for (let t = 0; t < triangles.length; t += 3) {
    if (!isLevel(t)) continue;
    for (let k = 0; k < 3; k++) {
      const key = chordKey(triangles[t + k], triangles[t + ((k + 1) % 3)]);
      uses.set(key, (uses.get(key) ?? 0) + 1);
    }
  }
  const middle = (a: number, b: number): RaisedCorner => {
    const [p, q] =
      points[a].x < points[b].x || (points[a].x === points[b].x && points[a].y < points[b].y)
        ? [points[a], points[b]]
        : [points[b], points[a]];
    const half = Math.hypot(p.x - q.x, p.y - q.y) / 2;
    return { x: (p.x + q.x) / 2, y: (p.y + q.y) / 2, rise: Math.min(1, half / reach) };
  };
  const out = new Map<number, RaisedCorner[][]>();
  for (let t = 0; t < triangles.length; t += 3) {
    if (!isLevel(t)) continue;
    const ids = [triangles[t], triangles[t + 1], triangles[t + 2]];
    const mids = ids.map((a, k) => {
      const b = ids[(k + 1) % 3];
      return uses.get(chordKey(a, b)) === 2 ? middle(a, b) : null;
    });
    if (mids.every((m) => m === null)) continue;
    out.set(
      t,
      split(
        ids.map((i) => ({ x: points[i].x, y: points[i].y, rise: 0 })),
        mids,
      ),
    );
  }
  return out;
}

/** Splits a triangle at the raised middles of its edges (`mids[k]` lies between corners k and k + 1). */
function split(corners: RaisedCorner[], mids: (RaisedCorner | null)[]): RaisedCorner[][] {
  const count = mids.filter((m) => m !== null).length;
  if (count === 3) {
    const [a, b, c] = mids as RaisedCorner[];
    const centre = {
      x: (a.x + b.x + c.x) / 3,
      y: (a.y + b.y + c.y) / 3,
      rise: Math.max(a.rise, b.rise, c.rise),
    };
    // a fan round the centre: corner, middle, corner, middle …
    const rim = corners.flatMap((corner, k) => [corner, mids[k]!]);
    return rim.map((p, k) => [p, rim[(k + 1) % rim.length], centre]);
  }
  // rotate so that an unsplit edge comes last: corners 0-1 and (perhaps) 1-2 are split
  const turn = [0, 1, 2].find((k) => mids[k] !== null && mids[(k + 2) % 3] === null)!;
  const [a, b, c] = [0, 1, 2].map((k) => corners[(k + turn) % 3]);
  const ab = mids[turn]!;
  const bc = mids[(turn + 1) % 3];
  if (!bc) {
    return [
      [a, ab, c],
      [ab, b, c],
    ];
  }
  return [
    [ab, b, bc],
    [a, ab, bc],
    [a, bc, c],
  ];
}
