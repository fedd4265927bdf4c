/** What of a scene a ray meets first: parts by their boxes, then their triangles. */
import { Box3, Vector3, type Ray } from 'three';
import { ZONES, type Zone } from '@wemlox/core/document';
import type { FlatScene } from '@wemlox/core/scene/flatScene';
import type { RenderScene, Thing } from '@wemlox/core/scene/renderScene';

export interface Picked extends Thing {
  zone: Zone | null;
  /** Where, metres. */
  point: number[];
}

/** Boxes of flat parts are given this thickness, metres: rounding must not let rays pass between their sides. */
const THIN = 1e-5;

export interface PickedIn {
  scene: Pick<RenderScene, 'parts' | 'things'>;
  flat: Pick<FlatScene, 'positions' | 'first'>;
}

const a = new Vector3();
const b = new Vector3();
const c = new Vector3();
const met = new Vector3();

export class PartPicker {
  private readonly of: PickedIn;
  private readonly boxes: Box3[];

  constructor(of: PickedIn) {
    this.of = of;
    const { parts } = of.scene;
    const { positions: p, first } = of.flat;
    this.boxes = Array.from({ length: parts.count }, (_, part) => {
      const min = [Infinity, Infinity, Infinity];
      const max = [-Infinity, -Infinity, -Infinity];
      for (let i = first[part] * 9; i < (first[part] + parts.triangles[part]) * 9; i++) {
        const k = i % 3;
        if (p[i] < min[k]) min[k] = p[i];
        if (p[i] > max[k]) max[k] = p[i];
      }
      return new Box3(new Vector3(...min), new Vector3(...max)).expandByScalar(THIN);
    });
  }

  /** The nearest part along a ray; null where there is none. */
  nearest(ray: Ray): Picked | null {
    const { parts, things } = this.of.scene;
    const { positions: p, first } = this.of.flat;
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
      for (let t = first[part] * 9; t < (first[part] + parts.triangles[part]) * 9; t += 9) {
        a.set(p[t], p[t + 1], p[t + 2]);
        b.set(p[t + 3], p[t + 4], p[t + 5]);
        c.set(p[t + 6], p[t + 7], p[t + 8]);
        if (!ray.intersectTriangle(a, b, c, false, met)) continue;
        const distance = met.distanceToSquared(ray.origin);
        if (distance >= least) continue;
        least = distance;
        found = {
          ...things[parts.thing[part]],
          zone: ZONES[parts.zone[part]] ?? null,
          point: met.toArray(),
        };
      }
    }
    return found;
  }

  /** Bounds of a letter; null when it is not there. */
  boxOf(
    block: string,
    letter: string,
  ): { min: [number, number, number]; max: [number, number, number] } | null {
    const { parts, things } = this.of.scene;
    const box = new Box3();
    for (const [part, own] of this.boxes.entries()) {
      const thing = things[parts.thing[part]];
      if (thing.block === block && thing.letter === letter) box.union(own);
    }
    return box.isEmpty() ? null : { min: box.min.toArray(), max: box.max.toArray() };
  }
}
