/** npm run bench: every figure is a ratio against a baseline in the same run. */
import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { choicesASecond, holdemChoices, measureWar } from './games.js';
import { measureParts } from './parts.js';
import { countAllSevens, measureRanking } from './ranking.js';
import type { Rate } from './rounds.js';

const rate = (n: number): string => Math.round(n).toLocaleString('en').padStart(9);

/** What a process says that measures the rounds alone: code is compiled for what ran before it, too. */
const rounds = (): Rate[] =>
  JSON.parse(
    execFileSync(process.execPath, [fileURLToPath(new URL('./run-rounds.js', import.meta.url))], { encoding: 'utf8' }),
  ) as Rate[];

process.stdout.write('Rounds of Lantern Twenty-One a second, one seat; same choices, same results\n');
process.stdout.write(`${'by hand'.padStart(9)} ${'engine'.padStart(9)}  ratio\n`);
for (const { name, handWritten, engine, ratio } of rounds())
  process.stdout.write(`${rate(handWritten)} ${rate(engine)}  ${ratio.toFixed(2)}   ${name}\n`);
process.stdout.write('\nBattles of Long War a second, two seats; same choices, same results\n');
for (const { name, handWritten, engine, ratio } of measureWar())
  process.stdout.write(`${rate(handWritten)} ${rate(engine)}  ${ratio.toFixed(2)}   ${name}\n`);
process.stdout.write('\nRandom choices a second, found and carried out in place\n');
for (const name of [
  'lantern-twenty-one',
  'quayside-twenty-one',
  'long-pot',
  'thorn-and-lady',
  'eights-aside',
  'reed-melds',
  'weir-patience',
])
  process.stdout.write(`${rate(choicesASecond(name))}  ${name}\n`);
process.stdout.write("\nA choice of hold'em, carried out and told to four viewers with their views, in microseconds\n");
process.stdout.write(`${'median'.padStart(9)} ${'99 %'.padStart(9)}\n`);
for (const { seats, median, late } of holdemChoices())
  process.stdout.write(`${rate(median)} ${rate(late)}  ${seats} seats\n`);
process.stdout.write('\nParts, in nanoseconds each\n');
process.stdout.write(`${'baseline'.padStart(9)} ${'ours'.padStart(9)}  ratio\n`);
for (const { name, baseline, ours, ratio } of [measureRanking(), ...measureParts()])
  process.stdout.write(`${rate(baseline)} ${rate(ours)}  ${ratio.toFixed(2)}   ${name}\n`);
process.stdout.write(
  `\nAll 133,784,560 hands of seven, ranked and found as many of each as there are: ${countAllSevens().toFixed(1)} s\n`,
);
