import type { Row } from '@wily-jester/core';
import type { Choice, Chosen } from '@wily-jester/protocol';
import { describe, expect, it } from 'vitest';
import { Problem } from '../src/problems.js';
import { type Answering, Idempotency } from '../src/tables/idempotency.js';

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
function words(): Idempotency {
  const kept = new Idempotency('reedsreedsre');
  kept.note('1 mine', row, JSON.stringify(choice.args));
  return kept;
}

const now: Chosen = { number: 8, seat: 1, option: 'pass', args: {}, repeated: false };
const repeat: Answering['repeat'] = ({ number, option, args }) => ({ number, seat: 1, option, args, repeated: true });
const carryOut: Answering = { carryOut: async () => now, repeat };
const again: Answering = {
  carryOut: async () => {
    throw new Error('it was carried out a second time');
  },
  repeat,
};

describe('the words of choices', () => {
  it('answer a choice that comes again, as it was carried out', async () => {
    expect(await words().once(0, choice, again)).toEqual({
      number: 7,
      seat: 1,
      option: 'pass',
      args: row.args,
      repeated: true,
    });
  });

  it('belong to a seat: the same word of another one is another choice', async () => {
    expect(await words().once(1, choice, carryOut)).toBe(now);
    expect(await words().once(0, { ...choice, once: 'other' }, carryOut)).toBe(now);
  });

  it.each([
    ['another option', { option: 'keep' }],
    ['another question', { ask: 5 }],
    ['other values', { args: { cs: ['K♣', 'J♣'] } }],
    ['no values', { args: {} }],
  ])('are refused for %s', async (_, changed) => {
    await expect(words().once(0, { ...choice, ...changed } as Choice, again)).rejects.toThrow(
      'stood for another choice of yours, number 7',
    );
  });

  it('do not mind in which order values are named', async () => {
    const kept = new Idempotency('reedsreedsre');
    kept.note('1 two', { ...row, args: { a: 1, b: 2 } }, '{"a":1,"b":2}');
    const two: Choice = { ask: 6, option: 'pass', args: { b: 2, a: 1 }, once: 'two' };
    expect((await kept.once(0, two, again)).number).toBe(7);
  });

  it('of the table itself are none, and a choice kept without its own form is known by its values', async () => {
    const kept = new Idempotency('reedsreedsre');
    kept.note(null, row, null);
    kept.note('1 old', { ...row, args: { amount: 5 } }, null);
    const old: Choice = { ask: 6, option: 'pass', args: { amount: 5 }, once: 'old' };
    expect((await kept.once(0, old, again)).repeated).toBe(true);
  });

  it('answer what was kept while it was being refused', async () => {
    const kept = new Idempotency('reedsreedsre');
    const stale = async (): Promise<Chosen> => {
      kept.note('1 mine', row, JSON.stringify(choice.args));
      throw new Problem('stale', 'Another choice came first; the table is at number 7.');
    };
    expect((await kept.once(0, choice, { carryOut: stale, repeat })).number).toBe(7);
  });

  it('change nothing of other refusals', async () => {
    const illegal = async (): Promise<Chosen> => {
      throw new Problem('refused', 'That card is not yours.');
    };
    await expect(new Idempotency('reedsreedsre').once(0, choice, { carryOut: illegal, repeat })).rejects.toThrow(
      'That card is not yours.',
    );
  });
});
