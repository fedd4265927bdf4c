import { describe, expect, it } from 'vitest';
import { newLight, type Light } from '../../src/document/index.ts';
import { inUnit, stopsAgainst, STRENGTH_UNITS } from '../../src/light/units.ts';
import { placeLight } from '../../src/light/placing.ts';
import { readyProfile } from '../../src/light/profile.ts';
import { beamOf } from '../../src/scene/beamFlux.ts';
import { profileTexture } from '../../src/scene/profileTexture.ts';
import { textureOf } from '../../src/texture/texture.ts';
import { meanOf, quad, sceneOf, spotView, traced, type TestLight } from '../trace/sceneFixture.ts';

/** Lux that a matte wall at the aim gets, traced. */
function measured(light: Light, scene: Partial<TestLight>): number {
  const wall = {
    triangles: quad([-4, -4, 0], [8, 0, 0], [0, 8, 0]),
    surface: { base_color: [0.5, 0.5, 0.5], specular_weight: 0, specular_roughness: 1 },
  };
  const lamp = {
    name: light.name,
    shadow: true,
    placed: placeLight(light, [0, 0, 0]),
    ...scene,
  } as TestLight;
  const picture = traced(sceneOf([wall], { lights: [lamp] }), spotView([0, 0, 0.2], [0, 0, -1]), 256);
  return (meanOf(picture, 1) * Math.PI) / 0.5;
}
const front = {
  azimuth: 0,
  elevation: 0,
  hue: 'colour' as const,
  colour: [1, 1, 1],
  distance: 1.5,
  strength: 7,
};

