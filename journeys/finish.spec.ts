/** What faces are made of: coats, feeds, and what they look like. */
import { readFile } from 'node:fs/promises';
import { expect, type Page } from '@playwright/test';
import { arrows, leadBrush, meanOf, number, test, traced } from './hands.ts';
import { decode } from 'fast-png';
import type { Finish } from '@wemlox/core/document';
import { OwnStudio } from './server.ts';

let studio: OwnStudio;
test.beforeAll(async () => {
  studio = await OwnStudio.open();
});
test.afterAll(() => studio.end());

const desk = (page: Page) => page.getByRole('complementary', { name: 'Desk' });
const finish = async (name: string): Promise<Finish> =>
  (await studio.document('ostrel')).finishes.find((f: Finish) => f.name === name);

/** Mean colour of the part of the stage between two heights, counted from the top, of what is coloured at all. */
async function meanColour(page: Page, from: number, to: number): Promise<number[]> {
  const { data, width, height, channels } = decode(await page.getByTestId('stage').screenshot());
  const sum = [0, 0, 0];
  let count = 0;
  for (let y = Math.floor(height * from); y < height * to; y++)
    for (let x = Math.floor(width * 0.1); x < width * 0.9; x++) {
      const at = (y * width + x) * channels;
      const [r, g, b] = [data[at], data[at + 1], data[at + 2]];
      if (Math.max(r, g, b) - Math.min(r, g, b) < 60) continue;
      [r, g, b].forEach((v, c) => (sum[c] += v));
      count++;
    }
  return sum.map((v) => v / Math.max(1, count));
}

test('a finish of feeds is found by typing and laid on a face', async ({ page }) => {
  // hands are faster than a library far away
  await page.route('**/api/finishes*', async (route) => {
    await new Promise((done) => setTimeout(done, 1500));
    await route.continue();
  });
  await page.goto(`${studio.url}/p/ostrel/gold-leaf/finish`);
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await page.getByRole('searchbox', { name: 'Find a finish' }).fill('lacq waterl');
  await page.keyboard.press('Enter');
  await expect(desk(page).getByLabel('Name of the finish')).toHaveValue('Waterline');
  await page.getByRole('gridcell', { name: /^Front of O/ }).click();
  await page.getByRole('option', { name: 'Waterline', exact: true }).click();
  await page.getByRole('button', { name: /^Lay on Front of O/ }).click();
  await expect
    .poll(async () =>
      JSON.stringify(
        (await studio.document('ostrel')).looks.find((l: { id: string }) => l.id === 'gold-leaf').chart,
      ),
    )
    .toContain((await finish('Waterline'))?.id ?? 'none yet');
  const made = await finish('Waterline');
  expect(made.feeds.map((f) => [f.parameter, f.source, f.stops.length])).toEqual([['base_color', 'up', 6]]);
});

