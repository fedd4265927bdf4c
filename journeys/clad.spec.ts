/** Pieces of surface work from nothing: a word that glows, a letter without an end, one picture over everything. */
import { decode } from 'fast-png';
import { expect, type Page } from '@playwright/test';
import type { Project } from '@wemlox/core/document';
import { begin, darken, documentOf, number, step, test, traced } from './hands.ts';
import { OwnStudio } from './server.ts';

let studio: OwnStudio;
test.beforeAll(async () => {
  studio = await OwnStudio.open();
});
test.afterAll(() => studio.end());

const desk = (page: Page) => page.getByRole('complementary', { name: 'Desk' });
const rack = (page: Page) => page.getByRole('region', { name: 'Rack' });
const fold = (page: Page, name: string | RegExp) => desk(page).locator('summary', { hasText: name }).first();
const set = (page: Page, label: string, value: string) => number(desk(page), label, value);

/** Takes a ready finish into the project's rack, and has it in hand. */
async function takeUp(page: Page, name: string): Promise<void> {
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await page.getByRole('searchbox', { name: 'Find a finish' }).fill(name);
  await page.keyboard.press('Enter');
  await expect(desk(page).getByLabel('Name of the finish')).toHaveValue(name);
}

/** Lays the finish in hand on a row of the chart, or on all faces. */
async function layOn(page: Page, row: 'all faces' | 'front' | 'side' | 'back'): Promise<void> {
  const rows = { 'all faces': 0, front: 1, side: 3, back: 5 };
  const grid = page.getByRole('grid');
  await grid.focus();
  await page.keyboard.press('Home');
  for (let k = 0; k < 8; k++) await page.keyboard.press('ArrowUp');
  for (let k = 0; k < 8; k++) await page.keyboard.press('ArrowLeft');
  for (let k = 0; k < rows[row]; k++) await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
}

/** Pixels of the traced picture of which a test holds, as a share of all. */
async function share(page: Page, is: (r: number, g: number, b: number) => boolean): Promise<number> {
  const { data, width, height, channels } = decode(await page.getByTestId('traced').screenshot());
  let count = 0;
  for (let i = 0; i < width * height; i++) {
    const at = i * channels;
    if (is(data[at], data[at + 1], data[at + 2])) count++;
  }
  return count / (width * height);
}
const burnt = (r: number, g: number, b: number) => Math.min(r, g, b) > 240;
const orange = (r: number, _: number, b: number) => r > 150 && r > b + 60;

test('a word glows: too bright at first, turned down by eye, its fronts and then all of it, seen alone', async ({
  page,
}) => {
  await begin(page, studio);
  await step(page, 'Finish');
  await takeUp(page, 'Lamp black');
  await layOn(page, 'front');
  await fold(page, 'Emission').click();
  await set(page, 'Luminance', '900');
  const hex = desk(page).getByLabel('Light colour, hexadecimal').first();
  await hex.fill('#ff7a1e');
  await hex.press('Enter');
  await documentOf(page, studio);
  await traced(page, 4);
  const glaring = await share(page, burnt);
  await set(page, 'Luminance', '2');
  await documentOf(page, studio);
  await traced(page, 4);
  expect(await share(page, burnt)).toBeLessThan(glaring / 2);
  const fronts = await share(page, orange);

  // only the fronts glow: the chart shows it, and one move covers the rest
  await page.getByLabel('Faces that stand out').selectOption({ label: 'Glowing' });
  const lit = page.getByRole('gridcell').and(page.locator(':not(.opacity-20)'));
  await expect.poll(async () => (await lit.allInnerTexts()).length).toBeGreaterThan(0);
  for (const name of await lit.evaluateAll((all) => all.map((e) => e.getAttribute('aria-label')!)))
    expect(name).toMatch(/^Front of/);
  await layOn(page, 'all faces');
  await expect.poll(async () => (await documentOf(page, studio)).looks[0].chart.length).toBe(1);
  await traced(page, 4);
  expect(await share(page, orange)).toBeGreaterThan(fronts);

  // seen alone: nothing beside it, and nothing over it
  await page.keyboard.press('f');
  await expect(desk(page)).toBeHidden();
  await expect(page.getByRole('grid')).toBeHidden();
  const stage = (await page.getByTestId('stage').boundingBox())!;
  expect([stage.width, stage.height]).toEqual([1280, 800]);
  await traced(page, 1);
  await page.keyboard.press('Escape');
  await expect(desk(page)).toBeVisible();
});

