import { rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { TestProject } from 'vitest/node';

declare module 'vitest' {
  export interface ProvidedContext {
    databaseUrl: string;
  }
}

interface Started {
  url: string;
  stop(): Promise<void>;
}

/** One private MariaDB for all tests of the whole, in a folder of its own. */
export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  const { startDatabase } = (await import('../../scripts/lib/database.mjs' as string)) as {
    startDatabase(folder: string): Promise<Started>;
  };
  const folder = join(tmpdir(), `wily-tests-${process.pid}`);
  const database = await startDatabase(folder);
  project.provide('databaseUrl', database.url);
  return async () => {
    await database.stop();
    rmSync(folder, { recursive: true, force: true });
  };
}
