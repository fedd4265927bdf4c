/**
 * How far the draft view is from the traced picture: mean colour of the front of a letter in every ready finish, as both
 * show it in the page, and the CIEDE2000 difference of the two.
 */
import { chromium, type Page } from '@playwright/test';
import { decode } from 'fast-png';
import { newProject, plainFinish, plainSurface, type Finish, type Project } from '@wemlox/core/document';
import { READY_FINISHES } from '@wemlox/core/finish/readyFinishes';
import { alone, type Report, type Row } from '@wemlox/render/bench/report';
import config from '../playwright.config.ts';
import { OwnStudio } from '../server.ts';
import { ciede2000, labOf, type Lab } from '@wemlox/core/maths/ciede2000';

const LETTERS = 6;
/** Samples of the traced picture, cleaned. */
const SAMPLES = 12;
/** The smallest page there is: what is compared is colours, not detail. */
const VIEWPORT = { width: 1000, height: 680 };
/** A mean over fewer pixels of a letter is none. */
const LEAST_PIXELS = 200;
/** Until the draft has drawn what type mirrors, in software, ms. */
const MIRROR_WAIT = 6000;

/** A word of as many letters as finishes, each all in its own; fronts of the last look glow alone. */
function projectOf(finishes: readonly Finish[]): Project {
  const word = 'I'.repeat(LETTERS);
  const own = finishes.map((f, i) => ({ ...structuredClone(f), id: `f${i}`, within: null }));
  const lit = plainFinish({
    id: 'lit',
    name: 'Lit',
    surface: plainSurface({ base_color: [0, 0, 0], specular_weight: 0, emission_luminance: 8 }),
  });
  const black = plainFinish({
    id: 'black',
    name: 'Black',
    surface: plainSurface({ base_color: [0, 0, 0], specular_weight: 0 }),
  });
  const grey = plainFinish({
    id: 'grey',
    name: 'Grey',
    surface: plainSurface({ base_color: [0.4, 0.4, 0.4] }),
  });
  const project = newProject('Draft', word, [...own, lit, black, grey]);
  const [block] = project.blocks;
  const [look] = project.looks;
  project.pieces[0].finish = 'grey';
  project.shots[0].camera.distance = 1.5;
  block.font = { source: 'shipped', id: 'archivo-black', name: 'Archivo Black' };
  block.tracking = 0.3;
  look.chart = block.letters.map((letter, i) => ({
    block: block.id,
    letter,
    finish: own[i % own.length].id,
  }));
  project.looks.push({
    ...structuredClone(look),
    id: 'fronts',
    name: 'Fronts',
    chart: [{ finish: 'black' }, { zone: 'front', finish: 'lit' }],
    rig: [],
    surround: { ...look.surround, stops: -20, seen: false },
  });
  return project;
}

type Pixels = ReturnType<typeof decode>;

async function shown(page: Page, samples: number): Promise<Pixels> {
  await page.waitForFunction(
    (least) => {
      const stage = document.querySelector<HTMLElement>('[data-testid=stage]');
      return stage && stage.dataset.state !== 'drafting' && Number(stage.dataset.samples) >= least;
    },
    samples,
    { timeout: 120_000 },
  );
  return decode(await page.getByTestId('stage').screenshot());
}

/** Pixels of each letter's front, left to right: runs of columns that are lit. */
function frontsOf({ data, width, height, channels }: Pixels): number[][] {
  const columns = Array.from({ length: width }, (_, x) =>
    Array.from({ length: height }, (_, y) => y * width + x).filter((i) => {
      const [r, g, b] = [0, 1, 2].map((c) => data[i * channels + c]);
      return Math.min(r, g, b) > 225;
    }),
  );
  const fronts: number[][] = [];
  let run: number[] = [];
  for (const column of [...columns, []]) {
    if (column.length > 8) run.push(...column);
    else if (run.length > 0) {
      if (run.length > LEAST_PIXELS) fronts.push(run);
      run = [];
    }
  }
  return fronts;
}

const meanLab = ({ data, channels }: Pixels, pixels: readonly number[]): Lab =>
  labOf([0, 1, 2].map((c) => pixels.reduce((sum, i) => sum + data[i * channels + c], 0) / pixels.length));

export async function benchDraft(): Promise<Report> {
  const studio = await OwnStudio.open();
  const browser = await chromium.launch(config.use!.launchOptions);
  const rows: Row[] = [];
  try {
    const page = await browser.newPage({ viewport: VIEWPORT });
    let fronts: number[][] | null = null;
    for (let first = 0; first < READY_FINISHES.length; first += LETTERS) {
      const finishes = READY_FINISHES.slice(first, first + LETTERS);
      const document = projectOf(finishes);
      const made = await page.request.post(`${studio.url}/api/projects`, { data: { document } });
      const { id } = (await made.json()) as { id: string };
      const go = (look: string) => page.goto(`${studio.url}/p/${id}/${look}/frame`);
      if (!fronts) {
        await go('fronts');
        fronts = frontsOf(await shown(page, 2));
        if (fronts.length !== LETTERS) throw new Error(`${fronts.length} fronts are seen, not ${LETTERS}`);
      }
      await go(document.looks[0].id);
      const traced = await shown(page, SAMPLES);
      await page.keyboard.press('d');
      await page.getByTestId('stage').and(page.locator('[data-state=idle]')).waitFor();
      // what the type mirrors of its stage is drawn once that rests
      await page.waitForTimeout(MIRROR_WAIT);
      const draft = decode(await page.getByTestId('stage').screenshot());
      // the page keeps how it shows pictures
      await page.keyboard.press('d');
      finishes.forEach((finish, i) =>
        rows.push(
          alone(`${finish.name}, ${finish.family}`, 'ΔE2000', [
            ciede2000(meanLab(draft, fronts![i]), meanLab(traced, fronts![i])),
          ]),
        ),
      );
    }
  } finally {
    await browser.close();
    await studio.end();
  }
  rows.sort((a, b) => b.ours - a.ours);
  return {
    bench: `draft against traced (${SAMPLES} samples, cleaned): mean colour of the front, new project's light`,
    rows: [
      alone('mean of all', 'ΔE2000', [rows.reduce((sum, r) => sum + r.ours, 0) / rows.length]),
      alone(
        'median of all',
        'ΔE2000',
        rows.map((r) => r.ours),
      ),
      ...rows,
    ],
  };
}
