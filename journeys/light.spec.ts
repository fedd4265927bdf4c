/** Light: what lights what, weighed in the picture, and caught at a place of the type. */
import { expect, type Page } from '@playwright/test';
import type { Light, Project } from '@wemlox/core/document';
import { leadBrush, meanOf, number, test, traced } from './hands.ts';
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
const samples = (page: Page) => stage(page).getAttribute('data-samples').then(Number);

/** Mean of the picture, 0 … 255, within shares of the stage. */
const mean = (page: Page, xs = [0.1, 0.9], ys = [0.3, 0.9]) => meanOf(stage(page), xs, ys);

/** Percent that each source gives of a row. */
async function shares(page: Page, row: string): Promise<Record<string, number>> {
  const names = await chart(page)
    .getByRole('button', { name: new RegExp(` % of ${row}$`) })
    .evaluateAll((all) => all.map((b) => b.getAttribute('aria-label')!));
  return Object.fromEntries(
    names.map((name) => {
      const [, source, percent] = /^(.*) gives (\d+) % of /.exec(name)!;
      return [source, Number(percent)];
    }),
  );
}

test('the chart parts the light, and a balance of it is seen at once and holds when it is traced', async ({
  page,
}) => {
  await page.goto(`${studio.url}/p/ostrel/gold-leaf/light`);
  await traced(page, 4);
  await expect(chart(page).getByRole('button', { name: /^Key gives \d+ % of Front$/ })).toBeVisible();
  for (const row of ['Front', 'Bevel', 'Floor']) {
    const all = await shares(page, row);
    expect(Object.keys(all).sort()).toEqual(['Fill', 'Key', 'Rim', 'Surround']);
    const sum = Object.values(all).reduce((a, b) => a + b, 0);
    expect(Math.abs(sum - 100), row).toBeLessThan(3);
  }
  await expect(page.getByTestId('sightlines')).toHaveAccessibleName(/Front, Bevel/);
  const before = await mean(page);
  const at = await samples(page);
  await chart(page).getByLabel('Balance of Surround, stops').fill('-2');
  await chart(page).getByRole('button', { name: 'Fill in the picture' }).click();
  await expect(page.getByText('The picture is balanced anew')).toBeVisible();
  await expect.poll(async () => (await mean(page))[1]).toBeLessThan(before[1] * 0.8);
  // nothing was traced anew
  expect(await samples(page)).toBeGreaterThanOrEqual(at);
  expect((await shares(page, 'Front')).Fill).toBe(0);
  await page.keyboard.press('Control+s');
  await traced(page, 16);
  const balanced = await mean(page);
  await page.getByRole('button', { name: 'Take over' }).click();
  await expect(page.getByRole('button', { name: 'Undo Balance of the light' })).toBeEnabled();
  await expect(page.getByText('The picture is balanced anew')).toHaveCount(0);
  await expect
    .poll(async () => (await studio.document('ostrel')).looks[1].surround.stops)
    .toBeCloseTo(0.2 - 2, 6);
  const { rig } = (await studio.document('ostrel')).looks[1];
  expect(rig.find((l: Light) => l.name === 'Fill').on).toBe(false);
  await traced(page, 16);
  const anew = await mean(page);
  for (let c = 0; c < 3; c++) expect(Math.abs(anew[c] - balanced[c])).toBeLessThan(0.05 * balanced[c] + 1);
});

test('one source is seen alone, a proof waits for the balance, and all comes back', async ({ page }) => {
  await page.goto(`${studio.url}/p/ostrel/signal-lit/light`);
  await traced(page, 4);
  const all = await mean(page);
  await chart(page)
    .getByRole('button', { name: /^Front glows gives \d+ % of Floor$/ })
    .click();
  await expect(page.getByText('One source is seen alone')).toBeVisible();
  await chart(page)
    .getByRole('button', { name: /^Top strip gives \d+ % of Side$/ })
    .click();
  await expect.poll(async () => (await mean(page))[0]).toBeLessThan(all[0] * 0.5);
  await page.goto(`${studio.url}/p/ostrel/signal-lit/light`);
  await traced(page, 2);
  await chart(page).getByRole('button', { name: 'Front glows in the picture' }).click();
  await page.getByRole('link', { name: /Proof/ }).click();
  await page.getByRole('button', { name: 'Keep a proof' }).click();
  await expect(page.getByText(/A proof is of the look as it stands/)).toBeVisible();
  await page.getByRole('link', { name: /Light/ }).click();
  await page.getByRole('button', { name: 'Discard' }).click();
  await expect(page.getByText('The picture is balanced anew')).toHaveCount(0);
});

