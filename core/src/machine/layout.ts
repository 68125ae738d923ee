import { DeckError, deckFaces } from '../cards/deck.js';
import type { Face } from '../cards/face.js';
import type { DeckDecl, Pile, Program, Type } from '../program/types.js';
import { type Known, knownNumber, readSettings, type Setup, SetupError } from './setup.js';

/** Greatest number of piles on one table. */
export const MOST_PILES = 512;

/** Slots at the head of a state's numbers. */
export const PC = 0;
export const WAIT = 1;
export const ASK = 2;
export const ASKED_SEAT = 3;
export const ASKED = 4;
export const ANSWERED = 5;
export const NUMBER = 6;
export const OPENED = 7;
export const CHANCES = 8;
export const FREE = 9;
export const CHAPTERS = 10;
export const PAUSE = 11;
export const CHOSEN = 12;
export const ABOUT = 13;
/** How many shuffles and picks there have been, each by itself; {@link CHANCES} counts both together. */
export const SHUFFLES = 14;
export const PICKS = 15;
const HEAD = 16;

/** What a state waits for, as it stands in its {@link WAIT} slot. */
export const WAITS = ['nothing', 'ask', 'every', 'pause', 'over', 'any'] as const;
export const WAIT_ASK = 1;
export const WAIT_EVERY = 2;
export const WAIT_PAUSE = 3;
export const WAIT_OVER = 4;
export const WAIT_ANY = 5;

/** The {@link CHOSEN} option of an ask whose time is up. */
export const TIME_UP = -2;

/** Slots at the head of a state's lists. */
export const CHAPTER_TEXT = 0;
const REF_HEAD = 1;

/** One pile of a table. */
export interface PlacedPile {
  readonly decl: number;
  /** The owner's seat, −1 for a pile of the table. */
  readonly seat: number;
  /** Its place in its family, from 0; −1 for a single pile. */
  readonly index: number;
  /** `shoe`, `hand/2`, `column/3`, `hand/2/1`: family and seat are counted from 1. */
  readonly path: string;
  /** The path's parts. */
  readonly steps: readonly string[];
}

/** The layout of a table's states: computed once from program, settings and seats. */
export interface StateLayout {
  readonly program: Program;
  readonly seats: readonly string[];
  /** Values of the settings, in the program's order. */
  readonly settings: readonly number[];
  readonly faces: readonly Face[];
  readonly piles: readonly PlacedPile[];
  /** The first pile of each declared one. */
  readonly pileBase: readonly number[];
  readonly varBase: readonly number[];
  /** How many values each variable has. */
  readonly varCount: readonly number[];
  /** How many values of a variable stand for one of its first keys: more than one where it is kept for pairs. */
  readonly varWidth: readonly number[];
  readonly scoreBase: number;
  readonly slotBase: number;
  readonly numbers: number;
  readonly pendingBase: number;
  readonly refSlotBase: number;
  readonly refs: number;
}

/** Whether values of a type are lists or texts, which are kept apart from the numbers. */
export const isRef = (t: Type): boolean => t.startsWith('list:') || t === 'text' || t === 'key';

function facesOf(decks: readonly DeckDecl[], known: Known): Face[] {
  try {
    return deckFaces(
      decks
        .filter((deck) => knownNumber(deck.when, known, 1) !== 0)
        .map((deck) => ({
          form: deck.form,
          copies: knownNumber(deck.copies, known, 1),
          jokers: knownNumber(deck.jokers, known, 0),
        })),
    );
  } catch (error) {
    if (error instanceof DeckError) throw new SetupError(error.message);
    throw error;
  }
}

/** How many piles of a family there are (for each seat); `null` for a single pile. */
export function manyOf(program: Program, pile: Pile): number | null {
  switch (pile.by) {
    case 'suit':
      return 4;
    case 'rank':
      return 13;
    case 'team':
      return program.teams;
    default:
      return pile.many;
  }
}

/** The most values of one variable. */
const MOST_KEPT = 8_192;
/** Figures of one variable that are drawn in one place. */
const MOST_DRAWN = 64;
/** Figures of all variables that are drawn at one table. */
const MOST_FIGURES = 2_000;

