/** What stands around the type: pieces, a plate that is matched, shadows for laying over it, and models. */
import { expect, type Page } from '@playwright/test';
import { documentOf, dragBy, meanOf, middle, number, step, test, traced } from './hands.ts';
import { bollard } from '../core/test/model/bollard.ts';
import { QUAY, quay, seen } from './quay.ts';
import { OwnStudio } from './server.ts';

test.use({ restsAt: 32 });

let studio: OwnStudio;
test.beforeAll(async () => {
  studio = await OwnStudio.open();
});
test.afterAll(() => studio.end());

const desk = (page: Page) => page.getByRole('complementary', { name: 'Desk' });
const piece = (page: Page, name: string) => desk(page).getByRole('group', { name, exact: true });

test('type stands on a plate in its perspective, and only its shadow is kept', async ({ page }) => {
  await page.goto(`${studio.url}/p/ostrel/dusk-chrome/frame`);
  await traced(page, 1);
  await page
    .getByLabel('Plate file', { exact: true })
    .setInputFiles({ name: 'quay.png', mimeType: 'image/png', buffer: quay() });
  await expect(piece(page, 'quay.png')).toBeVisible();
  await piece(page, 'Floor').getByRole('checkbox', { name: 'Only shadow' }).check();

  // edges of the boards, and across them, are laid along what the plate shows
  await piece(page, 'quay.png').getByRole('button', { name: 'Match its perspective' }).click();
  const marks = page.getByTestId('edge-marks');
  const box = (await marks.boundingBox())!;
  const lay = async (name: string, place: readonly [number, number, number]) => {
    const [across, up] = seen(place);
    const to = {
      x: box.x + ((across + 1) / 2) * box.width,
      y: box.y + box.height / 2 - (up / 2) * box.width,
    };
    const from = await middle(marks.getByRole('button', { name }));
    await dragBy(page, from, to.x - from.x, to.y - from.y);
  };
  const ends = {
    'First pair, edge 1': [
      [-0.75, 0, -2.2],
      [-0.75, 0, -1.3],
    ],
    'First pair, edge 2': [
      [0.25, 0, -2.2],
      [0.25, 0, -1.2],
    ],
    'Second pair, edge 1': [
      [-1, 0, -1.4],
      [0.2, 0, -1.4],
    ],
    'Second pair, edge 2': [
      [-1, 0, -2.4],
      [0.6, 0, -2.4],
    ],
  } as const;
  for (const [edge, places] of Object.entries(ends))
    for (const [k, place] of places.entries()) await lay(`${edge}, end ${k + 1}`, place);
  const { camera } = (await documentOf(page, studio)).shots[0]!;
  // hands are a pixel or so off; the core is tested to 0.1 %
  expect(camera.focal / ((QUAY.focal * camera.sensor) / 2)).toBeGreaterThan(0.93);
  expect(camera.focal / ((QUAY.focal * camera.sensor) / 2)).toBeLessThan(1.07);
  expect(Math.abs(camera.elevation - QUAY.tilt)).toBeLessThan(0.03);
  expect(Math.abs(camera.roll)).toBeLessThan(0.03);
  expect(Math.abs(Math.abs(camera.azimuth) - QUAY.turn)).toBeLessThan(0.05);
  await piece(page, 'quay.png').getByRole('button', { name: 'Match its perspective' }).click();
  await desk(page).getByRole('button', { name: 'Fit the word' }).click();

  // far from the type the plate is as it is by itself
  await traced(page, 24);
  const corner = () => meanOf(page.getByTestId('traced'), [0.02, 0.12], [0.9, 0.98]);
  const shadowed = await corner();
  await piece(page, 'quay.png').getByRole('button', { name: 'quay.png solo' }).click();
  await traced(page, 8);
  const alone = await corner();
  expect(alone[0]! - alone[2]!).toBeGreaterThan(10);
  alone.slice(0, 3).forEach((v, c) => expect(Math.abs(shadowed[c]! - v)).toBeLessThan(4));
  await piece(page, 'quay.png').getByRole('button', { name: 'quay.png solo' }).click();
  // without the plate nothing is left but type and shadow
  await piece(page, 'quay.png').getByLabel('quay.png on').uncheck();
  await step(page, 'Light');
  await desk(page).getByRole('checkbox', { name: 'Seen behind the type' }).uncheck();
  await traced(page, 24);
  const open = await page.evaluate(() => {
    const of = document.querySelector<HTMLCanvasElement>('[data-testid=traced]')!;
    const copy = document.createElement('canvas');
    [copy.width, copy.height] = [of.width, of.height];
    const context = copy.getContext('2d')!;
    context.drawImage(of, 0, 0);
    const { data } = context.getImageData(0, 0, of.width, of.height);
    const alpha = Array.from({ length: of.width * of.height }, (_, i) => data[i * 4 + 3]!);
    return {
      clear: alpha.filter((a) => a < 8).length,
      shade: alpha.filter((a) => a > 30 && a < 225).length,
      solid: alpha.filter((a) => a > 250).length,
    };
  });
  expect(Math.min(open.clear, open.shade, open.solid)).toBeGreaterThan(200);
});

