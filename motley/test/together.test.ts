import { Game, quickChance } from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { exprValue, openTable, programOf, script } from './support.js';

/** Everything that a fold can be, asked of the same cards: no two of them stop at the same card. */
const FOLDS = [
  'if any(cs, c => c.rank == A) then 1 else 0',
  'if all(cs, c => c.pips < 12) then 1 else 0',
  'if none(cs, c => c.suit == hearts) then 1 else 0',
  'count(cs, c => c.color == red)',
  'sum(cs, c => worth(c))',
  'sum(cs, c => c.pips)',
];
const WORTH = 'def worth(c: card) = if c.rank == A then 11 else min(c.pips, 10)';
const sum = (of: string): string =>
  FOLDS.map((fold, i) => `${100 ** i} * (${fold})`.replace('(cs,', `(${of},`)).join(' + ');

describe('folds over the cards of a def', () => {
  const deal = (cards: number): string =>
    `shuffle pack ${cards > 0 ? `deal ${cards} from pack to row ` : ''}kept = row`;
  it.each([0, 1, 2, 3, 5, 8, 13, 20, 34])(
    'come to what each comes to alone, of %i cards, in a pile and in a list',
    (cards) => {
      const top = `var kept: cards ${WORTH} def all6(cs: cards) = ${sum('cs')}`;
      for (let seed = 0; seed < 12; seed++) {
        const said = (e: string): string => {
          const { opening } = openTable(script(`${deal(cards)} say "{${e}}" finish`, top), { seed: String(seed) });
          return opening.for(-2).flatMap((event) => (event.kind === 'said' ? [event.text] : []))[0] ?? '';
        };
        const alone = said(sum('row'));
        expect(said('all6(row)')).toBe(alone);
        expect(said('all6(kept)')).toBe(alone);
      }
    },
  );

  it('stop at the card that settles them, as each does alone', () => {
    // The king lies first, and the queen, for which this divides by zero, second.
    const settled = 'c => c.pips == 13 or 1 / (c.pips - 12) > 1';
    const first =
      'def busy(cs: cards) = (if any(cs, SETTLED) then 1 else 0) + sum(cs, c => c.pips) + count(cs, c => c.rank == A)';
    expect(exprValue('busy(row)', 'deal 3 from pack to row', first.replace('SETTLED', settled))).toBe('37');
    expect(() =>
      exprValue('busy(row)', 'deal 3 from pack to row', first.replace('SETTLED', 'c => 1 / (c.pips - 12) > 1')),
    ).toThrow('This divides by zero.');
  });

  it('that only some cards need are left where they stand', () => {
    // Without an ace nothing is divided by the aces.
    const rare =
      'def rare(cs: cards) = if any(cs, c => c.rank == A) then sum(cs, c => c.pips) / count(cs, c => c.rank == A) else sum(cs, c => c.pips) + sum(cs, c => 1 / (1 - (if c.rank == A then 1 else 0)))';
    expect(exprValue('rare(row)', 'deal 3 from pack to row', rare)).toBe('39');
    expect(exprValue('rare(row)', 'deal 13 from pack to row', rare)).toBe('91');
  });

  it('are counted once each, however often the def asks for them', () => {
    const spent = (body: string): number => {
      const text = script('deal 10 from pack to row x = busy(row) finish', `var x = 0 def busy(cs: cards) = ${body}`);
      const game = new Game(programOf(text), { seats: ['Wren'], chance: quickChance(1) });
      game.open();
      return game.code.spent();
    };
    const pips = 'sum(cs, c => c.pips)';
    const aces = 'count(cs, c => c.rank == A)';
    const both = spent(`${pips} + ${aces} + ${pips}`);
    expect(spent(`${pips} + ${aces} + ${pips} + ${aces} + ${pips}`)).toBe(both);
    expect(spent(`${pips} + ${aces} + ${pips} + max(cs, c => c.pips)`)).toBe(both + 10 * 3);
  });
});
