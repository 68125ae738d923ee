import type { OfferedOption, Step, TableView } from '@wily-jester/protocol';
import { describe, expect, it } from 'vitest';
import { chaptersOf } from '../src/table/chapters';
import { marksOf } from '../src/table/marks';
import { firstSettings, wishFor } from '../src/table/setup';
import { useSteps } from '../src/table/useSteps';
import { changeWords, drawnFigures, figureWords, newWord, offerWords, statusOf, valueWords } from '../src/table/words';

const view = { seats: [{ name: 'Wren' }, { name: 'Otter' }, { name: 'Heron' }] } as unknown as TableView;
const request = (more: Partial<OfferedOption> = {}): OfferedOption =>
  ({
    option: 'request',
    label: 'ask {t} for {r}s',
    params: [
      { name: 't', type: 'seat', kind: 'values' },
      { name: 'r', type: 'rank', kind: 'depends' },
    ],
    ways: [
      [2, 'Q'],
      [2, '10'],
      [2, '3'],
      [3, 'Q'],
    ],
    ...more,
  }) as unknown as OfferedOption;

const RANKS = ['2', '3', '4', '5', '6', '7', '8', '9', '10', 'J', 'Q', 'K', 'A'];
describe('choosing plain values one after the other', () => {
  it('is for options with several of them whose ways are listed', () => {
    const { isByStep } = useSteps(
      () => view,
      () => RANKS,
    );
    expect(isByStep(request())).toBe(true);
    expect(isByStep(request({ ways: null }))).toBe(false);
    expect(isByStep(request({ params: request().params.slice(0, 1) }))).toBe(false);
    const withCard = [{ name: 'c', type: 'card', kind: 'values' }, ...request().params.slice(1)];
    expect(isByStep(request({ params: withCard as OfferedOption['params'] }))).toBe(false);
  });

  it('offers what fits to what was chosen, in words', () => {
    const { nextValues, stepWords, takeStep } = useSteps(
      () => view,
      () => RANKS,
    );
    const offer = request();
    expect([stepWords(offer), nextValues(offer).map(({ text }) => text)]).toEqual(['Ask …', ['Otter', 'Heron']]);
    expect(takeStep(offer, 3)).toBeNull();
    expect([stepWords(offer), nextValues(offer)]).toEqual(['Ask Heron for …', [{ value: 'Q', text: 'Q' }]]);
    expect(takeStep(offer, 'Q')).toEqual({ t: 3, r: 'Q' });
    expect(stepWords(offer)).toBe('Ask …');
  });

  it('offers ranks in the order in which hands are sorted', () => {
    const { nextValues, takeStep } = useSteps(
      () => view,
      () => RANKS,
    );
    takeStep(request(), 2);
    expect(nextValues(request()).map(({ text }) => text)).toEqual(['3', '10', 'Q']);
  });

  it('begins again, and forgets where another question is asked', () => {
    const { begunOf, takeStep, beginAgain, forgetAll } = useSteps(
      () => view,
      () => RANKS,
    );
    takeStep(request(), 2);
    expect(begunOf(request())).toEqual([2]);
    beginAgain(request());
    expect(begunOf(request())).toEqual([]);
    takeStep(request(), 2);
    forgetAll();
    expect(begunOf(request())).toEqual([]);
  });
});

describe('the landmarks of an amount', () => {
  const marks = (landmarks: { value: number; label: string | null }[]): string[] =>
    marksOf({ name: 'total', type: 'int', kind: 'range', from: 4, to: 200, by: 1, landmarks }).map(({ text }) => text);

  it('stand between the ends', () => {
    expect(marks([{ value: 7, label: 'the pot' }])).toEqual(['4', '7 the pot', '200 all']);
    expect(
      marks([
        { value: 4, label: 'least' },
        { value: 300, label: 'more than there is' },
      ]),
    ).toEqual(['4', '200 all']);
  });

  it('stand there once, by their name', () => {
    const half = { value: 6, label: null };
    const pot = { value: 6, label: 'the pot' };
    expect(marks([half, pot])).toEqual(['4', '6 the pot', '200 all']);
    expect(marks([pot, half])).toEqual(['4', '6 the pot', '200 all']);
  });
});

