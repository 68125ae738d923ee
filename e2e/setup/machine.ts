import { existsSync, readdirSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { TestProject } from 'vitest/node';

declare module 'vitest' {
  export interface ProvidedContext {
    databaseUrl: string;
    browser: string;
  }
}

const ROOT = new URL('../../', import.meta.url).pathname;

interface Started {
  url: string;
  stop(): Promise<void>;
}

/** The scripts are no part of what is compiled. */
const script = <T>(name: string): Promise<T> => import(`../../scripts/lib/${name}.mjs`) as Promise<T>;

/** When something below a folder was written last, leaving out what was bundled of it. */
function writtenAt(folder: string): number {
  const times = readdirSync(folder, { withFileTypes: true }).map((entry) => {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) return entry.name === 'bundled' ? 0 : writtenAt(path);
    return entry.name.endsWith('.js') ? statSync(path).mtimeMs : 0;
  });
  return Math.max(0, ...times);
}

/** Programs run as bundles: older ones than what was compiled would be tested in its place. */
async function needBundles(): Promise<void> {
  const { BUNDLES, bundleOf } = await script<{
    BUNDLES: Record<string, { programs: Record<string, string> }>;
    bundleOf(part: string, name: string): string;
  }>('bundles');
  const compiled = Math.max(
    ...['core', 'motley', 'charts', 'protocol', 'client', 'cli', 'service'].map((part) =>
      writtenAt(join(ROOT, part, 'dist')),
    ),
  );
  for (const [part, { programs }] of Object.entries(BUNDLES))
    for (const name of Object.keys(programs)) {
      const file = bundleOf(part, name);
      if (!existsSync(file) || statSync(file).mtimeMs < compiled)
        throw new Error(`${file} is older than what it is made of: run "npm run bundle".`);
    }
}

/** One private MariaDB for all tests of the whole, in a folder of its own, and what else the machine must have. */
export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  await needBundles();
  project.provide('browser', (await script<{ findBrowser(): string }>('browser')).findBrowser());
  const { startDatabase } = await script<{ startDatabase(folder: string): Promise<Started> }>('database');
  const folder = join(tmpdir(), `wily-tests-${process.pid}`);
  const database = await startDatabase(folder);
  project.provide('databaseUrl', database.url);
  return async () => {
    await database.stop();
    rmSync(folder, { recursive: true, force: true });
  };
}
