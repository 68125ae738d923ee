/** npm run bench: every figure is a ratio against a baseline in the same run. */
import { measureParts } from './parts.js';
import { countAllSevens, measureRanking } from './ranking.js';
import { measureRounds } from './rounds.js';

const rate = (n: number): string => Math.round(n).toLocaleString('en').padStart(9);

process.stdout.write('Rounds of Lantern Twenty-One a second, one seat; same choices, same results\n');
process.stdout.write(`${'by hand'.padStart(9)} ${'engine'.padStart(9)}  ratio\n`);
for (const { name, handWritten, engine, ratio } of measureRounds())
  process.stdout.write(`${rate(handWritten)} ${rate(engine)}  ${ratio.toFixed(2)}   ${name}\n`);
process.stdout.write('\nParts, in nanoseconds each\n');
process.stdout.write(`${'baseline'.padStart(9)} ${'ours'.padStart(9)}  ratio\n`);
for (const { name, baseline, ours, ratio } of [measureRanking(), ...measureParts()])
  process.stdout.write(`${rate(baseline)} ${rate(ours)}  ${ratio.toFixed(2)}   ${name}\n`);
process.stdout.write(
  `\nAll 133,784,560 hands of seven, ranked and found as many of each as there are: ${countAllSevens().toFixed(1)} s\n`,
);
