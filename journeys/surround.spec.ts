/** The surround painted and turned by hand, cards and other lights by what they reach, and wishes for light. */
import { expect, type Page } from '@playwright/test';
import type { Light, Panel, Project } from '@wemlox/core/document';
import { dragBy, meanOf, middle, number, test, traced } from './hands.ts';
import { OwnStudio } from './server.ts';

test.use({ restsAt: 16 });

let studio: OwnStudio;
test.beforeAll(async () => {
  studio = await OwnStudio.open();
});
test.afterAll(() => studio.end());

const stage = (page: Page) => page.getByTestId('stage');
const chart = (page: Page) => page.getByRole('table', { name: /^Light chart/ });
const desk = (page: Page) => page.getByRole('complementary', { name: 'Desk' });
const add = (page: Page, name: string) =>
  desk(page)
    .getByRole('button', { name: `${name}`, exact: true })
    .click();

/** Mean of the traced picture, 0 … 255, within shares of it. */
const mean = (page: Page, xs: number[], ys: number[]) => meanOf(page.getByTestId('traced'), xs, ys);
const look = async (project: string, at: number) => (await studio.document(project)).looks[at];
const saved = (page: Page) => expect(page.getByText('saved', { exact: true })).toBeVisible();
/** Waits for what was changed to be traced anew. */
async function anew(page: Page, n: number): Promise<void> {
  await expect(stage(page)).not.toHaveAttribute('data-state', 'done');
  await traced(page, n);
}

test('a surround is painted: a banded horizon makes chrome of the type, and a panel goes where it is dragged', async ({
  page,
}) => {
  await page.goto(`${studio.url}/p/ostrel/dusk-chrome/light`);
  await traced(page, 4);
  const rack = page.getByRole('region', { name: 'Rack' });
  await rack.getByRole('option', { name: 'No surround' }).click();
  await expect.poll(async () => (await look('ostrel', 0)).surround.source).toBe('none');
  await traced(page, 4);
  // lamps alone: above the type it is black, for nothing is there
  await expect.poll(async () => (await mean(page, [0.1, 0.9], [0.05, 0.2]))[1]).toBeLessThan(20);
  await add(page, '+ Horizon');
  await expect.poll(async () => (await look('ostrel', 0)).surround.panels.length).toBe(1);
  await traced(page, 4);
  await expect.poll(async () => (await mean(page, [0.1, 0.9], [0.05, 0.2]))[1]).toBeGreaterThan(120);
  // the fronts mirror the bright side of the line above, the dark one below
  const [upper] = await mean(page, [0.42, 0.46], [0.37, 0.42]);
  const [lower] = await mean(page, [0.42, 0.46], [0.55, 0.6]);
  expect(upper).toBeGreaterThan(lower * 1.5);

  await add(page, '+ Soft box');
  await expect.poll(async () => (await look('ostrel', 0)).surround.panels.length).toBe(2);
  const panel = async () =>
    (await look('ostrel', 0)).surround.panels.find((p: Panel) => p.name === 'Soft box') as Panel;
  const before = await panel();
  const mark = rack.getByRole('button', { name: /^Soft box: drag/ });
  const box = (await mark.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 - 40, box.y + box.height / 2 + 12, { steps: 5 });
  await page.mouse.up();
  await expect.poll(async () => Math.abs((await panel()).azimuth - before.azimuth)).toBeGreaterThan(0.3);
  // what is saved on the way is not yet where it is let go
  await expect.poll(async () => (await panel()).elevation).toBeLessThan(before.elevation - 0.1);
  await saved(page);
  const there = await panel();
  const handle = rack.getByRole('button', { name: /^Width of Soft box/ });
  const grip = (await handle.boundingBox())!;
  await page.mouse.move(grip.x + grip.width / 2, grip.y + grip.height / 2);
  await page.mouse.down();
  await page.mouse.move(grip.x + grip.width / 2 - 25, grip.y + grip.height / 2, { steps: 4 });
  await page.mouse.up();
  await expect.poll(async () => Math.abs((await panel()).width - there.width)).toBeGreaterThan(0.1);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await panel()).width).toBeCloseTo(there.width, 9);
  await mark.focus();
  await page.keyboard.press('ArrowUp');
  await expect.poll(async () => (await panel()).elevation - there.elevation).toBeCloseTo(Math.PI / 90, 6);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await panel()).elevation).toBeCloseTo(there.elevation, 9);
});

