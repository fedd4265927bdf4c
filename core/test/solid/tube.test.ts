import { beforeAll, describe, expect, it } from 'vitest';
import { TUBE_ZONES } from '../../src/document/index.ts';
import { centreStrokes } from '../../src/plane/centreline.ts';
import { measured } from '../../src/plane/curve.ts';
import { diagramOf } from '../../src/plane/diagram.ts';
import type { Contour } from '../../src/plane/flatten.ts';
import { joined, loadRegions, merged } from '../../src/plane/region.ts';
import { SHIPPED_FONTS } from '../../src/type/shippedFonts.ts';
import { crossings, openEdges, volume } from '../../src/solid/soundness.ts';
import { buildLetterTube, buildTube, buildTubes, type TubeShape } from '../../src/solid/tube.ts';
import { kernelOver } from '../trace/kernelFixture.ts';
import { distanceTo, openShipped } from '../type/fixture.ts';

beforeAll(() => loadRegions());

const box = (x0: number, y0: number, x1: number, y1: number): Contour[] => [
  Float64Array.from([x0, y0, x1, y0, x1, y1, x0, y1]),
];
const shape: TubeShape = {
  course: 'centre',
  diameter: 30,
  wall: 3,
  inset: 20,
  tightest: 1.5,
  smoothing: 0.5,
  electrodes: true,
  electrode: 40,
  standOff: 60,
  supports: 300,
  paintOuts: [],
};
const strokeOf = (x: number[], y: number[], closed = false) => measured(x, y, closed);
const circle = (r: number, n = 200) => {
  const angles = Array.from({ length: n + 1 }, (_, i) => (2 * Math.PI * i) / n);
  return strokeOf(
    angles.map((a) => r * Math.cos(a)),
    angles.map((a) => r * Math.sin(a)),
    true,
  );
};

describe('centre lines', () => {
  it('of a bar run along its middle to the margin from its ends', () => {
    const [stroke, ...others] = centreStrokes(diagramOf(box(0, 0, 100, 900))!, 0.5, 15);
    expect(others).toEqual([]);
    for (const x of stroke.x) expect(Math.abs(x - 50)).toBeLessThan(0.02 * 100);
    expect(Math.max(...stroke.y)).toBeCloseTo(885, 0);
    expect(Math.min(...stroke.y)).toBeCloseTo(15, 0);
  });

  it('of hand-drawn letters have hand-computed lengths', () => {
    const letters: [string, Contour[], number, number][] = [
      // strokes, and length of all of them, ends 15 short of the outline, junctions met in the middle
      ['I', box(0, 0, 100, 700), 1, 670],
      ['T', joined(box(0, 600, 500, 700), box(200, 0, 300, 600)), 2, 470 + 635],
      ['L', joined(box(0, 0, 100, 700), box(0, 0, 400, 100)), 1, 635 + 335],
      ['X of bars', joined(box(0, 300, 700, 400), box(300, 0, 400, 700)), 2, 670 * 2],
      [
        'E',
        joined(
          joined(box(0, 0, 100, 700), box(0, 0, 400, 100)),
          joined(box(0, 600, 400, 700), box(0, 300, 400, 400)),
        ),
        2,
        600 + 2 * 335 + 335,
      ],
    ];
    for (const [name, region, count, length] of letters) {
      const strokes = centreStrokes(diagramOf(region)!, 0, 15);
      expect(strokes.length, name).toBe(count);
      const whole = strokes.reduce((sum, s) => sum + s.length.at(-1)!, 0);
      expect(Math.abs(whole / length - 1), `${name}: ${whole}`).toBeLessThan(0.04);
    }
  });

  it('of a ring is one closed stroke round its middle', () => {
    const ring = (r: number, way: number) =>
      Float64Array.from(
        Array.from({ length: 120 }, (_, i) => {
          const a = (way * 2 * Math.PI * i) / 120;
          return [r * Math.cos(a), r * Math.sin(a)];
        }).flat(),
      );
    const [stroke, ...others] = centreStrokes(diagramOf([ring(300, 1), ring(200, -1)])!, 0.5, 15);
    expect(others).toEqual([]);
    expect(stroke.closed).toBe(true);
    stroke.x.forEach((x, i) => expect(Math.abs(Math.hypot(x, stroke.y[i]) - 250)).toBeLessThan(2));
    expect(stroke.length.at(-1)! / (2 * Math.PI * 250)).toBeCloseTo(1, 2);
  });

  it.each(['varela-round', 'fredoka', 'archivo-black'])(
    'of %s stay in the middle of its strokes and have no spurs shorter than them',
    async (id) => {
      const font = await openShipped(id);
      for (const character of 'OSTREL') {
        const region = merged(font.outline(font.shape(character)[0].glyph));
        const strokes = centreStrokes(diagramOf(region)!, 0.2, 10);
        expect(strokes.length).toBeGreaterThan(0);
        for (const s of strokes) {
          expect(s.closed || s.length.at(-1)! > 2 * Math.min(...s.half), `${character}`).toBe(true);
          if (!s.closed && s.length.at(-1)! < 6 * Math.max(...s.half)) continue;
          // away from ends and junctions the distance to the outline is the half width
          const off: number[] = [];
          s.x.forEach((x, i) =>
            off.push(Math.abs(distanceTo(region, x, s.y[i]) - s.half[i]) / (2 * s.half[i])),
          );
          off.sort((a, b) => a - b);
          expect(off[off.length >> 1], character).toBeLessThan(0.02);
        }
      }
    },
  );
});

