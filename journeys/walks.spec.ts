/** Pieces of lighting work from nothing: strips, lamps for letters, a product shot, thrown pictures, rigs kept. */
import { readFile } from 'node:fs/promises';
import { decode, encode } from 'fast-png';
import { expect, type Page } from '@playwright/test';
import type { Light, Project } from '@wemlox/core/document';
import { begin, darken, documentOf, meanOf, number, step, test, traced, unlit } from './hands.ts';
import { OwnStudio } from './server.ts';

test.use({ restsAt: 16 });

let studio: OwnStudio;
test.beforeAll(async () => {
  studio = await OwnStudio.open();
});
test.afterAll(() => studio.end());

const desk = (page: Page) => page.getByRole('complementary', { name: 'Desk' });
const chart = (page: Page) => page.getByRole('table', { name: /^Light chart/ });
const dome = (page: Page) => page.getByTestId('dome');
const add = (page: Page, kind: string) => desk(page).getByRole('button', { name: kind, exact: true }).click();
const set = (page: Page, label: string, value: string) => number(desk(page), label, value);
const rigOf = async (page: Page): Promise<Light[]> => (await documentOf(page, studio)).looks[0].rig;

async function named(page: Page, name: string): Promise<void> {
  const field = desk(page).getByLabel('Name of the light');
  await field.fill(name);
  await field.press('Enter');
}

/** A new project's Light step, without lights and without a surround. */
async function inTheDark(page: Page): Promise<void> {
  await begin(page, studio);
  await step(page, 'Light');
  await darken(page);
}

test('strips close before a word are slanted together, kept as a rig, and light a smaller word alike', async ({
  page,
}) => {
  await inTheDark(page);
  for (const [name, nits, up] of [
    ['Low', '20', '-0.06'],
    ['Half', '45', '0'],
    ['High', '25', '0.06'],
  ] as const) {
    await add(page, 'Area');
    await named(page, name);
    await set(page, 'Strength', nits);
    await set(page, 'Width', '1');
    await set(page, 'Height', '0.02');
    await desk(page).getByRole('radio', { name: 'Facing' }).click();
    await set(page, 'Up', up);
    await set(page, 'Out', '0.08');
    await desk(page).getByLabel('Shadow', { exact: true }).uncheck();
  }
  await desk(page).getByRole('button', { name: 'Morning blue' }).click();
  const head = (name: string) =>
    chart(page).getByRole('columnheader', { name, exact: true }).getByRole('button').first();
  await head('Low').click({ modifiers: ['Shift'] });
  await head('Half').click({ modifiers: ['Shift'] });
  await expect(desk(page).getByRole('status')).toHaveText(/^Together with Low, Half/);
  await set(page, 'Turn', '12');
  await expect
    .poll(async () => (await rigOf(page)).map((l) => 'turn' in l && l.turn.toFixed(4)))
    .toEqual(new Array(3).fill(((12 * Math.PI) / 180).toFixed(4)));
  expect((await rigOf(page))[2]!.gel[0]).toBeLessThan(0.6);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await rigOf(page)).map((l) => 'turn' in l && l.turn)).toEqual([0, 0, 0]);
  await page.keyboard.press('Control+y');

  await desk(page).getByRole('button', { name: 'Library of rigs' }).click();
  await page.getByLabel('Name to keep this rig under').fill('Three strips');
  await page.getByRole('button', { name: 'Keep these lights' }).click();
  await expect(page.getByText('Three strips is in the library of rigs')).toBeVisible();
  const kept = await rigOf(page);

  await begin(page, studio);
  await set(page, 'Cap height', '30');
  await step(page, 'Light');
  await expect.poll(async () => (await documentOf(page, studio)).blocks[0].capHeight).toBeCloseTo(0.03, 6);
  await traced(page, 1);
  await desk(page).getByRole('button', { name: 'Library of rigs' }).click();
  await page
    .getByRole('listitem')
    .filter({ hasText: 'Three strips' })
    .getByRole('button', { name: 'Put here' })
    .click();
  await expect.poll(async () => (await rigOf(page)).map((l) => l.name)).toEqual(['Low', 'Half', 'High']);
  const [small] = await rigOf(page);
  const [large] = kept;
  // a word a tenth as large has strips a tenth as large, as bright
  expect('width' in small! && 'width' in large! && small.width / large.width).toBeCloseTo(0.1, 2);
  expect(small!.strength).toBe(large!.strength);
});

