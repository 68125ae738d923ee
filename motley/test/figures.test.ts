import { figureCalled, OPEN, planOf, Table, WATCHER } from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { compileSheet } from '../src/index.js';
import { choose, openTable, programOf, said, script } from './support.js';

const errors = (source: string): string[] =>
  compileSheet(source)
    .problems.filter(({ severity }) => severity === 'error')
    .map(({ message }) => message);

const game = (top: string, body = 'finish', header = '2 seats'): string => `game "Figures" for ${header} {
  deck ranks 7..10 suits hearts, clubs
  kind Mood = calm "at ease" | keen
  pile row face up
  pile home of each suit "home" face up
  pile box[2] of each seat "box" face up
  pile hand of each seat private as fan sorted by lastOf
  def lastOf(c: card) = [-c.rank, c.suit.place]
  ${top}
  play { ${body} }
}`;
const open = (top: string, body?: string, seats = ['Wren', 'Otter'], header = `${seats.length} seats`): Table =>
  new Table(programOf(game(top, body, header)), { seats, seed: 'figures' });

describe('a variable with a label', () => {
  it('is drawn once for each member of what it is kept for', () => {
    const { view } = {
      view: open('var met of each Mood: int = 3 "met" var called of each suit: flag = no "called"').view(WATCHER),
    };
    // Suits that no card of the deck bears are left out.
    expect(view.values).toEqual({
      'met[at ease]': 3,
      'met[keen]': 3,
      'called[hearts]': false,
      'called[clubs]': false,
    });
    expect(figureCalled({ met: 'met' }, 'met[at ease]')).toBe('met at ease');
    expect(figureCalled({ bank: 'chips' }, 'bank')).toBe('chips');
  });

  it('is drawn beside its first key, a seat or a pile, for each of the second', () => {
    const table = open(
      `var void of each seat, suit: flag = no "void"
       var owed of each Mood, rank: int = 0 "owed"
       var marks of each home: int = 2 "marks"`,
      'void[seats[2], hearts] = yes owed[keen, 8] = 5 finish',
    );
    const { seats, values, notes } = table.view(WATCHER);
    expect(seats.map((seat) => seat.values)).toEqual([
      { 'void[hearts]': false, 'void[clubs]': false },
      { 'void[hearts]': true, 'void[clubs]': false },
    ]);
    expect(Object.keys(values)).toHaveLength(8);
    expect(values).toMatchObject({ 'owed[keen, 8]': 5, 'owed[at ease, 8]': 0 });
    expect(notes).toEqual(Object.fromEntries([1, 2, 3, 4].map((n) => [`home/${n}`, [{ name: 'marks', value: 2 }]])));
    const plan = planOf(table.game.program);
    expect(plan.labels).toEqual({ table: { owed: 'owed' }, seat: { void: 'void' } });
    expect(plan.notes).toEqual([{ name: 'marks', words: 'marks', beside: ['home'] }]);
  });

  it('that is private is drawn to its seat alone, whatever else it is kept for', () => {
    const { seats } = open('private var hope of each seat, suit: int = 1 "hope"').view(0);
    expect(seats.map((seat) => Object.keys(seat.values))).toEqual([['hope[hearts]', 'hope[clubs]'], []]);
  });

  it('is not drawn for each card, nor a hundred times in one place', () => {
    expect(errors(game('var marks of each card: int = 0 "marks"'))[0]).toContain('each card is not drawn');
    const kinds = (name: string): string =>
      `kind ${name} = ${Array.from({ length: 9 }, (_, i) => `${name.toLowerCase()}${i}`).join(' | ')}`;
    expect(() => open(`${kinds('Wind')} ${kinds('Tide')} var log of each Wind, Tide: int = 0 "log"`)).toThrow(
      '"log" would draw 81 figures in one place; at most 64 are drawn',
    );
    const some = Array.from({ length: 80 }, (_, i) => `var met${i} of each seat, rank: int = 0 "met"`).join(' ');
    expect(() => open(some)).toThrow('This table would draw 2,016 figures or more; at most 2,000 are drawn');
  });
});

