import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { newLight, newProject, type Light, type LightOf } from '../../src/document/index.ts';
import { edited, moveLight } from '../../src/edits/index.ts';
import { lightColour, placeLight, shining, standingOf, type Vec } from '../../src/light/placing.ts';

const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const dot = (a: readonly number[], b: readonly number[]) => a.reduce((sum, v, i) => sum + v * b[i], 0);
/** Luminance of linear Rec.709 (ITU-R BT.709). */
const luminance = (c: readonly number[]) => dot(c, [0.2126, 0.7152, 0.0722]);

describe('lights', () => {
  it('stand at their distance from what they aim at, facing it', () => {
    fc.assert(
      fc.property(number(-3, 3), number(-1.5, 1.5), number(0.1, 20), (azimuth, elevation, distance) => {
        const light = newLight('area', 'Key', { azimuth, elevation, distance, aim: [0.2, -0.1, 0.3] });
        const { position, forward, right, up } = placeLight(light, [1, 2, 3]);
        const target = [1.2, 1.9, 3.3];
        target.forEach((v, i) => expect(position[i] + forward[i] * distance).toBeCloseTo(v, 6));
        for (const axis of [forward, right, up]) expect(dot(axis, axis)).toBeCloseTo(1, 9);
        expect(dot(forward, right)).toBeCloseTo(0, 9);
        expect(dot(forward, up)).toBeCloseTo(0, 9);
      }),
    );
    // azimuth 0 is in front, a quarter turn to the right
    const at = (azimuth: number, elevation = 0) =>
      placeLight(newLight('spot', 'Key', { azimuth, elevation, distance: 2, aim: [0, 0, 0] }), [0, 0, 0])
        .position;
    expect(at(0)).toEqual([0, 0, 2].map((v) => expect.closeTo(v, 9)));
    expect(at(Math.PI / 2)).toEqual([2, 0, 0].map((v) => expect.closeTo(v, 9)));
    expect(at(0, Math.PI / 2)).toEqual([0, 2, 0].map((v) => expect.closeTo(v, 9)));
  });

  it('are as bright whatever their temperature, and as they are mixed when coloured', () => {
    for (const kelvin of [1500, 2700, 6500, 12_000]) {
      const colour = lightColour(newLight('spot', 'Key', { hue: 'temperature', kelvin, strength: 30 }));
      expect(luminance(colour) / 30).toBeCloseTo(1, 2);
    }
    const mixed = newLight('spot', 'Key', {
      hue: 'colour',
      colour: [0.2, 0.5, 1],
      strength: 10,
    } as Partial<Light>);
    expect(lightColour(mixed)).toEqual([2, 5, 10]);
  });

  it('shine when they are on, and only those that are solo once one is', () => {
    const rig = [
      newLight('area', 'Key'),
      newLight('area', 'Fill', { on: false }),
      newLight('area', 'Rim', { solo: true, on: false }),
    ];
    const names = () => shining(rig).map((l) => l.name);
    expect(names()).toEqual(['Key']);
    rig[2].on = true;
    expect(names()).toEqual(['Rim']);
    rig[0].solo = true;
    expect(names()).toEqual(['Key', 'Rim']);
  });
});

describe('lights with a place of their own', () => {
  const centre: Vec = [0.4, 0.3, -0.1];
  const place = [0.2, 0.5, 0.05];
  const at = (light: Light) => placeLight(light, centre);

  it('stand there and look at their aim, or straight back at the word', () => {
    const free = newLight('area', 'Free', { stands: 'free', place, aim: [-0.1, 0, 0] });
    const { position, forward } = at(free);
    position.forEach((v, k) => expect(v).toBeCloseTo(centre[k] + place[k], 9));
    const way = [-0.3, -0.5, -0.05];
    forward.forEach((v, k) => expect(v).toBeCloseTo(way[k] / Math.hypot(...way), 9));
    // a strip close along the word: parallel to its face wherever it slides
    for (const x of [-2, 0, 0.7]) {
      const strip = at(newLight('area', 'Strip', { stands: 'facing', place: [x, 0.1, 0.02] }));
      expect(strip.position).toEqual([centre[0] + x, centre[1] + 0.1, expect.closeTo(centre[2] + 0.02, 9)]);
      expect(strip.forward.map((v) => Math.round(v * 1e9) / 1e9 + 0)).toEqual([0, 0, -1]);
      expect(strip.right[0]).toBeCloseTo(1, 9);
    }
    const behind = at(newLight('spot', 'Behind', { stands: 'facing', place: [0, 0, -0.5] }));
    expect(behind.forward[2]).toBeCloseTo(1, 9);
    expect(behind.position[2]).toBeCloseTo(centre[2] - 0.5, 9);
  });

  it('even on their own aim look somewhere', () => {
    const { position, forward } = at(newLight('point', 'Within', { stands: 'free', place: [0, 0, 0] }));
    for (const v of [...position, ...forward]) expect(Number.isFinite(v)).toBe(true);
  });

  it('moved about the type keep their distance and what they look at', () => {
    const project = newProject('Ostrel', 'OSTREL', []);
    const [look] = project.looks;
    look.rig = [newLight('area', 'Strip', { id: 's', stands: 'facing', place: [0.5, 0, 0.3] })];
    const moved = edited(project, moveLight(project, look.id, 's', { azimuth: 1, elevation: 0.2 })).project;
    const [light] = moved.looks[0].rig;
    const { azimuth, elevation, distance, at: target } = standingOf(light);
    expect([azimuth, elevation, distance].map((v) => +v.toFixed(9))).toEqual([1, 0.2, 0.3]);
    expect(target).toEqual([0.5, 0, 0]);
    expect((light as LightOf<'area'>).stands).toBe('free');
  });
});