test('parameters are fed in place: stops are added, dragged and coloured, and undone by name', async ({
  page,
}) => {
  await page.goto(`${studio.url}/p/ostrel/gold-leaf/finish`);
  await page.getByRole('gridcell', { name: /^Front of S/ }).click();
  const name = await desk(page).getByLabel('Name of the finish').inputValue();
  await desk(page).getByRole('button', { name: 'Feed Roughness' }).first().click();
  await expect(page.getByRole('button', { name: `Undo Feed Roughness of ${name}` })).toBeEnabled();
  await desk(page).locator('summary', { hasText: 'Roughness' }).first().click();
  const strip = desk(page).getByTestId('stop-strip').first();
  await strip.dblclick({ position: { x: 150, y: 10 } });
  const stops = async () => (await finish(name)).feeds[0]?.stops ?? [];
  await expect.poll(async () => (await stops()).length).toBe(3);
  const stop = strip.getByRole('button', { name: /^Stop 2 at/ });
  await stop.focus();
  await page.keyboard.press('Shift+ArrowRight');
  await expect.poll(async () => (await stops())[1]?.at).toBeGreaterThan(0.55);
  await desk(page).getByLabel('Fed by').first().selectOption('noise');
  await expect.poll(async () => (await finish(name)).feeds[0]?.source).toBe('noise');
  await expect(
    desk(page).getByLabel('Octaves, typed').or(desk(page).getByText('Octaves')).first(),
  ).toBeVisible();
  // where its stops lie is seen on the letter
  const onLetter = desk(page).getByRole('img', { name: /^Noise on / });
  await expect(onLetter).toBeVisible();
  const greys = await meanOf(onLetter, [0, 1], [0, 1]);
  expect(Math.max(...greys)).toBeGreaterThan(30);
  await stop.focus();
  await page.keyboard.press('Delete');
  await expect.poll(async () => (await stops()).length).toBe(2);
  await desk(page).getByRole('button', { name: 'No feed for Roughness' }).click();
  await expect.poll(async () => (await finish(name)).feeds.length).toBe(0);
  await page.keyboard.press('u');
  await expect.poll(async () => (await finish(name)).feeds.length).toBe(1);
  await page.keyboard.press('d');
  await expect(page.getByText(/^Draft/)).toBeVisible();
  await page.keyboard.press('/');
  await page.getByRole('combobox', { name: /^Find a command/ }).fill('GLB');
  // each face is laid down: a busy machine takes its time
  const file = page.waitForEvent('download', { timeout: 180_000 });
  await page.keyboard.press('Enter');
  await expect(page.getByText(/^The GLB file is being made/)).toBeVisible();
  const saved = await file;
  await expect(page.getByText(/^The GLB file is being made/)).toHaveCount(0);
  expect(saved.suggestedFilename()).toMatch(/\.glb$/);
  // what is fed over faces has become pictures
  const bytes = await readFile(await saved.path());
  const said = JSON.parse(bytes.subarray(20, 20 + bytes.readUInt32LE(12)).toString()) as {
    images?: { name: string }[];
  };
  expect(said.images?.length).toBeGreaterThan(5);
  // and is called off
  await page.keyboard.press('/');
  await page.getByRole('combobox', { name: /^Find a command/ }).fill('GLB');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await expect(page.getByText('The GLB file could not be made: it was called off')).toBeVisible();
});

test('coats are laid over, moved, hidden and taken off; light that is fed is seen', async ({ page }) => {
  await page.goto(`${studio.url}/p/ostrel/gold-leaf/finish`);
  await page.getByRole('gridcell', { name: /^Front of T/ }).click();
  const name = await desk(page).getByLabel('Name of the finish').inputValue();
  const over = async (nth: number) => {
    await desk(page)
      .getByRole('button', { name: /^Lay a coat over it/ })
      .click();
    await desk(page).getByRole('menuitem').nth(nth).click();
  };
  await over(0);
  await expect(desk(page).getByLabel('Name of the coat')).toHaveValue('Coat');
  await over(1);
  await expect.poll(async () => (await finish(name)).coats.length).toBe(2);
  const [first, second] = (await finish(name)).coats;
  await desk(page)
    .getByRole('button', { name: `${second.name} down` })
    .click();
  await expect.poll(async () => (await finish(name)).coats.map((c) => c.id)).toEqual([second.id, first.id]);
  await desk(page)
    .getByRole('button', { name: `Hide ${second.name}` })
    .click();
  await expect.poll(async () => (await finish(name)).coats[0].on).toBe(false);
  // the plain coat glows red below and blue above, and covers all
  await desk(page).getByRole('button', { name: 'Coat Coat' }).click();
  await desk(page).locator('summary', { hasText: 'Emission' }).click();
  await desk(page).getByRole('button', { name: 'Feed Light colour' }).click();
  await desk(page).locator('summary', { hasText: 'Light colour' }).click();
  await desk(page).getByLabel('Fed by').last().selectOption('up');
  const colour = (n: number) => desk(page).getByLabel(`Stop ${n}, hexadecimal`);
  const strip = desk(page).getByTestId('stop-strip').last();
  await strip.getByRole('button', { name: /^Stop 1 / }).focus();
  await colour(1).fill('#ff0000');
  await colour(1).press('Enter');
  await strip.getByRole('button', { name: /^Stop 2 / }).focus();
  await colour(2).fill('#0000ff');
  await colour(2).press('Enter');
  const type = async (label: string, value: string) => {
    const field = desk(page).getByRole('textbox', { name: label, exact: true }).last();
    await field.fill(value);
    await field.press('Enter');
  };
  await type('Luminance', '4');
  await type('Cover', '1');
  await expect.poll(async () => (await finish(name)).coats[1].surface.emission_luminance).toBe(4);
  await expect(page.getByTestId('stage')).toHaveAttribute('data-samples', /^([4-9]|\d\d+)$/, {
    timeout: 120_000,
  });
  const [top, bottom] = [await meanColour(page, 0, 0.45), await meanColour(page, 0.55, 1)];
  expect(top[2] - top[0]).toBeGreaterThan(bottom[2] - bottom[0] + 20);
  await desk(page).getByRole('button', { name: 'Remove Coat' }).click();
  await expect.poll(async () => (await finish(name)).coats.length).toBe(1);
});

