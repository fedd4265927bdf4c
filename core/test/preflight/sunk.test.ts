import { describe, expect, it } from 'vitest';
import { newBlock, newProject } from '../../src/document/index.ts';
import { sunkBlocks } from '../../src/preflight/sunk.ts';
import { lowestCorner } from '../../src/stage/blockPlace.ts';

describe('type under the floor', () => {
  const project = newProject('Ostrel', 'OJ', []);
  project.blocks = [newBlock('OJ')];
  const [block] = project.blocks;
  /** A square letter from so far under its line, a thousand units to a metre. */
  const letter = (text: string, low: number, turn = 0) => ({
    text,
    x: 0,
    y: 0,
    turn,
    outline: [Float64Array.from([0, low, 100, low, 100, 100, 0, 100])],
  });
  const shaped = [
    {
      block: block!.id,
      bounds: [-0.1, -0.08, 0.1, 0.1] as const,
      scale: 0.001,
      reach: [-0.02, 0.03] as const,
      letters: [letter('O', -10), letter('J', -80)],
    },
  ];

  it('is told by block, depth and letters; what stands on it is not', () => {
    block!.place.position = [0, 0.05, 0];
    const [sunk] = sunkBlocks(project, shaped, 0);
    expect(sunk).toMatchObject({ block: block!.id, letters: ['J'], all: false });
    expect(sunk!.depth).toBeCloseTo(0.03, 9);
    block!.place.position = [0, 0, 0];
    expect(sunkBlocks(project, shaped, 0)[0]).toMatchObject({ letters: ['O', 'J'], all: true });
    block!.place.position = [0, 0.08, 0];
    expect(sunkBlocks(project, shaped, 0)).toEqual([]);
    expect(sunkBlocks(project, shaped, null)).toEqual([]);
  });

  it('knows type that lies: on its back its rear is what stands', () => {
    Object.assign(block!.place, { position: [0, 0.02, 0], tilt: Math.PI / 2 });
    expect(lowestCorner(block!.place, shaped[0]!.bounds, shaped[0]!.reach)).toBeCloseTo(0, 9);
    expect(sunkBlocks(project, shaped, 0)).toEqual([]);
    expect(sunkBlocks(project, shaped, 0.005)[0]).toMatchObject({ letters: ['O', 'J'], all: true });
    // leaning, only what hangs lowest is under it: along its line, the right side down
    Object.assign(block!.place, { position: [0, 0.05, 0], tilt: 0, roll: -0.5 });
    expect(sunkBlocks(project, shaped, 0)[0]!.letters).toEqual(['O', 'J']);
    Object.assign(block!.place, { roll: 0 });
  });

  it('counts letters as they are turned', () => {
    block!.place.position = [0, 0.05, 0];
    const turned = [{ ...shaped[0]!, letters: [letter('J', -80, Math.PI)] }];
    // upside down its foot is up, and its head a hundred units down
    expect(sunkBlocks(project, turned, 0)[0]!.letters).toEqual(['J']);
    const upright = [{ ...shaped[0]!, letters: [letter('O', -10)] }];
    expect(sunkBlocks(project, upright, 0)[0]!.letters).toEqual([]);
  });
});
