/** What of a scene a ray meets first: parts by their boxes, then runs of their triangles by theirs. */
import { Box3, Matrix4, Triangle, Vector3, type Ray } from 'three';
import { ZONES, type Zone } from '@wemlox/core/document';
import type { RenderScene, SceneSolid, Thing } from '@wemlox/core/scene/renderScene';
import { boxOf as boxed, RUN } from '@wemlox/core/scene/runs';
import { composed } from '@wemlox/core/scene/transform';

export interface Picked extends Thing {
  zone: Zone | null;
  /** Where, metres, and the face's outward direction there. */
  point: number[];
  normal: number[];
  /** What it wears, a place in the scene's finishes. */
  finish: number;
  /** Number of its instance in the scene, and where it lies in the plane that pictures are laid in, in the solid's unit. */
  instance: number;
  laid: [number, number];
}

/** Boxes of flat parts are given this thickness, metres: rounding must not let rays pass between their sides. */
const THIN = 1e-5;
/** Rays pass so close beside a triangle's edge, in shares of its sides, and still meet it: neighbours leave no gap. */
const EDGE = 1e-7;

export type PickedIn = Pick<RenderScene, 'parts' | 'things' | 'instances' | 'placements' | 'solids'>;

type Rows = [number, number, number, number, number, number, number, number, number, number, number, number];

const a = new Vector3();
const b = new Vector3();
const c = new Vector3();
const met = new Vector3();
const weights = new Vector3();
const leaning = new Vector3();
const ends = new Float32Array(6);

/** A ray in a solid's own unit; its parameter is the one of the ray in the world. */
const own = { ox: 0, oy: 0, oz: 0, dx: 0, dy: 0, dz: 0 };

function enter({ origin: o, direction: d }: Ray, { elements: m }: Matrix4): void {
  own.ox = m[0] * o.x + m[4] * o.y + m[8] * o.z + m[12];
  own.oy = m[1] * o.x + m[5] * o.y + m[9] * o.z + m[13];
  own.oz = m[2] * o.x + m[6] * o.y + m[10] * o.z + m[14];
  own.dx = m[0] * d.x + m[4] * d.y + m[8] * d.z;
  own.dy = m[1] * d.x + m[5] * d.y + m[9] * d.z;
  own.dz = m[2] * d.x + m[6] * d.y + m[10] * d.z;
}

/** Whether the ray passes a box before `far`, its sides let out by rounding (the slab test). */
function passes(boxes: Float32Array, at: number, far: number): boolean {
  let [near, end] = [0, far];
  for (let k = 0; k < 3; k++) {
    const [o, d] = k === 0 ? [own.ox, own.dx] : k === 1 ? [own.oy, own.dy] : [own.oz, own.dz];
    const [low, high] = [boxes[at + k], boxes[at + 3 + k]];
    const slack = (Math.abs(low) + Math.abs(high)) * 1e-6 + 1e-9;
    if (d === 0) {
      if (o < low - slack || o > high + slack) return false;
      continue;
    }
    const [s, t] = [(low - slack - o) / d, (high + slack - o) / d];
    near = Math.max(near, Math.min(s, t));
    end = Math.min(end, Math.max(s, t));
    if (near > end) return false;
  }
  return true;
}

/** Where along the ray a triangle is met, from either side; Infinity where it is not (Möller and Trumbore 1997). */
function metAt(p: Float32Array, t: number): number {
  const [ax, ay, az] = [p[t], p[t + 1], p[t + 2]];
  const [ux, uy, uz] = [p[t + 3] - ax, p[t + 4] - ay, p[t + 5] - az];
  const [vx, vy, vz] = [p[t + 6] - ax, p[t + 7] - ay, p[t + 8] - az];
  const [px, py, pz] = [own.dy * vz - own.dz * vy, own.dz * vx - own.dx * vz, own.dx * vy - own.dy * vx];
  const size = ux * px + uy * py + uz * pz;
  if (size === 0) return Infinity;
  const [sx, sy, sz] = [own.ox - ax, own.oy - ay, own.oz - az];
  const u = (sx * px + sy * py + sz * pz) / size;
  if (u < -EDGE || u > 1 + EDGE) return Infinity;
  const [qx, qy, qz] = [sy * uz - sz * uy, sz * ux - sx * uz, sx * uy - sy * ux];
  const v = (own.dx * qx + own.dy * qy + own.dz * qz) / size;
  if (v < -EDGE || u + v > 1 + EDGE) return Infinity;
  const at = (vx * qx + vy * qy + vz * qz) / size;
  return at >= 0 ? at : Infinity;
}

/** Where `met` lies in the plane that pictures are laid in, by the weights at hand. @param t first of its nine numbers */
function laidAt({ uv }: SceneSolid, t: number): [number, number] {
  const corner = (t / 3) * 4;
  const [u, v] = [2, 3].map((axis) =>
    [weights.x, weights.y, weights.z].reduce((sum, w, k) => sum + w * uv[corner + k * 4 + axis], 0),
  );
  return [u, v];
}

