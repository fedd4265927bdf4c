import { describe, expect, it } from 'vitest';
import {
  finishAt,
  newLight,
  newPiece,
  newProject,
  plainFinish,
  plainSurface,
  type Project,
} from '../../src/document/index.ts';
import { edited, takeBalance } from '../../src/edits/index.ts';

function lit(): Project {
  const glow = plainFinish({ id: 'glow', name: 'Glow', surface: plainSurface({ emission_luminance: 8 }) });
  const plain = plainFinish({ id: 'plain', name: 'Plain', surface: plainSurface() });
  const project = newProject('Ostrel', 'OSTREL', [glow, plain]);
  const [look] = project.looks;
  look.chart = [{ finish: 'plain' }, { zone: 'front', finish: 'glow' }];
  look.rig = [newLight('area', 'Key', { id: 'key', strength: 10 }), newLight('spot', 'Rim', { id: 'rim' })];
  look.surround.stops = 1;
  return project;
}
const balanced = (project: Project, ...weighed: Parameters<typeof takeBalance>[2]) =>
  edited(project, takeBalance(project, project.looks[0].id, weighed, 'copy')).project;

describe('a balance taken over', () => {
  it('makes lights and the surround as much stronger, and puts out what is weighed at nothing', () => {
    const { looks } = balanced(
      lit(),
      { source: { light: 'key' }, factor: 4 },
      { source: { light: 'rim' }, factor: 0 },
      { source: { surround: true }, factor: 0.5 },
    );
    const [{ rig, surround }] = looks;
    expect(rig[0].strength).toBe(40);
    expect(rig[1].on).toBe(false);
    expect(surround.stops).toBeCloseTo(0, 12);
  });

  it('makes plates and models show as much more by themselves, and what their parts are dressed in, once', () => {
    const project = lit();
    project.looks[0].chart = [];
    project.pieces = [
      newPiece('plate', { id: 'plate', stops: 1 }),
      newPiece('model', {
        id: 'model',
        dressings: [
          { part: 'lamp', finish: 'glow' },
          { part: 'ring', finish: 'glow' },
        ],
      }),
    ];
    const { pieces, finishes } = balanced(
      project,
      { source: { piece: 'plate' }, factor: 0.25 },
      { source: { piece: 'model' }, factor: 2 },
    );
    expect(pieces.map((p) => p.stops)).toEqual([-1, 1]);
    expect(finishes[0].surface.emission_luminance).toBe(16);
    expect(pieces[1].dressings.map((d) => d.finish)).toEqual(['glow', 'glow']);
    expect(balanced(project, { source: { piece: 'plate' }, factor: 0 }).pieces[0].stops).toBe(-20);
  });

  it('changes a finish that nothing else wears, and copies one that others wear', () => {
    const project = lit();
    const source = { block: project.blocks[0].id, zone: 'front' } as const;
    const own = balanced(project, { source, factor: 2 });
    expect(own.finishes.map((f) => [f.name, f.surface.emission_luminance])).toEqual([
      ['Glow', 16],
      ['Plain', 0],
    ]);
    // one letter's bevel glows too
    const { id, letters } = project.blocks[0];
    project.looks[0].chart.push({ block: id, letter: letters[1], zone: 'frontBevel', finish: 'glow' });
    const copied = balanced(project, { source, factor: 2 });
    expect(copied.finishes.map((f) => [f.name, f.surface.emission_luminance])).toEqual([
      ['Glow', 8],
      ['Glow 2', 16],
      ['Plain', 0],
    ]);
    const { chart } = copied.looks[0];
    expect(finishAt(chart, id, letters[0], 'front')).toBe('copy-1');
    expect(finishAt(chart, id, letters[1], 'frontBevel')).toBe('glow');
    expect(finishAt(chart, id, letters[0], 'side')).toBe('plain');
  });

  it('is refused where nothing is weighed anew', () => {
    expect(() => balanced(lit(), { source: { light: 'key' }, factor: 1 })).toThrow('nothing is weighed');
  });
});
