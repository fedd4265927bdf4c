import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    maxWorkers: 2,
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
          testTimeout: 120_000,
          hookTimeout: 120_000,
        },
      },
      {
        test: {
          name: 'database',
          include: ['store/test/**/*.test.ts', 'server/test/**/*.test.ts', 'render/test/press.test.ts'],
          testTimeout: 120_000,
          hookTimeout: 120_000,
          fileParallelism: false,
        },
      },
    ],
  },
});