/** How many values a variable has. */
function keptFor(
  program: Program,
  seats: number,
  cards: number,
  of: Program['vars'][number]['of'],
  piles: readonly PlacedPile[],
): number {
  switch (of.k) {
    case 'table':
      return 1;
    case 'kind':
      return program.kinds[of.kind]?.members.length ?? 1;
    case 'pair':
      return of.keys.reduce((all, key) => all * keptFor(program, seats, cards, key, piles), 1);
    case 'seat':
      return seats;
    case 'team':
      return program.teams;
    case 'suit':
      return 4;
    case 'rank':
      return 14;
    case 'card':
      return cards;
    case 'pile':
      return piles.filter((p) => p.decl === of.pile).length;
  }
}

/** Lays out a table. @throws SetupError where settings or seats do not fit the sheet */
export function layoutOf(program: Program, setup: Setup): StateLayout {
  const { seats } = setup;
  if (!program.seats.includes(seats.length)) {
    const counts = program.seats;
    const range = counts.length > 2 ? `${counts[0]} to ${counts.at(-1)}` : counts.join(' or ');
    throw new SetupError(
      `"${program.name}" is for ${range} ${counts.at(-1) === 1 ? 'seat' : 'seats'}, not ${seats.length}.`,
    );
  }
  const twice = seats.find((name, i) => seats.indexOf(name) !== i);
  if (twice !== undefined) throw new SetupError(`Two seats are called "${twice}". Give each a name of its own.`);
  const settings = readSettings(program, setup.settings);
  const faces = facesOf(program.decks, { settings, seats: seats.length });

  const piles: PlacedPile[] = [];
  const pileBase: number[] = [];
  for (const [decl, pile] of program.piles.entries()) {
    pileBase.push(piles.length);
    const many = manyOf(program, pile);
    for (let seat = pile.perSeat ? 0 : -1; seat < (pile.perSeat ? seats.length : 0); seat++) {
      for (let i = many === null ? -1 : 0; i < (many ?? 0); i++) {
        const steps = [pile.name, ...[seat, i].flatMap((place) => (place < 0 ? [] : [String(place + 1)]))];
        piles.push({ decl, seat, index: i, path: steps.join('/'), steps });
      }
    }
  }
  if (piles.length > MOST_PILES)
    throw new SetupError(`A table holds at most ${MOST_PILES} piles; this one would have ${piles.length}.`);

  let numbers = HEAD;
  let refs = REF_HEAD;
  const scoreBase = numbers;
  numbers += seats.length;
  const pendingBase = refs;
  refs += seats.length;
  const varBase: number[] = [];
  const varCount: number[] = [];
  const varWidth: number[] = [];
  let figures = 0;
  for (const v of program.vars) {
    const { of } = v;
    const count = keptFor(program, seats.length, faces.length, of, piles);
    if (count > MOST_KEPT)
      throw new SetupError(`"${v.name}" would keep ${count} values; at most ${MOST_KEPT} are kept.`);
    if (v.label !== null) figures += count;
    if (figures > MOST_FIGURES)
      throw new SetupError(
        `This table would draw ${figures.toLocaleString('en')} figures or more; at most ${MOST_FIGURES.toLocaleString('en')} are drawn: leave some labels out.`,
      );
    const [first] = of.k === 'pair' ? of.keys : [of];
    const places =
      first.k === 'seat' || first.k === 'pile' ? keptFor(program, seats.length, faces.length, first, piles) : 1;
    if (v.label !== null && count / places > MOST_DRAWN)
      throw new SetupError(
        `"${v.name}" would draw ${count / places} figures in one place; at most ${MOST_DRAWN} are drawn: leave its label out.`,
      );
    varCount.push(count);
    varWidth.push(of.k === 'pair' ? keptFor(program, seats.length, faces.length, of.keys[1], piles) : 1);
    if (isRef(v.t)) {
      varBase.push(refs);
      refs += count;
    } else {
      varBase.push(numbers);
      numbers += count;
    }
  }
  return {
    program,
    seats,
    settings,
    faces,
    piles,
    pileBase,
    varBase,
    varCount,
    varWidth,
    scoreBase,
    slotBase: numbers,
    numbers,
    pendingBase,
    refSlotBase: refs,
    refs,
  };
}