test('the surround is turned by its unwrapped picture, looked at by itself, and kept as a file', async ({
  page,
}) => {
  await page.goto(`${studio.url}/p/tide-bar/morning-after/light`);
  await traced(page, 2);
  const at = (await studio.document('tide-bar')).looks.findIndex(
    (l: { id: string }) => l.id === 'morning-after',
  );
  const stance = async () => (await look('tide-bar', at)).surround as Project['looks'][number]['surround'];
  const before = await stance();
  const box = (await page.getByTestId('unwrapped').boundingBox())!;
  const drag = async (dx: number, dy: number, key?: string) => {
    if (key) await page.keyboard.down(key);
    await page.mouse.move(box.x + 100, box.y + 20);
    await page.mouse.down();
    await page.mouse.move(box.x + 100 + dx, box.y + 20 + dy, { steps: 4 });
    await page.mouse.up();
    if (key) await page.keyboard.up(key);
  };
  await drag(51, 0);
  // a quarter of the way round
  await expect.poll(async () => (await stance()).turn).toBeCloseTo(before.turn - Math.PI / 2, 1);
  await drag(0, 17, 'Alt');
  await expect.poll(async () => (await stance()).tilt).toBeCloseTo(Math.PI / 6, 1);
  await page.getByTestId('unwrapped').focus();
  await page.keyboard.press('ArrowRight');
  await expect
    .poll(async () => (await stance()).turn)
    .toBeCloseTo(before.turn - Math.PI / 2 - Math.PI / 90, 1);

  await add(page, '+ Strip');
  await page.getByRole('button', { name: 'Look at the surround by itself' }).click();
  const dialog = page.getByRole('dialog');
  const large = (await dialog.getByTestId('unwrapped').boundingBox())!;
  await page.mouse.move(large.x + large.width * 0.5, large.y + large.height * 0.5);
  await expect(dialog.getByTestId('surround-readout')).toHaveText(/nit under the pointer: [+-]/);
  await dialog.getByRole('button', { name: 'From inside' }).click();
  const inside = dialog.getByRole('application', { name: /^The surround from inside/ });
  await inside.focus();
  const mark = dialog.getByRole('button', { name: /^Strip: drag/ });
  for (let turns = 0; turns < 52 && (await mark.count()) === 0; turns++)
    await page.keyboard.press('ArrowLeft');
  const from = await middle(mark);
  const to = { x: large.x + large.width * 0.5, y: large.y + large.height * 0.4 };
  await dragBy(page, from, to.x - from.x, to.y - from.y);
  // it is where the hand let go, and so is what the document says
  await expect.poll(async () => Math.abs((await middle(mark)).x - to.x)).toBeLessThan(2);
  await expect.poll(async () => (await stance()).panels[0].elevation).not.toBeCloseTo(0.2, 3);
  await page.keyboard.press('Escape');
  await expect(dialog).toHaveCount(0);

  await page.getByRole('button', { name: 'Keep the surround as .exr' }).click();
  await expect(page.getByText(/lies with the surrounds/)).toBeVisible();
  await expect.poll(async () => (await stance()).source).toBe('picture');
  await traced(page, 2);
  const kept = page.getByRole('option', { name: /Snow pier.*\.exr/ });
  await expect(kept).toHaveAttribute('aria-selected', 'true');
  // it says what it is like, and is found by its tags
  await expect(kept).toHaveAttribute('title', /mean .* nit, peak .* EV$/);
  await page.getByRole('button', { name: 'Look at the surround by itself' }).click();
  await dialog.getByLabel('Tags of the surround').fill('harbour, cold');
  await dialog.getByLabel('Tags of the surround').press('Enter');
  await expect(kept).toHaveAttribute('title', /harbour, cold$/);
  await page.keyboard.press('Escape');
  await page.getByLabel('Find a surround by name or tag').fill('cold harb');
  await expect(page.getByRole('listbox', { name: 'Surrounds' }).getByRole('option')).toHaveCount(1);
});

