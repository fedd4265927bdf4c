// Takes docs/screenshots anew from the demo of a running studio: npx tsx tools/screenshots.mjs [http://127.0.0.1:4600] [view ...]
import { chromium } from '@playwright/test';
import { bollard } from '../core/test/model/bollard.ts';
import config from '../journeys/playwright.config.ts';
import { quay } from '../journeys/quay.ts';

const [url = 'http://127.0.0.1:4600', ...only] = process.argv.slice(2);
const SAMPLES = 33;

const browser = await chromium.launch(config.use.launchOptions);
const page = await browser.newPage({ viewport: config.use.viewport });
const shoot = async (name) => page.screenshot({ path: `docs/screenshots/${name}.png` });
const traced = (samples = SAMPLES) =>
  page.waitForFunction(
    (least) => {
      const stage = document.querySelector('[data-testid=stage]');
      return stage && stage.dataset.state !== 'drafting' && Number(stage.dataset.samples) >= least;
    },
    samples,
    { timeout: 300_000, polling: 500 },
  );

const projects = await (await fetch(`${url}/api/projects`)).json();
async function open(project, look, step) {
  const { id } = projects.find((p) => p.name === project);
  const { document } = await (await fetch(`${url}/api/projects/${id}`)).json();
  await page.goto(`${url}/p/${id}/${document.looks.find((l) => l.name === look).id}/${step}`);
}

const views = {
  async start() {
    await page.goto(url);
    await page.waitForFunction(() => [...document.images].every((i) => i.complete && i.naturalWidth > 0));
  },
  async set() {
    await open('Ostrel', 'Gold leaf', 'set');
    await traced();
  },
  async tubes() {
    await open('Tide Bar', 'Open late', 'set');
    await page.getByTestId('tube-measures').scrollIntoViewIfNeeded();
    await traced();
  },
  async curve() {
    await open('Cabin keys', 'Brushed steel', 'set');
    await page.getByRole('radio', { name: 'OSTREL LINE' }).click();
    await page.getByText('Baseline: arc').click();
    await traced();
  },
  async finish() {
    await open('Ostrel', 'Dusk chrome', 'finish');
    await page.getByRole('gridcell', { name: /^Front of S/ }).click();
    await traced();
  },
  async painted() {
    await open('Ostrel', 'Gold leaf', 'finish');
    await traced(2);
    await page.getByRole('gridcell', { name: /^Front of T/ }).click();
    await page.getByRole('button', { name: /^Lay a coat over it/ }).click();
    await page.getByRole('menuitem', { name: 'Funnel red' }).click();
    await page.getByRole('button', { name: 'Paint where it lies' }).click();
    await page.getByTestId('paint').waitFor();
    const { x, y, width, height } = await page.getByTestId('traced').boundingBox();
    const to = (u, v) => page.mouse.move(x + width * u, y + height * v, { steps: 12 });
    for (const [from, ...rest] of [
      [
        [0.08, 0.5],
        [0.2, 0.4],
      ],
      [
        [0.42, 0.46],
        [0.44, 0.62],
      ],
      [
        [0.53, 0.62],
        [0.64, 0.5],
        [0.83, 0.6],
      ],
    ]) {
      await to(...from);
      await page.mouse.down();
      for (const place of rest) await to(...place);
      await page.mouse.up();
    }
    await page.waitForTimeout(3000);
    await traced();
    await to(0.6, 0.55);
  },
  async light() {
    await open('Ostrel', 'Signal lit', 'light');
    await traced();
  },
  async surround() {
    await open('Ostrel', 'Dusk chrome', 'light');
    await page.getByRole('option', { name: 'Banded horizon' }).click();
    for (const name of ['+ Strip', '+ Soft box'])
      await page.getByRole('button', { name, exact: true }).click();
    await page.waitForTimeout(2000);
    await traced();
    await page.getByRole('list', { name: 'Panels' }).scrollIntoViewIfNeeded();
    await page.waitForTimeout(300);
  },
  async beams() {
    await open('Tide Bar', 'Morning after', 'light');
    const desk = page.getByRole('complementary', { name: 'Desk' });
    const number = async (label, value) => {
      const field = desk.getByLabel(label, { exact: true }).first();
      await field.fill(value);
      await field.press('Enter');
    };
    for (const [azimuth, pattern, gel] of [
      ['-35', 'Wheelhouse window', 'Lamp amber'],
      ['38', 'Leaves', 'Deep water'],
    ]) {
      await desk.getByRole('button', { name: 'Spot', exact: true }).click();
      await number('Strength', '120');
      await number('Azimuth', azimuth);
      await number('Elevation', '38');
      await number('Cone', '26');
      await desk.getByRole('button', { name: gel }).click();
      await desk.getByText('Pattern and profile').click();
      await desk.getByRole('button', { name: /^Pattern: / }).click();
      await page.getByRole('menuitem', { name: pattern }).click();
      await desk.getByText('Pattern and profile').click();
    }
    await desk.getByText('Pattern and profile').click();
    await page.waitForTimeout(1500);
    await traced();
    await desk.getByText('Pattern and profile').scrollIntoViewIfNeeded();
    await page.waitForTimeout(300);
  },
  async frame() {
    await open('Ostrel', 'Signal lit', 'frame');
    await page.getByRole('radio', { name: 'Moving' }).click();
    await page.getByLabel('Picture of the shot').fill('2.5 s');
    await page.keyboard.press('Enter');
    await page
      .getByRole('button', { name: /^Luminance of Starboard/ })
      .first()
      .click();
    await page.waitForTimeout(500);
    await traced();
  },
  async stage() {
    await open('Ostrel', 'Dusk chrome', 'frame');
    const desk = page.getByRole('complementary', { name: 'Desk' });
    const file = (name, buffer) => ({ name, mimeType: 'application/octet-stream', buffer });
    await page.getByLabel('Plate file', { exact: true }).setInputFiles(file('quay.png', quay()));
    await desk
      .getByRole('group', { name: 'Floor', exact: true })
      .getByRole('checkbox', { name: 'Only shadow' })
      .check();
    await page.getByLabel('Model file').setInputFiles(file('bollard.glb', Buffer.from(await bollard())));
    const model = desk.getByRole('group', { name: 'bollard.glb', exact: true });
    await model.getByText('Place and size').click();
    for (const [label, value] of [
      ['Size', '0.6'],
      ['Across', '1760'],
      ['Out', '300'],
    ]) {
      const field = model.getByLabel(label, { exact: true }).first();
      await field.fill(value);
      await field.press('Enter');
    }
    await page.waitForTimeout(1500);
    await traced();
    await desk.getByRole('group', { name: 'quay.png', exact: true }).scrollIntoViewIfNeeded();
    await page.waitForTimeout(300);
  },
  async proof() {
    await open('Tide Bar', 'Open late', 'proof');
    await traced();
    await page.getByRole('list', { name: 'Kept proofs' }).getByRole('button').first().click();
  },
  async press() {
    await open('Ostrel', 'Dusk chrome', 'press');
    await traced();
    await page.getByLabel('Samples', { exact: true }).fill('24');
    await page.getByLabel('Width', { exact: true }).fill('640');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'Send to the press' }).click();
    await page.locator('[data-job=done]').first().waitFor({ timeout: 240_000 });
  },
};
for (const [name, view] of Object.entries(views)) {
  if (only.length && !only.includes(name)) continue;
  await view();
  await page.waitForTimeout(400);
  await shoot(name);
  process.stdout.write(`${name}\n`);
}
await browser.close();
