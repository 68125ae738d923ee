import type { Played, Table } from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { inStretches } from '../src/tables/replaying.js';
import { MOST_STEPS, Steps } from '../src/tables/steps.js';

const happenings = (name: string): Played['happenings'] =>
  ({ for: (viewer: number) => [{ kind: 'said', text: `${name} for ${viewer}` }] }) as unknown as Played['happenings'];
const table = { opening: happenings('the opening'), scores: () => [0], linesOf: () => [] } as unknown as Table;
const played = (number: number): Played =>
  ({ row: { number }, happenings: happenings(`step ${number}`), scores: [number] }) as unknown as Played;

function steps(count: number): Steps {
  const kept = new Steps(table);
  for (let number = 1; number <= count; number++) kept.add(played(number));
  return kept;
}

describe('the steps of a table', () => {
  it('begin with the opening, and are told to each viewer apart', () => {
    expect(steps(2).since(-1, 3)).toEqual([
      { number: 0, events: [{ kind: 'said', text: 'the opening for 3' }], lines: [], scores: [0] },
      { number: 1, events: [{ kind: 'said', text: 'step 1 for 3' }], lines: [], scores: [1] },
      { number: 2, events: [{ kind: 'said', text: 'step 2 for 3' }], lines: [], scores: [2] },
    ]);
    expect(
      steps(5)
        .since(2, 0, 4)
        .map((step) => step.number),
    ).toEqual([3, 4]);
    expect(steps(5).since(5, 0)).toEqual([]);
  });

  it('are kept up to a number of them: the oldest make room', () => {
    const kept = steps(MOST_STEPS + 10);
    expect(kept.oldest).toBe(11);
    const told = kept.since(-1, 0);
    expect(told).toHaveLength(MOST_STEPS);
    expect(told.map((step) => step.scores[0])).toEqual(Array.from({ length: MOST_STEPS }, (_, i) => 11 + i));
    expect(steps(MOST_STEPS - 1).oldest).toBe(0);
    expect(steps(MOST_STEPS).oldest).toBe(1);
  });
});

describe('long work', () => {
  it('is done in order, and lets others go on meanwhile', async () => {
    const order: string[] = [];
    let others = 0;
    const beside = setInterval(() => others++, 0);
    await inStretches(
      Array.from({ length: 6 }, (_, i) => i),
      (i) => {
        order.push(`${i}`);
        const end = performance.now() + 12;
        while (performance.now() < end);
      },
    );
    clearInterval(beside);
    expect(order.join(' ')).toBe('0 1 2 3 4 5');
    expect(others).toBeGreaterThan(2);
  });

  it('stops where it fails', async () => {
    const done: number[] = [];
    const work = inStretches([1, 2, 3], (i) => {
      if (i === 2) throw new Error('no further');
      done.push(i);
    });
    await expect(work).rejects.toThrow('no further');
    expect(done).toEqual([1]);
  });
});
