import { Fault, SetupError } from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { exprValue, openTable, said, script } from './support.js';

describe('numbers', () => {
  it.each([
    ['1 + 2 * 3', '7'],
    ['(1 + 2) * 3', '9'],
    ['7 / 2', '3'],
    ['-7 / 2', '-4'],
    ['7 % 3', '1'],
    ['-7 % 3', '2'],
    ['abs(-4)', '4'],
    ['min(3, 5) + max(3, 5)', '8'],
    ['if 2 > 1 then 10 else 20', '10'],
    ['sum([1, 2, 3])', '6'],
    ['max([4, 9, 2])', '9'],
    ['plural(1, "card")', '1 card'],
    ['plural(3, "penny")', '3 pennies'],
  ])('%s is %s', (expression, value) => {
    expect(exprValue(expression)).toBe(value);
  });

  it.each([
    ['9007199254740991 + 1', /too large/],
    ['1 / (size(row))', /divides by zero/],
    ['1 % (size(row))', /divides by zero/],
  ])('%s is a fault', (expression, message) => {
    expect(() => exprValue(expression)).toThrow(message);
  });
});

describe('logic', () => {
  it.each([
    ['1 < 2 and not (2 < 1)', 'yes'],
    ['1 < 2 and 2 < 1 or 3 == 3', 'yes'],
    ['yes == no', 'no'],
    ['2 in [1, 2]', 'yes'],
    ['hearts == spades', 'no'],
    ['all([2, 4], n => n % 2 == 0)', 'yes'],
    ['any([1, 3], n => n % 2 == 0)', 'no'],
    ['none([1, 3], n => n % 2 == 0)', 'yes'],
    ['count([1, 2, 3], n => n > 1)', '2'],
    ['size(only([1, 2, 3], n => n > 1))', '2'],
    ['sum(map([1, 2, 3], n => n * n))', '14'],
    ['find([3, 5, 8], n => n > 4)', '5'],
  ])('%s is %s', (expression, value) => {
    expect(exprValue(expression)).toBe(value);
  });

  it('does not look at what is decided already', () => {
    expect(exprValue('empty(row) or top(row).rank == A')).toBe('yes');
    expect(exprValue('not empty(row) and top(row).rank == A')).toBe('no');
  });
});

describe('cards', () => {
  const deal = 'deal 5 from pack to row';
  it.each([
    ['top(row)', '9♣'],
    ['first(row)', 'K♣'],
    ['row[2]', 'Q♣'],
    ['top(row).rank == 9', 'yes'],
    ['top(row).suit', 'club'],
    ['top(row).color == black', 'yes'],
    ['row[1].pips', '13'],
    ['top(row).place', '5'],
    ['row[1] is "K♣"', 'yes'],
    ['size(row)', '5'],
    ['sum(row, c => c.pips)', '55'],
    ['best(row, c => c.rank)', 'K♣'],
    ['least(row, c => c.rank)', '9♣'],
    ['last(row, 2)', '10♣ 9♣'],
    ['first(reversed(row))', '9♣'],
    ['leaders(row, c => c.rank > J)', 'K♣ Q♣'],
    ['size(row + row)', '10'],
    ['next(row[2].rank)', 'king'],
    ['next(K)', 'ace'],
    ['next(A) == nothing', 'yes'],
    ['top(row) in row', 'yes'],
    ['size(without(row, top(row)))', '4'],
  ])('%s is %s', (expression, value) => {
    expect(exprValue(expression, deal)).toBe(value);
  });

  it('compare as the game orders them', () => {
    expect(exprValue('A > K')).toBe('yes');
    expect(exprValue('A > K', '', 'order ranks A..K')).toBe('no');
    expect(exprValue('2 > A', '', 'order ranks 3..A, 2')).toBe('yes');
    expect(exprValue('hearts > clubs', '', 'order suits diamonds, clubs, hearts, spades')).toBe('yes');
  });

  it('fault where there is none', () => {
    expect(() => exprValue('top(row).rank')).toThrow(/nothing here/);
    expect(() => exprValue('row[3]')).toThrow(/no card 3/);
  });
});

