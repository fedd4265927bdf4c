/** What trials broke, walked through again: drops, keys, revisions, broken documents, and a screen reader's view. */
import AxeBuilder from '@axe-core/playwright';
import { expect, type Locator, type Page } from '@playwright/test';
import { finishAt } from '@wemlox/core/document/chart';
import type { Project } from '@wemlox/core/document';
import { documentOf, drag, dragBy, idOf, middle, step, test } from './hands.ts';
import { OwnStudio } from './server.ts';

let studio: OwnStudio;
test.beforeAll(async () => {
  studio = await OwnStudio.open();
});
test.afterAll(() => studio.end());

const document = (page: Page) => documentOf(page, studio);
const desk = (page: Page) => page.getByRole('complementary', { name: 'Desk' });
const rack = (page: Page, finish: string) => page.getByRole('option', { name: finish, exact: true });
const shaped = (page: Page) => expect(page.getByRole('grid')).toBeVisible();

async function made(project: Project): Promise<string> {
  const response = await fetch(`${studio.url}/api/projects`, {
    method: 'POST',
    body: JSON.stringify({ document: project }),
    headers: { 'Content-Type': 'application/json' },
  });
  const { id } = (await response.json()) as { id: string };
  return `${studio.url}/p/${id}/${project.looks[0].id}`;
}

/** A word in the demo's finishes, all of it in hull chrome. */
async function fresh(text: string, change: (p: Project) => void = () => {}): Promise<Project> {
  const project = structuredClone((await studio.document('ostrel')) as Project);
  project.name = 'Trial';
  const [block] = project.blocks;
  Object.assign(block, { text, letters: [...text].map((_, i) => `letter-${i}`), kerns: [] });
  const { id } = project.finishes.find((f) => f.name === 'Hull chrome')!;
  project.blocks = [block];
  project.looks = [{ ...project.looks[0], chart: [{ finish: id }] }];
  change(project);
  return project;
}

test('a finish lands where it is dropped: on heads of a scrolled chart, and on the face in the picture', async ({
  page,
}) => {
  const text = 'THE NIGHT FERRY OSTREL LEAVES PIER NINE AT DUSK';
  await page.goto(`${await made(await fresh(text))}/finish`);
  await shaped(page);
  const chart = page.getByRole('grid').locator('..');
  await chart.evaluate((e) => e.scrollTo(900, 0));
  await expect.poll(() => chart.evaluate((e) => e.scrollLeft)).toBe(900);
  const finishes = (await document(page)).finishes;
  const id = (name: string) => finishes.find((f) => f.name === name)!.id;
  const ruleFor = async () => (await document(page)).looks[0].chart;
  await drag(page, rack(page, 'Leaf gold'), page.getByRole('columnheader', { name: 'all faces' }));
  expect(await ruleFor()).toEqual([{ finish: id('Leaf gold') }]);
  await drag(page, rack(page, 'Funnel red'), page.getByRole('rowheader', { name: 'Side' }));
  expect(await ruleFor()).toContainEqual({ zone: 'side', finish: id('Funnel red') });
  // a column in the middle of what is in sight
  const heads = page.getByRole('columnheader').filter({ hasText: /^[A-Z]$/ });
  const boxes = await heads.evaluateAll((all) => all.map((e) => e.getBoundingClientRect().x));
  const at = boxes.findIndex((x) => x > 400 && x < 800);
  await drag(page, rack(page, 'Worn steel'), heads.nth(at).getByText(/^[A-Z]$/));
  const rule = (await ruleFor()).find((r) => r.letter !== undefined && r.zone === undefined)!;
  expect(rule.finish).toBe(id('Worn steel'));
  await expect(heads.nth(at)).toHaveAttribute('id', new RegExp(rule.letter!));

  // and in the picture: the letter under the pointer, shown while hovering
  await page.goto(`${await made(await fresh('OSTREL'))}/finish`);
  await shaped(page);
  await expect(page.getByTestId('stage')).toHaveAttribute('data-samples', /[1-9]/, { timeout: 120_000 });
  const [from, stage] = [
    await middle(rack(page, 'Night enamel')),
    (await page.getByTestId('stage').boundingBox())!,
  ];
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  // the stem of T, left of the middle
  const to = { x: stage.x + stage.width * 0.42, y: stage.y + stage.height * 0.55 };
  await page.mouse.move(from.x - 20, from.y, { steps: 3 });
  await page.mouse.move(to.x, to.y, { steps: 8 });
  const chip = page.getByText(/^Night enamel → /);
  await expect(chip).toBeVisible();
  const face = (await chip.textContent())!.replace('Night enamel → ', '');
  expect(face).toMatch(/^(Front|Bevel|Side) of [STR]$/);
  await page.mouse.up();
  await expect(page.getByRole('button', { name: `Undo ${face} → Night enamel` })).toBeEnabled();
  const now = await document(page);
  const laid = now.looks[0].chart.find((r) => r.letter)!;
  expect(finishAt(now.looks[0].chart, laid.block!, laid.letter!, laid.zone!)).toBe(
    now.finishes.find((f) => f.name === 'Night enamel')!.id,
  );
});

