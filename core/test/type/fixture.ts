import { readFileSync } from 'node:fs';
import createClipper from 'clipper2-wasm';
import type { Contour } from '../../src/type/font.ts';
import { OpenFont } from '../../src/type/font.ts';
import { SHIPPED_FONTS } from '../../src/type/shippedFonts.ts';

/** Bytes of a shipped font's file. */
export function fontBytes(id: string): Uint8Array {
  const font = SHIPPED_FONTS.find((f) => f.id === id)!;
  return new Uint8Array(readFileSync(new URL(`../../../node_modules/${font.file}`, import.meta.url)));
}

export const openShipped = (id: string) => OpenFont.open(fontBytes(id));

/** Counts edges that do not have exactly two faces running opposite ways. */
export function openEdges(positions: Float32Array): number {
  const vertices = new Map<string, number>();
  const vertexAt = (at: number) => {
    const key = `${positions[at]},${positions[at + 1]},${positions[at + 2]}`;
    let v = vertices.get(key);
    if (v === undefined) vertices.set(key, (v = vertices.size));
    return v;
  };
  const SHIFT = 2 ** 26;
  // each edge counts up one way and down the other
  const edges = new Map<number, number>();
  for (let t = 0; t < positions.length; t += 9) {
    const v = [vertexAt(t), vertexAt(t + 3), vertexAt(t + 6)];
    for (let i = 0; i < 3; i++) {
      const [a, b] = [v[i], v[(i + 1) % 3]];
      if (a === b) continue;
      const [key, way] = a < b ? [a * SHIFT + b, 1] : [b * SHIFT + a, -1];
      edges.set(key, (edges.get(key) ?? 0) + way);
    }
  }
  let open = 0;
  for (const balance of edges.values()) if (balance !== 0) open++;
  return open;
}

/** Volume enclosed by outward-wound triangles (divergence theorem). */
export function volume(p: Float32Array): number {
  let six = 0;
  for (let t = 0; t < p.length; t += 9) {
    six +=
      p[t] * (p[t + 4] * p[t + 8] - p[t + 5] * p[t + 7]) -
      p[t + 1] * (p[t + 3] * p[t + 8] - p[t + 5] * p[t + 6]) +
      p[t + 2] * (p[t + 3] * p[t + 7] - p[t + 4] * p[t + 6]);
  }
  return six / 6;
}

const clipper = await createClipper();

/** The region shrunk by `distance` with round corners, by Clipper2's offset: what bevels are checked against. */
export function inset(region: Contour[], distance: number): Contour[] {
  const paths = new clipper.PathsD();
  for (const contour of region) paths.push_back(clipper.MakePathD([...contour]));
  const shrunk = clipper.InflatePathsD(
    paths,
    -distance,
    clipper.JoinType.Round,
    clipper.EndType.Polygon,
    40,
    5,
    0.02,
  );
  return Array.from({ length: shrunk.size() }, (_, i) => {
    const view = shrunk.get(i).view();
    const stride = view.length / shrunk.get(i).size();
    return Float64Array.from(view.filter((__: number, k: number) => k % stride < 2));
  });
}

/** Distance of a point to the nearest edge of a region. */
export function distanceTo(region: Contour[], x: number, y: number): number {
  let best = Infinity;
  for (const c of region) {
    for (let i = 0, j = c.length - 2; i < c.length; j = i, i += 2) {
      const [ex, ey] = [c[i] - c[j], c[i + 1] - c[j + 1]];
      const t = Math.min(1, Math.max(0, ((x - c[j]) * ex + (y - c[j + 1]) * ey) / (ex * ex + ey * ey)));
      best = Math.min(best, Math.hypot(x - c[j] - t * ex, y - c[j + 1] - t * ey));
    }
  }
  return best;
}
