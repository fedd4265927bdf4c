/** Finishes before they are taken, as files of other programs, and in coats that are dragged. */
import { expect, type Page } from '@playwright/test';
import { test } from './hands.ts';
import { decode, encode } from 'fast-png';
import { unzipSync, zipSync } from 'fflate';
import { readFile } from 'node:fs/promises';
import type { Finish } from '@wemlox/core/document';
import { OwnStudio } from './server.ts';

let studio: OwnStudio;
test.beforeAll(async () => {
  studio = await OwnStudio.open();
});
test.afterAll(() => studio.end());

const desk = (page: Page) => page.getByRole('complementary', { name: 'Desk' });
const rack = (page: Page) => page.getByRole('listbox', { name: 'Finishes in this project' });
const finishes = async (): Promise<Finish[]> => (await studio.document('ostrel')).finishes;
const finish = async (name: string) => (await finishes()).find((f) => f.name === name)!;
const stranger = (image: string) => `<?xml version="1.0"?>
<materialx version="1.38" colorspace="lin_rec709">
  <image name="rust" type="color3"><input name="file" type="filename" value="${image}" colorspace="srgb_texture"/></image>
  <noise3d name="n" type="float"/>
  <standard_surface name="SR_plate" type="surfaceshader">
    <input name="base_color" type="color3" nodename="rust"/>
    <input name="specular_roughness" type="float" nodename="n"/>
    <input name="metalness" type="float" value="0.25"/>
  </standard_surface>
  <surfacematerial name="M_plate" type="material" uiname="Harbour plate"><input name="surfaceshader" type="surfaceshader" nodename="SR_plate"/></surfacematerial>
</materialx>`;

test('ready finishes are seen on the artist’s own letter before they are taken, and the picture goes on', async ({
  page,
}) => {
  await page.goto(`${studio.url}/p/ostrel/gold-leaf/finish`);
  const samples = async () => Number(await page.getByTestId('stage').getAttribute('data-samples'));
  await expect.poll(samples, { timeout: 120_000 }).toBeGreaterThanOrEqual(3);
  const before = await samples();
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  const offer = (name: string) => page.getByRole('menuitem', { name: new RegExp(`^${name}`) });
  await page.getByRole('searchbox', { name: 'Find a finish' }).fill('enamel');
  await expect(offer('Night enamel')).toBeVisible();
  await expect(offer('Night enamel').locator('canvas')).toHaveAttribute('data-traced', 'yes', {
    timeout: 120_000,
  });
  const colour = await offer('Night enamel').locator('canvas').screenshot();
  const { data, channels } = decode(colour);
  let [blue, red] = [0, 0];
  for (let at = 0; at < data.length; at += channels) {
    blue += data[at + 2];
    red += data[at];
  }
  expect(blue).toBeGreaterThan(red);
  expect(await samples()).toBeGreaterThanOrEqual(before);
  await offer('Night enamel').click();
  await expect(desk(page).getByLabel('Name of the finish')).toHaveValue(/^Night enamel/);
  // a tag finds it again, here and in the library
  await desk(page).getByLabel('Tags').fill('hull, harbour');
  await desk(page).getByLabel('Tags').press('Enter');
  await desk(page).getByRole('button', { name: 'Keep in the library' }).click();
  await expect(page.getByText(/is in the library/)).toBeVisible();
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await page.getByRole('searchbox', { name: 'Find a finish' }).fill('harbour');
  await expect(page.getByRole('menuitem').filter({ hasText: 'enamel' })).toHaveCount(1);
});