describe('moves', () => {
  const lines = (body: string, top = '', seats = ['Wren']): string[] =>
    said(openTable(script(`${body} finish`, top), { seats }));

  it('deal one at a time round the table', () => {
    const body = 'deal 2 each from pack to hand  for each s in seats { say "{s} {size(s.hand)} {top(s.hand)}" }';
    expect(lines(body, '', ['Wren', 'Otter'])).toEqual(['Wren 2 J♣', 'Otter 2 10♣']);
  });

  it('begin where they are told to, and go to those who are named', () => {
    const body =
      'deal 1 each from pack to hand of only(seats, s => s != seats[2]) starting seats[3]  for each s in seats { say "{last(s.hand, 9)}" }';
    expect(lines(body, '', ['Wren', 'Otter', 'Heron'])).toEqual(['Q♣', 'no cards', 'K♣']);
  });

  it('deal all across several piles', () => {
    const body = 'deal all from pack across lock  say "{size(lock[1])} {size(lock[2])} {size(lock[3])} {top(lock[1])}"';
    expect(lines(body, 'pile lock[3] face up')).toEqual(['18 17 17 A♠']);
  });

  it('stop early where fewer will do, and fault where not', () => {
    expect(lines('deal 50 from pack to row  deal up to 9 from pack to stock  say "{size(stock)}"')).toEqual(['2']);
    expect(() => lines('deal 53 from pack to row')).toThrow(/deals from pack, and pack is empty/);
  });

  it('keep, reverse or lay beneath', () => {
    const start = 'deal 3 from pack to row';
    expect(lines(`${start} move all from row to stock  turn up stock  say "{last(stock, 9)}"`)).toEqual(['K♣ Q♣ J♣']);
    expect(lines(`${start} move all from row to stock reversed  turn up stock  say "{last(stock, 9)}"`)).toEqual([
      'J♣ Q♣ K♣',
    ]);
    expect(lines(`${start} move top(pack) to row beneath  say "{last(row, 9)}"`)).toEqual(['10♣ K♣ Q♣ J♣']);
    expect(lines(`${start} move row[2] to stock  say "{last(row, 9)}"`)).toEqual(['K♣ J♣']);
  });

  it('gather piles, and the whole table', () => {
    expect(
      lines('deal 4 from pack to row  deal 2 each from pack to hand  gather row, hand to stock  say "{size(stock)}"'),
    ).toEqual(['6']);
    expect(lines('deal 4 from pack to row  gather all to stock  say "{size(stock)} {size(row)}"')).toEqual(['52 0']);
  });

  it('give the card that moved a name', () => {
    expect(lines('let c = deal 1 from pack to row  say "{c}"')).toEqual(['K♣']);
  });

  it('refill a pile that a deal finds empty', () => {
    const top = 'pile shoe face down refill more  routine more { move all from row to shoe  say "more" }';
    expect(lines('deal 2 from pack to row  deal 1 from shoe to stock  say "{size(shoe)}"', top)).toEqual(['more', '1']);
  });

  it('grow one pile over all room and back, many times, without losing a card', () => {
    const body =
      'for n in 1..20 { deal all from pack across lock  for each p in lock { move all from p to row }  move all from row to pack reversed }  say "{size(pack)}"';
    expect(lines(body, 'pile lock[9] face up')).toEqual(['52']);
  });
});

