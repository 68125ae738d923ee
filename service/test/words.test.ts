import type { Row } from '@wily-jester/core';
import type { Choice } from '@wily-jester/protocol';
import { describe, expect, it } from 'vitest';
import { Words } from '../src/tables/words.js';

const row: Row = {
  number: 7,
  seat: 1,
  by: 'person',
  ask: 6,
  option: 'pass',
  args: { cs: ['hand/1#1', 'hand/1#3'] },
  digest: '0'.repeat(32),
};
const choice: Choice = { ask: 6, option: 'pass', args: { cs: ['K♣', '10♣'] }, once: 'mine' };
function words(): Words {
  const kept = new Words();
  kept.note('1 mine', row, JSON.stringify(choice.args));
  return kept;
}

describe('the words of choices', () => {
  it('answer a choice that comes again, as it was carried out', () => {
    expect(words().answerTo(0, choice)).toEqual({ number: 7, seat: 1, option: 'pass', args: row.args, repeated: true });
  });

  it('belong to a seat: the same word of another one is another choice', () => {
    expect(words().answerTo(1, choice)).toBeNull();
    expect(words().answerTo(0, { ...choice, once: 'other' })).toBeNull();
  });

  it.each([
    ['another option', { option: 'keep' }],
    ['another question', { ask: 5 }],
    ['other values', { args: { cs: ['K♣', 'J♣'] } }],
    ['no values', { args: {} }],
  ])('are refused for %s', (_, changed) => {
    expect(() => words().answerTo(0, { ...choice, ...changed } as Choice)).toThrow(
      'stood for another choice of yours, number 7',
    );
  });

  it('do not mind in which order values are named', () => {
    const kept = new Words();
    kept.note('1 two', { ...row, args: { a: 1, b: 2 } }, '{"a":1,"b":2}');
    expect(kept.answerTo(0, { ask: 6, option: 'pass', args: { b: 2, a: 1 }, once: 'two' })?.number).toBe(7);
  });

  it('of the table itself are none, and a choice kept without its own form is known by its values', () => {
    const kept = new Words();
    kept.note(null, row, null);
    kept.note('1 old', { ...row, args: { amount: 5 } }, null);
    expect(kept.answerTo(0, { ask: 6, option: 'pass', args: { amount: 5 }, once: 'old' })?.repeated).toBe(true);
  });
});
