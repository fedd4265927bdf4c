/** Environments painted by code: a backdrop by elevation and panels of light laid over it. */
import { exp, cos, sin } from '../maths/reproducible.ts';
import { directionAt, type SurroundPicture } from './surround.ts';

type Rgb = readonly [number, number, number];
const DEG = Math.PI / 180;

/** A stop of the backdrop: elevation in degrees and colour in nits. */
type Stop = readonly [number, Rgb];

/** A panel: azimuth (0 towards the camera's side, growing to the right), elevation, size in degrees. */
interface Panel {
  azimuth: number;
  elevation: number;
  width: number;
  height: number;
  /** Width of the soft edge, degrees. */
  edge: number;
  colour: Rgb;
}

interface Painting {
  id: string;
  name: string;
  backdrop: readonly Stop[];
  panels: readonly Panel[];
  /** Ripple of the backdrop's lower half, 0 … 1. */
  ripple?: number;
}

const panel = (
  azimuth: number,
  elevation: number,
  width: number,
  height: number,
  edge: number,
  colour: Rgb,
): Panel => ({ azimuth, elevation, width, height, edge, colour });

export const PAINTED_SURROUNDS: readonly Painting[] = [
  {
    id: 'wheelhouse-dusk',
    name: 'Wheelhouse dusk',
    backdrop: [
      [-90, [0.02, 0.022, 0.03]],
      [-30, [0.05, 0.05, 0.065]],
      [-1.5, [0.16, 0.13, 0.15]],
      [-0.5, [0.1, 0.08, 0.09]],
      [0.3, [3.2, 1.5, 0.62]],
      [5, [1.9, 0.95, 0.62]],
      [16, [0.72, 0.5, 0.58]],
      [38, [0.28, 0.26, 0.42]],
      [90, [0.09, 0.11, 0.24]],
    ],
    panels: [
      panel(-28, 34, 46, 7, 1.5, [7, 6.6, 6]),
      panel(62, 20, 9, 34, 2, [4.2, 4.6, 5.4]),
      panel(-96, 24, 12, 46, 3, [2.6, 3, 4.2]),
      panel(160, 42, 60, 6, 1.5, [3.4, 3.2, 3]),
    ],
    ripple: 0.35,
  },
  {
    id: 'dry-dock',
    name: 'Dry dock',
    backdrop: [
      [-90, [0.12, 0.115, 0.105]],
      [-8, [0.3, 0.29, 0.27]],
      [-0.5, [0.2, 0.2, 0.2]],
      [0.5, [1.2, 1.25, 1.3]],
      [30, [1.5, 1.62, 1.78]],
      [90, [2.3, 2.5, 2.8]],
    ],
    panels: [
      panel(-118, 6, 86, 26, 1, [0.1, 0.1, 0.11]),
      panel(118, 4, 70, 22, 1, [0.12, 0.11, 0.1]),
      panel(20, 58, 60, 12, 4, [6, 6.2, 6.6]),
    ],
  },
  {
    id: 'engine-room',
    name: 'Engine room',
    backdrop: [
      [-90, [0.03, 0.025, 0.02]],
      [0, [0.1, 0.07, 0.05]],
      [90, [0.04, 0.045, 0.05]],
    ],
    panels: [
      panel(-40, 46, 60, 3, 0.4, [13, 9.2, 5]),
      panel(-40, 58, 60, 3, 0.4, [13, 9.2, 5]),
      panel(48, 28, 4, 50, 0.5, [3.2, 7.4, 6.4]),
      panel(150, 20, 30, 12, 2, [6, 2.2, 0.8]),
      panel(-130, -6, 18, 18, 3, [3.6, 0.7, 0.3]),
    ],
  },
  {
    id: 'snow-pier',
    name: 'Snow pier',
    backdrop: [
      [-90, [1.3, 1.34, 1.42]],
      [-4, [1.7, 1.74, 1.84]],
      [0, [0.9, 0.95, 1.05]],
      [4, [1.1, 1.2, 1.36]],
      [50, [0.95, 1.15, 1.5]],
      [90, [0.7, 0.92, 1.4]],
    ],
    panels: [panel(-58, 24, 5, 5, 1.2, [160, 142, 118]), panel(-58, 24, 36, 30, 14, [1.8, 1.6, 1.35])],
  },
  {
    id: 'lamp-studio',
    name: 'Lamp studio',
    backdrop: [
      [-90, [0.03, 0.03, 0.03]],
      [-20, [0.06, 0.06, 0.06]],
      [10, [0.12, 0.12, 0.12]],
      [90, [0.05, 0.05, 0.05]],
    ],
    panels: [
      panel(-34, 30, 34, 40, 5, [5.4, 5.4, 5.4]),
      panel(52, 18, 12, 64, 3, [3.6, 3.6, 3.6]),
      panel(0, 76, 70, 26, 6, [3, 3, 3]),
      panel(180, 24, 90, 10, 3, [2.4, 2.4, 2.4]),
      panel(0, -16, 80, 5, 1.5, [1.6, 1.6, 1.6]),
    ],
  },
  {
    id: 'banded-horizon',
    name: 'Banded horizon',
    backdrop: [
      [-90, [0.42, 0.3, 0.19]],
      [-40, [0.3, 0.2, 0.12]],
      [-0.4, [0.012, 0.01, 0.01]],
      [0.4, [2.6, 2.55, 2.45]],
      [9, [1.9, 2, 2.2]],
      [34, [0.3, 0.55, 1.1]],
      [90, [0.03, 0.09, 0.34]],
    ],
    panels: [],
  },
  {
    id: 'night-bands',
    name: 'Night bands',
    backdrop: [
      [-90, [0.004, 0.004, 0.008]],
      [-25.2, [0.01, 0.008, 0.02]],
      [-24, [0.5, 0.06, 0.42]],
      [-21, [0.9, 0.1, 0.7]],
      [-19.8, [0.008, 0.006, 0.015]],
      [5, [0.006, 0.008, 0.018]],
      [6.2, [0.1, 1.5, 1.9]],
      [9, [0.2, 2.2, 2.6]],
      [10.2, [0.006, 0.008, 0.02]],
      [37, [0.005, 0.006, 0.016]],
      [38.2, [0.9, 0.7, 2.6]],
      [41, [0.6, 0.5, 2.1]],
      [42.2, [0.004, 0.004, 0.012]],
      [90, [0.003, 0.003, 0.01]],
    ],
    panels: [],
  },
  {
    id: 'strip-hall',
    name: 'Strip hall',
    backdrop: [
      [-90, [0.012, 0.012, 0.013]],
      [0, [0.025, 0.025, 0.027]],
      [90, [0.012, 0.012, 0.013]],
    ],
    panels: [-150, -100, -52, -16, 20, 58, 108, 160].map((azimuth, i) =>
      panel(azimuth, 12, i % 3 === 1 ? 9 : 3, 78, 0.5, i % 2 ? [4.4, 4.3, 4.1] : [3.2, 3.4, 3.8]),
    ),
  },
  {
    id: 'overcast-quay',
    name: 'Overcast quay',
    backdrop: [
      [-90, [0.2, 0.19, 0.18]],
      [-6, [0.34, 0.33, 0.32]],
      [-0.6, [0.24, 0.24, 0.25]],
      [1.5, [0.85, 0.88, 0.92]],
      [40, [1.25, 1.3, 1.36]],
      [90, [1.7, 1.76, 1.84]],
    ],
    panels: [panel(-64, 8, 70, 17, 1.2, [0.12, 0.12, 0.13]), panel(36, 5, 24, 11, 0.8, [0.16, 0.13, 0.11])],
    ripple: 0.12,
  },
  {
    id: 'furnace-door',
    name: 'Furnace door',
    backdrop: [
      [-90, [0.05, 0.024, 0.012]],
      [-10, [0.09, 0.04, 0.018]],
      [20, [0.03, 0.016, 0.012]],
      [90, [0.006, 0.006, 0.008]],
    ],
    panels: [
      panel(-22, -4, 26, 20, 2, [26, 9.5, 1.9]),
      panel(-22, -4, 60, 52, 26, [1.1, 0.34, 0.07]),
      panel(84, 46, 40, 4, 1, [1.2, 1.5, 2.1]),
    ],
  },
  {
    id: 'port-and-starboard',
    name: 'Port and starboard',
    backdrop: [
      [-90, [0.006, 0.008, 0.012]],
      [-1, [0.014, 0.018, 0.026]],
      [1, [0.03, 0.04, 0.06]],
      [90, [0.008, 0.012, 0.024]],
    ],
    panels: [
      panel(-68, 14, 22, 60, 7, [5.4, 0.35, 0.22]),
      panel(68, 14, 22, 60, 7, [0.2, 3.9, 1.1]),
      panel(0, 62, 50, 12, 4, [1.5, 1.5, 1.6]),
    ],
    ripple: 0.3,
  },
  {
    id: 'porthole-row',
    name: 'Porthole row',
    backdrop: [
      [-90, [0.09, 0.075, 0.06]],
      [0, [0.16, 0.13, 0.1]],
      [50, [0.11, 0.095, 0.08]],
      [90, [0.05, 0.045, 0.04]],
    ],
    panels: [
      ...[-160, -128, -96, -64, -32, 0, 32, 64, 96, 128, 160].map((azimuth) =>
        panel(azimuth, 17, 13, 13, 2.2, [3.6, 4.2, 5]),
      ),
      panel(0, 74, 90, 8, 2, [3, 2.3, 1.4]),
    ],
  },
];

