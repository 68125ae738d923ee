import { defineConfig } from 'vitest/config';

// No file leaves anything behind in the modules: they are read and compiled once for each worker, not for each file.
const isolate = false;

export default defineConfig({
  test: {
    // Each file of the whole has a service of its own on the one database server. One of three mostly waits for a page or a process.
    maxWorkers: 3,
    projects: [
      {
        test: {
          name: 'unit',
          isolate,
          include: ['{core,motley,console,service}/test/**/*.test.ts'],
          testTimeout: 60_000,
        },
      },
      {
        test: {
          name: 'whole',
          isolate,
          include: ['e2e/**/*.test.ts'],
          globalSetup: ['e2e/setup/database.ts'],
          // Nothing is waited for that long: they only end a test that hangs, also where the machine is slow.
          testTimeout: 180_000,
          hookTimeout: 180_000,
        },
      },
    ],
  },
});
