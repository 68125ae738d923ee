import type { Analysis, Step } from '@wily-jester/protocol';
import { describe, expect, it } from 'vitest';
import { choicesOf, costOf, headline, isUnknown, linesOf, stretchAt, worthOf } from '../src/past/worth';
import { chaptersOf } from '../src/table/chapters';

const line = (number: number, text: string, kind: 'chosen' | 'chapter' | 'said' = 'said') => ({
  number,
  kind,
  seat: null,
  text,
});
const step = (number: number, seat: number | null, lines: ReturnType<typeof line>[]): Step =>
  ({ number, events: seat === null ? [] : [{ kind: 'chosen', seat }], lines, scores: [] }) as Step;
const STEPS = [
  step(0, null, [line(0, 'Toll 1', 'chapter'), line(0, 'Cards are dealt.')]),
  step(1, 1, [line(1, 'Wren pays 2.', 'chosen')]),
  step(2, 2, [line(2, 'Otter passes.', 'chosen')]),
  step(3, 1, [
    line(3, 'Wren passes.', 'chosen'),
    line(3, 'Otter takes it.'),
    line(3, 'Toll 2', 'chapter'),
    line(3, 'Anew.'),
  ]),
  step(4, 2, [line(4, 'Otter pays 1.', 'chosen')]),
];
const CHAPTERS = chaptersOf(STEPS, ['Wren', 'Otter']);

const choice = (words: string, mean: number, gain: number, taken: boolean) => ({
  option: words,
  args: {},
  words,
  mean,
  error: 0.5,
  gain,
  gainError: 0.2,
  taken,
});
const analysis = (number: number, choices: Analysis['choices'], more: Partial<Analysis> = {}): Analysis =>
  ({ number, seat: 1, begun: 10, ahead: 12, ended: 7, playouts: 90, choices, ...more }) as Analysis;

describe('a chapter that is looked back at', () => {
  it('has the choices that were made in it, also the one that ended it', () => {
    expect(stretchAt(CHAPTERS, 3, 4)).toEqual({ title: 'Toll 1', from: 0, to: 3 });
    expect(stretchAt(CHAPTERS, 4, 4)).toEqual({ title: 'Toll 2', from: 3, to: 4 });
    expect(choicesOf(STEPS, 1, stretchAt(CHAPTERS, 3, 4))).toEqual([1, 3]);
    expect(choicesOf(STEPS, 1, stretchAt(CHAPTERS, 4, 4))).toEqual([]);
  });

  it('has the lines from its title to the next one', () => {
    const told = (number: number) => linesOf(STEPS, stretchAt(CHAPTERS, number, 4), [1, 3]);
    expect(told(1).map(({ text, own }) => [text, own])).toEqual([
      ['Cards are dealt.', false],
      ['Wren pays 2.', true],
      ['Otter passes.', false],
      ['Wren passes.', true],
      ['Otter takes it.', false],
    ]);
    expect(told(4).map(({ text }) => text)).toEqual(['Anew.', 'Otter pays 1.']);
  });
});

describe('what choices were worth', () => {
  const stretch = { title: 'Toll 1', from: 0, to: 3 };
  const found = new Map([
    [1, analysis(1, [choice('pay 2', 1, 0, true), choice('pass', -1, -2, false)])],
    [3, analysis(3, [choice('pay 4', 2, 6, false), choice('pass', -4, 0, true)], { ahead: 11 })],
  ]);

  it('is counted from where the chapter began, and costs what another one gained', () => {
    const worth = worthOf('Wren', stretch, [1, 3], found);
    expect(worth.steps).toMatchObject([
      { number: 1, best: 3, taken: 3, half: 0.98, cost: 0 },
      { number: 3, best: 3, taken: -3, cost: 6 },
    ]);
    expect([worth.missing, worth.ended]).toEqual([0, -3]);
    expect(costOf(found.get(1) as Analysis)).toBe(0);
    expect(headline(worth, true)).toEqual({
      title: '“pass” cost 6.0',
      rest: 'Nothing else cost anything. You ended 3 points behind.',
    });
  });

  it('says so while it is being thought over, and where there was nothing to weigh', () => {
    const half = worthOf('Wren', stretch, [1, 3], new Map([[3, found.get(3) as Analysis]]));
    expect(headline(half, false)).toEqual({ title: 'Thinking it over', rest: '1 of 2 choices are weighed.' });
    const none = worthOf('Wren', stretch, [1], new Map([[1, analysis(1, [])]]));
    expect(headline(none, false).title).toBe('Nothing to weigh');
    const unsaid = analysis(1, [{ ...choice('pay 2', 0, 0, true), error: null }, choice('pass', 1, 1, false)]);
    expect(isUnknown(unsaid)).toBe(true);
    expect(worthOf('Wren', stretch, [1], new Map([[1, unsaid]])).steps).toEqual([]);
    const good = worthOf('Wren', stretch, [1], found);
    expect(headline(good, false)).toEqual({
      title: 'Nothing was clearly better',
      rest: 'Every choice was as good as the bot’s. Wren ended 3 points behind.',
    });
  });
});
