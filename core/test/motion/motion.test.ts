import fc from 'fast-check';
import { applyPatches, enablePatches, type Patch } from 'immer';
import { describe, expect, it } from 'vitest';
import {
  EASES,
  finishAt,
  FLICKERS,
  LETTER_ORDERS,
  MOVE_KINDS,
  newFollow,
  newKey,
  newLight,
  newMove,
  newPose,
  newPiece,
  newProject,
  newTrack,
  openDocument,
  parameterAt,
  parametersIn,
  TRACK_ENDS,
  type Move,
  type Project,
  type Track,
} from '../../src/document/index.ts';
import * as edits from '../../src/edits/index.ts';
import { READY_FINISHES } from '../../src/finish/readyFinishes.ts';
import { easedShare, READY_WAYS } from '../../src/motion/easing.ts';
import { grouped } from '../../src/motion/grouped.ts';
import { flickered } from '../../src/motion/flicker.ts';
import { asNumbers, isKeyed, seenAt } from '../../src/motion/seen.ts';
import { lookedThrough } from '../../src/motion/findings.ts';
import { letterBoxes, standingBoxes } from '../../src/motion/letterBoxes.ts';
import { shownAt } from '../../src/motion/shown.ts';
import { momentsOf } from '../../src/motion/shutter.ts';
import { posesOf } from '../../src/stage/pose.ts';
import { framesOf, lengthOf, timeOf } from '../../src/motion/span.ts';
import { valueOf } from '../../src/motion/tracks.ts';

enablePatches();

const GLOWING = READY_FINISHES.find((f) => f.surface.emission_luminance > 0)!;
/** A word of letters with poses whose second finish glows, three lights, and a shot of two seconds at 24 pictures a second. */
function plain(): Project {
  const p = newProject('Ostrel', 'OSTREL', structuredClone([READY_FINISHES[0], GLOWING]));
  p.looks[0].rig = [newLight('area', 'Key'), newLight('point', 'Lamp'), newLight('spot', 'Rim')];
  p.looks[0].chart = [{ finish: p.finishes[1].id }];
  p.blocks[0].poses = [newPose(p.blocks[0].letters[2], { shift: [0, 0.01, 0], roll: 60, size: 2 })];
  Object.assign(p.shots[0], { seconds: 2, rate: 24 });
  return p;
}
const shotOf = (p: Project) => p.shots[0];
const lamp = (p: Project) => p.looks[0].rig[1];
const of = (p: Project, key: string) => `looks/${p.looks[0].id}/rig/${lamp(p).id}/${key}`;
const glow = (p: Project) => `finishes/${p.finishes[1].id}/surface/emission_luminance`;

const unit = fc.double({ min: 0, max: 1, noNaN: true });
const reach = fc.double({ min: -4, max: 5, noNaN: true });

