/** Light painted on a surround's sphere: panels laid over a picture, or over the dark. */
import type { Panel } from '../document/index.ts';
import { acos, asin, atan, cos, pow, sin, tan } from '../maths/reproducible.ts';
import { frameOf, hueOf, type Vec } from './placing.ts';
import type { SurroundPicture } from './surround.ts';

/** Pixels round the horizon of what is painted, and where something is narrower than so many radians. */
const WIDE = { plain: 1024, fine: 2048 };
const NARROW = 0.06;
/** Small panels are as bright as asked for although few pixels meet them: below so many pixels across. */
const FEW = 8;

const dot = (a: Vec, x: number, y: number, z: number) => a[0] * x + a[1] * y + a[2] * z;
const smooth = (t: number) => (t <= 0 ? 0 : t >= 1 ? 1 : t * t * (3 - 2 * t));
const bounded = (v: number) => Math.min(1, Math.max(-1, v));

/** What bands and ramps run around: the upright, turned about the panel's own side. */
function axisOf({ azimuth, turn }: Panel): Vec {
  const [ca, sa, ct, st] = [cos(azimuth), sin(azimuth), cos(turn), sin(turn)];
  return [-st * ca, ct, st * sa];
}

/** Cover 0 … 1 of a panel by direction, and the half width of the strip of latitudes it is in. */
interface Shape {
  cover(x: number, y: number, z: number): number;
  /** Radians from the panel's middle beyond which it is not. */
  reach: number;
}

function shapeOf(panel: Panel, pixel: number): Shape {
  const { away: middle, right, up } = frameOf(panel);
  const axis = axisOf(panel);
  const { width, height } = panel;
  // an edge is at least as soft as a pixel is wide
  const edge = Math.max(panel.edge, pixel);
  const inside = (beyond: number) => smooth(0.5 - beyond / edge);
  const angleTo = (x: number, y: number, z: number) => acos(bounded(dot(middle, x, y, z)));
  switch (panel.shape) {
    case 'box': {
      const [wide, high] = [width, height].map((v) => tan(Math.min(3.1, v) / 2));
      return {
        reach: Math.min(Math.PI / 2, atan(Math.sqrt(wide * wide + high * high)) + 2 * edge),
        cover: (x, y, z) => {
          const depth = dot(middle, x, y, z);
          if (depth <= 1e-6) return 0;
          const across = Math.abs(dot(right, x, y, z)) / depth;
          const along = Math.abs(dot(up, x, y, z)) / depth;
          return inside(across - wide) * inside(along - high);
        },
      };
    }
    case 'disc':
      return {
        reach: Math.max(width, height) / 2 + edge,
        cover: (x, y, z) => {
          const angle = angleTo(x, y, z);
          const [a, b] = [dot(right, x, y, z), dot(up, x, y, z)];
          const flat = Math.sqrt(a * a + b * b);
          // radius of the ellipse in this direction
          const [p, q] = flat > 0 ? [a / flat / (width / 2), b / flat / (height / 2)] : [2 / width, 0];
          return inside(angle - 1 / Math.sqrt(p * p + q * q));
        },
      };
    case 'ring':
      return {
        reach: width / 2 + height / 2 + edge,
        cover: (x, y, z) => inside(Math.abs(angleTo(x, y, z) - width / 2) - height / 2),
      };
    case 'band':
      return {
        reach: Math.PI,
        cover: (x, y, z) =>
          inside(Math.abs(asin(bounded(dot(axis, x, y, z))) - panel.elevation) - height / 2),
      };
    case 'ramp':
      return { reach: Math.PI, cover: () => 1 };
    case 'picture':
      return shapeOf({ ...panel, shape: 'box' }, pixel);
  }
}

/** Solid angle of a panel with hard edges, steradians. */
export function solidAngle({
  shape,
  width,
  height,
  elevation,
}: Pick<Panel, 'shape' | 'width' | 'height' | 'elevation'>): number {
  const cap = (angle: number) => 2 * Math.PI * (1 - cos(Math.min(Math.PI, Math.max(0, angle))));
  const above = (latitude: number) => sin(Math.min(Math.PI / 2, Math.max(-Math.PI / 2, latitude)));
  switch (shape) {
    case 'box': {
      // of a rectangle seen from straight before its middle (Van Oosterom & Strackee 1983, four right corners)
      const [a, b] = [width, height].map((v) => tan(Math.min(3.1, v) / 2));
      return 4 * asin((a * b) / Math.sqrt((1 + a * a) * (1 + b * b)));
    }
    case 'disc':
      return width === height ? cap(width / 2) : (Math.PI / 4) * width * height;
    case 'ring':
      return cap(width / 2 + height / 2) - cap(width / 2 - height / 2);
    case 'band':
      return 2 * Math.PI * (above(elevation + height / 2) - above(elevation - height / 2));
    case 'ramp':
      return 4 * Math.PI;
    case 'picture':
      return solidAngle({ shape: 'box', width, height, elevation });
  }
}

