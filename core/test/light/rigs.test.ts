import { describe, expect, it } from 'vitest';
import { newFollow, newLight, openRig, VERSION, type Light } from '../../src/document/index.ts';
import { lightsOf, rigOf } from '../../src/light/rigs.ts';
import { inUnit } from '../../src/light/units.ts';

describe('a rig of the library', () => {
  const key = newLight('area', 'Key', { only: ['block'], width: 1, height: 0.5, distance: 2 });
  const lights = [
    key,
    newLight('spot', 'Spot', { strength: 10, distance: 3, fall: 'clamped', near: 0.5 }),
    newLight('point', 'Bulb', { radius: 0.05, stands: 'free', place: [1, 2, 3], aim: [0.1, 0, 0] }),
    newLight('directional', 'Sun', { strength: 7 }),
    newLight('array', 'Ring', { follows: newFollow('light', key.id) }),
    newLight('card', 'Card', { follows: newFollow('finish', 'gold') }),
  ];
  let count = 0;
  const id = () => `new-${count++}`;

  it('leaves behind what belongs to its project, and keeps what its lights follow among themselves', () => {
    const rig = rigOf('Mine', 0.8, lights);
    expect(rig.lights.every((l) => l.only.length === 0)).toBe(true);
    expect(rig.lights[5]!.follows).toBeNull();
    const taken = lightsOf(rig, 0.8, id);
    expect(taken[4]!.follows!.id).toBe(taken[0]!.id);
    expect(new Set(taken.map((l) => l.id)).size).toBe(lights.length);
  });

  it('gives type of any size the same lux, from where it stood in shares of the type', () => {
    const lux = (l: Light) => (inUnit(l, 'lux') ?? 0) * l.strength;
    for (const size of [0.08, 0.8, 8]) {
      const taken = lightsOf(rigOf('Mine', 0.8, lights), size, id);
      taken.slice(0, 4).forEach((l, i) => expect(lux(l) / lux(lights[i]!), l.name).toBeCloseTo(1, 6));
      const by = size / 0.8;
      expect(taken[0]).toMatchObject({ width: by, height: by / 2, distance: 2 * by });
      const [, , bulb] = taken;
      expect('place' in bulb! && bulb.place[2]).toBeCloseTo(3 * by, 9);
    }
  });

  it('passes the door in the version it was kept in, and nothing else does', () => {
    expect(openRig(VERSION, rigOf('Mine', 0.8, lights)).lights).toHaveLength(lights.length);
    // an area light as version 10 had it
    const old = Object.fromEntries(
      Object.entries(key).filter(([k]) => !['outline', 'text', 'font', 'seen', 'gel'].includes(k)),
    );
    const [opened] = openRig(10, { name: 'Old', size: 1, lights: [{ ...old, only: [] }] }).lights;
    expect(opened).toMatchObject({ seen: false, gel: [1, 1, 1], text: 'A' });
    expect(() => openRig(VERSION, { name: 'x', size: 1, lights: [] })).toThrow(/lights/);
    expect(() => openRig(VERSION, { name: 'x', size: 1, lights: [{ kind: 'moon' }] })).toThrow(/lights\[0\]/);
    expect(() => openRig(VERSION + 1, rigOf('Mine', 1, lights))).toThrow(/newer/);
    expect(() => openRig(VERSION, null)).toThrow();
  });
});
