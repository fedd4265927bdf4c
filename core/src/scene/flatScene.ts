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
  if (last && sameTriangles(last.scene, scene)) return last.flat;

  const kept = keptOf(scene, last);
  const count = kept.triangles;
  const positions = floats(count * 9 + areas.length);
  positions.set(areas, count * 9);
  const whole = last && last.flat.geometryTriangles === count ? last.flat : null;
  const sameUv = whole !== null && kept.least >= SAME_SOLID;
  const sameTurn = whole !== null && kept.least >= SAME_TURN;
  const sameRuns = sameUv && sameParts(last!.scene, scene);
  const flat: FlatScene = {
    positions,
    normals: sameTurn ? whole.normals : floats(count * 9),
    tangents: sameTurn ? whole.tangents : floats(count * 9),
    uv: sameUv ? whole.uv : floats(count * 12),
    partOf: sameRuns ? whole.partOf : new Uint32Array(memory(count * 4)),
    first: sameRuns ? whole.first : new Uint32Array(memory(parts.count * 4)),
    geometryTriangles: count,
  };
  /** Takes a stretch over from what was laid out before. */
  const take = (what: 'positions' | 'normals' | 'tangents' | 'uv', from: number, to: number) =>
    flat[what].set(last!.flat[what].subarray(from, to), from);
  let at = 0;
  for (let i = 0; i < instances.count; i++) {
    const solid = solids[instances.solid[i]];
    const how = kept.how[i];
    const [from, to] = [at * 9, (at + solid.triangles) * 9];
    const world = composed(placements.now, instances.placement[i], instances.local, i);
    if (how >= SAME_PLACE) take('positions', from, to);
    else placed(solid.positions, flat.positions, from, world);
    if (!sameTurn) {
      for (const what of ['normals', 'tangents'] as const) {
        if (how >= SAME_TURN) take(what, from, to);
        else turned(solid[what], flat[what], from, world);
      }
    }
    if (!sameUv) {
      if (how >= SAME_SOLID) take('uv', at * 12, (at + solid.triangles) * 12);
      else coordinates(solid.uv, flat.uv, at * 12, instances.local, i * 12);
    }
    at += solid.triangles;
  }
  if (!sameRuns) numberParts(scene, flat);
  return flat;
}

/** How much of an instance is as it was laid out before, each with what comes before it. */
const SAME_SOLID = 1;
const SAME_TURN = 2;
const SAME_PLACE = 3;

/** What of each instance can be taken over, the least of all, and the triangles of all. */
function keptOf(
  scene: RenderScene,
  last: Laid | null,
): { how: Uint8Array; least: number; triangles: number } {
  const { solids, instances, placements } = scene;
  const how = new Uint8Array(instances.count);
  const before = last?.scene;
  let [at, then, least] = [0, 0, SAME_PLACE];
  for (let i = 0; i < instances.count; i++) {
    const solid = solids[instances.solid[i]];
    const old = before && i < before.instances.count ? before.solids[before.instances.solid[i]] : null;
    if (before && old && at === then && old.key === solid.key) {
      const [p, q] = [instances.placement[i], before.instances.placement[i]];
      const one = (list: Float32Array, k: number) => list.subarray(k * 12, k * 12 + 12);
      if (sameNumbers(one(instances.local, i), one(before.instances.local, i))) {
        const [now, was] = [one(placements.now, p), one(before.placements.now, q)];
        how[i] = sameNumbers(now, was) ? SAME_PLACE : sameTurns(now, was) ? SAME_TURN : SAME_SOLID;
      }
    }
    least = Math.min(least, how[i]);
    at += solid.triangles;
    then += old?.triangles ?? 0;
  }
  return { how, least, triangles: at };
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

/** Whether transforms differ in their last columns alone. */
const sameTurns = (a: Float32Array, b: Float32Array) => a.every((v, i) => i % 4 === 3 || v === b[i]);

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
