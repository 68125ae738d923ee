import { byName, type Fold, type HandKind, type Pick, type Plain, type Sift, type Type } from '@wily-jester/core';

/** Names that the language knows by itself; a sheet names its own things otherwise. */
export const CONSTANTS = byName<{ readonly t: Type; readonly v: number }>({
  yes: { t: 'flag', v: 1 },
  no: { t: 'flag', v: 0 },
  nothing: { t: 'nothing', v: -1 },
  spades: { t: 'suit', v: 0 },
  hearts: { t: 'suit', v: 1 },
  diamonds: { t: 'suit', v: 2 },
  clubs: { t: 'suit', v: 3 },
  black: { t: 'color', v: 0 },
  red: { t: 'color', v: 1 },
  A: { t: 'rank', v: 1 },
  J: { t: 'rank', v: 11 },
  Q: { t: 'rank', v: 12 },
  K: { t: 'rank', v: 13 },
});

/** A value that a function takes: its type, or `list` for a list of anything (or a pile), and what it is called in a problem. */
export interface Argument {
  readonly t: Type | 'list';
  readonly what: string;
}

/**
 * One way to use a function, and what it is compiled to. Where several forms take as many arguments, the first one is
 * chosen by the type of its first argument, and the last of them stands for all others.
 */
export type Form =
  /** An operation of the machine. It gives a type, an item of the first argument, or such a list. */
  | {
      readonly k: 'plain';
      readonly f: Plain;
      readonly takes: readonly Argument[];
      readonly gives: Type | 'item' | 'list';
    }
  /** A list and a short function, or a list alone. */
  | { readonly k: 'fold'; readonly f: Fold; readonly by: 'flag' | 'int' }
  | { readonly k: 'choose'; readonly f: Pick; readonly by: 'flag' | 'key' }
  | { readonly k: 'sift'; readonly f: Sift; readonly by: 'flag' | 'value' | 'key' | 'sameness' }
  | { readonly k: 'siftItself'; readonly f: 'sorted' | 'distinct' }
  | { readonly k: 'hand'; readonly kind: HandKind; readonly what: string }
  | { readonly k: 'bestFive'; readonly what: string }
  /** Forms with an order of work of their own: see `compile/functions.ts`. */
  | { readonly k: 'sumItself' | 'nextWhere' | 'previousWhere' | 'without' | 'largest' | 'plural' }
  /** The greatest or the least: of what a short function gives, of the items themselves, or of two values. */
  | { readonly k: 'extreme' | 'extremeItself' | 'extremeOfTwo'; readonly f: 'min' | 'max' }
  /** Ways to choose among a list, and the best arrangement of cards. */
  | { readonly k: 'ways' | 'arranged' };

/** A function of the language's own. */
export interface Builtin {
  /** How it is called, for problems and editors. */
  readonly usage: string;
  readonly forms: readonly Form[];
  /** Only bots may call it, and why. */
  readonly botsOnly?: string;
  /** What is said of a first argument that none of its forms takes. */
  readonly mismatch?: string;
}

const takes = (t: Argument['t'], what: string): Argument => ({ t, what });
const plain = (f: Plain, gives: Extract<Form, { k: 'plain' }>['gives'], ...args: Argument[]): Form => ({
  k: 'plain',
  f,
  takes: args,
  gives,
});
const COUNTS = 'counts the cards of a pile or the items of a list';

/**
 * The language's own functions, a row each: how it is called, the types that it takes and gives, and what it is
 * compiled to. What an operation of the machine does is a row in `core/src/machine/codegen/functions.ts`.
 */
