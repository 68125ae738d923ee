import { describe, expect, it } from 'vitest';
import { compileSheet } from '../src/index.js';
import { exprValue, openTable, said } from './support.js';

/** A sheet with a hand of written cards in `h`, which says what an expression gives. */
const table = (faces: string, expression: string, top = '', before = ''): string[] => {
  const cards = faces.split(' ').map((face) => `"${face}"`);
  return said(
    openTable(
      `game "Values" for 1 to 4 seats {
      deck of ${[...new Set(cards)].join(' ')}
      order ranks A..K
      shape set = 3..4 cards of one rank
      shape run = 3+ cards of one suit in rank order
      pile row face up
      ${top}
      def worth(c: card) = min(c.pips, 10)
      play { move all from pack to row face up
        let h = cards(row)
        ${before}
        say "{${expression}}" finish }
    }`.replace('let h = cards(row)', 'let h = row + []'),
    ),
  );
};
const value = (faces: string, expression: string, top = '', before = ''): string =>
  table(faces, expression, top, before).at(-1) ?? '';
const errors = (text: string): string[] =>
  compileSheet(text)
    .problems.filter((p) => p.severity === 'error')
    .map((p) => p.message);
const sheet = (play: string, top = ''): string =>
  `game "Values" for 1 to 4 seats { deck standard pile row face up shape set = 3..4 cards of one rank shape lone = 1+ cards of one rank
   shape run = 3+ cards of one suit in rank order ${top} play { ${play} finish } }`;

describe('choosing among cards as values', () => {
  const HAND = '5♠ 5♥ J♦ Q♣ 10♠';
  it('goes through all ways of a size, of several sizes, and of a range of sizes', () => {
    expect(value(HAND, 'count(choose(h, 2), cs => size(cs) == 2)')).toBe('10');
    expect(value(HAND, 'count(choose(h, [2, 3]), cs => yes)')).toBe('20');
    expect(value(HAND, 'count(choose(h, 1..5), cs => yes)')).toBe('31');
    expect(value(HAND, 'count(choose(h, 2..5), cs => sum(cs, worth) == 15)')).toBe('6');
    expect(value(HAND, 'count(choose(h, 0), cs => empty(cs))')).toBe('1');
    expect(value(HAND, 'count(choose(h, 6), cs => yes)')).toBe('0');
    expect(value(HAND, 'count(choose(1..6, 3), ns => sum(ns) == 10)')).toBe('3');
  });

  it('gives the first of the best, in the order of the list, and an empty list where there is none', () => {
    expect(value(HAND, 'best(choose(h, 2), cs => sum(cs, worth))')).toBe('J♦ Q♣');
    expect(value(HAND, 'least(choose(h, 2), cs => [sum(cs, worth), cs[1].suit])')).toBe('5♠ 5♥');
    expect(value(HAND, 'find(choose(h, 3), cs => sum(cs, worth) == 20)')).toBe('5♠ 5♥ J♦');
    expect(value(HAND, 'size(best(choose(h, 9), cs => sum(cs, worth)))')).toBe('0');
  });

  it('gives groups of shapes, smaller ones inside larger ones too', () => {
    const RUN = '4♠ 5♠ 6♠ 7♠ 7♥ 7♦';
    expect(value(RUN, 'count(choose(h, run), cs => yes)')).toBe('3');
    expect(value(RUN, 'count(choose(h, set | run), cs => yes)')).toBe('4');
    expect(value(RUN, 'max(choose(h, run), cs => size(cs))')).toBe('4');
  });

  it('stands inside another choice, and in defs', () => {
    expect(
      value(
        'A♠ K♠ Q♠ J♠ 10♠ 2♥ 3♥',
        'max(choose(first(h, 2), 2), two => max(choose(h, 3), three => high(two + three))).name',
        'def high(cs: cards) = pokerHigh(cs)',
      ),
    ).toBe('royal flush');
    expect(value(HAND, 'fifteens(h)', 'def fifteens(h: cards) = count(choose(h, 2), cs => sum(cs, worth) == 15)')).toBe(
      '6',
    );
  });

  it('is refused where it would be a list', () => {
    for (const play of ['let x = choose(row, 2)', 'say "{size(choose(row, 2))}"', 'for each cs in choose(row, 2) { }'])
      expect(errors(sheet(play))[0]).toContain('choose gives its ways one by one');
  });
});

describe('the best arrangement of cards', () => {
  it('shares no card, and leaves the least', () => {
    const HAND = '4♠ 5♠ 6♠ 7♠ 7♥ 7♦ K♣';
    expect(value(HAND, 'size(arranged(h, set | run))')).toBe('2');
    expect(value(HAND, 'without(h, arranged(h, set | run, worth))')).toBe('K♣');
    expect(value(HAND, 'arranged(h, set | run, worth)[1]')).toBe('7♠ 7♥ 7♦');
    expect(value('2♠ 9♥', 'size(arranged(h, set | run))')).toBe('0');
  });

  it('weighs cards as it is told', () => {
    // The four belongs to the run, or the run to the set: what is left decides.
    const HAND = '3♠ 4♠ 5♠ 5♥ 5♦';
    expect(value(HAND, 'without(h, arranged(h, set | run))')).toBe('5♥ 5♦');
    expect(value(HAND, 'without(h, arranged(h, set | run, c => if c.rank == 5 then 10 else 1))')).toBe('3♠ 4♠');
  });

  it('refuses shapes of one card, and what is no shape', () => {
    expect(errors(sheet('say "{size(arranged(row, lone))}"'))[0]).toContain('Every card would be a group');
    expect(errors(sheet('say "{size(arranged(row, 3))}"'))[0]).toContain('Shapes should stand here');
  });
});

