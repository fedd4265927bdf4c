import { readFileSync } from 'node:fs';
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
  const edges = new Map<string, number>();
  const key = (at: number) => `${positions[at]},${positions[at + 1]},${positions[at + 2]}`;
  for (let t = 0; t < positions.length; t += 9) {
    const k = [key(t), key(t + 3), key(t + 6)];
    for (let i = 0; i < 3; i++) {
      const [a, b] = [k[i], k[(i + 1) % 3]];
      edges.set(`${a}>${b}`, (edges.get(`${a}>${b}`) ?? 0) + 1);
    }
  }
  let open = 0;
  for (const [edge, count] of edges) {
    const [a, b] = edge.split('>');
    if ((edges.get(`${b}>${a}`) ?? 0) !== count) open++;
  }
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
