import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    maxWorkers: 2,
    globalSetup: './tools/programsFirst.mjs',
    projects: [
      {
        test: {
          name: 'unit',
          include: [
            'core/test/**/*.test.ts',
            'render/test/**/*.test.ts',
            'web/test/**/*.test.ts?(x)',
            'demo/test/**/*.test.ts',
          ],
          exclude: ['render/test/press.test.ts'],
          // modules are read once for all files: none keeps what another file could trip over
          isolate: false,
          setupFiles: ['./tools/leavesNothing.ts', './tools/countsCost.ts'],
          testTimeout: 600_000,
          hookTimeout: 600_000,
        },
      },
      {
        test: {
          name: 'database',
          setupFiles: './tools/countsCost.ts',
          include: ['store/test/**/*.test.ts', 'server/test/**/*.test.ts', 'render/test/press.test.ts'],
          testTimeout: 600_000,
          hookTimeout: 600_000,
          fileParallelism: false,
        },
      },
    ],
  },
});