describe('facing', () => {
  const view = (body: string, viewer: number, top = ''): unknown =>
    openTable(script(`${body} ask seats[1] { option go { } }`, top), { seats: ['Wren', 'Otter'] }).view(viewer).piles;

  it('shows up cards to all, down cards to nobody, private ones to their owner', () => {
    const body = 'deal 2 from pack to row  deal 1 from pack to row face down  deal 2 each from pack to hand';
    expect(view(body, 0)).toMatchObject({
      row: { size: 3, cards: ['K♣', 'Q♣', null] },
      hand: { 1: { size: 2, cards: ['10♣', '8♣'] }, 2: { size: 2 } },
      pack: { size: 45 },
    });
    expect(JSON.stringify(view(body, -1))).not.toContain('10♣');
    expect(view(body, -2)).toMatchObject({ row: { cards: ['K♣', 'Q♣', 'J♣'], closed: [3] } });
  });

  it('turns cards up and down, and to one seat', () => {
    expect(view('deal 2 from pack to stock  turn up top(stock)', 1)).toMatchObject({ stock: { cards: [null, 'Q♣'] } });
    expect(view('deal 2 from pack to row  turn down row', 1)).toMatchObject({ row: { size: 2 } });
    const body = 'deal 2 from pack to stock  turn top(stock) to seats[2]';
    expect(view(body, 1)).toMatchObject({ stock: { cards: [null, 'Q♣'] } });
    expect(JSON.stringify(view(body, 0))).not.toContain('Q♣');
  });

  it('names a hidden card to those who see it, and says "a card" to the rest', () => {
    const table = openTable(
      script('deal 1 each from pack to hand  say "{seats[1]} looks at {top(seats[1].hand)}." finish'),
      {
        seats: ['Wren', 'Otter'],
      },
    );
    const text = (viewer: number): unknown => table.opening.for(viewer).find((e) => e.kind === 'said');
    expect(text(0)).toMatchObject({ text: 'Wren looks at K♣.' });
    expect(text(1)).toMatchObject({ text: 'Wren looks at a card.' });
    expect(text(-1)).toMatchObject({ text: 'Wren looks at a card.' });
  });

  it('tells one seat alone', () => {
    const table = openTable(script('tell seats[2] "A word." finish'), { seats: ['Wren', 'Otter'] });
    expect(table.opening.for(1)).toContainEqual({ kind: 'told', text: 'A word.' });
    expect(table.opening.for(0)).toEqual([]);
  });
});