test('the chart is dressed by keyboard alone, cells, rows, columns and all faces', async ({ page }) => {
  await page.goto(`${await made(await fresh('TIDE'))}/finish`);
  await shaped(page);
  const { finishes, blocks } = await document(page);
  const gold = finishes.find((f) => f.name === 'Leaf gold')!.id;
  await rack(page, 'Leaf gold').focus();
  await page.keyboard.press('Space');
  await expect(rack(page, 'Leaf gold')).toHaveAttribute('aria-selected', 'true');
  const grid = page.getByRole('grid');
  await grid.focus();
  const active = async () => {
    const id = (await grid.getAttribute('aria-activedescendant'))!;
    return page.locator(`[id="${id}"]`);
  };
  await page.keyboard.press('ArrowRight');
  await expect(await active()).toHaveAttribute('aria-label', /^Front of T/);
  await page.keyboard.press('ArrowUp');
  await expect(await active()).toHaveRole('columnheader');
  await page.keyboard.press('Enter');
  const chart = async () => (await document(page)).looks[0].chart;
  expect(await chart()).toContainEqual({ block: blocks[0].id, letter: blocks[0].letters[0], finish: gold });
  await page.keyboard.press('ArrowLeft');
  await expect(await active()).toHaveText('all faces');
  await page.keyboard.press('ArrowDown');
  await expect(await active()).toHaveRole('rowheader');
  await page.keyboard.press('Enter');
  expect(await chart()).toContainEqual({ zone: 'front', finish: gold });
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Enter');
  expect(await chart()).toEqual([{ finish: gold }]);
  await page.keyboard.press('Delete');
  expect(await chart()).toEqual([{ finish: null }]);
  // a letter chosen in the picture is cleared and dressed from there too
  await expect(page.getByTestId('stage')).toHaveAttribute('data-samples', /[1-9]/, { timeout: 120_000 });
  const stage = (await page.getByTestId('stage').boundingBox())!;
  const chosen = page.locator('[role=gridcell][aria-selected=true]');
  // beside the type first: nothing is chosen then
  await page.mouse.click(stage.x + 40, stage.y + 60);
  await expect(chosen).toHaveCount(0);
  for (let k = 0; k < 14 && (await chosen.count()) === 0; k++)
    await page.mouse.click(stage.x + stage.width * (0.3 + 0.03 * k), stage.y + stage.height * 0.5);
  await page.keyboard.press('Enter');
  const { face, rule } = await page
    .locator('[role=gridcell][aria-selected=true]')
    .getAttribute('data-cell')
    .then(async (cell) => ({ face: cell!.split('/'), rule: (await chart()).at(-1)! }));
  expect(rule).toEqual({ block: face[0], letter: face[1], zone: face[2], finish: gold });
  await page.keyboard.press('Delete');
  expect((await chart()).at(-1)).toEqual({ block: face[0], letter: face[1], zone: face[2], finish: null });
});

test('undo reaches over a reload, and revisions are gone back to or opened as a copy', async ({ page }) => {
  await page.goto(`${await made(await fresh('SALOON'))}/set`);
  const text = page.getByLabel('Text', { exact: true });
  await expect(text).toHaveValue('SALOON');
  for (const word of ['GALLEY', 'BRIDGE']) {
    await text.fill(word);
    await text.blur();
    await expect.poll(async () => (await document(page)).blocks[0].text).toBe(word);
    // edits of one name that follow closely are one step
    await page.waitForTimeout(1200);
  }
  await page.reload();
  await expect(text).toHaveValue('BRIDGE');
  const undo = page.getByRole('button', { name: 'Undo Text' });
  await expect(undo).toBeEnabled();
  await undo.click();
  await expect(text).toHaveValue('GALLEY');
  await undo.click();
  await expect(text).toHaveValue('SALOON');
  await expect(page.getByRole('button', { name: 'Nothing to undo' })).toBeDisabled();
  await page.getByRole('button', { name: 'Redo Text' }).click();
  await expect(text).toHaveValue('GALLEY');
  await document(page);
  await page.getByRole('button', { name: 'Revisions' }).click();
  const dialog = page.getByRole('dialog', { name: 'Revisions' });
  await expect(dialog.getByRole('listitem').first()).toContainText('as it is now');
  await dialog.getByRole('listitem').last().getByRole('button', { name: 'Go back' }).click();
  await expect(text).toHaveValue('SALOON');
  const first = idOf(page);
  await page.getByRole('button', { name: 'Revisions' }).click();
  await dialog.getByRole('listitem').nth(1).getByRole('button', { name: 'Open as a copy' }).click();
  await expect.poll(() => idOf(page)).not.toBe(first);
  await expect(text).toHaveValue('GALLEY');
});

