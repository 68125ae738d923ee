import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    // Each file of the whole has a service of its own on the one database server: two at a time for two cores.
    maxWorkers: 2,
    projects: [
      { test: { name: 'unit', include: ['{core,motley,console,service}/test/**/*.test.ts'], testTimeout: 60_000 } },
      {
        test: {
          name: 'whole',
          include: ['e2e/**/*.test.ts'],
          globalSetup: ['e2e/setup/database.ts'],
          testTimeout: 60_000,
          hookTimeout: 90_000,
        },
      },
    ],
  },
});
