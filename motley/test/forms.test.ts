import { Game, isPlayed, type Played, quickChance } from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { choose, exprValue, openTable, programOf, said, script } from './support.js';

const events = (played: Played, viewer: number) => played.stepEvents.for(viewer);
/** Four cards from the top of an unshuffled pack lie in the row: K♣ Q♣ J♣ 10♣. */
const DEALT = 'deal 4 from pack to row';
describe('lists in order and together', () => {
  it.each([
    ['sorted(row, c => c.rank)', '10♣ J♣ Q♣ K♣'],
    ['sorted(row, c => [c.rank == Q, c.rank])', '10♣ J♣ K♣ Q♣'],
    ['sorted([3, 1, 2])', '1, 2, 3'],
    ['size(groups(row, c => c.rank > J))', '2'],
    ['groups(row, c => c.rank > J)[2]', 'J♣ 10♣'],
    ['distinct(row, c => c.suit)', 'K♣'],
    ['distinct([2, 1, 2])', '2, 1'],
    ['first(row, 2)', 'K♣ Q♣'],
    ['best(row, c => [c.suit, c.rank])', 'K♣'],
    ['least(row, c => [c.suit == spades, c.rank])', '10♣'],
    ['leaders(row, c => [c.color == black, c.rank > J])', 'K♣ Q♣'],
    ['if [1, 2] == [1, 2] and [1, 2] != [2, 1] then 1 else 0', '1'],
    ['if [2, A] > [1, K] then "more" else "less"', 'more'],
    ['count(ranks, r => r > 10)', '4'],
    ['size(suits)', '4'],
  ])('%s is %s', (expression, value) => {
    expect(exprValue(expression, DEALT)).toBe(value);
  });
});

describe('ranked hands in a sheet', () => {
  it.each([
    ['pokerHigh(row).name', 'king high: king, queen, jack, ten'],
    ['pokerHigh(row)', 'king high: king, queen, jack, ten'],
    ['pokerHigh(row + card "9♣").category', 'straight flush'],
    ['pokerHigh(row + card "K♠").ranks', 'king, queen, jack, 10'],
    ['if pokerHigh(row).category < pair then "low" else "high"', 'low'],
    ['if pokerHigh(row + card "K♠") > pokerHigh(row) then "more" else "less"', 'more'],
    ['bestFive(row + card "K♠" + card "2♠" + card "3♠")', 'K♠ K♣ Q♣ J♣ 10♣'],
    [
      'aceToFive([card "A♠", card "2♠", card "3♠", card "4♠", card "5♠"]).name',
      'five low: five, four, three, two, ace',
    ],
    ['if deuceToSeven([card "7♠", card "2♦"]) > deuceToSeven([card "A♠", card "2♦"]) then 1 else 0', '1'],
  ])('%s is %s', (expression, value) => {
    expect(exprValue(expression, DEALT)).toBe(value);
  });

  it('stop with a fault where there is nothing to rank', () => {
    expect(() => openTable(script('say "{pokerHigh(row)}"'))).toThrow('A hand of no cards cannot be ranked.');
    expect(() => openTable(script('say "{aceToFive(pack)}"'))).toThrow(
      'A low is found among at most 14 cards, not 52.',
    );
  });

  it('read no card that the seat may not see', () => {
    const text = script(
      'deal 2 each from pack to hand ask seats[1] { option peek when pokerHigh(seats[2].hand).category == pair { } option rest { } } finish',
    );
    expect(() => openTable(text, { seats: ['Wren', 'Otter'] })).toThrow('This reads a card that the seat may not see.');
  });
});

describe('a named card', () => {
  const holder = (where: string): string =>
    script(
      `deal 2 each from pack to hand ask seats[1] { option lead when card "K♣" in ${where} { } option rest { } } finish`,
    );
  it('is found wherever it lies', () => {
    expect(exprValue('card "K♣".place', DEALT)).toBe('1');
    expect(exprValue('find(seats, s => card "K♣" in s.hand)', 'deal 1 each from pack to hand')).toBe('Wren');
  });
  it('may be asked for in a hand that is seen, and not in one that is hidden', () => {
    const seats = { seats: ['Wren', 'Otter'] };
    expect(
      openTable(holder('seats[1].hand'), seats)
        .view(0)
        .offers.map((o) => o.option),
    ).toEqual(['lead', 'rest']);
    expect(() => openTable(holder('seats[2].hand'), seats)).toThrow('may not see');
  });
  it('must be one of its kind', () => {
    const two = script('say "{card "K♣"}"').replace('deck standard', 'deck standard copies 2');
    expect(() => openTable(two)).toThrow('There are several K♣ in this deck.');
    const none = script('say "{card "K♣"}"').replace('deck standard', 'deck ranks 2..9');
    expect(() => openTable(none)).toThrow('There is no K♣ in this deck.');
  });
});