function backdropAt(stops: readonly Stop[], elevation: number): [number, number, number] {
  let i = 1;
  while (i < stops.length - 1 && stops[i][0] < elevation) i++;
  const [a, b] = [stops[i - 1], stops[i]];
  const t = Math.min(1, Math.max(0, (elevation - a[0]) / (b[0] - a[0])));
  return [0, 1, 2].map((c) => a[1][c] + (b[1][c] - a[1][c]) * t) as [number, number, number];
}

const smooth = (t: number) => (t <= 0 ? 0 : t >= 1 ? 1 : t * t * (3 - 2 * t));

/** Cover of a panel at a direction: 1 inside, falling to 0 across its soft edge. */
function panelCover(frame: PanelFrame, x: number, y: number, z: number): number {
  const depth = x * frame.n[0] + y * frame.n[1] + z * frame.n[2];
  if (depth <= 0) return 0;
  const across = Math.abs((x * frame.r[0] + z * frame.r[2]) / depth);
  const up = Math.abs((x * frame.u[0] + y * frame.u[1] + z * frame.u[2]) / depth);
  return (
    smooth((frame.halfWidth - across) / frame.edge + 0.5) * smooth((frame.halfHeight - up) / frame.edge + 0.5)
  );
}

interface PanelFrame {
  n: Rgb;
  r: Rgb;
  u: Rgb;
  halfWidth: number;
  halfHeight: number;
  edge: number;
  colour: Rgb;
}