describe('the way between keys', () => {
  it('is the cubic Bézier curve of its handles, in closed form', () => {
    fc.assert(
      fc.property(unit, reach, unit, reach, unit, (x1, y1, x2, y2, s) => {
        const at = (a: number, b: number) => 3 * (1 - s) ** 2 * s * a + 3 * (1 - s) * s * s * b + s ** 3;
        // where x stands still many places have one time
        const slope = 3 * (1 - s) ** 2 * x1 + 6 * (1 - s) * s * (x2 - x1) + 3 * s * s * (1 - x2);
        fc.pre(slope > 1e-3);
        expect(easedShare({ ease: 'eased', x1, y1, x2, y2 }, at(x1, x2))).toBeCloseTo(at(y1, y2), 8);
      }),
      { numRuns: 500, seed: 20261127 },
    );
  });

  it('begins and ends where the keys are, whichever is chosen', () => {
    for (const { way } of READY_WAYS) {
      expect(easedShare(way, 0)).toBe(0);
      expect(easedShare(way, 1)).toBe(1);
    }
    expect(READY_WAYS).toHaveLength(12);
    const held = READY_WAYS.find((w) => w.way.ease === 'hold')!;
    expect(easedShare(held.way, 0.999)).toBe(0);
  });

  it('stays, closes, goes again or returns after the last key', () => {
    const keys = [newKey(0, [10], { ease: 'linear' }), newKey(1, [20], { ease: 'linear' })];
    const span = { seconds: 4, rate: 24, loops: true };
    const at = (ends: Track['ends'], time: number) => valueOf({ keys, ends }, time, span)[0];
    expect(at('hold', 3)).toBe(20);
    expect(at('close', 2.5)).toBeCloseTo(15, 12);
    expect(at('again', 2.25)).toBeCloseTo(12.5, 12);
    expect(at('return', 1.25)).toBeCloseTo(17.5, 12);
    expect(at('return', 2.25)).toBeCloseTo(12.5, 12);
    expect(valueOf({ keys, ends: 'hold' }, 0.3, span)[0]).toBeCloseTo(13, 12);
  });

  it('closes through the shot’s end and beginning where the first key stands later', () => {
    const keys = [newKey(1, [0], { ease: 'linear' }), newKey(3, [8], { ease: 'linear' })];
    const span = { seconds: 4, rate: 24, loops: true };
    const at = (time: number) => valueOf({ keys, ends: 'close' }, time, span)[0];
    // two seconds from 3 over 4 to 1: half the way at either end
    expect(at(3.5)).toBeCloseTo(6, 12);
    expect(at(0)).toBeCloseTo(4, 12);
    expect(at(0.5)).toBeCloseTo(2, 12);
  });
});

/** Any keys and moves of any parameters of the project. */
const motion = (p: Project) => {
  const addresses = [...parametersIn(p)].filter(({ parameter }) => isKeyed(parameter));
  const number = fc.double({ min: -2000, max: 2000, noNaN: true });
  const track = fc
    .record({
      at: fc.constantFrom(...addresses),
      ends: fc.constantFrom(...TRACK_ENDS),
      late: fc.record({
        letters: fc.constantFrom(...LETTER_ORDERS),
        step: unit,
        seed: fc.integer({ min: 0, max: 99 }),
      }),
      keys: fc.uniqueArray(
        fc.record({
          at: fc.double({ min: 0, max: 3, noNaN: true }),
          value: fc.array(number, { minLength: 3, maxLength: 3 }),
          ease: fc.constantFrom(...EASES),
          x1: unit,
          y1: reach,
          x2: unit,
          y2: reach,
        }),
        { minLength: 1, maxLength: 4, selector: (k) => k.at },
      ),
    })
    .map(({ at, ends, keys, late }): Track => {
      const long = asNumbers(at.owner[at.key]).length;
      const own = keys.map((k) => ({ ...k, value: k.value.slice(0, long) })).sort((a, b) => a.at - b.at);
      return newTrack(at.address, own, { ends, ...late });
    });
  const move = fc
    .record({
      at: fc.constantFrom(...addresses),
      kind: fc.constantFrom(...MOVE_KINDS),
      more: fc.record({
        flicker: fc.constantFrom(...FLICKERS),
        speed: fc.double({ min: 0, max: 20, noNaN: true }),
        amount: fc.double({ min: -100, max: 100, noNaN: true }),
        phase: unit,
        fadeIn: unit,
        fadeOut: unit,
        seed: fc.integer({ min: 0, max: 9999 }),
        letters: fc.constantFrom(...LETTER_ORDERS),
        step: unit,
        axis: fc.integer({ min: -1, max: 2 }),
      }),
    })
    .map(({ at, kind, more }): Move => newMove(kind, at.address, more));
  return fc.record({
    tracks: fc.array(track, { maxLength: 6 }),
    moves: fc.array(move, { maxLength: 6 }),
    frame: fc.double({ min: 0, max: 400, noNaN: true }),
  });
};

