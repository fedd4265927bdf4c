/** Moving pictures: behind the type, and seen only in it; broken ones. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import { encode } from 'fast-png';
import { zipSync } from 'fflate';
import { documentOf, meanOf, number, step, traced } from './hands.ts';
import { OwnStudio } from './server.ts';

let studio: OwnStudio;
let folder: string;
test.beforeAll(async () => {
  studio = await OwnStudio.open();
  folder = mkdtempSync(join(tmpdir(), 'wemlox-footage-test-'));
});
test.afterAll(async () => {
  rmSync(folder, { recursive: true, force: true });
  await studio.end();
});

const desk = (page: Page) => page.getByRole('complementary', { name: 'Desk' });

/** Quay lamps that pass: a bright upright bar goes once from left to right in two seconds. */
function lamps(): { name: string; mimeType: string; buffer: Buffer } {
  const path = join(folder, 'lamps.webm');
  const bar = "geq=lum='if(lt(abs(X-N*8-8)\\,30)\\,235\\,16)':cb=128:cr=128";
  const source = `color=black:s=384x192:r=24,${bar},trim=end_frame=48`;
  const codec = ['-c:v', 'libvpx-vp9', '-crf', '10', '-b:v', '0', '-pix_fmt', 'yuv420p'];
  execFileSync('/usr/bin/ffmpeg', ['-v', 'error', '-y', '-f', 'lavfi', '-i', source, ...codec, path]);
  return { name: 'lamps.webm', mimeType: 'video/webm', buffer: readFileSync(path) };
}

/** Looks at a picture of the shot, traced. */
async function at(page: Page, frame: string, samples = 4): Promise<void> {
  const field = page.getByTestId('time').getByLabel('Picture of the shot');
  await field.fill(frame);
  await field.press('Enter');
  await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  await traced(page, samples);
}

/** How bright the left and the right of the picture are. */
async function sides(page: Page, rows: readonly number[]): Promise<[number, number]> {
  const of = async (columns: readonly number[]) =>
    (await meanOf(page.getByTestId('traced'), columns, rows)).slice(0, 3).reduce((a, b) => a + b, 0);
  return [await of([0.02, 0.35]), await of([0.65, 0.98])];
}

test('a film plays behind the type, in its own time', async ({ page }) => {
  await page.goto(`${studio.url}/p/ostrel/dusk-chrome/frame`);
  await traced(page, 1);
  await page.getByLabel('Plate file', { exact: true }).setInputFiles(lamps());
  const plate = desk(page).getByRole('group', { name: 'lamps.webm', exact: true });
  await expect(plate.getByText('48 frames, 24 a second, 2.00 s')).toBeVisible();
  await at(page, '6');
  const early = await sides(page, [0.02, 0.2]);
  await at(page, '40');
  const late = await sides(page, [0.02, 0.2]);
  expect(early[0]).toBeGreaterThan(2 * early[1]);
  expect(late[1]).toBeGreaterThan(2 * late[0]);

  // backward the lamp comes from the other side
  await number(plate, 'Speed', '-1');
  await at(page, '6');
  const back = await sides(page, [0.02, 0.2]);
  expect(back[1]).toBeGreaterThan(2 * back[0]);
  const { pieces } = await documentOf(page, studio);
  expect(pieces.at(-1)!.picture!.plays).toMatchObject({ frames: 48, rate: 24, speed: -1, ends: 'again' });
});

test('lamps that pass are seen only in the word that mirrors them', async ({ page }) => {
  await page.goto(`${studio.url}/p/ostrel/dusk-chrome/light`);
  await traced(page, 1);
  await page.locator('input[type=file][accept*=".hdr"]').setInputFiles(lamps());
  await expect(page.getByText('lamps.webm lights the type')).toBeVisible();
  await desk(page).getByRole('checkbox', { name: 'Seen behind the type' }).uncheck();
  const project = await documentOf(page, studio);
  const look = project.looks.find((l) => l.id === 'dusk-chrome')!;
  expect(look.surround).toMatchObject({ source: 'picture', name: 'lamps.webm', plays: { frames: 48 } });
  await step(page, 'Frame');
  const word = () => meanOf(page.getByTestId('traced'), [0.05, 0.9], [0.35, 0.65]);
  const seen: number[][] = [];
  for (const frame of ['0', '16', '32']) {
    await at(page, frame);
    seen.push(await word());
  }
  const differ = (a: number[], b: number[]) => Math.max(...a.slice(0, 3).map((v, c) => Math.abs(v - b[c]!)));
  expect(differ(seen[0]!, seen[1]!) + differ(seen[1]!, seen[2]!)).toBeGreaterThan(4);
});

test('numbered pictures in a zip feed a finish, and what is no moving picture is refused in words', async ({
  page,
}) => {
  await page.goto(`${studio.url}/p/ostrel/dusk-chrome/frame`);
  await traced(page, 1);
  const png = (v: number) => encode({ width: 4, height: 4, channels: 3, data: new Uint8Array(48).fill(v) });
  const zip = Buffer.from(zipSync({ 'a1.png': png(250), 'a2.png': png(20), 'a10.png': png(120) }));
  const take = (name: string, buffer: Buffer) =>
    page
      .getByLabel('Plate file', { exact: true })
      .setInputFiles({ name, mimeType: 'application/octet-stream', buffer });
  await take('blinks.zip', zip);
  const plate = desk(page).getByRole('group', { name: 'blinks.zip', exact: true });
  await expect(plate.getByText('3 frames, 25 a second, 0.12 s')).toBeVisible();
  await take('broken.webm', lamps().buffer.subarray(0, 90));
  await expect(page.getByText(/broken\.webm was not taken: /)).toBeVisible();
  await take('words.mp4', Buffer.from('#EXTM3U\nfile:///etc/hostname\n'));
  await expect(page.getByText(/words\.mp4 was not taken: .*neither a WebM, an MP4 nor a zip/)).toBeVisible();
  expect((await documentOf(page, studio)).pieces.map((p) => p.name)).not.toContain('broken.webm');
});
