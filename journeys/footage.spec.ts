/** Moving pictures: behind the type, and seen only in it; broken ones. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, type Page } from '@playwright/test';
import { decode, encode } from 'fast-png';
import { zipSync } from 'fflate';
import { ModuleKind, ScriptTarget, transpileModule } from 'typescript';
import { at, begin, darken, documentOf, meanOf, number, peg, step, test, traced } from './hands.ts';
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

/** How much neighbouring pixels of the word differ, as a share of how bright it is. */
async function grain(page: Page): Promise<number> {
  const { data, width, height, channels } = decode(await page.getByTestId('traced').screenshot());
  let [apart, sum] = [0, 0];
  for (let y = Math.floor(height * 0.4); y < height * 0.6; y++)
    for (let x = Math.floor(width * 0.1); x < width * 0.9; x++) {
      const at = (y * width + x) * channels;
      apart += Math.abs(data[at]! - data[at + channels]!);
      sum += data[at]!;
    }
  return apart / sum;
}

/** How bright the left and the right of the picture are. */
async function sides(page: Page, rows: readonly number[], view = 'traced'): Promise<[number, number]> {
  const of = async (columns: readonly number[]) =>
    (await meanOf(page.getByTestId(view), columns, rows)).slice(0, 3).reduce((a, b) => a + b, 0);
  return [await of([0.02, 0.35]), await of([0.65, 0.98])];
}

test('a word clad in woven cloth, a spot that is aimed and travels, and a film that plays behind', async ({
  page,
}) => {
  await begin(page, studio);
  // the cloth is far too large at first
  await step(page, 'Finish');
  await page
    .getByRole('gridcell', { name: /^Front of/ })
    .first()
    .click();
  await desk(page).locator('summary', { hasText: /^Base/ }).first().click();
  await desk(page).getByRole('button', { name: 'Feed Base colour' }).click();
  const colour = desk(page).locator('details details').filter({ hasText: 'Base colour' }).first();
  await colour.locator('summary').first().click();
  await colour.getByLabel('Fed by').selectOption('picture');
  await colour.getByRole('button', { name: /^Picture: / }).click();
  await colour.getByRole('menuitem', { name: 'Canvas' }).click();
  // the word begins in measured chrome, which has a colour of its own
  await expect(desk(page).getByText('what is fed is not seen')).toBeVisible();
  await desk(page).getByRole('button', { name: 'Metal by colour' }).click();
  await expect(desk(page).getByText('what is fed is not seen')).toHaveCount(0);
  await number(desk(page), 'Metalness', '0');
  await number(desk(page), 'Roughness', '0.7');
  await colour.getByRole('radio', { name: 'In tiles' }).click();
  await number(colour, 'Tile width', '12000');
  await traced(page, 8);
  const large = await grain(page);
  await number(colour, 'Tile width', '700');
  await traced(page, 8);
  expect(await grain(page)).toBeGreaterThan(1.5 * large);

  // a spot alone, that shines past the word: why it is black is told, with the move that mends it
  await step(page, 'Light');
  await darken(page);
  await desk(page).getByRole('button', { name: 'Spot', exact: true }).click();
  await number(desk(page), 'Edge', '0.8');
  await number(desk(page), 'Cone', '8');
  await number(desk(page), 'Elevation', '20');
  await desk(page).locator('summary', { hasText: 'Aim, from the centre' }).click();
  await number(desk(page), 'Across', '3');
  await expect(page.getByTestId('light-advice')).toContainText('Spot shines past the type', {
    timeout: 60_000,
  });
  await page.getByRole('button', { name: 'Aim Spot at the type' }).click();
  await traced(page, 4);
  const middle = async () =>
    (await meanOf(page.getByTestId('traced'), [0.2, 0.8], [0.3, 0.7])).reduce((a, b) => a + b, 0);
  const lit = await middle();
  expect(lit).toBeGreaterThan(20);
  const [spot] = (await documentOf(page, studio)).looks[0]!.rig;
  await number(desk(page), 'Strength', String(((spot as { strength: number }).strength / 2).toFixed(2)));
  await traced(page, 4);
  expect(await middle()).toBeLessThan(lit);

  // it travels from one end to the other
  await number(desk(page), 'Across', '-0.4');
  await peg(page, 'Aim', 'Key here');
  await step(page, 'Frame');
  await at(page, '72', 1);
  await step(page, 'Light');
  await desk(page).locator('summary', { hasText: 'Aim, from the centre' }).click();
  await number(desk(page), 'Across', '0.4');
  await step(page, 'Frame');
  await at(page, '2');
  const begins = await sides(page, [0.35, 0.65]);
  await at(page, '72');
  const ends = await sides(page, [0.35, 0.65]);
  expect(begins[0]).toBeGreaterThan(1.3 * begins[1]);
  expect(ends[1]).toBeGreaterThan(1.3 * ends[0]);

  // a film behind it, in its own time
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

  // it plays in the draft, and the lamp is seen on either side
  await page.keyboard.press('d');
  await expect(page.getByText(/^Draft/)).toBeVisible();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  for (const lamp of [0, 1])
    await expect
      .poll(async () => (await sides(page, [0.02, 0.2], 'draft'))[lamp], { intervals: [50], timeout: 60_000 })
      .toBeGreaterThan(80);
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
});