describe('a document at a time', () => {
  const p = plain();
  const [look, shot] = [p.looks[0].id, p.shots[0].id];
  const moving = (tracks: Track[], moves: Move[], more: Partial<Project['shots'][number]> = {}): Project => ({
    ...p,
    shots: [{ ...shotOf(p), ...more, tracks, moves }],
  });

  it('is a valid document, whatever moves, and itself where nothing does', () => {
    expect(seenAt(p, shot, 17)).toBe(p);
    expect(shownAt(p, look, shot, 17)).toBe(p);
    let count = 0;
    fc.assert(
      fc.property(motion(p), fc.boolean(), ({ tracks, moves, frame }, loops) => {
        const m = moving(tracks, moves, { loops });
        openDocument(JSON.parse(JSON.stringify(seenAt(m, shot, frame))));
        openDocument(JSON.parse(JSON.stringify(shownAt(m, look, shot, frame))));
        count++;
      }),
      { numRuns: 60, seed: 20261127 },
    );
    expect(count).toBe(60);
  });

  it('closes where the shot loops: the picture after the last is the first, to the bit', () => {
    fc.assert(
      fc.property(
        motion(p),
        fc.constantFrom(24, 25, 29.97, 60),
        fc.double({ min: 0.1, max: 5, noNaN: true }),
        ({ tracks, moves }, rate, seconds) => {
          const m = moving(tracks, moves, { loops: true, rate, seconds });
          const n = framesOf(shotOf(m));
          for (const frame of [0, 1, 7])
            expect(JSON.stringify(shownAt(m, look, shot, n + frame))).toBe(
              JSON.stringify(shownAt(m, look, shot, frame)),
            );
        },
      ),
      { numRuns: 40, seed: 20261127 },
    );
  });

  it('goes on smoothly over the seam: steady moves are as far from the first to the last picture as elsewhere', () => {
    const strength = of(p, 'strength');
    for (const kind of ['swing', 'drift', 'wander', 'breathe'] as const) {
      const m = moving([], [newMove(kind, strength, { speed: 0.37, amount: 0.5, phase: 0.2 })], {
        rate: 240,
      });
      const n = framesOf(shotOf(m));
      const at = (f: number) =>
        (parameterAt(seenAt(m, shot, f), strength)!.owner as { strength: number }).strength;
      const steps = Array.from({ length: n }, (_, f) => Math.abs(at(f + 1) - at(f)));
      expect(Math.max(...steps)).toBeGreaterThan(0);
      expect(steps[n - 1], kind).toBeLessThanOrEqual(1.05 * Math.max(...steps.slice(0, n - 1)));
    }
  });

  it('has turns go all the way round, and angles stay in their range', () => {
    const turn = `blocks/${p.blocks[0].id}/place/turn`;
    const m = moving([], [newMove('turn', turn, { speed: 0.5, amount: 2 * Math.PI })]);
    const at = (f: number) => seenAt(m, shot, f).blocks[0].place.turn;
    expect(at(12)).toBeCloseTo(Math.PI / 2, 12);
    expect(Math.abs(at(24))).toBeCloseTo(Math.PI, 12);
    expect(at(36)).toBeCloseTo(-Math.PI / 2, 12);
    // a speed that would not close is brought to whole rounds
    const odd = moving([], [newMove('turn', turn, { speed: 0.6, amount: 2 * Math.PI })]);
    expect(seenAt(odd, shot, 12).blocks[0].place.turn).toBeCloseTo(at(12), 12);
  });

  it('lets a light pass along the word and back behind it', () => {
    const place = of(p, 'place');
    const m = moving(
      [newTrack(place, [newKey(0, [0, 0.2, 0.3])])],
      [newMove('pass', place, { speed: 0.5, amount: 0.8, axis: -1 })],
    );
    const at = (f: number) => (lamp(seenAt(m, shot, f)) as { place: number[] }).place;
    expect(at(0)[0]).toBeCloseTo(-0.8, 12);
    expect(at(12)).toEqual([expect.closeTo(0, 12), 0.2, expect.closeTo(0.3, 12)]);
    expect(at(24)[0]).toBeCloseTo(0.8, 12);
    expect(at(36)[2]).toBeCloseTo(-0.3, 12);
  });
});

