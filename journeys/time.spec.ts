/** What moves: keys from the desks, moves by themselves, the band of time, shots, and moving pictures from the press. */
import { decode } from 'fast-png';
import { expect, type Locator, type Page } from '@playwright/test';
import type { Project } from '@wemlox/core/document';
import { at, begin, documentOf, drag, dragBy, meanOf, number, peg, step, test, traced } from './hands.ts';
import { OwnStudio } from './server.ts';

let studio: OwnStudio;
test.beforeAll(async () => {
  studio = await OwnStudio.open();
});
test.afterAll(() => studio.end());

const desk = (page: Page) => page.getByRole('complementary', { name: 'Desk' });
const band = (page: Page) => page.getByTestId('time');

const shotOf = (project: Project) => project.shots[0]!;
/** How bright the left and the right of the picture are. */
const sides = async (page: Page) => {
  const seen = page.getByTestId('traced');
  const [left, right] = [await meanOf(seen, [0, 0.4], [0.2, 0.8]), await meanOf(seen, [0.6, 1], [0.2, 0.8])];
  return [left, right].map((rgb) => rgb.reduce((a, b) => a + b, 0)) as [number, number];
};

test('a point light travels over the word from first to last letter and behind it while its colour changes', async ({
  page,
}) => {
  await page.goto(`${studio.url}/p/ostrel/gold-leaf/light`);
  await traced(page, 1);
  await page.getByRole('option', { name: 'No surround' }).click();
  for (const name of ['Key', 'Fill', 'Rim']) {
    await page
      .getByTestId('dome')
      .getByRole('button', { name: new RegExp(`^${name}:`) })
      .locator('.mark')
      .click();
    await desk(page)
      .getByRole('button', { name: /^Remove / })
      .click();
  }
  await desk(page).getByRole('button', { name: 'Point', exact: true }).click();
  await desk(page).getByRole('radio', { name: 'Free' }).click();
  await number(desk(page), 'Out', '0.5');
  await number(desk(page), 'Across', '0');
  await number(desk(page), 'Strength', '20');
  await peg(page, 'Place', 'Passes along the word');
  await desk(page).getByRole('radio', { name: 'Colour' }).first().click();
  await peg(page, 'Colour', 'Key here');

  await step(page, 'Frame');
  await expect(band(page).getByText('the loop closes')).toBeVisible();
  // at the beginning it stands at the first letter, a third on at the last, and on its way back behind the type
  await at(page, '0');
  const first = await sides(page);
  expect(first[0]).toBeGreaterThan(1.5 * first[1]);
  await at(page, '2 s');
  const last = await sides(page);
  expect(last[1]).toBeGreaterThan(1.5 * last[0]);
  await at(page, '72');
  const behind = await sides(page);
  expect(behind[0] + behind[1]).toBeLessThan(0.65 * (last[0] + last[1]));

  // its colour is set at another time, and so is keyed
  await at(page, '48');
  await step(page, 'Light');
  const hex = desk(page).getByLabel('Colour, hexadecimal').first();
  await hex.fill('#2040ff');
  await hex.press('Enter');
  const keyed = await documentOf(page, studio);
  const track = shotOf(keyed).tracks.find((t) => t.address.endsWith('/colour'))!;
  expect(track.keys.map((k) => k.at)).toEqual([0, 2]);
  expect(track.keys[1]!.value[2]).toBe(1);
  const light = keyed.looks.find((l) => l.id === 'gold-leaf')!.rig[0]!;
  expect(light.colour).toEqual(track.keys[0]!.value);
  await step(page, 'Frame');
  await at(page, '48', 6);
  const blue = await meanOf(page.getByTestId('traced'), [0.6, 1], [0.2, 0.8]);
  expect(blue[2]).toBeGreaterThan(blue[0]);

  // keys are taken in hand, moved by the keyboard, copied, given another way, and taken back
  const key = band(page).getByRole('button', { name: /^Key of Colour of .* at 2\.00 s/ });
  await key.focus();
  await page.keyboard.press('ArrowRight');
  await expect(band(page).getByRole('button', { name: /^Key of Colour of .* at 2\.04 s/ })).toBeVisible();
  await desk(page).getByRole('radio', { name: 'Goes beyond', exact: true }).click();
  await at(page, '60', 1);
  await band(page).getByRole('button', { name: 'Copy here' }).click();
  const moved = shotOf(await documentOf(page, studio)).tracks.find((t) => t.address.endsWith('/colour'))!;
  expect(moved.keys.map((k) => Math.round(k.at * 24))).toEqual([0, 49, 60]);
  expect(moved.keys[1]).toMatchObject({ ease: 'eased', y2: 1.4 });
  for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z');
  await expect
    .poll(
      async () =>
        shotOf(await documentOf(page, studio)).tracks.find((t) => t.address.endsWith('/colour'))!.keys,
    )
    .toEqual(track.keys);
  // a reload comes back to the same time
  await page.reload();
  await traced(page, 1);
  await expect(band(page).getByLabel('Picture of the shot')).toHaveValue('60');
  // played, the time goes on by itself
  await page.keyboard.press('p');
  await expect
    .poll(async () => Number(await band(page).getByLabel('Picture of the shot').inputValue()))
    .not.toBe(60);
  await page.keyboard.press('p');
  await expect(band(page).getByRole('button', { name: 'Play' })).toBeVisible();
});

