import { isPlayed, type Played, Table } from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { choose, exprValue, openTable, programOf, script } from './support.js';

const events = (played: Played, viewer: number) => played.stepEvents.for(viewer);
/** Four cards from the top of an unshuffled pack lie in the row: K♣ Q♣ J♣ 10♣. */
const DEALT = 'deal 4 from pack to row';
const reasonOf = (table: Table, option: string, args: Record<string, unknown>): string => {
  const result = table.choose(0, { ask: table.openAsk, option, args });
  if (isPlayed(result)) throw new Error(`${option} was carried out`);
  return result.reason;
};

describe('choosing several cards', () => {
  const sheet = (domain: string, needs = ''): string =>
    script(
      `${DEALT} ask seats[1] { option throw(cs: ${domain}) ${needs} { move cs to stock say "threw {cs}" } } finish`,
    );

  it('offers the cards, how many, and all ways where they are few', () => {
    const [offer] = openTable(sheet('1..2 cards in row')).view(0).offers;
    expect(offer?.params).toMatchObject([{ name: 'cs', type: 'list:card', kind: 'cards', least: 1, most: 2 }]);
    expect(offer?.params[0]).toMatchObject({ values: [{ value: 'row#1', face: 'K♣' }, {}, {}, {}] });
    expect(offer?.ways).toHaveLength(4 + 6);
    expect(offer?.ways).toContainEqual([['row#1', 'row#4']]);
  });

  it('says which need a set fails, where it does not even grow', () => {
    const table = openTable(
      sheet(
        '1..3 cards in row while sum(cs, c => c.pips) <= 23',
        'needs size(cs) < 3 else "{cs} are three." needs c2 != size(cs) else "No."',
      ).replace('play {', 'def c2 = 9 play {'),
    );
    expect(reasonOf(table, 'throw', { cs: ['K♣', 'Q♣', 'J♣'] })).toBe('K♣ Q♣ J♣ are three.');
    expect(reasonOf(table, 'throw', { cs: ['K♣', 'Q♣'] })).toBe('These cards cannot be chosen together for "throw".');
  });

  it.each([
    ['2 cards in row', 6],
    ['0..4 cards in row', 16],
    ['3.. cards in row', 5],
    ['1..2 cards in row while sum(cs, c => c.pips) <= 23', 4 + 4],
  ])('has %s in so many ways: %i', (domain, count) => {
    expect(openTable(sheet(domain)).view(0).offers[0]?.ways).toHaveLength(count);
  });

  it('takes them by face or by handle, in any order, and records them in one', () => {
    const byFace = choose(openTable(sheet('2 cards in row')), 0, 'throw', { cs: ['10♣', 'K♣'] });
    const byHandle = choose(openTable(sheet('2 cards in row')), 0, 'throw', { cs: ['row#1', 'row#4'] });
    expect(byFace.row).toEqual(byHandle.row);
    expect(byFace.row.args).toEqual({ cs: ['row#1', 'row#4'] });
    expect(events(byFace, 0)).toContainEqual({ kind: 'said', text: 'threw 2 cards' });
  });

  it('takes one card that stands alone', () => {
    expect(choose(openTable(sheet('1..2 cards in row')), 0, 'throw', { cs: 'Q♣' }).row.args).toEqual({ cs: ['row#2'] });
  });

  it.each([
    [{ cs: ['K♣'] }, '"throw" takes 2 cards, not 1.'],
    [{ cs: ['K♣', 'Q♣', 'J♣'] }, '"throw" takes 2 cards, not 3.'],
    [{ cs: ['K♣', 'K♣'] }, 'The "cs" of "throw" does not fit: K♣ is not among the cards to choose from.'],
    [{ cs: ['row#1', 'row#1'] }, 'row#1 stands here twice.'],
    [{ cs: ['A♠', 'K♣'] }, 'The "cs" of "throw" does not fit: A♠ is not among the cards to choose from.'],
    [{ cs: ['K♣', 'Q♣'] }, 'K♣ Q♣ make 25.'],
    [{ cs: ['K♣', 7] }, 'The "cs" of "throw" does not fit: a card is needed, such as "hand/1#2", not 7.'],
    [{}, '"throw" needs its "cs".'],
  ])('refuses %j with a reason', (args, reason) => {
    const table = openTable(
      sheet('2 cards in row', 'needs sum(cs, c => c.pips) < 24 else "{cs} make {sum(cs, c => c.pips)}."'),
    );
    expect(reasonOf(table, 'throw', args)).toBe(reason);
  });

  it('hides what was chosen until all have answered, and tells others how many', () => {
    const text = script(
      'deal 3 each from pack to hand ask every s in seats { option pass(cs: 2 cards in s.hand) { move cs to stock } } finish',
    );
    const table = openTable(text, { seats: ['Wren', 'Otter'] });
    const first = choose(table, 1, 'pass', { cs: ['hand/2#1', 'hand/2#3'] });
    expect(events(first, 0)).toEqual([]);
    expect(table.view(0).waiting).toMatchObject({ answered: [2] });
    const last = choose(table, 0, 'pass', { cs: ['hand/1#1', 'hand/1#2'] });
    const chosen = events(last, 0).filter((event) => event.kind === 'chosen');
    expect(chosen).toMatchObject([
      { seat: 1, label: 'pass K♣ J♣', args: [['hand/1#1', 'hand/1#2']] },
      { seat: 2, label: 'pass 2 cards', args: [['hand/2', 'hand/2']] },
    ]);
  });

  it('comes back the same from a record', () => {
    const program = programOf(sheet('1..3 cards in row'));
    const header = { seats: ['Wren'], seed: 'sets' };
    const { row } = choose(new Table(program, header), 0, 'throw', { cs: ['J♣', 'K♣'] });
    const again = new Table(program, header).choose(0, { ask: row.ask, option: row.option, args: row.args });
    expect(again).toMatchObject({ row: { digest: row.digest } });
  });

  it('is preferred by bots, with keys of several numbers', () => {
    const bot = 'bot neat { throw(cs) prefer [size(cs), 0 - sum(cs, c => c.pips)] }';
    const table = openTable(sheet('1..2 cards in row').replace('play {', `${bot}\n  play {`));
    expect(table.playBot(0, 0).row.args).toEqual({ cs: ['row#3', 'row#4'] });
  });

  it('comes back the same from a record, however a bot or a shape ordered it', () => {
    const bots = script(
      'deal 6 from pack to row ask seats[1] { option throw(cs: 2..3 cards in row) { move cs to stock } } finish',
      'bot turned { throw(reversed(first(row, 3))) }',
    );
    const shapes = script(
      'deal 6 from pack to row ask seats[1] { option lay(cs: run in row) { move cs to stock } } finish',
      'shape run = 3+ cards of one suit in rank order bot turned { lay(cs) prefer size(cs) }',
    );
    for (const text of [bots, shapes]) {
      const program = programOf(text);
      const header = { seats: ['Wren'], seed: 'order' };
      const { row } = new Table(program, header).playBot(0, 0);
      const again = new Table(program, header).choose(0, { ask: row.ask, option: row.option, args: row.args });
      expect(again).toMatchObject({ row: { digest: row.digest, args: row.args } });
    }
  });

  it('may be given whole by a bot, however many ways there are', () => {
    const text = script(
      'deal 40 from pack to row ask seats[1] { option throw(cs: 0..40 cards in row) { } } finish',
      'bot whole { throw(only(row, c => c.suit == clubs)) }',
    );
    expect((openTable(text).playBot(0, 0).row.args.cs as string[]).length).toBe(13);
  });
});

