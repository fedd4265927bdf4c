/** What a studio must stand: two windows on one project, a press whose machines die, history, hands on the keyboard. */
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, type Page } from '@playwright/test';
import { test } from './hands.ts';
import { OwnStudio, renderFile } from './server.ts';

let studio: OwnStudio;
test.beforeAll(async () => {
  studio = await OwnStudio.open();
});
test.afterAll(() => studio.end());

const stage = (page: Page) => page.getByTestId('stage');
const saving = (page: Page) => page.getByTestId('saving');
const text = (page: Page) => page.getByLabel('Text', { exact: true });

test('two windows on one project: the second is told, and both versions are kept', async ({
  page,
  context,
}) => {
  const other = await context.newPage();
  await page.goto(`${studio.url}/p/tide-bar/open-late/set`);
  await other.goto(`${studio.url}/p/tide-bar/open-late/set`);
  await expect(text(other)).toHaveValue('TIDE\nBAR');
  await text(page).fill('HIGH\nTIDE');
  await expect.poll(async () => (await studio.document('tide-bar')).blocks[0].text).toBe('HIGH\nTIDE');
  await text(other).fill('LOW\nTIDE');
  const dialog = other.getByRole('dialog', { name: 'Changed in another window' });
  await expect(dialog).toBeVisible();
  expect((await studio.document('tide-bar')).blocks[0].text).toBe('HIGH\nTIDE');
  await dialog.getByRole('button', { name: 'Keep mine as a copy' }).click();
  await expect(other).not.toHaveURL(/tide-bar/);
  await expect(text(other)).toHaveValue('LOW\nTIDE');
  await other.goto(studio.url);
  await expect(other.getByRole('link', { name: 'Open Tide Bar, second version' })).toBeVisible();
  await expect(other.getByRole('link', { name: 'Open Tide Bar', exact: true })).toBeVisible();
});

test('everything can be undone, by name, back to the beginning and forth again', async ({ page }) => {
  await page.goto(`${studio.url}/p/deck-5/clear/light`);
  await expect(saving(page)).toBeVisible();
  const before = await studio.document('deck-5');
  const undo = (name: string) => page.getByRole('button', { name: `Undo ${name}`, exact: true });
  await page.getByRole('button', { name: 'Key, fill, rim' }).click();
  await expect(undo('Key, fill and rim')).toBeEnabled();
  await page.getByRole('option', { name: 'Engine room' }).click();
  await page.getByRole('button', { name: /^Remove Key/ }).click();
  await expect(page.getByRole('button', { name: /^Undo Remove Key/ })).toBeEnabled();
  await page.keyboard.press('2');
  await expect(page).toHaveURL(/finish$/);
  await page.getByRole('gridcell', { name: /^Front of D/ }).click();
  await page.keyboard.press('Delete');
  await page.keyboard.press('/');
  await page.getByRole('combobox', { name: /^Find a command/ }).fill('add bell');
  await page.keyboard.press('Enter');
  await expect(undo('Add Bell copper')).toBeEnabled();
  await page.keyboard.press('4');
  await page.getByRole('button', { name: 'Curved backdrop' }).click();
  await expect(undo('Add curved backdrop')).toBeEnabled();
  await page.getByRole('button', { name: 'Remove Floor' }).click();
  await page.getByRole('button', { name: 'New look from this one' }).click();
  await expect(undo('New look')).toBeEnabled();
  const state = async () => {
    await page.evaluate(
      () => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))),
    );
    await expect(saving(page)).toHaveAttribute('data-saving', 'saved');
    return studio.document('deck-5');
  };
  const after = await state();
  expect(after.looks).toHaveLength(3);
  const picture = await stage(page).elementHandle();
  let steps = 0;
  const nothing = page.getByRole('button', { name: 'Nothing to undo' });
  for (; (await nothing.count()) === 0; steps++) {
    expect(steps).toBeLessThan(30);
    await page.keyboard.press('u');
  }
  await expect(page).toHaveURL(/clear/);
  // the look that was undone was the one in use, and the studio stays as it is
  expect(await picture!.evaluate((node) => node.isConnected)).toBe(true);
  expect(await state()).toEqual(before);
  for (let i = 0; i < steps; i++) await page.keyboard.press('Shift+U');
  expect(await state()).toEqual(after);
});

