import { randomBytes } from 'node:crypto';
import {
  chachaChance,
  deckFaces,
  type Face,
  faceName,
  faceText,
  REGULARS,
  seedFrom,
  shufflePlaces,
} from '@wily-jester/core';
import type { Command } from 'commander';
import { Exit, WRONG_USE } from '../exit.js';
import { language } from '../language.js';
import { card, cards, paint } from '../show/paint.js';
import { print, printJson } from '../show/print.js';
import { wholeNumber } from '../words.js';

const ROW = 13;
const STANDARD = 'standard';
const MOST_SEATS = 12;

const seatName = (i: number): string => REGULARS[i] ?? `Seat ${i + 1}`;

/** Reads `--deck`. @throws Exit with the place that cannot be read */
async function deckFrom(text: string): Promise<readonly Face[]> {
  if (text === STANDARD) return deckFaces([{ form: { kind: 'standard' }, copies: 1, jokers: 0 }]);
  const { readDeck } = await language();
  const deck = readDeck(text);
  if ('faces' in deck) return deck.faces;
  throw new Exit(
    `--deck "${text}", column ${deck.problem.column}: ${deck.problem.message}`,
    WRONG_USE,
    'Decks: "standard", "standard copies 2 with 2 jokers", "ranks 7..A", "numbered 1..60".',
  );
}

function rows(faces: readonly Face[]): string[] {
  const width = Math.max(...faces.map((face) => faceText(face).length)) + 1;
  const lines: string[] = [];
  for (let i = 0; i < faces.length; i += ROW)
    lines.push(
      faces
        .slice(i, i + ROW)
        .map((face) => `${' '.repeat(width - faceText(face).length)}${card(faceText(face))}`)
        .join(''),
    );
  return lines;
}

function shuffled(faces: readonly Face[], word: string): Face[] {
  const order = [...faces];
  shufflePlaces(order, 0, order.length, chachaChance(seedFrom(word)).stream('shuffle', 0));
  return order;
}

const freshSeed = (): string => randomBytes(8).toString('hex');

interface DeckOptions {
  deck: string;
  seed?: string;
  json?: boolean;
}
interface DealOptions extends DeckOptions {
  seats: string;
  cards: string;
  inOrder?: boolean;
  packets?: boolean;
}

async function showCards(options: DeckOptions): Promise<void> {
  const faces = await deckFrom(options.deck);
  if (options.json) {
    printJson({
      deck: options.deck,
      count: faces.length,
      cards: faces.map((face) => ({ face: faceText(face), name: faceName(face) })),
    });
    return;
  }
  for (const line of rows(faces)) print(line);
  print(paint.dim(`${faces.length} cards, in deck order.`));
}

async function showShuffle(options: DeckOptions): Promise<void> {
  const faces = await deckFrom(options.deck);
  const seed = options.seed ?? freshSeed();
  const order = shuffled(faces, seed);
  if (options.json) {
    printJson({ deck: options.deck, seed, before: faces.map(faceText), after: order.map(faceText) });
    return;
  }
  print(paint.bold('Before'));
  for (const line of rows(faces)) print(line);
  print(paint.bold('After'));
  for (const line of rows(order)) print(line);
  print(paint.dim(`${faces.length} cards, bottom first. The same again: --seed ${seed}`));
}

async function showDeal(options: DealOptions): Promise<void> {
  const faces = await deckFrom(options.deck);
  const seats = wholeNumber('--seats', options.seats, 1, MOST_SEATS);
  const each = wholeNumber('--cards', options.cards, 1, 200);
  if (seats * each > faces.length)
    throw new Exit(
      `${seats} seats with ${each} cards each need ${seats * each} cards, and this deck has ${faces.length}.`,
      WRONG_USE,
      'Deal fewer, or take --deck "standard copies 2".',
    );
  const seed = options.seed ?? freshSeed();
  const pack = options.inOrder ? [...faces] : shuffled(faces, seed);
  const hands: Face[][] = Array.from({ length: seats }, () => []);
  const draws: { seat: string; card: string; holds: number; left: number }[] = [];
  const draw = (seat: number): void => {
    const face = pack.pop() as Face;
    hands[seat]?.push(face);
    draws.push({ seat: seatName(seat), card: faceText(face), holds: hands[seat]?.length ?? 0, left: pack.length });
  };
  if (options.packets) for (let seat = 0; seat < seats; seat++) for (let i = 0; i < each; i++) draw(seat);
  else for (let i = 0; i < each; i++) for (let seat = 0; seat < seats; seat++) draw(seat);
  if (options.json) {
    printJson({
      deck: options.deck,
      ...(options.inOrder ? {} : { seed }),
      draws,
      hands: hands.map((hand, i) => ({ seat: seatName(i), cards: hand.map(faceText) })),
      left: pack.map(faceText),
    });
    return;
  }
  for (const { seat, card: face, holds, left } of draws)
    print(`${seat} draws ${card(face)} and holds ${holds}.  ${paint.dim(`${left} left`)}`);
  print();
  const width = Math.max(...hands.map((_, i) => seatName(i).length));
  for (const [i, hand] of hands.entries())
    print(`${paint.bold(seatName(i).padEnd(width))}  ${cards(hand.map(faceText))}`);
  print();
  print(`${pack.length} cards are left${pack.length > 0 ? ', the next on top:' : '.'}`);
  for (const line of rows([...pack].reverse())) print(line);
  if (!options.inOrder) print(paint.dim(`The same again: --seed ${seed}`));
}

/** `cards`, `shuffle` and `deal`: a deck to look at, without any game. */
export function addCardCommands(program: Command): void {
  const deck = ['--deck <deck>', 'the deck, as a sheet declares it', STANDARD] as const;
  program
    .command('cards')
    .description('show a whole deck, in deck order')
    .option(...deck)
    .option('--json', 'for machines')
    .addHelpText(
      'after',
      '\nExamples:\n  ./wily cards\n  ./wily cards --deck "standard copies 2 with 2 jokers"\n  ./wily cards --deck "numbered 1..60"',
    )
    .action(showCards);
  program
    .command('shuffle')
    .description('shuffle a deck, and show it before and after')
    .option(...deck)
    .option('--seed <word>', 'the same word gives the same shuffle')
    .option('--json', 'for machines')
    .addHelpText('after', '\nExamples:\n  ./wily shuffle\n  ./wily shuffle --deck "ranks 7..A" --seed lantern')
    .action(showShuffle);
  program
    .command('deal')
    .description('deal hands, and show every card as it goes')
    .option(...deck)
    .option('--seats <number>', 'how many hands', '5')
    .option('--cards <number>', 'how many cards each', '6')
    .option('--in-order', 'do not shuffle first')
    .option('--packets', "each hand's cards at once, instead of one at a time round the table")
    .option('--seed <word>', 'the same word gives the same deal')
    .option('--json', 'for machines')
    .addHelpText(
      'after',
      '\nExamples:\n  ./wily deal --seats 5 --cards 6\n  ./wily deal --seats 2 --cards 3 --in-order --packets',
    )
    .action(showDeal);
}