/** The shading normal of a triangle's place, by the weights at hand. @param t first of its nine numbers */
function normalAt({ normals }: SceneSolid, t: number, world: Matrix4): number[] {
  leaning.set(0, 0, 0);
  [weights.x, weights.y, weights.z].forEach((weight, k) => {
    for (let axis = 0; axis < 3; axis++)
      leaning.setComponent(axis, leaning.getComponent(axis) + weight * normals[t + k * 3 + axis]);
  });
  return leaning.transformDirection(world).toArray();
}

export class PartPicker {
  private readonly of: PickedIn;
  /** From each instance's solid into the world, and back. */
  private readonly worlds: Matrix4[];
  private readonly inward: Matrix4[];
  private readonly boxes: Box3[];
  private readonly runs: readonly Float32Array[];

  /** @param runs of each solid, as the core makes them */
  constructor(of: PickedIn, runs: readonly Float32Array[]) {
    this.of = of;
    this.runs = runs;
    const { parts, instances, placements } = of;
    this.worlds = Array.from({ length: instances.count }, (_, i) => {
      const m = composed(placements.now, instances.placement[i], instances.local, i);
      return new Matrix4().set(...(Array.from(m) as Rows), 0, 0, 0, 1);
    });
    this.inward = this.worlds.map((world) => world.clone().invert());
    this.boxes = Array.from({ length: parts.count }, (_, part) =>
      this.partBox(part).applyMatrix4(this.worlds[parts.instance[part]]).expandByScalar(THIN),
    );
  }

  /** The box of a part in its solid's unit: of the runs it has whole, and of the triangles at its ends. */
  private partBox(part: number): Box3 {
    const { parts, instances, solids } = this.of;
    const solid = instances.solid[parts.instance[part]];
    const { positions } = solids[solid];
    const runs = this.runs[solid];
    const first = parts.first[part];
    const last = first + parts.triangles[part];
    const box = new Box3();
    const join = (of: Float32Array, at: number) => {
      box.min.min(a.fromArray(of, at));
      box.max.max(b.fromArray(of, at + 3));
    };
    for (let run = Math.floor(first / RUN); run * RUN < last; run++) {
      if (run * RUN >= first && (run + 1) * RUN <= last) {
        join(runs, run * 6);
        continue;
      }
      boxed(positions, Math.max(first, run * RUN), Math.min(last, (run + 1) * RUN), ends, 0);
      join(ends, 0);
    }
    return box;
  }

  /** The nearest part along a ray; null where there is none. */
  nearest(ray: Ray): Picked | null {
    const { parts, instances, solids } = this.of;
    const before = this.boxes.flatMap((box, part) => {
      if (box.containsPoint(ray.origin)) return [{ part, entry: 0 }];
      const at = ray.intersectBox(box, met);
      return at ? [{ part, entry: at.distanceTo(ray.origin) }] : [];
    });
    before.sort((x, y) => x.entry - y.entry);
    const length = ray.direction.length();
    let far = Infinity;
    let found: { part: number; t: number } | null = null;
    for (const { part, entry } of before) {
      if (entry > far * length) break;
      const instance = parts.instance[part];
      const { positions } = solids[instances.solid[instance]];
      enter(ray, this.inward[instance]);
      const boxes = this.runs[instances.solid[instance]];
      const first = parts.first[part];
      const last = first + parts.triangles[part];
      for (let run = Math.floor(first / RUN); run * RUN < last; run++) {
        if (!passes(boxes, run * 6, far)) continue;
        const end = Math.min(last, (run + 1) * RUN) * 9;
        for (let t = Math.max(first, run * RUN) * 9; t < end; t += 9) {
          const at = metAt(positions, t);
          if (at >= far) continue;
          far = at;
          found = { part, t };
        }
      }
    }
    return found && this.told(ray, far, found.part, found.t);
  }

  /** @param at along the ray @param t first of the nine numbers of the triangle that is met */
  private told(ray: Ray, at: number, part: number, t: number): Picked {
    const { parts, things, instances, solids } = this.of;
    const instance = parts.instance[part];
    const world = this.worlds[instance];
    const solid = solids[instances.solid[instance]];
    const { positions: p } = solid;
    a.set(p[t], p[t + 1], p[t + 2]).applyMatrix4(world);
    b.set(p[t + 3], p[t + 4], p[t + 5]).applyMatrix4(world);
    c.set(p[t + 6], p[t + 7], p[t + 8]).applyMatrix4(world);
    met.copy(ray.direction).multiplyScalar(at).add(ray.origin);
    Triangle.getBarycoord(met, a, b, c, weights);
    return {
      ...things[parts.thing[part]],
      zone: ZONES[parts.zone[part]] ?? null,
      point: met.toArray(),
      normal: normalAt(solid, t, world),
      finish: parts.finish[part],
      instance,
      laid: laidAt(solid, t),
    };
  }

  /** Bounds of a letter, or of its whole block where it is null; null when it is not there. */
  boxOf(
    block: string,
    letter: string | null,
  ): { min: [number, number, number]; max: [number, number, number] } | null {
    const { parts, things } = this.of;
    const box = new Box3();
    for (const [part, own] of this.boxes.entries()) {
      const thing = things[parts.thing[part]];
      if (thing.block === block && (letter === null || thing.letter === letter)) box.union(own);
    }
    return box.isEmpty() ? null : { min: box.min.toArray(), max: box.max.toArray() };
  }
}