test('a letter has no end: a pane from outside, mirrors from within, points of light between them', async ({
  page,
}) => {
  await begin(page, studio);
  await set(page, 'Depth', '60');
  await fold(page, 'Strip of points').click();
  await desk(page).getByRole('checkbox', { name: 'Strip of points' }).check();
  await set(page, 'Glow', '80');
  await set(page, 'Distance', '25');
  await step(page, 'Finish');
  for (const [name, row] of [
    ['Lamp black', 'all faces'],
    ['Bridge mirror', 'back'],
    ['Worn steel', 'side'],
    ['Tube glass', 'front'],
  ] as const) {
    await takeUp(page, name);
    await layOn(page, row);
  }
  await step(page, 'Light');
  await rack(page).getByRole('option', { name: 'No surround' }).click();
  await step(page, 'Finish');
  await page.getByRole('gridcell', { name: /^Front of O: Tube glass/ }).click();
  await documentOf(page, studio);
  await traced(page, 8);
  const bright = (r: number, g: number, b: number) => Math.max(r, g, b) > 150;
  const shallow = await share(page, bright);
  expect(shallow).toBeGreaterThan(0);
  await desk(page).getByRole('button', { name: 'From within' }).click();
  await desk(page).getByRole('menuitem', { name: 'Bridge mirror' }).click();
  const { finishes } = await documentOf(page, studio);
  const id = (name: string) => finishes.find((f) => f.name === name)!.id;
  expect(finishes.find((f) => f.name === 'Tube glass')!.within).toBe(id('Bridge mirror'));
  await traced(page, 8);
  // every way across mirrors the points once more
  expect(await share(page, bright)).toBeGreaterThan(1.5 * shallow);

  // some glow lies over it, and the outside has two roughnesses
  const lit = (r: number, g: number, b: number) => Math.max(r, g, b) > 60;
  const crisp = await share(page, lit);
  await step(page, 'Light');
  await set(page, 'Glow', '0.3');
  await expect.poll(() => share(page, lit)).toBeGreaterThan(1.1 * crisp);
  await step(page, 'Finish');
  await page.getByRole('gridcell', { name: /^Side of O: Worn steel/ }).click();
  await set(page, 'Roughness', '0.7');
  const worn = (await documentOf(page, studio)).finishes;
  const roughness = (name: string) => worn.find((f) => f.name === name)!.surface.specular_roughness;
  expect(roughness('Worn steel')).toBeGreaterThan(roughness('Tube glass') + 0.5);
});

test('one picture wraps front, bevel and side; the print is stopped, mended and sent again', async ({
  page,
}) => {
  await begin(page, studio);
  await set(page, 'Width', '22');
  await desk(page)
    .getByRole('radiogroup', { name: 'Profile' })
    .first()
    .getByRole('radio', { name: 'Cove' })
    .click();
  // it is laid on its back, on what will be planks
  await set(page, 'Tilted', '90');
  await desk(page).getByRole('button', { name: 'Stand on the floor' }).click();
  await expect(desk(page).getByText(/(above|sunk into) the floor/)).toHaveCount(0);
  const [laid] = (await documentOf(page, studio)).blocks;
  expect(laid!.place.tilt).toBeCloseTo(Math.PI / 2, 6);
  // its centre is over its back by half of its depth or so, not by half of its height
  expect(laid!.place.position[1]).toBeGreaterThan(0);
  expect(laid!.place.position[1]).toBeLessThan(laid!.depth * 1.5);
  await step(page, 'Finish');
  await takeUp(page, 'Weathered hull');
  await layOn(page, 'all faces');
  await takeUp(page, 'Deck boards');
  await step(page, 'Frame');
  await set(page, 'Above', '38');
  await set(page, 'Around', '24');
  await desk(page)
    .getByRole('group', { name: 'Floor' })
    .getByRole('combobox')
    .first()
    .selectOption('Deck boards');
  await step(page, 'Light');
  await darken(page);
  await desk(page).getByRole('button', { name: 'Directional', exact: true }).click();
  await set(page, 'Angular size', '4');
  const now: Project = await documentOf(page, studio);
  const hull = now.finishes.find((f) => f.name === 'Weathered hull')!;
  expect(now.looks[0].chart).toEqual([{ finish: hull.id }]);
  expect(now.blocks[0].front).toMatchObject({ profile: 'cove', width: 0.022 });
  // laid by its true size over all zones: no zone has a picture of its own
  expect(hull.feeds.every((f) => f.lay === 'tiles')).toBe(true);
  await traced(page, 4);
  const rusty = (r: number, g: number, b: number) => r > 60 && r > 1.3 * b && g < r;
  expect(await share(page, rusty)).toBeGreaterThan(0.02);

  await step(page, 'Press');
  studio.startNode();
  await set(page, 'Width', '192');
  await set(page, 'Samples', '60000');
  await desk(page).getByLabel('File', { exact: true }).selectOption('JPEG');
  await desk(page).getByRole('button', { name: 'Send to the press' }).click();
  const queue = page.getByRole('list', { name: 'Press queue' }).getByRole('listitem');
  await expect(queue.first()).toContainText(/left/, { timeout: 120_000 });
  await queue.first().getByRole('button', { name: 'Cancel' }).click();
  await expect(queue.first()).toHaveAttribute('data-job', 'cancelled');
  await page.keyboard.press(']');
  await set(page, 'Samples', '4');
  await desk(page).getByRole('button', { name: 'Send to the press' }).click();
  await expect(queue.first()).toHaveAttribute('data-job', 'done', { timeout: 120_000 });
  await studio.killNode();
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    queue.first().getByRole('link', { name: 'File' }).click(),
  ]);
  expect(file.suggestedFilename()).toMatch(/\.jpg$/);
});