test('a neon word flickers letter by letter, its wall follows, and the press makes one file of it by a node', async ({
  page,
}) => {
  studio.startNode();
  await page.goto(`${studio.url}/p/tide-bar/open-late/frame`);
  await traced(page, 1);
  await desk(page).getByRole('radio', { name: 'Moving' }).click();
  await expect(band(page).getByRole('group', { name: /^Luminance of Shell neon/i })).toBeVisible();
  // letters are lit unlike each other at most times
  const seen = page.getByTestId('traced');
  const means: string[] = [];
  for (const frame of ['0', '10', '55']) {
    await at(page, frame, 2);
    means.push((await meanOf(seen, [0.2, 0.8], [0.1, 0.5])).map((v) => Math.round(v)).join());
  }
  expect(new Set(means).size).toBeGreaterThan(1);
  // a shot of its own, shorter
  await desk(page).getByRole('button', { name: 'Shot', exact: true }).click();
  await number(desk(page), 'Length', '0.25');
  const made = (await documentOf(page, studio)) as Project;
  expect(made.shots).toHaveLength(3);
  expect(made.shots[2]!.moves).toHaveLength(made.shots[1]!.moves.length);
  expect(made.shots[2]!.moves.some((m) => m.address.startsWith(`shots/${made.shots[2]!.id}/`))).toBe(true);

  await step(page, 'Press');
  await desk(page).getByRole('radio', { name: 'Of the shot' }).click();
  await number(desk(page), 'Width', '64');
  await number(desk(page), 'Samples', '2');
  await desk(page).getByLabel('File', { exact: true }).selectOption('webm-vp9');
  await page.getByRole('button', { name: 'Send to the press' }).click();
  const job = page.getByRole('list', { name: 'Press queue' }).getByRole('listitem').first();
  await expect(job).toHaveAttribute('data-job', 'done', { timeout: 120_000 });
  await expect(job).toContainText('6 pictures');
  const [file, zip] = await Promise.all(
    ['File', '6 as .zip'].map(async (name) => {
      const href = await job.getByRole('link', { name }).getAttribute('href');
      return new Uint8Array(await (await fetch(studio.url + href!)).arrayBuffer());
    }),
  );
  // EBML, and a zip's first entry
  expect([...file!.slice(0, 4)]).toEqual([0x1a, 0x45, 0xdf, 0xa3]);
  expect([...zip!.slice(0, 4)]).toEqual([0x50, 0x4b, 3, 4]);
  expect(new TextDecoder('latin1').decode(zip).match(/ 000[0-5]\.png/g)!.length).toBeGreaterThanOrEqual(6);
  await studio.killNode();
});