test('a place of an unfolded letter is marked in the picture, and one of the picture in the chart', async ({
  page,
}) => {
  await page.goto(`${studio.url}/p/ostrel/dusk-chrome/finish`);
  const unfolded = page.getByRole('columnheader', { name: 'T', exact: true }).locator('canvas');
  await expect(unfolded).toHaveAttribute('data-traced', 'yes', { timeout: 120_000 });
  const box = (await unfolded.boundingBox())!;
  // the stem, and the ring of the side to its right
  await page.mouse.move(box.x + box.width / 2, box.y + box.height * 0.55);
  await expect(page.getByTestId('hover-mark')).toBeVisible();
  const mark = (await page.getByTestId('hover-mark').boundingBox())!;
  await page.mouse.down();
  await page.mouse.up();
  await expect(desk(page).getByText('Front of T')).toBeVisible();
  // the same place in the picture is that of the chart
  await page.mouse.move(mark.x + mark.width / 2, mark.y + mark.height / 2, { steps: 3 });
  await expect(page.getByTestId('unfolded-mark')).toBeVisible();
  const back = (await page.getByTestId('unfolded-mark').boundingBox())!;
  expect(Math.abs(back.x + back.width / 2 - (box.x + box.width / 2))).toBeLessThan(4);
  expect(Math.abs(back.y + back.height / 2 - (box.y + box.height * 0.55))).toBeLessThan(4);
  // a face that is turned away can be chosen there too
  const zones = new Set<string>();
  for (let x = box.x + box.width * 0.5; x < box.x + box.width; x += 3) {
    await page.mouse.move(x, box.y + box.height * 0.55);
    const cell = await unfolded.locator('..').getAttribute('data-cell');
    if (cell) zones.add(cell.split('/')[2]!);
  }
  expect([...zones]).toEqual(['front', 'frontBevel', 'side', 'backBevel']);
});

