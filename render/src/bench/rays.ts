/** The ray kernel against three-mesh-bvh on the same mesh and the same rays, one thread. */
import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { BufferAttribute, BufferGeometry, DoubleSide, Ray, Vector3 } from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import { flattened } from '@wemlox/core/scene/flatScene';
import type { RenderScene } from '@wemlox/core/scene/renderScene';
import { soupScene } from '@wemlox/core/scene/soup';
import { Kernel, kernelMemory } from '@wemlox/core/trace/kernel';
import { SceneMemory } from '@wemlox/core/trace/sceneMemory';
import { BATCH_RAYS } from '@wemlox/core/trace/kernelLayout';
import { cameraFrame } from '@wemlox/core/stage/camera';
import { kernelBytes } from '../threads.ts';
import { compared, type Report } from './report.ts';
import { chromeWord } from './word.ts';

export const RAYS = 1 << 16;
const FLOATS = 8;
const FAR = 1e30;

/** Ray sets: origin, tmin, direction, tmax, eight floats a ray. */
interface RaySets {
  primary: Float32Array;
  bounce: Float32Array;
  shadow: Float32Array;
}

/** mulberry32 */
function seeded(seed: number): () => number {
  let s = seed;
  return () => {
    s = (s + 0x6d2b79f5) | 0;
    let t = Math.imul(s ^ (s >>> 15), 1 | s);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** The chrome word's triangles as one solid, a kernel over them, and rays through it. */
export async function raysOver(scene: RenderScene) {
  const flat = flattened(scene);
  const positions = flat.positions.slice(0, flat.geometryTriangles * 9);
  // the shared module is what every room runs
  const module = new WebAssembly.Module(kernelBytes());
  const memory = kernelMemory(true);
  const kernel = new Kernel(module, memory, new SceneMemory(module, memory, 1).take(soupScene(positions)), 0);

  const random = seeded(1);
  const sets: RaySets = {
    primary: new Float32Array(RAYS * FLOATS),
    bounce: new Float32Array(RAYS * FLOATS),
    shadow: new Float32Array(RAYS * FLOATS),
  };
  const frame = cameraFrame(scene.camera, 16 / 10);
  const side = Math.sqrt(RAYS);
  for (let i = 0, made = 0; made < RAYS; i++) {
    const sx = (2 * ((i % side) + random())) / side - 1;
    const sy = 1 - (2 * ((Math.floor(i / side) % side) + random())) / side;
    const d = [0, 1, 2].map(
      (a) => frame.forward[a] + frame.right[a] * frame.halfWidth * sx + frame.up[a] * frame.halfHeight * sy,
    );
    const l = Math.hypot(...d);
    const direction = d.map((v) => v / l);
    if (i < RAYS) sets.primary.set([...frame.position, 0, ...direction, FAR], i * FLOATS);
    const hit = kernel.closest(
      frame.position[0],
      frame.position[1],
      frame.position[2],
      0,
      direction[0],
      direction[1],
      direction[2],
      FAR,
    );
    if (hit < 0) continue;
    // a bounce: uniform over the hemisphere of the surface that was met
    const normal = flat.normals.subarray(hit * 9, hit * 9 + 3);
    const up = normal[0] * direction[0] + normal[1] * direction[1] + normal[2] * direction[2] > 0 ? -1 : 1;
    const at = frame.position.map((v, a) => v + direction[a] * kernel.hit.t + normal[a] * up * 1e-5);
    const bounce = () => {
      const y = 2 * random() - 1;
      const phi = 2 * Math.PI * random();
      const s = Math.sqrt(1 - y * y);
      const b = [s * Math.cos(phi), y, s * Math.sin(phi)];
      const facing = (b[0] * normal[0] + b[1] * normal[1] + b[2] * normal[2]) * up;
      return facing < 0 ? b.map((v) => -v) : b;
    };
    sets.bounce.set([...at, 0, ...bounce(), FAR], made * FLOATS);
    sets.shadow.set([...at, 0, ...bounce(), 3], made * FLOATS);
    made++;
  }
  return { sets, positions, kernel, triangles: flat.geometryTriangles };
}

/** Sends all rays of a set through a kernel, in batches. */
export function sendRays(kernel: Kernel, rays: Float32Array, any = false): void {
  for (let first = 0; first < RAYS; first += BATCH_RAYS) {
    kernel.rays.set(rays.subarray(first * FLOATS, (first + BATCH_RAYS) * FLOATS));
    if (any) kernel.occludedBatch(BATCH_RAYS);
    else kernel.closestBatch(BATCH_RAYS);
  }
}

export async function benchRays(dump: string | undefined): Promise<Report> {
  const { sets, positions, kernel, triangles } = await raysOver((await chromeWord()).scene);
  const geometry = new BufferGeometry().setAttribute('position', new BufferAttribute(positions, 3));
  const peer = new MeshBVH(geometry);
  if (dump) {
    await mkdir(dump, { recursive: true });
    await writeFile(join(dump, 'positions.f32'), positions);
    for (const [name, rays] of Object.entries(sets))
      await writeFile(join(dump, `${name}.f32`), rays as Float32Array);
  }

  // the peer is slower: a part of the rays is enough
  const PART = RAYS / 8;
  const ray = new Ray(new Vector3(), new Vector3());
  const raycasts = (rays: Float32Array) => () => {
    for (let i = 0; i < PART; i++) {
      const o = i * 8 * FLOATS;
      ray.origin.set(rays[o], rays[o + 1], rays[o + 2]);
      ray.direction.set(rays[o + 4], rays[o + 5], rays[o + 6]);
      peer.raycastFirst(ray, DoubleSide, rays[o + 3], rays[o + 7]);
    }
  };
  const row = (name: string, rays: Float32Array, any: boolean) =>
    compared(
      name,
      'rays/s',
      RAYS,
      () => sendRays(kernel, rays, any),
      'three-mesh-bvh raycastFirst',
      raycasts(rays),
      PART,
    );
  return {
    bench: `rays, ${triangles} triangles`,
    rows: [
      row('primary, closest', sets.primary, false),
      row('bounce, closest', sets.bounce, false),
      row('shadow, any hit', sets.shadow, true),
    ],
  };
}