describe('the script', () => {
  const lines = (body: string, top = '', seats = ['Wren']): string[] =>
    said(openTable(script(`${body} finish`, top), { seats }));

  it('loops, leaves and goes on', () => {
    expect(lines('var n = 0  while n < 3 { n += 1  say "{n}" }')).toEqual(['1', '2', '3']);
    expect(lines('var n = 0  repeat { n += 1  if n == 2 { break } }  say "{n}"')).toEqual(['2']);
    expect(lines('var n = 0  repeat { n += 2 } until n > 5  say "{n}"')).toEqual(['6']);
    expect(lines('for i in 3..5 { say "{i}" }')).toEqual(['3', '4', '5']);
    expect(lines('for i in 5..3 { say "{i}" }')).toEqual([]);
    expect(lines('for each s in seats where s != seats[2] { say "{s}" }', '', ['Wren', 'Otter', 'Heron'])).toEqual([
      'Wren',
      'Heron',
    ]);
  });

  it('runs routines with values, and returns from them', () => {
    const top = 'routine add(a: int, b: int) { if a == 0 { return }  say "{a + b}" }';
    expect(lines('add(1, 2)  add(0, 2)  add(3, 4)', top)).toEqual(['3', '7']);
  });

  it('keeps variables of the table, of seats and of piles, and resets them', () => {
    const top =
      'pile lock[2] face up  var depth of each lock: int = 1  var bank of each seat: int = 5 "chips"  var open: flag = no';
    const body =
      'lock[2].depth += 6  seats[1].bank *= 3  open = yes  say "{lock[1].depth} {lock[2].depth} {seats[1].bank} {open}"  reset bank, depth  say "{lock[2].depth} {seats[1].bank}"';
    expect(lines(body, top)).toEqual(['1 7 15 yes', '1 5']);
  });

  it('keeps lists, and knows kinds by their labels', () => {
    const top = 'kind Mood = calm | keen "rather keen"  var mood of each seat: Mood = calm  var known: seats';
    expect(
      lines('seats[1].mood = keen  known += [seats[1]]  say "{seats[1].mood} {size(known)} {known}"', top),
    ).toEqual(['rather keen 1 Wren']);
  });

  it('chooses the first way that holds', () => {
    const top = 'def points(c: card) = 13 when c is "Q♠", 1 when c.suit == clubs, 0 otherwise';
    expect(lines('say "{points(top(pack))}"  shuffle pack  say "{sum(pack, points)}"', top)).toEqual(['1', '26']);
  });

  it('picks by chance, the same for the same seed', () => {
    const top = 'var dealer: seat = nothing';
    const picked = (seed: string): string[] =>
      said(
        openTable(script('for i in 1..8 { pick dealer from seats  say "{dealer}" } finish', top), {
          seats: ['Wren', 'Otter'],
          seed,
        }),
      );
    expect(picked('a')).toEqual(picked('a'));
    expect(new Set(picked('a')).size).toBe(2);
    expect(picked('a')).not.toEqual(picked('b'));
  });

  it('goes round the seats', () => {
    const body = 'say "{next(seats[3])} {previous(seats[1])} {seatsFrom(seats[2])} {others(seats[2])}"';
    expect(lines(body, '', ['Wren', 'Otter', 'Heron'])).toEqual(['Wren Heron Otter, Heron and Wren Wren and Heron']);
  });

  it('stops a script that runs on without waiting, and names the loop', () => {
    const source = script('var n = 0\n repeat { n += 1 } until n < 0 finish');
    const error = (() => {
      try {
        openTable(source);
        return undefined;
      } catch (thrown) {
        return thrown as Fault;
      }
    })();
    expect(error).toBeInstanceOf(Fault);
    expect(error?.message).toContain('operations');
    expect(error?.line).toBe(8);
  });

  it('stops a script that makes too much happen', () => {
    expect(() =>
      openTable(script('for i in 1..400 { move all from pack to row  move all from row to pack } finish')),
    ).toThrow(/things happened/);
  });
});

describe('settings', () => {
  const SOURCE = script(
    'say "{rounds} {draw} {style == noLimit} {quick}" finish',
    'setting rounds: 1..9 = 3 "rounds"  setting draw: 1 | 3 = 3  setting style: noLimit | fixed = fixed  setting quick: flag = no  needs rounds != 4 else "Four rounds bring no luck, {seats[1]}."',
  ).replaceAll('quick', 'brisk');

  it("take the sheet's values, or the table's", () => {
    expect(said(openTable(SOURCE))).toEqual(['3 3 no no']);
    expect(said(openTable(SOURCE, { settings: { rounds: 5, draw: 1, style: 'noLimit', brisk: true } }))).toEqual([
      '5 1 yes yes',
    ]);
  });

  it.each([
    [{ rounds: 10 }, /rounds is a whole number from 1 to 9, not 10/],
    [{ draw: 2 }, /draw is one of 1, 3/],
    [{ style: 'wild' }, /style is one of noLimit, fixed/],
    [{ brisk: 'perhaps' }, /brisk is yes or no/],
    [{ nothing: 1 }, /has no setting "nothing"/],
    [{ rounds: 4 }, /Four rounds bring no luck, Wren/],
  ])('refuse %j', (settings, message) => {
    expect(() => openTable(SOURCE, { settings })).toThrow(SetupError);
    expect(() => openTable(SOURCE, { settings })).toThrow(message);
  });

  it('refuse seats that do not fit', () => {
    expect(() => openTable(SOURCE, { seats: [] })).toThrow(/for 1 to 4 seats, not 0/);
    expect(() => openTable(SOURCE, { seats: ['Wren', 'Wren'] })).toThrow(/Two seats are called "Wren"/);
  });
});
