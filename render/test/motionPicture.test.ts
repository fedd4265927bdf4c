import { execFile } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { decode, encode } from 'fast-png';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ENDINGS, MOVING_FORMATS } from '@wemlox/wire';
import { bindPictures } from '../src/motionPicture.ts';

const run = promisify(execFile);
const [WIDTH, HEIGHT, COUNT] = [65, 36, 5];
let room: string;

/** A red square that goes to the right over an open ground, from picture 3 on. */
beforeAll(async () => {
  room = await mkdtemp(join(tmpdir(), 'wemlox-test-'));
  for (let n = 0; n < COUNT; n++) {
    const data = new Uint8Array(WIDTH * HEIGHT * 4);
    for (let y = 8; y < 28; y++)
      for (let x = 8 * n; x < 8 * n + 20; x++) data.set([200, 30, 20, 255], (y * WIDTH + x) * 4);
    const png = encode({ width: WIDTH, height: HEIGHT, data, channels: 4, depth: 8 });
    await writeFile(join(room, `${String(n + 3).padStart(6, '0')}.png`), png);
  }
});
afterAll(() => rm(room, { recursive: true, force: true }));

const bind = async (format: (typeof MOVING_FORMATS)[number], name: string) => {
  const alpha = format !== 'mp4' && format !== 'webm-av1';
  const out = join(room, `${name}.${ENDINGS[format]}`);
  await bindPictures(format, join(room, '%06d.png'), 3, { rate: 25, loops: true, alpha }, out);
  return out;
};

describe('moving pictures', () => {
  it.each(MOVING_FORMATS)(
    '%s has each picture in its place, and the same bytes each time',
    async (format) => {
      const [a, b] = [await bind(format, `${format}-a`), await bind(format, `${format}-b`)];
      const hash = async (file: string) =>
        createHash('sha256')
          .update(await readFile(file))
          .digest('hex');
      expect(await hash(a)).toBe(await hash(b));
      // ffmpeg does not read moving WebP back: its frames are counted in the file
      if (format === 'webp') {
        const text = (await readFile(a)).toString('latin1');
        expect(text.split('ANMF').length - 1).toBe(COUNT);
        return;
      }
      const back = join(room, `${format}-back-%d.png`);
      const reader = format === 'webm-vp9' ? ['-c:v', 'libvpx-vp9'] : [];
      await run('ffmpeg', ['-v', 'error', ...reader, '-i', a, '-vsync', '0', '-pix_fmt', 'rgba', back]);
      for (let n = 0; n < COUNT; n++) {
        const { data, width } = decode(await readFile(join(room, `${format}-back-${n + 1}.png`)));
        const at = (x: number) => [...data.subarray((18 * width + x) * 4, (18 * width + x) * 4 + 4)];
        const [red, green, blue] = at(8 * n + 10);
        expect(Math.abs(red - 200), `${n}: ${red} ${green} ${blue}`).toBeLessThan(14);
        expect(Math.abs(green - 30)).toBeLessThan(14);
        expect(Math.abs(blue - 20)).toBeLessThan(14);
        // what is open stays so where the file can say it, and is black where it cannot
        const [r, g, b2, alpha] = at(n < 2 ? 60 : 3);
        if (format === 'mp4' || format === 'webm-av1') expect(Math.max(r, g, b2)).toBeLessThan(12);
        else expect(alpha).toBeLessThan(12);
      }
      await expect(readFile(join(room, `${format}-back-${COUNT + 1}.png`))).rejects.toThrow();
    },
  );

  it('says in words what is wrong with its pictures', async () => {
    await writeFile(join(room, 'x000001.png'), 'no picture');
    const wrong = bindPictures(
      'mp4',
      join(room, 'x%06d.png'),
      1,
      { rate: 25, loops: false, alpha: false },
      join(room, 'x.mp4'),
    );
    await expect(wrong).rejects.toThrow(/x%?0+1?|Invalid|png/);
  });
});
