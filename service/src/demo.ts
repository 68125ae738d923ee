import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import pRetry from 'p-retry';
import type { Logger } from 'pino';
import { Problem } from './problems.js';
import { takeMadeSheets } from './sheets/compiler.js';
import { addSheet } from './sheets/shelf.js';
import { FIRST_DEVELOPER, SheetRow, TableRow } from './storage/models.js';
import type { Rooms } from './tables/rooms.js';

const SHEET = '.motley';
const REHEARSALS = '.rehearsal.motley';
/** So often a sheet is tried at the start. */
const TRIES = 3;

/** Whether a machine that others slow down may be to blame, as where compiling takes too long: a mistake names its line. */
const isByTheMachine = (error: Error): boolean => !(error instanceof Problem && error.extra.line !== undefined);

/** Adds the bundled sheets, and two tables to play at where there is none yet. */
export async function loadDemo(folder: string, rooms: Rooms, log: Logger): Promise<void> {
  const files = (await readdir(folder)).filter((file) => file.endsWith(SHEET) && !file.endsWith(REHEARSALS)).sort();
  await takeMadeSheets();
  for (const file of files) {
    const source = await readFile(join(folder, file), 'utf8');
    const rehearsals = await readFile(join(folder, file.replace(SHEET, REHEARSALS)), 'utf8').catch(() => undefined);
    const given = rehearsals === undefined ? { source } : { source, rehearsals };
    const { sheet, added } = await pRetry(() => addSheet(FIRST_DEVELOPER, given), {
      retries: TRIES - 1,
      shouldRetry: isByTheMachine,
      onFailedAttempt: (error) => log.warn({ error, file }, 'a sheet could not be added'),
    });
    if (added) log.info({ sheet: sheet.name, hash: sheet.hash.slice(0, 12) }, 'sheet added');
  }
  if ((await TableRow.count()) > 0) return;
  const seats = (people: readonly string[], played: readonly string[], bot: string) => [
    ...people.map((name) => ({ name })),
    ...played.map((name) => ({ name, bot })),
  ];
  const tables = [
    { sheet: 'Lantern Twenty-One', seats: seats(['Wren'], ['Otter', 'Heron'], 'steady') },
    // Two seats for people, who open it in two windows.
    { sheet: "Long Pot Hold'em", seats: seats(['Wren', 'Otter'], ['Pike', 'Teal'], 'patient') },
  ];
  // Another folder of sheets may hold other games.
  for (const table of tables)
    if ((await SheetRow.count({ where: { name: table.sheet } })) > 0)
      await rooms.openTable(FIRST_DEVELOPER, { ...table, clocks: false });
}
