/** npm run bench: every figure is a ratio against a baseline in the same run. */
import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { holdemChoices, measureWar } from './games.js';
import type { Part } from './parts.js';
import type { PlayerRate } from './players.js';
import { countAllSevens, measureRanking } from './ranking.js';
import type { Rate } from './rounds.js';

const rate = (n: number): string => Math.round(n).toLocaleString('en').padStart(9);

/** What a process says that measures one thing alone: code is compiled for what ran before it, too. */
const alone = <T>(file: string): T[] =>
  JSON.parse(
    execFileSync(process.execPath, [fileURLToPath(new URL(file, import.meta.url))], { encoding: 'utf8' }),
  ) as T[];

const ratio = (n: number | null, digits: number): string => (n === null ? '' : n.toFixed(digits)).padStart(7);

process.stdout.write('Rounds of Lantern Twenty-One a second, one seat; same choices, same results\n');
process.stdout.write(`${'by hand'.padStart(9)} ${'engine'.padStart(9)}  ratio\n`);
for (const { name, handWritten, engine, ratio } of alone<Rate>('./run-rounds.js'))
  process.stdout.write(`${rate(handWritten)} ${rate(engine)}  ${ratio.toFixed(2)}   ${name}\n`);
process.stdout.write('\nBattles of Long War a second, two seats; same choices, same results\n');
for (const { name, handWritten, engine, ratio } of measureWar())
  process.stdout.write(`${rate(handWritten)} ${rate(engine)}  ${ratio.toFixed(2)}   ${name}\n`);
process.stdout.write(
  '\nChoices a second of processor time, found and carried out in place, by random players and one bot\n',
);
process.stdout.write(
  `${'by hand'.padStart(9)} ${'plain'.padStart(9)} ${'engine'.padStart(9)} ${'to hand'.padStart(7)} ${'to plain'.padStart(8)}\n`,
);
for (const { name, engine, byHand, plain, toHand, toPlain } of alone<PlayerRate>('./run-players.js'))
  process.stdout.write(
    `${(byHand === null ? '' : rate(byHand)).padStart(9)} ${(plain === null ? '' : rate(plain)).padStart(9)} ${rate(engine)} ${ratio(toHand, 2)} ${ratio(toPlain, 1).padStart(8)}   ${name}\n`,
  );
process.stdout.write("\nA choice of hold'em, carried out and told to four viewers with their views, in microseconds\n");
process.stdout.write(`${'median'.padStart(9)} ${'99 %'.padStart(9)}\n`);
for (const { seats, median, late } of holdemChoices())
  process.stdout.write(`${rate(median)} ${rate(late)}  ${seats} seats\n`);
process.stdout.write('\nParts, in nanoseconds each\n');
process.stdout.write(`${'baseline'.padStart(9)} ${'ours'.padStart(9)}  ratio\n`);
for (const { name, baseline, ours, ratio } of [measureRanking(), ...alone<Part>('./run-parts.js')])
  process.stdout.write(`${rate(baseline)} ${rate(ours)}  ${ratio.toFixed(2)}   ${name}\n`);
process.stdout.write(
  `\nAll 133,784,560 hands of seven, ranked and found as many of each as there are: ${countAllSevens().toFixed(1)} s\n`,
);