/** Radiance of a panel, or of one of its stops, nits. */
const radianceOf = (panel: Panel): Vec => hueOf(panel).map((v) => v * pow(2, panel.level)) as Vec;

/** Colour of a ramp by elevation about its axis, before the panel's own. */
export function rampAt(
  panel: Pick<Panel, 'stops' | 'blend' | 'elevation' | 'height'>,
  latitude: number,
): Vec {
  const { stops, blend, elevation, height } = panel;
  const bright = (i: number) => stops[i].colour.map((v) => v * pow(2, stops[i].value)) as Vec;
  if (stops.length === 0) return [1, 1, 1];
  const at = (latitude - elevation) / height + 0.5;
  const next = stops.findIndex((s) => s.at > at);
  if (next === 0) return bright(0);
  if (next < 0) return bright(stops.length - 1);
  const [a, b] = [bright(next - 1), bright(next)];
  const t = (at - stops[next - 1].at) / (stops[next].at - stops[next - 1].at);
  const s = blend === 'held' ? 0 : blend === 'eased' ? smooth(t) : t;
  return a.map((v, c) => v + (b[c] - v) * s) as Vec;
}

/** The picture at a width, its pixels mixed between where it is narrower. */
function widened(base: SurroundPicture | null, wide: number): SurroundPicture {
  const width = Math.max(wide, base?.width ?? 0);
  const height = width / 2;
  const data = new Float32Array(width * height * 3);
  if (!base) return { width, height, data };
  if (base.width === width && base.height === height) return { width, height, data: base.data.slice() };
  const from = base.data;
  const left = new Int32Array(width);
  const right = new Int32Array(width);
  const share = new Float32Array(width);
  for (let x = 0; x < width; x++) {
    const fx = ((x + 0.5) / width) * base.width - 0.5 + base.width;
    left[x] = (Math.floor(fx) % base.width) * 3;
    right[x] = ((Math.floor(fx) + 1) % base.width) * 3;
    share[x] = fx - Math.floor(fx);
  }
  for (let y = 0; y < height; y++) {
    const fy = Math.min(base.height - 1, Math.max(0, ((y + 0.5) / height) * base.height - 0.5));
    const y0 = Math.floor(fy);
    const ty = fy - y0;
    const upper = y0 * base.width * 3;
    const lower = Math.min(base.height - 1, y0 + 1) * base.width * 3;
    for (let x = 0, to = y * width * 3; x < width; x++)
      for (let c = 0; c < 3; c++, to++) {
        const [l, r, t] = [left[x] + c, right[x] + c, share[x]];
        const top = from[upper + l] + (from[upper + r] - from[upper + l]) * t;
        const low = from[lower + l] + (from[lower + r] - from[lower + l]) * t;
        data[to] = top + (low - top) * ty;
      }
  }
  return { width, height, data };
}

/** Steps in which a ramp is known on its way from pole to pole. */
const RAMP_STEPS = 4096;

/** Radiance of a ramp by latitude about its axis, three numbers a step. */
function rampTable(panel: Panel): Float64Array {
  const plain = radianceOf(panel);
  const out = new Float64Array((RAMP_STEPS + 1) * 3);
  for (let i = 0; i <= RAMP_STEPS; i++)
    out.set(
      rampAt(panel, (i / RAMP_STEPS - 0.5) * Math.PI).map((v, c) => v * plain[c]),
      i * 3,
    );
  return out;
}

/** A picture for a panel: linear light, row by row from the top, red, green, blue and cover each. */
export interface PanelPicture {
  width: number;
  height: number;
  data: Float32Array;
}

/** Between its pixels. @param u across @param v down, 0 … 1 */
function pictured({ width, height, data }: PanelPicture, u: number, v: number, out: number[]): void {
  const x = Math.min(width - 1, Math.max(0, u * width - 0.5));
  const y = Math.min(height - 1, Math.max(0, v * height - 0.5));
  const [x0, y0] = [Math.floor(x), Math.floor(y)];
  const [a, b] = [x - x0, y - y0];
  const [x1, y1] = [Math.min(width - 1, x0 + 1), Math.min(height - 1, y0 + 1)];
  for (let c = 0; c < 4; c++) {
    const at = (px: number, py: number) => data[(py * width + px) * 4 + c];
    const top = at(x0, y0) + (at(x1, y0) - at(x0, y0)) * a;
    const low = at(x0, y1) + (at(x1, y1) - at(x0, y1)) * a;
    out[c] = top + (low - top) * b;
  }
}

/**
 * Lays panels over a picture, the last on top.
 * @param base what they are laid over; null for the dark
 * @param pictureOf the picture of a panel that shows one; white where there is none
 */
