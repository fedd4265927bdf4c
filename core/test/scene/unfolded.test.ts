/** Letters unfolded: where their places lie, and what the camera sees of them. */
import { beforeAll, describe, expect, it } from 'vitest';
import {
  newBevel,
  newBlock,
  newProject,
  plainFinish,
  plainSurface,
  ZONES,
} from '../../src/document/index.ts';
import { loadRegions } from '../../src/plane/region.ts';
import { NO_BYTE } from '../../src/scene/renderScene.ts';
import { unfolded, type Unfolded, type UnfoldView } from '../../src/scene/unfolded.ts';
import { unfoldedEye } from '../../src/trace/eye.ts';
import { tracerFor } from '../trace/sceneFixture.ts';
import { createFilm } from '../../src/trace/film.ts';
import { developed } from '../../src/trace/developing.ts';
import { testMaker } from './maker.ts';

beforeAll(() => loadRegions());

const VIEW: UnfoldView = { width: 120, height: 120, unit: 14, middle: 400, bottom: -450, rings: [12, 9, 6] };

async function madeOf(text: string, form: 'bevelled' | 'rounded' | 'tube' = 'bevelled') {
  const project = newProject('Ostrel', text, [
    plainFinish({
      id: 'lamp',
      name: 'Lamp',
      surface: plainSurface({ emission_luminance: 2, base_color: [0, 0, 0], specular_weight: 0 }),
    }),
  ]);
  project.blocks = [
    newBlock(text, {
      form,
      font: { source: 'shipped', id: 'varela-round', name: 'Varela Round' },
      front: newBevel({ width: 0.004, height: 0.004, profile: 'straight', segments: 1 }),
      back: newBevel({ width: 0.003, height: 0.003, profile: 'straight', segments: 1 }),
    }),
  ];
  project.looks[0].chart = [{ finish: 'lamp' }];
  project.pieces = [];
  const { scene } = await testMaker().make(project, project.looks[0].id, project.shots[0].id, null);
  const [block] = project.blocks;
  return { scene, block: block.id, letter: block.letters[0] };
}

const count = ({ zones }: Unfolded, zone: (typeof ZONES)[number]) =>
  zones.filter((z) => ZONES[z] === zone).length;

describe('an unfolded letter', () => {
  it('has its front in its own shape and size, and rings as wide as they are asked for', async () => {
    const { scene, block, letter } = await madeOf('I');
    const made = unfolded(scene, block, letter, VIEW)!;
    // along a row through the middle of a straight stem: ring, ring, ring, front, and the same again
    const row = [...made.zones.subarray(60 * 120, 61 * 120)].map((z) => ZONES[z] ?? null);
    const runs: [string | null, number][] = [];
    for (const zone of row)
      if (runs.length > 0 && runs.at(-1)![0] === zone) runs.at(-1)![1]++;
      else runs.push([zone, 1]);
    const drawn = runs.filter(([zone]) => zone !== null);
    expect(drawn.map(([zone]) => zone)).toEqual([
      'backBevel',
      'side',
      'frontBevel',
      'front',
      'frontBevel',
      'side',
      'backBevel',
    ]);
    [6, 9, 12].forEach((px, i) => {
      expect(Math.abs(drawn[i][1] - px)).toBeLessThanOrEqual(1);
      expect(Math.abs(drawn[6 - i][1] - px)).toBeLessThanOrEqual(1);
    });
  });

  it('gives each place the point of the surface it is, and the way away from it', async () => {
    const { scene, block, letter } = await madeOf('O');
    const made = unfolded(scene, block, letter, VIEW)!;
    const box = scene.typeBox;
    let [inside, outward] = [0, 0];
    for (let i = 0; i < made.zones.length; i++) {
      const zone = ZONES[made.zones[i]];
      if (made.zones[i] === NO_BYTE) continue;
      const [x, y, z, nx, ny, nz] = made.surface.subarray(i * 6, i * 6 + 6);
      inside += [x, y, z].every((v, k) => v > box.min[k] - 1e-4 && v < box.max[k] + 1e-4) ? 0 : 1;
      expect(Math.hypot(nx, ny, nz)).toBeCloseTo(1, 4);
      if (zone === 'front') expect(nz).toBeCloseTo(1, 4);
      if (zone === 'side') {
        expect(nz).toBeCloseTo(0, 4);
        outward++;
      }
    }
    expect(inside).toBe(0);
    expect(outward).toBeGreaterThan(200);
    // its counter has rings too
    const middle = made.zones[60 * 120 + 60];
    expect(middle === NO_BYTE || ZONES[middle] !== 'front').toBe(true);
  });

  it('shows what the camera sees of each face, and nothing of those that are turned away', async () => {
    const { scene, block, letter } = await madeOf('I');
    const made = unfolded(scene, block, letter, VIEW)!;
    const eye = unfoldedEye({ ...scene, camera: { ...scene.camera, azimuth: 0.6, elevation: 0 } }, made);
    const film = createFilm(120, 120);
    tracerFor(scene, eye).traceTile(film, 0, 0, 120, 120, 0, 1, 1);
    const picture = developed(film, 1);
    const seen = (x: number) => [picture[(60 * 120 + x) * 4], picture[(60 * 120 + x) * 4 + 3]];
    const zoneAt = (x: number) => ZONES[made.zones[60 * 120 + x]];
    const sides = Array.from({ length: 120 }, (_, x) => x).filter((x) => zoneAt(x) === 'side');
    const [left, right] = [sides[2], sides.at(-3)!];
    // from the right the right side is seen, and the left one is not
    expect(seen(right)).toEqual([2, 1]);
    expect(seen(left)).toEqual([0, 0]);
    const front = Array.from({ length: 120 }, (_, x) => x).filter((x) => zoneAt(x) === 'front');
    for (const x of front) expect(seen(x)).toEqual([2, 1]);
  });

  it('of other forms lies as it is seen from the front; what is not there is null', async () => {
    const tube = await madeOf('S', 'tube');
    const made = unfolded(tube.scene, tube.block, tube.letter, VIEW)!;
    expect(count(made, 'glass')).toBeGreaterThan(200);
    const round = await madeOf('S', 'rounded');
    const dome = unfolded(round.scene, round.block, round.letter, VIEW)!;
    expect(count(dome, 'front')).toBeGreaterThan(600);
    expect(unfolded(round.scene, round.block, 'nobody', VIEW)).toBeNull();
  });
});