test('letters are the lamps: the wall behind them is lit by them alone, each in its colour', async ({
  page,
}) => {
  const document: Project = structuredClone(await studio.document('ostrel'));
  const [look] = document.looks;
  const [block] = document.blocks;
  const colours = [
    [1, 0.05, 0.02],
    [0.02, 1, 0.1],
  ];
  document.finishes = colours.map((emission_color, i) => ({
    ...structuredClone(document.finishes[0]!),
    id: `lamp-${i}`,
    name: `Lamp ${i}`,
    feeds: [],
    coats: [],
    within: null,
    surface: {
      ...structuredClone(document.finishes[0]!.surface),
      emission_color,
      emission_luminance: 3,
      emission_gas: 'none',
    },
  }));
  // red on the left, green on the right
  look.chart = block!.letters.map((letter, i) => ({
    block: block!.id,
    letter,
    finish: i < block!.letters.length / 2 ? 'lamp-0' : 'lamp-1',
  }));
  document.pieces = [
    {
      ...structuredClone(document.pieces[0]!),
      id: 'wall',
      name: 'Wall',
      kind: 'wall',
      on: true,
      finish: null,
    },
  ];
  document.looks = [
    { ...look, rig: [], surround: { ...look.surround, source: 'none', id: 'none', panels: [] } },
  ];
  const made = await page.request.post(`${studio.url}/api/projects`, { data: { document } });
  const { id } = (await made.json()) as { id: string };
  await page.goto(`${studio.url}/p/${id}/${look.id}/light`);
  await traced(page, 8);
  const seen = (xs: number[]) => meanOf(page.getByTestId('traced'), xs, [0.15, 0.3]);
  const [left, right] = [await seen([0.05, 0.3]), await seen([0.7, 0.95])];
  expect(left[0]).toBeGreaterThan(left[1]! * 1.5);
  expect(right[1]).toBeGreaterThan(right[0]! * 1.5);
  // all that lights the wall is what glows
  await expect(
    chart(page).getByRole('button', { name: /^Front glows gives (\d+) % of Wall$/ }),
  ).toBeVisible();
  await expect(chart(page).getByRole('button', { name: 'Surround gives 0 % of Wall' })).toBeVisible();
});

