import type { OfferedOption, Plan, TableView } from '@wily-jester/protocol';
import { describe, expect, it } from 'vitest';
import { finishersOf, middleOf, notesOf, pilesOf, secondsOf, setsWith, spottedOf, touchesOf } from '../src/table/piles';
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
const RANKS = ['2', '3', '4', '5', '6', '7', '8', '9', '10', 'J', 'Q', 'K', 'A'];
const plan: Plan = {
  name: 'Reed',
  blurb: '',
  seats: [2, 3],
  settings: [
    { name: 'rounds', type: 'int', help: 'rounds', standard: 3, from: 1, to: 9 },
    { name: 'soft', type: 'flag', help: 'soft', standard: false },
  ],
  faces: [],
  ranks: RANKS,
  suits: [],
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
  notes: [
    { name: 'total', words: 'total', beside: ['hand', 'stock'] },
    { name: 'inTheLock', words: 'in the lock', beside: ['lock'] },
    { name: 'left', words: 'left', beside: 'seat' },
  ],
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
  notes: {
    'hand/1': [{ name: 'total', value: 14 }],
    stock: [{ name: 'total', value: 9 }],
    'lock/1': [
      { name: 'inTheLock', value: 3 },
      { name: 'odd', value: 'a text' },
    ],
    'seat/2': [{ name: 'left', value: 26 }],
  },
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
  sure: true,
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

  it('have figures, whose words stand beside them where they are not known by their place', () => {
    const named = (path: string) => notesOf(view, plan, path).map(({ words, isNamed }) => [words, isNamed]);
    expect(named('hand/1')).toEqual([['total', false]]);
    expect(named('stock')).toEqual([['total', false]]);
    expect(named('lock/1')).toEqual([
      ['in the lock', true],
      ['odd', false],
    ]);
    expect(named('seat/2')).toEqual([['left', true]]);
    expect(named('seat/1')).toEqual([]);
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

describe('several cards at once, and what else a card may do', () => {
  const throwAway: OfferedOption = {
    ...offer('throw', null),
    params: [
      { name: 'cs', type: 'list:card', kind: 'cards', least: 1, most: 3, values: [{ value: 'hand/1#1', face: '5♠' }] },
    ],
  };
  const called: OfferedOption = {
    ...offer('call', [
      ['hand/1#1', 'hearts'],
      ['hand/1#1', 'spades'],
    ]),
    label: 'lay {c} and call {suit}',
  };
  const call: OfferedOption = {
    ...called,
    params: [...called.params, { name: 'suit', type: 'suit', kind: 'depends' }],
  };
  const taken: OfferedOption = { ...offer('take', [['hand/1#1', ['row#1', 'row#2']]]), label: 'take {cs} with {c}' };
  const sum: OfferedOption = {
    ...taken,
    params: [...taken.params, { name: 'cs', type: 'list:card', kind: 'depends' }],
  };
  const faces: Record<string, string> = { 'hand/1#1': '5♠', 'row#1': '2♥', 'row#2': '3♦' };
  const faceOf = (handle: string): string => faces[handle] ?? '';

  it('find the offers that a card may be part of', () => {
    expect(setsWith([throwAway, call], 'hand/1#1').map((o) => o.option)).toEqual(['throw']);
    expect(setsWith([throwAway], 'hand/1#2')).toEqual([]);
    expect(setsWith([{ ...throwAway, legal: false }], 'hand/1#1')).toEqual([]);
  });

  it('word each way to end a choice that a card began', () => {
    expect(finishersOf([call], 'hand/1#1', faceOf)).toEqual([
      { option: 'call', words: 'lay 5♠ and call hearts', args: { c: 'hand/1#1', suit: 'hearts' } },
      { option: 'call', words: 'lay 5♠ and call spades', args: { c: 'hand/1#1', suit: 'spades' } },
    ]);
    expect(finishersOf([sum], 'hand/1#1', faceOf)).toEqual([
      { option: 'take', words: 'take 2♥ 3♦ with 5♠', args: { c: 'hand/1#1', cs: ['row#1', 'row#2'] } },
    ]);
    expect(finishersOf([offer('lay', [['hand/1#1']])], 'hand/1#1', faceOf)).toEqual([
      { option: 'lay', words: 'lay', args: { c: 'hand/1#1' } },
    ]);
  });

  it('draw a hand by suit or by rank, and the places stay those of the pile', () => {
    const hand = (sorted: 'rank' | 'suit' | null, cards: (string | null)[], orders: Partial<Plan> = {}) => {
      const plans = { ...plan, ...orders, piles: [{ ...pile('hand', 'table'), sorted }] };
      return pilesOf(
        { piles: { hand: { size: cards.length, cards } }, notes: {} } as unknown as TableView,
        plans,
        'hand',
      )[0]?.order;
    };
    expect(hand('rank', ['K♠', '2♥', 'A♣', '2♣'])).toEqual([4, 2, 1, 3]);
    expect(hand('suit', ['K♠', '2♥', 'A♣', '2♣'])).toEqual([4, 3, 2, 1]);
    expect(hand(null, ['K♠', '2♥'])).toEqual([1, 2]);
    expect(hand('suit', ['K♠', null])).toEqual([1, 2]);
    expect(hand('rank', ['12', '7', '40'])).toEqual([2, 1, 3]);
    // As the game orders them: twos above the ace, and clubs above all.
    const [two, ...others] = RANKS;
    expect(hand('rank', ['2♥', 'A♣', '3♠'], { ranks: [...others, two ?? ''] })).toEqual([3, 2, 1]);
    expect(hand('suit', ['K♣', '2♥', 'A♠'], { suits: ['♦', '♥', '♠', '♣'] })).toEqual([2, 3, 1]);
  });

  it('lay placed piles out from nothing, and leave empty piles of a growing family out', () => {
    const placed = {
      ...plan,
      piles: [
        {
          ...pile('heap', 'table', 2),
          spots: [
            [-2, 4],
            [0, 6],
          ] as [number, number][],
        },
        { ...pile('meld', 'table', 3), open: true },
      ],
      layout: [['heap'], ['meld']],
    };
    const seen = {
      piles: { heap: { 1: { size: 1 }, 2: { size: 1 } }, meld: { 1: { size: 0 }, 2: { size: 3 }, 3: { size: 0 } } },
      notes: {},
    } as unknown as TableView;
    const spots = spottedOf(seen, placed);
    expect(spots?.piles.map((p) => p.spot)).toEqual([
      [0, 0],
      [2, 2],
    ]);
    expect([spots?.width, spots?.height]).toEqual([4, 6]);
    expect(middleOf(seen, placed, false).map((row) => row.map((cell) => cell?.map((p) => p.path)))).toEqual([
      [['meld/2']],
    ]);
    expect(spottedOf(view, plan)).toBeNull();
  });
});
