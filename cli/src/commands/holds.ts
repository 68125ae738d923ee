import { CATEGORIES, categoryOf, faceText, holdsOf, parseFaces, ranksOf, type Score } from '@wily-jester/core';
import type { Command } from 'commander';
import { Exit, WRONG_USE } from '../exit.js';
import { cards, paint } from '../show/paint.js';
import { print, printJson } from '../show/print.js';

/** What pays, from the least: a pair of jacks or better, and so on up to a royal flush. */
const PAYING = [
  'jacks or better',
  'two pair',
  'three alike',
  'straight',
  'flush',
  'full house',
  'four alike',
  'straight flush',
  'royal flush',
] as const;
const STANDARD = '1,2,3,4,6,9,25,50,800';
const JACK = 11;
const ACE = 14;
/** So many ways are shown. */
const SHOWN = 6;

/** What a hand pays, by its score. @throws Exit where there are not so many numbers as hands that pay */
function paysBy(list: string): (score: Score) => number {
  const pays = list.split(',').map((text) => Number(text.trim() === '' ? Number.NaN : text));
  if (pays.length !== PAYING.length || pays.some((n) => !Number.isFinite(n) || n < 0))
    throw new Exit(
      `--pays takes ${PAYING.length} numbers, for ${PAYING.join(', ')}; not "${list}".`,
      WRONG_USE,
      `Such as --pays ${STANDARD}`,
    );
  return (score) => {
    const category = categoryOf(score);
    const [highest = 0] = ranksOf(score);
    if (category === 0) return 0;
    if (category === 1) return highest >= JACK ? (pays[0] as number) : 0;
    const isRoyal = category === CATEGORIES.length - 1 && highest === ACE;
    return pays[isRoyal ? PAYING.length - 1 : category - 1] as number;
  };
}

function showHolds(text: string, options: { pays: string; json?: boolean }): void {
  const hand = parseFaces(text);
  const ways = holdsOf(hand, paysBy(options.pays));
  if (options.json) {
    printJson(ways.map(({ cards: held, pays, draws }) => ({ hold: held.map(faceText), pays, draws })));
    return;
  }
  print(paint.dim(`${'pays'.padStart(10)}  hold`));
  for (const [i, { cards: held, pays }] of ways.slice(0, SHOWN).entries()) {
    const shown = held.length === 0 ? 'nothing' : cards(held.map(faceText));
    const figure = pays.toFixed(4).padStart(10);
    print(`${i === 0 ? paint.bold(figure) : figure}  ${shown}`);
  }
  const all = ways.reduce((sum, { draws }) => sum + draws, 0);
  print(paint.dim(`All ${all.toLocaleString('en')} draws of all ${ways.length} ways counted, for each coin played.`));
}

/** `holds`: which cards of five to hold where the rest is drawn anew. */
export function addHoldsCommand(program: Command): void {
  program
    .command('holds <cards>')
    .description('what each way to hold some of five cards, and to draw the rest, pays on average')
    .option('--pays <list>', 'what hands pay, from jacks or better up to a royal flush', STANDARD)
    .option('--json', 'for machines')
    .addHelpText(
      'after',
      '\nExamples:\n  ./wily holds "KS QS JS 10S 9D"\n  ./wily holds "4S 4H 9D 10D JD" --pays 1,2,3,4,5,8,25,50,800',
    )
    .action(showHolds);
}
