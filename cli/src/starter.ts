import { readFile } from 'node:fs/promises';

const STARTERS = new URL('../../sheets/starters/', import.meta.url);
const NAME = 'High Heron';

/** A small game that works, under a name of one's own: its sheet, and a rehearsal. */
export async function starter(title: string): Promise<{ readonly sheet: string; readonly rehearsals: string }> {
  const [sheet, rehearsals] = await Promise.all(
    ['high-heron.motley', 'high-heron.rehearsal.motley'].map((file) => readFile(new URL(file, STARTERS), 'utf8')),
  );
  return { sheet: (sheet ?? '').replaceAll(NAME, () => title), rehearsals: rehearsals ?? '' };
}
