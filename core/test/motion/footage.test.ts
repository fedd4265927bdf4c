import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  newCoat,
  newFeed,
  newLight,
  newPanel,
  newPiece,
  newPlayback,
  newProject,
  openDocument,
  plainFinish,
  type PictureRef,
  type Playback,
  type Project,
} from '../../src/document/index.ts';
import { frameAt, isPlayed, stillOf } from '../../src/motion/footage.ts';
import { momentsOf } from '../../src/motion/shutter.ts';
import { shownAt } from '../../src/motion/shown.ts';

const plays = (changes: Partial<Playback> = {}): Playback => ({ ...newPlayback(48, 24), ...changes });
const frames = (of: Playback, times: readonly number[]) => times.map((t) => frameAt(of, t));

describe('a moving picture', () => {
  it('shows its frames one after the other, again and again', () => {
    expect(frames(plays(), [0, 1 / 24, 0.5, 47 / 24, 2, 2 + 1 / 24])).toEqual([0, 1, 12, 47, 0, 1]);
  });

  it('holds at its ends, or runs back', () => {
    expect(frames(plays({ ends: 'hold' }), [-1, 0, 1.5, 2, 9])).toEqual([0, 0, 36, 47, 47]);
    expect(frames(plays({ ends: 'return' }), [1.5, 2.5, 4, 4.5])).toEqual([36, 36, 0, 12]);
  });

  it('begins later, between its ends, faster or backward', () => {
    expect(frames(plays({ begins: 1 }), [1, 1.5])).toEqual([0, 12]);
    expect(frames(plays({ from: 0.5, to: 1 }), [0, 0.25, 0.5, 0.75])).toEqual([12, 18, 12, 18]);
    expect(frames(plays({ speed: 2 }), [0.5])).toEqual([24]);
    expect(frames(plays({ speed: -1 }), [0.5, 1])).toEqual([36, 24]);
  });

  it('at any time shows a frame that it has', () => {
    const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });
    fc.assert(
      fc.property(
        fc.record({
          begins: number(-100, 100),
          from: number(0, 50),
          to: number(0, 50),
          speed: number(-20, 20),
          ends: fc.constantFrom('again' as const, 'hold' as const, 'return' as const),
          frames: fc.integer({ min: 1, max: 5000 }),
          rate: number(0.5, 240),
        }),
        number(-1000, 1000),
        (of, time) => {
          const frame = frameAt(of, time);
          expect(Number.isInteger(frame)).toBe(true);
          expect(frame).toBeGreaterThanOrEqual(0);
          expect(frame).toBeLessThan(of.frames);
        },
      ),
      { numRuns: 2000 },
    );
  });
});

describe('a document with moving pictures', () => {
  const HASH = 'c'.repeat(64);
  const moving: PictureRef = { source: 'asset', id: HASH, name: 'lamps.webm', plays: plays() };
  function project(): Project {
    const fed = () => ({
      ...newFeed('f', 'base_color', [1, 1, 1]),
      source: 'picture' as const,
      picture: { ...moving },
    });
    const p = newProject('Ostrel', 'O', [
      plainFinish({
        id: 'a',
        name: 'A',
        feeds: [fed()],
        coats: [newCoat({ id: 'c', name: 'C', feeds: [fed()] })],
      }),
    ]);
    p.pieces.push(newPiece('plate', { picture: { ...moving } }));
    p.looks[0]!.surround = {
      ...p.looks[0]!.surround,
      source: 'picture',
      id: HASH,
      name: 'lamps.webm',
      plays: plays(),
    };
    p.looks[0]!.surround.panels.push(newPanel('Window', { shape: 'picture', picture: { ...moving } }));
    p.looks[0]!.rig.push({ ...newLight('spot', 'Spot'), pattern: { ...moving } });
    return p;
  }

  it('is valid, and shows everywhere the frame of its time', () => {
    const p = openDocument(JSON.parse(JSON.stringify(project())));
    const shown = shownAt(p, p.looks[0]!.id, p.shots[0]!.id, 6);
    const [look] = shown.looks;
    const spot = look!.rig.at(-1)!;
    const ids = [
      shown.finishes[0]!.feeds[0]!.picture.id,
      shown.finishes[0]!.coats[0]!.feeds[0]!.picture.id,
      shown.pieces.at(-1)!.picture!.id,
      look!.surround.id,
      look!.surround.panels[0]!.picture!.id,
      spot.kind === 'spot' ? spot.pattern!.id : '',
    ];
    expect(new Set(ids)).toEqual(new Set([`${HASH}@6`]));
    expect(stillOf(ids[0]!)).toEqual({ hash: HASH, frame: 6 });
    expect(stillOf(HASH)).toBeNull();
  });

  it('is the same where nothing moves, and blurs where something does', () => {
    const still = newProject('Ostrel', 'O', []);
    expect(shownAt(still, still.looks[0]!.id, still.shots[0]!.id, 6)).toBe(still);
    expect(isPlayed(still)).toBe(false);
    const p = project();
    p.shots[0]!.motion_blur = true;
    expect(momentsOf(p, p.shots[0]!.id, 6, 4)).toHaveLength(4);
    still.shots[0]!.motion_blur = true;
    expect(momentsOf(still, still.shots[0]!.id, 6, 4)).toEqual([6]);
  });

  it('says which number of its playing is wrong', () => {
    const p = project();
    p.pieces.at(-1)!.picture!.plays = { ...plays(), frames: 0, speed: 99 };
    expect(() => openDocument(JSON.parse(JSON.stringify(p)))).toThrow(
      /pieces\[1\]\.picture\.plays\.speed.*pieces\[1\]\.picture\.plays\.frames|pieces\[1\]\.picture\.plays\.frames.*pieces\[1\]\.picture\.plays\.speed/s,
    );
  });
});