describe('letters that move one after the other', () => {
  const p = plain();
  const [block] = p.blocks;
  const each = (key: string) => `blocks/${block.id}/each/${key}`;
  const keys = [newKey(0.25, [0, 0, 0]), newKey(0.75, [0, 0.1, 0])];
  const shot = {
    ...shotOf(p),
    loops: false,
    tracks: [newTrack(each('shift'), keys, { letters: 'reading', step: 0.125 })],
    moves: [
      newMove('swing', each('tilt'), { speed: 1, amount: 0.5, letters: 'middle', step: 0.25 }),
      newMove('turn', each('turn'), { speed: 0.5, amount: 6 }),
    ],
  };
  const m: Project = { ...p, shots: [shot] };
  const standing = (frame: number) => {
    const [of] = shownAt(m, p.looks[0].id, shot.id, frame).blocks;
    const poseOf = posesOf(of);
    return block.letters.map((l) => poseOf(l));
  };
  /** Every letter as it would be if all moved together. */
  const together = (frame: number) => seenAt(m, shot.id, frame).blocks[0].each;

  it('are each what the first was so much before, by keys and by moves, and what they share they share', () => {
    for (const frame of [0, 7, 15, 22, 30, 41]) {
      const now = standing(frame);
      for (const at of [0, 1, 3, 4, 5]) {
        expect(now[at].shift[1]).toBeCloseTo(together(Math.max(0, frame - 3 * at)).shift[1], 12);
        const out = Math.abs(at - 2.5);
        expect(now[at].tilt).toBeCloseTo(together(Math.max(0, frame - 6 * out)).tilt, 12);
        expect(now[at].turn).toBeCloseTo(together(frame).turn, 12);
      }
    }
    expect(standing(22).map((l) => l.shift[1].toFixed(3))).not.toContain('NaN');
    expect(new Set(standing(15).map((l) => l.shift[1])).size).toBeGreaterThan(3);
  });

  it('do it on top of what a letter does by itself', () => {
    const frame = 20;
    const third = standing(frame)[2];
    expect(third.size).toBe(2);
    expect(third.shift[1]).toBeCloseTo(0.01 + together(frame - 6).shift[1], 12);
  });

  it('leave spaces out of the turn, and the document as it was', () => {
    const before = JSON.stringify(m);
    const spaced = structuredClone(m);
    Object.assign(spaced.blocks[0], edits.withText(spaced.blocks[0], 'OST REL'));
    const [of] = shownAt(spaced, p.looks[0].id, shot.id, 22).blocks;
    expect(posesOf(of)(of.letters[4]).shift).toEqual(standing(22)[3].shift);
    expect(JSON.stringify(m)).toBe(before);
  });
});

