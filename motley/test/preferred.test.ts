import { type PileView, Table } from '@wily-jester/core';
import { compileSheet } from '@wily-jester/motley';
import { describe, expect, it } from 'vitest';
import { programOf } from './support.js';

/** A whole deck lies before one seat, whose bot has one line. */
const laying = (line: string): string => `game "Laying" for 1 seats {
  deck standard
  pile hand of each seat face up as fan sorted by rank
  pile laid face up as fan
  def twos(cs: cards) = all(cs, c => c.rank == 2)
  def mixed(cs: cards) = any(cs, c => c.rank != 2)
  play {
    shuffle pack
    deal 52 from pack to seats[1].hand
    ask seats[1] { option lay(cs: 1..4 cards in seats[1].hand) { move cs to laid } option pass { } }
    finish
  }
  bot steady { ${line}  pass }
}`;

/** The faces that the bot lays, with a seed. */
function laid(line: string, seed: string): string[] {
  const table = new Table(programOf(laying(line)), { seats: ['Wren'], seed });
  table.playBot(0, 0);
  return ((table.view(0).piles.laid as PileView).cards ?? []).map(String).sort();
}

/** More sets than are ever weighed one by one (294,203 of up to four cards of a deck). */
describe('a line that asks something of each card of a set', () => {
  const ALL = ['2♠', '2♥', '2♦', '2♣'].sort();

  it.each([
    ['all', 'lay(cs) when all(cs, c => c.rank == 2) prefer size(cs)'],
    ['none', 'lay(cs) when none(cs, c => c.rank != 2) prefer size(cs)'],
    ['a def', 'lay(cs) when twos(cs) prefer size(cs)'],
    ['not a def', 'lay(cs) when not mixed(cs) prefer size(cs)'],
    [
      'two tests',
      'lay(cs) when all(cs, c => c.rank == 2 or c.rank == 3) and not any(cs, c => c.rank == 3) prefer size(cs)',
    ],
  ])('finds the best among however many: %s', (_, line) => {
    for (const seed of ['a', 'b', 'c']) expect(laid(line, seed)).toEqual(ALL);
  });

  it('weighs what else is asked or preferred among those cards alone', () => {
    const three = 'lay(cs) when all(cs, c => c.rank == 2) and size(cs) == 3 prefer count(cs, c => c.suit == spades)';
    const cards = laid(three, 'a');
    expect(cards).toContain('2♠');
    expect(cards.filter((card) => ALL.includes(card))).toHaveLength(3);
    expect(laid('lay(cs) when all(cs, c => c.rank == 2) prefer -size(cs)', 'a')).toHaveLength(1);
  });

  it('plays each of equally good sets', () => {
    const seeds = Array.from({ length: 60 }, (_, i) => `even ${i}`);
    const found = seeds.flatMap((seed) => laid('lay(cs) when all(cs, c => c.rank == 2) prefer -size(cs)', seed));
    expect(found).toHaveLength(60);
    expect([...new Set(found)].sort()).toEqual(ALL);
  });

  it('has no way where no card passes', () => {
    expect(laid('lay(cs) when none(cs, c => c.pips > 0) prefer size(cs)', 'a')).toEqual([]);
  });

  it('is not told of as weighing too many, where one that asks of whole sets is', () => {
    const warned = (line: string): boolean =>
      compileSheet(laying(line)).problems.some(({ message }) => message.includes('weighs'));
    expect(warned('lay(cs) when twos(cs) prefer size(cs)')).toBe(false);
    expect(warned('lay(cs) when sum(cs, c => c.pips) > 8 prefer size(cs)')).toBe(true);
  });
});
