/** npm run bench:scale: a database of 100,000 tables, and one table of 100,000 choices. */
import { performance } from 'node:perf_hooks';
import { isPlayed, Table } from '@wily-jester/core';
import { compileSheet } from '@wily-jester/motley';
import { type Connection, createConnection } from 'mariadb';
import { type Ground, SHEET, startGround } from './tables/ground.js';

const TABLES = 100_000;
const CHOICES = 100_000;
const SEED = 'a'.repeat(64);

const say = (what: string, milliseconds: number): void => {
  process.stdout.write(`${milliseconds.toFixed(0).padStart(8)} ms  ${what}\n`);
};

/** How long something takes, in milliseconds. */
async function timed<T>(work: () => Promise<T>): Promise<[number, T]> {
  const from = performance.now();
  const result = await work();
  return [performance.now() - from, result];
}

async function get(ground: Ground, path: string): Promise<unknown> {
  const response = await fetch(`${ground.address}${path}`, { headers: { authorization: `Bearer ${ground.key}` } });
  if (!response.ok) throw new Error(await response.text());
  return response.json();
}

/** Copies a table's row so many times, each with four choices. */
async function fill(database: Connection, id: string): Promise<void> {
  const columns = (await database.query('SHOW COLUMNS FROM tables')) as { Field: string }[];
  const copied = columns.map(({ Field: name }) => {
    if (name === 'id') return "LPAD(CONV(seq, 10, 36), 12, 'a')";
    if (name === 'openedAt' || name === 'changedAt') return `TIMESTAMPADD(SECOND, -seq, \`${name}\`)`;
    if (name === 'status') return "ELT(1 + seq % 4, 'open', 'over', 'closed', 'open')";
    return `\`${name}\``;
  });
  const names = columns.map(({ Field: name }) => `\`${name}\``).join(', ');
  await database.query(
    `INSERT INTO tables (${names}) SELECT ${copied.join(', ')} FROM tables, seq_1_to_${TABLES} WHERE id = '${id}'`,
  );
}

/** Writes the choices of a table that nobody has in use. */
async function lengthen(database: Connection, id: string): Promise<void> {
  const [row] = (await database.query('SELECT header FROM tables WHERE id = ?', [id])) as { header: string }[];
  const { program } = compileSheet(SHEET);
  if (!program || !row) throw new Error('the sheet does not compile');
  const table = new Table(program, JSON.parse(row.header));
  let batch: unknown[][] = [];
  const write = async (): Promise<void> => {
    await database.batch(
      'INSERT INTO choices (tableId, number, seat, `by`, ask, `option`, args, digest, at, house) VALUES (?,?,?,?,?,?,?,?,NOW(3),?)',
      batch,
    );
    batch = [];
  };
  for (let i = 0; i < CHOICES; i++) {
    const played = table.choose(table.asked[0] ?? 0, { ask: table.openAsk, option: 'draw', args: {} });
    if (!isPlayed(played)) throw new Error(played.reason);
    const { number, seat, by, ask, option, digest } = played.row;
    batch.push([id, number, seat, by, ask, option, '{}', digest, '']);
    if (batch.length === 1_000) await write();
  }
  await write();
}

const ground = await startGround();
try {
  const { id } = await ground.open(2, SEED);
  const other = await ground.open(2, SEED);
  const database = await createConnection(ground.database);
  await ground.halt();
  await fill(database, other.id);
  await lengthen(database, id);
  const [start] = await timed(() => ground.resume());
  say(`start with ${TABLES} tables`, start);
  for (const [what, path] of [
    ['newest page', '/api/tables'],
    ['page of those that are over', '/api/tables?status=over'],
  ] as const) {
    const [first, page] = await timed(() => get(ground, path));
    say(`list: ${what}`, first);
    const { next } = page as { next?: string | null };
    if (!next) throw new Error('there is one page only');
  }
  const [sheets] = await timed(() => get(ground, '/api/sheets'));
  say('list: sheets with how many tables each has', sheets);
  const [whole] = await timed(() => get(ground, `/api/tables/${id}/view`));
  say(`view of a table of ${CHOICES} choices, all played again`, whole);
  await ground.halt();
  await ground.resume();
  const [quick] = await timed(() => get(ground, `/api/tables/${id}/view`));
  say('the same at the next start, from a position that was kept', quick);
  const [past] = await timed(() => get(ground, `/api/tables/${id}/past/${CHOICES - 100}`));
  say('looking back by 100 choices', past);
  await database.end();
} finally {
  await ground.stop();
}
process.exit(0);