test('light is caught where the type is pointed at', async ({ page }) => {
  await page.goto(`${studio.url}/p/ostrel/dusk-chrome/light`);
  await traced(page, 6);
  await page.getByTestId('dome').getByRole('button', { name: /^Rim/ }).locator('.mark').click();
  await page.getByRole('button', { name: 'Catch' }).click();
  const box = (await stage(page).boundingBox())!;
  // on the upright of the T
  const spot = [0.437, 0.56];
  const about = (k: number, r: number): [number, number] => [spot[k] - r, spot[k] + r];
  const before = await mean(page, about(0, 0.008), about(1, 0.012));
  // by keys alone: arrows lead there, Space catches
  const keys = page.getByTestId('catch-keys');
  const aim = [box.x + box.width * spot[0], box.y + box.height * spot[1]] as const;
  await leadBrush(page, keys, aim);
  await expect(keys.getByRole('status')).toHaveText('On Front of T');
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Undo Move Rim' })).toBeEnabled();
  await traced(page, 12);
  const after = await mean(page, about(0, 0.008), about(1, 0.012));
  expect(after[1]).toBeGreaterThan(before[1] + 20);
  // and by hand, further up
  const rim = async () =>
    (await studio.document('ostrel')).looks[0].rig.find((l: Light) => l.name === 'Rim') as Light;
  const caught = await rim();
  await page.mouse.move(aim[0], aim[1] - 24);
  await page.mouse.down();
  await page.mouse.up();
  await expect.poll(async () => (await rim()).elevation).not.toBeCloseTo(caught.elevation, 3);
  // a shadow on the floor goes where it is dragged
  await page.getByTestId('dome').getByRole('button', { name: /^Key/ }).locator('.mark').click();
  const standing = async () =>
    (await studio.document('ostrel')).looks[0].rig.find((l: Light) => l.name === 'Key') as Light;
  for (const [label, value] of [
    ['Azimuth', '-90'],
    ['Elevation', '12'],
  ] as const)
    await number(desk(page), label, value);
  await expect.poll(async () => (await standing()).elevation).toBeCloseTo((12 * Math.PI) / 180, 6);
  const stood = await standing();
  // beside the foot of the L
  const floor = [0.91, 0.617];
  await page.mouse.move(box.x + box.width * floor[0], box.y + box.height * floor[1]);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * (floor[0] + 0.03), box.y + box.height * (floor[1] + 0.03), {
    steps: 4,
  });
  await page.mouse.up();
  await expect.poll(async () => (await standing()).azimuth).not.toBeCloseTo(stood.azimuth, 3);
  // hands that do not catch orbit
  await page.getByRole('button', { name: 'Catch' }).click();
  await page.mouse.move(box.x + box.width * spot[0], box.y + box.height * spot[1]);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.5, box.y + box.height * 0.56, { steps: 3 });
  await page.mouse.up();
  await expect(page.getByRole('button', { name: 'Undo Orbit' })).toBeEnabled();
});

