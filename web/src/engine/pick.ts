/** What of a scene a ray meets first: parts by their boxes, then their triangles. */
import { Box3, Matrix4, Triangle, Vector3, type Ray } from 'three';
import { ZONES, type Zone } from '@wemlox/core/document';
import type { RenderScene, SceneSolid, Thing } from '@wemlox/core/scene/renderScene';
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

export type PickedIn = Pick<RenderScene, 'parts' | 'things' | 'instances' | 'placements' | 'solids'>;

type Rows = [number, number, number, number, number, number, number, number, number, number, number, number];

const a = new Vector3();
const b = new Vector3();
const c = new Vector3();
const met = new Vector3();

const weights = new Vector3();
const leaning = new Vector3();

/** Where `met` lies in the plane that pictures are laid in, by the weights at hand. @param t first of its nine numbers */
function laidAt({ uv }: SceneSolid, t: number): [number, number] {
  const corner = (t / 3) * 4;
  const [u, v] = [2, 3].map((axis) =>
    [weights.x, weights.y, weights.z].reduce((sum, w, k) => sum + w * uv[corner + k * 4 + axis], 0),
  );
  return [u, v];
}

/** The shading normal of a triangle's place: of `met`, on the corners at hand. @param t first of its nine numbers */
function normalAt({ normals }: SceneSolid, t: number, world: Matrix4): number[] {
  Triangle.getBarycoord(met, a, b, c, weights);
  leaning.set(0, 0, 0);
  [weights.x, weights.y, weights.z].forEach((weight, k) => {
    for (let axis = 0; axis < 3; axis++)
      leaning.setComponent(axis, leaning.getComponent(axis) + weight * normals[t + k * 3 + axis]);
  });
  return leaning.transformDirection(world).toArray();
}

export class PartPicker {
  private readonly of: PickedIn;
  /** From each instance's solid into the world. */
  private readonly worlds: Matrix4[];
  private readonly boxes: Box3[];

  constructor(of: PickedIn) {
    this.of = of;
    const { parts, instances, placements, solids } = of;
    this.worlds = Array.from({ length: instances.count }, (_, i) => {
      const m = composed(placements.now, instances.placement[i], instances.local, i);
      return new Matrix4().set(...(Array.from(m) as Rows), 0, 0, 0, 1);
    });
    this.boxes = Array.from({ length: parts.count }, (_, part) => {
      const { positions: p } = solids[instances.solid[parts.instance[part]]];
      const box = new Box3();
      const first = parts.first[part] * 9;
      for (let i = first; i < first + parts.triangles[part] * 9; i += 3)
        box.expandByPoint(a.set(p[i], p[i + 1], p[i + 2]));
      return box.applyMatrix4(this.worlds[parts.instance[part]]).expandByScalar(THIN);
    });
  }

  /** The nearest part along a ray; null where there is none. */
  nearest(ray: Ray): Picked | null {
    const { parts, things, instances, solids } = this.of;
    const before = this.boxes.flatMap((box, part) => {
      if (box.containsPoint(ray.origin)) return [{ part, entry: 0 }];
      const at = ray.intersectBox(box, met);
      return at ? [{ part, entry: at.distanceToSquared(ray.origin) }] : [];
    });
    before.sort((x, y) => x.entry - y.entry);
    let least = Infinity;
    let found: Picked | null = null;
    for (const { part, entry } of before) {
      if (entry > least) break;
      const instance = parts.instance[part];
      const world = this.worlds[instance];
      const { positions: p } = solids[instances.solid[instance]];
      const first = parts.first[part] * 9;
      for (let t = first; t < first + parts.triangles[part] * 9; t += 9) {
        a.set(p[t], p[t + 1], p[t + 2]).applyMatrix4(world);
        b.set(p[t + 3], p[t + 4], p[t + 5]).applyMatrix4(world);
        c.set(p[t + 6], p[t + 7], p[t + 8]).applyMatrix4(world);
        if (!ray.intersectTriangle(a, b, c, false, met)) continue;
        const distance = met.distanceToSquared(ray.origin);
        if (distance >= least) continue;
        least = distance;
        found = {
          ...things[parts.thing[part]],
          zone: ZONES[parts.zone[part]] ?? null,
          point: met.toArray(),
          normal: normalAt(solids[instances.solid[instance]], t, world),
          finish: parts.finish[part],
          instance,
          laid: laidAt(solids[instances.solid[instance]], t),
        };
      }
    }
    return found;
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
