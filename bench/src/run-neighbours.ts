/** npm run bench:neighbours: choices of ordinary tables beside tables of the heaviest sheets, against the same without them. */
import { readFileSync } from 'node:fs';
import { type Ground, startGround } from './tables/ground.js';
import { choiceToViewers } from './tables/latency.js';

/** Choices a second of all ordinary tables together. */
const RATE = 40;
/** Tables whose bots never rest. */
const HEAVY = 20;

/** Each does in a step as much as a step may, in a way of its own. */
const WORK = [
  'for i in 1..40 { kept = sorted(pack, c => c.pips) }',
  'for i in 1..2 { shuffle pack }',
  `for i in 1..900 { ${'n = n + 1 '.repeat(600)} }`,
  'for i in 1..400 { move all from pack to row move all from row to pack }',
];

const sheet = (i: number): string => `game "Heavy ${i}" for 2 seats {
  deck standard copies 20
  pile row face up
  var kept: cards = []
  var n = 0
  play {
    repeat {
      ask seats[1] { option go { } }
      ${WORK[i % WORK.length]}
      if n < 0 and size(kept) == 1 { break }
    }
  }
  bot tireless { go }
}`;

async function post(ground: Ground, path: string, body: unknown): Promise<void> {
  const response = await fetch(`${ground.address}${path}`, {
    method: 'POST',
    headers: { authorization: `Bearer ${ground.key}`, 'content-type': 'application/json' },
    body: JSON.stringify(body),
  });
  if (!response.ok) throw new Error(await response.text());
}

/** The memory that a process holds, in MiB. */
function memoryOf(pid: number): number {
  const [, kilobytes = '0'] = /^VmRSS:\s+(\d+)/m.exec(readFileSync(`/proc/${pid}/status`, 'utf8')) ?? [];
  return Number(kilobytes) / 1024;
}

const figure = (n: number): string => n.toFixed(1).padStart(9);
const ground = await startGround();
try {
  process.stdout.write('From a choice sent to the last of four viewers patched, in milliseconds\n');
  process.stdout.write(`${'median'.padStart(9)} ${'99 %'.padStart(9)}\n`);
  const alone = await choiceToViewers(ground, RATE);
  process.stdout.write(`${figure(alone.median)} ${figure(alone.late)}   ${RATE} choices a second, nothing else\n`);
  for (let i = 0; i < WORK.length; i++) await post(ground, '/api/sheets', { source: sheet(i) });
  for (let i = 0; i < HEAVY; i++)
    await post(ground, '/api/tables', {
      sheet: `Heavy ${i % WORK.length}`,
      seats: [{ name: 'Pike', bot: 'tireless' }, { name: 'Teal' }],
      pace: 0,
      clocks: false,
    });
  const beside = await choiceToViewers(ground, RATE);
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
