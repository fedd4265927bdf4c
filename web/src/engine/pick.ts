/** What of a scene a ray meets first: parts by their boxes, then their triangles. */
import { Box3, Vector3, type Ray } from 'three';
import type { Part, RenderScene } from '@wemlox/core/scene/renderScene';

export interface Picked {
  part: Part;
  /** Where, metres. */
  point: number[];
}

/** Boxes of flat parts are given this thickness, metres: rounding must not let rays pass between their sides. */
const THIN = 1e-5;

type Parts = Pick<RenderScene, 'parts' | 'positions'>;

const a = new Vector3();
const b = new Vector3();
const c = new Vector3();
const met = new Vector3();

export class PartPicker {
  private readonly scene: Parts;
  private readonly boxes: Box3[];

  constructor(scene: Parts) {
    this.scene = scene;
    const p = scene.positions;
    this.boxes = scene.parts.map(({ firstTriangle, triangles }) => {
      const min = [Infinity, Infinity, Infinity];
      const max = [-Infinity, -Infinity, -Infinity];
      for (let i = firstTriangle * 9; i < (firstTriangle + triangles) * 9; i++) {
        const k = i % 3;
        if (p[i] < min[k]) min[k] = p[i];
        if (p[i] > max[k]) max[k] = p[i];
      }
      return new Box3(new Vector3(...min), new Vector3(...max)).expandByScalar(THIN);
    });
  }

  /** The nearest part along a ray; null where there is none. */
  nearest(ray: Ray): Picked | null {
    const { parts, positions: p } = this.scene;
    const before = parts.flatMap((part, i) => {
      if (this.boxes[i].containsPoint(ray.origin)) return [{ part, entry: 0 }];
      const at = ray.intersectBox(this.boxes[i], met);
      return at ? [{ part, entry: at.distanceToSquared(ray.origin) }] : [];
    });
    before.sort((x, y) => x.entry - y.entry);
    let least = Infinity;
    let found: Picked | null = null;
    for (const { part, entry } of before) {
      if (entry > least) break;
      for (let t = part.firstTriangle * 9; t < (part.firstTriangle + part.triangles) * 9; t += 9) {
        a.set(p[t], p[t + 1], p[t + 2]);
        b.set(p[t + 3], p[t + 4], p[t + 5]);
        c.set(p[t + 6], p[t + 7], p[t + 8]);
        if (!ray.intersectTriangle(a, b, c, false, met)) continue;
        const distance = met.distanceToSquared(ray.origin);
        if (distance >= least) continue;
        least = distance;
        found = { part, point: met.toArray() };
      }
    }
    return found;
  }
}