test('the sun of a surround becomes a light of its own; cards, light from all around and arrangements reach what they are for', async ({
  page,
}) => {
  await page.goto(`${studio.url}/p/tide-bar/open-late/light`);
  await traced(page, 2);
  const at = (await studio.document('tide-bar')).looks.findIndex((l: { id: string }) => l.id === 'open-late');
  const rig = async () => (await look('tide-bar', at)).rig as Light[];
  await page.getByRole('option', { name: 'Overcast quay' }).click();
  await desk(page).getByRole('button', { name: 'Part the sun' }).click();
  await expect(page.getByText(/^Nothing small stands out of Overcast quay/)).toBeVisible();
  await add(page, '+ Sun');
  await number(desk(page), 'Width', '3');
  await number(desk(page), 'Height', '3');
  await desk(page).getByRole('button', { name: 'Part the sun' }).click();
  await expect.poll(async () => (await rig()).some((l) => l.name === 'Sun')).toBe(true);
  const sun = (await rig()).find((l) => l.name === 'Sun')!;
  if (sun.kind !== 'directional') throw new Error('the sun is no directional light');
  // as it was painted: to the left, half a radian up, three degrees across
  expect(sun.azimuth).toBeCloseTo(-0.8, 1);
  expect(sun.elevation).toBeCloseTo(0.5, 1);
  expect((sun.size * 180) / Math.PI).toBeGreaterThan(2.4);
  expect((sun.size * 180) / Math.PI).toBeLessThan(3.6);
  await expect(desk(page).getByRole('list', { name: 'Panels' })).toContainText('Sky over the sun');

  await add(page, 'Card');
  await number(desk(page), 'Strength', '40');
  await number(desk(page), 'Elevation', '80');
  await expect.poll(async () => (await rig()).some((l) => l.kind === 'card' && l.strength === 40)).toBe(true);
  await add(page, 'Ambient');
  await traced(page, 6);
  // nobody stands for light from all around on the map
  await expect(page.getByTestId('dome').getByRole('button', { name: /^Ambient/ })).toHaveCount(0);
  await expect(
    chart(page)
      .getByRole('button', { name: /^Ambient gives [1-9]\d* % of / })
      .first(),
  ).toBeVisible();

  // told to fall on the wall alone, it gives the type nothing
  await desk(page).getByText('Falls on everything').click();
  const things = desk(page).getByRole('list', { name: 'What Ambient falls on' });
  const names = await things.getByRole('checkbox').count();
  for (let i = 0; i < names - 1; i++) await things.getByRole('checkbox').nth(i).click();
  await expect.poll(async () => (await rig()).find((l) => l.kind === 'ambient')!.only.length).toBe(1);
  await anew(page, 6);
  await expect(
    chart(page)
      .getByRole('button', { name: /^Ambient gives 0 % of (Front|Glass)$/ })
      .first(),
  ).toBeVisible();

  // lamps set as one
  await add(page, 'Arrangement');
  await number(desk(page), 'Lamps', '24');
  await number(desk(page), 'Rings', '2');
  const made = async () => (await rig()).find((l) => l.kind === 'array');
  await expect.poll(async () => (await made())?.rings).toBe(2);
  expect((await made())!.count).toBe(24);
  await traced(page, 6);
  const wall = chart(page).getByRole('button', { name: /^Arrangement gives \d+ % of Wall$/ });
  await expect(wall).toBeVisible();
  const share = async () => Number(/gives (\d+) %/.exec((await wall.getAttribute('aria-label'))!)![1]);
  await expect.poll(share).toBeGreaterThan(0);
});

test('a wish painted on the picture is granted by its lights; behind the type stands nothing, black or a colour', async ({
  page,
}) => {
  await page.goto(`${studio.url}/p/ostrel/gold-leaf/light`);
  await traced(page, 12);
  const where = [
    [0.08, 0.38],
    [0.42, 0.58],
  ];
  const before = (await mean(page, where[0], where[1]))[1];
  await page.getByRole('button', { name: 'Wish', exact: true }).click();
  const paint = page.getByTestId('wish-paint');
  const box = (await paint.boundingBox())!;
  // by keys from the middle to the left, and then by hand
  await paint.focus();
  const strides = (share: number) => Math.round((share * box.width) / 30);
  for (let k = 0; k < strides(0.12); k++) await page.keyboard.press('Shift+ArrowLeft');
  await page.keyboard.down('Space');
  for (let k = 0; k < strides(0.3); k++) await page.keyboard.press('Shift+ArrowLeft');
  await page.keyboard.up('Space');
  await expect(paint.locator('polyline')).toHaveCount(1);
  await page.mouse.move(box.x + box.width * 0.08, box.y + box.height * 0.5);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.38, box.y + box.height * 0.5, { steps: 12 });
  await page.mouse.up();
  await expect(paint.locator('polyline')).toHaveCount(2);
  await page.getByRole('button', { name: 'Find', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Take over' })).toBeVisible();
  const old = await look('ostrel', 1);
  await page.getByRole('button', { name: 'Take over' }).click();
  await expect(paint).toHaveCount(0);
  await expect(page.getByRole('button', { name: 'Undo Balance of the light' })).toBeEnabled();
  await expect
    .poll(async () => JSON.stringify((await look('ostrel', 1)).rig))
    .not.toBe(JSON.stringify(old.rig));
  await traced(page, 12);
  expect((await mean(page, where[0], where[1]))[1]).toBeGreaterThan(before * 1.15);

  const behind = () => mean(page, [0.1, 0.9], [0.05, 0.2]);
  // open, and hatched
  expect((await behind())[0]).toBeGreaterThan(15);
  const choose = (name: string) =>
    desk(page)
      .getByRole('radiogroup', { name: 'Behind the type' })
      .getByRole('radio', { name, exact: true })
      .click();
  await choose('Black');
  await expect.poll(async () => (await look('ostrel', 1)).grade.backdrop).toBe('black');
  await expect.poll(async () => (await behind())[0]).toBeLessThan(1);
  await choose('Colour');
  await expect.poll(async () => (await look('ostrel', 1)).grade.backdrop).toBe('colour');
  // a fifth of the light there is: 124 of 255 on the screen
  await expect.poll(async () => Math.abs((await behind())[1] - 124)).toBeLessThan(2);
});
