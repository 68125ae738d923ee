import { drawChoice, isPlayed, type Json, OPEN, quickChance, Table, type View, WATCHER } from '@wily-jester/core';
import jsonPatch from 'fast-json-patch';
import { describe, expect, it } from 'vitest';
import { choose, openTable, patchOf, programOf, script, sheetText } from './support.js';

const SHEETS: [string, string[]][] = [
  ['lantern-twenty-one', ['Wren', 'Otter']],
  ['long-pot', ['Wren', 'Otter', 'Heron']],
  ['eights-aside', ['Wren', 'Otter', 'Heron']],
  ['reed-melds', ['Wren', 'Otter']],
  ['barley-cairn', ['Wren']],
];
const STEPS = 80;

/** Goes on with a table by one random choice, or by the end of a pause. */
function goOn(table: Table, generator: ReturnType<ReturnType<typeof quickChance>['stream']>): boolean {
  if (table.isOver) return false;
  if (table.isPaused) {
    table.resume();
    return true;
  }
  const seat = table.asked[0] as number;
  const answer = drawChoice(table.game, table.state, seat, generator, false);
  if (answer) table.carryOut(seat, answer, 'person');
  return answer !== null;
}

describe('what a viewer is told again', () => {
  it.each(SHEETS)('of %s is what a viewer sees who comes anew, and patches lead there', (name, seats) => {
    const program = programOf(sheetText(`${name}.motley`));
    const table = new Table(program, { seats, seed: 'views' });
    const viewers = [OPEN, WATCHER, ...seats.map((_, seat) => seat)];
    const last = new Map<number, View>(viewers.map((viewer) => [viewer, table.view(viewer)]));
    const held = new Map(viewers.map((viewer) => [viewer, structuredClone(table.view(viewer)) as unknown as Json]));
    const generator = quickChance(5).stream('views', 0);
    for (let i = 0; i < STEPS && goOn(table, generator); i++)
      for (const viewer of viewers) {
        const now = table.view(viewer);
        const patch = patchOf(last.get(viewer), now);
        last.set(viewer, now);
        held.set(viewer, jsonPatch.applyPatch(held.get(viewer), patch, true).newDocument as Json);
        expect(held.get(viewer)).toEqual(JSON.parse(JSON.stringify(now)));
      }
    // Somebody who was told nothing before sees the very same.
    const rows = table.number;
    expect(rows).toBeGreaterThan(10);
    const fresh = new Table(program, { seats, seed: 'views' });
    const again = quickChance(5).stream('views', 0);
    while (fresh.number < rows) goOn(fresh, again);
    for (const viewer of viewers) expect(fresh.view(viewer)).toEqual(table.view(viewer));
  });

  const PURSE = script(
    `repeat { ask seats[1] { option gain(n: 1..9) { seats[1].purse += n } option wait { } option stop { finish } } }`,
    'var purse of each seat: int = 5 "purse"  var luck = 1 "luck"  def double(s: seat) = 2 * s.purse  layout { row note double on seat }',
  );

  it('is the very same object where nothing in it changed', () => {
    const table = openTable(PURSE, { seats: ['Wren', 'Otter'] });
    const before = table.view(0);
    choose(table, 0, 'gain', { n: 3 });
    const after = table.view(0);
    expect(after.seats[0]).not.toBe(before.seats[0]);
    expect(after.seats[0]?.values).toEqual({ purse: 8 });
    expect(after.seats[1]).toBe(before.seats[1]);
    expect(after.values).toBe(before.values);
    expect(after.offers).toBe(before.offers);
    expect(after.notes['seat/1']).toEqual([{ name: 'double', value: 16 }]);
    choose(table, 0, 'wait');
    const later = table.view(0);
    expect(later.seats).toBe(after.seats);
    expect(later.notes).toBe(after.notes);
    expect(
      patchOf(after, later)
        .map(({ path }) => path)
        .sort(),
    ).toEqual(['/number', '/waiting/ask']);
  });

  it('is never shared between viewers', () => {
    const source = script(
      'deal 1 each from pack to hand ask seats[1] { option look { } } ask seats[1] { option look { } }',
      'private var plan of each seat: int = 7 "plan"',
    );
    const table = openTable(source, { seats: ['Wren', 'Otter'] });
    for (const viewer of [0, 1, WATCHER, OPEN, 0, 1])
      expect(table.view(viewer).seats.map((seat) => seat.values.plan !== undefined)).toEqual([
        viewer === 0 || viewer === OPEN,
        viewer === 1 || viewer === OPEN,
      ]);
  });

  it('tells an offer anew where its label, its reason or its ways changed', () => {
    const source = script(
      `repeat { ask seats[1] {
         option take(c: card in row) "take of {size(row)}" { move c to seats[1].hand }
         option add "add to {size(row)}" { deal 1 from pack to row }
         option rest needs size(row) < 2 else "There are {size(row)}." { }
         option stop { finish }
       } }`,
    );
    const table = openTable(source);
    const offers = () => Object.fromEntries(table.view(0).offers.map((offer) => [offer.option, offer]));
    expect(offers()).toMatchObject({ take: { legal: false }, add: { label: 'add to 0' }, rest: { legal: true } });
    choose(table, 0, 'add');
    choose(table, 0, 'add');
    expect(offers()).toMatchObject({ take: { legal: true }, add: { label: 'add to 2' } });
    expect(offers().take?.ways).toHaveLength(2);
    expect(offers().rest?.reason).toBe('There are 2.');
    choose(table, 0, 'add');
    expect(offers().take?.ways).toHaveLength(3);
    expect(offers().rest?.reason).toBe('There are 3.');
    const result = table.choose(0, { ask: table.openAsk, option: 'rest' });
    expect(isPlayed(result)).toBe(false);
  });
});

