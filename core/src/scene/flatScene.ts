/** A scene's triangles in the world, one after the other: what files hold. */
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

/** Lays a scene out, with its instances as they are at the opening of the shutter. */
export function flattened(scene: RenderScene): FlatScene {
  const { solids, placements, instances, parts } = scene;
  const areas = areasOf(scene).flatMap(lightTriangles);
  let count = 0;
  for (let i = 0; i < instances.count; i++) count += solids[instances.solid[i]].triangles;
  const flat: FlatScene = {
    positions: new Float32Array(count * 9 + areas.length),
    normals: new Float32Array(count * 9),
    tangents: new Float32Array(count * 9),
    uv: new Float32Array(count * 12),
    partOf: new Uint32Array(count),
    first: new Uint32Array(parts.count),
    geometryTriangles: count,
  };
  flat.positions.set(areas, count * 9);
  let at = 0;
  for (let i = 0; i < instances.count; i++) {
    const solid = solids[instances.solid[i]];
    const world = composed(placements.now, instances.placement[i], instances.local, i);
    placed(solid.positions, flat.positions, at * 9, world);
    turned(solid.normals, flat.normals, at * 9, world);
    turned(solid.tangents, flat.tangents, at * 9, world);
    coordinates(solid.uv, flat.uv, at * 12, instances.rest, i * 12);
    at += solid.triangles;
  }
  numberParts(scene, flat);
  return flat;
}

/** Carries texture coordinates over: lengths in metres, the plane's x and y where the solid stands in it. */
function coordinates(uv: Float32Array, out: Float32Array, to: number, local: Float32Array, l: number): void {
  const unit = scaleOf(local, l);
  const [a, b, , d, e, f, , h] = local.subarray(l, l + 8);
  for (let k = 0; k < uv.length; k += 4, to += 4) {
    const x = uv[k + 2];
    const y = uv[k + 3];
    out[to] = uv[k] * unit;
    out[to + 1] = uv[k + 1] * unit;
    out[to + 2] = a * x + b * y + d;
    out[to + 3] = e * x + f * y + h;
  }
}

/** Parts follow their instances, and instances each other. */
function numberParts({ solids, instances, parts }: RenderScene, flat: FlatScene): void {
  let part = 0;
  let at = 0;
  for (let i = 0; i < instances.count; i++) {
    for (; part < parts.count && parts.instance[part] === i; part++) {
      const first = at + parts.first[part];
      flat.first[part] = first;
      flat.partOf.fill(part, first, first + parts.triangles[part]);
    }
    at += solids[instances.solid[i]].triangles;
  }
}

/** Carries points over. @param m a transform; @param to where in `out` they begin */
export function placed(points: Float32Array, out: Float32Array, to: number, m: Float64Array): void {
  const [a, b, c, d, e, f, g, h, i, j, k, l] = m;
  for (let p = 0; p < points.length; p += 3, to += 3) {
    const x = points[p];
    const y = points[p + 1];
    const z = points[p + 2];
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
    const x = vectors[p];
    const y = vectors[p + 1];
    const z = vectors[p + 2];
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

const sameParts = (a: RenderScene, b: RenderScene) =>
  (['instance', 'first', 'triangles'] as const).every((k) => sameNumbers(a.parts[k], b.parts[k]));

/** Whether two scenes are the same triangles in the same places: only finishes, light and view may differ. */
export const sameTriangles = (a: RenderScene, b: RenderScene): boolean =>
  a.instances.count === b.instances.count &&
  a.instances.solid.every((n, i) => a.solids[n].key === b.solids[b.instances.solid[i]].key) &&
  sameNumbers(a.instances.placement, b.instances.placement) &&
  sameNumbers(a.instances.local, b.instances.local) &&
  sameNumbers(a.placements.now, b.placements.now) &&
  sameParts(a, b) &&
  sameNumbers(areasOf(a).flatMap(lightTriangles), areasOf(b).flatMap(lightTriangles));
