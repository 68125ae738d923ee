import { afterEach, describe, expect, it } from 'vitest';
import { type PoolLimits, type WorkError, WorkerPool } from '../src/workers/pool.js';

const TASK = new URL('./tasks/sums.mjs', import.meta.url);
const LIMITS: PoolLimits = { workers: 1, waiting: 2, longestWait: 60_000, heap: 32 };
const SUM = { what: 'sum', of: [1, 2, 3] };

let pool: WorkerPool;
const open = (limits: Partial<PoolLimits> = {}): WorkerPool => {
  pool = new WorkerPool({ ...LIMITS, ...limits });
  return pool;
};
afterEach(() => pool.close());

const failureOf = (work: Promise<unknown>): Promise<string> =>
  work.then(
    () => 'none',
    (error: WorkError) => error.failure,
  );

describe('the pool of workers', () => {
  it('answers with what the work gives, one piece after the other', async () => {
    open();
    const sums = [SUM, { what: 'sum', of: [4] }, { what: 'sum', of: [] }].map((work) => pool.run(TASK, work, 60_000));
    expect(await Promise.all(sums)).toEqual([6, 4, 0]);
  });

  it('ends work that takes too long, and does what waits behind it', async () => {
    open();
    const endless = failureOf(pool.run(TASK, { what: 'loop' }, 50));
    const next = pool.run(TASK, SUM, 60_000);
    expect(await endless).toBe('too-long');
    expect(await next).toBe(6);
  });

  it('ends work that fills its memory, and only that', async () => {
    open();
    expect(await failureOf(pool.run(TASK, { what: 'fill' }, 60_000))).toBe('failed');
    expect(await pool.run(TASK, SUM, 60_000)).toBe(6);
  });

  it('tells what the work threw', async () => {
    open();
    await expect(pool.run(TASK, { what: 'throw' }, 60_000)).rejects.toThrow('no such sum');
    expect(await pool.run(TASK, SUM, 60_000)).toBe(6);
  });

  it('refuses at once what would wait behind too many', async () => {
    open();
    const endless = [0, 1, 2].map(() => failureOf(pool.run(TASK, { what: 'loop' }, 50)));
    expect(await failureOf(pool.run(TASK, SUM, 60_000))).toBe('busy');
    expect(await Promise.all(endless)).toEqual(['too-long', 'too-long', 'too-long']);
    expect(await pool.run(TASK, SUM, 60_000)).toBe(6);
  });

  it('gives up waiting for a worker after its time, without ending what runs', async () => {
    open({ longestWait: 5000 });
    expect(await pool.run(TASK, SUM, 60_000)).toBe(6);
    const endless = failureOf(pool.run(TASK, { what: 'loop' }, 7000));
    expect(await failureOf(pool.run(TASK, SUM, 60_000))).toBe('busy');
    expect(await endless).toBe('too-long');
  });
});