test('the browser reads PNGs without opacity as we do, and leaves the others to us', async ({ page }) => {
  await page.goto(studio.url);
  const reader = readFileSync(new URL('../web/src/workers/browserPng.ts', import.meta.url), 'utf8');
  const options = { module: ModuleKind.ESNext, target: ScriptTarget.ES2022 };
  const code = transpileModule(reader, { compilerOptions: options }).outputText.replace('export ', '');
  const read = (png: Uint8Array) =>
    page.evaluate(
      `(async () => { ${code}
        const read = await browserPng(new Uint8Array([${png.join()}]));
        return read && { ...read, data: [...read.data] }; })()`,
    ) as Promise<{ width: number; height: number; data: number[] } | null>;
  const values = (count: number) => Uint8Array.from({ length: count }, (_, i) => (i * 37 + (i >> 3)) & 255);
  const [width, height] = [31, 7];
  const ofColour = encode({ width, height, channels: 3, data: values(width * height * 3) });
  const ofGrey = encode({ width, height, channels: 1, data: values(width * height) });
  // what a file says of its own gamma is not applied (ISO/IEC 15948, 11.3.3.2)
  const gamma = Buffer.from([0, 0, 0, 4, 0x67, 0x41, 0x4d, 0x41, 0, 0, 0xb1, 0x8f, 0x0b, 0xfc, 0x61, 0x05]);
  const ofGamma = Buffer.concat([ofColour.subarray(0, 33), gamma, ofColour.subarray(33)]);
  const ours = (png: Uint8Array) => {
    const { data, channels } = decode(png);
    return Array.from({ length: width * height * 4 }, (_, i) =>
      (i & 3) === 3 ? 255 : data[(i >> 2) * channels + (channels === 1 ? 0 : i & 3)],
    );
  };
  for (const png of [ofColour, ofGrey, ofGamma])
    expect(await read(png)).toEqual({ width, height, data: ours(png) });
  expect(await read(encode({ width, height, channels: 4, data: values(width * height * 4) }))).toBeNull();
  expect(
    await read(encode({ width, height, channels: 3, depth: 16, data: new Uint16Array(width * height * 3) })),
  ).toBeNull();
  expect(await read(ofColour.subarray(0, 60))).toBeNull();
  expect(await read(Buffer.from('no picture'))).toBeNull();
});

test('lamps that pass are seen only in the word, which turns to its place and mirrors them', async ({
  page,
}) => {
  await page.goto(`${studio.url}/p/ostrel/dusk-chrome/light`);
  await traced(page, 1);
  await page.locator('input[type=file][accept*=".hdr"]').setInputFiles(lamps());
  await expect(page.getByText('lamps.webm lights the type')).toBeVisible();
  await desk(page).getByRole('checkbox', { name: 'Seen behind the type' }).uncheck();
  const project = await documentOf(page, studio);
  const look = project.looks.find((l) => l.id === 'dusk-chrome')!;
  expect(look.surround).toMatchObject({ source: 'picture', name: 'lamps.webm', plays: { frames: 48 } });
  // the word stands edge on at first, and is in its place when half of the shot is over
  await step(page, 'Frame');
  await at(page, '0', 1);
  await step(page, 'Set');
  await number(desk(page), 'Turn', '-80');
  await peg(page, 'Turn', 'Key here');
  await step(page, 'Frame');
  await at(page, '48', 1);
  await step(page, 'Set');
  await number(desk(page), 'Turn', '0');
  await step(page, 'Frame');
  const [track] = (await documentOf(page, studio)).shots[0]!.tracks;
  expect(track!.address).toMatch(/^blocks\/.*\/place\/turn$/);
  expect(track!.keys.map((k) => [Math.round(k.at * 24), Math.round((k.value[0]! * 180) / Math.PI)])).toEqual([
    [0, -80],
    [48, 0],
  ]);
  await desk(page).getByRole('radio', { name: 'Stays', exact: true }).click();

  const word = () => meanOf(page.getByTestId('traced'), [0.05, 0.9], [0.35, 0.65]);
  const behind = () => meanOf(page.getByTestId('traced'), [0.02, 0.98], [0.01, 0.12]);
  const seen: { word: number[]; behind: number[] }[] = [];
  for (const frame of ['0', '48', '60', '72']) {
    await at(page, frame);
    seen.push({ word: await word(), behind: await behind() });
  }
  const differ = (a: number[], b: number[]) => Math.max(...a.slice(0, 3).map((v, c) => Math.abs(v - b[c]!)));
  const [turned, rest, later, last] = seen;
  expect(differ(turned!.word, rest!.word)).toBeGreaterThan(8);
  expect(differ(rest!.word, later!.word) + differ(later!.word, last!.word)).toBeGreaterThan(4);
  for (const { behind } of seen) expect(differ(behind, turned!.behind)).toBeLessThan(1);
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
  // a film is all that moves, and reason enough for pictures of the whole shot
  await step(page, 'Press');
  await expect(desk(page).getByText('Of the shot', { exact: true })).toBeVisible();
  await step(page, 'Frame');
  await take('broken.webm', lamps().buffer.subarray(0, 90));
  await expect(page.getByText(/broken\.webm was not taken: /)).toBeVisible();
  await take('words.mp4', Buffer.from('#EXTM3U\nfile:///etc/hostname\n'));
  await expect(page.getByText(/words\.mp4 was not taken: .*neither a WebM, an MP4 nor a zip/)).toBeVisible();
  expect((await documentOf(page, studio)).pieces.map((p) => p.name)).not.toContain('broken.webm');
});
