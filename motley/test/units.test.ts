import { readFileSync } from 'node:fs';
import { soak } from '@wily-jester/core';
import { expect, it } from 'vitest';
import { programOf } from './support.js';

/** What each of these steps costs, in operations. It decides what is a fault, and so what old records come to: it stays. */
const pinned = JSON.parse(readFileSync(new URL('./units.golden.json', import.meta.url), 'utf8')) as Readonly<
  Record<string, number>
>;

/** A step for each thing that costs something, by what it does. */
const STEPS: Readonly<Record<string, string>> = {
  nothing: '',
  'one assignment': 'n = 1',
  'ten assignments': 'n = 1 n = 2 n = 3 n = 4 n = 5 n = 6 n = 7 n = 8 n = 9 n = 10',
  'an if, taken': 'if n == 0 { n = 1 }',
  'an if, not taken': 'if n == 1 { n = 1 } else { n = 2 }',
  'a while of ten turns': 'while n < 10 { n += 1 }',
  'a repeat of ten turns': 'repeat { n += 1 if n == 10 { break } }',
  'a for of ten turns': 'for i in 1..10 { n += i }',
  'a for each of cards': 'for each c in pack { n += c.pips }',
  'loops in loops': 'for i in 1..5 { for j in 1..5 { n += i * j } }',
  'a call of a def': 'n = twice(4)',
  'a call of a long def': 'n = long(4)',
  'a call of a routine': 'addTo(3)',
  'a sum of cards': 'n = sum(pack, c => c.pips)',
  'a count of cards': 'n = count(pack, c => c.suit == hearts)',
  'any of cards': 'if any(pack, c => c.pips == 10) { n = 1 }',
  'only some cards': 'kept = only(pack, c => c.pips > 5)',
  'the greatest of cards': 'n = max(pack, c => c.pips)',
  'cards sorted': 'kept = sorted(pack, c => c.pips)',
  'cards sorted by lists': 'kept = sorted(pack, c => [c.pips, 1])',
  'groups of cards': 'n = size(groups(pack, c => c.rank))',
  'distinct cards': 'kept = distinct(pack, c => c.rank)',
  'cards turned over': 'kept = reversed(pack)',
  'two lists added': 'kept = first(pack, 10) + last(pack, 10)',
  'a card in a list': 'if first(pack) in pack { n = 1 }',
  'lists compared': 'if first(pack, 20) == last(pack, 20) { n = 1 }',
  'the first card': 'let c = first(pack)',
  'the last card': 'let c = last(pack, 1)',
  'places of cards': 'kept = distinct(pack, c => c.place)',
  'a card moved': 'move first(pack) to row',
  'five cards dealt': 'deal 5 from pack to row',
  'a pile moved whole': 'move all from pack to row',
  'a pile turned face down': 'deal 5 from pack to row turn down row',
  'a pile shown': 'deal 5 from pack to seats[1].hand show seats[1].hand',
  'a shuffle': 'shuffle pack',
  'a hand ranked': 'if pokerHigh(first(pack, 5)) > pokerHigh(last(pack, 5)) { n = 1 }',
  'the best five of seven': 'kept = bestFive(first(pack, 7))',
  'a text kept': 'word = "{n} and {kept}"',
  'a line said': 'say "{seats[1]} goes, {size(pack)} are left"',
  'a word told': 'tell seats[1] "{n}"',
  'a chapter begun': 'chapter "On"',
  'a score': 'score seats[1] += 3',
};

const sheet = (body: string): string => `game "Price List" for 1 seat {
  deck standard
  pile row face up
  pile hand of each seat private
  var n = 0
  var kept: cards = []
  var word = ""
  def twice(a: int) = a + a
  def long(a: int) = ${Array.from({ length: 120 }, () => 'a').join(' + ')}
  routine addTo(a: int) { n += a }
  play { ask seats[1] { option go { ${body} } } finish }
}`;

/** What the one choice of such a sheet costs; the random game is played once. */
const costOf = (body: string): number => {
  const { heaviest, failures } = soak(programOf(sheet(body)), { games: 1, seed: 1 });
  expect(failures).toEqual([]);
  return heaviest.operations;
};

it('a step costs what it always did, by what it does', () => {
  expect(Object.fromEntries(Object.entries(STEPS).map(([name, body]) => [name, costOf(body)]))).toEqual(pinned);
});