test('a stored document that is broken says so, and its last good revision brings it back', async ({
  page,
}) => {
  const address = await made(await fresh('ANCHOR'));
  const id = new URL(address).pathname.split('/')[2];
  await studio.query(`UPDATE projects SET document = document - 'shots' WHERE id = '${id}'`);
  await page.goto(`${address}/set`);
  await expect(page.getByRole('heading', { name: 'This project cannot be opened' })).toBeVisible();
  await expect(page.getByText('shots: is missing')).toBeVisible();
  await page.getByRole('button', { name: 'Go back to the last good revision' }).click();
  await expect(page.getByLabel('Text', { exact: true })).toHaveValue('ANCHOR');
});

test('numbers say why they are refused, step from what is typed, and go back on a double click', async ({
  page,
}) => {
  await page.goto(`${await made(await fresh('KEEL'))}/set`);
  const depth = desk(page).getByLabel('Depth', { exact: true });
  await depth.fill('ninety');
  await depth.press('Enter');
  await expect(desk(page).getByRole('alert')).toHaveText(
    '“ninety” is not a number in mm; 0 to 10000 mm is taken',
  );
  await depth.fill('20000');
  await depth.press('Enter');
  await expect(desk(page).getByRole('alert')).toContainText('not 20000');
  await depth.fill('120');
  await depth.press('ArrowUp');
  await expect(depth).toHaveValue('120.5');
  expect((await document(page)).blocks[0].depth).toBeCloseTo(0.1205, 9);
  await desk(page).getByText('Depth', { exact: true }).dblclick();
  expect((await document(page)).blocks[0].depth).toBeCloseTo(0.08, 9);
  // the palette finds settings and goes there
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Ask the studio' }).click();
  await page.getByRole('combobox', { name: /^Find a command/ }).fill('roughness');
  await page.getByRole('option', { name: /^Roughness, in Finish/ }).click();
  await expect(page).toHaveURL(/finish$/);
  await expect(desk(page).getByLabel('Roughness', { exact: true }).first()).toBeFocused();
});

test('type under the floor is told in every step, and stands on it in one move', async ({ page }) => {
  await page.goto(
    `${await made(await fresh('buoy', (p) => (p.blocks[0].place.position = [0, 0.1, 0])))}/set`,
  );
  const sunk = page.getByTestId('sunk');
  for (const name of ['Set', 'Finish', 'Light', 'Frame', 'Proof', 'Press']) {
    await step(page, name);
    await expect(sunk).toContainText('under the floor');
  }
  await sunk.getByRole('button', { name: 'Stand it on the floor' }).click();
  await expect(sunk).toHaveCount(0);
  expect((await document(page)).blocks[0].place.position[1]).toBeGreaterThan(0.15);
});

test('Space compares after a proof has been clicked, and a focused choice keeps its letters', async ({
  page,
}) => {
  await page.goto(`${studio.url}/p/deck-5/clear/proof`);
  const proof = page.getByRole('list', { name: 'Kept proofs' }).getByRole('button').first();
  await proof.click();
  await expect(proof).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.down('Space');
  await expect(page.getByTestId('compared').getByRole('slider')).toHaveCount(0);
  await page.keyboard.up('Space');
  await expect(page.getByTestId('compared').getByRole('slider')).toHaveCount(1);
  await expect(proof).toHaveAttribute('aria-pressed', 'true');
  await desk(page).getByLabel('Against').focus();
  for (const key of ['d', 'h', 'k', '2']) await page.keyboard.press(key);
  await expect(page).toHaveURL(/proof$/);
  await expect(page.getByTestId('stage').getByRole('button', { name: /Show handles/ })).toHaveCount(0);
  // a window over the studio has the keys to itself, wherever the focus went
  await page.getByRole('button', { name: 'Keys', exact: true }).click();
  const sheet = page.getByRole('dialog', { name: 'Keys and words' });
  await expect(sheet).toBeVisible();
  await page.evaluate(() => (globalThis.document.activeElement as HTMLElement).blur());
  await page.keyboard.press('6');
  await page.keyboard.press('Escape');
  await expect(sheet).toHaveCount(0);
  expect(page.url()).not.toContain('/press');
});