function frameOf(p: Panel): PanelFrame {
  const [a, e] = [p.azimuth * DEG, p.elevation * DEG];
  const n: Rgb = [cos(e) * sin(a), sin(e), cos(e) * cos(a)];
  const r: Rgb = [cos(a), 0, -sin(a)];
  const u: Rgb = [-sin(e) * sin(a), cos(e), -sin(e) * cos(a)];
  const half = (degrees: number) => sin((degrees / 2) * DEG) / cos((degrees / 2) * DEG);
  return {
    n,
    r,
    u,
    halfWidth: half(p.width),
    halfHeight: half(p.height),
    edge: Math.max(1e-4, p.edge * DEG),
    colour: p.colour,
  };
}

/**
 * Paints an environment.
 * @param width pixels round the horizon; the height is half of it
 * @throws RangeError for a name that is not among PAINTED_SURROUNDS
 */
export function paintSurround(id: string, width = 1024): SurroundPicture {
  const painting = PAINTED_SURROUNDS.find((p) => p.id === id);
  if (!painting) throw new RangeError(`no painted surround ${id}`);
  const height = width / 2;
  const data = new Float32Array(width * height * 3);
  const frames = painting.panels.map(frameOf);
  for (let row = 0; row < height; row++) {
    const v = (row + 0.5) / height;
    const elevation = (0.5 - v) * 180;
    const base = backdropAt(painting.backdrop, elevation);
    for (let column = 0; column < width; column++) {
      const [x, y, z] = directionAt((column + 0.5) / width, v);
      let [r, g, b] = base;
      if (painting.ripple && y < 0) {
        const wave = 1 + painting.ripple * sin(90 * exp(2 * y) + 3 * sin(7 * x + 5 * z)) * exp(6 * y);
        r *= wave;
        g *= wave;
        b *= wave;
      }
      for (const frame of frames) {
        const cover = panelCover(frame, x, y, z);
        if (cover === 0) continue;
        r += (frame.colour[0] - r) * cover;
        g += (frame.colour[1] - g) * cover;
        b += (frame.colour[2] - b) * cover;
      }
      data.set([r, g, b], (row * width + column) * 3);
    }
  }
  return { width, height, data };
}
