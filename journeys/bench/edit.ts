/**
 * Typing the twelfth letter of a word, from the key to the finished frame, split by the page's own marks; and the
 * first look: from the hands' last move, and from a key, to the first whole cleaned picture.
 */
import { chromium, type Page } from '@playwright/test';
import { alone, type Report } from '@wemlox/render/bench/report';
import config from '../playwright.config.ts';
import { OwnStudio } from '../server.ts';

const ELEVEN = 'NIGHTFERRIE';
/** Letters the word does not hold: each one's solid is built, not found. */
const TWELFTH = 'SABCDKMOPUW';
const PARTS = ['shaping', 'solids', 'scene', 'tree', 'upload', 'draw', 'whole'] as const;
type Split = Record<(typeof PARTS)[number], number>;

/** Presses a key in the text field and times the frame that shows its letter. */
async function typed(page: Page, key: string): Promise<Split> {
  // the watch stands before the key is pressed
  const watching = await page.evaluateHandle(() => ({
    split: new Promise<Split>((resolve) => {
      let pressed = 0;
      const parts: Partial<Split> = {};
      addEventListener('keydown', () => (pressed = performance.now()), { once: true, capture: true });
      const watch = new PerformanceObserver((list) => {
        for (const entry of list.getEntries()) {
          const { name, detail, duration } = entry as PerformanceMeasure;
          if (entry.startTime < pressed || pressed === 0) continue;
          if (name === 'wemlox:scene') Object.assign(parts, detail);
          if (name === 'wemlox:upload') parts.upload = duration;
          if (name === 'wemlox:draw' && parts.upload !== undefined && parts.draw === undefined) {
            // reading a pixel waits for the rasteriser
            const canvas = document.querySelector<HTMLCanvasElement>('[data-testid=draft]')!;
            const gl = canvas.getContext('webgl2')!;
            gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4));
            const end = performance.now();
            watch.disconnect();
            resolve({ ...parts, draw: end - entry.startTime, whole: end - pressed } as Split);
          }
        }
      });
      watch.observe({ type: 'measure' });
    }),
  }));
  await page.keyboard.press(key);
  return watching.evaluate(({ split }) => split);
}

/** Milliseconds from the last event of its kind that `act` causes to the first look that was begun after it. */
async function looked(
  page: Page,
  event: 'keydown' | 'pointermove',
  act: () => Promise<void>,
): Promise<number> {
  const watching = await page.evaluateHandle((event) => {
    const hands = {
      last: 0,
      handleEvent() {
        this.last = performance.now();
      },
    };
    addEventListener(event, hands, { capture: true });
    return {
      took: new Promise<number>((resolve) => {
        const watch = new PerformanceObserver((list) => {
          for (const look of list.getEntriesByName('wemlox:first-look')) {
            if (hands.last === 0 || look.startTime < hands.last) continue;
            watch.disconnect();
            removeEventListener(event, hands, { capture: true });
            resolve(look.startTime + look.duration - hands.last);
          }
        });
        watch.observe({ type: 'measure' });
      }),
    };
  }, event);
  await act();
  return watching.evaluate(({ took }) => took);
}

export async function benchEdit(): Promise<Report> {
  const studio = await OwnStudio.open();
  const browser = await chromium.launch(config.use!.launchOptions);
  try {
    const page = await browser.newPage({ viewport: config.use!.viewport });
    await page.goto(studio.url);
    await page.getByRole('button', { name: 'New project' }).click();
    const text = page.getByLabel('Text', { exact: true });
    await text.fill(ELEVEN);
    const stage = page.getByTestId('stage');
    await stage.and(page.locator('[data-state=tracing]')).waitFor({ timeout: 60_000 });
    await text.focus();
    await page.keyboard.press('End');
    const splits: Split[] = [];
    for (const letter of TWELFTH) {
      splits.push(await typed(page, letter));
      await typed(page, 'Backspace');
      await stage.and(page.locator('[data-state=tracing]')).waitFor({ timeout: 60_000 });
    }
    const box = (await stage.boundingBox())!;
    const [turned, keyed]: number[][] = [[], []];
    for (const letter of TWELFTH) {
      const round = async () => {
        await page.mouse.move(box.x + box.width * 0.1, box.y + box.height * 0.2);
        await page.mouse.down();
        for (let k = 1; k <= 8; k++)
          await page.mouse.move(box.x + box.width * 0.1 + k * 6, box.y + box.height * 0.2);
        await page.mouse.up();
      };
      turned.push(await looked(page, 'pointermove', round));
      await text.focus();
      await page.keyboard.press('End');
      keyed.push(await looked(page, 'keydown', () => page.keyboard.press(letter)));
      await looked(page, 'keydown', () => page.keyboard.press('Backspace'));
    }
    return {
      bench: 'edit, typing the twelfth letter of a word, key to finished draft frame at 1280x800',
      // the first round warms the page
      rows: [
        ...PARTS.map((part) =>
          alone(
            part,
            'ms',
            splits.slice(1).map((s) => s[part]),
          ),
        ),
        alone('first look, the camera turned', 'ms', turned.slice(1)),
        alone('first look, a letter typed', 'ms', keyed.slice(1)),
      ],
    };
  } finally {
    await browser.close();
    await studio.end();
  }
}
