import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: '.',
  globalSetup: '../tools/programsFirst.mjs',
  outputDir: './results',
  timeout: 600_000,
  expect: { timeout: 60_000 },
  // journeys wait more than they work: for pages, for pictures, for each other’s answers
  workers: 2,
  retries: 0,
  reporter: [['list'], ['json']],
  use: {
    viewport: { width: 1280, height: 800 },
    // a quarter of the pixels is traced and drawn: what hands do is the same, and two cores have time for them
    deviceScaleFactor: 0.5,
    actionTimeout: 30_000,
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--use-gl=angle',
        '--use-angle=gl-egl',
        '--ignore-gpu-blocklist',
        '--disable-quic',
        '--disable-gpu-compositing',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
});
