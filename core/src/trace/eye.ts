/** Where primary rays start: the shot's camera, a small look at one letter, or the places of an unfolded one. */
import { NO_BYTE, type BounceLimits, type RenderScene } from '../scene/renderScene.ts';
import type { Unfolded } from '../scene/unfolded.ts';
import { cameraFrame } from '../stage/camera.ts';
import { lensRadius } from '../stage/lens.ts';
import { cos, sin } from '../maths/reproducible.ts';
import { composed, scaleOf } from '../scene/transform.ts';

type Vec = [number, number, number];

export interface Eye {
  width: number;
  height: number;
  orthographic: boolean;
  /** Rays that are followed in place of the eye's own: six floats a pixel, origin and direction. */
  rays?: Float32Array;
  origin: Vec;
  forward: Vec;
  /** Half the picture's width and height: tangents, or metres when orthographic. */
  right: Vec;
  up: Vec;
  /** How far the picture is shifted across and up, in its half widths and heights. */
  shift?: readonly [number, number];
  /** Opening that rays start from, met at the distance that is sharp; a point when there is none. Metres, radians. */
  lens?: { radius: number; focus: number; blades: number; turn: number };
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
  const { camera } = scene;
  const frame = cameraFrame(camera, width / height);
  return {
    width,
    height,
    orthographic: frame.parallel,
    shift: frame.shift,
    ...(camera.blurs && !frame.parallel
      ? {
          lens: {
            radius: lensRadius(camera),
            focus: camera.focus,
            blades: camera.blades < 3 ? 0 : camera.blades,
            turn: camera.blade_turn,
          },
        }
      : {}),
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

/** A ray starts this far before its surface, metres. */
const BEFORE = 1e-4;
/** Where no ray is followed, one that meets nothing stands in. */
const OUT = [0, -1e7, 0, 0, -1, 0] as const;

/** What the shot's camera sees of each place of a letter that lies unfolded, whatever stands before it. */
export function unfoldedEye(scene: RenderScene, { width, height, zones, surface }: Unfolded): Eye {
  const eye = shotEye(scene, width, height);
  const [ex, ey, ez] = eye.origin;
  const rays = new Float32Array(width * height * 6);
  for (let i = 0, at = 0; i < zones.length; i++, at += 6) {
    const [x, y, z] = [surface[at], surface[at + 1], surface[at + 2]];
    const [dx, dy, dz] = [x - ex, y - ey, z - ez];
    const away = dx * surface[at + 3] + dy * surface[at + 4] + dz * surface[at + 5] >= 0;
    if (zones[i] === NO_BYTE || away) {
      rays.set(OUT, at);
      continue;
    }
    const l = Math.sqrt(dx * dx + dy * dy + dz * dz);
    const back = BEFORE / l;
    rays.set([x - dx * back, y - dy * back, z - dz * back, dx / l, dy / l, dz / l], at);
  }
  return {
    ...eye,
    rays,
    visible: new Uint8Array(scene.parts.count).fill(1),
    bounces: Math.min(4, scene.bounces),
  };
}

/** From where a letter is seen by itself: azimuth and elevation in radians, in the block's own frame. */
const SIGHT = [-0.5, 0.22] as const;

/**
 * A close look at one letter.
 * @param dress finish number to show on the whole letter, or −1 for what it wears
 * @returns null when the letter is not in the scene
 */
export function cellEye(
  scene: RenderScene,
  block: string,
  letter: string,
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
  const shown = Uint8Array.from(own, (is) => (is ? 1 : 0));
  const instance = parts.instance[some];
  const m = composed(placements.now, instances.placement[instance], instances.rest, instance);
  const unit = scaleOf(m);
  /** Along the reading direction, and out of the front. */
  const r: Vec = [m[0] / unit, m[4] / unit, m[8] / unit];
  const o: Vec = [m[2] / unit, m[6] / unit, m[10] / unit];
  const [azimuth, elevation] = SIGHT;
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
  const fit = 1.04 * (range[1] - range[0]);
  const tall = 1.04 * (range[3] - range[2]);
  const halfWidth = Math.max(fit, (tall * width) / height) / 2;
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
