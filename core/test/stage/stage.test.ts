import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { aspectOf, newCamera, newPiece, newShot, type Camera, type Piece } from '../../src/document/index.ts';
import {
  cameraFrame,
  fitted,
  frontView,
  inFrame,
  rayOf,
  standingHeight,
  type Box,
} from '../../src/stage/camera.ts';
import { lensRadius, sharpBetween, sharpFor, SHARP, spotOf } from '../../src/stage/lens.ts';
import { filling, pieceTransform, pieceTriangles } from '../../src/stage/pieces.ts';
import { sizeHandles } from '../../src/stage/sizing.ts';
import { openEdges, volume } from '../../src/solid/soundness.ts';

const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const aCamera = fc
  .record({
    target: fc.tuple(number(-3, 3), number(-3, 3), number(-3, 3)),
    azimuth: number(-3, 3),
    elevation: number(-1.4, 1.4),
    distance: number(0.1, 50),
    focal: number(12, 200),
    roll: number(-3, 3),
    shift_x: number(-0.5, 0.5),
    shift_y: number(-0.5, 0.5),
    sensor: number(10, 60),
    view: fc.constantFrom('perspective' as const, 'parallel' as const),
  })
  .map((changes) => newCamera(changes));
const dot = (a: readonly number[], b: readonly number[]) => a.reduce((sum, v, i) => sum + v * b[i], 0);
const box: Box = { min: [-1.2, 0, -0.1], max: [1.4, 0.4, 0.05] };

/** Where a point is in the frame: −1 to 1 across and up. */
function seen(camera: Camera, aspect: number, point: readonly number[]): [number, number] {
  const { across, up } = inFrame(cameraFrame(camera, aspect), point);
  return [across, up];
}
const cornersOf = ({ min, max }: Box) =>
  Array.from({ length: 8 }, (_, k) => [0, 1, 2].map((i) => ((k >> i) & 1 ? max : min)[i]));

describe('the camera', () => {
  it('has an upright orthonormal frame that looks at its target from its distance', () => {
    fc.assert(
      fc.property(aCamera, (camera) => {
        const { position, forward, right, up } = cameraFrame(camera, 1.5);
        for (const [a, b, product] of [
          [forward, forward, 1],
          [right, right, 1],
          [up, up, 1],
          [forward, right, 0],
          [forward, up, 0],
          [right, up, 0],
        ] as const)
          expect(dot(a, b)).toBeCloseTo(product, 9);
        const level = cameraFrame({ ...camera, roll: 0 }, 1.5);
        expect(level.right[1]).toBe(0);
        expect(level.up[1]).toBeGreaterThan(0);
        // leaned to its right, the camera's own right points down
        expect(right[1]).toBeCloseTo(-level.up[1] * Math.sin(camera.roll), 9);
        camera.target.forEach((v, i) => expect(position[i] + forward[i] * camera.distance).toBeCloseTo(v, 6));
      }),
    );
  });

  it('fitted shows all of a box, touching the frame where it must', () => {
    fc.assert(
      fc.property(aCamera, (any) => {
        const camera = { ...any, shift_x: 0, shift_y: 0 };
        const shot = { ...newShot(), camera };
        const aspect = aspectOf(shot);
        const at = cornersOf(box).map((c) => seen(fitted(shot, box, 1), aspect, c));
        const most = Math.max(...at.flat().map(Math.abs));
        expect(most).toBeLessThan(1 + 1e-6);
        expect(most).toBeGreaterThan(0.97);
        // the margin leaves room
        const roomy = cornersOf(box).map((c) => seen(fitted(shot, box, 1.5), aspect, c));
        expect(Math.max(...roomy.flat().map(Math.abs))).toBeLessThan(0.8);
      }),
    );
  });

  it('sees along the ray it says a place of the frame sees, whatever its roll, shift and view', () => {
    fc.assert(
      fc.property(aCamera, number(-1, 1), number(-1, 1), number(0.5, 9), (camera, x, y, far) => {
        const frame = cameraFrame(camera, 1.6);
        const { origin, direction } = rayOf(frame, x, y);
        const at = inFrame(
          frame,
          origin.map((v, i) => v + direction[i] * far),
        );
        expect(at.across).toBeCloseTo(x, 6);
        expect(at.up).toBeCloseTo(y, 6);
        expect(at.depth).toBeCloseTo(far, 6);
        // the middle of a box that is fitted is the middle of the picture, shifted or not
        const middle = inFrame(
          cameraFrame(fitted({ ...newShot(), camera }, box), 16 / 9),
          [0.1, 0.2, -0.025],
        );
        expect(Math.hypot(middle.across, middle.up)).toBeLessThan(1e-6);
      }),
    );
  });

  it('in front view looks straight on and a little down, at the middle', () => {
    const camera = frontView({ ...newShot(), camera: { ...newShot().camera, azimuth: 2 } }, box);
    expect(camera.azimuth).toBe(0);
    expect(camera.elevation).toBeGreaterThan(0);
    expect(camera.target).toEqual([0.1, 0.2, -0.025].map((v) => expect.closeTo(v, 12)));
  });

  it('stands type on a floor by its lowest ink', () => {
    expect(standingHeight([-1, -0.25, 1, 0.3], 0.1)).toBeCloseTo(0.35, 12);
  });
});

