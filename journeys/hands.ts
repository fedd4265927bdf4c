/** What an artist's hands do in the studio, for all journeys. */
import { decode } from 'fast-png';
import { test as base, expect, type Locator, type Page } from '@playwright/test';
import type { Project } from '@wemlox/core/document';
import { spentBy, writeCost } from '../tools/cost.mjs';
import type { OwnStudio } from './server.ts';

/** Processor seconds of this worker that were written down. */
let counted = 0;

/**
 * `restsAt`: samples at which a journey's pictures rest. Few where hands are tried: what they do is the same, and two
 * cores have time for them; more where pictures are compared.
 */
export const test = base.extend<{ restsAt: number; cost: void }>({
  restsAt: [8, { option: true }],
  cost: [
    // eslint-disable-next-line no-empty-pattern -- the form in which fixtures say that they need no other
    async ({}, use, info) => {
      await use();
      const spent = spentBy(process.pid);
      writeCost(info.file, spent - counted);
      counted = spent;
    },
    { auto: true },
  ],
  context: async ({ context, restsAt }, use) => {
    await context.addInitScript((samples) => {
      if (!localStorage.getItem('wemlox-choice'))
        localStorage.setItem('wemlox-choice', JSON.stringify({ state: { samples }, version: 0 }));
    }, restsAt);
    await use(context);
  },
});

/** Identifier of the project whose page is open. */
export const idOf = (page: Page) => new URL(page.url()).pathname.split('/')[2];

export const step = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'Steps' }).getByText(name).click();

/** The open project as the server has it, once the last edit has been shown and saved. */
export async function documentOf(page: Page, studio: OwnStudio): Promise<Project> {
  await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  await expect(page.getByTestId('saving')).toHaveAttribute('data-saving', 'saved');
  return studio.document(idOf(page));
}

/** Types a number into a row. */
export async function number(within: Locator | Page, label: string, value: string): Promise<void> {
  const field = within.getByLabel(label, { exact: true }).first();
  await field.fill(value);
  await field.press('Enter');
}

/** Waits until the picture of the document as it is has so many samples. */
export const traced = (page: Page, samples: number) =>
  page.waitForFunction(
    (least) => {
      const stage = document.querySelector<HTMLElement>('[data-testid=stage]');
      return stage && stage.dataset.state !== 'drafting' && Number(stage.dataset.samples) >= least;
    },
    samples,
    { timeout: 120_000 },
  );

export const middle = async (locator: Locator) => {
  const box = (await locator.boundingBox())!;
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
};

export async function dragBy(
  page: Page,
  at: { x: number; y: number },
  dx: number,
  dy: number,
): Promise<void> {
  await page.mouse.move(at.x, at.y);
  await page.mouse.down();
  await page.mouse.move(at.x + dx / 2, at.y + dy / 2, { steps: 4 });
  await page.mouse.move(at.x + dx, at.y + dy, { steps: 4 });
  await page.mouse.up();
}

export async function drag(page: Page, from: Locator, to: Locator): Promise<void> {
  await from.scrollIntoViewIfNeeded();
  const [a, b] = [await middle(from), await middle(to)];
  await dragBy(page, a, b.x - a.x, b.y - a.y);
}

/** Mean r g b of what is seen, 0 … 255, within shares of it. */
export async function meanOf(
  seen: Locator,
  [x0, x1]: readonly number[],
  [y0, y1]: readonly number[],
): Promise<number[]> {
  const { data, width, height, channels } = decode(await seen.screenshot());
  const sums = [0, 0, 0, 0];
  for (let y = Math.floor(height * y0); y < height * y1; y++)
    for (let x = Math.floor(width * x0); x < width * x1; x++) {
      for (let c = 0; c < 3; c++) sums[c] += data[(y * width + x) * channels + c];
      sums[3]++;
    }
  return sums.slice(0, 3).map((v) => v / sums[3]);
}

/** Makes a project, and waits until its picture begins. */
export async function begin(page: Page, studio: OwnStudio): Promise<void> {
  await page.goto(studio.url);
  await page
    .getByRole('button', { name: /^New project/ })
    .first()
    .click();
  await traced(page, 1);
}

/** In the Light step: takes surround and lights away. */
export async function darken(page: Page): Promise<void> {
  await page.getByRole('option', { name: 'No surround' }).click();
  await unlit(page);
}

/** In the Light step: takes all lights away. */
export async function unlit(page: Page): Promise<void> {
  const marks = page.getByTestId('dome').getByRole('button');
  while ((await marks.count()) > 0) {
    await marks.first().locator('.mark').click();
    await page
      .getByRole('complementary', { name: 'Desk' })
      .getByRole('button', { name: /^Remove / })
      .click();
  }
}

/** Picks a way of the peg beside a row of the desk. */
export async function peg(page: Page, parameter: string, way: string): Promise<void> {
  await page
    .getByRole('complementary', { name: 'Desk' })
    .getByRole('button', { name: new RegExp(`^${parameter} over time`) })
    .first()
    .click();
  await page.getByRole('menuitem', { name: way, exact: true }).click();
}

/** Looks at a picture of the shot, traced. */
export async function at(page: Page, frame: string, samples = 4): Promise<void> {
  const field = page.getByTestId('time').getByLabel('Picture of the shot');
  await field.fill(frame);
  await field.press('Enter');
  await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  await traced(page, samples);
}

/** Leads a brush by arrows from the middle of the layer that has the focus to a place on the screen, pixels. */
export async function leadBrush(
  page: Page,
  layer: Locator,
  [x, y]: readonly [number, number],
): Promise<void> {
  await layer.focus();
  const box = (await layer.boundingBox())!;
  await arrows(page, x - (box.x + box.width / 2), 'ArrowLeft', 'ArrowRight');
  await arrows(page, y - (box.y + box.height / 2), 'ArrowUp', 'ArrowDown');
}

/** Moves a brush by so many pixels, as near as arrows come. */
export async function arrows(page: Page, by: number, less: string, more: string): Promise<void> {
  for (let k = 0; k < Math.abs(Math.round(by / 6)); k++) await page.keyboard.press(by < 0 ? less : more);
}