test('focus is picked in the picture and solved for the word; the camera is dragged in the overview', async ({
  page,
}) => {
  await page.goto(`${studio.url}/p/deck-5/frosted/frame`);
  await traced(page, 1);
  const camera = async () => shotOf(await documentOf(page, studio)).camera;
  const before = await camera();
  await desk(page).getByRole('button', { name: 'Focus on …' }).click();
  const stage = (await page.getByTestId('stage').boundingBox())!;
  await page.mouse.click(stage.x + stage.width / 2, stage.y + stage.height * 0.62);
  await expect(page.getByTestId('sharp')).toHaveText(/^Sharp from [\d.]+ m?m to /);
  const focused = await camera();
  expect(focused.blurs).toBe(true);
  expect(Math.abs(focused.focus - before.distance)).toBeLessThan(before.distance / 2);
  await desk(page).getByRole('button', { name: 'All of the word' }).click();
  const solved = await camera();
  expect(solved.aperture).not.toBeCloseTo(focused.aperture, 3);

  const mark = page.getByTestId('plan').getByRole('button', { name: /^Camera/ });
  await mark.focus();
  await page.keyboard.press('ArrowRight');
  await expect.poll(async () => (await camera()).azimuth).toBeGreaterThan(before.azimuth);
  expect((await camera()).target).toEqual(before.target);
  // the far end of the aperture blurs the picture's far parts: what is sharp stays
  await number(desk(page), 'Roll', '10');
  expect((await camera()).roll).toBeCloseTo((10 * Math.PI) / 180, 6);
  await desk(page).getByRole('radio', { name: 'Parallel' }).click();
  await traced(page, 1);
  await expect(desk(page).getByLabel('Aperture f/', { exact: true })).toHaveCount(0);
});

/** Gives the stops of the feed that is open colours, adding those that it lacks. */
async function colours(feed: Locator, wanted: readonly string[]): Promise<void> {
  const strip = feed.getByTestId('stop-strip');
  const width = (await strip.boundingBox())!.width;
  for (let i = 1; i < wanted.length - 1; i++)
    await strip.dblclick({ position: { x: (width * i) / (wanted.length - 1), y: 10 } });
  for (const [i, colour] of wanted.entries()) {
    await strip.getByRole('button', { name: new RegExp(`^Stop ${i + 1} at`) }).focus();
    const hex = feed.getByLabel(`Stop ${i + 1}, hexadecimal`);
    await hex.fill(colour);
    await hex.press('Enter');
  }
}

/** Feeds a parameter of what is in the desk, and opens its feed. */
async function fed(page: Page, fold: RegExp, parameter: string): Promise<Locator> {
  const group = desk(page)
    .locator('details')
    .filter({ has: page.locator('summary', { hasText: fold }) })
    .first();
  if ((await group.getAttribute('open')) === null) await group.locator('summary').first().click();
  await group.getByRole('button', { name: `Feed ${parameter}`, exact: true }).click();
  const feed = group.locator('details').filter({ hasText: parameter }).first();
  await feed.locator('summary').first().click();
  return feed;
}

/** How many pixels of the picture are of a hue that nothing about the word has. */
async function hues(page: Page): Promise<Record<string, number>> {
  const { data, width, height, channels } = decode(await page.getByTestId('traced').screenshot());
  const found = { red: 0, orange: 0, teal: 0, blue: 0 };
  for (let at = 0; at < width * height * channels; at += channels) {
    const [r, g, b] = [data[at]!, data[at + 1]!, data[at + 2]!];
    if (Math.max(r, g, b) - Math.min(r, g, b) < 70) continue;
    if (r > 1.8 * g && r > 1.5 * b) found.red++;
    else if (r > 1.8 * b && g > 1.3 * b) found.orange++;
    else if (g > 1.2 * r) found.teal++;
    else if (b > 1.2 * r) found.blue++;
  }
  return found;
}