describe('the lens', () => {
  const lens = fc.record({
    focal: number(12, 200),
    sensor: number(10, 60),
    aperture: number(0.5, 22),
    focus: number(0.3, 20),
  });

  it('makes spots as the thin lens does, in the closed form of its circle of confusion', () => {
    fc.assert(
      fc.property(lens, number(0.3, 50), (l, d) => {
        // the light that comes together at d runs on to the frame, as wide as the lens where it starts
        const f = l.focal / 1000;
        const [image, sharp] = [1 / (1 / f - 1 / d), 1 / (1 / f - 1 / l.focus)];
        fc.pre(d > 2 * f && l.focus > 2 * f);
        const onFrame = (2 * lensRadius(l) * Math.abs(sharp - image)) / image;
        // a frame that goes back to focus takes in less, by as much as it goes back
        const share = (onFrame * (f / sharp)) / (l.sensor / 1000);
        expect(spotOf(l, d)).toBeCloseTo(share, 9);
      }),
    );
  });

  it('is sharp between its limits, and has both ends sharp that it was solved for', () => {
    fc.assert(
      fc.property(lens, number(0.5, 4), number(0.05, 3), (l, a, deep) => {
        const { near, far } = sharpBetween(l);
        expect(spotOf(l, near)).toBeCloseTo(SHARP, 12);
        if (far < Infinity) expect(spotOf(l, far)).toBeCloseTo(SHARP, 9);
        const solved = { ...l, ...sharpFor(l, a + deep, a) };
        expect(spotOf(solved, a)).toBeCloseTo(SHARP, 12);
        expect(spotOf(solved, a + deep)).toBeCloseTo(SHARP, 12);
        expect(sharpBetween(solved).near).toBeCloseTo(a, 9);
        expect(sharpBetween(solved).far).toBeCloseTo(a + deep, 6);
      }),
    );
  });
});