test('a card overhead is mirrored in edges alone, a spot is copied, moved, and thrown through a picture', async ({
  page,
}) => {
  await inTheDark(page);
  await add(page, 'Area');
  await named(page, 'Sky');
  await set(page, 'Width', '2');
  await set(page, 'Height', '2');
  await set(page, 'Elevation', '70');
  await add(page, 'Card');
  await named(page, 'Top card');
  await set(page, 'Strength', '40');
  await set(page, 'Elevation', '88');
  await set(page, 'Distance', '0.6');
  await traced(page, 4);
  const share = async (source: string, row: string) => {
    const cell = chart(page).getByRole('button', { name: new RegExp(`^${source} gives \\d+ % of ${row}$`) });
    return Number(/gives (\d+) %/.exec((await cell.getAttribute('aria-label'))!)![1]);
  };
  await expect.poll(() => share('Top card', 'Bevel')).toBeGreaterThan(10);
  expect(await share('Top card', 'Front')).toBeLessThan((await share('Top card', 'Bevel')) * 0.7);

  await add(page, 'Spot');
  await named(page, 'Beam');
  await set(page, 'Strength', '30');
  await desk(page).getByText('Pattern and profile').click();
  await desk(page).getByRole('button', { name: 'Pattern: No pattern' }).click();
  await page.getByRole('menuitem', { name: 'Slats' }).click();
  await expect(desk(page).getByRole('img', { name: 'Slats, 512 × 512 pixels' })).toBeVisible();
  await desk(page)
    .getByLabel('Photometric file')
    .setInputFiles({
      name: 'deck-lamp.ies',
      mimeType: 'text/plain',
      buffer: Buffer.from(
        'IESNA:LM-63-2002\nTILT=NONE\n1 900 1 3 1 1 2 0 0 0\n1 1 12\n0 30 90\n0\n420 60 0\n',
      ),
    });
  await expect(desk(page).getByRole('img', { name: /^deck-lamp.ies: strength by direction/ })).toBeVisible();
  await desk(page).getByRole('button', { name: '420 cd, as it says' }).click();
  await expect.poll(async () => (await rigOf(page))[2]!.strength).toBe(420);
  // slats hold some of its lumens back: less than its cone would have
  const lumens = desk(page).getByRole('group', { name: 'Units' }).getByRole('button', { name: / lm$/ });
  await expect(lumens).toBeVisible();
  const thrown = Number((await lumens.innerText()).replace(/[^\d.]/g, ''));
  const beam = (await rigOf(page))[2]!;
  const cone = 'cone' in beam ? 2 * Math.PI * (1 - Math.cos(beam.cone)) * beam.strength : 0;
  expect(thrown).toBeGreaterThan(0.02 * cone);
  expect(thrown).toBeLessThan(0.8 * cone);
  await desk(page)
    .getByLabel('Photometric file')
    .setInputFiles({
      name: 'broken.ies',
      mimeType: 'text/plain',
      buffer: Buffer.from('TILT=NONE\n1 900 1 x'),
    });
  await expect(page.getByText(/broken.ies was not taken: line 2: “x” is no number/)).toBeVisible();
  await desk(page).getByRole('button', { name: 'Copy Beam' }).click();
  await expect.poll(async () => (await rigOf(page)).map((l) => l.name)).toContain('Beam 2');
  const copied = async () => (await rigOf(page)).find((l) => l.name === 'Beam 2')!;
  const before = await copied();
  expect('pattern' in before && before.pattern?.id).toBe('slats');
  const mark = dome(page).getByRole('button', { name: /^Beam 2/ });
  await mark.focus();
  await page.keyboard.press('ArrowRight');
  await expect.poll(async () => (await copied()).azimuth - before.azimuth).toBeCloseTo(Math.PI / 90, 6);
  // straight before the last letter, a hand's breadth away
  await desk(page).getByText('Stand it before a letter').click();
  await desk(page).getByRole('button', { name: 'Before D' }).click();
  await expect
    .poll(async () => {
      const now = await copied();
      return 'place' in now && now.stands === 'free' ? now.place[2]! - now.aim[2]! : 0;
    })
    .toBeCloseTo(0.09, 6);

  // a face of an own outline, half of its rectangle, gives half the lumens
  await dome(page).getByRole('button', { name: /^Sky/ }).locator('.mark').click();
  await expect(lumens).toBeVisible();
  const inLumen = async () => Number((await lumens.innerText()).replace(/[^\d.]/g, ''));
  const whole = await inLumen();
  await desk(page).getByLabel('Shape', { exact: true }).selectOption({ label: 'Own outline' });
  await expect.poll(inLumen).toBeLessThan(0.95 * whole);
  expect(await inLumen()).toBeGreaterThan(0.2 * whole);
});

/** A flat picture of eight upright bars, white and nearly black. */
const bars = () => {
  const [width, height] = [256, 128];
  const data = new Uint8Array(width * height * 3);
  for (let i = 0; i < width * height; i++) data.fill((i % width) % 32 < 16 ? 250 : 6, i * 3, i * 3 + 3);
  return Buffer.from(encode({ width, height, data, channels: 3, depth: 8 }));
};