describe('what is seen for a moment, and what was seen', () => {
  it('is an event with the face for those who see it, and the card stays as it lay', () => {
    const text = script(
      'deal 1 each from pack to hand ask seats[1] { option showAll { show seats[1].hand } option showOne { show seats[1].hand to seats[3] } } finish',
    );
    const open = () => openTable(text, { seats: ['Wren', 'Otter', 'Teal'] });
    const all = choose(open(), 0, 'showAll');
    expect(events(all, 1)).toContainEqual({ kind: 'shown', pile: 'hand/1', position: null, face: 'K♣', seat: null });
    const table = open();
    const one = choose(table, 0, 'showOne');
    expect(events(one, 2)).toContainEqual({ kind: 'shown', pile: 'hand/1', position: null, face: 'K♣', seat: 3 });
    expect(events(one, 1)).toContainEqual({ kind: 'shown', pile: 'hand/1', position: null, face: null, seat: 3 });
    expect(table.view(2).piles).toMatchObject({ hand: { 1: { size: 1 } } });
    expect(JSON.stringify(table.view(2).piles)).not.toContain('K♣');
  });

  const MEMORY = (then: string): string =>
    script(
      `deal 2 from pack to row turn down row ${then} ask seats[1] { option name(c: card in row) { say "named {c.pips}" } } finish`,
      'bot wise { name(c) when seen(c) prefer c.pips  name(c) }',
    );
  it('is known to a bot until the card is shuffled', () => {
    const remembered = openTable(MEMORY(''));
    expect(events(remembered.playBot(0, 0), -2)).toContainEqual({ kind: 'said', text: 'named 13' });
    const shuffled = openTable(MEMORY('move all from row to stock shuffle stock move all from stock to row face down'));
    expect(shuffled.playBot(0, 0).row.option).toBe('name');
  });
  it('is lost where a hidden card leaves a hand: nobody else knows which one it was', () => {
    const text = script(
      `deal 1 from pack to row move row to seats[2].hand ${'deal 1 from pack to seats[2].hand '.repeat(2)}
       move last(seats[2].hand, 1) to row face down
       ask seats[1] { option name(c: card in seats[2].hand + row) { say "named {c.pips}" } }
       finish`,
      'bot wise { name(c) when seen(c) prefer 9  name(c) }',
    );
    const table = openTable(text, { seats: ['Wren', 'Otter'] });
    const known = table.game.layout.faces.map((_, c) => table.game.rt.knows(table.state, c, 0));
    expect(known.filter(Boolean)).toEqual([]);
    const kept = openTable(text.replace('move last(seats[2].hand, 1) to row face down', ''), {
      seats: ['Wren', 'Otter'],
    });
    expect(kept.game.layout.faces.filter((_, c) => kept.game.rt.knows(kept.state, c, 0))).toHaveLength(1);
  });
  it('lets no bot read what its seat never saw', () => {
    const text = MEMORY('deal 1 from pack to row face down').replace('when seen(c) ', '');
    expect(() => openTable(text).playBot(0, 0)).toThrow('may not see');
  });
});

describe('options that ask for each other', () => {
  const sheet = script(
    `${DEALT} ask seats[1] { option lay(c: card in row where c.rank == K) needs c.suit == spades { } option draw when not can lay { } option rest when can lay(card "K♣") or can draw { } } finish`,
  );
  it('are there when the other has a legal choice, or not', () => {
    expect(
      openTable(sheet)
        .view(0)
        .offers.map((o) => [o.option, o.legal]),
    ).toEqual([
      ['lay', false],
      ['draw', true],
      ['rest', true],
    ]);
    expect(
      openTable(sheet.replace('== spades', '== clubs'))
        .view(0)
        .offers.map((o) => o.option),
    ).toEqual(['lay', 'rest']);
  });
});

describe('options that ask in a circle', () => {
  it('are a fault that says so', () => {
    const text = script('ask seats[1] { option left when can right { } option right when can left { } } finish');
    expect(() => openTable(text)).toThrow('"can" asks in a circle here');
  });
});

