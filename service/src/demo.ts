import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Logger } from 'pino';
import { addSheet } from './sheets/shelf.js';
import { TableRow } from './storage/models.js';
import type { Rooms } from './tables/rooms.js';

const SHEET = '.motley';
const REHEARSALS = '.rehearsal.motley';

/** Adds the bundled sheets, and a table to look at where there is none yet. */
export async function loadDemo(folder: string, rooms: Rooms, log: Logger): Promise<void> {
  const files = (await readdir(folder)).filter((file) => file.endsWith(SHEET) && !file.endsWith(REHEARSALS)).sort();
  for (const file of files) {
    const source = await readFile(join(folder, file), 'utf8');
    const rehearsals = await readFile(join(folder, file.replace(SHEET, REHEARSALS)), 'utf8').catch(() => undefined);
    const { sheet, added } = await addSheet(rehearsals === undefined ? { source } : { source, rehearsals });
    if (added) log.info({ sheet: sheet.name, hash: sheet.hash.slice(0, 12) }, 'sheet added');
  }
  if ((await TableRow.count()) > 0) return;
  await rooms.openTable({
    sheet: 'Lantern Twenty-One',
    seats: [{ name: 'Wren' }, { name: 'Otter', bot: 'steady' }, { name: 'Heron', bot: 'steady' }],
    clocks: false,
  });
}
