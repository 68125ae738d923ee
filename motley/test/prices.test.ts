import { soak } from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { FUNCTIONS } from '../src/symbols/builtins.js';
import { programOf } from './support.js';

/** A call of each function with as much as its types allow: of cards, of lists of numbers, of piles. */
const CALLS: Readonly<Record<string, readonly string[]>> = {
  any: ['any(pack, c => c.pips > 50)', 'any(long, x => x > 9999)'],
  all: ['all(pack, c => c.pips > 0)'],
  none: ['none(pack, c => c.pips > 50)'],
  count: ['count(pack, c => c.pips > 5)'],
  sum: ['sum(pack, c => c.pips)', 'sum(long)'],
  min: ['min(pack, c => c.pips)', 'min(long)'],
  max: ['max(pack, c => c.pips)', 'max(long)'],
  choose: ['any(choose(first(pack, 12), 3), cs => sum(cs, c => c.pips) > 99)'],
  arranged: ['arranged(first(pack, 12), set | run)'],
  best: ['best(pack, c => c.pips)', 'best(pack, c => [c.pips, 1])'],
  least: ['least(pack, c => c.pips)'],
  leaders: ['leaders(pack, c => c.pips)'],
  find: ['find(pack, c => c.pips > 50)'],
  only: ['only(pack, c => c.pips > 5)'],
  map: ['map(pack, c => c.pips)'],
  tops: ['tops(heap)'],
  sorted: ['sorted(pack, c => c.pips)', 'sorted(pack, c => [c.pips, 1])'],
  groups: ['groups(pack, c => c.rank)'],
  distinct: ['distinct(pack, c => c.rank)', 'distinct(long)'],
  pokerHigh: ['pokerHigh(pack)'],
  aceToFive: ['aceToFive(first(pack, 12))'],
  deuceToSeven: ['deuceToSeven(first(pack, 12))'],
  bestFive: ['bestFive(first(pack, 12))'],
  largest: ['largest(set, first(pack, 40))'],
  first: ['first(pack, 2000)'],
  last: ['last(pack, 2000)', 'last(long, 4000)'],
  reversed: ['reversed(pack)', 'reversed(long)'],
  without: ['without(pack, pack)', 'without(long, 3)'],
};
/** These look at one thing, however much is there. */
const OF_ONE: readonly string[] = [
  'size',
  'empty',
  'top',
  'seen',
  'abs',
  'faceUp',
  'next',
  'previous',
  'seatsFrom',
  'others',
  'plural',
  'chance',
];

const [COPIES, HEAPS, NUMBERS] = [20, 60, 1_000];
const CARDS = 52 * COPIES;

const sheet = (call: string): string => `game "Price List" for 1 seat {
  deck standard copies ${COPIES}
  pile heap[${HEAPS}] face up
  shape set = 3+ cards of one rank
  shape run = 3+ cards of one suit in rank order
  def long = map(1..${NUMBERS}, i => i)
  play {
    ask seats[1] { option go { let found = ${call} } }
    finish
  }
}`;

const heaviest = (call: string): number => {
  const { heaviest: step, failures } = soak(programOf(sheet(call)), { games: 1, seed: 1 });
  expect(failures, call).toEqual([]);
  return step.operations;
};

describe('a function of the language', () => {
  it('is among those whose price was looked at', () => {
    expect([...Object.keys(CALLS), ...OF_ONE].sort()).toEqual(Object.keys(FUNCTIONS).sort());
  });

  it.each(Object.values(CALLS).flat())('costs at least something for each item that it goes through: %s', (call) => {
    const items = call.includes('heap')
      ? HEAPS
      : call.includes('12)')
        ? 12
        : call.includes('40)')
          ? 40
          : call.includes('long')
            ? NUMBERS
            : CARDS;
    expect(heaviest(call) - heaviest('1')).toBeGreaterThan(items / 2);
  });
});