test('the page says when the database is away, and that it is back', async ({ page }) => {
  await page.goto(`${await made(await fresh('LAMP'))}/set`);
  const saving = page.getByTestId('saving');
  await expect(saving).toHaveAttribute('data-saving', 'saved');
  const away = JSON.stringify({ title: 'The database is away', status: 503, detail: 'away' });
  await page.route('**/api/{health,projects/**}', (route) =>
    route.fulfill({ status: 503, contentType: 'application/problem+json', body: away }),
  );
  await page.getByLabel('Text', { exact: true }).fill('LAMPS');
  await expect(saving).toHaveAttribute('data-saving', 'away');
  await expect(saving).toHaveText('no database, kept here');
  await page.unroute('**/api/{health,projects/**}');
  await expect(saving).toHaveAttribute('data-saving', 'saved');
  expect((await document(page)).blocks[0].text).toBe('LAMPS');
});

async function clean(page: Page, where: string, rules?: string[]): Promise<void> {
  // colours on their way are not the colours that are read
  await page.evaluate(() =>
    Promise.race([
      Promise.allSettled(window.document.getAnimations().map((a) => a.finished)).then(() => {}),
      new Promise<void>((done) => setTimeout(done, 1000)),
    ]),
  );
  const axe = new AxeBuilder({ page });
  if (rules) axe.withRules(rules);
  const { violations } = await axe.analyze();
  const found = violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join(', ')}`);
  expect([where, ...found]).toEqual([where]);
}

/** What is opened on the way through the steps. */
const layers = (page: Page): Record<string, (() => Promise<Locator>)[]> => {
  const by = (open: () => Promise<void>, role: 'menu' | 'dialog') => async () => {
    await open();
    return page.getByRole(role);
  };
  return {
    Finish: [by(() => page.getByRole('button', { name: 'Add', exact: true }).click(), 'menu')],
    Set: [
      by(() => page.keyboard.press('/'), 'dialog'),
      by(() => page.keyboard.press('?'), 'dialog'),
      by(() => page.getByRole('button', { name: 'Revisions' }).click(), 'dialog'),
    ],
  };
};

for (const theme of ['dark', 'light'] as const)
  test(`axe finds nothing in any step, in the ${theme} theme, with menus open`, async ({ page }) => {
    // themes differ in colours alone
    const rules = theme === 'light' ? ['color-contrast'] : undefined;
    if (theme === 'dark') {
      await page.goto(studio.url);
      await expect(page.getByRole('link', { name: 'Open Ostrel' })).toBeVisible();
      await clean(page, 'start');
    }
    await page.goto(`${studio.url}/p/ostrel/dusk-chrome/finish`);
    await shaped(page);
    await expect(page.getByRole('heading', { level: 1 })).toHaveText('Ostrel, Wemlox');
    // the draft rests, which leaves the machine to what is looked at here
    await page.keyboard.press('d');
    if (theme === 'light') await page.getByRole('button', { name: 'Light theme' }).click();
    for (const name of ['Set', 'Finish', 'Light', 'Frame', 'Proof', 'Press']) {
      await step(page, name);
      await clean(page, `${theme} ${name}`, rules);
      for (const open of layers(page)[name] ?? []) {
        const layer = await open();
        await expect(layer).toBeVisible();
        await clean(page, `${theme} ${name}, opened`, rules);
        await page.keyboard.press('Escape');
        await expect(layer).toHaveCount(0);
      }
    }
  });

test('at twice the size everything can be reached', async ({ page }) => {
  await page.setViewportSize({ width: 640, height: 400 });
  await page.goto(`${studio.url}/p/ostrel/dusk-chrome/finish`);
  await shaped(page);
  for (const control of [
    page.getByRole('button', { name: 'Revisions' }),
    page.getByRole('navigation', { name: 'Steps' }).getByText('Press'),
    rack(page, 'Leaf gold'),
    page.getByRole('rowheader').last(),
  ]) {
    await control.scrollIntoViewIfNeeded();
    await expect(control).toBeInViewport();
  }
  // by dragging too: the page scrolls, nothing is cut off
  await dragBy(page, { x: 320, y: 200 }, 10, 0);
  expect(await page.evaluate(() => window.document.documentElement.scrollWidth)).toBeGreaterThanOrEqual(1000);
});
