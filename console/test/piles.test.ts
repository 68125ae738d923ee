import type { OfferedOption, Plan, TableView } from '@wily-jester/protocol';
import { describe, expect, it } from 'vitest';
import { middleOf, pilesOf, secondsOf, touchesOf } from '../src/table/piles';
import { firstSeats, firstSettings, seatsText, wishFor } from '../src/table/setup';

const pile = (name: string, of: 'table' | 'seat' | 'suit', many: number | null = null): Plan['piles'][number] => ({
  name,
  label: name,
  facing: 'up',
  shape: 'fan',
  of,
  many,
  open: false,
  spots: null,
  sorted: null,
});
const plan: Plan = {
  name: 'Reed',
  blurb: '',
  seats: [2, 3],
  settings: [
    { name: 'rounds', type: 'int', help: 'rounds', standard: 3, from: 1, to: 9 },
    { name: 'soft', type: 'flag', help: 'soft', standard: false },
  ],
  piles: [
    pile('pack', 'table'),
    pile('stock', 'table'),
    pile('home', 'suit', 4),
    pile('lock', 'table', 2),
    pile('hand', 'seat'),
  ],
  layout: [['stock', null, 'home'], ['lock']],
  labels: { table: {}, seat: {} },
  counters: [],
  notes: [],
  options: [],
  bots: ['steady'],
  winsLeast: false,
};
const view = {
  piles: {
    pack: { size: 3 },
    stock: { size: 30 },
    home: { 1: { size: 0 }, 2: { size: 1, cards: ['A♥'] }, 3: { size: 0 }, 4: { size: 0 } },
    lock: { 1: { size: 0 }, 2: { size: 0 } },
    hand: { 1: { size: 2, cards: ['5♠', '9♥'] }, 2: { size: 2 } },
  },
  notes: { 'hand/1': [{ name: 'total', value: 14 }] },
} as unknown as TableView;

const offer = (option: string, ways: OfferedOption['ways'], legal = true): OfferedOption => ({
  option,
  label: option,
  legal,
  reason: null,
  line: 1,
  on: [],
  quick: false,
  aside: false,
  byClock: false,
  params: [
    {
      name: 'c',
      type: 'card',
      kind: 'values',
      values: [...new Set((ways ?? []).map((way) => way[0] as string))].map((value) => ({ value })),
    },
  ],
  ways,
});

describe('the piles of a view', () => {
  it('are found by their path, with labels, suits and notes', () => {
    expect(pilesOf(view, plan, 'stock').map((p) => [p.path, p.state.size])).toEqual([['stock', 30]]);
    expect(pilesOf(view, plan, 'home').map((p) => [p.path, p.suit])).toEqual([
      ['home/1', 0],
      ['home/2', 1],
      ['home/3', 2],
      ['home/4', 3],
    ]);
    expect(pilesOf(view, plan, 'lock').map((p) => p.label)).toEqual(['lock 1', 'lock 2']);
    expect(pilesOf(view, plan, 'hand', 1)).toMatchObject([{ path: 'hand/1', notes: [{ name: 'total', value: 14 }] }]);
    expect(pilesOf(view, plan, 'nothing')).toEqual([]);
  });

  it('stand where the layout says, and the open view adds what it leaves out', () => {
    const rows = middleOf(view, plan, false);
    expect(rows.map((row) => row.map((cell) => cell?.map((p) => p.path) ?? null))).toEqual([
      [['stock'], null, ['home/1', 'home/2', 'home/3', 'home/4']],
      [['lock/1', 'lock/2']],
    ]);
    expect(
      middleOf(view, plan, true)
        .at(-1)
        ?.map((cell) => cell?.[0]?.path),
    ).toEqual(['pack']);
  });
});

describe('what a touch may choose', () => {
  const lay = offer('lay', [
    ['hand/1#1', 'lock/1'],
    ['hand/1#1', 'lock/2'],
    ['hand/1#2', 'lock/2'],
  ]);

  it('is every legal offer that takes the card', () => {
    expect(touchesOf([lay, offer('swap', [['hand/1#2']])], 'hand/1#2').map((o) => o.option)).toEqual(['lay', 'swap']);
    expect(touchesOf([{ ...lay, legal: false }], 'hand/1#1')).toEqual([]);
    expect(touchesOf([lay], 'hand/1#3')).toEqual([]);
  });

  it('goes on to the places that are left for it', () => {
    expect(secondsOf(lay, 'hand/1#1')).toEqual(['lock/1', 'lock/2']);
    expect(secondsOf(lay, 'hand/1#2')).toEqual(['lock/2']);
    expect(secondsOf({ ...lay, ways: null }, 'hand/1#2')).toEqual([]);
  });
});

describe('a new table', () => {
  it('seats one person and a bot, with the settings of the sheet', () => {
    expect(firstSeats(plan)).toEqual([
      { name: 'Wren', bot: null },
      { name: 'Otter', bot: 'steady' },
    ]);
    expect(firstSeats({ ...plan, seats: [1] })).toEqual([{ name: 'Wren', bot: null }]);
    expect(firstSettings(plan)).toEqual({ rounds: 3, soft: false });
    expect(wishFor('abc', firstSeats(plan), { rounds: 5 }, false)).toEqual({
      sheet: 'abc',
      seats: [{ name: 'Wren' }, { name: 'Otter', bot: 'steady' }],
      settings: { rounds: 5 },
      clocks: false,
    });
  });

  it.each([
    [[1], '1 seat'],
    [[4], '4 seats'],
    [[2, 4], '2 or 4 seats'],
    [[1, 2, 3, 4, 5], '1 to 5 seats'],
  ])('says for how many it is: %j', (counts, text) => {
    expect(seatsText(counts)).toBe(text);
  });
});
