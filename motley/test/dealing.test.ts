import { describe, expect, it } from 'vitest';
import { exprValue, openTable, said, script } from './support.js';

const SEATS = ['Wren', 'Otter', 'Heron'];
const SPLIT = 'pile split[2] of each seat face up  pile lane[3] face up';
/** What lies where after a deal from an unshuffled pack, whose top is K♣ Q♣ J♣ and so on. */
const dealt = (body: string, pile: string, gets: Record<string, string> = {}): string =>
  said(openTable(script(`${body} say "{${pile}}" finish`, SPLIT), { seats: SEATS, gets })).at(-1) ?? '';

/** The cards of a pile, where a text would name the pile. */
const cards = (pile: string): string => `first(${pile}, 9)`;

describe('dealing to several piles of each seat', () => {
  it('goes round the table for the first of every seat, then for the second', () => {
    const body = 'deal 1 each from pack to split';
    expect(dealt(body, cards('seats[1].split[1]'))).toBe('K♣');
    expect(dealt(body, cards('seats[3].split[1]'))).toBe('J♣');
    expect(dealt(body, cards('seats[1].split[2]'))).toBe('10♣');
    expect(dealt(`${body} ${body}`, cards('seats[2].split[2]'))).toBe('9♣ 3♣');
  });

  it('begins where it is told to, and heeds what is promised', () => {
    const body = 'deal 2 each from pack to split of [seats[2], seats[3]] starting seats[3]';
    expect(dealt(body, cards('seats[3].split[1]'))).toBe('K♣ 9♣');
    expect(dealt(body, 'size(seats[1].split[1])')).toBe('0');
    expect(dealt(body, cards('seats[2].split[2]'), { 'split/2/2': 'A♥ 2♥' })).toBe('A♥ 2♥');
  });
});

describe('the value of a deal to several piles', () => {
  it.each([
    ['let cs = deal 1 each from pack to hand', 'K♣ Q♣ J♣'],
    ['let cs = deal 2 from pack across lane', 'K♣ Q♣ J♣ 10♣ 9♣ 8♣'],
    ['let cs = deal up to 2 each from pack to split of [seats[1]]', 'K♣ Q♣ J♣ 10♣'],
    ['move first(pack, 48) to row let cs = deal all from pack across lane', 'K♣ Q♣ J♣ 10♣'],
    ['let cs = deal 1 from pack across lane', 'K♣ Q♣ J♣'],
  ])('%s: the cards in the order in which they came', (body, cards) => {
    expect(dealt(body, 'cs')).toBe(cards);
  });
});

describe('texts that are kept', () => {
  it('may have a name, and stand in other texts', () => {
    expect(exprValue('t}, {t', 'let t = "{size(pack)} cards"')).toBe('52 cards, 52 cards');
  });

  it('are kept for the table and for seats, and drawn under their labels', () => {
    const table = openTable(
      script(
        `deal 1 each from pack to hand
         for each s in seats { s.motto = "holds {top(s.hand)}" }
         memo = "{memo} and on"
         ask seats[1] { option stop { finish } }`,
        'var memo = "begun" "the memo"  var motto of each seat: text "motto"  var helper = "seen by nobody"',
      ),
      { seats: SEATS },
    );
    expect(table.view(-1).values).toEqual({ memo: 'begun and on' });
    expect(table.view(-1).seats[0]?.values).toEqual({ motto: 'holds a card' });
    expect(table.view(0).seats[0]?.values).toEqual({ motto: 'holds K♣' });
    expect(table.view(1).seats[0]?.values).toEqual({ motto: 'holds a card' });
  });

  it('outlive a wait, and count for the digest', () => {
    const kept = (word: string) =>
      openTable(script(`let t = "${word}" ask seats[1] { option stop { say "{t}" finish } }`));
    expect(kept('one').digest()).not.toBe(kept('two').digest());
  });
});

describe('families', () => {
  it('may have a size that is a product', () => {
    expect(openTable(script('finish', 'pile cell[2 * 3] face up')).game.layout.piles).toHaveLength(4 + 6);
  });
});
