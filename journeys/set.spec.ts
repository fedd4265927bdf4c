/** Set as an artist works it: several blocks, kerning, curves, tubes, drawings, and files for other programs. */
import { readFile } from 'node:fs/promises';
import { expect, type Page } from '@playwright/test';
import { documentOf, drag, dragBy, middle, number, step, test } from './hands.ts';
import { OwnStudio } from './server.ts';

let studio: OwnStudio;
test.beforeAll(async () => {
  studio = await OwnStudio.open();
});
test.afterAll(() => studio.end());

const BUOY = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 60 100">
<path id="buoy" d="M10 90 L20 40 H40 L50 90 Z"/><circle id="lamp" cx="30" cy="20" r="14"/><text>x</text></svg>`;

const document = (page: Page) => documentOf(page, studio);
const ANCHOR = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 120"><g fill="none" stroke="black" stroke-width="4">
<path id="shank" d="M50 20 V100"/><path id="stock" d="M30 32 H70"/><path id="arms" d="M10 70 C12 96 34 110 50 110 S88 96 90 70"/><circle id="ring" cx="50" cy="14" r="6"/></g></svg>`;

const band = (page: Page) => page.getByTestId('set-band');
const desk = (page: Page) => page.getByRole('complementary', { name: 'Desk' });
const radio = (page: Page, name: string) => desk(page).getByRole('radio', { name, exact: true });

const set = (page: Page, label: string, value: string) => number(desk(page), label, value);

async function newWord(page: Page, word: string): Promise<void> {
  await page.goto(studio.url);
  await page.getByRole('button', { name: 'New project' }).click();
  await expect(page).toHaveURL(/\/set$/);
  await page.keyboard.press('d');
  await page.getByLabel('Text', { exact: true }).fill(word);
  await expect(band(page).getByRole('button')).toHaveCount([...word.replace(/\s/g, '')].length);
}

test('letters are kerned by hand, parted, welded, and blocks added and removed', async ({ page }) => {
  test.setTimeout(240_000);
  await newWord(page, 'FERRY');

  await test.step('dragging a letter kerns it in one step of history', async () => {
    const third = band(page).getByRole('button').nth(2);
    const before = await middle(third);
    await dragBy(page, before, 40, 0);
    const { blocks } = await document(page);
    expect(blocks[0].kerns).toHaveLength(1);
    expect(blocks[0].kerns[0].letter).toBe(blocks[0].letters[2]);
    expect(blocks[0].kerns[0].by).toBeGreaterThan(20);
    await third.focus();
    await page.keyboard.press('Shift+ArrowLeft');
    expect((await document(page)).blocks[0].kerns[0].by).toBe(blocks[0].kerns[0].by - 10);
    await page.getByRole('button', { name: 'Undo' }).click();
    await page.getByRole('button', { name: 'Undo' }).click();
    expect((await document(page)).blocks[0].kerns).toEqual([]);
  });

  await test.step('letters that touch are told, marked in the picture, and parted in one move', async () => {
    await set(page, 'Tracking', '-150');
    await expect(desk(page).getByTestId('touching')).toContainText('touch');
    await expect(page.locator('[data-mark=touch]').first()).toBeVisible();
    await desk(page).getByRole('button', { name: 'Open tracking' }).click();
    await expect(desk(page).getByTestId('touching')).toHaveCount(0);
    const opened = (await document(page)).blocks[0].tracking;
    expect(opened).toBeGreaterThan(-150);
    expect(opened).toBeLessThan(60);
  });

  await test.step('or welded into fewer letters', async () => {
    await set(page, 'Tracking', '-150');
    await desk(page).getByRole('button', { name: 'Weld' }).click();
    await expect.poll(() => band(page).getByRole('button').count()).toBeLessThan(5);
    await desk(page).getByRole('button', { name: 'Part welded letters' }).click();
    await expect(band(page).getByRole('button')).toHaveCount(5);
  });

  await test.step('a second word comes, is copied, and goes', async () => {
    await desk(page).getByRole('button', { name: 'Add a word' }).click();
    await page.getByLabel('Text', { exact: true }).fill('PIER');
    const blocks = desk(page).getByRole('radiogroup', { name: 'Blocks' }).getByRole('radio');
    await expect(blocks).toHaveCount(2);
    await desk(page).getByRole('button', { name: 'Copy the block' }).click();
    await expect(blocks).toHaveCount(3);
    const { blocks: all } = await document(page);
    expect(all.map((b) => b.text)).toEqual(['FERRY', 'PIER', 'PIER']);
    expect(new Set(all.map((b) => b.id)).size).toBe(3);
    expect(all[2].place.position[1]).toBeGreaterThan(all[1].place.position[1]);
    await desk(page).getByRole('button', { name: 'Remove the block' }).click();
    await blocks.first().click();
    await expect(page.getByLabel('Text', { exact: true })).toHaveValue('FERRY');
  });
});

