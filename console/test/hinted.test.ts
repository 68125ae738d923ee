import type { Hint } from '@wily-jester/protocol';
import { describe, expect, it } from 'vitest';
import { markOfCard, markOfOption, rowsOf } from '../src/table/hinted';

type Choice = Hint['choices'][number];
const choice = (option: string, args: Choice['args'], mean: number | null): Choice => ({
  option,
  args,
  words: `${option} ${JSON.stringify(args)}`,
  mean,
  error: mean === null ? null : 0.5,
});
const hintOf = (...choices: Choice[]): Hint => ({ ask: 3, seat: 1, choices, playouts: 400, alone: false });

describe('a hint', () => {
  const raises = hintOf(
    choice('raise', { amount: 11 }, 6.4),
    choice('raise', { amount: 12 }, 6.3),
    choice('raise', { amount: 14 }, 6.2),
    choice('raise', { amount: 28 }, 5.2),
    choice('call', {}, 1.04),
    choice('fold', {}, -1),
  );

  it('tells the best of each option before further ones of the same, the best first', () => {
    expect(rowsOf(raises, 4).map(({ option, mean }) => [option, mean])).toEqual([
      ['raise', 6.4],
      ['raise', 6.3],
      ['call', 1.04],
      ['fold', -1],
    ]);
    expect(rowsOf(raises, 2).map(({ option }) => option)).toEqual(['raise', 'call']);
    expect(rowsOf(raises, 40)).toEqual(raises.choices);
  });

  it('marks each button with what it is worth, an amount where that very one was weighed', () => {
    expect(markOfOption(raises, 'call')).toEqual({ words: '+1.0', isBest: false });
    expect(markOfOption(raises, 'raise', { amount: 11 })).toEqual({ words: '+6.4', isBest: true });
    expect(markOfOption(raises, 'raise', { amount: 13 })).toBeNull();
    expect(markOfOption(raises, 'check')).toBeNull();
    expect(markOfOption(null, 'call')).toBeNull();
    expect(markOfOption(hintOf(choice('go', {}, null)), 'go')).toEqual({ words: '', isBest: true });
  });

  it('marks cards: each with its best choice, and of sets those of the best', () => {
    const lays = hintOf(
      choice('lay', { c: 'hand/1#4' }, -0.2),
      choice('lay', { c: 'hand/1#3' }, -0.34),
      choice('move', { c: 'hand/1#3', to: 'column/2' }, -2),
    );
    expect(markOfCard(lays, 'hand/1#4')).toEqual({ words: '−0.2', isBest: true });
    expect(markOfCard(lays, 'hand/1#3')).toEqual({ words: '−0.3', isBest: false });
    expect(markOfCard(lays, 'hand/1#9')).toBeNull();
    const sets = hintOf(
      choice('pass', { cs: ['hand/1#8', 'hand/1#11'] }, 1),
      choice('pass', { cs: ['hand/1#2', 'hand/1#8'] }, 0.5),
    );
    expect(markOfCard(sets, 'hand/1#11')).toEqual({ words: '', isBest: true });
    expect(markOfCard(sets, 'hand/1#2')).toBeNull();
    expect(markOfCard(null, 'hand/1#2')).toBeNull();
  });
});
