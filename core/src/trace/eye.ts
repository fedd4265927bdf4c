/** Where primary rays start: the shot's camera, or a small orthographic look at one zone of one letter. */
import type { BounceLimits, RenderScene } from '../scene/renderScene.ts';
import { cameraFrame } from '../stage/camera.ts';
import { cos, sin } from '../maths/reproducible.ts';
import { ZONES, type Zone } from '../document/index.ts';
import { composed, scaleOf } from '../scene/transform.ts';

type Vec = [number, number, number];

export interface Eye {
  width: number;
  height: number;
  orthographic: boolean;
  origin: Vec;
  forward: Vec;
  /** Half the picture's width and height: tangents, or metres when orthographic. */
  right: Vec;
  up: Vec;
  /** Parts that primary rays see (1) or pass through (0); all when null. */
  visible: Uint8Array | null;
  /** Parts whose finish is replaced, as finish numbers (−1: kept); none when null. */
  dress: Int32Array | null;
  bounces: number;
  /** Bounces of each kind after which surfaces are still shaded; none when null. */
  limits: BounceLimits | null;
}

const scaled = (v: Vec, s: number): Vec => [v[0] * s, v[1] * s, v[2] * s];

/** The shot's own view. */
export function shotEye(scene: RenderScene, width: number, height: number): Eye {
  const frame = cameraFrame(scene.camera, width / height);
  return {
    width,
    height,
    orthographic: false,
    origin: frame.position,
    forward: frame.forward,
    right: scaled(frame.right, frame.halfWidth),
    up: scaled(frame.up, frame.halfHeight),
    visible: null,
    dress: null,
    bounces: scene.bounces,
    limits: scene.limits,
  };
}

/** From where each zone is best seen: azimuth and elevation in radians, in the block's own frame. */
const SIGHT: Record<Zone, [number, number]> = {
  front: [0, 0],
  frontBevel: [-0.55, 0.5],
  side: [-1.05, 0.45],
  backBevel: [Math.PI + 0.55, 0.5],
  back: [Math.PI, 0],
  glass: [-0.4, 0.3],
  gas: [-0.4, 0.3],
  electrode: [-0.4, 0.3],
  paintOut: [-0.4, 0.3],
  standOff: [-1.05, 0.45],
  strip: [-0.4, 0.3],
  points: [-0.4, 0.3],
};

/**
 * A close look at one zone of one letter, as wide as the letter.
 * @param dress finish number to show on the whole letter, or −1 for what it wears
 * @returns null when the letter is not in the scene
 */
export function cellEye(
  scene: RenderScene,
  block: string,
  letter: string,
  zone: Zone | null,
  dress: number,
  width: number,
  height: number,
): Eye | null {
  const { parts, things, placements, instances, solids } = scene;
  const all = Array.from({ length: parts.count }, (_, i) => i);
  const own = all.map((i) => {
    const thing = things[parts.thing[i]];
    return thing.block === block && thing.letter === letter;
  });
  const some = own.indexOf(true);
  if (some < 0) return null;
  const shown = Uint8Array.from(all, (i) =>
    own[i] && (zone === null || ZONES[parts.zone[i]] === zone) ? 1 : 0,
  );
  const instance = parts.instance[some];
  const m = composed(placements.now, instances.placement[instance], instances.local, instance);
  const unit = scaleOf(m);
  /** Along the reading direction, and out of the front. */
  const r: Vec = [m[0] / unit, m[4] / unit, m[8] / unit];
  const o: Vec = [m[2] / unit, m[6] / unit, m[10] / unit];
  const [azimuth, elevation] = zone === null ? ([-0.5, 0.22] as const) : SIGHT[zone];
  const ce = cos(elevation);
  const [sa, ca] = [sin(azimuth), cos(azimuth)];
  const away: Vec = [ce * (o[0] * ca + r[0] * sa), sin(elevation), ce * (o[2] * ca + r[2] * sa)];
  const right: Vec = [r[0] * ca - o[0] * sa, 0, r[2] * ca - o[2] * sa];
  const up: Vec = [
    away[1] * right[2] - away[2] * right[1],
    away[2] * right[0] - away[0] * right[2],
    away[0] * right[1] - away[1] * right[0],
  ];
  const dot = (v: Vec, x: number, y: number, z: number) => v[0] * x + v[1] * y + v[2] * z;
  const range = [Infinity, -Infinity, Infinity, -Infinity, -Infinity];
  for (const i of all) {
    if (!shown[i]) continue;
    const own = parts.instance[i];
    const world = composed(placements.now, instances.placement[own], instances.local, own);
    const { positions } = solids[instances.solid[own]];
    for (let at = parts.first[i] * 9; at < (parts.first[i] + parts.triangles[i]) * 9; at += 3) {
      const [px, py, pz] = [positions[at], positions[at + 1], positions[at + 2]];
      const x = world[0] * px + world[1] * py + world[2] * pz + world[3];
      const y = world[4] * px + world[5] * py + world[6] * pz + world[7];
      const z = world[8] * px + world[9] * py + world[10] * pz + world[11];
      const a = dot(right, x, y, z);
      const b = dot(up, x, y, z);
      range[0] = Math.min(range[0], a);
      range[1] = Math.max(range[1], a);
      range[2] = Math.min(range[2], b);
      range[3] = Math.max(range[3], b);
      range[4] = Math.max(range[4], dot(away, x, y, z));
    }
  }
  if (!(range[1] > range[0])) return null;
  // whole letters fit, zones fill the cell's width
  const fit = 1.04 * (range[1] - range[0]);
  const tall = 1.04 * (range[3] - range[2]);
  const halfWidth = (zone === null ? Math.max(fit, (tall * width) / height) : fit) / 2;
  const halfHeight = (halfWidth * height) / width;
  const [a, b] = [(range[0] + range[1]) / 2, (range[2] + range[3]) / 2];
  const far = range[4] + 0.01;
  return {
    width,
    height,
    orthographic: true,
    origin: [0, 1, 2].map((i) => right[i] * a + up[i] * b + away[i] * far) as Vec,
    forward: scaled(away, -1),
    right: scaled(right, halfWidth),
    up: scaled(up, halfHeight),
    visible: shown,
    dress: dress < 0 ? null : Int32Array.from(all, (i) => (own[i] ? dress : -1)),
    bounces: Math.min(4, scene.bounces),
    limits: scene.limits,
  };
}