test('chrome mirrors a flat picture alone, blurred until the word reads, between cold and warm light, and leaves with alpha', async ({
  page,
}) => {
  const seen = page.getByTestId('traced');
  /** How far brightness strays within the band of the letters. */
  const contrast = async () => {
    const strips = [];
    for (let x = 0.2; x < 0.8; x += 0.02) strips.push((await meanOf(seen, [x, x + 0.02], [0.44, 0.5]))[1]!);
    const mean = strips.reduce((a, b) => a + b, 0) / strips.length;
    return Math.sqrt(strips.reduce((a, b) => a + (b - mean) ** 2, 0) / strips.length) / mean;
  };
  await begin(page, studio);
  await step(page, 'Finish');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await page.getByRole('searchbox', { name: 'Find a finish' }).fill('chrome');
  await page.keyboard.press('Enter');
  await expect(desk(page).getByLabel('Name of the finish')).toHaveValue(/chrome/i);
  const name = await desk(page).getByLabel('Name of the finish').inputValue();
  const grid = page.getByRole('grid');
  await grid.focus();
  await page.keyboard.press('Home');
  for (let k = 0; k < 8; k++) await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Enter');
  const chrome = async () => (await documentOf(page, studio)).finishes.find((f) => f.name === name)!.surface;
  await desk(page).locator('summary', { hasText: 'Specular' }).first().click();
  await set(page, 'Roughness', '0.04');
  await set(page, 'Specular weight', '0.9');
  await expect.poll(async () => (await chrome()).specular_weight).toBeCloseTo(0.9, 6);

  await step(page, 'Light');
  await expect(dome(page).getByRole('button')).not.toHaveCount(0);
  await unlit(page);
  await page
    .getByTestId('surround-file')
    .setInputFiles({ name: 'bars.png', mimeType: 'image/png', buffer: bars() });
  await expect(page.getByRole('option', { name: 'bars.png' })).toHaveAttribute('aria-selected', 'true');
  await desk(page).getByRole('checkbox', { name: 'Seen behind the type' }).uncheck();
  await desk(page).getByRole('checkbox', { name: 'Gives light' }).uncheck();
  const surround = async () => (await documentOf(page, studio)).looks[0]!.surround;
  await expect.poll(async () => [(await surround()).seen, (await surround()).lights]).toEqual([false, false]);
  await traced(page, 8);
  const sharp = await contrast();
  await set(page, 'Turn', '11');
  await set(page, 'Blur in reflections', '25');
  await expect.poll(async () => (await surround()).blur_mirrored).toBeCloseTo((25 * Math.PI) / 180, 6);
  await traced(page, 8);
  expect(await contrast()).toBeLessThan(sharp * 0.8);

  await add(page, 'Spot');
  await set(page, 'Strength', '60');
  // it aims itself at the word, whose bevels have more of it than a twentieth
  const bevel = chart(page).getByRole('row', { name: /^Bevel/ });
  await expect
    .poll(async () => Number(/(\d+)%/.exec((await bevel.textContent())!)?.[1]), { timeout: 60_000 })
    .toBeGreaterThan(5);
  await add(page, 'Arrangement');
  await desk(page).getByLabel('Arrangement', { exact: true }).selectOption('Two sides');
  await desk(page).getByRole('checkbox', { name: 'Second colour' }).check();
  await set(page, 'Strength', '200');
  await traced(page, 12);
  // one side is warm and the other cold
  const warmth = async (from: number, to: number) => {
    const [r, , b] = await meanOf(seen, [from, to], [0.44, 0.65]);
    return r! - b!;
  };
  expect(Math.abs((await warmth(0.2, 0.35)) - (await warmth(0.65, 0.8)))).toBeGreaterThan(4);

  await step(page, 'Press');
  await traced(page, 2);
  const file = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Download PNG, 16 bit' }).click();
  const png = decode(await readFile(await (await file).path()));
  const alpha = (x: number, y: number) =>
    png.data[(Math.floor(png.height * y) * png.width + Math.floor(png.width * x)) * 4 + 3];
  expect(png.channels).toBe(4);
  expect(alpha(0.02, 0.02)).toBe(0);
});
