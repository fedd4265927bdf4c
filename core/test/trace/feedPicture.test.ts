/** Small pictures of feeds on a letter's front, against where the letter lies. */
import { describe, expect, it } from 'vitest';
import { newFeed, newProject, plainFinish, type Feed } from '../../src/document/index.ts';
import { FeedPictures } from '../../src/trace/feedPicture.ts';
import { testMaker } from '../scene/maker.ts';
import { kernelModule } from './kernelFixture.ts';

const maker = testMaker();
const pictures = new FeedPictures(kernelModule, false);

async function made(feed: Partial<Feed>, text = 'IO', letter = 0) {
  const project = newProject('Ostrel', text, [plainFinish({ id: 'f', name: 'F' })]);
  const { scene } = await maker.make(project, project.looks[0].id, project.shots[0].id, 400);
  const [block] = project.blocks;
  const whole = { ...newFeed('x', 'base_color', [1, 1, 1]), blend: 'linear' as const, ...feed };
  return pictures.of(scene, whole, block.id, block.letters[letter]);
}
const stops = (from: number[], to: number[]): Feed['stops'] => [
  { at: 0, value: 0, colour: from },
  { at: 1, value: 8, colour: to },
];

describe('a small picture of a feed', () => {
  it('shows where the stops lie, over the letter or the whole block', async () => {
    const rising = { source: 'up' as const, of: 'letter' as const, stops: stops([0, 0, 0], [0, 1, 0]) };
    const { width, height, data } = (await made(rising))!;
    expect(height).toBeGreaterThan(80);
    const green = (x: number, y: number) => data[(y * width + x) * 4 + 1];
    const column = Math.floor(width / 2);
    expect(green(column, Math.floor(height * 0.1))).toBeGreaterThan(220);
    expect(green(column, Math.floor(height * 0.9))).toBeLessThan(110);
    // over the block the first letter has the first of it, the second the last
    const across = { source: 'along' as const, of: 'block' as const, stops: stops([0, 0, 0], [1, 1, 1]) };
    const mean = async (letter: number) => {
      const picture = (await made(across, 'II', letter))!;
      const shown = picture.data.filter((_, i) => i % 4 === 0 && picture.data[i + 3] > 0);
      return shown.reduce((a, b) => a + b, 0) / shown.length;
    };
    expect(await mean(1)).toBeGreaterThan((await mean(0)) + 80);
  });

  it('shows numbers as greys, from the least to the greatest', async () => {
    const relief = {
      parameter: 'relief',
      source: 'weave' as const,
      scale: 0.02,
      stops: stops([1, 1, 1], [1, 1, 1]),
    };
    const { data } = (await made(relief))!;
    const greys = data.filter((_, i) => i % 4 === 0 && data[i + 3] > 0);
    expect(Math.min(...greys)).toBeLessThan(60);
    expect(Math.max(...greys)).toBeGreaterThan(200);
  });

  it('is none by viewing angle, and of a letter that is not there', async () => {
    expect(await made({ source: 'angle' })).toBeNull();
    expect(await made({ source: 'up' }, 'I', 5)).toBeNull();
  });
});