export const FUNCTIONS = byName<Builtin>({
  any: { usage: 'any(list, x => condition)', forms: [{ k: 'fold', f: 'any', by: 'flag' }] },
  all: { usage: 'all(list, x => condition)', forms: [{ k: 'fold', f: 'all', by: 'flag' }] },
  none: { usage: 'none(list, x => condition)', forms: [{ k: 'fold', f: 'none', by: 'flag' }] },
  count: { usage: 'count(list, x => condition)', forms: [{ k: 'fold', f: 'count', by: 'flag' }] },
  sum: {
    usage: 'sum(list, x => number)',
    forms: [{ k: 'fold', f: 'sum', by: 'int' }, { k: 'sumItself' }],
  },
  min: {
    usage: 'min(a, b), min(list) or min(list, x => value)',
    forms: [
      { k: 'extreme', f: 'min' },
      { k: 'extremeItself', f: 'min' },
      { k: 'extremeOfTwo', f: 'min' },
    ],
  },
  max: {
    usage: 'max(a, b), max(list) or max(list, x => value)',
    forms: [
      { k: 'extreme', f: 'max' },
      { k: 'extremeItself', f: 'max' },
      { k: 'extremeOfTwo', f: 'max' },
    ],
  },
  choose: {
    usage: 'choose(list, how many) or choose(cards, shape | shape), inside any, all, max, best, …',
    forms: [{ k: 'ways' }],
  },
  arranged: {
    usage: 'arranged(cards, shape | shape) or arranged(cards, shape | shape, c => weight)',
    forms: [{ k: 'arranged' }],
  },
  best: { usage: 'best(list, x => key)', forms: [{ k: 'choose', f: 'best', by: 'key' }] },
  least: { usage: 'least(list, x => key)', forms: [{ k: 'choose', f: 'least', by: 'key' }] },
  leaders: { usage: 'leaders(list, x => key)', forms: [{ k: 'sift', f: 'leaders', by: 'key' }] },
  find: { usage: 'find(list, x => condition)', forms: [{ k: 'choose', f: 'find', by: 'flag' }] },
  only: { usage: 'only(list, x => condition)', forms: [{ k: 'sift', f: 'only', by: 'flag' }] },
  map: { usage: 'map(list, x => value)', forms: [{ k: 'sift', f: 'map', by: 'value' }] },
  size: {
    usage: 'size(list or pile)',
    forms: [plain('sizeOfPile', 'int', takes('pile', '')), plain('size', 'int', takes('list', ''))],
    mismatch: COUNTS,
  },
  empty: {
    usage: 'empty(list or pile)',
    forms: [plain('emptyPile', 'flag', takes('pile', '')), plain('empty', 'flag', takes('list', ''))],
    mismatch: COUNTS,
  },
  top: { usage: 'top(pile)', forms: [plain('top', 'card', takes('pile', 'What top looks at'))] },
  tops: { usage: 'tops(pile family)', forms: [plain('tops', 'list:card', takes('list:pile', 'What tops looks at'))] },
  first: {
    usage: 'first(list) or first(list, how many)',
    forms: [
      plain('first', 'item', takes('list', 'What first looks at')),
      plain('firstOf', 'list', takes('list', 'What first looks at'), takes('int', 'How many first takes')),
    ],
  },
  sorted: {
    usage: 'sorted(list, x => key)',
    forms: [
      { k: 'sift', f: 'sorted', by: 'key' },
      { k: 'siftItself', f: 'sorted' },
    ],
  },
  groups: { usage: 'groups(list, x => key)', forms: [{ k: 'sift', f: 'groups', by: 'sameness' }] },
  distinct: {
    usage: 'distinct(list) or distinct(list, x => key)',
    forms: [
      { k: 'sift', f: 'distinct', by: 'sameness' },
      { k: 'siftItself', f: 'distinct' },
    ],
  },
  pokerHigh: { usage: 'pokerHigh(cards)', forms: [{ k: 'hand', kind: 'high', what: 'What pokerHigh looks at' }] },
  aceToFive: { usage: 'aceToFive(cards)', forms: [{ k: 'hand', kind: 'aceToFive', what: 'What aceToFive looks at' }] },
  deuceToSeven: {
    usage: 'deuceToSeven(cards)',
    forms: [{ k: 'hand', kind: 'deuceToSeven', what: 'What deuceToSeven looks at' }],
  },
  bestFive: { usage: 'bestFive(cards)', forms: [{ k: 'bestFive', what: 'What bestFive looks at' }] },
  largest: { usage: 'largest(shape, cards)', forms: [{ k: 'largest' }] },
  seen: { usage: 'seen(card)', forms: [plain('seen', 'flag', takes('card', 'What seen looks at'))] },
  last: {
    usage: 'last(list, how many)',
    forms: [plain('last', 'list', takes('list', 'What last looks at'), takes('int', 'How many last takes'))],
  },
  reversed: { usage: 'reversed(list)', forms: [plain('reversed', 'list', takes('list', 'What is reversed'))] },
  without: { usage: 'without(list, value or list)', forms: [{ k: 'without' }] },
  abs: { usage: 'abs(number)', forms: [plain('abs', 'int', takes('int', 'What abs takes'))] },
  faceUp: { usage: 'faceUp(card)', forms: [plain('faceUp', 'flag', takes('card', 'What faceUp looks at'))] },
  next: {
    usage: 'next(seat), next(seat, s => condition), next(team) or next(rank)',
    forms: [
      { k: 'nextWhere' },
      plain('nextRank', 'rank', takes('rank', '')),
      plain('nextTeam', 'team', takes('team', '')),
      plain('nextSeat', 'seat', takes('seat', 'What next looks at')),
    ],
  },
  previous: {
    usage: 'previous(seat) or previous(seat, s => condition)',
    forms: [{ k: 'previousWhere' }, plain('previousSeat', 'seat', takes('seat', 'What previous looks at'))],
  },
  seatsFrom: {
    usage: 'seatsFrom(seat)',
    forms: [plain('seatsFrom', 'list:seat', takes('seat', 'What seatsFrom looks at'))],
  },
  others: { usage: 'others(seat)', forms: [plain('others', 'list:seat', takes('seat', 'What others looks at'))] },
  plural: { usage: 'plural(number, "word")', forms: [{ k: 'plural' }] },
  chance: {
    usage: 'chance(times, out of)',
    forms: [plain('chance', 'flag', takes('int', 'How often chance comes true'), takes('int', 'Out of how many'))],
    botsOnly: "Only bots toss for themselves: a sheet's own chance is shuffle and pick.",
  },
});

