import { describe, expect, it } from 'vitest';
import {
  newFollow,
  newLight,
  newProject,
  openDocument,
  plainFinish,
  plainSurface,
  type Project,
} from '../../src/document/index.ts';
import { edited, followLight, takeBalance } from '../../src/edits/index.ts';
import { followed } from '../../src/light/following.ts';
import { glowsIn } from '../../src/finish/glow.ts';

const gas = plainFinish({
  id: 'gas',
  name: 'Gas',
  surface: plainSurface({ emission_luminance: 400, emission_color: [1, 0.25, 0.1] }),
});
const rig = () => [
  newLight('area', 'Key', { id: 'key', strength: 12 }),
  newLight('point', 'Wall', { id: 'wall', strength: 3 }),
  newLight('point', 'Echo', { id: 'echo', strength: 5 }),
];
function project(): Project {
  const made = newProject('Ostrel', 'OSTREL', [gas]);
  made.looks[0].rig = rig();
  return made;
}
const by = (p: Project, id: string) =>
  followed(p.looks[0].rig, glowsIn(p.finishes)).find((l) => l.id === id)!;
const follow = (p: Project, id: string, source: 'light' | 'finish', of: string) =>
  edited(p, followLight(p, p.looks[0].id, id, { source, id: of })).project;
const changed = (p: Project, change: (q: Project) => void) => {
  const copy = structuredClone(p);
  change(copy);
  return openDocument(copy);
};

describe('a light that follows', () => {
  it('is as strong as it was, and goes as what it follows goes; a glow gives it its colour', () => {
    const made = follow(project(), 'wall', 'finish', 'gas');
    expect(by(made, 'wall').strength).toBeCloseTo(3, 9);
    expect(by(made, 'wall').colour).toEqual([1, 0.25, 0.1]);
    const dimmed = changed(made, (p) => (p.finishes[0].surface.emission_luminance = 100));
    expect(by(dimmed, 'wall').strength).toBeCloseTo(0.75, 9);
    const out = changed(made, (p) => (p.finishes[0].surface.emission_luminance = 0));
    expect(by(out, 'wall').strength).toBe(0);
    const plain = changed(made, (p) => (p.looks[0].rig[1].follows!.coloured = false));
    expect(by(plain, 'wall').hue).toBe('temperature');
  });

  it('follows another light, through others too, and goes out with it', () => {
    const made = follow(follow(project(), 'wall', 'light', 'key'), 'echo', 'light', 'wall');
    const brighter = changed(made, (p) => (p.looks[0].rig[0].strength = 48));
    expect(by(brighter, 'wall').strength).toBeCloseTo(12, 9);
    expect(by(brighter, 'echo').strength).toBeCloseTo(20, 9);
    const off = changed(made, (p) => (p.looks[0].rig[0].on = false));
    expect(by(off, 'echo').strength).toBe(0);
    const released = edited(off, followLight(off, off.looks[0].id, 'echo', null)).project;
    expect(by(released, 'echo').strength).toBe(5);
  });

  it('shines by itself where what it follows is gone, and nothing goes round in a ring', () => {
    const made = follow(project(), 'wall', 'finish', 'gas');
    const gone = changed(made, (p) => {
      p.looks[0].rig[1].follows!.id = 'elsewhere';
    });
    expect(by(gone, 'wall').strength).toBe(3);
    const p = follow(follow(project(), 'wall', 'light', 'key'), 'echo', 'light', 'wall');
    const ring = changed(p, (q) => (q.looks[0].rig[0].follows = newFollow('light', 'echo')));
    for (const id of ['key', 'wall', 'echo']) expect(Number.isFinite(by(ring, id).strength)).toBe(true);
    expect(() => follow(project(), 'wall', 'light', 'wall')).toThrow('cannot follow');
    expect(() => follow(project(), 'wall', 'finish', 'none')).toThrow('cannot follow');
  });

  it('is taken over from a balance as it was weighed, whatever was done to what it follows', () => {
    const made = follow(follow(project(), 'wall', 'light', 'key'), 'echo', 'light', 'wall');
    const weighed = edited(
      made,
      takeBalance(
        made,
        made.looks[0].id,
        [
          { source: { light: 'key' }, factor: 4 },
          { source: { light: 'echo' }, factor: 0.5 },
        ],
        'copy',
      ),
    ).project;
    expect(by(weighed, 'key').strength).toBeCloseTo(48, 6);
    expect(by(weighed, 'wall').strength).toBeCloseTo(3, 6);
    expect(by(weighed, 'echo').strength).toBeCloseTo(2.5, 6);
  });
});
