import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Logger } from 'pino';
import { addSheet, findSheet, programOf } from './sheets/shelf.js';
import { TableRow } from './storage/models.js';
import type { Rooms } from './tables/rooms.js';

const SHEET = '.motley';
const REHEARSALS = '.rehearsal.motley';

/** Adds the bundled sheets, and two tables to play at where there is none yet. */
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
  // Two seats for people, who open it in two windows, and two bots.
  const { bots } = await programOf((await findSheet("Long Pot Hold'em")).hash);
  const bot = bots[0]?.name;
  await rooms.openTable({
    sheet: "Long Pot Hold'em",
    seats: [
      { name: 'Wren' },
      { name: 'Otter' },
      { name: 'Pike', ...(bot ? { bot } : {}) },
      { name: 'Teal', ...(bot ? { bot } : {}) },
    ],
    clocks: false,
  });
}
