import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';

/** Where the bundled sheets are kept as they were compiled when the service was built: by the hash of their texts. */
const MADE = new URL('../bundled/sheets.json', import.meta.url);

/** The hash of a sheet's text with that of its rehearsals, by which compiled ones are known. */
export const hashOfTexts = (source: string, rehearsals: string | undefined): string =>
  createHash('sha256')
    .update(JSON.stringify([source, rehearsals ?? null]))
    .digest('hex');

/** Compiled sheets, each as JSON, by the hash of their texts. Where the build left none, there are none. */
export async function madeSheets(): Promise<ReadonlyMap<string, string>> {
  try {
    return new Map(Object.entries(JSON.parse(await readFile(MADE, 'utf8')) as Record<string, string>));
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return new Map();
    throw error;
  }
}