describe('what compares', () => {
  it('is any value that has an order: ranks, hands, flags, kinds, keys', () => {
    const KIND = 'kind Mood = sad | calm | glad';
    expect(exprValue('max([A, 10, K], r => r)')).toBe('ace');
    expect(exprValue('max(yes, no)')).toBe('yes');
    expect(exprValue('min(Mood)', '', KIND)).toBe('sad');
    expect(exprValue('max(sad, glad)', '', KIND)).toBe('glad');
    expect(value('2♠ 9♥ K♦', 'max(h, c => c.rank)')).toBe('king');
    expect(value('A♠ K♠ Q♠ J♠ 10♠', 'max(choose(h, 3), cs => pokerHigh(cs)).name')).toContain('ace');
    expect(errors(sheet('say "{max(row)}"'))[0]).toContain('neither more nor less than another: say by what');
  });

  it('is turned round by a minus, part by part or as a whole', () => {
    expect(value('2♠ 9♥ K♦ 9♣', 'sorted(h, c => [-c.rank, c.suit])')).toMatch(/^K♦ 9.+ 2♠$/);
    expect(value('2♠ 9♥ K♦', 'best(h, c => -c.rank)')).toBe('2♠');
    expect(value('2♠ 9♥ K♦', 'first(sorted(h, c => -[c.rank, c.suit]))')).toBe('K♦');
    expect(value('2♠ 9♥ K♦', 'best(h, c => [-(c.suit == hearts), -c.rank])')).toBe('2♠');
  });
});

describe('small forms', () => {
  it('a range is a list of numbers', () => {
    expect(exprValue('sum(1..4)')).toBe('10');
    expect(exprValue('size(3..2)')).toBe('0');
    expect(exprValue('any(1..5, i => i * i == 16)')).toBe('yes');
    expect(exprValue('n in 2..9', 'let n = 9')).toBe('yes');
    expect(exprValue('n + 1 in 2..9', 'let n = 9')).toBe('no');
    expect(exprValue('max(0..6, n => if n * n < 20 then n else 0)')).toBe('4');
    expect(errors(sheet('let x = [1..5]'))[0]).toContain('Leave out the brackets');
  });

  it('what is left out may be an item, a list, or a list of lists', () => {
    expect(value('2♠ 9♥ K♦', 'without(h, h[2])')).toBe('2♠ K♦');
    expect(value('2♠ 9♥ K♦', 'without(h, first(h, 2))')).toBe('K♦');
    expect(value('2♠ 9♥ K♦ 9♣', 'without(h, groups(only(h, c => c.rank == 9), c => c.rank))')).toBe('2♠ K♦');
  });

  it('seats, suits, ranks and members have places, and suits a color', () => {
    expect(exprValue('seats[1].place')).toBe('1');
    expect(exprValue('hearts.color')).toBe('red');
    expect(exprValue('glad.place', '', 'kind Mood = sad | calm | glad')).toBe('3');
  });

  it('a low hand has ranks', () => {
    expect(value('8♠ 7♦ 6♣ 5♥ A♠', 'aceToFive(h).ranks[1]')).toBe('8');
  });

  it('an empty list takes the type of what stands beside it', () => {
    expect(value('2♠ 9♥', 'size(if h[1].rank == 2 then [] else h)')).toBe('0');
    expect(value('2♠ 9♥', 'size(if h[1].rank == 3 then [] else h)')).toBe('2');
  });
});

describe('domains', () => {
  const asking = (option: string, top = ''): string =>
    `game "Domains" for 1 seat { deck standard pile hand of each seat face up ${top}
     play { deal 6 from pack to seats[1].hand repeat { ask seats[1] { ${option} { finish } } } } }`;
  const lists = (option: string, top = ''): unknown => {
    const [offer] = openTable(asking(option, top), { seats: ['Wren'] }).view(0).offers;
    const param = offer?.params[0];
    return param?.kind === 'values' ? param.values.map(({ value }) => value) : null;
  };
  it('are written out: numbers, members, suits, ranks', () => {
    expect(lists('option a(n: 1 | 3 | 5)')).toEqual([1, 3, 5]);
    expect(lists('option a(m: calm | keen)', 'kind Mood = calm | keen | sad')).toEqual(['calm', 'keen']);
    expect(lists('option a(t: hearts | spades)')).toEqual(['hearts', 'spades']);
    expect(lists('option a(r: 10 | J | Q)')).toEqual(['10', 'J', 'Q']);
    expect(errors(asking('option a(n: 1 | 1)'))[0]).toBe('This value stands here twice.');
  });

  it('take a condition on their values', () => {
    expect(lists('option a(m: Mood where m != sad)', 'kind Mood = calm | keen | sad')).toEqual(['calm', 'keen']);
    expect(lists('option a(r: rank where r > J)')).toEqual(['Q', 'K', 'A']);
  });

  it('take a condition on whole sets of cards', () => {
    const table = openTable(asking('option a(cs: 2 cards in seats[1].hand where sum(cs, c => c.pips) > 20)'), {
      seats: ['Wren'],
    });
    const hand = table.game.rt.pileCards(table.state, 1);
    const faces = hand.map((card) => table.game.layout.faces[card]);
    expect(faces).toHaveLength(6);
    expect(table.view(0).offers[0]?.ways?.length).toBeLessThan(15);
  });
});