describe('flicker', () => {
  it('stays between dark and full light, comes again by its seed, and goes round', () => {
    for (const kind of FLICKERS) {
      const at = (x: number, seed = 3, places = 8) => flickered(kind, x, places, seed);
      const all = Array.from({ length: 400 }, (_, i) => at(i / 50));
      expect(Math.min(...all)).toBeGreaterThanOrEqual(0);
      expect(Math.max(...all)).toBeLessThanOrEqual(1);
      expect(Math.max(...all) - Math.min(...all), kind).toBeGreaterThan(0.2);
      for (let i = 0; i < 40; i++) expect(at(i / 50 + 8)).toBeCloseTo(at(i / 50), 9);
    }
    const tubes = [1, 2].map((seed) =>
      Array.from({ length: 200 }, (_, i) => flickered('tube', i / 10, 0, seed)),
    );
    expect(tubes[0]).not.toEqual(tubes[1]);
    // a faulty tube mostly burns
    expect(tubes[0].filter((v) => v === 1).length).toBeGreaterThan(100);
    expect(tubes[0].filter((v) => v < 1).length).toBeGreaterThan(5);
  });

  it('runs from letter to letter: each is what the one before it was, and what others wear stays', () => {
    const p = plain();
    const shot = shotOf(p);
    const move = newMove('flicker', glow(p), { speed: 3, amount: 1, letters: 'reading', step: 0.25 });
    const m = { ...p, shots: [{ ...shot, moves: [move] }] };
    const worn = (frame: number, letter: number) => {
      const shown = shownAt(m, p.looks[0].id, shot.id, frame);
      const id = finishAt(shown.looks[0].chart, p.blocks[0].id, p.blocks[0].letters[letter], 'front');
      return shown.finishes.find((f) => f.id === id)!.surface.emission_luminance;
    };
    const values = new Set<number>();
    for (let f = 0; f < 48; f += 3) {
      values.add(worn(f, 0));
      for (const letter of [1, 3, 5]) expect(worn(f + 6 * letter, letter)).toBe(worn(f, 0));
    }
    expect(values.size).toBeGreaterThan(1);
    const { finishes } = shownAt(m, p.looks[0].id, shot.id, 5);
    expect(finishes.slice(0, 2).map((f) => f.id)).toEqual(p.finishes.map((f) => f.id));
    expect(finishes).toHaveLength(2 + 6);
  });

  it('is followed by a light, as late as it is told to be', () => {
    const p = plain();
    const shot = shotOf(p);
    lamp(p).follows = newFollow('finish', p.finishes[1].id, { delay: 0.5, offset: 1 });
    shot.moves = [newMove('flicker', glow(p), { speed: 4, amount: 0.9, flicker: 'candle' })];
    const glows = (frame: number) => seenAt(p, shot.id, frame).finishes[1].surface.emission_luminance;
    for (const frame of [0, 5, 20, 40]) {
      const shown = lamp(shownAt(p, p.looks[0].id, shot.id, frame));
      expect(shown.follows).toBeNull();
      // half a second is twelve pictures; before the beginning of a loop is its end
      expect(shown.strength).toBeCloseTo(2 * glows(frame + 48 - 12), 9);
    }
  });
});

