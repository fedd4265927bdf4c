/** Ribbons along an outline moved inward, carrying a row of light points. */
import { cos, sin } from '../maths/reproducible.ts';
import type { Strip } from '../document/index.ts';
import type { Contour } from '../plane/flatten.ts';
import { grown, signedArea } from '../plane/region.ts';
import { assemble, inPlace, Sheet, type Solid } from './sheet.ts';

/** A strip's shape, lengths in the unit of the outline; `middle` is the z of the ribbon's middle. */
export interface StripShape extends Pick<Strip, 'inset' | 'width' | 'by' | 'count' | 'spacing' | 'size'> {
  middle: number;
  /** How many colours take turns along the row. */
  colours: number;
}

/** Thickness of the ribbon as a share of its width, and at least, in thousandths of an em. */
const THICKNESS = 0.04;
const LEAST_THICKNESS = 0.3;
/** Sides and rings of a point. */
const SIDES = 8;
const RINGS = 5;
/** Most points of one letter. */
const MOST_POINTS = 4000;

/** Evenly spaced places along a closed contour, with the direction of the contour. */
export function spaced(
  contour: Contour,
  { by, count, spacing }: Pick<StripShape, 'by' | 'count' | 'spacing'>,
): { x: number; y: number; dx: number; dy: number }[] {
  const n = contour.length / 2;
  const length = [0];
  for (let i = 0; i < n; i++) {
    const j = (i + 1) % n;
    length.push(
      length[i] + Math.hypot(contour[j * 2] - contour[i * 2], contour[j * 2 + 1] - contour[i * 2 + 1]),
    );
  }
  const whole = length[n];
  const wanted = by === 'count' ? count : Math.max(1, Math.round(whole / spacing));
  const out: { x: number; y: number; dx: number; dy: number }[] = [];
  let i = 0;
  for (let k = 0; k < Math.min(MOST_POINTS, wanted); k++) {
    const at = (whole * k) / wanted;
    while (i + 1 < n && length[i + 1] <= at) i++;
    const j = (i + 1) % n;
    const step = length[i + 1] - length[i];
    const [dx, dy] = [
      (contour[j * 2] - contour[i * 2]) / step,
      (contour[j * 2 + 1] - contour[i * 2 + 1]) / step,
    ];
    out.push({
      x: contour[i * 2] + dx * (at - length[i]),
      y: contour[i * 2 + 1] + dy * (at - length[i]),
      dx,
      dy,
    });
  }
  return out;
}

/** A ribbon's four sides along one contour. */
function ribbon(sheet: Sheet, outer: Contour, inner: Contour, low: number, high: number): void {
  const n = outer.length / 2;
  let along = 0;
  for (let i = 0; i < n; i++) {
    const j = (i + 1) % n;
    const [ox, oy, px, py] = [outer[i * 2], outer[i * 2 + 1], outer[j * 2], outer[j * 2 + 1]];
    const [ix, iy, jx, jy] = [inner[i * 2], inner[i * 2 + 1], inner[j * 2], inner[j * 2 + 1]];
    const l = Math.hypot(px - ox, py - oy) || 1;
    const [tx, ty] = [(px - ox) / l, (py - oy) / l];
    const put = (x: number, y: number, z: number, n3: [number, number, number], s: number) =>
      sheet.corner(x, y, z, n3[0], n3[1], n3[2], tx, ty, 0, along + s * l, z - low);
    const quad = ([a, b, c, d]: [number, number, number, number][], normal: [number, number, number]) => {
      for (const [x, y, z, s] of [a, b, c, a, c, d]) put(x, y, z, normal, s);
    };
    quad(
      [
        [ox, oy, low, 0],
        [px, py, low, 1],
        [px, py, high, 1],
        [ox, oy, high, 0],
      ],
      [ty, -tx, 0],
    );
    quad(
      [
        [jx, jy, low, 1],
        [ix, iy, low, 0],
        [ix, iy, high, 0],
        [jx, jy, high, 1],
      ],
      [-ty, tx, 0],
    );
    quad(
      [
        [ox, oy, high, 0],
        [px, py, high, 1],
        [jx, jy, high, 1],
        [ix, iy, high, 0],
      ],
      [0, 0, 1],
    );
    quad(
      [
        [px, py, low, 1],
        [ox, oy, low, 0],
        [ix, iy, low, 0],
        [jx, jy, low, 1],
      ],
      [0, 0, -1],
    );
    along += l;
  }
}