test('many letters are dressed in one move, faces stand out, and a shared finish is copied for one look', async ({
  page,
}) => {
  await page.goto(`${studio.url}/p/ostrel/signal-lit/finish`);
  const look = async (id: string) =>
    (await studio.document('ostrel')).looks.find((l: { id: string }) => l.id === id)!;
  await page.getByRole('gridcell', { name: /^Front of S/ }).click();
  const rules = async () =>
    (await look('signal-lit')).chart as { letter?: string; zone?: string; finish: string }[];
  const before = (await rules()).length;
  await page.getByRole('option', { name: 'Worn steel', exact: true }).click();
  await page.getByLabel('Dress many letters').selectOption('whole vowels');
  const steel = (await finish('Worn steel')).id;
  await expect
    .poll(async () => (await rules()).filter((r) => r.finish === steel && r.letter && !r.zone).length)
    .toBe(2);
  await expect(page.getByRole('gridcell', { name: 'Side of E: Worn steel' })).toBeVisible();
  await page.keyboard.press('u');
  await expect.poll(async () => (await rules()).length).toBe(before);

  await page.getByRole('gridcell', { name: /^Side of O/ }).click();
  await page.getByLabel('Dress many letters').selectOption({ label: 'every letter' });
  await expect(page.getByRole('button', { name: 'Undo Dress of O → 5 letters' })).toBeEnabled();
  await page.keyboard.press('u');

  // the same seed picks the same letters, another others
  const picked = async () =>
    (await rules()).flatMap((r) => (r.finish === steel && r.letter && !r.zone ? [r.letter] : [])).sort();
  const byChance = async (seed: number) => {
    await page.getByRole('option', { name: 'Worn steel', exact: true }).click();
    await page.getByLabel('Random seed').fill(`${seed}`);
    await page.getByLabel('Dress many letters').selectOption('whole random');
    await expect.poll(picked).not.toEqual([]);
    const some = await picked();
    await page.getByLabel('Dress many letters').press('Escape');
    await page.getByRole('button', { name: /^Undo Half at random/ }).click();
    await expect.poll(picked).toEqual([]);
    return some;
  };
  const chance = await byChance(3);
  expect(await byChance(3)).toEqual(chance);
  expect(await byChance(4)).not.toEqual(chance);

  // equal letters that are dressed alike are one column, and dressed in one move
  await page.goto(`${studio.url}/p/saloon/canvas/finish`);
  await page.getByLabel('Equal letters in one column').click();
  const heads = page.getByRole('columnheader').filter({ hasText: '×' });
  await expect(heads).toHaveText(['O ×2']);
  await page.getByRole('gridcell', { name: /^Front of O/ }).click();
  await page.keyboard.press('Delete');
  await expect(page.getByRole('gridcell', { name: 'Front of O: no finish' })).toBeVisible();
  await expect(heads).toHaveText(['O ×2']);
  const bare = async () =>
    (await studio.document('saloon')).looks
      .find((l: { id: string }) => l.id === 'canvas')
      .chart.filter((r: { finish: string | null; letter?: string }) => r.letter && r.finish === null).length;
  await expect.poll(bare).toBe(2);
  await page.getByRole('button', { name: /^Undo Clear Front of O, 2 letters/ }).click();
  await expect.poll(bare).toBe(0);
  await page.getByLabel('Equal letters in one column').click();
  await page.goto(`${studio.url}/p/ostrel/signal-lit/finish`);

  // glowing faces stand out, all others stand back
  await page.getByLabel('Faces that stand out').selectOption({ label: 'Glowing' });
  const dim = page.getByRole('gridcell').and(page.locator('.opacity-20'));
  const lit = page.getByRole('gridcell').and(page.locator(':not(.opacity-20)'));
  await expect.poll(() => lit.count()).toBeGreaterThan(0);
  for (const name of await lit.evaluateAll((all) => all.map((e) => e.getAttribute('title')!)))
    expect(name).toMatch(/neon|lamp/i);
  expect(await dim.count()).toBeGreaterThan(0);
  await page.getByLabel('Faces that stand out').selectOption({ label: 'All faces' });
  await expect(dim).toHaveCount(0);

  // finishes are found by colour, and by likeness to the one in the desk
  await page.getByRole('gridcell', { name: /^Back of S/ }).click();
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await page.getByRole('button', { name: 'Blue first' }).click();
  const first = page.getByRole('menu', { name: 'Finishes to add' }).getByRole('menuitem').first();
  await expect(first).toContainText(/blue|cobalt|enamel|night|ice|violet|xenon/i);
  const worn = await desk(page).getByLabel('Name of the finish').inputValue();
  await page.getByRole('button', { name: `Like ${worn}` }).click();
  await expect(first).toContainText(worn);
  await page.keyboard.press('Escape');

  // what several looks wear is told, and copied for this one
  const shared = desk(page).getByRole('status').filter({ hasText: 'Changes show in' });
  await expect(shared).toBeVisible();
  const id = (await finish(worn)).id;
  await desk(page)
    .getByRole('button', { name: /^Copy for / })
    .click();
  await expect.poll(async () => (await rules()).some((r) => r.finish === id)).toBe(false);
  expect(JSON.stringify((await look('gold-leaf')).chart)).toContain(id);
  await expect(desk(page).getByLabel('Name of the finish')).not.toHaveValue(worn);
});