describe('shapes', () => {
  const SHAPES = 'shape set = 3..4 cards of one rank shape run = 3+ cards of one suit in rank order order ranks A..K';
  const sheet = script(
    'deal 8 from pack to row ask seats[1] { option meld(cs: set | run in row) { move cs to new lot say "{size(lot)}" } option rest { } } finish',
    `${SHAPES} pile lot[many] face up as row`,
  );

  it('are listed, taken and refused', () => {
    const table = openTable(sheet);
    // K Q J 10 9 8 7 6 of clubs: runs of three to eight cards.
    expect(table.view(0).offers[0]?.ways).toHaveLength(6 + 5 + 4 + 3 + 2 + 1);
    expect(reasonOf(table, 'meld', { cs: ['K♣', 'Q♣', '10♣'] })).toBe(
      'These cards are no set and no run, or not all of them may be taken for "meld".',
    );
    const played = choose(table, 0, 'meld', { cs: ['Q♣', 'K♣', 'J♣'] });
    expect(events(played, 0)).toContainEqual({ kind: 'said', text: '1' });
    expect(table.view(0).piles).toMatchObject({ lot: { 1: { cards: ['K♣', 'Q♣', 'J♣'] } } });
  });

  it.each([
    ['[card "7♠", card "7♥", card "7♦"] is set', 'yes'],
    ['[card "7♠", card "7♥"] is set', 'no'],
    ['[card "2♠", card "A♠", card "3♠"] is run', 'yes'],
    ['[card "Q♠", card "K♠", card "A♠"] is run', 'no'],
    ['[card "Q♠", card "K♠", card "J♥"] is set | run', 'no'],
    ['largest(run, row)', '8♣ 9♣ 10♣ J♣ Q♣ K♣'],
    ['largest(set, row)', 'no cards'],
  ])('%s is %s', (expression, value) => {
    expect(exprValue(expression, 'deal 6 from pack to row', SHAPES)).toBe(value);
  });

  it('are looked for within a limit, also where none can be found', () => {
    const text = script(
      'deal 200 from pack to row ask seats[1] { option lay(cs: long in row) { } option rest { } } finish',
      'shape long = 14+ cards in rank order',
    ).replace('deck standard', 'deck ranks 2..K copies 8');
    const [lay] = openTable(text).view(0).offers;
    // Nobody knows: whoever lays cards is told whether they may.
    expect(lay).toMatchObject({ option: 'lay', legal: true, ways: null });
  });

  it('use up a growing family only at its end', () => {
    const text = script(
      'for n in 1..41 { deal 1 from pack to stock move stock to new lot }',
      'pile lot[many] face up always "small" size(lot) <= 40',
    );
    expect(() => openTable(text)).toThrow('All 40 piles of this family are in use.');
  });
});

