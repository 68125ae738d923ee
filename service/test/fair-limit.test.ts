import { describe, expect, it } from 'vitest';
import { Crowded, FairLimit } from '../src/workers/fair-limit.js';

/** Work that ends when it is told to. */
function held() {
  let end = (): void => undefined;
  const done = new Promise<void>((resolve) => {
    end = resolve;
  });
  return { work: () => done, end: () => end() };
}

describe('work that is done a piece at a time', () => {
  it('goes on with whoever waited longest, however much another one asks for', async () => {
    const limit = new FairLimit({ atOnce: 1, waiting: 100, waitingOfOne: 50 });
    const order: string[] = [];
    const first = held();
    const all = [limit.run('greedy', first.work)];
    for (let i = 0; i < 12; i++) all.push(limit.run('greedy', async () => void order.push('greedy')));
    all.push(limit.run('calm', async () => void order.push('calm')));
    first.end();
    await Promise.all(all);
    expect(order.indexOf('calm')).toBe(0);
    expect(order).toHaveLength(13);
  });

  it('is refused where one asks for too much, and others are not', async () => {
    const limit = new FairLimit({ atOnce: 1, waiting: 100, waitingOfOne: 3 });
    const first = held();
    const all = [limit.run('greedy', first.work), ...[1, 2, 3].map(() => limit.run('greedy', async () => undefined))];
    await expect(limit.run('greedy', async () => undefined)).rejects.toBeInstanceOf(Crowded);
    all.push(limit.run('calm', async () => undefined));
    first.end();
    await Promise.all(all);
  });

  it('goes on after a piece that fails', async () => {
    const limit = new FairLimit({ atOnce: 1, waiting: 10, waitingOfOne: 10 });
    const failing = limit.run('one', async () => {
      throw new Error('no');
    });
    const after = limit.run('one', async () => 'done');
    await expect(failing).rejects.toThrow('no');
    expect(await after).toBe('done');
  });

  it('is done so much at a time, and no more', async () => {
    const limit = new FairLimit({ atOnce: 2, waiting: 10, waitingOfOne: 10 });
    let [now, most] = [0, 0];
    const work = async (): Promise<void> => {
      most = Math.max(most, ++now);
      await Promise.resolve();
      now--;
    };
    await Promise.all(Array.from({ length: 8 }, (_, i) => limit.run(`developer ${i % 3}`, work)));
    expect(most).toBe(2);
  });
});