describe('nothing, where a card, seat or pile is needed', () => {
  const THERE_IS_NOTHING = 'There is nothing here: a card, seat or pile was needed.';
  const nobody = 'let who = find(seats, s => size(s.hand) > 9)';
  it.each([
    ["a seat's pile, measured", `${nobody} say "{size(who.hand)}"`],
    ["a seat's pile, listed", `${nobody} for each c in who.hand { say "{c}" }`],
    ["a seat's pile, dealt to", `${nobody} deal 1 from pack to who.hand`],
    ["a seat's pile, gathered", `${nobody} gather who.hand to stock`],
    ["a seat's variable, read", `${nobody} say "{who.n}"`],
    ["a seat's variable, written", `${nobody} who.n = 5`],
    ["a seat's score, written", `${nobody} score who = 5`],
    ["a card's rank", 'let c = find(row, d => d.rank == K) if c.rank == K { say "a king" }'],
    ["a card's pile", 'let c = find(row, d => d.rank == K) if c in stock { say "there" }'],
    ['the first to be dealt to', `${nobody} deal 1 each from pack to hand starting who`],
  ])('stops the step: %s', (_, body) => {
    expect(() => openTable(script(`${body} finish`, 'var n of each seat = 0'))).toThrow(THERE_IS_NOTHING);
  });

  it('may be asked about, and compared', () => {
    expect(said(openTable(script(`${nobody} say "{if who == nothing then "nobody" else "somebody"}" finish`)))).toEqual(
      ['nobody'],
    );
  });
});

describe('a stacked pack', () => {
  const dealt = (gets: Record<string, string>): string[] =>
    said(
      openTable(
        script(
          'shuffle pack deal 2 each from pack to hand deal 2 from pack to row for each s in seats { say "{s.hand}" } say "{row}" finish',
        ),
        { seats: ['Wren', 'Otter'], gets },
      ),
    );
  it('on top comes in its order, wherever it is dealt', () => {
    expect(
      openTable(script('shuffle pack deal 3 from pack to row finish'), { gets: { top: 'A♠ K♥ 7♦' } }).view(0).piles.row,
    ).toMatchObject({
      cards: ['A♠', 'K♥', '7♦'],
    });
  });

  it('gives piles what they were promised first, and the top to the others', () => {
    const piles = openTable(script('shuffle pack deal 2 from pack to row deal 1 from pack to stock finish'), {
      gets: { row: 'Q♣', top: 'A♠ K♥' },
    }).view(-2).piles;
    expect(piles).toMatchObject({ row: { cards: ['Q♣', 'A♠'] }, stock: { cards: ['K♥'] } });
  });

  it('is refused where the deck has not so many of a card, or there is no such pile', () => {
    expect(() => dealt({ top: 'A♠', 'hand/1': 'A♠' })).toThrow(
      'promised a card that the deck does not have, or not so often',
    );
    expect(() => dealt({ tops: 'A♠' })).toThrow('"top" is what is dealt next');
  });
});

describe('looking at a table', () => {
  it('never uses up what a step may take, however often it is looked at', () => {
    const text = script(
      'deal 20 from pack to row ask seats[1] { option add(c: card in row) needs sum(row, d => sum(row, e => e.pips)) > c.pips { } } finish',
    );
    const table = openTable(text);
    for (let i = 0; i < 400; i++) expect(table.view(0).offers[0]?.legal).toBe(true);
    for (let i = 0; i < 400; i++)
      expect(table.choose(0, { ask: 0, option: 'add', args: {} })).toMatchObject({ kind: 'malformed' });
    expect(isPlayed(table.choose(0, { ask: 0, option: 'add', args: { c: 'row#1' } }))).toBe(true);
  });

  it('cannot fail: a clause that reads a hidden card is a fault of the step that asks', () => {
    const text = script(
      'deal 1 each from pack to hand ask seats[1] { option go { } } ask seats[1] { option rest { } option peek when top(seats[2].hand).rank == A { } } finish',
    );
    const table = openTable(text, { seats: ['Wren', 'Otter'] });
    expect(() => table.choose(0, { ask: 0, option: 'go' })).toThrow('may not see');
    expect(table.number).toBe(0);
    expect(table.view(0).offers.map((o) => o.option)).toEqual(['go']);
  });
});

