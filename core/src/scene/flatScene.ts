/** A scene's triangles in the world, one after the other: what rays meet, what is picked, and what files hold. */
import { composed, scaleOf } from './transform.ts';
import type { RenderScene, SceneLight } from './renderScene.ts';

export interface FlatScene {
  /** Nine floats a triangle, metres; area lights follow the geometry, two triangles each. */
  positions: Float32Array;
  /** Nine floats a triangle, for the geometry only. */
  normals: Float32Array;
  tangents: Float32Array;
  /** Twelve floats a triangle, metres: along and across the outline, then the plane's x and y. Geometry only. */
  uv: Float32Array;
  /** Part of each geometry triangle. */
  partOf: Uint32Array;
  /** First triangle of each part. */
  first: Uint32Array;
  geometryTriangles: number;
}

type AreaLight = SceneLight & { kind: 'area' };
const areasOf = (scene: RenderScene) => scene.lights.filter((l): l is AreaLight => l.kind === 'area');

/** Corners of an area light as two triangles. */
function lightTriangles({ placed, width, height }: AreaLight): number[] {
  const { position, right, up } = placed;
  const corner = (a: number, b: number) =>
    position.map((v, i) => v + (right[i] * a * width) / 2 + (up[i] * b * height) / 2);
  const [p, q, r, s] = [corner(-1, -1), corner(1, -1), corner(1, 1), corner(-1, 1)];
  return [...p, ...q, ...r, ...p, ...r, ...s];
}

/** Lays a scene out, with its instances as they are at the opening of the shutter. @param shared memory */
export function flattened(scene: RenderScene, shared = false): FlatScene {
  const { solids, placements, instances, parts } = scene;
  let count = 0;
  for (let i = 0; i < instances.count; i++) count += solids[instances.solid[i]].triangles;
  const areas = areasOf(scene);
  const memory = (bytes: number) => (shared ? new SharedArrayBuffer(bytes) : new ArrayBuffer(bytes));
  const flat: FlatScene = {
    positions: new Float32Array(memory((count + areas.length * 2) * 36)),
    normals: new Float32Array(memory(count * 36)),
    tangents: new Float32Array(memory(count * 36)),
    uv: new Float32Array(memory(count * 48)),
    partOf: new Uint32Array(memory(count * 4)),
    first: new Uint32Array(memory(parts.count * 4)),
    geometryTriangles: count,
  };
  let part = 0;
  let at = 0;
  for (let i = 0; i < instances.count; i++) {
    const solid = solids[instances.solid[i]];
    const { local } = instances;
    const world = composed(placements.now, instances.placement[i], local, i);
    const unit = scaleOf(local, i * 12);
    placed(solid.positions, flat.positions, at * 9, world);
    turned(solid.normals, flat.normals, at * 9, world);
    turned(solid.tangents, flat.tangents, at * 9, world);
    const [l, { uv }] = [i * 12, solid];
    for (let k = 0, to = at * 12; k < uv.length; k += 4, to += 4) {
      flat.uv[to] = uv[k] * unit;
      flat.uv[to + 1] = uv[k + 1] * unit;
      flat.uv[to + 2] = local[l] * uv[k + 2] + local[l + 1] * uv[k + 3] + local[l + 3];
      flat.uv[to + 3] = local[l + 4] * uv[k + 2] + local[l + 5] * uv[k + 3] + local[l + 7];
    }
    // parts follow their instances
    for (; part < parts.count && parts.instance[part] === i; part++) {
      const first = at + parts.first[part];
      flat.first[part] = first;
      flat.partOf.fill(part, first, first + parts.triangles[part]);
    }
    at += solid.triangles;
  }
  let end = count * 9;
  for (const light of areas) {
    flat.positions.set(lightTriangles(light), end);
    end += 18;
  }
  return flat;
}

/** Carries points over. @param m a transform; @param to where in `out` they begin */
export function placed(points: Float32Array, out: Float32Array, to: number, m: Float64Array): void {
  const [a, b, c, d, e, f, g, h, i, j, k, l] = m;
  for (let p = 0; p < points.length; p += 3, to += 3) {
    const [x, y, z] = [points[p], points[p + 1], points[p + 2]];
    out[to] = a * x + b * y + c * z + d;
    out[to + 1] = e * x + f * y + g * z + h;
    out[to + 2] = i * x + j * y + k * z + l;
  }
}

/** Carries unit vectors over, by a transform that scales alike in all directions. */
export function turned(vectors: Float32Array, out: Float32Array, to: number, m: Float64Array): void {
  const s = 1 / scaleOf(m);
  const [a, b, c, e, f, g, i, j, k] = [0, 1, 2, 4, 5, 6, 8, 9, 10].map((n) => m[n] * s);
  for (let p = 0; p < vectors.length; p += 3, to += 3) {
    const [x, y, z] = [vectors[p], vectors[p + 1], vectors[p + 2]];
    out[to] = a * x + b * y + c * z;
    out[to + 1] = e * x + f * y + g * z;
    out[to + 2] = i * x + j * y + k * z;
  }
}

const sameNumbers = (a: ArrayLike<number>, b: ArrayLike<number>) => {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
};

/** Whether two scenes are the same triangles in the same places: only finishes, light and view may differ. */
export function sameTriangles(a: RenderScene, b: RenderScene): boolean {
  const sameParts = (['instance', 'first', 'triangles'] as const).every((k) =>
    sameNumbers(a.parts[k], b.parts[k]),
  );
  if (!sameParts || a.instances.count !== b.instances.count) return false;
  for (let i = 0; i < a.instances.count; i++)
    if (a.solids[a.instances.solid[i]].key !== b.solids[b.instances.solid[i]].key) return false;
  const areas = (s: RenderScene) => areasOf(s).flatMap(lightTriangles);
  return (
    sameNumbers(a.instances.placement, b.instances.placement) &&
    sameNumbers(a.instances.local, b.instances.local) &&
    sameNumbers(a.placements.now, b.placements.now) &&
    sameNumbers(areas(a), areas(b))
  );
}