describe('edits at a time', () => {
  const start = () => {
    const p = plain();
    shotOf(p).loops = false;
    const key = (at: number, v: number) => newKey(at, [v], { ease: 'linear' });
    shotOf(p).tracks = [newTrack(of(p, 'azimuth'), [key(0, 0), key(1, 1)])];
    shotOf(p).moves = [newMove('breathe', of(p, 'strength'), { speed: 1, amount: 1 })];
    return p;
  };
  const at = (p: Project, frame: number, make: (seen: Project) => edits.Edit) =>
    edits.edited(p, edits.timed(make(seenAt(p, shotOf(p).id, frame)), shotOf(p).id, frame)).project;

  it('key what is keyed, and leave all else of what is seen as it is', () => {
    const p = start();
    const look = p.looks[0].id;
    const next = at(p, 12, (seen) =>
      edits.moveLight(seen, look, lamp(p).id, { azimuth: 0.9, elevation: 0.3 }),
    );
    const [track] = shotOf(next).tracks;
    expect(track.keys.map((k) => [k.at, k.value[0]])).toEqual([
      [0, 0],
      [0.5, 0.9],
      [1, 1],
    ]);
    expect(lamp(next).azimuth).toBe(lamp(p).azimuth);
    expect(lamp(next).elevation).toBeCloseTo(0.3, 12);
    expect(lamp(next).strength).toBe(lamp(p).strength);
    expect(lamp(seenAt(next, shotOf(p).id, 12)).azimuth).toBeCloseTo(0.9, 12);
    // and what is only looked at changes nothing at all
    const looked = edits.edited(p, edits.timed({ label: '', make: () => undefined }, shotOf(p).id, 9));
    expect(looked.project).toBe(p);
    expect(looked.patches).toEqual([]);
  });

  it('go beneath moves: what is seen is what was set', () => {
    const p = start();
    const set = at(p, 12, (seen) => edits.setParameter(seen, of(p, 'strength'), 50));
    expect(shotOf(set).tracks).toHaveLength(1);
    const was = lamp(seenAt(p, shotOf(p).id, 12)).strength;
    expect(lamp(set).strength - lamp(p).strength).toBeCloseTo(50 - was, 9);
  });

  it('leave a parameter as it is seen when its track goes; a thing that goes takes its tracks along', () => {
    const p = start();
    const id = shotOf(p).id;
    const still = at(p, 12, (seen) => edits.removeTrack(seen, id, shotOf(p).tracks[0].id));
    expect(lamp(still).azimuth).toBeCloseTo(0.5, 12);
    const gone = at(p, 12, (seen) => edits.removeLights(seen, p.looks[0].id, [lamp(p).id]));
    expect(shotOf(gone).tracks).toEqual([]);
    expect(shotOf(gone).moves).toEqual([]);
    // an older document put in its place is taken as it is
    expect(at(p, 12, (seen) => edits.replaceDocument(seen, 'Back', plain())).shots[0].tracks).toEqual([]);
  });

  it('are taken back to the same bytes, a hundred of them', () => {
    let p = start();
    const before = JSON.stringify(p);
    const id = shotOf(p).id;
    const inverses: Patch[][] = [];
    const apply = (edit: edits.Edit, frame: number) => {
      const made = edits.edited(p, edits.timed(edit, id, frame));
      inverses.push(made.inverse);
      p = made.project;
    };
    for (let i = 0; i < 100; i++) {
      const frame = (i * 7) % 48;
      const seen = seenAt(p, id, frame);
      const refs = shotOf(p).tracks.flatMap((t) => t.keys.slice(-1).map((k) => ({ track: t.id, at: k.at })));
      const kinds = [
        () => edits.setParameter(seen, of(p, 'azimuth'), i / 60),
        () => edits.keyParameter(seen, id, of(p, 'distance'), timeOf(shotOf(p), frame), 1 + i / 50),
        () => edits.retimeKeys(seen, id, refs, { by: 0.1, copies: i % 3 === 0 }),
        () => edits.changeKeys(seen, id, refs, READY_WAYS[i % 12].way),
        () => edits.setParameter(seen, of(p, 'strength'), i),
        () => edits.removeKeys(seen, id, refs.slice(0, 1)),
        () => edits.addMove(seen, id, 'wander', of(p, 'elevation')),
      ];
      apply(kinds[i % kinds.length](), frame);
    }
    expect(inverses.filter((i) => i.length > 0).length).toBeGreaterThan(80);
    for (const inverse of inverses.reverse()) p = applyPatches(p, inverse);
    expect(JSON.stringify(p)).toBe(before);
  });
});