const OTHER_NAMES = ['pack', 'me', 'seats', 'suits', 'ranks', 'teams', 'score', 'play', 'pairs'];

/** The kind of a high hand's categories, from low to high. */
export const CATEGORY_KIND = 'Category';

/** Names that a sheet may not declare. */
export const RESERVED_NAMES: ReadonlySet<string> = new Set([
  ...Object.keys(CONSTANTS),
  ...Object.keys(FUNCTIONS),
  ...OTHER_NAMES,
]);

/** A type as a sheet writes it. */
export function typeText(t: Type): string {
  if (t.startsWith('kind:')) return t.slice(5);
  if (t === 'list:card') return 'cards';
  if (t === 'poker') return 'high hand';
  if (t === 'low') return 'low hand';
  if (t === 'turned') return 'value that is turned round';
  if (t.startsWith('list:')) return `list of ${typeText(t.slice(5) as Type)}s`;
  return t;
}
export const isList = (t: Type): boolean => t.startsWith('list:');
export const itemOf = (t: Type): Type => t.slice(5) as Type;
export const listOf = (t: Type): Type => `list:${t}`;

const COMPARABLE: ReadonlySet<Type> = new Set(['int', 'rank', 'suit', 'flag', 'poker', 'low', 'turned']);
/** Whether values of a type are more or less than others. */
export const isComparable = (t: Type): boolean => COMPARABLE.has(t) || t.startsWith('kind:');
/** Types whose empty value is `nothing`. */
export const canBeNothing = (t: Type): boolean =>
  !(
    t === 'int' ||
    t === 'flag' ||
    t === 'text' ||
    t === 'poker' ||
    t === 'low' ||
    t === 'key' ||
    t === 'turned' ||
    isList(t)
  );
