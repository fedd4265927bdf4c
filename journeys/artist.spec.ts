/** The artist's first ten minutes, from an empty word to files on disk and a crash survived. */
import { readFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { expect, type Page } from '@playwright/test';
import { decode } from 'fast-png';
import { finishAt } from '@wemlox/core/document/chart';
import { encodeHdr, readSurroundPicture } from '@wemlox/core/picture/files';
import { documentOf, drag, idOf, number, step, test } from './hands.ts';
import { OwnStudio } from './server.ts';

let studio: OwnStudio;
test.beforeAll(async () => {
  studio = await OwnStudio.open();
});
test.afterAll(() => studio.end());

const FONT = fileURLToPath(
  new URL(
    '../node_modules/@fontsource/bungee-inline/files/bungee-inline-latin-400-normal.woff',
    import.meta.url,
  ),
);
const stage = (page: Page) => page.getByTestId('stage');
const document = (page: Page) => documentOf(page, studio);

/** Waits until the picture of the present state has some samples. */
async function traced(page: Page, samples = 1): Promise<void> {
  await expect
    .poll(async () => Number(await stage(page).getAttribute('data-samples')), {
      timeout: 120_000,
      intervals: [250],
    })
    .toBeGreaterThanOrEqual(samples);
}

/** Waits until an edit has made the old picture stale, then for the new one. */
async function tracedAnew(page: Page, samples = 1): Promise<void> {
  await expect(stage(page)).toHaveAttribute('data-samples', '0');
  await traced(page, samples);
}

/** Mean colour of the traced canvas, and the share of pixels that differ from black. */
const pixels = (page: Page) =>
  page.getByTestId('traced').evaluate((canvas: HTMLCanvasElement) => {
    const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
    const mean = [0, 0, 0];
    let lit = 0;
    for (let i = 0; i < data.length; i += 4) {
      for (let c = 0; c < 3; c++) mean[c] += data[i + c];
      if (data[i] + data[i + 1] + data[i + 2] > 24) lit++;
    }
    const n = data.length / 4;
    return { r: mean[0] / n, g: mean[1] / n, b: mean[2] / n, lit: lit / n };
  });

const rack = (page: Page, finish: string) => page.getByRole('option', { name: finish });

test('from a word to a proof, two files and a crash', async ({ page }) => {
  test.setTimeout(900_000);
  const errors: string[] = [];
  page.on('pageerror', (e) => errors.push(e.message));
  page.on('console', (m) => m.type() === 'error' && errors.push(m.text()));

  await test.step('the start page shows the demo and makes a project', async () => {
    await page.goto(studio.url);
    for (const name of ['Ostrel', 'Tide Bar', 'Deck 5'])
      await expect(page.getByRole('link', { name: `Open ${name}` })).toBeVisible();
    await page.getByRole('button', { name: 'New project' }).click();
    await expect(page).toHaveURL(/\/p\/[^/]+\/[^/]+\/set$/);
    await expect(stage(page)).toHaveAttribute('data-driver', /llvmpipe|NVIDIA|Intel|AMD|Apple/);
  });

  await test.step('Set: two lines in another face, with a round bevel', async () => {
    await page.getByLabel('Text', { exact: true }).fill('NIGHT\nFERRY');
    await page.getByRole('option', { name: /^Archivo Black/ }).click();
    await number(page, 'Depth', '120');
    await page
      .getByRole('radiogroup', { name: 'Profile' })
      .first()
      .getByRole('radio', { name: 'Cove' })
      .click();
    const band = page.getByRole('group', { name: 'Letters of the block' });
    await expect(band.getByRole('button')).toHaveCount(10);
    const [block] = (await document(page)).blocks;
    expect(block).toMatchObject({
      text: 'NIGHT\nFERRY',
      depth: 0.12,
      font: { id: 'archivo-black' },
      front: { profile: 'cove' },
    });
    expect(block.letters).toHaveLength(11);
    await page.getByRole('button', { name: 'Stand on the floor' }).click();
    await expect(page.getByText(/above the floor|into the floor/)).toHaveCount(0);
  });

  await test.step('Frame: fit the word, a square frame and back', async () => {
    await step(page, 'Frame');
    await page.getByRole('button', { name: 'Fit the word' }).click();
    await page.getByLabel('Shape', { exact: true }).selectOption('1:1');
    await tracedAnew(page);
    const box = await page.getByTestId('traced').boundingBox();
    expect(Math.abs(box!.width / box!.height - 1)).toBeLessThan(0.01);
    await page.getByLabel('Shape', { exact: true }).selectOption('16:9');
    await number(page, 'Focal length', '85');
    await page.getByRole('button', { name: 'Fit the word' }).click();
    expect((await document(page)).shots[0]).toMatchObject({ frame: '16:9', camera: { focal: 85 } });
  });

  await test.step('Finish: chrome and lacquer laid on the chart', async () => {
    await step(page, 'Finish');
    const chart = page.getByRole('grid');
    await expect(chart.getByRole('gridcell')).toHaveCount(50);
    await drag(page, rack(page, 'Hull chrome'), chart.getByText('all faces'));
    await drag(page, rack(page, 'Funnel red'), chart.getByRole('rowheader').filter({ hasText: 'Side' }));
    await drag(page, rack(page, 'Leaf gold'), chart.getByRole('gridcell', { name: /^Front of F/ }));
    const after = await document(page);
    const [block] = after.blocks;
    const at = (i: number, zone: 'front' | 'side') =>
      finishAt(after.looks[0].chart, block.id, block.letters[i], zone);
    const id = (name: string) => after.finishes.find((f) => f.name === name)!.id;
    expect(at(0, 'front')).toBe(id('Hull chrome'));
    expect(at(0, 'side')).toBe(id('Funnel red'));
    expect(at(6, 'front')).toBe(id('Leaf gold'));
    // paint the gold along: press on F, cross E and R
    const cell = (name: RegExp) => chart.getByRole('gridcell', { name }).first();
    await drag(page, cell(/^Front of F/), chart.getByRole('gridcell', { name: /^Front of R/ }).first());
    const painted = await document(page);
    for (const i of [7, 8])
      expect(finishAt(painted.looks[0].chart, block.id, block.letters[i], 'front')).toBe(id('Leaf gold'));
    await cell(/^Back of N/).click();
    await page.keyboard.press('Delete');
    await expect(cell(/^Back of N: no finish/)).toHaveClass(/hatched/);
    await page.keyboard.press('u');
    await expect(cell(/^Back of N: Hull chrome/)).toBeVisible();
  });

  await test.step('letters lie unfolded, each face as the camera sees it in its finish', async () => {
    const picture = (letter: string) =>
      page.getByRole('columnheader', { name: letter, exact: true }).first().locator('canvas');
    for (const letter of ['F', 'N'])
      await expect(picture(letter)).toHaveAttribute('data-traced', 'yes', { timeout: 120_000 });
    /** Mean colour of what is coloured, and the share of all that is drawn which is red. */
    const seen = (letter: string) =>
      picture(letter).evaluate((c: HTMLCanvasElement) => {
        const { data } = c.getContext('2d')!.getImageData(0, 0, c.width, c.height);
        const sum = [0, 0, 0];
        let [drawn, red] = [0, 0];
        for (let i = 0; i < data.length; i += 4) {
          if (data[i + 3] === 0) continue;
          drawn++;
          const [r, g, b] = data.subarray(i, i + 3);
          // hatching is grey
          if (r === g && g === b) continue;
          [r, g, b].forEach((v, k) => (sum[k] += v));
          if (r > 2 * g && r > 2 * b) red++;
        }
        return { warmth: sum[0] / sum[2], red: red / drawn };
      });
    // leaf gold on the front of F; chrome on that of N mirrors the dusk, which is warm but no gold; red sides
    await expect.poll(async () => (await seen('F')).warmth).toBeGreaterThan((await seen('N')).warmth * 1.2);
    expect((await seen('N')).red).toBeGreaterThan(0.02);
  });

  await test.step('editing the word keeps the dress', async () => {
    await step(page, 'Set');
    await page.getByLabel('Text', { exact: true }).fill('THE NIGHT\nFERRY');
    const after = await document(page);
    const [block] = after.blocks;
    const f = block.letters[[...block.text].indexOf('F')];
    expect(
      after.finishes.find((x) => x.id === finishAt(after.looks[0].chart, block.id, f, 'front'))!.name,
    ).toBe('Leaf gold');
    await page.getByLabel('Text', { exact: true }).fill('NIGHT\nFERRY');
  });

  await test.step('the desk changes a finish, and the curve follows', async () => {
    await step(page, 'Finish');
    await page.getByRole('gridcell', { name: /^Side of N/ }).click();
    const desk = page.getByRole('complementary', { name: 'Desk' });
    await expect(desk.getByLabel('Name of the finish')).toHaveValue('Funnel red');
    const curve = desk.locator('svg[role=img]');
    const before = await curve.getAttribute('aria-label');
    await number(desk, 'Roughness', '0.6');
    await desk.locator('summary').filter({ hasText: 'Specular' }).click();
    await number(desk, 'Index', '2.2');
    await expect(curve).not.toHaveAttribute('aria-label', before!);
    const red = (await document(page)).finishes.find((f) => f.name === 'Funnel red')!;
    expect(red.surface.specular_roughness).toBeCloseTo(0.6, 6);
    expect(red.surface.specular_ior).toBeCloseTo(2.2, 6);
  });

  await test.step('Light: surround, exposure, a key light moved on the dome, solo and off', async () => {
    await step(page, 'Light');
    await page.getByRole('option', { name: 'Snow pier' }).click();
    await tracedAnew(page, 2);
    const cool = await pixels(page);
    await page.getByRole('option', { name: 'Wheelhouse dusk' }).click();
    await tracedAnew(page, 2);
    const warm = await pixels(page);
    expect(warm.r / warm.b).toBeGreaterThan((cool.r / cool.b) * 1.15);
    await page.getByRole('button', { name: 'Key, fill, rim' }).click();
    // three beside the two that were there
    const chart = page.getByRole('table', { name: /^Light chart/ });
    await expect(page.getByTestId('dome').getByRole('button')).toHaveCount(5);
    await page.getByRole('button', { name: 'Take those out' }).click();
    await expect(page.getByTestId('dome').getByRole('button')).toHaveCount(3);
    const mark = page.getByTestId('dome').getByRole('button', { name: /^Key/ });
    const dome = await page.getByTestId('dome').boundingBox();
    const at = await mark.locator('.mark').boundingBox();
    await page.mouse.move(at!.x + at!.width / 2, at!.y + at!.height / 2);
    await page.mouse.down();
    await page.mouse.move(dome!.x + dome!.width * 0.75, dome!.y + dome!.height * 0.6, { steps: 6 });
    await page.mouse.up();
    const key = (await document(page)).looks[0].rig.find((l) => l.name === 'Key 2')!;
    expect(key.azimuth).toBeGreaterThan(0.5);
    await expect(page.getByRole('button', { name: 'Undo Move Key 2' })).toBeEnabled();
    await chart.getByRole('button', { name: 'Rim 2', exact: true }).click();
    await page.getByRole('button', { name: 'Solo' }).click();
    await chart.getByRole('button', { name: 'Fill', exact: true }).click();
    await page.getByRole('button', { name: 'Fill on' }).click();
    const rig = (await document(page)).looks[0].rig;
    expect(rig.find((l) => l.name === 'Rim 2')!.solo).toBe(true);
    expect(rig.find((l) => l.name === 'Fill')!.on).toBe(false);
    await chart.getByRole('button', { name: 'Rim 2', exact: true }).click();
    await page.getByRole('button', { name: 'Solo' }).click();
  });

  await test.step('an uploaded HDRI lights the type', async () => {
    const data = new Float32Array(64 * 32 * 4);
    for (let i = 0; i < data.length; i += 4) data.set([0.1, 0.9, 0.2, 1], i);
    await page.getByTestId('surround-file').setInputFiles({
      name: 'green.hdr',
      mimeType: 'image/vnd.radiance',
      buffer: Buffer.from(encodeHdr({ width: 64, height: 32, data })),
    });
    await expect(page.getByRole('option', { name: 'green.hdr' })).toHaveAttribute('aria-selected', 'true');
    await tracedAnew(page, 2);
    const green = await pixels(page);
    expect(green.g).toBeGreaterThan(green.b * 1.2);
    await page.getByTestId('surround-file').setInputFiles({
      name: 'notes.hdr',
      mimeType: 'image/vnd.radiance',
      buffer: Buffer.from('these are notes'),
    });
    await expect(page.getByText(/notes\.hdr was not taken: .*no Radiance/)).toBeVisible();
    await page.getByRole('option', { name: 'Wheelhouse dusk' }).click();
  });

  await test.step('an uploaded font sets the word', async () => {
    await step(page, 'Set');
    await page.getByTestId('font-file').setInputFiles(FONT);
    await expect(page.getByRole('option', { name: /Bungee Inline, uploaded/ })).toHaveAttribute(
      'aria-selected',
      'true',
    );
    expect((await document(page)).blocks[0].font.source).toBe('asset');
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: /^Undo Font/ }).click();
    expect((await document(page)).blocks[0].font.id).toBe('archivo-black');
  });

  await test.step('draft and traced are one key apart and alike', async () => {
    await page.getByTestId('stage').focus();
    await traced(page, 6);
    const tracedMean = await pixels(page);
    await page.keyboard.press('d');
    await expect(page.getByTestId('traced')).toHaveCSS('opacity', '0');
    const shot = await page.getByTestId('draft').screenshot();
    const { data, width, height } = decode(shot);
    const channels = data.length / width / height;
    const mean = [0, 0, 0];
    for (let i = 0; i < width * height; i++)
      for (let c = 0; c < 3; c++) mean[c] += (data[i * channels + c] as number) / (width * height);
    // the same light and exposure: overall brightness within a third
    const ratio = (mean[0] + mean[1] + mean[2]) / (tracedMean.r + tracedMean.g + tracedMean.b);
    expect(ratio).toBeGreaterThan(0.55);
    expect(ratio).toBeLessThan(1.6);
    await page.keyboard.press('d');
    await expect(page.getByTestId('traced')).toHaveCSS('opacity', '1');
  });

  await test.step('orbit, pan and dolly are edits of one step each', async () => {
    const before = (await document(page)).shots[0].camera;
    const box = (await stage(page).boundingBox())!;
    await page.mouse.move(box.x + 200, box.y + 60);
    await page.mouse.down();
    await page.mouse.move(box.x + 300, box.y + 90, { steps: 10 });
    await page.mouse.up();
    const after = (await document(page)).shots[0].camera;
    expect(after.azimuth).toBeCloseTo(before.azimuth - 100 * 0.006, 1);
    await expect(page.getByRole('button', { name: 'Undo Orbit' })).toBeEnabled();
    await page.keyboard.press('u');
    await expect(page.getByRole('button', { name: 'Undo Orbit' })).toHaveCount(0);
    expect((await document(page)).shots[0].camera).toEqual(before);
    await page.mouse.wheel(0, 200);
    expect((await document(page)).shots[0].camera.distance).toBeGreaterThan(before.distance * 1.1);
    await page.keyboard.press('u');
  });

  await test.step('keep a proof, change the look, wipe, go back', async () => {
    await step(page, 'Proof');
    await traced(page, 2);
    await page.keyboard.press('k');
    await expect(page.getByText(/^Kept First look 1 at/)).toBeVisible();
    const proofs = page.getByRole('list', { name: 'Kept proofs' }).getByRole('button');
    await expect(proofs).toHaveCount(1);
    const kept = await document(page);
    const { list } = { list: await (await fetch(`${studio.url}/api/projects/${idOf(page)}/proofs`)).json() };
    expect(list[0].samples).toBeGreaterThanOrEqual(2);
    const picture = decode(
      new Uint8Array(await (await fetch(`${studio.url}/api/assets/${list[0].picture}`)).arrayBuffer()),
    );
    expect([picture.width, picture.height]).toEqual([list[0].width, list[0].height]);
    expect(
      await (await fetch(`${studio.url}/api/projects/${idOf(page)}/proofs/${list[0].id}/document`)).json(),
    ).toEqual(kept);
    await number(page, 'Exposure', '-3');
    await proofs.first().click();
    await expect(page.getByTestId('compared')).toBeVisible();
    const wipe = page.getByRole('slider', { name: /Wipe/ });
    await expect(wipe).toHaveAttribute('aria-valuenow', '50');
    // left of the line the proof, right of it the darker present
    const half = async (left: boolean) => {
      const box = (await page.getByTestId('traced').boundingBox())!;
      const clip = {
        x: box.x + (left ? 20 : box.width * 0.6),
        y: box.y + box.height * 0.3,
        width: box.width * 0.35,
        height: box.height * 0.3,
      };
      const { data } = decode(await page.screenshot({ clip }));
      return (data as Uint8Array).reduce((sum, v) => sum + v, 0) / data.length;
    };
    expect(await half(true)).toBeGreaterThan((await half(false)) * 1.2);
    await wipe.press('ArrowLeft');
    await expect(wipe).toHaveAttribute('aria-valuenow', '48');
    await page.getByRole('button', { name: 'Go back to this state' }).click();
    await expect(page.getByRole('button', { name: 'Undo Back to First look 1' })).toBeEnabled();
    expect(await document(page)).toEqual(kept);
    await page.keyboard.press('u');
    expect((await document(page)).looks[0].grade.exposure).toBe(-3);
    await page.keyboard.press('Shift+U');
    expect(await document(page)).toEqual(kept);
  });

  await test.step('Press: PNG and EXR of the picture', async () => {
    await step(page, 'Press');
    await traced(page, 2);
    const get = async (name: string) => {
      const wait = page.waitForEvent('download');
      await page.getByRole('button', { name: `Download ${name}` }).click();
      return new Uint8Array(await readFile(await (await wait).path()));
    };
    const png = decode(await get('PNG, 16 bit'));
    expect(png.depth).toBe(16);
    const exr = await get('OpenEXR, float');
    expect([...exr.slice(0, 4)]).toEqual([0x76, 0x2f, 0x31, 0x01]);
    // same size, and brighter than display white somewhere, which no PNG can say
    expect(new TextDecoder('latin1').decode(exr.slice(0, 400))).toContain('channels');
    expect(() => readSurroundPicture(exr)).toThrow(`${png.width} × ${png.height}`);
  });

  await test.step('the server is killed, and everything is there', async () => {
    await step(page, 'Set');
    await page.getByLabel('Text', { exact: true }).fill('LAST WORDS');
    expect((await document(page)).blocks[0].text).toBe('LAST WORDS');
    await studio.kill();
    await page.getByLabel('Text', { exact: true }).fill('LAST WORDS!');
    await expect(page.getByTestId('saving')).toHaveAttribute('data-saving', 'offline');
    errors.length = 0;
    await studio.start();
    await document(page);
    await page.reload();
    await expect(page.getByLabel('Text', { exact: true })).toHaveValue('LAST WORDS!');
    await expect(page).toHaveURL(/\/set$/);
    expect((await document(page)).blocks[0].text).toBe('LAST WORDS!');
    await step(page, 'Proof');
    await expect(page.getByRole('list', { name: 'Kept proofs' }).getByRole('button')).toHaveCount(1);
  });

  const unexpected = errors.filter((e) => !/422|ERR_CONNECTION/.test(e));
  expect(unexpected).toEqual([]);
});
