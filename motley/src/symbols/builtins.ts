import type { Type } from '@wily-jester/core';

/** Names that the language knows by itself; a sheet names its own things otherwise. */
export const CONSTANTS: Readonly<Record<string, { t: Type; v: number }>> = {
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
};

/** The language's own functions, each with how it is called. */
export const FUNCTIONS: Readonly<Record<string, string>> = {
  any: 'any(list, x => condition)',
  all: 'all(list, x => condition)',
  none: 'none(list, x => condition)',
  count: 'count(list, x => condition)',
  sum: 'sum(list, x => number)',
  min: 'min(a, b), min(list) or min(list, x => number)',
  max: 'max(a, b), max(list) or max(list, x => number)',
  best: 'best(list, x => key)',
  least: 'least(list, x => key)',
  leaders: 'leaders(list, x => key)',
  find: 'find(list, x => condition)',
  only: 'only(list, x => condition)',
  map: 'map(list, x => value)',
  size: 'size(list or pile)',
  empty: 'empty(list or pile)',
  top: 'top(pile)',
  tops: 'tops(pile family)',
  first: 'first(list) or first(list, how many)',
  sorted: 'sorted(list, x => key)',
  groups: 'groups(list, x => key)',
  distinct: 'distinct(list) or distinct(list, x => key)',
  pokerHigh: 'pokerHigh(cards)',
  aceToFive: 'aceToFive(cards)',
  deuceToSeven: 'deuceToSeven(cards)',
  bestFive: 'bestFive(cards)',
  largest: 'largest(shape, cards)',
  seen: 'seen(card)',
  last: 'last(list, how many)',
  reversed: 'reversed(list)',
  without: 'without(list, value)',
  abs: 'abs(number)',
  faceUp: 'faceUp(card)',
  next: 'next(seat), next(seat, s => condition), next(team) or next(rank)',
  previous: 'previous(seat) or previous(seat, s => condition)',
  seatsFrom: 'seatsFrom(seat)',
  others: 'others(seat)',
  plural: 'plural(number, "word")',
  chance: 'chance(times, out of)',
};

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
  if (t.startsWith('list:')) return `list of ${typeText(t.slice(5) as Type)}s`;
  return t;
}
export const isList = (t: Type): boolean => t.startsWith('list:');
export const itemOf = (t: Type): Type => t.slice(5) as Type;
export const listOf = (t: Type): Type => `list:${t}`;

const COMPARABLE: ReadonlySet<Type> = new Set(['int', 'rank', 'suit', 'flag', 'poker', 'low']);
/** Whether values of a type are more or less than others. */
export const isComparable = (t: Type): boolean => COMPARABLE.has(t) || t.startsWith('kind:');
/** Types whose empty value is `nothing`. */
export const canBeNothing = (t: Type): boolean =>
  !(t === 'int' || t === 'flag' || t === 'text' || t === 'poker' || t === 'low' || t === 'key' || isList(t));