describe('notes', () => {
  it('of cards stand beside piles that have some, those of nothing whatever lies there', () => {
    const table = openTable(
      script(
        'repeat { ask seats[1] { option draw { deal 1 from pack to row } option stop { finish } } }',
        `private var plan of each seat: int = 7
         def counted(h: cards) = size(h)
         def left = size(pack)
         def planned = seats[1].plan
         layout { row . stock   note counted on row, stock   note left on row, stock   note planned on stock }`,
      ),
      { seats: ['Wren', 'Otter'] },
    );
    const left = (value: number) => ({ name: 'left', value });
    const planned = { name: 'planned', value: 7 };
    expect(table.view(1).notes).toEqual({ row: [left(52)], stock: [left(52)] });
    expect(table.view(0).notes).toEqual({ row: [left(52)], stock: [left(52), planned] });
    choose(table, 0, 'draw');
    expect(table.view(1).notes).toEqual({ row: [{ name: 'counted', value: 1 }, left(51)], stock: [left(51)] });
  });
});

describe('a hand that lies face up', () => {
  it('is told in its order to its owner alone', () => {
    // Dealt from the top of an unshuffled pack: the king first, then the queen, the jack and the ten.
    const table = openTable(
      script('deal 4 from pack to seats[1].hand turn up seats[1].hand ask seats[1] { option go { } } finish'),
      {
        seats: ['Wren', 'Otter'],
      },
    );
    const seen = (viewer: number): unknown =>
      (table.view(viewer).piles.hand as Record<string, { cards?: unknown }>)['1']?.cards;
    const inOrder = ['K♣', 'Q♣', 'J♣', '10♣'];
    expect([seen(0), seen(OPEN)]).toEqual([inOrder, inOrder]);
    expect([seen(1), seen(WATCHER)]).toEqual([[...inOrder].sort(), [...inOrder].sort()]);
  });

  it('is one object for all who look where it is no hand, as long as it stays', () => {
    const table = openTable(
      script(
        'deal 4 from pack to row repeat { ask seats[1] { option flip { turn down row } option stop { finish } } }',
      ),
    );
    const row = (viewer: number): unknown => table.view(viewer).piles.row;
    expect(row(WATCHER)).toBe(row(0));
    expect(row(OPEN)).toBe(row(0));
    const before = row(0);
    expect(row(0)).toBe(before);
    choose(table, 0, 'flip');
    expect(row(0)).toEqual({ size: 4 });
    expect(row(OPEN)).toEqual({ size: 4, cards: ['K♣', 'Q♣', 'J♣', '10♣'], closed: [1, 2, 3, 4] });
  });
});
