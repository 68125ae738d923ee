import { isPlayed, type Played, replay } from '@wily-jester/core';
import { compileSheet } from '@wily-jester/motley';
import { describe, expect, it } from 'vitest';
import { MOST_STEPS, RecentSteps } from '../src/broadcast/recent-steps.js';
import { type InTurn, inStretches } from '../src/records/replay.js';
import { DeveloperAccounts } from '../src/workers/accounts.js';
import { Turns } from '../src/workers/turns.js';

/** A game without an end, of one seat; the other one looks on. */
const HEM = `game "Hem" for 2 seats {
  deck standard
  pile hand of each seat private
  play { deal 1 from pack to seats[1].hand repeat { ask seats[1] {
    option draw { if empty(pack) { move all from seats[1].hand to pack face down } deal 1 from pack to seats[1].hand }
    option stop { finish }
  } } }
}`;
const { program } = compileSheet(HEM);
if (!program) throw new Error('the sheet does not compile');

function steps(count: number): { steps: RecentSteps; played: Played[] } {
  const table = replay(program as NonNullable<typeof program>, { seats: ['Wren', 'Otter'], seed: 'hem' }, []);
  const kept = new RecentSteps(table);
  const played: Played[] = [];
  for (let ask = 0; ask < count; ask++) {
    const result = table.choose(0, { ask, option: 'draw', args: {} });
    if (!isPlayed(result)) throw new Error(result.reason);
    played.push(result);
    kept.add(result);
  }
  return { steps: kept, played };
}

describe('the steps of a table', () => {
  it('begin with the opening, and are told to each viewer apart', () => {
    const { steps: kept, played } = steps(2);
    expect(kept.since(-1, 0)).toMatchObject([
      { number: 0, events: [{ kind: 'moved', face: 'K♣' }], lines: [{ text: 'You get K♣.' }], scores: [0, 0] },
      { number: 1, events: [{ kind: 'chosen' }, { face: 'Q♣' }], lines: [{ text: 'You draw and get Q♣.' }] },
      { number: 2, lines: [{ text: 'You draw and get J♣.' }] },
    ]);
    expect(kept.since(0, 1).map((step) => step.lines.map((line) => line.text))).toEqual([
      ['Wren draws and gets a card.'],
      ['Wren draws and gets a card.'],
    ]);
    // They were kept as texts: what comes out of these is what was played.
    for (const viewer of [0, 1, -1, -2])
      expect(kept.since(0, viewer).map((step) => step.events)).toEqual(
        played.map(({ stepEvents }) => stepEvents.for(viewer)),
      );
    expect(
      steps(5)
        .steps.since(2, 0, 4)
        .map((step) => step.number),
    ).toEqual([3, 4]);
    expect(steps(5).steps.since(5, 0)).toEqual([]);
  });

  it('are kept up to a number of them: the oldest make room', () => {
    const { steps: kept, played } = steps(MOST_STEPS + 10);
    expect(kept.oldest).toBe(11);
    const told = kept.since(-1, 0);
    expect(told.map((step) => step.number)).toEqual(Array.from({ length: MOST_STEPS }, (_, i) => 11 + i));
    expect(told.at(-1)?.events).toEqual(played.at(-1)?.stepEvents.for(0));
    expect(steps(MOST_STEPS - 1).steps.oldest).toBe(0);
    expect(steps(MOST_STEPS).steps.oldest).toBe(1);
  });
});

describe('long work', () => {
  const turns = new Turns();
  const account = new DeveloperAccounts().table('first');
  const inTurn: InTurn = (work) => turns.run(account, false, work);

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
      inTurn,
    );
    clearInterval(beside);
    expect(order.join(' ')).toBe('0 1 2 3 4 5');
    expect(others).toBeGreaterThan(2);
    // It counts as what its developer used.
    expect(account.developer.virtual).toBeGreaterThan(60);
  });

  it('stops where it fails', async () => {
    const done: number[] = [];
    const upToTwo = (i: number): void => {
      if (i === 2) throw new Error('no further');
      done.push(i);
    };
    const work = inStretches([1, 2, 3], upToTwo, inTurn);
    await expect(work).rejects.toThrow('no further');
    expect(done).toEqual([1]);
  });
});