describe('words', () => {
  it.each([
    ['fold', 'fold'],
    ['call 2', 'call 2'],
    ['raise to {total}', 'raise'],
    ['bet {amount}', 'bet'],
    ['ask {t} for {r}s', 'ask'],
    ['bring {c} home', 'bring … home'],
    ['lay {c} and call {want}s', 'lay … and call'],
    ['throw {cs} and draw', 'throw … and draw'],
    ['{c} to {p}', 'c to p'],
  ])('of the option "%s" before its values are chosen are "%s"', (label, words) => {
    expect(offerWords(label)).toBe(words);
  });

  it('name seats, and say yes and no', () => {
    expect([
      valueWords(view, 'seat', 2),
      valueWords(view, 'seat', 9),
      valueWords(view, 'flag', true),
      valueWords(view, 'rank', 'Q'),
    ]).toEqual(['Otter', '9', 'yes', 'Q']);
  });

  it('for choices are never the same', () => {
    expect(new Set(Array.from({ length: 200 }, newWord)).size).toBe(200);
  });

  it.each([
    [{ kind: 'ask', seats: [2] }, 'open', 'Otter is asked'],
    [{ kind: 'ask', seats: [1, 2, 3] }, 'open', 'Wren, Otter and Heron are asked'],
    [{ kind: 'pause' }, 'open', 'A moment’s rest'],
    [{ kind: 'over' }, 'over', 'The game is over'],
    [{ kind: 'ask', seats: [2] }, 'closed', 'The table is closed'],
  ])('say what a table waits for: %j', (waiting, status, words) => {
    const table = { status, seats: view.seats } as never;
    expect(statusOf({ ...view, waiting } as never, table)).toBe(words);
  });

  it('write figures with a true minus sign, and changes with their sign', () => {
    expect([-16, 0, 7, 'high', null, true].map(figureWords)).toEqual(['−16', '0', '7', 'high', 'none', 'yes']);
    expect([-8, 0, 12].map(changeWords)).toEqual(['−8', '0', '+12']);
  });
});

describe('figures', () => {
  it('are told with whose they are, and flags of many by their words alone where they are set', () => {
    const values = { bank: 20, open: false, 'void[hearts]': true, 'void[clubs]': false, 'met[keen]': 3, lead: null };
    const labels = { bank: 'chips', open: 'open', void: 'void', met: 'met', lead: 'leads' };
    expect(drawnFigures(values, labels).map(({ words, value }) => `${words} ${value}`.trim())).toEqual([
      'chips 20',
      'open no',
      'void hearts',
      'met keen 3',
      'leads none',
    ]);
  });
});

describe('chapters', () => {
  const step = (number: number, lines: [string, string][], scores: number[] = []): Step =>
    ({
      number,
      events: [],
      lines: lines.map(([kind, text]) => ({ number, kind, seat: null, text })),
      scores,
    }) as unknown as Step;
  const steps = [
    step(0, [
      ['chapter', 'Round 1'],
      ['said', 'a'],
    ]),
    step(1, [['said', 'b']], [5, -5]),
    step(2, [['chapter', 'Round 2']], [5, -5]),
    step(3, [['said', 'c']], [8, -8]),
  ];
  it('hold what was said in them, where they began, and how scores changed', () => {
    expect(chaptersOf([...steps].reverse(), ['Wren', 'Otter'])).toMatchObject([
      {
        title: 'Round 1',
        from: 0,
        lines: [{ text: 'a' }, { text: 'b' }],
        result: [
          { name: 'Wren', change: 5 },
          { name: 'Otter', change: -5 },
        ],
      },
      { title: 'Round 2', from: 2, lines: [{ text: 'c' }], result: [{ change: 3 }, { change: -3 }] },
    ]);
  });

  it('begin without a title where something is said before the first', () => {
    expect(chaptersOf([step(0, [['said', 'x']])], ['Wren'])).toMatchObject([
      { title: '', from: 0, lines: [{ text: 'x' }] },
    ]);
    expect(chaptersOf([], ['Wren'])).toEqual([]);
  });
});

describe('the wish for a table', () => {
  const plan = { settings: [{ name: 'rounds', standard: 20 }] } as never;
  it('names seats, bots, settings and the stacked pack', () => {
    const seats = [
      { name: 'Wren', bot: null },
      { name: 'Otter', bot: 'steady' },
    ];
    expect(wishFor('hash', seats, firstSettings(plan), true, { 'hand/1': ['A♠', 'K♥'], top: ['7♦'] })).toEqual({
      sheet: 'hash',
      seats: [{ name: 'Wren' }, { name: 'Otter', bot: 'steady' }],
      settings: { rounds: 20 },
      clocks: true,
      gets: { 'hand/1': 'A♠ K♥', top: '7♦' },
    });
    expect(wishFor('hash', seats, {}, false)).not.toHaveProperty('gets');
  });
});