describe('findings of a shot', () => {
  const centre: [number, number, number] = [0, 0.16, 0];

  const found = (change: (p: Project) => void) => {
    const p = plain();
    shotOf(p).camera.target = [...centre];
    change(p);
    // one letter as wide as the word, a block's own turn about its middle
    const [block] = p.blocks;
    const ink = [[-500, -160, 500, -160, 500, 140, -500, 140]];
    const letters = [{ letter: block.letters[0], outline: ink, x: 0, y: 0, turn: 0 }];
    block.place.position = [0, 0.16, 0];
    const boxes = letterBoxes({ block: block.id, letters, scale: 0.001, reach: [-0.05, 0.05] });
    return [...lookedThrough(p, p.looks[0].id, shotOf(p).id, boxes, centre)].filter((f) => f !== null);
  };
  const linear = (at: number, v: number) => newKey(at, [v], { ease: 'linear' });

  it('tell a loop that jumps by how much, and none that closes', () => {
    const jumps = found((p) => {
      shotOf(p).tracks = [newTrack(of(p, 'strength'), [linear(0, 0), linear(2, 47)])];
    });
    expect(jumps).toEqual([expect.objectContaining({ kind: 'loop jumps' })]);
    // from 46.02 back to 0, where it goes by 0.98 else
    expect((jumps[0] as { times: number }).times).toBeCloseTo(47, 0);
    for (const ends of ['close', 'return'] as const)
      expect(
        found((p) => {
          shotOf(p).tracks = [newTrack(of(p, 'strength'), [linear(0, 0), linear(1, 47)], { ends })];
        }),
      ).toEqual([]);
    expect(
      found((p) => {
        shotOf(p).loops = false;
        shotOf(p).tracks = [newTrack(of(p, 'strength'), [linear(0, 0), linear(2, 47)])];
      }),
    ).toEqual([]);
  });

  it('tell flicker that is too fast, exposure that jumps, and what goes through letters and walls, with the picture', () => {
    expect(
      found((p) => {
        shotOf(p).moves = [newMove('flicker', glow(p), { speed: 20 })];
      }).map((f) => f.kind),
    ).toEqual(['flicker too fast']);
    expect(
      found((p) => {
        const keys = [newKey(0, [0], { ease: 'hold' }), newKey(1, [3], { ease: 'hold' })];
        shotOf(p).tracks = [newTrack(`looks/${p.looks[0].id}/grade/exposure`, keys)];
      }),
    ).toContainEqual({ kind: 'exposure jumps', address: expect.any(String), frame: 24, stops: 3 });
    // the camera goes in from two metres to a hundredth: within 0.05 from 1.86 s on
    const through = found((p) => {
      Object.assign(shotOf(p), { loops: false });
      Object.assign(shotOf(p).camera, { azimuth: 0, elevation: 0 });
      shotOf(p).tracks = [
        newTrack(`shots/${shotOf(p).id}/camera/distance`, [linear(0, 2), linear(1.9, 0.01)]),
      ];
    });
    expect(through).toEqual([{ kind: 'camera in the type', frame: 45 }]);
    expect(
      found((p) => {
        Object.assign(lamp(p), { stands: 'free', place: [-1, 0, 0] });
        shotOf(p).tracks = [
          newTrack(of(p, 'place'), [newKey(0, [-1, 0, 0], { ease: 'linear' }), newKey(2, [1, 0, 0])]),
        ];
        shotOf(p).loops = false;
      }),
    ).toEqual([{ kind: 'light in the type', light: 'Lamp', frame: 13 }]);
  });

  it('tell type that goes through the wall or the floor, where it moves', () => {
    const wall = (p: Project) => {
      p.pieces = [newPiece('wall', { id: 'wall', at: -0.3 }), newPiece('floor', { id: 'floor', at: -0.1 })];
      shotOf(p).loops = false;
    };
    expect(found(wall)).toEqual([]);
    // half a metre wide on either side, it meets the wall 0.3 behind it when it has turned so far
    const turned = found((p) => {
      wall(p);
      const keys = [linear(0, 0), linear(2, Math.PI / 2)];
      shotOf(p).tracks = [newTrack(`blocks/${p.blocks[0].id}/place/turn`, keys)];
    });
    const meets = (frame: number) => {
      const a = ((frame / 48) * Math.PI) / 2;
      return 0.5 * Math.sin(a) + 0.05 * Math.cos(a) > 0.301;
    };
    const [first] = turned;
    expect(first).toMatchObject({ kind: 'type in the wall' });
    const { frame } = first as { frame: number };
    expect([meets(frame - 1), meets(frame)]).toEqual([false, true]);
    const sunk = found((p) => {
      wall(p);
      const keys = [newKey(0, [0, 0, 0], { ease: 'linear' }), newKey(1, [0, -0.24, 0])];
      shotOf(p).tracks = [newTrack(`blocks/${p.blocks[0].id}/each/shift`, keys)];
    });
    // its foot is a tenth over the floor, and it sinks by a hundredth each picture
    expect(sunk).toEqual([expect.objectContaining({ kind: 'type in the floor', frame: 11 })]);
  });

  it('go by boxes as large as letters are where they stand', () => {
    const p = plain();
    const [block] = p.blocks;
    block.each = { ...block.each, size: 2, roll: Math.PI / 2, about: 'foot' };
    block.place = { ...block.place, position: [1, 0, 0], turn: Math.PI };
    const outline = [[0, 0, 100, 0, 100, 300, 0, 300]];
    const letter = { letter: block.letters[0], outline, x: 50, y: 0, turn: 0 };
    const boxes = letterBoxes({ block: block.id, letters: [letter], scale: 0.001, reach: [0, 0.1] });
    const [{ min, max }] = standingBoxes(p, boxes);
    // about (0.1, 0): 0.6 to its left and 0.1 up and down, seen from behind
    [0.9, -0.1, -0.15].forEach((v, k) => expect(min[k]).toBeCloseTo(v, 9));
    [1.5, 0.1, 0.05].forEach((v, k) => expect(max[k]).toBeCloseTo(v, 9));
    expect(
      standingBoxes({ ...p, blocks: [{ ...block, each: { ...block.each, on: false } }] }, boxes),
    ).toEqual([]);
  });
});

