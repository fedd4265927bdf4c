/** Pieces of lighting work from nothing: strips, lamps for letters, a product shot, thrown pictures, rigs kept. */
import { expect, type Page } from '@playwright/test';
import type { Light, Project } from '@wemlox/core/document';
import { begin, darken, documentOf, meanOf, number, step, test, traced } from './hands.ts';
import { OwnStudio } from './server.ts';

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