describe("a pile in an order of the sheet's own", () => {
  const table = open('', 'deal all from pack to hand ask seats[1] { option go { } } finish');
  const orderFor = (viewer: number, path = 'hand/1'): readonly number[] | undefined =>
    table.view(viewer).orders?.[path];

  it('is told in it to whoever sees its cards', () => {
    const cards = (table.view(0).piles.hand as unknown as Record<string, { cards: string[] }>)['1']?.cards ?? [];
    const inOrder = orderFor(0)?.map((position) => cards[position - 1]);
    const key = (face = ''): number => -10 * Number(face.slice(0, -1)) + (face.endsWith('♥') ? 0 : 1);
    expect(inOrder).toEqual([...cards].sort((a, b) => key(a) - key(b)));
    expect(orderFor(OPEN)).toEqual(orderFor(0));
    expect(planOf(table.game.program).piles.find(({ name }) => name === 'hand')?.sorted).toBe('own');
  });

  it('stays as it lies where its cards are not seen', () => {
    for (const viewer of [1, WATCHER]) expect(orderFor(viewer)).toEqual([1, 2, 3, 4]);
  });

  it('tells nothing of cards that are not seen, even where its def looks at them', () => {
    const source = game('', 'deal all from pack to hand ask seats[1] { option go { } } finish').replace(
      '[-c.rank, c.suit.place]',
      'count(seats[2].hand, x => x.rank == c.rank)',
    );
    const peeking = new Table(programOf(source), { seats: ['Wren', 'Otter'], seed: 'figures' });
    expect(peeking.view(0).orders?.['hand/1']).toEqual([1, 2, 3, 4]);
    expect(peeking.view(OPEN).orders?.['hand/1']).not.toBeUndefined();
  });

  it('is by a def of one card that gives a key', () => {
    const order = (def: string, by = 'lastOf'): string[] =>
      errors(game('').replace('def lastOf(c: card) = [-c.rank, c.suit.place]', def).replace('by lastOf', `by ${by}`));
    expect(order('def lastOf(c: card) = c.rank')).toEqual([]);
    expect(order('def lastOf(n: int) = n')[0]).toContain('"lastOf" should take one card and give a key');
    expect(order('def lastOf(c: card) = c')[0]).toContain('The key must be a number');
    expect(order('def lastOf(c: card) = c.rank', 'lastof')[0]).toContain('lastOf');
  });
});

describe('a text', () => {
  it('has words for what is empty', () => {
    const text = said(
      openTable(
        script(
          'say "{a}, {b}, {c}, {d}, {e}, {f}, {g}, {h}" finish',
          `kind Mood = calm | keen
           var a: seat = nothing var b: card = nothing var c: suit = nothing var d: rank = nothing
           var e: Mood = nothing var f = no var g: cards = [] var h: seats = []`,
        ),
      ),
    );
    expect(text).toEqual(['nobody, no card, no suit, no rank, nothing, no, no cards, none']);
    const teams = new Table(
      programOf(
        'game "Teams" for 4 seats in 2 teams { deck standard var t: team = nothing play { say "{t} {teams[1]}" finish } }',
      ),
      { seats: ['Wren', 'Otter', 'Heron', 'Pike'], seed: 'x' },
    );
    expect(said(teams)).toEqual(['no team Wren and Heron']);
  });

  it('calls a pile by its label and by whose it is', () => {
    const table = open('var p: pile = nothing', 'say "{home[hearts]}, {seats[1].box[2]}, {row}, {p}" finish');
    expect(said(table)).toEqual(["home of hearts, Wren's box 2, row, nothing"]);
  });

  it('of piles with long labels is no longer than any other', () => {
    const long = 'a'.repeat(200);
    const source = `game "Long" for 1 seat { deck standard pile row "${long}" face up var p: pile = nothing
      play { p = row say "${'{p} '.repeat(25)}" finish } }`;
    expect(() => new Table(programOf(source), { seats: ['Wren'], seed: 'x' })).toThrow('at most 4,096 bytes');
  });

  it('tells in the log which pile of a family got a card', () => {
    const table = open('', 'ask seats[1] { option go { deal 1 from pack to home[clubs] face up } } finish');
    const played = choose(table, 0, 'go');
    expect(
      table
        .lines(played.stepEvents, 1, WATCHER)
        .map(({ text }) => text)
        .join(' '),
    ).toContain('Home of clubs gets');
  });
});