describe('the shutter', () => {
  it('is open about its picture, and catches one moment of what does not move', () => {
    const p = plain();
    const shot = shotOf(p);
    Object.assign(shot, { motion_blur: true, shutter: Math.PI });
    expect(momentsOf(p, shot.id, 7, 8)).toEqual([7]);
    shot.moves.push(newMove('swing', of(p, 'azimuth')));
    const moments = momentsOf(p, shot.id, 7, 8);
    expect(moments).toHaveLength(8);
    // half of the time to the next picture, evenly, the picture's own in the middle
    expect(moments[0]).toBeCloseTo(7 - 0.25 + 0.25 / 8, 12);
    expect(moments.reduce((a, b) => a + b) / 8).toBeCloseTo(7, 12);
    expect(momentsOf(p, shot.id, 7, 1)).toEqual([7]);
    shot.motion_blur = false;
    expect(momentsOf(p, shot.id, 7, 8)).toEqual([7]);
  });
});

describe('what moves in a shot', () => {
  it('is gathered by what it belongs to, in the order of the document, each once', () => {
    const p = plain();
    const camera = `shots/${shotOf(p).id}/camera/azimuth`;
    const tilt = `blocks/${p.blocks[0].id}/each/tilt`;
    const exposure = `looks/${p.looks[0].id}/grade/exposure`;
    const all = [camera, of(p, 'strength'), glow(p), exposure, of(p, 'colour'), tilt];
    const groups = grouped(p, [...all, 'looks/gone/rig/x/strength']);
    expect(groups.map(({ name, addresses }) => [name, addresses])).toEqual([
      ['OSTREL', [tilt]],
      [p.finishes[1].name, [glow(p)]],
      ['Lamp', [of(p, 'colour'), of(p, 'strength')]],
      ['Picture', [exposure]],
      ['Camera', [camera]],
    ]);
  });
});

describe('the time of a shot', () => {
  it('goes round by its pictures, and lasts as long as they do', () => {
    const span = { seconds: 2, rate: 25, loops: true };
    expect(framesOf(span)).toBe(50);
    expect(timeOf(span, 50)).toBe(0);
    expect(timeOf(span, 75)).toBe(1);
    expect(timeOf({ ...span, loops: false }, 75)).toBe(3);
    expect(lengthOf({ seconds: 0.999, rate: 24, loops: true })).toBe(1);
    expect(framesOf({ seconds: 0.01, rate: 24, loops: false })).toBe(1);
  });
});
