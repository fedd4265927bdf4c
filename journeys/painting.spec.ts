/** Painting by hand on letters: light, relief, and on a picture that was taken in. */
import { encode } from 'fast-png';
import { expect, type Locator, type Page } from '@playwright/test';
import type { Feed } from '@wemlox/core/document';
import { documentOf, meanOf, number, test, traced } from './hands.ts';
import { OwnStudio } from './server.ts';

let studio: OwnStudio;
test.beforeAll(async () => {
  studio = await OwnStudio.open();
});
test.afterAll(() => studio.end());

const desk = (page: Page) => page.getByRole('complementary', { name: 'Desk' });

/** Feeds a parameter, opens the feed, and has it fed by a picture. */
async function pictured(page: Page, fold: RegExp, parameter: string): Promise<Locator> {
  const group = desk(page)
    .locator('details')
    .filter({ has: page.locator('summary', { hasText: fold }) })
    .first();
  if ((await group.getAttribute('open')) === null) await group.locator('summary').first().click();
  await group.getByRole('button', { name: `Feed ${parameter}`, exact: true }).click();
  const feed = group.locator('details').filter({ hasText: parameter }).first();
  await feed.locator('summary').first().click();
  await feed.getByLabel('Fed by').selectOption('picture');
  return feed;
}

test('light and relief are painted on letters, and so is a picture that was taken in', async ({ page }) => {
  await page.goto(`${studio.url}/p/ostrel/gold-leaf/finish`);
  await traced(page, 1);
  await page.getByRole('gridcell', { name: /^Front of T/ }).click();
  const name = await desk(page).getByLabel('Name of the finish').inputValue();
  const fedBy = async (parameter: string): Promise<Feed> =>
    (await documentOf(page, studio)).finishes
      .find((f) => f.name === name)!
      .feeds.find((f) => f.parameter === parameter)!;
  const seen = page.getByTestId('traced');
  const stem = async () => (await meanOf(seen, [0.42, 0.44], [0.48, 0.58])).reduce((a, b) => a + b);
  const stroke = async () => {
    await traced(page, 1);
    const box = (await seen.boundingBox())!;
    const to = (x: number, y: number) =>
      page.mouse.move(box.x + box.width * x, box.y + box.height * y, { steps: 6 });
    await to(0.43, 0.46);
    await page.mouse.down();
    await to(0.43, 0.6);
    await page.mouse.up();
  };
  /** Paints once, and waits until the feed has another picture. */
  const painted = async (parameter: string) => {
    const { id } = (await fedBy(parameter)).picture;
    await stroke();
    await expect.poll(async () => (await fedBy(parameter)).picture.id).not.toBe(id);
    await traced(page, 4);
  };

  const light = await pictured(page, /^Emission\s*\d/, 'Luminance');
  await light.getByRole('button', { name: 'A blank one, to paint on' }).click();
  await number(light, 'Brush', '30');
  await expect.poll(async () => (await fedBy('emission_luminance')).edges).toBe('once');
  await light.getByRole('button', { name: /^Stop 2/ }).click();
  await number(light, 'Stop 2', '40');
  await traced(page, 4);
  const dark = await stem();
  await painted('emission_luminance');
  expect(await stem()).toBeGreaterThan(dark + 60);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');

  const relief = await pictured(page, /^Relief\s*\d/, 'Relief');
  await relief.getByRole('button', { name: 'A blank one, to paint on' }).click();
  await traced(page, 8);
  const flat = await seen.screenshot();
  await painted('relief');
  await traced(page, 8);
  expect(Buffer.compare(await seen.screenshot(), flat)).not.toBe(0);

  // on a picture of one's own: what is painted is kept as another, and the file stays as it was
  const colour = await pictured(page, /^Base\s*\d/, 'Base colour');
  const plain = Buffer.from(
    encode({ width: 64, height: 64, channels: 3, data: new Uint8Array(64 * 64 * 3).fill(20) }),
  );
  await colour
    .getByLabel('Picture file')
    .setInputFiles({ name: 'night.png', mimeType: 'image/png', buffer: plain });
  await expect.poll(async () => (await fedBy('base_color')).picture.source).toBe('asset');
  const own = (await fedBy('base_color')).picture.id;
  await colour.getByRole('button', { name: 'Paint', exact: true }).click();
  await painted('base_color');
  const kept = await page.request.get(`${studio.url}/api/assets/${own}`);
  expect(Buffer.from(await kept.body()).equals(plain)).toBe(true);
});