test('the browser and the command line trace the same picture bit for bit', async ({ page }) => {
  const folder = await mkdtemp(join(tmpdir(), 'wemlox-'));
  try {
    await page.goto(`${studio.url}/p/ostrel/signal-lit/proof`);
    const samples = page.getByLabel('Samples', { exact: true });
    await samples.fill('3');
    await samples.press('Enter');
    await expect(stage(page)).toHaveAttribute('data-state', 'done', { timeout: 120_000 });
    await expect(stage(page)).toHaveAttribute('data-samples', '3');
    const size = await page
      .getByTestId('traced')
      .evaluate((c: HTMLCanvasElement) => `${c.width}x${c.height}`);
    await page.keyboard.press('6');
    const wait = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Download OpenEXR, float' }).click();
    const browser = await readFile(await (await wait).path());
    const file = join(folder, 'ostrel.wemlox');
    await writeFile(
      file,
      new Uint8Array(await (await fetch(`${studio.url}/api/projects/ostrel/file`)).arrayBuffer()),
    );
    const out = join(folder, 'ostrel.exr');
    expect(
      await renderFile(
        file,
        '-o',
        out,
        '--look',
        'Signal lit',
        '--size',
        size,
        '--samples',
        '3',
        '--seed',
        '1',
      ),
    ).toBe(0);
    expect(browser.equals(await readFile(out))).toBe(true);
  } finally {
    await rm(folder, { recursive: true });
  }
});

test('the press goes on when its node and the server are killed, and a job can be cancelled', async ({
  page,
}) => {
  studio.startNode();
  await page.goto(`${studio.url}/p/ostrel/gold-leaf/press`);
  const number = async (label: string, value: string) => {
    await page.getByLabel(label, { exact: true }).fill(value);
    await page.getByLabel(label, { exact: true }).press('Enter');
  };
  await number('Width', '320');
  await number('Samples', '150');
  await page.getByRole('button', { name: 'Send to the press' }).click();
  const queue = page.getByRole('list', { name: 'Press queue' }).getByRole('listitem');
  const jobs = async () =>
    (await (await fetch(`${studio.url}/api/projects/ostrel/press`)).json()) as {
      samplesDone: number;
      state: string;
      result: string;
      format: string;
    }[];
  await expect.poll(async () => (await jobs())[0]?.samplesDone ?? 0, { timeout: 90_000 }).toBeGreaterThan(3);
  await studio.killNode();
  await studio.kill();
  await studio.start();
  expect((await jobs())[0].state).toBe('tracing');
  studio.startNode();
  await expect(queue.first()).toHaveAttribute('data-job', 'done', { timeout: 240_000 });
  const file = new Uint8Array(
    await (await fetch(`${studio.url}/api/assets/${(await jobs())[0].result}`)).arrayBuffer(),
  );
  expect([...file.slice(1, 4)]).toEqual([...'PNG'].map((c) => c.charCodeAt(0)));
  await number('Samples', '60000');
  await page.getByRole('button', { name: 'Send to the press' }).click();
  await expect(queue.first()).toHaveAttribute('data-job', 'tracing', { timeout: 60_000 });
  await queue.first().getByRole('button', { name: 'Cancel' }).click();
  await expect(queue.first()).toHaveAttribute('data-job', 'cancelled');
  await studio.killNode();
});

test('uploads that cannot be used are refused in words and change nothing', async ({ page }) => {
  await page.goto(`${studio.url}/p/ostrel/dusk-chrome/set`);
  await expect(text(page)).toHaveValue('OSTREL');
  const before = await studio.document('ostrel');
  const font = await readFile(
    new URL('../node_modules/@fontsource/anton/files/anton-latin-400-normal.woff2', import.meta.url),
  );
  const bad = [
    ['cut.woff2', font.subarray(0, 4000), /cut\.woff2 was not taken: .*cut short/],
    ['words.ttf', Buffer.from('not a font at all'), /words\.ttf was not taken: .*not a TTF/],
  ] as const;
  for (const [name, buffer, message] of bad) {
    await page.getByTestId('font-file').setInputFiles({ name, mimeType: 'font/ttf', buffer });
    await expect(page.getByText(message)).toBeVisible();
  }
  await page.goto(studio.url);
  await page
    .getByTestId('project-file')
    .setInputFiles({ name: 'old.wemlox', mimeType: 'application/zip', buffer: Buffer.from('PK nothing') });
  await expect(page.getByText(/old\.wemlox was not imported/)).toBeVisible();
  expect(await studio.document('ostrel')).toEqual(before);
});

