/** Light painted on a surround's sphere: panels laid over a picture, or over the dark. */
import type { Panel } from '../document/index.ts';
import { acos, asin, cos, pow, sin, tan } from '../maths/reproducible.ts';
import { hueOf, type Vec } from './placing.ts';
import type { SurroundPicture } from './surround.ts';

/** Pixels round the horizon of what is painted, and where something is narrower than so many radians. */
const WIDE = { plain: 1024, fine: 2048 };
const NARROW = 0.06;
/** Small panels are as bright as asked for although few pixels meet them: below so many pixels across. */
const FEW = 8;

const dot = (a: Vec, x: number, y: number, z: number) => a[0] * x + a[1] * y + a[2] * z;
const smooth = (t: number) => (t <= 0 ? 0 : t >= 1 ? 1 : t * t * (3 - 2 * t));
const bounded = (v: number) => Math.min(1, Math.max(-1, v));

/** Middle, right and up of a panel, turned about its middle. */
function frameOf({ azimuth, elevation, turn }: Pick<Panel, 'azimuth' | 'elevation' | 'turn'>) {
  const [ca, sa, ce, se] = [cos(azimuth), sin(azimuth), cos(elevation), sin(elevation)];
  const [ct, st] = [cos(turn), sin(turn)];
  const flat: Vec = [ca, 0, -sa];
  const steep: Vec = [-se * sa, ce, -se * ca];
  const mixed = (a: Vec, p: number, b: Vec, q: number) => a.map((v, i) => v * p + b[i] * q) as Vec;
  return {
    middle: [ce * sa, se, ce * ca] as Vec,
    right: mixed(flat, ct, steep, st),
    up: mixed(steep, ct, flat, -st),
    /** What bands and ramps run around: the upright, turned about the panel's own side. */
    axis: [-st * ca, ct, st * sa] as Vec,
  };
}

/** Cover 0 … 1 of a panel by direction, and the half width of the strip of latitudes it is in. */
interface Shape {
  cover(x: number, y: number, z: number): number;
  /** Radians from the panel's middle beyond which it is not. */
  reach: number;
}

function shapeOf(panel: Panel, pixel: number): Shape {
  const { middle, right, up, axis } = frameOf(panel);
  const { width, height } = panel;
  // an edge is at least as soft as a pixel is wide
  const edge = Math.max(panel.edge, pixel);
  const inside = (beyond: number) => smooth(0.5 - beyond / edge);
  const angleTo = (x: number, y: number, z: number) => acos(bounded(dot(middle, x, y, z)));
  switch (panel.shape) {
    case 'box': {
      const [wide, high] = [width, height].map((v) => tan(Math.min(3.1, v) / 2));
      return {
        reach: Math.PI / 2,
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
  }
}

/** Solid angle of a panel with hard edges, steradians. */
export function solidAngle({ shape, width, height, elevation }: Panel): number {
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
  for (let y = 0; y < height; y++) {
    const fy = Math.min(base.height - 1, Math.max(0, ((y + 0.5) / height) * base.height - 0.5));
    const [y0, ty] = [Math.floor(fy), fy - Math.floor(fy)];
    const y1 = Math.min(base.height - 1, y0 + 1);
    for (let x = 0; x < width; x++) {
      const fx = ((x + 0.5) / width) * base.width - 0.5 + base.width;
      const [x0, x1] = [Math.floor(fx) % base.width, (Math.floor(fx) + 1) % base.width];
      const tx = fx - Math.floor(fx);
      for (let c = 0; c < 3; c++) {
        const at = (row: number, column: number) => base.data[(row * base.width + column) * 3 + c];
        const top = at(y0, x0) + (at(y0, x1) - at(y0, x0)) * tx;
        const low = at(y1, x0) + (at(y1, x1) - at(y1, x0)) * tx;
        data[(y * width + x) * 3 + c] = top + (low - top) * ty;
      }
    }
  }
  return { width, height, data };
}

/**
 * Lays panels over a picture, the last on top.
 * @param base what they are laid over; null for the dark
 */
export function paintPanels(base: SurroundPicture | null, panels: readonly Panel[]): SurroundPicture {
  const shown = panels.filter((p) => p.on);
  const isNarrow = (p: Panel) =>
    p.shape !== 'ramp' && Math.min(p.height, p.shape === 'band' ? Infinity : p.width) < NARROW;
  const picture = widened(base, shown.some(isNarrow) ? WIDE.fine : WIDE.plain);
  const { width, height, data } = picture;
  const across = Float64Array.from({ length: width * 2 }, (_, k) => {
    const phi = ((k >> 1) + 0.5) * ((2 * Math.PI) / width) - Math.PI;
    return k % 2 ? sin(phi) : cos(phi);
  });
  const pixel = (2 * Math.PI) / width;
  for (const panel of shown) {
    const { cover, reach } = shapeOf(panel, pixel);
    const { axis } = frameOf(panel);
    const plain = radianceOf(panel);
    const isRamp = panel.shape === 'ramp';
    const gain = isRamp ? 1 : correctionOf(panel, cover, picture, across, reach);
    for (let y = 0; y < height; y++) {
      const latitude = (0.5 - (y + 0.5) / height) * Math.PI;
      if (Math.abs(latitude - panel.elevation) > reach) continue;
      const [s, c] = [sin(latitude), cos(latitude)];
      for (let x = 0; x < width; x++) {
        const [dx, dz] = [c * across[x * 2], c * across[x * 2 + 1]];
        const share = cover(dx, s, dz);
        if (share === 0) continue;
        const own = isRamp ? rampAt(panel, asin(bounded(dot(axis, dx, s, dz)))) : null;
        const at = (y * width + x) * 3;
        for (let k = 0; k < 3; k++) {
          const light = own ? own[k] * plain[k] : plain[k] * gain;
          data[at + k] += panel.laid === 'added' ? light * share : (light - data[at + k]) * share;
        }
      }
    }
  }
  return picture;
}

/** How much brighter a panel of few pixels must be for them to give what it would. */
function correctionOf(
  panel: Panel,
  cover: Shape['cover'],
  { width, height }: SurroundPicture,
  across: Float64Array,
  reach: number,
): number {
  const pixel = (2 * Math.PI) / width;
  const least = Math.min(panel.height, panel.shape === 'band' ? Infinity : panel.width);
  if (least > FEW * pixel) return 1;
  let sum = 0;
  for (let y = 0; y < height; y++) {
    const latitude = (0.5 - (y + 0.5) / height) * Math.PI;
    if (Math.abs(latitude - panel.elevation) > reach) continue;
    const [s, c] = [sin(latitude), cos(latitude)];
    let row = 0;
    for (let x = 0; x < width; x++) row += cover(c * across[x * 2], s, c * across[x * 2 + 1]);
    sum += row * c;
  }
  const met = sum * pixel * (Math.PI / height);
  return met > 0 ? solidAngle(panel) / met : 1;
}