test('where a light stands is typed, and of forty lights each is found', async ({ page }) => {
  const document: Project = structuredClone(await studio.document('ostrel'));
  const [look] = document.looks;
  const [first] = look.rig;
  look.rig = Array.from({ length: 40 }, (_, i) => ({
    ...structuredClone(first),
    id: `lamp-${i}`,
    name: `Lamp ${i + 1}`,
    strength: i === 29 ? 400 : 0.2,
    azimuth: -3 + i * 0.15,
  }));
  const made = await page.request.post(`${studio.url}/api/projects`, { data: { document } });
  const { id } = (await made.json()) as { id: string };
  await page.goto(`${studio.url}/p/${id}/${look.id}/light`);
  await traced(page, 4);
  const row = chart(page).getByRole('button', { name: 'Front', exact: true });
  await expect(row).toBeVisible();
  const room = await chart(page).evaluate((e) => [e.scrollWidth, e.clientWidth]);
  expect(room[0]).toBeLessThanOrEqual(room[1] + 1);
  await row.click();
  // the strongest comes first; the corner is a head too
  const heads = chart(page).getByRole('columnheader');
  await expect(heads).toHaveCount(42);
  const names = await heads.evaluateAll((all) => all.map((h) => h.getAttribute('aria-label')));
  expect(names.slice(1, 3)).toContain('Lamp 30');
  await chart(page).getByRole('columnheader', { name: 'Lamp 30' }).getByRole('button').first().click();
  const azimuth = desk(page).getByRole('textbox', { name: 'Azimuth', exact: true });
  await azimuth.fill('45');
  await azimuth.press('Enter');
  await expect
    .poll(async () => (await studio.document(id)).looks[0].rig[29].azimuth)
    .toBeCloseTo(Math.PI / 4, 6);
});

test('a rig suits the faces: cards for those that mirror, lamps for those that scatter; a point shines all around', async ({
  page,
}) => {
  const names = async (look: number) =>
    (await studio.document('ostrel')).looks[look].rig.map((l: Light) => l.name);
  await page.goto(`${studio.url}/p/ostrel/anodised/light`);
  await traced(page, 2);
  const before = await mean(page);
  await page.getByRole('button', { name: 'Rig to suit' }).click();
  await expect(page.getByText(/Most faces mirror/)).toBeVisible();
  await page.getByRole('button', { name: 'Take those out' }).click();
  await expect.poll(() => names(4)).toEqual(['Front card', 'Left strip', 'Right strip', 'Top card']);
  await traced(page, 4);
  expect((await mean(page))[1]).not.toBeCloseTo(before[1], 0);
  await page.getByRole('button', { name: 'Point', exact: true }).click();
  await expect.poll(() => names(4)).toContain('Point');
  const strength = desk(page).getByRole('textbox', { name: 'Strength', exact: true });
  await strength.fill('4000');
  await strength.press('Enter');
  await traced(page, 4);
  // it outshines all others on the floor
  await expect
    .poll(async () => (await shares(page, 'Floor')).Point ?? 0, { timeout: 60_000 })
    .toBeGreaterThan(60);
});

test('the light says why the picture is dark, and one move mends it', async ({ page }) => {
  const document: Project = structuredClone(await studio.document('ostrel'));
  const look = document.looks.find((l) => l.id === 'gold-leaf')!;
  look.grade.exposure = -5;
  Object.assign(look.rig[0], { elevation: -0.9 });
  const made = await page.request.post(`${studio.url}/api/projects`, { data: { document } });
  const { id } = (await made.json()) as { id: string };
  const now = async () => (await studio.document(id)).looks.find((l: { id: string }) => l.id === look.id);
  await page.goto(`${studio.url}/p/${id}/${look.id}/light`);
  const advice = page.getByTestId('light-advice');
  await expect(advice).toContainText('Key stands under the floor', { timeout: 60_000 });
  // all that was found is there, one thing after the other
  await advice.getByRole('button', { name: /^Finding 1 of 2/ }).click();
  await expect(advice).toContainText(/stops too dark/);
  await advice.getByRole('button', { name: /^Finding 2 of 2/ }).click();
  await advice.getByRole('button', { name: 'Bring Key out' }).click();
  await expect.poll(async () => (await now()).rig[0].elevation).toBeGreaterThan(0);
  await expect(advice).toContainText(/stops too dark/, { timeout: 60_000 });
  await advice.getByRole('button', { name: /^Expose \+/ }).click();
  await expect.poll(async () => (await now()).grade.exposure).toBeGreaterThan(-2.5);
  await expect(page.getByText(/stops too dark/)).toHaveCount(0);
});