test('a finish kept in the library dresses another project', async ({ page }) => {
  await page.goto(`${studio.url}/p/ostrel/dusk-chrome/finish`);
  await page.getByRole('option', { name: 'Funnel red' }).click();
  await page.getByRole('button', { name: 'Keep in the library' }).click();
  await expect(page.getByText('Funnel red is in the library')).toBeVisible();
  const kept = (await studio.document('ostrel')).finishes.find(
    (f: { name: string }) => f.name === 'Funnel red',
  );
  await page.goto(`${studio.url}/p/deck-5/clear/finish`);
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  const shelf = page.getByRole('group', { name: 'Library' });
  await shelf.getByRole('menuitem', { name: /^Funnel red/ }).click();
  await expect(page.getByRole('option', { name: 'Funnel red' })).toBeVisible();
  await expect
    .poll(async () => (await studio.document('deck-5')).finishes.at(-1).name)
    .toMatch(/^Funnel red/);
  const added = (await studio.document('deck-5')).finishes.at(-1);
  expect(added.surface).toEqual(kept.surface);
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Take Funnel red out of the library' }).click();
  await page.getByRole('button', { name: 'Bring back' }).click();
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.getByRole('menuitem', { name: 'Take Funnel red out of the library' })).toBeVisible();
});

test('the start page copies, renames, deletes and brings back', async ({ page }) => {
  await page.goto(studio.url);
  const tile = (name: string) =>
    page.getByRole('listitem').filter({ has: page.getByRole('link', { name: `Open ${name}`, exact: true }) });
  await tile('Deck 5').getByRole('button', { name: 'Copy Deck 5' }).click();
  await expect(tile('Deck 5, copy')).toBeVisible();
  await tile('Deck 5, copy').getByLabel('Name of Deck 5, copy').fill('Deck 6');
  await tile('Deck 5, copy').getByLabel('Name of Deck 5, copy').press('Enter');
  await expect(tile('Deck 6')).toBeVisible();
  await tile('Deck 6').getByRole('button', { name: 'Delete Deck 6' }).click();
  await expect(tile('Deck 6')).toHaveCount(0);
  await page.getByRole('button', { name: 'Bring back' }).click();
  await expect(tile('Deck 6')).toBeVisible();
});

test('a proof keeps its light: it differs by nothing from itself, and is seen under the grade of now', async ({
  page,
}) => {
  await page.goto(`${studio.url}/p/cabin-keys/brushed-steel/proof`);
  const desk = page.getByRole('complementary');
  await desk.getByLabel('Samples', { exact: true }).fill('4');
  await desk.getByLabel('Samples', { exact: true }).press('Enter');
  await expect(stage(page)).toHaveAttribute('data-state', 'done');
  await page.getByRole('button', { name: /^Keep a proof/ }).click();
  const proofs = page.getByRole('list', { name: 'Kept proofs' }).getByRole('button');
  await expect(proofs).toHaveCount(5);
  const [, kept] = (await (await fetch(`${studio.url}/api/projects/cabin-keys/proofs`)).json())
    .slice(-2)
    .map((proof: { film: string | null }) => proof.film);
  expect(kept).toMatch(/^[0-9a-f]{64}$/);
  await proofs.last().click();
  await desk.getByRole('radio', { name: 'Difference' }).click();
  const canvas = page.getByTestId('proof-canvas');
  await expect(canvas).toHaveAttribute('data-shown', 'difference');
  // half floats: the film agrees with what is on the stage within a thousandth
  await expect(page.getByTestId('difference')).toHaveText('They differ by 0.0 % of the proof’s light.');
  await desk.getByRole('radio', { name: 'As now' }).click();
  await desk.getByRole('radio', { name: 'Wipe' }).click();
  await expect(canvas).toHaveAttribute('data-shown', 'proof');
  const mean = () =>
    canvas.evaluate((c: HTMLCanvasElement) => {
      const { data } = c.getContext('2d')!.getImageData(0, 0, c.width, c.height);
      return data.reduce((sum, v, i) => (i % 4 === 3 ? sum : sum + v), 0) / (data.length * 0.75);
    });
  const before = await mean();
  await desk.getByLabel('Exposure', { exact: true }).fill('-4');
  await desk.getByLabel('Exposure', { exact: true }).press('Enter');
  await expect.poll(mean).toBeLessThan(before * 0.6);
});
