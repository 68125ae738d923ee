import { defineConfig } from 'vitest/config';

// No file leaves anything behind in the modules: they are read and compiled once for each worker, not for each file.
const isolate = false;

export default defineConfig({
  test: {
    // Each file of the whole has a service of its own on the one database server. Games rest and clocks run there, so a third file uses what two cores have left.
    maxWorkers: 3,
    projects: [
      {
        test: {
          name: 'unit',
          isolate,
          include: ['{core,motley,console,service}/test/**/*.test.ts'],
          testTimeout: 180_000,
        },
      },
      {
        test: {
          name: 'whole',
          isolate,
          include: ['e2e/**/*.test.ts'],
          globalSetup: ['e2e/setup/machine.ts'],
          // A build machine that stands still for seconds fails what it must answer in time. `npm test` names those that were tried once more.
          retry: process.env.CI ? 1 : 0,
          // Nothing is waited for that long: they only end a test that hangs, also where the machine is slow.
          testTimeout: 300_000,
          hookTimeout: 300_000,
        },
      },
    ],
  },
});
