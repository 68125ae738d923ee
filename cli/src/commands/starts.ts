import { kindAt, letterOf, startingHands, startWords } from '@wily-jester/core';
import type { Command } from 'commander';
import { paint } from '../show/paint.js';
import { print, printJson } from '../show/print.js';

const RANKS = [14, 13, 12, 11, 10, 9, 8, 7, 6, 5, 4, 3, 2] as const;
const WIDTH = 5;

function showStarts({ json }: { json?: boolean }): void {
  const told = process.stderr.isTTY && !json;
  const all = startingHands((part) => {
    if (told) process.stderr.write(`\r${Math.round(100 * part)} % of all boards `);
  });
  if (told) process.stderr.write('\r\u001b[K');
  if (json) {
    printJson(all);
    return;
  }
  const shares = new Map(all.map((one) => [startWords(one), one.share]));
  print(paint.dim(`   ${RANKS.map((rank) => letterOf(rank).padStart(WIDTH)).join('')}`));
  for (const row of RANKS) {
    const figures = RANKS.map((column) => {
      const figure = (100 * (shares.get(startWords(kindAt(row, column))) ?? 0)).toFixed(1).padStart(WIDTH);
      return row === column ? paint.bold(figure) : figure;
    });
    print(`${paint.dim(letterOf(row).padStart(3))}${figures.join('')}`);
  }
  print(
    paint.dim(
      'The share of the pots, of a hundred, against one hand that nobody knows; of one suit above the pairs, of two beneath.\nEvery board and every other hand is counted.',
    ),
  );
}

/** `starts`: what starting hands of two cards are worth. */
export function addStartsCommand(program: Command): void {
  program
    .command('starts')
    .description('what each of the 169 kinds of starting hands is worth, exactly (some 15 seconds)')
    .option('--json', 'for machines, with wins and ties')
    .addHelpText('after', '\nExamples:\n  ./wily starts\n  ./wily starts --json')
    .action(showStarts);
}
