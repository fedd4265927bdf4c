/** A word in a studio, lit by its room alone: looked into, dimmed, swapped for another, and with a model beside it. */
import { expect, type Page } from '@playwright/test';
import { bollard } from '../core/test/model/bollard.ts';
import { begin, documentOf, meanOf, number, step, test, traced, unlit } from './hands.ts';
import { OwnStudio } from './server.ts';

let studio: OwnStudio;
test.beforeAll(async () => {
  studio = await OwnStudio.open();
});
test.afterAll(() => studio.end());

const desk = (page: Page) => page.getByRole('complementary', { name: 'Desk' });
const piece = (page: Page, name: string) => desk(page).getByRole('group', { name, exact: true });
const surroundOf = async (page: Page) => (await documentOf(page, studio)).looks[0]!.surround;
const seen = (page: Page, x: readonly number[], y: readonly number[]) =>
  meanOf(page.getByTestId('traced'), x, y);
const light = (rgb: number[]) => rgb[0]! + rgb[1]! + rgb[2]!;
/** Difference of two means, a channel. */
const apart = (a: number[], b: number[]) => Math.max(...a.map((v, c) => Math.abs(v - b[c]!)));

test('a word stands in a room that lights it alone, is looked into, swapped, and shared with a model', async ({
  page,
}) => {
  await begin(page, studio);
  await number(desk(page), 'Depth', '80');
  await step(page, 'Finish');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await page.getByRole('searchbox', { name: 'Find a finish' }).fill('chalk');
  await page.keyboard.press('Enter');
  const chalk = await desk(page).getByLabel('Name of the finish').inputValue();

  // a white floor, and the room for its only light
  await step(page, 'Frame');
  await piece(page, 'Floor').getByRole('combobox').first().selectOption({ label: chalk });
  await step(page, 'Light');
  await page.getByRole('option', { name: 'Lamp studio' }).click();
  await unlit(page);
  await traced(page, 8);
  await expect.poll(async () => (await documentOf(page, studio)).looks[0]!.rig.length).toBe(0);
  const [ground, word] = [
    await seen(page, [0.05, 0.95], [0.85, 0.98]),
    await seen(page, [0.2, 0.8], [0.4, 0.6]),
  ];
  // white in the foreground; before the feet it is softly darker
  expect(light(ground)).toBeGreaterThan(250);

  // the room is looked at by itself: how much brighter are its lamps than its walls
  await page.getByRole('button', { name: 'Look at the surround by itself' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByTestId('surround-readout')).toHaveText(/^Mean .* peak .* range \d/);
  const range = Number(
    /range ([\d.]+) EV/.exec((await dialog.getByTestId('surround-readout').innerText())!)![1],
  );
  expect(range).toBeGreaterThan(3);
  await page.keyboard.press('Escape');
  await number(desk(page), 'Exposure', '-2');
  await expect.poll(async () => (await surroundOf(page)).stops).toBeCloseTo(-2, 6);
  await traced(page, 8);
  expect(light(await seen(page, [0.05, 0.95], [0.85, 0.98]))).toBeLessThan(0.75 * light(ground));
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await surroundOf(page)).stops).not.toBeCloseTo(-2, 6);

  // another place: all follows, nothing is done again
  const before = JSON.stringify((await documentOf(page, studio)).looks[0]!.chart);
  await page.getByRole('option', { name: 'Wheelhouse dusk' }).click();
  await traced(page, 8);
  expect(apart(await seen(page, [0.2, 0.8], [0.4, 0.6]), word)).toBeGreaterThan(12);
  expect(JSON.stringify((await documentOf(page, studio)).looks[0]!.chart)).toBe(before);

  // a model beside it is mirrored in it, and each darkens the ground beside the other
  await step(page, 'Frame');
  const alone = await seen(page, [0.05, 0.95], [0.3, 0.7]);
  await page.getByLabel('Model file').setInputFiles({
    name: 'bollard.glb',
    mimeType: 'application/octet-stream',
    buffer: Buffer.from(await bollard()),
  });
  const post = piece(page, 'bollard.glb');
  await expect(post.getByText('288 triangles')).toBeVisible();
  await post.getByText('Place and size').click();
  await number(post, 'Across', '0');
  await number(post, 'Out', '300');
  await traced(page, 8);
  expect(apart(await seen(page, [0.05, 0.95], [0.3, 0.7]), alone)).toBeGreaterThan(2);

  // the camera moves, the traced picture is back when it rests, and the stage is seen beyond the frame
  const facing = (await documentOf(page, studio)).shots[0]!.camera.azimuth;
  const canvas = page.getByTestId('traced');
  const box = (await canvas.boundingBox())!;
  await page.mouse.move(box.x + 30, box.y + 30);
  await page.mouse.down();
  for (let k = 1; k <= 6; k++) await page.mouse.move(box.x + 30 + 10 * k, box.y + 30);
  await page.mouse.up();
  const { azimuth } = (await documentOf(page, studio)).shots[0]!.camera;
  expect(azimuth).not.toBeCloseTo(facing, 3);
  await traced(page, 2);
  const stage = (await page.getByTestId('stage').boundingBox())!;
  const frame = (await canvas.boundingBox())!;
  expect(stage.width).toBeGreaterThan(frame.width + 20);
});
