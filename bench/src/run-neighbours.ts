/** npm run bench:neighbours: choices of ordinary tables beside tables of the heaviest sheets, against the same without them. */
import { type ChildProcess, spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { type Ground, startGround } from './tables/ground.js';
import { choiceToViewers } from './tables/latency.js';

/** Choices a second of all ordinary tables together. */
const RATE = 40;
/** Tables whose bots never rest. */
const HEAVY = 20;
/** Tables at which clients with nothing but a seat's key never rest. */
const HAMMERED = 8;

/** Requests a minute with one key, as the service has it of itself. */
const STANDARD_RATE = 6_000;

/** Each does in a step as much as a step may, in a way of its own. */
const WORK = [
  'for i in 1..28 { kept = sorted(pack, c => c.pips) }',
  'shuffle pack for i in 1..12 { kept = sorted(pack, c => c.pips) }',
  `for i in 1..540 { ${'n = n + 1 '.repeat(600)} }`,
  'n = n + size(arranged(first(pack, 20), sets | rows)) * 0',
  'for i in 1..750 { pick picked from pack }',
];

const sheet = (i: number): string => `game "Heavy ${i}" for 2 seats {
  deck standard copies 20
  pile row face up
  var kept: cards = []
  var n = 0
  var picked: card = nothing
  shape rows = 2+ cards in rank order
  shape sets = 2..4 cards of one rank
  play {
    repeat {
      ask seats[1] { option go { } }
      ${WORK[i % WORK.length]}
      if n < 0 and size(kept) == 1 { break }
    }
  }
  bot tireless { go }
}`;

async function get(ground: Ground, path: string): Promise<unknown> {
  const response = await fetch(`${ground.address}${path}`, { headers: { authorization: `Bearer ${ground.key}` } });
  if (!response.ok) throw new Error(await response.text());
  return response.json();
}

async function post(ground: Ground, path: string, body: unknown, key = ground.key): Promise<unknown> {
  const response = await fetch(`${ground.address}${path}`, {
    method: 'POST',
    headers: { authorization: `Bearer ${key}`, 'content-type': 'application/json' },
    body: JSON.stringify(body),
  });
  if (!response.ok) throw new Error(await response.text());
  return response.json();
}

/** That each heavy table is still at play: one whose sheet does too much stops, and is no neighbour any more. */
async function demandAtPlay(ground: Ground, ids: readonly string[]): Promise<void> {
  for (const id of ids) {
    const { status } = (await get(ground, `/api/tables/${id}`)) as { status: string };
    if (status !== 'open') throw new Error(`heavy table ${id} is ${status}`);
  }
}

/** Tables of the heaviest sheets at which clients with a seat's key choose without a rest, from a process of their own. */
async function hammered(ground: Ground, key: string): Promise<{ process: ChildProcess; ids: string[] }> {
  const seats: string[] = [];
  const ids: string[] = [];
  for (let i = 0; i < HAMMERED; i++) {
    const opened = (await post(
      ground,
      '/api/tables',
      {
        sheet: `Heavy ${i % WORK.length}`,
        seats: [{ name: 'Pike' }, { name: 'Teal' }],
        clocks: false,
      },
      key,
    )) as { table: { id: string }; keys: { seats: { key: string }[] } };
    ids.push(opened.table.id);
    seats.push(`${opened.table.id}:${opened.keys.seats[0]?.key}`);
  }
  const hammer = fileURLToPath(new URL('./tables/hammer.js', import.meta.url));
  const options = { stdio: ['ignore', 'ignore', 'inherit'] as ('ignore' | 'inherit')[] };
  return { process: spawn(process.execPath, [hammer, ground.address, ...seats], options), ids };
}

/** The memory that a process holds, in MiB. */
function memoryOf(pid: number): number {
  const [, kilobytes = '0'] = /^VmRSS:\s+(\d+)/m.exec(readFileSync(`/proc/${pid}/status`, 'utf8')) ?? [];
  return Number(kilobytes) / 1024;
}

const figure = (n: number): string => n.toFixed(1).padStart(9);
const ground = await startGround(STANDARD_RATE);
try {
  process.stdout.write('From a choice sent to the last of four viewers patched, in milliseconds\n');
  process.stdout.write(`${'median'.padStart(9)} ${'99 %'.padStart(9)}\n`);
  const alone = await choiceToViewers(ground, RATE);
  process.stdout.write(`${figure(alone.median)} ${figure(alone.late)}   ${RATE} choices a second, nothing else\n`);
  // Who writes such sheets is not who plays beside them.
  const { key } = (await post(ground, '/api/developers', { name: 'stranger' })) as { key: string };
  for (let i = 0; i < WORK.length; i++) await post(ground, '/api/sheets', { source: sheet(i) }, key);
  const hammer = await hammered(ground, key);
  const struck = await choiceToViewers(ground, RATE);
  const ended = new Promise((done) => hammer.process.once('exit', done));
  hammer.process.kill('SIGKILL');
  await ended;
  await demandAtPlay(ground, hammer.ids);
  process.stdout.write(
    `${figure(struck.median)} ${figure(struck.late)}   beside ${HAMMERED} such tables at which seat keys choose without a rest\n`,
  );
  const heavy: string[] = [];
  for (let i = 0; i < HEAVY; i++) {
    const opened = (await post(
      ground,
      '/api/tables',
      {
        sheet: `Heavy ${i % WORK.length}`,
        seats: [{ name: 'Pike', bot: 'tireless' }, { name: 'Teal' }],
        pace: 0,
        clocks: false,
      },
      key,
    )) as { table: { id: string } };
    heavy.push(opened.table.id);
  }
  const beside = await choiceToViewers(ground, RATE);
  await demandAtPlay(ground, heavy);
  process.stdout.write(
    `${figure(beside.median)} ${figure(beside.late)}   beside ${HEAVY} tables that do as much as they may\n`,
  );
  process.stdout.write(
    `${figure(beside.median / alone.median)} ${figure(beside.late / alone.late)}   times; the service holds ${Math.round(memoryOf(ground.pid))} MiB\n`,
  );
} finally {
  await ground.stop();
}
process.exit(0);
