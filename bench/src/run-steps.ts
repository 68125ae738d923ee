/** Processor time of the dearest steps that a sheet can be written to take, warm: `npm run bench:steps`. */
import { hash } from 'node:crypto';
import { Table } from '@wily-jester/core';
import { compileSheet } from '@wily-jester/motley';
import { NASTY } from './nasty/sheets.js';
import { median, processorSeconds } from './timing.js';

const TIMES = 5;

const processorTime = (): number => 1000 * processorSeconds();

/** A loop of a known cost, to tell a slow machine from a slow step, in milliseconds. */
function yardstick(): number {
  const from = processorTime();
  let x = 1;
  for (let i = 0; i < 20_000_000; i++) x = (Math.imul(x, 1_103_515_245) + 12_345) >>> 0;
  if (x === 0) throw new Error('not a number that this loop gives');
  return processorTime() - from;
}

interface Row {
  readonly name: string;
  readonly first: number;
  readonly later: number;
}

function measured(name: string, source: string): Row {
  const { program } = compileSheet(source);
  if (!program) throw new Error(`${name} does not compile`);
  const sha256 = (bytes: Uint8Array): Uint8Array => hash('sha256', bytes, 'buffer');
  const times = Array.from({ length: TIMES }, () => {
    const table = new Table(program, { seats: ['Wren'], seed: 'steps' }, { live: true, sha256 });
    const from = processorTime();
    try {
      table.choose(0, { ask: 0, option: 'go' });
    } catch {
      // That it is refused is held by the tests.
    }
    return processorTime() - from;
  });
  return { name, first: times[0] ?? 0, later: median(times.slice(1)) };
}

const unit = median([yardstick(), yardstick(), yardstick()]);
const rows = NASTY.map(({ name, source }) => measured(name, source)).sort((a, b) => b.later - a.later);
process.stdout.write(
  `Processor time of one step and its offers, in milliseconds: the first, and the middle of ${TIMES - 1} more\n` +
    `(20 million turns of a plain loop take ${unit.toFixed(0)} ms here)\n   first   later  of the loop\n`,
);
for (const { name, first, later } of rows)
  process.stdout.write(
    `${first.toFixed(0).padStart(8)}${later.toFixed(0).padStart(8)}${(later / unit).toFixed(2).padStart(8)}       ${name}\n`,
  );
const worst = rows[0]?.later ?? 0;
process.stdout.write(`The dearest takes ${worst.toFixed(0)} ms; the promise is 100.\n`);
process.exitCode = worst > 100 ? 1 : 0;