test('a finish leaves as a MaterialX file and comes back; a stranger’s arrives with its picture', async ({
  page,
}) => {
  await page.goto(`${studio.url}/p/ostrel/gold-leaf/finish`);
  await rack(page).getByRole('option', { name: 'Leaf gold', exact: true }).click();
  const saved = page.waitForEvent('download');
  await desk(page).getByRole('button', { name: 'Save as a file' }).click();
  const file = await saved;
  expect(file.suggestedFilename()).toBe('Leaf gold.mtlx');
  const text = await readFile(await file.path(), 'utf8');
  expect(text).toContain('<open_pbr_surface');
  await expect(page.getByText(/measured metal is given by its colours/)).toBeVisible();
  const take = (name: string, buffer: Buffer) =>
    page.getByTestId('material-file').setInputFiles({ name, mimeType: 'application/octet-stream', buffer });
  await take('Leaf gold.mtlx', Buffer.from(text));
  await expect(page.getByText('Took Leaf gold from Leaf gold.mtlx')).toBeVisible();
  await expect
    .poll(async () => (await finishes()).filter((f) => f.name.startsWith('Leaf gold')).length)
    .toBe(2);
  const [one, two] = (await finishes()).filter((f) => f.name.startsWith('Leaf gold'));
  expect(two.surface).toEqual(one.surface);
  expect(two.surface.base_metal).toBe('gold');
  // a zip of another program: its picture is taken in, what is not read is told
  const pixels = Buffer.from(
    encode({
      width: 4,
      height: 4,
      channels: 4,
      data: new Uint8Array(64).map((_, i) => [200, 90, 40, 255][i % 4]),
    }),
  );
  const zip = zipSync({
    'plate.mtlx': new TextEncoder().encode(stranger('textures/rust.png')),
    'textures/rust.png': new Uint8Array(pixels),
  });
  await take('plate.zip', Buffer.from(zip));
  await expect(
    page.getByText(/Took Harbour plate; not read: .*specular_roughness is fed by noise3d/),
  ).toBeVisible();
  await expect.poll(async () => (await finish('Harbour plate'))?.feeds.length).toBe(1);
  const plate = await finish('Harbour plate');
  expect(plate.surface.base_metalness).toBe(0.25);
  expect(plate.feeds[0]).toMatchObject({ parameter: 'base_color', source: 'picture', coding: 'colour' });
  const kept = await page.request.get(`${studio.url}/api/assets/${plate.feeds[0].picture.id}`);
  expect(Buffer.from(await kept.body()).equals(pixels)).toBe(true);
  // it is in the desk, and leaves with its picture
  await expect(desk(page).getByLabel('Name of the finish')).toHaveValue('Harbour plate');
  const packed = page.waitForEvent('download');
  await desk(page).getByRole('button', { name: 'Save as a file' }).click();
  const parts = unzipSync(new Uint8Array(await readFile(await (await packed).path())));
  expect(Object.keys(parts).sort()).toEqual(['Harbour plate.mtlx', 'rust_1.png']);
  expect(Buffer.from(parts['rust_1.png']).equals(pixels)).toBe(true);
  // noises and patterns leave as pictures of them
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await page.getByRole('searchbox', { name: 'Find a finish' }).fill('Saloon marble');
  await page.keyboard.press('Enter');
  await expect(desk(page).getByLabel('Name of the finish')).toHaveValue('Saloon marble');
  const veined = page.waitForEvent('download');
  await desk(page).getByRole('button', { name: 'Save as a file' }).click();
  const files = unzipSync(new Uint8Array(await readFile(await (await veined).path())));
  const pattern = Object.keys(files).find((name) => /^turbulence_\d\.png$/.test(name))!;
  const { width, depth, data } = decode(files[pattern]!);
  expect([width, depth]).toEqual([1024, 16]);
  expect(Math.max(...data.slice(0, 5000)) - Math.min(...data.slice(0, 5000))).toBeGreaterThan(1000);
  // and what is none is refused in words
  const before = (await finishes()).length;
  await take('broken.mtlx', Buffer.from('<materialx version="1.39">'));
  await expect(page.getByText(/broken\.mtlx was not taken: not well-formed XML/)).toBeVisible();
  expect((await finishes()).length).toBe(before);
});

test('coats are dragged over each other, and one lies as light', async ({ page }) => {
  await page.goto(`${studio.url}/p/ostrel/gold-leaf/finish`);
  await page.getByRole('gridcell', { name: /^Front of R/ }).click();
  const name = await desk(page).getByLabel('Name of the finish').inputValue();
  for (const [i, coat] of ['Under', 'Over'].entries()) {
    await desk(page)
      .getByRole('button', { name: /^Lay a coat over it/ })
      .click();
    await desk(page).getByRole('menuitem').first().click();
    await desk(page).getByLabel('Name of the coat').fill(coat);
    await desk(page).getByLabel('Name of the coat').press('Enter');
    await expect.poll(async () => (await finish(name)).coats[i]?.name).toBe(coat);
  }
  const row = (coat: string) => desk(page).getByRole('button', { name: `Coat ${coat}`, exact: true });
  const [from, to] = [(await row('Over').boundingBox())!, (await row('Under').boundingBox())!];
  await page.mouse.move(from.x + 20, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(from.x + 20, from.y + from.height / 2 + 12, { steps: 4 });
  await page.mouse.move(to.x + 20, to.y + to.height / 2 + 6, { steps: 6 });
  await page.mouse.up();
  await expect.poll(async () => (await finish(name)).coats.map((c) => c.name)).toEqual(['Over', 'Under']);
  await row('Under').click();
  await desk(page).getByRole('radio', { name: 'As light' }).click();
  await expect.poll(async () => (await finish(name)).coats[1].lies).toBe('light');
  await page.getByRole('button', { name: /^Undo / }).click();
  await expect.poll(async () => (await finish(name)).coats[1].lies).toBe('over');
});