describe('bent tubes', () => {
  it('have the volume of their glass, gas and length', () => {
    const line = strokeOf([0, 1000], [0, 0]);
    const solid = buildTube([line], { ...shape, supports: 0 });
    expect(openEdges(solid.positions)).toBe(0);
    expect(solid.tube.length).toBeCloseTo(1000, 3);
    const inside = 15 - 3;
    const glass = Math.PI * 15 ** 2 * 1000 + (4 / 3) * Math.PI * 15 ** 3;
    const reach = 1000 - 2 * (40 + 0.9 + inside);
    const gas = Math.PI * inside ** 2 * reach + (4 / 3) * Math.PI * inside ** 3;
    const electrodes = 2 * Math.PI * (inside * 0.72) ** 2 * 40;
    expect(volume(solid.positions) / (glass + gas + electrodes)).toBeGreaterThan(0.96);
    expect(volume(solid.positions) / (glass + gas + electrodes)).toBeLessThan(1);
  });

  it('too short for gas between their electrodes go without them', () => {
    for (const length of [60, 90, 110, 140, 200]) {
      const solid = buildTube([strokeOf([0, length], [0, 0])], shape);
      expect(openEdges(solid.positions)).toBe(0);
      expect(crossings(solid.positions, kernelOver(solid.positions)), `${length}`).toBe(0);
    }
  });

  it('say where they bend too tightly and how much, and only there', () => {
    expect(buildTube([circle(200)], shape).tube.bends).toEqual([]);
    const [bend, ...others] = buildTube([circle(40)], { ...shape, electrodes: false }).tube.bends;
    expect(others).toEqual([]);
    expect(Math.abs(bend.radius / 40 - 1)).toBeLessThan(0.03);
    expect(buildTube([circle(40)], { ...shape, tightest: 1 }).tube.bends).toEqual([]);
  });

  it('paint stretches out without opening the glass', () => {
    const line = strokeOf([0, 500, 1000], [0, 0, 0]);
    const zoneTriangles = (s: ReturnType<typeof buildTube>, zone: string) => {
      const k = s.zones.indexOf(zone as never);
      return s.zoneStarts[k + 1] - s.zoneStarts[k];
    };
    const plain = buildTube([line], shape);
    expect(zoneTriangles(plain, 'paintOut')).toBe(0);
    const painted = buildTube([line], { ...shape, paintOuts: [{ stroke: 0, from: 0.25, to: 0.5 }] });
    expect(openEdges(painted.positions)).toBe(0);
    const k = painted.zones.indexOf('paintOut');
    let [low, high] = [Infinity, -Infinity];
    for (let i = painted.zoneStarts[k] * 9; i < painted.zoneStarts[k + 1] * 9; i += 3) {
      low = Math.min(low, painted.positions[i]);
      high = Math.max(high, painted.positions[i]);
    }
    expect(low).toBeCloseTo(250, 1);
    expect(high).toBeCloseTo(500, 1);
  });

  it('pass over each other where they cross, and end before those they meet', () => {
    const cross = buildTube([strokeOf([-400, 400], [0, 0]), strokeOf([0, 0], [-400, 400])], shape);
    expect(cross.box![5] - (60 + 30)).toBeGreaterThan(30);
    expect(crossings(cross.positions, kernelOver(cross.positions))).toBe(0);
    const meet = buildTube([strokeOf([-400, 400], [0, 0]), strokeOf([0, 0], [-400, 0])], shape);
    expect(meet.box![5]).toBeCloseTo(90, 3);
    expect(crossings(meet.positions, kernelOver(meet.positions))).toBe(0);
    expect(meet.tube.strokes[1].length).toBeLessThan(400 - 30);
  });

  it('let one that crosses them near their end pass over, and stay whole', () => {
    // the second would have to rise within 40 of its end; the first has room
    const [bar, post] = [strokeOf([-400, 400], [0, 0]), strokeOf([0, 0], [40, -600])];
    for (const lines of [
      [bar, post],
      [post, bar],
    ]) {
      const [solid] = buildTubes([{ lines, shape: { ...shape, supports: 0 } }]);
      const lengths = solid.tube.strokes.map((s) => s.length).sort((a, b) => a - b);
      expect(lengths[0]).toBeCloseTo(640, 0);
      expect(lengths[1]).toBeGreaterThan(800);
      expect(crossings(solid.positions, kernelOver(solid.positions))).toBe(0);
    }
  });

  it('of several sets are kept apart as those of one are, and stay in their sets', () => {
    const lines = [
      strokeOf([-400, 400], [0, 0]),
      strokeOf([0, 0], [-400, 400]),
      strokeOf([-300, 0], [300, 18]),
    ];
    const together = buildTube(lines, shape);
    const sets = buildTubes(lines.map((l) => ({ lines: [l], shape })));
    expect(sets.map((s) => s.tube.strokes)).toEqual(together.tube.strokes.map((s) => [s]));
    expect(sets.reduce((sum, s) => sum + s.positions.length, 0)).toBe(together.positions.length);
    expect(sets[1].box![5]).toBeGreaterThan(sets[0].box![5] + 30);
  });

  it('inside the edges of thin strokes tell that they lie on each other, and in wide ones do not', () => {
    const edges = { ...shape, course: 'edges' as const, electrodes: false };
    expect(buildLetterTube(box(0, 0, 300, 900), edges).tube.crowded).toEqual([]);
    // sides 66 wide leave 26 between the courses, and tubes are 30 thick
    const { crowded, strokes } = buildLetterTube(box(0, 0, 66, 900), edges).tube;
    expect(crowded.length).toBeGreaterThan(0);
    const lying = crowded.reduce((sum, c) => sum + c.length, 0);
    expect(lying).toBeGreaterThan(600);
    expect(lying).toBeLessThan(900);
    for (const { stroke, from, to, length } of crowded) {
      const { x, y } = strokes[stroke];
      let sum = 0;
      for (let i = from; i < to; i++) sum += Math.hypot(x[i + 1] - x[i], y[i + 1] - y[i]);
      expect(sum).toBeCloseTo(length, 6);
    }
    // opened for electrodes it runs along itself all the same
    const opened = buildLetterTube(box(0, 0, 66, 900), { ...edges, electrodes: true }).tube;
    expect(opened.length).toBeGreaterThan(1500);
    expect(opened.crowded.reduce((sum, c) => sum + c.length, 0)).toBeGreaterThan(600);
    // a crossing is none
    expect(
      buildTube([strokeOf([-400, 400], [0, 0]), strokeOf([0, 0], [-400, 400])], shape).tube.crowded,
    ).toEqual([]);
  });

  it('by the dozen in one knot are still laid over each other, none left out', () => {
    const lines = Array.from({ length: 60 }, (_, i) => {
      const a = (i * Math.PI) / 60;
      return strokeOf(
        [-2000 * Math.cos(a), 2000 * Math.cos(a)],
        [-2000 * Math.sin(a) + 5 * i, 2000 * Math.sin(a)],
      );
    });
    const { tube, positions } = buildTube(lines, { ...shape, diameter: 8, supports: 0, electrodes: false });
    expect(tube.strokes).toHaveLength(60);
    expect(openEdges(positions)).toBe(0);
  });

  it('stand off the wall by their distance on supports of that length', () => {
    const { zones, zoneStarts, positions, box: b } = buildTube([strokeOf([0, 900], [0, 0])], shape);
    expect(b![2]).toBe(0);
    const glass = zones.indexOf('glass');
    let back = Infinity;
    for (let i = zoneStarts[glass] * 9 + 2; i < zoneStarts[glass + 1] * 9; i += 3) {
      back = Math.min(back, positions[i]);
    }
    expect(back).toBeCloseTo(60, 3);
    const support = zones.indexOf('standOff');
    expect(zoneStarts[support + 1] - zoneStarts[support]).toBeGreaterThan(0);
  });

  it.each(SHIPPED_FONTS.map((f) => f.id))('of %s are closed, outward and cross nothing', async (id) => {
    const font = await openShipped(id);
    for (const [i, character] of [...'Sgm&8w'].entries()) {
      const region = merged(font.outline(font.shape(character)[0].glyph));
      for (const diameter of i % 2 ? [14] : [30]) {
        const solid = buildLetterTube(region, { ...shape, diameter, wall: diameter / 10 });
        expect(openEdges(solid.positions), character).toBe(0);
        expect(solid.zones).toEqual(TUBE_ZONES);
        if (solid.tube.length === 0) continue;
        expect(volume(solid.positions)).toBeGreaterThan(0);
        expect(crossings(solid.positions, kernelOver(solid.positions)), `${character} ${diameter}`).toBe(0);
      }
      const edges = buildLetterTube(region, { ...shape, diameter: 14, wall: 1.5, course: 'edges' });
      expect(openEdges(edges.positions), `${character} edges`).toBe(0);
    }
  });

  it('that turn sharp corners are evened out until their inner side does not fold over', () => {
    for (const [x, y] of [
      [
        [0, 300, 300],
        [0, 0, 300],
      ],
      [
        [0, 300, 150],
        [0, 0, 260],
      ],
    ]) {
      const solid = buildTube([strokeOf(x, y)], { ...shape, supports: 0 });
      expect(openEdges(solid.positions)).toBe(0);
      expect(crossings(solid.positions, kernelOver(solid.positions))).toBe(0);
    }
  });

  it('that run along each other for very long are laid, however many points lie beside each other', () => {
    const lines = [strokeOf([0, 100_000], [0, 0]), strokeOf([40, 99_900], [2, 2])];
    const [{ tube }] = buildTubes([{ lines, shape: { ...shape, supports: 0 } }]);
    expect(tube.strokes).toHaveLength(2);
    expect(tube.crowded.reduce((sum, c) => sum + c.length, 0)).toBeGreaterThan(99_000);
  });

  it('that end at themselves end before, and stand on no support through themselves', () => {
    const turns = Array.from({ length: 61 }, (_, i) => (i / 60) * 2 * Math.PI);
    // round once and straight through the start
    const loop = strokeOf(
      [...turns.map((a) => 200 * Math.sin(a)), 60],
      [...turns.map((a) => 200 - 200 * Math.cos(a)), 0],
    );
    const { tube, positions } = buildTube([loop], { ...shape, supports: 40 });
    expect(tube.strokes[0].length).toBeLessThan(2 * Math.PI * 200);
    expect(crossings(positions, kernelOver(positions))).toBe(0);
    const eight = strokeOf(
      turns.map((a) => 300 * Math.sin(2 * a + 1)),
      turns.map((a) => 400 * Math.sin(a + 0.5)),
    );
    const crossed = buildTube([eight], { ...shape, supports: 60 });
    expect(crossings(crossed.positions, kernelOver(crossed.positions))).toBe(0);
    expect(crossed.box![5]).toBeGreaterThan(60 + 30 + 30);
  });
});