describe('units of strength', () => {
  it('give the lux that are traced at the aim', () => {
    const area = newLight('area', 'A', { ...front, width: 2, height: 0.4 });
    const round = newLight('area', 'R', { ...front, width: 1.2, height: 1.2, shape: 'round' });
    const point = newLight('point', 'P', front);
    const spot = newLight('spot', 'S', { ...front, cone: 0.4, edge: 0.5 });
    const sun = newLight('directional', 'D', { ...front, size: 0.2 });
    for (const [light, scene] of [
      [area, { kind: 'area', width: 2, height: 0.4 }],
      [round, { kind: 'area', width: 1.2, height: 1.2, round: true }],
      [point, { kind: 'point' }],
      [spot, { kind: 'spot', cosInner: Math.cos(0.2), cosOuter: Math.cos(0.4) }],
      [sun, { kind: 'directional', cosEdge: Math.cos(0.1) }],
    ] as [Light, Partial<TestLight>][])
      expect(measured(light, scene) / (light.strength * inUnit(light, 'lux')!), light.name).toBeCloseTo(1, 2);
  });

  it('sum intensity over all directions to lumens', () => {
    const spot = newLight('spot', 'S', { cone: 0.7, edge: 0.6 });
    let sum = 0;
    const [inner, outer] = [Math.cos(0.7 * 0.4), Math.cos(0.7)];
    const steps = 20_000;
    for (let i = 0; i < steps; i++) {
      const cosine = outer + ((1 - outer) * (i + 0.5)) / steps;
      const t = Math.min(1, (cosine - outer) / (inner - outer));
      sum += (t * t * 2 * Math.PI * (1 - outer)) / steps;
    }
    expect(inUnit(spot, 'lumen')! / sum).toBeCloseTo(1, 4);
    expect(inUnit(newLight('point', 'P'), 'lumen')).toBeCloseTo(4 * Math.PI, 9);
    // a plane glows into half of all directions, by the cosine
    expect(inUnit(newLight('area', 'A', { width: 2, height: 3 }), 'lumen')).toBeCloseTo(6 * Math.PI, 9);
  });

  it('are those of faces of their own: outlines and letters, whole or in parts', () => {
    const area = { ...front, width: 2, height: 0.4 };
    const corners = (...xy: number[]) => new Float32Array(xy.flatMap((v, i) => (i % 2 ? [v, 0] : [v])));
    const square = {
      positions: corners(-0.5, -0.5, 0.5, -0.5, 0.5, 0.5, -0.5, -0.5, 0.5, 0.5, -0.5, 0.5),
      area: 1,
    };
    const outline = newLight('area', 'O', { ...area, shape: 'outline' });
    for (const unit of STRENGTH_UNITS)
      expect(inUnit(outline, unit, { face: square }), unit).toBeCloseTo(
        inUnit(newLight('area', 'A', area), unit)!,
        6,
      );
    // a circle of many corners
    const n = 400;
    const at = (k: number) => [Math.cos((2 * Math.PI * k) / n) / 2, Math.sin((2 * Math.PI * k) / n) / 2];
    const wheel = {
      positions: corners(...Array.from({ length: n }, (_, k) => [0, 0, ...at(k), ...at(k + 1)]).flat()),
      area: Math.PI / 4,
    };
    const round = newLight('area', 'R', { ...front, width: 1.2, height: 1.2, shape: 'round' });
    expect(
      inUnit({ ...round, shape: 'letters' } as Light, 'lux', { face: wheel })! / inUnit(round, 'lux')!,
    ).toBeCloseTo(1, 3);
    // one off the middle gives what is traced
    const aside = { positions: corners(-0.1, -0.5, -0.5, -0.5, -0.5, 0.5), area: 0.2 };
    const scene = {
      kind: 'area',
      width: 2,
      height: 0.4,
      face: { key: 'aside', ...aside },
    } as Partial<TestLight>;
    expect(
      measured(outline, scene) / (outline.strength * inUnit(outline, 'lux', { face: aside })!),
    ).toBeCloseTo(1, 2);
    // and stops are told by it
    expect(stopsAgainst(outline, outline, () => ({ face: square }))).toBeCloseTo(0, 9);
    expect(stopsAgainst(outline, outline)).toBeNull();
  });

  it('are those of what is thrown through a pattern and a profile', () => {
    const DOWN = { position: [0, 1, 0], forward: [0, -1, 0], right: [1, 0, 0], up: [0, 0, -1] };
    const strength = 10;
    const lamp = {
      kind: 'spot',
      name: 'S',
      shadow: true,
      cosInner: Math.cos(0.3),
      cosOuter: Math.cos(0.7),
      pattern: { texture: 'halves', scale: 1 / Math.tan(0.7), soft: 0 },
      placed: { ...DOWN, colour: [strength, strength, strength] },
    } as TestLight;
    const halves = textureOf(
      'halves',
      { width: 4, height: 1, data: Uint8Array.from([0, 0, 255, 255].flatMap((v) => [v, v, v, 255])) },
      'colour',
    );
    const spread = profileTexture('spread', readyProfile('wings'));
    const floor = {
      triangles: quad([-2, 0, 2], [4, 0, 0], [0, 0, -4]),
      surface: { base_color: [0.5, 0.5, 0.5] as [number, number, number], specular_weight: 0 },
    };
    const side = 2;
    for (const light of [
      lamp,
      { ...lamp, profile: 'spread' },
      { ...lamp, pattern: undefined, profile: 'spread' },
    ] as TestLight[]) {
      const scene = sceneOf([floor], { lights: [light], textures: [halves, spread], bounces: 1 });
      const beam = beamOf(scene.lights[0]!, scene)!;
      const above = { ...spotView([0, 3, 0], [0, -1, 0]), width: 64, height: 64 };
      const picture = traced(scene, { ...above, right: [side / 2, 0, 0], up: [0, 0, -side / 2] }, 64);
      const lumens = ((meanOf(picture, 1) * Math.PI) / 0.5) * side * side;
      expect(lumens / (strength * beam.lumens)).toBeCloseTo(1, 1.5);
      const spot = newLight('spot', 'S', {
        pattern: null,
        profile: { source: 'ready', id: 'wings', name: 'W', candela: 0, lumens: 1 },
      });
      expect(inUnit(spot, 'lumen', { beam })).toBe(beam.lumens);
      expect(inUnit(spot, 'lumen')).toBeNull();
    }
    const bare = sceneOf([floor], { lights: [{ ...lamp, pattern: undefined } as TestLight] });
    expect(beamOf(bare.lights[0]!, bare)).toBeNull();
  });

  it('have none where there is none, and tell stops against the key', () => {
    expect(inUnit(newLight('point', 'P', { radius: 0 }), 'nits')).toBeNull();
    expect(inUnit(newLight('point', 'P', { radius: 0.1 }), 'nits')).toBeCloseTo(1 / (Math.PI * 0.01), 6);
    expect(inUnit(newLight('card', 'C'), 'lux')).toBeNull();
    const key = newLight('point', 'Key', { strength: 8, distance: 2 });
    expect(stopsAgainst(newLight('point', 'Fill', { strength: 1, distance: 2 }), key)).toBeCloseTo(-3, 9);
    expect(stopsAgainst(newLight('point', 'Fill', { strength: 8, distance: 1 }), key)).toBeCloseTo(2, 9);
    expect(stopsAgainst(newLight('point', 'Out', { strength: 0 }), key)).toBeNull();
  });
});