export function paintPanels(
  base: SurroundPicture | null,
  panels: readonly Panel[],
  pictureOf: (panel: Panel) => PanelPicture | null = () => null,
): SurroundPicture {
  const shown = panels.filter((p) => p.on);
  const isNarrow = (p: Panel) =>
    p.shape !== 'ramp' && Math.min(p.height, p.shape === 'band' ? Infinity : p.width) < NARROW;
  const picture = widened(base, shown.some(isNarrow) ? WIDE.fine : WIDE.plain);
  const { width } = picture;
  const across = Float64Array.from({ length: width * 2 }, (_, k) => {
    const phi = ((k >> 1) + 0.5) * ((2 * Math.PI) / width) - Math.PI;
    return k % 2 ? sin(phi) : cos(phi);
  });
  const pixel = (2 * Math.PI) / width;
  for (const panel of shown) {
    if (panel.shape === 'ramp') layRamp(panel, picture, across);
    else
      layShape(
        panel,
        shapeOf(panel, pixel),
        picture,
        across,
        panel.shape === 'picture' ? pictureOf(panel) : null,
      );
  }
  return picture;
}

function layRamp(panel: Panel, { width, height, data }: SurroundPicture, across: Float64Array): void {
  const axis = axisOf(panel);
  const table = rampTable(panel);
  const added = panel.laid === 'added';
  for (let y = 0; y < height; y++) {
    const latitude = (0.5 - (y + 0.5) / height) * Math.PI;
    const [s, c] = [sin(latitude), cos(latitude)];
    for (let x = 0; x < width; x++) {
      const along = asin(bounded(dot(axis, c * across[x * 2], s, c * across[x * 2 + 1])));
      const from = 3 * Math.min(RAMP_STEPS, Math.round((along / Math.PI + 0.5) * RAMP_STEPS));
      const at = (y * width + x) * 3;
      for (let k = 0; k < 3; k++) data[at + k] = table[from + k] + (added ? data[at + k] : 0);
    }
  }
}

function layShape(
  panel: Panel,
  shape: Shape,
  picture: SurroundPicture,
  across: Float64Array,
  shown: PanelPicture | null,
): void {
  const { width, height, data } = picture;
  const { cover, reach } = shape;
  const { away: middle, right, up } = frameOf(panel);
  const [wide, high] = [panel.width, panel.height].map((v) => tan(Math.min(3.1, v) / 2));
  const gain = correctionOf(panel, shape, picture, across);
  const light = radianceOf(panel).map((v) => v * gain);
  const added = panel.laid === 'added';
  const least = reach < Math.PI ? cos(reach) : -2;
  const pixel = [1, 1, 1, 1];
  for (let y = 0; y < height; y++) {
    const latitude = (0.5 - (y + 0.5) / height) * Math.PI;
    if (reach < Math.PI && Math.abs(latitude - panel.elevation) > reach) continue;
    const [s, c] = [sin(latitude), cos(latitude)];
    for (let x = 0; x < width; x++) {
      const dx = c * across[x * 2];
      const dz = c * across[x * 2 + 1];
      if (dot(middle, dx, s, dz) < least) continue;
      let share = cover(dx, s, dz);
      if (share === 0) continue;
      if (shown) {
        const depth = dot(middle, dx, s, dz);
        // seen from within the sphere, what is at its right stands at the left
        const u = 0.5 - dot(right, dx, s, dz) / depth / wide / 2;
        pictured(shown, u, 0.5 - dot(up, dx, s, dz) / depth / high / 2, pixel);
        share *= pixel[3];
      }
      const at = (y * width + x) * 3;
      for (let k = 0; k < 3; k++) {
        const own = light[k] * pixel[k];
        data[at + k] += added ? own * share : (own - data[at + k]) * share;
      }
    }
  }
}

/** How much brighter a panel of few pixels must be for them to give what it would. */
function correctionOf(
  panel: Panel,
  { cover, reach }: Shape,
  { width, height }: SurroundPicture,
  across: Float64Array,
): number {
  const pixel = (2 * Math.PI) / width;
  const narrowest = Math.min(panel.height, panel.shape === 'band' ? Infinity : panel.width);
  if (narrowest > FEW * pixel) return 1;
  const middle = frameOf(panel).away;
  const least = reach < Math.PI ? cos(reach) : -2;
  let sum = 0;
  for (let y = 0; y < height; y++) {
    const latitude = (0.5 - (y + 0.5) / height) * Math.PI;
    if (reach < Math.PI && Math.abs(latitude - panel.elevation) > reach) continue;
    const [s, c] = [sin(latitude), cos(latitude)];
    let row = 0;
    for (let x = 0; x < width; x++) {
      const dx = c * across[x * 2];
      const dz = c * across[x * 2 + 1];
      if (dot(middle, dx, s, dz) >= least) row += cover(dx, s, dz);
    }
    sum += row * c;
  }
  const met = sum * pixel * (Math.PI / height);
  return met > 0 ? solidAngle(panel) / met : 1;
}