test('a coat lies where it is painted on the letters, and is taken away again by hand and by a step back', async ({
  page,
}) => {
  await page.goto(`${studio.url}/p/ostrel/gold-leaf/finish`);
  await traced(page, 1);
  await page.getByRole('gridcell', { name: /^Front of T/ }).click();
  const name = await desk(page).getByLabel('Name of the finish').inputValue();
  await desk(page)
    .getByRole('button', { name: /^Lay a coat over it/ })
    .click();
  await desk(page).getByRole('menuitem').first().click();
  await number(desk(page), 'Roughness', '0.9');
  await desk(page).locator('summary', { hasText: 'Base' }).first().click();
  const hex = desk(page).getByLabel('Colour, hexadecimal').first();
  await hex.fill('#0030ff');
  await hex.press('Enter');
  const cover = async () => (await finish(name)).coats.at(-1)!.feeds.find((f) => f.parameter === 'cover');
  await desk(page).getByRole('button', { name: 'Paint where it lies' }).click();
  await expect(desk(page).getByLabel('Brush', { exact: true }).first()).toBeVisible();
  await expect.poll(async () => (await cover())?.source).toBe('picture');
  const blank = (await cover())!;
  expect(blank).toMatchObject({ source: 'picture', lay: 'tiles', coding: 'numbers', edges: 'once' });
  expect(blank.stops.map((s) => s.value)).toEqual([0, 1]);
  const stem = page.getByTestId('traced');
  /** How much bluer than red the stem of the T is, and that of the L. */
  const blue = async () => {
    const means = [
      await meanOf(stem, [0.42, 0.44], [0.48, 0.58]),
      await meanOf(stem, [0.83, 0.85], [0.45, 0.55]),
    ];
    return means.map(([r, , b]) => b - r);
  };
  await traced(page, 4);
  const before = await blue();

  // along the stem of the T, twice as wide as it first is
  await number(desk(page), 'Brush', '30');
  const box = (await stem.boundingBox())!;
  const to = (x: number, y: number) =>
    page.mouse.move(box.x + box.width * x, box.y + box.height * y, { steps: 6 });
  const stroke = async () => {
    await to(0.43, 0.46);
    await page.mouse.down();
    await to(0.43, 0.6);
    await page.mouse.up();
  };
  // the first by keys alone: arrows lead the brush there, and paint while Space is held
  await leadBrush(page, page.getByTestId('paint'), [box.x + box.width * 0.43, box.y + box.height * 0.46]);
  await expect(page.getByRole('status').filter({ hasText: 'On Front of T' })).toBeAttached();
  await page.keyboard.down('Space');
  await arrows(page, box.height * 0.14, 'ArrowUp', 'ArrowDown');
  await page.keyboard.up('Space');
  await expect.poll(async () => (await cover())!.picture.id).not.toBe(blank.picture.id);
  const painted = (await cover())!.picture.id;
  await traced(page, 4);
  const after = await blue();
  expect(after[0]).toBeGreaterThan(before[0] + 40);
  expect(Math.abs(after[1] - before[1])).toBeLessThan(12);
  // strokes crowd no list of pictures
  expect(await (await page.request.get(`${studio.url}/api/assets?kind=picture`)).json()).toEqual([]);

  // with Alt a wider stroke takes it away
  await number(desk(page), 'Brush', '70');
  await page.keyboard.down('Alt');
  await stroke();
  await page.keyboard.up('Alt');
  await expect.poll(async () => (await cover())!.picture.id).not.toBe(painted);
  await traced(page, 4);
  expect(Math.abs((await blue())[0] - before[0])).toBeLessThan(12);

  // a stroke that the server does not take is kept once it does
  const taken = (await cover())!.picture.id;
  await page.route('**/api/assets?kind=painting*', (route) => route.abort());
  await stroke();
  await expect(page.getByText(/^What was painted is not kept/)).toBeVisible();
  await page.unroute('**/api/assets?kind=painting*');
  await expect.poll(async () => (await cover())!.picture.id, { timeout: 30_000 }).not.toBe(taken);
  await page.keyboard.press('u');
  await expect.poll(async () => (await cover())!.picture.id).toBe(taken);

  // a step back brings it back, and the next stroke falls on what is there then
  await page.keyboard.press('u');
  await expect.poll(async () => (await cover())!.picture.id).toBe(painted);
  await desk(page).getByRole('button', { name: 'Clear all' }).click();
  await expect.poll(async () => (await cover())!.picture.id).toBe(blank.picture.id);
  // beside the letters hands turn the picture
  const { camera } = (await studio.document('ostrel')).shots[0];
  await page.mouse.move(box.x + box.width * 0.5, box.y + box.height * 0.15);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.55, box.y + box.height * 0.15, { steps: 4 });
  await page.mouse.up();
  await expect
    .poll(async () => (await studio.document('ostrel')).shots[0].camera.azimuth)
    .not.toBe(camera.azimuth);
});