test('a word becomes tubes, round letters and a curve, with its own profile', async ({ page }) => {
  test.setTimeout(300_000);
  await newWord(page, 'TIDE');
  await page.getByRole('option', { name: /^Varela Round/ }).click();

  await test.step('tubes are measured, tight bends told and marked, and stretches painted out', async () => {
    await radio(page, 'Tube').click();
    await expect(desk(page).getByTestId('tube-measures')).toContainText(/[1-9]\d*\.\d{3} m of tube/);
    await set(page, 'Tightest bend', '6');
    await expect(desk(page).getByTestId('tube-measures')).toContainText('tighter than');
    await expect(page.locator('[data-mark=bend]').first()).toBeVisible();
    const stroke = band(page).getByRole('button', { name: 'I' }).locator('[data-stroke]');
    const box = (await stroke.boundingBox())!;
    await dragBy(page, { x: box.x + box.width / 2, y: box.y + box.height * 0.3 }, 0, box.height * 0.3);
    const { blocks } = await document(page);
    expect(blocks[0].form).toBe('tube');
    expect(blocks[0].tube.paintOuts).toHaveLength(1);
    const [{ from, to }] = blocks[0].tube.paintOuts;
    expect(to - from).toBeGreaterThan(0.1);
    expect(to - from).toBeLessThan(0.7);
    await step(page, 'Finish');
    for (const zone of ['Glass', 'Gas', 'Electrode', 'Paint-out', 'Stand-off'])
      await expect(page.getByRole('rowheader', { name: zone })).toBeVisible();
    await expect(page.getByRole('rowheader', { name: 'Bevel' })).toHaveCount(0);
    await step(page, 'Set');
  });

  await test.step('tubes inside the edges of strokes too narrow for two are told and marked', async () => {
    const measures = desk(page).getByTestId('tube-measures');
    await radio(page, 'Edges').click();
    await set(page, 'From the edge', '6');
    await expect(measures).toContainText(/[1-9]\d*\.\d{3} m of tube/);
    await expect(measures).not.toContainText('lie on other tubes');
    await set(page, 'From the edge', '14');
    await expect(measures).toContainText(/[1-9]\d* mm lie on other tubes/);
    await expect(page.locator('[data-mark=crowded]').first()).toBeVisible();
    await set(page, 'From the edge', '6');
    await expect(page.locator('[data-mark=crowded]')).toHaveCount(0);
  });

  await test.step('a tube drawn in the picture follows its nodes', async () => {
    await radio(page, 'Drawn').click();
    await expect(band(page).getByRole('button')).toHaveCount(1);
    const node = page.locator('[data-node="1"]');
    const before = (await document(page)).blocks[0].tube.drawn[0].nodes[1];
    await dragBy(page, await middle(node), 30, -40);
    const { nodes } = (await document(page)).blocks[0].tube.drawn[0];
    expect(nodes[1].x).toBeGreaterThan(before.x);
    expect(nodes[1].y).toBeGreaterThan(before.y);
    const line = await page.getByTestId('stage-curve').locator('polyline').first().getAttribute('points');
    const [x, y] = line!.split(' ')[6].split(',').map(Number);
    const marks = (await page.getByTestId('set-marks').boundingBox())!;
    await page.mouse.dblclick(marks.x + x, marks.y + y);
    expect((await document(page)).blocks[0].tube.drawn[0].nodes).toHaveLength(4);
  });

  await test.step('letters turn round, then stand on a curve', async () => {
    await radio(page, 'Round').first().click();
    await desk(page).getByText('Baseline: straight').click();
    await radio(page, 'Arc').click();
    await set(page, 'Bend', '90');
    const { blocks } = await document(page);
    expect(blocks[0].form).toBe('rounded');
    expect(blocks[0].baseline).toMatchObject({ kind: 'arc' });
    expect(blocks[0].baseline.bend).toBeCloseTo(Math.PI / 2, 6);
    await expect(band(page).getByRole('button').first()).toHaveAttribute('transform', /rotate\(-[1-9]/);
  });

  await test.step('depth grows from the zero plane, which stays where it is', async () => {
    await radio(page, 'Bevelled').click();
    await page.keyboard.press('Escape');
    const plane = page.getByTestId('zero-plane');
    const before = await plane.getAttribute('points');
    await radio(page, 'Backward').click();
    expect((await document(page)).blocks[0].growth).toBe('backward');
    await expect(plane).toHaveAttribute('points', before!);
  });

  await test.step('a free profile is bent in the desk', async () => {
    await desk(page)
      .getByRole('radiogroup', { name: 'Profile' })
      .first()
      .getByRole('radio', { name: 'Free' })
      .click();
    const curve = desk(page).getByTestId('profile-curve').first();
    await curve.scrollIntoViewIfNeeded();
    await dragBy(page, await middle(curve.locator('[data-point="1"]')), 40, 30);
    const { front } = (await document(page)).blocks[0];
    expect(front.profile).toBe('free');
    expect(front.points[1].across).toBeGreaterThan(0.35);
    expect(front.points[1].up).toBeLessThan(0.65);
    await set(page, 'Up', '20');
    expect((await document(page)).blocks[0].front.points[1].up).toBeCloseTo(0.2, 6);
  });
});

test('a drawing stands beside the word, and the type leaves as files', async ({ page }) => {
  test.setTimeout(240_000);
  await newWord(page, 'PIER');
  await page
    .getByTestId('drawing-file')
    .setInputFiles({ name: 'buoy.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(BUOY) });
  await expect(desk(page).getByTestId('left-out')).toContainText('text');
  await expect(band(page).getByRole('button')).toHaveCount(2);
  const { blocks } = await document(page);
  expect(blocks[1]).toMatchObject({ text: '', drawing: { name: 'buoy.svg', kind: 'vector' } });

  await page.getByTestId('drawing-file').setInputFiles({
    name: 'broken.svg',
    mimeType: 'image/svg+xml',
    buffer: Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"/>'),
  });
  await expect(page.getByText(/broken\.svg was not taken: nothing in the file/)).toBeVisible();
  expect((await document(page)).blocks).toHaveLength(2);

  await test.step('its pen lines become tubes of their own length, laid among each other', async () => {
    await page
      .getByTestId('drawing-file')
      .setInputFiles({ name: 'anchor.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(ANCHOR) });
    await expect(band(page).getByRole('button')).toHaveCount(4);
    await radio(page, 'Tube').click();
    const measures = desk(page).getByTestId('tube-measures');
    await expect(measures).toContainText(/\d\.\d{3} m of tube.*stock/);
    // the file is 104 high and stands 300 mm tall; shank and stock are 80 and 40 long, ends apart from what they meet
    const text = (await measures.textContent())!;
    const length = (name: string) => Number(new RegExp(`${name} (\\d+)`).exec(text)![1]);
    expect(length('stock')).toBeGreaterThan((40 / 104) * 300 * 0.97);
    expect(length('stock')).toBeLessThan((40 / 104) * 300 * 1.1);
    expect(length('shank')).toBeGreaterThan((80 / 104) * 300 * 0.8);
    expect(length('shank')).toBeLessThan((80 / 104) * 300);
    await expect(page.locator('[data-mark=touch]')).toHaveCount(0);
    await desk(page).getByRole('button', { name: 'Remove the block' }).click();
    await desk(page).getByRole('radiogroup', { name: 'Blocks' }).getByRole('radio').last().click();
  });

  const saved = async (name: string) => {
    const download = page.waitForEvent('download');
    await desk(page).getByRole('button', { name }).click();
    return readFile(await (await download).path());
  };
  const glb = await saved('GLB solids');
  expect(glb.subarray(0, 4).toString()).toBe('glTF');
  const json = JSON.parse(glb.subarray(20, 20 + glb.readUInt32LE(12)).toString());
  const names = json.nodes.map((n: { name: string }) => n.name);
  expect(names).toEqual(expect.arrayContaining(['P', 'I', 'E', 'R', 'buoy', 'lamp', 'front', 'side']));
  const obj = (await saved('OBJ solids')).toString();
  expect(obj.match(/^o /gm)).toHaveLength(6);
  const svg = (await saved('SVG outlines')).toString();
  expect(svg.match(/<path /g)).toHaveLength(6);
});

test('two thousand characters are typed, dressed at their end, and orbited', async ({ page }) => {
  test.setTimeout(240_000);
  await newWord(page, 'PIER');
  const line = 'the ferry ostrel leaves pier nine at dusk, with cars, bread, letters';
  const text = Array(28).fill(line).join('\n');
  const inked = text.replace(/\s/g, '').length;
  await page.getByLabel('Text', { exact: true }).fill(text);
  await expect(band(page).locator('[data-letter]')).toHaveCount(inked, { timeout: 60_000 });
  await step(page, 'Finish');
  const grid = page.getByRole('grid', { name: /^Finish chart/ });
  await expect(grid).toHaveAttribute('aria-colcount', `${inked}`);
  expect(await grid.getByRole('gridcell').count()).toBeLessThan(300);

  await test.step('the chart follows the chosen face along', async () => {
    await grid
      .getByRole('gridcell', { name: /^Front of t/ })
      .first()
      .click();
    const first = (await document(page)).blocks[0].letters[0];
    await grid.focus();
    for (let i = 0; i < 30; i++) await page.keyboard.press('ArrowRight');
    const chosen = grid.locator('[role=gridcell][aria-selected=true]');
    await expect(chosen).toBeInViewport({ ratio: 1 });
    expect(await chosen.getAttribute('data-cell')).not.toContain(first);
    await expect(grid.getByRole('rowheader', { name: /^Front/ })).toBeInViewport({ ratio: 1 });
  });

  await test.step('its last letter is dressed', async () => {
    await grid.evaluate((g) => (g.parentElement!.scrollLeft = g.scrollWidth));
    const last = grid.getByRole('columnheader').last();
    await expect(last).toHaveAttribute('aria-label', 's');
    await expect(last).toHaveAttribute('aria-colindex', `${inked}`);
    await drag(page, page.getByRole('option', { name: /^Leaf gold/ }), last);
    const { blocks, looks, finishes } = await document(page);
    const gold = finishes.find((f) => f.name === 'Leaf gold')!.id;
    expect(looks[0].chart.at(-1)).toMatchObject({ letter: blocks[0].letters.at(-1), finish: gold });
  });

  await test.step('the camera turns, and the letters stay', async () => {
    const stage = await middle(page.getByTestId('stage'));
    const before = (await document(page)).shots[0].camera.azimuth;
    await dragBy(page, stage, 80, 10);
    expect((await document(page)).shots[0].camera.azimuth).not.toBe(before);
    await expect(grid).toHaveAttribute('aria-colcount', `${inked}`);
    await expect(page.getByText(/could not be|stopped/)).toHaveCount(0);
  });
});
