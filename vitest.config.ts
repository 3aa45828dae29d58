import { defineConfig } from 'vitest/config';

/** Milliseconds until a test counts as stuck: a machine that is five times slower than usual must not fail one. */
const patience = 240_000;

const setupFiles = ['vitest.setup.ts'];

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: 'unit',
          include: ['packages/{core,contract}/src/**/*.test.ts', 'apps/web/src/**/*.test.ts'],
          testTimeout: patience,
          setupFiles,
        },
      },
      {
        test: {
          name: 'integration',
          include: ['apps/server/test/**/*.test.ts'],
          // Files that are handed a stage each go side by side; without, they share what they are told of.
          fileParallelism: process.env.VELVET_STAGES !== undefined,
          maxWorkers: 2,
          testTimeout: patience,
          hookTimeout: patience,
          setupFiles: [...setupFiles, 'integration.setup.ts'],
        },
      },
    ],
  },
});
