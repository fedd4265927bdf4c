/** Finishes laid down as pictures, against the places they are of and against what is traced there. */
import { describe, expect, it } from 'vitest';
import { newFeed, newProject, plainFinish, type Feed, type Finish } from '../../src/document/index.ts';
import type { Vec } from '../../src/light/placing.ts';
import { decodeSrgb } from '../../src/maths/colour.ts';
import { flattened } from '../../src/scene/flatScene.ts';
import type { BakedPart, BakedPicture } from '../../src/scene/exportKinds.ts';
import { FaceBaker } from '../../src/trace/faceBake.ts';
import { partList } from '../scene/partList.ts';
import { testMaker } from '../scene/maker.ts';
import { kernelModule } from './kernelFixture.ts';
import { meanOf, spotView, traced } from './sceneFixture.ts';

const maker = testMaker();

async function lettering(finish: Finish, text = 'O') {
  const project = newProject('Ostrel', text, [finish]);
  project.looks[0].surround = { ...project.looks[0].surround, lights: false, mirrored: false, seen: false };
  project.looks[0].rig = [];
  project.pieces = [];
  const { scene } = await maker.make(project, project.looks[0].id, project.shots[0].id, 400);
  return { scene, baker: new FaceBaker(kernelModule, false, scene) };
}
const fed = (parameter: string, more: Partial<Feed>): Feed => {
  const feed = newFeed(parameter, parameter, parameter.endsWith('color') ? [1, 1, 1] : 0);
  return { ...feed, blend: 'linear', ...more };
};
const stops = (...values: (number | number[])[]): Feed['stops'] =>
  values.map((v, i) => ({
    at: i / (values.length - 1),
    value: typeof v === 'number' ? v : 0,
    colour: typeof v === 'number' ? [1, 1, 1] : v,
  }));

/** Four channels of the texel at a place of a picture, 0 … 1. */
function at({ width, height, data }: BakedPicture, u: number, v: number): number[] {
  const x = Math.min(width - 1, Math.floor(u * width));
  const y = Math.min(height - 1, Math.floor(v * height));
  return [...data.subarray((y * width + x) * 4, (y * width + x) * 4 + 4)].map((b) => b / 255);
}
/** Middles of the larger triangles of a part: where they are in the world, their normals, and in the pictures. */
function middles(
  scene: Awaited<ReturnType<typeof lettering>>['scene'],
  part: number,
  { coordinates }: BakedPart,
) {
  const flat = flattened(scene);
  const out: { place: Vec; normal: Vec; u: number; v: number; area: number }[] = [];
  for (let t = 0; t < scene.parts.triangles[part]; t++) {
    const from = (flat.first[part] + t) * 9;
    const mean = (data: Float32Array) =>
      [0, 1, 2].map((k) => (data[from + k] + data[from + 3 + k] + data[from + 6 + k]) / 3) as Vec;
    const c = coordinates.subarray(t * 6, t * 6 + 6);
    out.push({
      place: mean(flat.positions),
      normal: mean(flat.normals),
      u: (c[0] + c[2] + c[4]) / 3,
      v: (c[1] + c[3] + c[5]) / 3,
      area: Math.abs((c[2] - c[0]) * (c[5] - c[1]) - (c[4] - c[0]) * (c[3] - c[1])),
    });
  }
  return out.sort((a, b) => b.area - a.area).slice(0, 12);
}

describe('a finish laid down as pictures', () => {
  it('has at each place of each zone what a gradient gives there', async () => {
    const ramp = plainFinish({ id: 'ramp', name: 'Ramp' });
    ramp.feeds = [
      fed('base_color', { source: 'along', of: 'block', stops: stops([0, 0, 0], [1, 0.5, 0.25]) }),
      fed('specular_roughness', { source: 'up', of: 'block', stops: stops(0.2, 0.8) }),
    ];
    const { scene, baker } = await lettering(ramp);
    const flat = flattened(scene);
    const [xs, ys] = [0, 1].map((k) => flat.positions.filter((_, i) => i % 3 === k));
    const share = (of: Float32Array, v: number) => {
      const [low, high] = of.reduce(([a, b], x) => [Math.min(a, x), Math.max(b, x)], [Infinity, -Infinity]);
      return (v - low) / (high - low);
    };
    for (const { number, zone } of partList(scene).filter((p) => p.letter)) {
      const baked = baker.bake(number)!;
      expect(Math.max(baked.base!.width, baked.base!.height), zone!).toBeGreaterThan(500);
      for (const { place, u, v } of middles(scene, number, baked)) {
        const x = share(xs, place[0]);
        const seen = at(baked.base!, u, v).slice(0, 3).map(decodeSrgb);
        [x, 0.5 * x, 0.25 * x].forEach((wanted, c) => expect(Math.abs(seen[c] - wanted)).toBeLessThan(0.012));
        expect(Math.abs(at(baked.gloss!, u, v)[1] - (0.2 + 0.6 * share(ys, place[1])))).toBeLessThan(0.012);
      }
    }
  });

  it('gives the light that is traced where a coat of noise glows', async () => {
    const glowing = plainFinish({ id: 'embers', name: 'Embers' });
    Object.assign(glowing.surface, { base_color: [0, 0, 0], specular_weight: 0, emission_color: [1, 1, 1] });
    glowing.feeds = [fed('emission_luminance', { source: 'noise', scale: 0.05, stops: stops(0, 100) })];
    const { scene, baker } = await lettering(glowing);
    const front = partList(scene).find((p) => p.zone === 'front')!.number;
    const baked = baker.bake(front)!;
    expect(baked.base).toBeNull();
    for (const { place, u, v } of middles(scene, front, baked)) {
      const seen = decodeSrgb(at(baked.light!, u, v)[0]) * baked.light!.strongest;
      const near = traced(scene, { ...spotView([place[0], place[1], place[2] + 1], [0, 0, -1], 2) }, 64);
      expect(Math.abs(seen - meanOf(near, 0))).toBeLessThan(4);
    }
  });

  it('is none where it is the same all over, or differs by angle alone', async () => {
    const plain = plainFinish({ id: 'plain', name: 'Plain' });
    const shifting = { ...plainFinish({ id: 'shift', name: 'Shift' }) };
    shifting.feeds = [fed('base_color', { source: 'angle', stops: stops([0, 0, 1], [1, 0, 0]) })];
    for (const finish of [plain, shifting]) {
      const { scene, baker } = await lettering(finish);
      for (const { number } of partList(scene)) expect(baker.bake(number)).toBeNull();
    }
  });
});