describe('a refusal of several cards', () => {
  const table = () =>
    openTable(`game "Three" for 1 seat { deck standard pile hand of each seat face up pile row face up
      play { deal 5 from pack to seats[1].hand deal 1 from pack to row
        ask seats[1] { option give(cs: 3 cards in seats[1].hand) { finish } } } }`);
  const refusal = (args: Record<string, unknown>): string => {
    const result = table().choose(0, { ask: 0, option: 'give', args });
    return 'reason' in result ? result.reason : '';
  };

  it('says which card is not among them, or stands twice', () => {
    expect(refusal({ cs: ['hand/1#1', 'hand/1#2', 'row#1'] })).toBe('row#1 is not among the cards for "give".');
    expect(refusal({ cs: ['hand/1#1', 'hand/1#1', 'hand/1#2'] })).toBe('hand/1#1 stands here twice.');
    expect(refusal({ cs: 'hand/1#1' })).toBe('"give" takes 3 cards, not 1.');
  });

  it('says after the end that the game is over', () => {
    const over = table();
    over.choose(0, { ask: 0, option: 'give', args: { cs: ['hand/1#1', 'hand/1#2', 'hand/1#3'] } });
    expect(over.choose(0, { ask: 1, option: 'give', args: {} })).toMatchObject({
      reason: 'The game is over: nothing more can be chosen.',
    });
  });
});