/** A small ball. */
function ball(sheet: Sheet, cx: number, cy: number, cz: number, radius: number): void {
  const at = (ring: number, side: number): [number, number, number] => {
    const polar = (Math.PI * ring) / RINGS;
    const turn = (2 * Math.PI * (side % SIDES)) / SIDES;
    const s = ring === 0 || ring === RINGS ? 0 : sin(polar);
    return [s * cos(turn), s * sin(turn), -cos(polar)];
  };
  const put = ([x, y, z]: [number, number, number]) =>
    sheet.corner(cx + radius * x, cy + radius * y, cz + radius * z, x, y, z, 1, 0, 0, 0, 0);
  for (let ring = 0; ring < RINGS; ring++) {
    for (let side = 0; side < SIDES; side++) {
      const [a, b, c, d] = [at(ring, side), at(ring, side + 1), at(ring + 1, side + 1), at(ring + 1, side)];
      if (ring > 0) {
        put(a);
        put(b);
        put(c);
      }
      if (ring < RINGS - 1) {
        put(a);
        put(c);
        put(d);
      }
    }
  }
}

/** The contour moved inward along the mean normals of its vertices: enough for a ribbon's thickness. */
function thinned(contour: Contour, by: number): Contour {
  const n = contour.length / 2;
  const out = new Float64Array(contour.length);
  for (let i = 0; i < n; i++) {
    const [h, j] = [(i + n - 1) % n, (i + 1) % n];
    const [ax, ay] = [contour[i * 2] - contour[h * 2], contour[i * 2 + 1] - contour[h * 2 + 1]];
    const [bx, by2] = [contour[j * 2] - contour[i * 2], contour[j * 2 + 1] - contour[i * 2 + 1]];
    const [la, lb] = [Math.hypot(ax, ay) || 1, Math.hypot(bx, by2) || 1];
    const [nx, ny] = [-ay / la - by2 / lb, ax / la + bx / lb];
    const l = Math.hypot(nx, ny) || 1;
    out[i * 2] = contour[i * 2] + (nx / l) * by;
    out[i * 2 + 1] = contour[i * 2 + 1] + (ny / l) * by;
  }
  return out;
}

/** The strip of a letter; its zones are the ribbon and, once for each colour, the points. */
export function buildStrip(region: Contour[], shape: StripShape): Solid {
  const line = shape.inset > 0 ? grown(region, -shape.inset) : region;
  const thickness = Math.max(LEAST_THICKNESS, shape.width * THICKNESS);
  const strip = new Sheet();
  const points = Array.from({ length: shape.colours }, () => new Sheet());
  let number = 0;
  for (const contour of line) {
    if (Math.abs(signedArea(contour)) < thickness * thickness) continue;
    ribbon(
      strip,
      contour,
      thinned(contour, thickness),
      shape.middle - shape.width / 2,
      shape.middle + shape.width / 2,
    );
    const radius = shape.size / 2;
    for (const { x, y, dx, dy } of spaced(contour, shape)) {
      // on the ribbon's outer face
      const out = radius * 1.02;
      ball(points[number++ % shape.colours], x + dy * out, y - dx * out, shape.middle, radius);
    }
  }
  return {
    ...assemble(
      ['strip', ...points.map(() => 'points' as const)],
      [strip, ...points].map((sheet) => inPlace(sheet)),
    ),
    limits: null,
  };
}
