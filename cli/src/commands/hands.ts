import { randomBytes } from 'node:crypto';
import {
  aceToFive,
  bestFive,
  CATEGORIES,
  CATEGORY_NAMES,
  categoryOf,
  census,
  chachaChance,
  choose,
  deuceToSeven,
  type Face,
  faceText,
  HandError,
  handName,
  lowName,
  oddsOf,
  parseFaces,
  pokerHigh,
  ranksOf,
  seedFrom,
} from '@wily-jester/core';
import type { Command } from 'commander';
import { Exit, WRONG_USE } from '../exit.js';
import { cards, paint } from '../show/paint.js';
import { print, printJson } from '../show/print.js';
import { wholeNumber } from '../words.js';

const WAYS = { high: pokerHigh, 'ace-to-five': aceToFive, 'deuce-to-seven': deuceToSeven } as const;
type Way = keyof typeof WAYS;
const MOST_CARDS = 12;

function facesFrom(text: string): Face[] {
  const faces = parseFaces(text);
  const twice = faces.find((face, i) => faces.indexOf(face) !== i);
  if (twice !== undefined) throw new HandError(`${faceText(twice)} stands there twice: the deck has one.`);
  return faces;
}

function showRank(texts: readonly string[], options: { low?: string; json?: boolean }): void {
  const way = options.low ?? 'high';
  if (!Object.hasOwn(WAYS, way))
    throw new Exit(`There is no low "${way}".`, WRONG_USE, 'It is ace-to-five or deuce-to-seven.');
  const rank = WAYS[way as Way];
  const hands = texts.map((text) => {
    const faces = facesFrom(text);
    if (faces.length > MOST_CARDS) throw new HandError(`At most ${MOST_CARDS} cards are ranked, not ${faces.length}.`);
    const score = rank(faces);
    return {
      faces,
      score,
      name: way === 'high' ? handName(score) : lowName(score),
      five: bestFive(faces, rank, way === 'ace-to-five'),
    };
  });
  const best = Math.max(...hands.map((hand) => hand.score));
  if (options.json) {
    printJson(
      hands.map(({ faces, score, name, five }) => ({
        cards: faces.map(faceText),
        name,
        five: five.map(faceText),
        ...(way === 'high' ? { category: CATEGORIES[categoryOf(score)], ranks: ranksOf(score) } : {}),
        best: score === best,
      })),
    );
    return;
  }
  const tied = hands.filter((hand) => hand.score === best).length > 1;
  for (const { five, name, score } of hands) {
    const mark = hands.length === 1 ? '' : score === best ? paint.green(tied ? '= ' : '✓ ') : '  ';
    print(`${mark}${cards(five.map(faceText))}  ${name}`);
  }
}

const percent = (share: number): string => `${(100 * share).toFixed(2)} %`;

function showOdds(
  texts: readonly string[],
  options: { board: string; samples: string; seed?: string; json?: boolean },
): void {
  const seed = options.seed ?? randomBytes(8).toString('hex');
  const samples = wholeNumber('--samples', options.samples, 1000, 100_000_000);
  const hands = texts.map((text) => (text.trim() === 'any' ? null : parseFaces(text)));
  const board = parseFaces(options.board);
  const odds = oddsOf({ hands, board }, chachaChance(seedFrom(seed)).stream('odds', 0), samples);
  const shown = (hand: readonly Face[] | null): string => (hand ? cards(hand.map(faceText)) : 'any two');
  if (options.json) {
    printJson({
      board: board.map(faceText),
      exact: odds.exact,
      deals: odds.deals,
      ...(odds.exact ? {} : { seed }),
      hands: odds.hands.map((hand, i) => ({ cards: hands[i]?.map(faceText) ?? null, ...hand })),
    });
    return;
  }
  if (board.length > 0) print(`${paint.dim('Board')}  ${cards(board.map(faceText))}`);
  print(paint.dim(`${''.padEnd(9)}${'wins'.padStart(9)}${'ties'.padStart(9)}${'share'.padStart(9)}`));
  for (const [i, { win, tie, share, error }] of odds.hands.entries()) {
    const hand = hands[i] ?? null;
    const width = hand ? hand.map(faceText).join(' ').length : 'any two'.length;
    const error95 = odds.exact ? '' : paint.dim(`  ± ${(196 * error).toFixed(2)}`);
    print(
      `${shown(hand)}${' '.repeat(Math.max(0, 9 - width))}${percent(win).padStart(9)}${percent(tie).padStart(9)}${paint.bold(percent(share).padStart(9))}${error95}`,
    );
  }
  const deals = odds.deals.toLocaleString('en');
  print(
    paint.dim(
      odds.exact
        ? `All ${deals} deals counted.`
        : `${deals} deals drawn; ± is where the share lies in 95 of 100 such runs. The same again: --seed ${seed}`,
    ),
  );
}

