/** Finishes fed from pictures: taken in, laid over the letters, moved by hand, kept. */
import { expect, type Page } from '@playwright/test';
import { decode, encode } from 'fast-png';
import { unzipSync } from 'fflate';
import type { Finish } from '@wemlox/core/document';
import { test, traced } from './hands.ts';
import { OwnStudio } from './server.ts';

let studio: OwnStudio;
test.beforeAll(async () => {
  studio = await OwnStudio.open();
});
test.afterAll(() => studio.end());

const desk = (page: Page) => page.getByRole('complementary', { name: 'Desk' });
const finish = async (name: string): Promise<Finish> =>
  (await studio.document('ostrel')).finishes.find((f: Finish) => f.name === name);

/** Red on the left, blue on the right. */
const halves = () => {
  const data = new Uint8Array(64 * 32 * 4);
  for (let i = 0; i < 64 * 32; i++) data.set(i % 64 < 32 ? [230, 20, 20, 255] : [20, 20, 230, 255], i * 4);
  return Buffer.from(encode({ width: 64, height: 32, data, channels: 4 }));
};

/** How much redder than blue the picture is on the stage from one share of its width to another, mean over what is coloured. */
async function redness(page: Page, from: number, to: number): Promise<number> {
  const { data, width, height, channels } = decode(await page.getByTestId('stage').screenshot());
  let [sum, count] = [0, 0];
  for (let y = Math.floor(height * 0.3); y < height * 0.7; y++)
    for (let x = Math.floor(width * from); x < width * to; x++) {
      const at = (y * width + x) * channels;
      const [r, g, b] = [data[at], data[at + 1], data[at + 2]];
      if (Math.max(r, g, b) - Math.min(r, g, b) < 60) continue;
      sum += r - b;
      count++;
    }
  return sum / Math.max(1, count);
}

test('a picture is taken in, laid over the whole word, moved by hand on it, and kept with the project', async ({
  page,
}) => {
  await page.goto(`${studio.url}/p/ostrel/gold-leaf/finish`);
  await page.getByRole('gridcell', { name: /^Front of S/ }).click();
  const name = await desk(page).getByLabel('Name of the finish').inputValue();
  await desk(page)
    .getByRole('button', { name: /^Lay a coat over it/ })
    .click();
  await desk(page).getByRole('menuitem').first().click();
  const cover = desk(page).getByRole('textbox', { name: 'Cover', exact: true });
  await cover.fill('1');
  await cover.press('Enter');
  await desk(page).locator('summary', { hasText: /^Base/ }).first().click();
  await desk(page).getByRole('button', { name: 'Feed Base colour' }).click();
  const colour = desk(page).locator('details details').filter({ hasText: 'Base colour' }).first();
  await colour.locator('summary').first().click();
  await colour.getByLabel('Fed by').selectOption('picture');
  await expect(colour.getByRole('img', { name: 'Hull paint, 1024 × 1024 pixels' })).toBeVisible();
  await expect(colour.getByText('Stop 1')).toHaveCount(0);

  // what is no picture is said to be none, and nothing changes
  await colour.getByLabel('Picture file').setInputFiles({
    name: 'note.png',
    mimeType: 'image/png',
    buffer: Buffer.from('not a picture at all'),
  });
  await expect(page.getByText(/note\.png was not taken.*no PNG, JPEG, WebP or OpenEXR/)).toBeVisible();
  await colour
    .getByLabel('Picture file')
    .setInputFiles({ name: 'halves.png', mimeType: 'image/png', buffer: halves() });
  await expect(colour.getByRole('img', { name: 'halves.png, 64 × 32 pixels' })).toBeVisible();
  await colour.getByRole('radio', { name: 'Block' }).click();

  const fed = async () => (await finish(name)).coats[0].feeds[0]!;
  await expect.poll(async () => (await fed()).lay).toBe('block');
  expect((await fed()).picture.name).toBe('halves.png');

  // the word is red on its left and blue on its right
  await traced(page, 4);
  expect(await redness(page, 0.05, 0.35)).toBeGreaterThan(60);
  expect(await redness(page, 0.65, 0.95)).toBeLessThan(-60);

  // by hand: half the word's width to the right, and the middle is where the edge was
  await colour.getByRole('button', { name: 'By hand' }).click();
  const box = (await page.getByTestId('stage').boundingBox())!;
  const at = (x: number, y: number) => [box.x + box.width * x, box.y + box.height * y] as const;
  await page.mouse.move(...at(0.1, 0.5));
  await page.mouse.down();
  await page.mouse.move(...at(0.26, 0.5), { steps: 4 });
  await page.mouse.move(...at(0.5, 0.5), { steps: 6 });
  await page.mouse.up();
  await expect.poll(async () => (await fed()).shift_x).toBeGreaterThan(0.35);
  expect((await fed()).shift_x).toBeLessThan(0.65);
  await traced(page, 4);
  expect(await redness(page, 0.65, 0.95)).toBeGreaterThan(60);
  expect(await redness(page, 0.05, 0.35)).toBeLessThan(-60);
  await page.mouse.move(...at(0.1, 0.5));
  await page.mouse.wheel(0, 400);
  await expect.poll(async () => (await fed()).zoom).toBeLessThan(0.7);
  await page.keyboard.down('Alt');
  await page.mouse.down();
  await page.mouse.move(...at(0.26, 0.5), { steps: 4 });
  await page.mouse.up();
  await page.keyboard.up('Alt');
  await expect.poll(async () => (await fed()).turn).toBeGreaterThan(0.5);
  await colour.getByRole('button', { name: 'By hand' }).click();

  // it goes with the project's file, and comes back with it
  const { picture } = await fed();
  const file = new Uint8Array(await (await fetch(`${studio.url}/api/projects/ostrel/file`)).arrayBuffer());
  expect(Object.keys(unzipSync(file))).toContain(`assets/${picture.id}`);
  await page.reload();
  await page.getByRole('gridcell', { name: /^Front of S/ }).click();
  await traced(page, 4);
});
