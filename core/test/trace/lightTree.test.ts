import { describe, expect, it } from 'vitest';
import type { Vec } from '../../src/light/placing.ts';
import { luminance } from '../../src/maths/colour.ts';
import { kernelMemory } from '../../src/trace/kernel.ts';
import { E_AREA } from '../../src/trace/kernelLayout.ts';
import { eyeLights } from '../../src/trace/lightTree.ts';
import { prepared } from '../../src/trace/prepare.ts';
import { SceneMemory } from '../../src/trace/sceneMemory.ts';
import { kernelModule, seeded } from './kernelFixture.ts';
import {
  flatSurround,
  meanOf,
  Probe,
  quad,
  sceneOf,
  spotView,
  traced,
  type TestLight,
} from './sceneFixture.ts';

/** Many lights of all kinds and some glowing squares, anywhere. */
function lit(seed: number, count: number, sky: number) {
  const random = seeded(seed);
  const unit = (): Vec => {
    const v = [random() - 0.5, random() - 0.5, random() - 0.5];
    const l = Math.hypot(...v);
    return v.map((x) => x / l) as Vec;
  };
  const kinds = ['area', 'spot', 'directional', 'point'] as const;
  const lights = Array.from({ length: count }, (_, i): TestLight => {
    const forward = unit();
    const side = Math.abs(forward[1]) < 0.9 ? [0, 1, 0] : [1, 0, 0];
    const right = [
      forward[1] * side[2] - forward[2] * side[1],
      forward[2] * side[0] - forward[0] * side[2],
      forward[0] * side[1] - forward[1] * side[0],
    ];
    const l = Math.hypot(...right);
    const r = right.map((x) => x / l) as Vec;
    const up: Vec = [
      r[1] * forward[2] - r[2] * forward[1],
      r[2] * forward[0] - r[0] * forward[2],
      r[0] * forward[1] - r[1] * forward[0],
    ];
    const colour = [random(), random(), random()].map((v) => 10 * v) as Vec;
    const position = [6 * random() - 3, 3 * random() + 0.2, 6 * random() - 3] as Vec;
    const any = { name: `l${i}`, shadow: true, placed: { position, forward, right: r, up, colour } };
    const kind = kinds[i % 4];
    if (kind === 'area') return { ...any, kind, width: 0.1 + random(), height: 0.1 + random() };
    if (kind === 'spot') return { ...any, kind, cosInner: 0.9, cosOuter: 0.7 };
    return { ...any, kind } as TestLight;
  });
  const glowing = Array.from({ length: Math.ceil(count / 4) }, () => ({
    triangles: quad([4 * random() - 2, 1 + random(), 4 * random() - 2], [0.3, 0, 0], [0, 0.1, 0.2]),
    surface: { base_color: [0, 0, 0], specular_weight: 0, emission_luminance: 1 + 20 * random() },
  }));
  const floor = {
    triangles: quad([-5, 0, 5], [10, 0, 0], [0, 0, -10]),
    surface: { base_color: [0.5, 0.5, 0.5], specular_weight: 0, specular_roughness: 1 },
  };
  const scene = sceneOf([floor, ...glowing], {
    lights,
    surround: { picture: flatSurround(sky), gain: 1, turn: 0, seen: true },
  });
  return { scene, emitters: lights.length + glowing.length, random, unit };
}