test('pieces are fitted to the word, named, moved, and seen alone', async ({ page }) => {
  await page.goto(`${studio.url}/p/cabin-keys/brushed-steel/frame`);
  await traced(page, 1);
  for (const kind of ['Table top', 'Niche', 'Grid', 'Grid'])
    await desk(page).getByRole('button', { name: kind, exact: true }).click();
  const { pieces } = await documentOf(page, studio);
  expect(pieces.slice(-4).map((p) => p.name)).toEqual(['Table top', 'Niche', 'Grid', 'Grid 2']);
  const table = pieces.find((p) => p.kind === 'table')!;
  const letters = (await documentOf(page, studio)).blocks[0]!;
  expect(table.width / letters.capHeight).toBeGreaterThan(2);
  expect(table.width / letters.capHeight).toBeLessThan(30);

  await piece(page, 'Grid 2').getByLabel('Name of Grid 2').fill('Net of light');
  await piece(page, 'Grid 2').getByLabel('Name of Grid 2').press('Enter');
  const net = piece(page, 'Net of light');
  await net.getByText('Place and size').click();
  await number(net, 'Tilted', '30');
  await net.getByRole('button', { name: 'Net of light solo' }).click();
  const after = (await documentOf(page, studio)).pieces.find((p) => p.name === 'Net of light')!;
  expect(after.tilt).toBeCloseTo(Math.PI / 6, 6);
  expect(after.solo).toBe(true);
  await page.keyboard.press('Control+z');
  expect((await documentOf(page, studio)).pieces.some((p) => p.solo)).toBe(false);
  // it is made wider by its handle, and by the keyboard
  const width = async () =>
    (await documentOf(page, studio)).pieces.find((p) => p.name === 'Net of light')!.width;
  const handle = page.getByTestId('size-marks').getByRole('button', { name: 'Width of Net of light' });
  const before = await width();
  await dragBy(page, await middle(handle), -60, 0);
  const narrower = await width();
  expect(narrower).toBeLessThan(0.9 * before);
  await handle.focus();
  await page.keyboard.press('ArrowRight');
  await expect.poll(width).toBeCloseTo(1.02 * narrower, 6);
});

test('a model arrives beside the word, is dressed by part, dragged in the picture, and read from other files', async ({
  page,
}) => {
  await page.goto(`${studio.url}/p/ostrel/dusk-chrome/frame`);
  await traced(page, 1);
  const take = (...files: { name: string; buffer: Buffer }[]) =>
    page
      .getByLabel('Model file')
      .setInputFiles(files.map((f) => ({ mimeType: 'application/octet-stream', ...f })));
  await take({ name: 'bollard.glb', buffer: Buffer.from(await bollard()) });
  const post = piece(page, 'bollard.glb');
  await expect(post.getByText('288 triangles')).toBeVisible();
  let model = (await documentOf(page, studio)).pieces.find((p) => p.kind === 'model')!;
  expect(model.move[0]).toBeGreaterThan(1);

  await post.getByText('Parts').click();
  await post.getByLabel('post').selectOption({ index: 2 });
  const { finishes } = await documentOf(page, studio);
  model = (await documentOf(page, studio)).pieces.find((p) => p.kind === 'model')!;
  expect(model.dressings).toEqual([{ part: 'post', finish: finishes[1]!.id }]);

  // in front of the word it is taken by hand, and goes along the ground
  await post.getByText('Place and size').click();
  await number(post, 'Across', '0');
  await number(post, 'Out', '600');
  // from the front it stands in the middle of the picture
  await desk(page).getByRole('button', { name: 'Back to the front' }).click();
  await traced(page, 2);
  const { azimuth } = (await documentOf(page, studio)).shots[0]!.camera;
  const at = await middle(page.getByTestId('traced'));
  await dragBy(page, { x: at.x, y: at.y + 20 }, 120, 0);
  await expect
    .poll(async () => (await documentOf(page, studio)).pieces.find((p) => p.kind === 'model')!.move[0])
    .toBeGreaterThan(0.1);
  const moved = (await documentOf(page, studio)).pieces.find((p) => p.kind === 'model')!;
  expect(moved.move[1]).toBeCloseTo(0, 6);
  expect((await documentOf(page, studio)).shots[0]!.camera.azimuth).toBe(azimuth);

  const text = (name: string, lines: string[]) => ({ name, buffer: Buffer.from(lines.join('\n')) });
  await take(
    text('crate.obj', [
      'mtllib crate.mtl',
      'o crate',
      'v 0 0 0',
      'v 1 0 0',
      'v 1 1 0',
      'usemtl slats',
      'f 1 2 3',
    ]),
    text('crate.mtl', ['newmtl slats', 'Kd 0.4 0.3 0.2', 'map_Bump scratches.png']),
  );
  await expect(page.getByText('crate.obj: not read map_bump')).toBeVisible();
  await expect(piece(page, 'crate.glb')).toBeVisible();

  await take({ name: 'cut.glb', buffer: Buffer.from(await bollard()).subarray(0, 700) });
  await expect(page.getByText(/cut\.glb was not taken: .*not a readable \.glb/)).toBeVisible();
  await expect(piece(page, 'cut.glb')).toHaveCount(0);

  await step(page, 'Set');
  await step(page, 'Frame');
  await expect(piece(page, 'crate.glb')).toBeVisible();
});
