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

/** A scene laid out before, of which what has not changed is taken over. */
export interface Laid {
  scene: RenderScene;
  flat: FlatScene;
}

/**
 * Lays a scene out, with its instances as they are at the opening of the shutter.
 * @param shared put the arrays into shared memory
 * @param last what was laid out before; the same triangles are the same object again
 */
export function flattened(scene: RenderScene, shared = false, last: Laid | null = null): FlatScene {
  const { solids, placements, instances, parts } = scene;
  const memory = (bytes: number) => (shared ? new SharedArrayBuffer(bytes) : new ArrayBuffer(bytes));
  const floats = (count: number) => new Float32Array(memory(count * 4));
  const areas = areasOf(scene).flatMap(lightTriangles);
  const known = last && sameInstances(last.scene, scene) ? last : null;
  const moved = !known || !sameNumbers(known.scene.placements.now, placements.now);
  if (known && !moved && sameNumbers(areasOf(known.scene).flatMap(lightTriangles), areas)) return known.flat;

  let count = 0;
  for (let i = 0; i < instances.count; i++) count += solids[instances.solid[i]].triangles;
  const positions = floats(count * 9 + areas.length);
  positions.set(areas, count * 9);
  if (known && !moved) {
    positions.set(known.flat.positions.subarray(0, count * 9));
    return { ...known.flat, positions };
  }
  const flat: FlatScene = {
    positions,
    normals: floats(count * 9),
    tangents: floats(count * 9),
    uv: known?.flat.uv ?? floats(count * 12),
    partOf: known?.flat.partOf ?? new Uint32Array(memory(count * 4)),
    first: known?.flat.first ?? new Uint32Array(memory(parts.count * 4)),
    geometryTriangles: count,
  };
  let at = 0;
  for (let i = 0; i < instances.count; i++) {
    const solid = solids[instances.solid[i]];
    const p = instances.placement[i];
    const span = [at * 9, (at + solid.triangles) * 9] as const;
    if (known && samePlace(known.scene.placements.now, placements.now, p)) {
      for (const what of ['positions', 'normals', 'tangents'] as const)
        flat[what].set(known.flat[what].subarray(...span), span[0]);
    } else {
      const world = composed(placements.now, p, instances.local, i);
      placed(solid.positions, flat.positions, span[0], world);
      turned(solid.normals, flat.normals, span[0], world);
      turned(solid.tangents, flat.tangents, span[0], world);
    }
    if (!known) coordinates(solid.uv, flat.uv, at * 12, instances.local, i * 12);
    at += solid.triangles;
  }
  if (!known) numberParts(scene, flat);
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

const samePlace = (a: Float32Array, b: Float32Array, p: number) =>
  sameNumbers(a.subarray(p * 12, p * 12 + 12), b.subarray(p * 12, p * 12 + 12));

/** Whether two scenes have the same solids in the same order, in the same places of as many placements. */
function sameInstances(a: RenderScene, b: RenderScene): boolean {
  if (a.placements.count !== b.placements.count || a.instances.count !== b.instances.count) return false;
  for (let i = 0; i < a.instances.count; i++)
    if (a.solids[a.instances.solid[i]].key !== b.solids[b.instances.solid[i]].key) return false;
  return (
    sameNumbers(a.instances.placement, b.instances.placement) &&
    sameNumbers(a.instances.local, b.instances.local) &&
    (['instance', 'first', 'triangles'] as const).every((k) => sameNumbers(a.parts[k], b.parts[k]))
  );
}

/** Whether two scenes are the same triangles in the same places: only finishes, light and view may differ. */
export const sameTriangles = (a: RenderScene, b: RenderScene): boolean =>
  sameInstances(a, b) &&
  sameNumbers(a.placements.now, b.placements.now) &&
  sameNumbers(areasOf(a).flatMap(lightTriangles), areasOf(b).flatMap(lightTriangles));