describe('choosing among many lights', () => {
  it('gives chances that sum to one, and chooses by them, for any place and surface', () => {
    for (const [count, sky] of [
      [1, 0],
      [3, 0.5],
      [18, 0.1],
      [90, 0],
    ]) {
      const { scene, emitters, random, unit } = lit(count, count, sky);
      const probe = new Probe(scene);
      for (let k = 0; k < 40; k++) {
        const place = [4 * random() - 2, 2 * random(), 4 * random() - 2];
        const alpha = random() ** 3;
        const through = k % 3 === 0 ? 1 : 0;
        const chances = probe.lights(
          [...place, ...unit(), ...unit(), random(), 3 * random(), alpha * alpha + 1e-6, through],
          emitters,
        );
        const sum = chances.reduce((a, b) => a + b, 0);
        // nothing shines here from before this surface
        if (sum === 0) continue;
        // short of one by the chance of walking into a part of the tree that turns out to give nothing here
        expect(sum).toBeLessThan(1.0005);
        const n = 200;
        let none = 0;
        for (let j = 0; j < n; j++) {
          const [chosen, chance] = probe.choice((j + 0.5) / n);
          if (chosen === -2) {
            none++;
            continue;
          }
          expect(chance / chances[chosen + 1]).toBeCloseTo(1, 3);
        }
        expect(Math.abs(none / n - (1 - sum))).toBeLessThan(0.03);
      }
    }
  });

  it('chooses points and spots in proportion to what they give a matte place, however many', () => {
    for (const count of [8, 40, 240]) {
      const { scene, random } = lit(count, count, 0);
      scene.lights = scene.lights.filter((l) => l.kind === 'point' || l.kind === 'spot');
      const open = sceneOf(
        [{ triangles: quad([-5, 0, 5], [10, 0, 0], [0, 0, -10]), surface: { base_color: [0.5, 0.5, 0.5] } }],
        {
          lights: scene.lights as TestLight[],
          surround: { picture: flatSurround(0), gain: 0, turn: 0, seen: true },
        },
      );
      const probe = new Probe(open);
      const [x, z] = [2 * random() - 1, 2 * random() - 1];
      const chances = probe.lights([x, 0, z, 0, 1, 0, 0, 1, 0, 1, 0, 1, 0], open.lights.length);
      const gives = open.lights.map((light) => {
        if (light.kind !== 'point' && light.kind !== 'spot') return 0;
        const { position: p, forward, colour } = light.placed;
        const way = [x - p[0], -p[1], z - p[2]];
        const d = Math.hypot(...way);
        const cosine = way.reduce((s, v, k) => s + (v / d) * forward[k], 0);
        // the squared ramp of KHR_lights_punctual
        const ramp =
          light.kind === 'spot' ? (cosine - light.cosOuter) / (light.cosInner - light.cosOuter) : 1;
        return (luminance(...colour) * Math.min(1, Math.max(0, ramp)) ** 2 * (p[1] / d)) / (d * d);
      });
      const all = gives.reduce((a, b) => a + b, 0);
      gives.forEach((v, i) => {
        // what gives next to nothing is chosen a little more often, so that nothing is missed
        if (v > 0.02 * Math.max(...gives))
          expect(chances[i + 1] / (v / all), `light ${i} of ${count}`).toBeCloseTo(1, 1);
      });
    }
  });

  it('knows where a glowing part looks and how large it is, however it is scaled', () => {
    const scene = sceneOf([
      { triangles: quad([0, 0, 0], [0.2, 0, 0], [0, 0.1, 0]), surface: { emission_luminance: 5 } },
    ]);
    for (const scale of [0.25, 1, 3]) {
      scene.placements.now.set([scale, 0, 0, 0, 0, scale, 0, 0, 0, 0, scale, 0]);
      const memory = new SceneMemory(kernelModule, kernelMemory(false), 1);
      const { records, addresses } = prepared(memory, scene);
      const { nodes, emitters } = eyeLights(scene, records, Int32Array.of(0), addresses.areas);
      // the first child's numbers: middle, squared radius, axis (layout.mjs)
      const row = (k: number) => new Float32Array(nodes)[k * 4];
      expect([row(4), row(5), row(6)]).toEqual([0, 0, 1].map((v) => expect.closeTo(v, 6)));
      expect([row(0), row(1)]).toEqual([0.1 * scale, 0.05 * scale].map((v) => expect.closeTo(v, 6)));
      expect(row(3)).toBeCloseTo((0.1 ** 2 + 0.05 ** 2) * scale ** 2, 6);
      expect(new Float32Array(emitters)[E_AREA / 4]).toBeCloseTo(0.02 * scale ** 2, 6);
    }
  });

  it('never chooses what is behind an opaque surface, and looks where a mirror looks', () => {
    const at = (x: number, y: number): TestLight => ({
      kind: 'point',
      name: 'p',
      shadow: true,
      placed: {
        position: [x, y, 0],
        forward: [0, -1, 0],
        right: [1, 0, 0],
        up: [0, 0, 1],
        colour: [1, 1, 1],
      },
    });
    const probe = new Probe(sceneOf([], { lights: [at(1, 1), at(-1, 1), at(0, -1)] }));
    const place = [0, 0, 0, 0, 1, 0];
    const even = probe.lights([...place, 0, 1, 0, 1, 0, 1, 0], 3);
    expect(even[1]).toBeCloseTo(0.5, 4);
    expect(even[2]).toBeCloseTo(0.5, 4);
    expect(even[3]).toBe(0);
    const through = probe.lights([...place, 0, 1, 0, 1, 0, 1, 1], 3);
    expect(through[3]).toBeGreaterThan(0.3);
    const s = Math.SQRT1_2;
    const mirror = probe.lights([...place, s, s, 0, 0.02, 1, 0.01 ** 2, 0], 3);
    expect(mirror[1]).toBeGreaterThan(0.99);
  });

  it('gives the light that is there: many lights against each alone', () => {
    const { scene } = lit(5, 24, 0.2);
    const view = { ...spotView([0.3, 0.15, 0.2], [0, -1, 0], 16) };
    const all = meanOf(traced(scene, view, 2048), 1);
    let sum = 0;
    scene.lights.forEach((light) => {
      const one = {
        ...scene,
        lights: [light],
        finishes: scene.finishes.map((f) => ({
          ...f,
          glow: { ...f.glow, luminance: 0, nits: [0, 0, 0] as Vec },
        })),
      };
      sum += meanOf(traced({ ...one, surround: { ...scene.surround, gain: 0 } }, view, 256), 1);
    });
    sum += meanOf(traced({ ...scene, lights: [] }, view, 1024), 1);
    expect(all / sum).toBeGreaterThan(0.97);
    expect(all / sum).toBeLessThan(1.03);
  });
});
