/** The list of ten thousand projects over HTTP against its bare SQL, in turns within one run. */
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { fileURLToPath } from 'node:url';
import { chromium } from '@playwright/test';
import pino from 'pino';
import { newProject } from '@wemlox/core/document';
import { READY_FINISHES } from '@wemlox/core/finish/readyFinishes';
import { alone, median, type Report, type Row } from '@wemlox/render/bench/report';
import { createApp } from '@wemlox/server/app';
import { Readers } from '@wemlox/server/foreign/readers';
import { readSettings } from '@wemlox/server/settings';
import { artistAt, createProject, listSql } from '@wemlox/store';
import { freshDatabase } from '../../store/test/freshDatabase.ts';
import config from '../playwright.config.ts';

const PAGE = fileURLToPath(new URL('../../web/dist', import.meta.url));
const PROJECTS = 10_000;
const ROUNDS = 15;

type Work = () => Promise<unknown>;

const seconds = async (work: Work) => {
  const started = performance.now();
  await work();
  return (performance.now() - started) / 1000;
};

/** Lists a second: the two take turns, so that a busy machine slows both alike. */
async function inTurns(name: string, ours: Work, peer: Work): Promise<Row> {
  const [a, b]: number[][] = [[], []];
  for (let i = 0; i < 3; i++) for (const work of [ours, peer]) await work();
  for (let i = 0; i < ROUNDS; i++) {
    a.push(1 / (await seconds(ours)));
    b.push(1 / (await seconds(peer)));
  }
  const ratios = a.map((v, i) => v / b[i]);
  return {
    case: name,
    ours: median(a),
    peer: median(b),
    peerName: 'bare SQL',
    ratio: median(ratios),
    spread: [Math.min(...ratios), Math.max(...ratios)],
    unit: 'lists/s',
  };
}

/** Milliseconds from the first byte of the page to its first tiles, in a real browser. */
async function startPage(url: string): Promise<number[]> {
  const browser = await chromium.launch(config.use!.launchOptions);
  const page = await browser.newPage({ viewport: config.use!.viewport as { width: number; height: number } });
  const times: number[] = [];
  for (let i = 0; i < 5; i++) {
    await page.goto(url, { waitUntil: 'commit' });
    await page.locator('[data-project]').first().waitFor();
    times.push(
      await page.evaluate(() => {
        const [first] = performance.getEntriesByType('navigation') as PerformanceNavigationTiming[];
        return performance.now() - first.responseStart;
      }),
    );
  }
  await browser.close();
  return times;
}

export async function benchApi(): Promise<Report> {
  const { pool, end } = await freshDatabase();
  const project = newProject('Ostrel', 'OSTREL', structuredClone([...READY_FINISHES]));
  const { id } = await createProject(artistAt(pool), project, 'first');
  await pool.query(
    `INSERT INTO projects (id, version, document, name, look, words)
     SELECT 'p' || n, 1, document, 'Lettering ' || n, look, words FROM projects, generate_series(2, $2) n WHERE id = $1`,
    [id, PROJECTS],
  );
  await pool.query('ANALYZE projects');
  const readers = new Readers();
  const server = createServer(
    createApp({
      pool,
      log: pino({ level: 'silent' }),
      page: PAGE,
      readers,
      settings: readSettings({}),
    }),
  ).listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}/api/projects`;
  const get = (query: string) => async () => {
    const response = await fetch(base + query);
    if (!response.ok) throw new Error(`the list answered ${response.status}`);
    return response.arrayBuffer();
  };
  const rows = [
    await inTurns(`all of ${PROJECTS} projects`, get(''), () => pool.query(listSql({}).text)),
    await inTurns('a page of 60', get('?limit=60&offset=0'), () => pool.query(listSql({ limit: 60 }).text)),
    await inTurns('a page of 60 found by a word', get('?limit=60&offset=0&search=ostrel'), () =>
      pool.query(listSql({ limit: 60, search: 'ostrel' })),
    ),
    alone(
      'start page, from the first byte to its tiles',
      'ms',
      await startPage(base.replace('/api/projects', '/')),
    ),
  ];
  readers.close();
  server.closeAllConnections();
  await new Promise((resolve) => server.close(resolve));
  await end();
  return { bench: `api, the list of ${PROJECTS} projects`, rows };
}
