/** The flip-book: it fills itself in while the hands rest, and makes anew only what a change touches. */
import { execFileSync } from 'node:child_process';
import { expect, type Page } from '@playwright/test';
import { number, step, test, traced } from './hands.ts';
import { OwnStudio } from './server.ts';

let studio: OwnStudio;
test.beforeAll(async () => {
  studio = await OwnStudio.open();
});
test.afterAll(() => studio.end());

const desk = (page: Page) => page.getByRole('complementary', { name: 'Desk' });
const band = (page: Page) => page.getByTestId('time');
const made = async (page: Page) =>
  Number(/^(\d+) of/.exec(await band(page).getByTestId('flip-status').innerText())?.[1]);

async function at(page: Page, frame: string): Promise<void> {
  const field = band(page).getByLabel('Picture of the shot');
  await field.fill(frame);
  await field.press('Enter');
}

test('fills itself in between its ends, plays, and makes anew only what a key touches', async ({ page }) => {
  await page.goto(`${studio.url}/p/cabin-keys/brushed-steel/frame`);
  await traced(page, 1);
  await number(desk(page), 'Length', '1');
  await number(desk(page), 'Rate', '12');
  // one key: it is still before it, and moves behind it
  await at(page, '8');
  const peg = desk(page)
    .getByRole('button', { name: /^Focal length over time/ })
    .first();
  await peg.click();
  await page.getByRole('menuitem', { name: 'Key here' }).click();
  await at(page, '11');
  await number(desk(page), 'Focal length', '70');

  await at(page, '4');
  await band(page).getByRole('button', { name: 'Flip-book' }).click();
  await band(page).getByRole('button', { name: 'Begin the flip-book here' }).click();
  await expect(band(page).getByTestId('flip-status')).toContainText('of 8');
  await expect.poll(() => made(page), { timeout: 120_000 }).toBe(8);
  await expect(page.getByTestId('flip')).toBeVisible();
  // before the key all are one picture, and it was made once
  await at(page, '6');
  await expect(page.getByTestId('flip')).toBeVisible();
  await at(page, '1');
  await expect(page.getByTestId('flip')).toBeHidden();

  // what is changed at the end leaves what lies before
  await at(page, '11');
  await number(desk(page), 'Focal length', '90');
  // until that is known none is shown
  await expect.poll(() => made(page), { timeout: 30_000, intervals: [20] }).toBeLessThan(5);
  await expect.poll(() => made(page), { timeout: 30_000, intervals: [50] }).toBeGreaterThanOrEqual(5);
  await expect.poll(() => made(page), { timeout: 120_000 }).toBe(8);

  // blur of motion is in it: what moved is made anew, what stood still is kept
  await desk(page).getByRole('checkbox', { name: 'Blur of motion' }).check();
  await expect.poll(() => made(page), { timeout: 30_000, intervals: [20] }).toBeLessThan(8);
  await expect.poll(() => made(page), { timeout: 120_000 }).toBe(8);
  await at(page, '10');
  await expect(page.getByTestId('flip')).toBeVisible();

  // it is saved as a film, encoded here: as many pictures as it has
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    band(page).getByRole('button', { name: 'Save the flip-book as a film' }).click(),
  ]);
  expect(file.suggestedFilename()).toMatch(/^Cabin keys, Brushed steel, .*\.webm$/);
  const told = ['-v', 'error', '-count_packets', '-show_entries', 'stream=width,height,nb_read_packets'];
  const facts = execFileSync('/usr/bin/ffprobe', [...told, '-of', 'csv=p=0', await file.path()]).toString();
  expect(facts.trim()).toBe('320,180,8');

  // it is played from the beginning of the flip-book on
  await band(page).getByRole('button', { name: 'Play' }).click();
  const seen = new Set<number>();
  await expect
    .poll(
      async () => seen.add(Number(await band(page).getByLabel('Picture of the shot').inputValue())).size,
      {
        timeout: 30_000,
      },
    )
    .toBeGreaterThan(3);
  await band(page).getByRole('button', { name: 'Stop' }).click();
  expect(Math.min(...[...seen])).toBeGreaterThanOrEqual(4);

  // a film of the shot at a size of its own is made here too, and can be stopped
  await step(page, 'Press');
  await number(desk(page), 'Width', '128');
  await number(desk(page), 'Samples', '2');
  await desk(page).getByText('Of the shot', { exact: true }).click();
  await desk(page).getByLabel('File', { exact: true }).selectOption('WebM, VP9');
  const here = desk(page).getByRole('button', { name: 'Make it in this page' });
  const queue = page.getByRole('list', { name: 'Press queue' });
  const [film] = await Promise.all([page.waitForEvent('download', { timeout: 120_000 }), here.click()]);
  const filmFacts = execFileSync('/usr/bin/ffprobe', [...told, '-of', 'csv=p=0', await film.path()]);
  expect(filmFacts.toString().trim()).toBe('128,72,12');
  await expect(queue).toBeHidden();
  await number(desk(page), 'Samples', '4000');
  await here.click();
  await expect(queue).toContainText('made in this page');
  await expect(here).toBeDisabled();
  await queue.getByRole('button', { name: 'Stop' }).click();
  await expect(queue).toBeHidden();
  await expect(here).toBeEnabled();
  await step(page, 'Frame');

  // another step has the stage to itself
  await step(page, 'Finish');
  await traced(page, 1);
  await step(page, 'Frame');
  await expect(band(page).getByRole('button', { name: 'Flip-book' })).toHaveAttribute(
    'aria-pressed',
    'false',
  );
  await traced(page, 1);
  await expect(page.getByTestId('flip')).toHaveCount(0);
});
