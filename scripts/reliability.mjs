/** npm run reliability: the long form of the tests that take their time, with the figures for docs/reliability.md. */
import { spawnSync } from 'node:child_process';

const { status } = spawnSync(
  'npx',
  [
    'vitest',
    'run',
    'e2e/reliability',
    'e2e/hostile',
    'e2e/live.test.ts',
    'e2e/evening.test.ts',
    'e2e/seating.test.ts',
    'motley/test/leaks.test.ts',
    'motley/test/worlds.test.ts',
    'motley/test/naming.test.ts',
    'motley/test/forgeries.test.ts',
    'motley/test/games.test.ts',
    'motley/test/truths.test.ts',
    'motley/test/fuzz.test.ts',
  ],
  {
    stdio: 'inherit',
    env: { ...process.env, WILY_FULL: '1' },
  },
);
process.exitCode = status ?? 1;
