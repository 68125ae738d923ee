import { afterEach, describe, expect, it } from 'vitest';
import { type ChildLimits, Children, type WorkError } from '../dist/workers/children.js';

const TASK = new URL('./tasks/sums.mjs', import.meta.url);
const SLOW_TO_READ = new URL('./tasks/slow-to-read.mjs', import.meta.url);
const LIMITS: ChildLimits = {
  children: 1,
  waiting: 2,
  waitingOfOne: 2,
  atOnceOfOne: 1,
  longest: 300,
  longestByClock: 30_000,
  heap: 64,
  data: 700_000_000,
  most: 200,
};
const SUM = { what: 'sum', of: [1, 2, 3] };

let children: Children;
const open = (limits: Partial<ChildLimits> = {}): Children => {
  children = new Children({ ...LIMITS, ...limits });
  return children;
};
afterEach(() => children.close());

const failureOf = (work: Promise<unknown>): Promise<string> =>
  work.then(
    () => 'none',
    (error: WorkError) => error.failure,
  );

describe('processes for the work of strangers', () => {
  it('answer with what the work gives, one piece after the other', async () => {
    open();
    const sums = [SUM, { what: 'sum', of: [4] }, { what: 'sum', of: [] }].map((work) =>
      children.run('first', TASK, work),
    );
    expect(await Promise.all(sums)).toEqual([6, 4, 0]);
  });

  it('are ended where the work takes too long by their own time, and what waits behind it is done', async () => {
    open();
    const endless = failureOf(children.run('first', TASK, { what: 'loop' }));
    const next = children.run('first', TASK, SUM);
    expect(await endless).toBe('too-long');
    expect(await next).toBe(6);
  });

  it('have their time from when the work begins: starting a process, and reading its program, is not its own', async () => {
    open();
    expect(await children.run('first', SLOW_TO_READ, SUM)).toBe(3);
  });

  it('are ended by the clock where they sleep', async () => {
    open({ longestByClock: 300 });
    expect(await failureOf(children.run('first', TASK, { what: 'sleep' }))).toBe('too-long');
  });

  it.each(['fill', 'strings', 'buffers'])(
    'are ended by what fills their memory, and nothing else is: %s',
    async (what) => {
      open({ longest: 20_000 });
      expect(await failureOf(children.run('first', TASK, { what }))).toBe('failed');
      expect(await children.run('first', TASK, SUM)).toBe(6);
    },
  );

  it('tell what the work threw', async () => {
    open();
    await expect(children.run('first', TASK, { what: 'throw' })).rejects.toThrow('no such sum');
    expect(await children.run('first', TASK, SUM)).toBe(6);
  });

  it('end themselves, or are ended from outside, and the next one is there', async () => {
    open({ most: 1 });
    expect(await failureOf(children.run('first', TASK, { what: 'exit' }))).toBe('failed');
    expect(await children.run('first', TASK, SUM)).toBe(6);
    expect(await children.run('first', TASK, SUM)).toBe(6);
  });

  it('refuse at once what would wait behind too many', async () => {
    open();
    const endless = [0, 1, 2].map(() => failureOf(children.run('first', TASK, { what: 'loop' })));
    expect(await failureOf(children.run('first', TASK, SUM))).toBe('busy');
    expect(await Promise.all(endless)).toEqual(['too-long', 'too-long', 'too-long']);
    expect(await children.run('first', TASK, SUM)).toBe(6);
  });

  it('do the work of one developer while that of another hangs, and refuse only those of whom too much waits', async () => {
    open({ children: 2, waiting: 8 });
    const hanging = [0, 1, 2].map(() => failureOf(children.run('many', TASK, { what: 'loop' })));
    expect(await failureOf(children.run('many', TASK, SUM))).toBe('busy');
    const order: string[] = [];
    await Promise.all([
      children.run('few', TASK, SUM).then(() => order.push('few')),
      hanging[0]?.then(() => order.push('many')),
    ]);
    expect(order).toEqual(['few', 'many']);
    await Promise.all(hanging);
  });
});