describe('pieces', () => {
  const piece = (kind: Piece['kind'], at: number): Piece => newPiece(kind, { id: 'p', at });
  const triangles = (p: Piece) => {
    const { positions, normals, tangents, uv } = pieceTriangles(p, box);
    expect(normals).toHaveLength(positions.length);
    expect(tangents).toHaveLength(positions.length);
    expect(uv).toHaveLength((positions.length / 3) * 4);
    return { positions, normals, tangents, uv };
  };

  it.each([
    ['floor', 1, -0.3],
    ['wall', 2, -0.8],
  ] as const)('%s lies flat at its place, facing the type, well beyond it', (kind, axis, at) => {
    const { positions, normals } = triangles(piece(kind, at));
    const reach = [0, 1, 2].map((k) => {
      const values = [...positions].filter((_, i) => i % 3 === k);
      return [Math.min(...values), Math.max(...values)];
    });
    expect(reach[axis]).toEqual([expect.closeTo(at, 6), expect.closeTo(at, 6)]);
    for (const k of [0, 1, 2]) if (k !== axis) expect(reach[k][1] - reach[k][0]).toBeGreaterThan(40);
    for (let i = 0; i < normals.length; i++) expect(normals[i]).toBe(i % 3 === axis ? 1 : 0);
  });

  it('backdrop sweeps from the floor under the type into a wall behind it without an edge', () => {
    const { positions, normals, tangents } = triangles(piece('backdrop', -3));
    const section = new Map<string, number[]>();
    for (let i = 0; i < positions.length; i += 3) {
      const [y, z] = [positions[i + 1], positions[i + 2]];
      expect(y).toBeGreaterThan(-1e-6);
      expect(z).toBeGreaterThan(-3 - 1e-6);
      const n = [normals[i], normals[i + 1], normals[i + 2]];
      expect(Math.hypot(...n)).toBeCloseTo(1, 5);
      expect(dot(n, [...tangents.subarray(i, i + 3)])).toBeCloseTo(0, 5);
      section.set(`${y.toFixed(4)} ${z.toFixed(4)}`, n);
    }
    // on the way up the normal turns from up to forward, in small steps
    const swept = [...section]
      .map(([at, n]) => ({ y: Number(at.split(' ')[0]), n }))
      .sort((a, b) => a.y - b.y);
    for (let i = 1; i < swept.length; i++) {
      const turned = Math.acos(Math.min(1, dot(swept[i].n, swept[i - 1].n)));
      expect(turned).toBeLessThan(0.06);
    }
    expect(swept[0].n[1]).toBeCloseTo(1, 6);
    expect(swept.at(-1)!.n[2]).toBeCloseTo(1, 6);
  });

  it.each([
    ['table', { width: 1.4, depth: 0.6, thickness: 0.04, radius: 0.1 }, 1.4, 0.04, 0.6],
    ['table', { width: 0.5, depth: 0.5, thickness: 0.02, radius: 0 }, 0.5, 0.02, 0.5],
  ] as const)('%s is a closed slab of its size, its top at its height', (kind, sizes, w, h, d) => {
    const { positions, normals } = triangles({ ...piece(kind, 0.7), ...sizes });
    expect(openEdges(positions)).toBe(0);
    // its edges are broken, its corners round
    const whole = w * h * d;
    expect(volume(positions)).toBeLessThan(whole);
    expect(volume(positions)).toBeGreaterThan(whole * 0.95);
    const ys = [...positions].filter((_, i) => i % 3 === 1);
    expect(Math.max(...ys)).toBeCloseTo(0.7, 6);
    expect(Math.min(...ys)).toBeCloseTo(0.7 - h, 6);
    for (let i = 0; i < positions.length; i += 9) {
      const at = (k: number) => [...positions.subarray(i + k * 3, i + k * 3 + 3)];
      const [e, f] = [1, 2].map((k) => at(k).map((v, c) => v - at(0)[c]));
      const face = [e[1] * f[2] - e[2] * f[1], e[2] * f[0] - e[0] * f[2], e[0] * f[1] - e[1] * f[0]];
      for (let k = 0; k < 3; k++)
        expect(dot(face, [...normals.subarray(i + k * 3, i + k * 3 + 3)])).toBeGreaterThan(0);
    }
  });

  it('grid has lines of its thickness at its spacing, one in the middle, and never too many', () => {
    const grid = (more: Partial<Piece>) =>
      triangles({ ...piece('grid', -1), width: 2, height: 1, spacing: 0.25, thickness: 0.01, ...more });
    const { positions } = grid({});
    const xs = new Set<string>();
    for (let i = 0; i < positions.length; i += 3)
      if (Math.abs(positions[i + 2] + 0.995) < 1e-4) xs.add(positions[i].toFixed(3));
    const cx = (box.min[0] + box.max[0]) / 2;
    for (const line of [-1, -0.25, 0, 0.5, 1])
      for (const edge of [-0.005, 0.005]) expect(xs).toContain((cx + line + edge).toFixed(3));
    // eight sides and ends of lines at the most a place
    expect(grid({ spacing: 0.001 }).positions.length / 9).toBeLessThan(2 * 200 * 8 * 8 + 1);
  });

  it('niche has a floor under the type, a wall behind it and one at its left, all facing in', () => {
    const { positions, normals } = triangles({ ...piece('niche', -1), width: 2, height: 1, depth: 1.5 });
    const facing = new Map<string, number[][]>();
    for (let i = 0; i < positions.length; i += 3) {
      const n = normals.subarray(i, i + 3).join();
      facing.set(n, [...(facing.get(n) ?? []), [...positions.subarray(i, i + 3)]]);
    }
    const cx = (box.min[0] + box.max[0]) / 2;
    expect(facing.get('0,1,0')!.every((p) => Math.abs(p[1] - box.min[1]) < 1e-6)).toBe(true);
    expect(facing.get('0,0,1')!.every((p) => Math.abs(p[2] + 1) < 1e-6)).toBe(true);
    expect(facing.get('1,0,0')!.every((p) => Math.abs(p[0] - (cx - 1)) < 1e-6)).toBe(true);
    expect(facing.size).toBe(3);
  });

  it('plate that fills the frame is seen to its edges, whatever the camera', () => {
    const of = (aspect: number) => {
      fc.assert(
        fc.property(aCamera, number(-5, -0.1), (camera, at) => {
          const { width, transform: m } = filling({ at }, camera, 16 / 9, aspect);
          const sides = [width / 2, width / aspect / 2];
          const places = [-1, 1].flatMap((x) => [-1, 1].map((y) => [x * sides[0], y * sides[1]]));
          const seen = places.map(([x, y]) => {
            const world = [0, 1, 2].map((r) => m[r * 4] * x + m[r * 4 + 1] * y + m[r * 4 + 3]);
            return inFrame(cameraFrame(camera, 16 / 9), world);
          });
          // it touches two sides, and reaches beyond the other two by its shape
          const [across, up] = [Math.max(1, (aspect * 9) / 16), Math.max(1, 16 / 9 / aspect)];
          for (const s of seen) {
            expect(Math.abs(Math.abs(s.across) / across - 1)).toBeLessThan(1e-4);
            expect(Math.abs(Math.abs(s.up) / up - 1)).toBeLessThan(1e-4);
          }
        }),
        { numRuns: 60 },
      );
    };
    of(16 / 9);
    of(1);
    of(3);
  });

  it('are taken by their sizes where they end, which stay so far from what stays', () => {
    const axis = { width: 0, height: 1, depth: 2, size: 1 } as const;
    const sized = { width: 1.4, height: 0.9, depth: 0.6 };
    for (const kind of ['floor', 'wall', 'backdrop', 'table', 'niche', 'grid', 'plate'] as const) {
      const piece = newPiece(kind, { at: -0.3, stands: 'free', ...sized });
      const { positions } = pieceTriangles(piece, box);
      const handles = sizeHandles(piece, box);
      expect(handles.length, kind).toBeGreaterThan(0);
      for (const { parameter, to, now } of handles) {
        const k = axis[parameter];
        const ends = Math.max(...positions.filter((_, i) => i % 3 === k));
        // a grid ends with its last line
        const near = kind === 'grid' ? piece.spacing : 1e-6;
        expect(Math.abs(to[k] - ends), `${parameter} of the ${kind}`).toBeLessThan(near);
        expect(now).toBe(sized[parameter as 'width']);
      }
      // moved and turned, what is dragged is as far from what stays as before
      const moved = { ...piece, move: [1, 2, 3], turn: 0.7, tilt: -0.4, roll: 0.2 };
      for (const [i, { from, to }] of sizeHandles(moved, box).entries())
        expect(Math.hypot(...to.map((v, k) => v - from[k]!))).toBeCloseTo(
          Math.hypot(...handles[i]!.to.map((v, k) => v - handles[i]!.from[k]!)),
          9,
        );
    }
    // what reaches further than is seen has none, nor what goes by the frame
    expect(sizeHandles(newPiece('floor', {}), box)).toEqual([]);
    expect(sizeHandles(newPiece('plate', { stands: 'frame' }), box)).toEqual([]);
    expect(sizeHandles(newPiece('model', { size: 0.02 }), box).map((h) => [h.parameter, h.now])).toEqual([
      ['size', 0.02],
    ]);
  });

  it('turn about their foot and go where they are moved', () => {
    const m = pieceTransform({ ...piece('wall', -2), turn: Math.PI / 2, move: [0.5, 0, 0] }, box);
    const carried = (p: number[]) =>
      [0, 4, 8].map((r) => m[r] * p[0] + m[r + 1] * p[1] + m[r + 2] * p[2] + m[r + 3]);
    const cx = (box.min[0] + box.max[0]) / 2;
    const foot = carried([cx, box.min[1], -2]);
    [cx + 0.5, box.min[1], -2].forEach((v, i) => expect(foot[i]).toBeCloseTo(v, 6));
    // what was a metre to the right is a metre behind
    const right = carried([cx + 1, box.min[1], -2]);
    [cx + 0.5, box.min[1], -3].forEach((v, i) => expect(right[i]).toBeCloseTo(v, 6));
  });

  it('backdrop is measured along as it is long, round the sweep too', () => {
    const { positions: p, uv } = triangles(piece('backdrop', -2));
    const length = new Map<string, number>();
    for (let i = 0, k = 0; i < p.length; i += 3, k += 4)
      length.set(`${p[i + 1].toFixed(5)} ${p[i + 2].toFixed(5)}`, uv[k + 1]);
    // from the first line across to the last, in the order they are measured
    const lines = [...length].map(([at, along]) => [...at.split(' ').map(Number), along]);
    lines.sort((a, b) => a[2] - b[2]);
    expect(lines[0][2]).toBe(0);
    for (let i = 1; i < lines.length; i++) {
      const way = Math.hypot(lines[i][0] - lines[i - 1][0], lines[i][1] - lines[i - 1][1]);
      expect(lines[i][2] - lines[i - 1][2]).toBeCloseTo(way, 3);
    }
  });

  it('wind their triangles to the side their normals face', () => {
    for (const kind of ['floor', 'wall', 'backdrop'] as const) {
      const { positions: p, normals } = triangles(piece(kind, -2));
      for (let t = 0; t < p.length; t += 9) {
        const e = [0, 1, 2].map((k) => p[t + 3 + k] - p[t + k]);
        const f = [0, 1, 2].map((k) => p[t + 6 + k] - p[t + k]);
        const n = [e[1] * f[2] - e[2] * f[1], e[2] * f[0] - e[0] * f[2], e[0] * f[1] - e[1] * f[0]];
        expect(dot(n, [...normals.subarray(t, t + 3)])).toBeGreaterThan(0);
      }
    }
  });
});