describe('dots', () => {
  it('of i and j become beads as wide as the tube, glowing to their ends; the stems stay strokes', async () => {
    for (const id of ['varela-round', 'alfa-slab-one', 'fredoka', 'archivo-black'] as const) {
      const font = await openShipped(id);
      for (const letter of 'ij') {
        const region = merged(font.outline(font.shape(letter)[0].glyph));
        const strokes = centreStrokes(diagramOf(region)!, 0.5, shape.diameter / 2);
        const dots = strokes.filter((s) => s.dot);
        expect([id, letter, dots.length]).toEqual([id, letter, 1]);
        const solid = buildLetterTube(region, shape);
        expect(openEdges(solid.positions)).toBe(0);
        const bead = solid.tube.strokes.filter((s) => s.length < shape.diameter);
        expect(bead).toHaveLength(1);
        // over the stem, and round: no longer than wide
        const others = solid.tube.strokes.filter((s) => s !== bead[0]);
        expect(bead[0].y[0]).toBeGreaterThan(Math.max(...others.flatMap((s) => s.y)));
        expect(bead[0].length).toBeLessThan(0.1 * shape.diameter);
      }
    }
  });

  it('are no dots where a stroke is short but no blob', () => {
    const dash = centreStrokes(diagramOf(box(0, 0, 300, 100))!, 0.5, 15);
    expect(dash.map((s) => s.dot === true)).toEqual([false]);
  });
});
