import { readFileSync } from 'node:fs';
import createClipper from 'clipper2-wasm';
import type { Contour } from '../../src/plane/flatten.ts';
import { OpenFont } from '../../src/type/font.ts';
import { SHIPPED_FONTS, SHIPPED_LICENCE } from '../../src/type/shippedFonts.ts';

/** Bytes of a shipped font's file. */
export function fontBytes(id: string): Uint8Array {
  const font = SHIPPED_FONTS.find((f) => f.id === id)!;
  return new Uint8Array(readFileSync(new URL(`../../../node_modules/${font.file}`, import.meta.url)));
}

export const openShipped = (id: string) => OpenFont.open(fontBytes(id), SHIPPED_LICENCE);

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