test('sides that shift through their colours as the word swings, in a square loop', async ({ page }) => {
  await begin(page, studio);
  await step(page, 'Finish');
  // the front is plain and pale, the sides are a lacquer of their own
  const cell = (name: RegExp) => page.getByRole('gridcell', { name }).first();
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await page.getByRole('searchbox', { name: 'Find a finish' }).fill('chalk');
  await page.keyboard.press('Enter');
  const pale = await desk(page).getByLabel('Name of the finish').inputValue();
  await drag(
    page,
    page.getByRole('option', { name: pale, exact: true }),
    page.getByText('all faces', { exact: true }),
  );
  await drag(
    page,
    page.getByRole('option', { name: 'Funnel red' }),
    page.getByRole('grid').getByRole('rowheader').filter({ hasText: /^Side/ }),
  );
  await cell(/^Side of/).click();
  await expect(desk(page).getByLabel('Name of the finish')).toHaveValue('Funnel red');
  const colour = await fed(page, /^Base\s*\d/, 'Base colour');
  await colours(colour, ['#e01060', '#f0a010', '#10b0a0', '#2030e0']);
  await colour.getByRole('radio', { name: 'Late' }).click();
  const relief = await fed(page, /^(Relief|Geometry|Surface)\s*\d/, 'Relief');
  await expect(relief.getByLabel('Fed by')).toHaveValue('noise');
  await desk(page)
    .getByRole('button', { name: /^Lay a coat over it/ })
    .click();
  await desk(page).getByRole('menuitem').first().click();
  await number(desk(page), 'Cover', '0.4');
  const second = await fed(page, /^Base\s*\d/, 'Base colour');
  await colours(second, ['#ffe040', '#4000ff']);
  const red = (await documentOf(page, studio)).finishes.find((f) => f.name === 'Funnel red')!;
  expect(red.feeds.map((f) => [f.parameter, f.source, f.stops.length])).toEqual([
    ['base_color', 'angle', 4],
    ['relief', 'noise', 2],
  ]);
  expect(red.coats[0]).toMatchObject({ cover: 0.4, feeds: [{ parameter: 'base_color', source: 'angle' }] });

  // the word swings, seen a little from the side
  await step(page, 'Set');
  await peg(page, 'Turn', 'Swings');
  await step(page, 'Frame');
  await desk(page).getByLabel('Shape', { exact: true }).selectOption('1:1');
  await page.getByRole('button', { name: 'Fit the word' }).click();
  await expect(band(page).getByText('the loop closes')).toBeVisible();
  await number(desk(page), 'How far', '40');
  await desk(page).getByRole('button', { name: 'All of the word' }).click();
  await step(page, 'Light');
  await number(desk(page), 'Glow', '0.1');
  await step(page, 'Frame');
  const seen: Record<string, number>[] = [];
  for (const frame of ['0', '24', '72']) {
    await at(page, frame, 8);
    seen.push(await hues(page));
  }
  // seen at a slant the sides are of the later colours, and of the first the more they face the camera
  const first = (of: Record<string, number>) => of.red! / (of.red! + of.orange!);
  expect(first(seen[0]!)).toBeLessThan(0.4);
  expect(first(seen[1]!)).toBeGreaterThan(0.5);
  expect(first(seen[1]!)).toBeGreaterThan(first(seen[2]!) + 0.15);
});

test('letters come in one after the other, and one of them is moved by hand', async ({ page }) => {
  await page.goto(`${studio.url}/p/ostrel/signal-lit/set`);
  await traced(page, 1);
  const block = async () => (await documentOf(page, studio)).blocks[0]!;
  await page.getByTestId('set-band').locator('[data-index="2"]').click();
  const fold = desk(page).locator('details', { hasText: 'Each letter' }).last();
  const open = async () => {
    if ((await fold.getAttribute('open')) === null) await fold.locator('summary').click();
  };
  await open();
  await fold.getByRole('button', { name: 'Move it by itself' }).click();
  await traced(page, 1);
  const stage = (await page.getByTestId('stage').boundingBox())!;
  // the stem of the T, left of the middle of the word
  const stem = { x: stage.x + stage.width * 0.43, y: stage.y + stage.height * 0.5 };
  await dragBy(page, stem, 0, -20);
  const raised = (await block()).poses[0]!;
  expect(raised.shift[1]).toBeGreaterThan(0.01);
  await page.keyboard.down('Alt');
  await dragBy(page, { ...stem, y: stem.y - 20 }, 30, 0);
  await page.keyboard.up('Alt');
  expect((await block()).poses[0]!.roll).toBeLessThan(-0.1);
  await fold.getByRole('button', { name: 'As the others' }).click();
  expect((await block()).poses).toEqual([]);

  // all come down from above, each a little later than the one before it
  const key = async (up: string) => {
    await step(page, 'Set');
    await open();
    await number(fold, 'Up', up);
  };
  await key('400');
  await fold.locator('[data-peg$="/each/shift"]').click();
  await page.getByRole('menuitem', { name: 'Key here', exact: true }).click();
  await step(page, 'Frame');
  await at(page, '12', 1);
  await key('0');
  await step(page, 'Frame');
  await desk(page).getByLabel('Letters', { exact: true }).selectOption('reading');
  await number(desk(page), 'Each later by', '0.2');
  await at(page, '16', 4);
  const of = (columns: readonly number[]) => meanOf(page.getByTestId('traced'), columns, [0.02, 0.25]);
  const [first, last] = [await of([0.05, 0.2]), await of([0.8, 0.95])];
  expect(last[0]! - first[0]!).toBeGreaterThan(8);
  const track = shotOf(await documentOf(page, studio)).tracks.find((t) => t.address.endsWith('/each/shift'))!;
  expect(track).toMatchObject({ letters: 'reading', step: 0.2, keys: [{ at: 0 }, { at: 0.5 }] });
});
