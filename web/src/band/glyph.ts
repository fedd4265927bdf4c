/** Outlines of letters as SVG paths, y down. */
import type { Contour } from '@wemlox/core/plane/flatten';

export function pathOf(outline: Contour[]): string {
  let d = '';
  for (const contour of outline) {
    for (let i = 0; i < contour.length; i += 2)
      d += `${i === 0 ? 'M' : 'L'}${contour[i].toFixed(1)} ${(-contour[i + 1]).toFixed(1)}`;
    d += 'Z';
  }
  return d;
}

/** [x, y, width, height] of an outline, y down. */
export function viewBoxOf(outline: Contour[]): [number, number, number, number] {
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const contour of outline) {
    for (let i = 0; i < contour.length; i += 2) {
      x0 = Math.min(x0, contour[i]);
      x1 = Math.max(x1, contour[i]);
      y0 = Math.min(y0, -contour[i + 1]);
      y1 = Math.max(y1, -contour[i + 1]);
    }
  }
  return x1 > x0 ? [x0, y0, x1 - x0, y1 - y0] : [0, -1, 1, 1];
}