describe('families with several numbers', () => {
  const HEAP = 'pile heap[r in 1..3, i in 1..r] face up at 2 * i - r, r';
  it('are dealt across, counted by both numbers, and know them', () => {
    expect(exprValue('top(heap[3, 2])', 'deal all from pack across heap', HEAP)).toBe('6♠');
    expect(exprValue('heap[3, 2].r * 10 + heap[3, 2].i', '', HEAP)).toBe('32');
    expect(exprValue('count(heap, p => p.i == p.r)', '', HEAP)).toBe('3');
  });
  it('have no pile beyond them', () => {
    expect(() => openTable(script('say "{size(heap[2, 3])}"', HEAP))).toThrow('There is no heap[2, 3].');
  });
});

describe('variables of each', () => {
  it.each([
    ['hearts.called', 'var called of each suit: int = 3', '', '3'],
    ['K.met', 'var met of each rank: int = 0', 'for each c in row { c.rank.met += 1 }', '1'],
    ['top(row).marks', 'var marks of each card: int = 0', 'for each c in row { c.marks = c.pips }', '10'],
    ['sum(suits, u => u.called)', 'var called of each suit: int = 2', 'spades.called = 5', '11'],
  ])('%s', (expression, top, before, value) => {
    expect(exprValue(expression, `${DEALT} ${before}`, top)).toBe(value);
  });
});

describe('teams', () => {
  const teams = (body: string, top = ''): string =>
    script(body, top).replace('for 1 to 4 seats', 'for 4 seats in 2 teams');
  const four = { seats: ['Wren', 'Otter', 'Teal', 'Rook'] };
  it('alternate, and score together', () => {
    const table = openTable(
      teams(
        'score teams[2] += 5 score seats[4].team += 1 say "{teams[2]} {seats[3].team == teams[1]} {teams[2].score}" finish',
      ),
      four,
    );
    expect(said(table)).toEqual(['Otter and Rook yes 6']);
    expect(table.scores()).toEqual([0, 6, 0, 6]);
    expect(table.view(-1).result).toEqual({ winners: [2, 4] });
  });
  it('have piles and variables of their own', () => {
    const text = teams(
      'deal 1 from pack to teams[2].won teams[1].bags = 4 for each t in teams { say "{size(t.won)} {t.bags} {next(t)}" } finish',
      'pile won of each team face up var bags of each team: int = 1',
    );
    expect(said(openTable(text, four))).toEqual(['0 4 Otter and Rook', '1 1 Wren and Teal']);
  });
});

describe('small forms', () => {
  it('the next seat that fits may be the seat itself, or nobody', () => {
    const seats = { seats: ['Wren', 'Otter', 'Teal'] };
    const text = (expression: string): string =>
      script(`seats[2].live = yes say "{${expression}}" finish`, 'var live of each seat: flag = no');
    expect(said(openTable(text('next(seats[3], s => s.live)'), seats))).toEqual(['Otter']);
    expect(said(openTable(text('previous(seats[1], s => s.live)'), seats))).toEqual(['Otter']);
    expect(said(openTable(text('next(seats[2], s => s.live)'), seats))).toEqual(['Otter']);
    expect(
      said(openTable(text('if next(seats[1], s => s.score > 0) == nothing then "nobody" else "one"'), seats)),
    ).toEqual(['nobody']);
  });
  it('a facing may depend on something', () => {
    const faces = (when: string) =>
      (
        openTable(script(`deal 1 from pack to row face down when ${when} finish`)).view(-1).piles.row as {
          cards?: unknown;
        }
      ).cards;
    expect(faces('yes')).toBeUndefined();
    expect(faces('size(row) == 1')).toEqual(['K♣']);
  });
  it('the value of a move is what moved', () => {
    expect(exprValue('size(moved)', `${DEALT} let moved = move all from row to stock`)).toBe('4');
  });
  it('a kind is a list of its members, which compare', () => {
    expect(exprValue('count(Mood, m => m > calm)', '', 'kind Mood = calm | keen | wild')).toBe('2');
    const each = openTable(script('for each m in Mood { say "{m}" } finish', 'kind Mood = calm | keen "rather keen"'));
    expect(said(each)).toEqual(['calm', 'rather keen']);
  });
  it('a deck may depend on the number of seats', () => {
    const program = programOf(
      script('finish').replace('deck standard', 'deck standard copies (if size(seats) > 2 then 2 else 1)'),
    );
    const cards = (seats: string[]) => new Game(program, { seats, chance: quickChance(1) }).layout.faces.length;
    expect(cards(['Wren', 'Otter'])).toBe(52);
    expect(cards(['Wren', 'Otter', 'Teal'])).toBe(104);
  });
});
