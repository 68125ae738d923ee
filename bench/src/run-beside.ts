/**
 * npm run bench:beside: choices of ordinary tables while a trial is played, and while four bots think, against the same
 * with nothing beside them.
 */
import { readFileSync } from 'node:fs';
import { type Ground, startGround } from './tables/ground.js';
import { choiceToViewers, latencyOf } from './tables/latency.js';

/** Choices a second of all tables together. */
const RATE = 200;
/** Requests a minute with one key: nobody is slowed down. */
const FREE = 10_000_000;
/**
 * So often each is measured, in turn. The slowest in a hundred of one turn are a dozen choices, and a host that takes the
 * machine's time for a moment doubles them: all turns are put together.
 */
const TURNS = 8;
const THINKING = 4;

async function send(
  ground: Ground,
  method: string,
  path: string,
  body?: unknown,
): Promise<{ id?: string; table?: { id: string } }> {
  const response = await fetch(`${ground.address}${path}`, {
    method,
    headers: { authorization: `Bearer ${ground.key}`, 'content-type': 'application/json' },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  if (!response.ok) throw new Error(await response.text());
  return response.status === 204 ? {} : ((await response.json()) as { id?: string; table?: { id: string } });
}

/** What runs beside the tables: begins it, and gives what ends it. */
type Beside = (ground: Ground) => Promise<() => Promise<void>>;

const trial: Beside = async (ground) => {
  const wish = { sheet: 'Lantern Twenty-One', games: 100_000_000, settings: { stake: 100_000 } };
  const { id } = await send(ground, 'POST', '/api/trials', wish);
  return async () => {
    await send(ground, 'DELETE', `/api/trials/${id}`);
  };
};

const thinking: Beside = async (ground) => {
  const opened: string[] = [];
  for (let i = 0; i < THINKING; i++) {
    const seats = ['Wren', 'Otter'].map((name) => ({ name, bot: 'thinking 2s' }));
    const { table } = await send(ground, 'POST', '/api/tables', {
      sheet: 'Lantern Twenty-One',
      seats,
      pace: 0,
      clocks: false,
    });
    if (table) opened.push(table.id);
  }
  return async () => {
    for (const id of opened) await send(ground, 'DELETE', `/api/tables/${id}`);
  };
};

/** Times of choices, in milliseconds, with nothing beside them and with something. */
interface Turn {
  readonly alone: readonly number[];
  readonly busy: readonly number[];
}
function ratiosOf(turns: readonly Turn[]): { median: number; late: number } {
  const [alone, busy] = [latencyOf(turns.flatMap((turn) => turn.alone)), latencyOf(turns.flatMap((turn) => turn.busy))];
  return { median: busy.median / alone.median, late: busy.late / alone.late };
}

const figure = (n: number): string => n.toFixed(2).padStart(9);
const LANTERN = new URL('../../sheets/lantern-twenty-one.motley', import.meta.url);
const ground = await startGround(FREE);
try {
  await send(ground, 'POST', '/api/sheets', { source: readFileSync(LANTERN, 'utf8') });
  process.stdout.write(
    `From a choice sent to the last of four viewers patched, ${RATE} choices a second, times the same alone\n`,
  );
  process.stdout.write('   median      99 %   (without one turn each)\n');
  for (const [words, beside] of [
    ['while a trial is played', trial],
    [`while ${THINKING} tables of bots think`, thinking],
  ] as const) {
    const turns: Turn[] = [];
    for (let turn = 0; turn < TURNS; turn++) {
      const alone = (await choiceToViewers(ground, RATE)).times;
      const end = await beside(ground);
      const busy = (await choiceToViewers(ground, RATE)).times;
      await end();
      turns.push({ alone, busy });
    }
    const all = ratiosOf(turns);
    const without = turns.map((one) => ratiosOf(turns.filter((other) => other !== one)).late).sort((a, b) => a - b);
    const range = `(${without.at(0)?.toFixed(2)} to ${without.at(-1)?.toFixed(2)})`;
    process.stdout.write(`${figure(all.median)} ${figure(all.late)}   ${range}   ${words}\n`);
  }
} finally {
  await ground.stop();
}
process.exit(0);