const against = (all: number, found: number): string => {
  const odds = all / found - 1;
  return odds < 1 ? '' : `${odds >= 100 ? Math.round(odds).toLocaleString('en') : odds.toFixed(1)} to 1`;
};

function showHands(options: { cards: string; json?: boolean }): void {
  const many = wholeNumber('--cards', options.cards, 5, 7) as 5 | 6 | 7;
  const counts = census(many);
  const all = choose(52, many);
  if (options.json) {
    printJson({
      cards: many,
      hands: all,
      categories: CATEGORIES.map((category, i) => ({ category, name: CATEGORY_NAMES[i], hands: counts[i] })).reverse(),
    });
    return;
  }
  print(
    paint.dim(`${'best of'.padEnd(17)}${`${many} cards`.padStart(13)}${'share'.padStart(12)}${'against'.padStart(15)}`),
  );
  for (let i = counts.length - 1; i >= 0; i--) {
    const found = counts[i] as number;
    const share = (100 * found) / all;
    print(
      `${(CATEGORY_NAMES[i] ?? '').padEnd(17)}${found.toLocaleString('en').padStart(13)}${`${share.toFixed(share < 1 ? 4 : 2)} %`.padStart(12)}${against(all, found).padStart(15)}`,
    );
  }
  print(`${'all'.padEnd(17)}${all.toLocaleString('en').padStart(13)}`);
}

/** `rank`, `odds` and `hands`: ranked hands, without any game. */
export function addHandCommands(program: Command): void {
  program
    .command('rank <cards...>')
    .description('name the best five among cards; with several hands, say which is best')
    .option('--low <kind>', 'rank as a low instead: ace-to-five or deuce-to-seven')
    .option('--json', 'for machines')
    .addHelpText(
      'after',
      '\nExamples:\n  ./wily rank "AS KS QS JS 10S 2C 2D"\n  ./wily rank "AS AH 7C 7D 2H" "KD KC KH 4S 9D"\n  ./wily rank --low ace-to-five "AS 2D 3H 7C 8S KD KH"',
    )
    .action(showRank);
  program
    .command('odds <hands...>')
    .description('how often each of 2 to 10 hands of two cards is best once the board is complete')
    .option('--board <cards>', 'the board so far', '')
    .option('--samples <number>', 'deals to draw where there are too many to count', '400000')
    .option('--seed <word>', 'the same word gives the same sampled deals')
    .option('--json', 'for machines')
    .addHelpText(
      'after',
      '\nExamples:\n  ./wily odds "AS AH" "KD KC"\n  ./wily odds "AS AH" "KD KC" "7S 8S" --board "9S 10S 2D"\n  ./wily odds "QH QD" any',
    )
    .action(showOdds);
  program
    .command('hands')
    .description('the categories of hands, with how many there are of each')
    .option('--cards <number>', 'the best five among so many cards: 5, 6 or 7', '5')
    .option('--json', 'for machines')
    .addHelpText('after', '\nExamples:\n  ./wily hands\n  ./wily hands --cards 7')
    .action(showHands);
}
