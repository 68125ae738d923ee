import { describe, expect, it } from 'vitest';
import { FairQueue } from '../src/workers/fair-queue.js';

describe('a queue of several developers', () => {
  it('serves them in turn, however much one of them asks for', () => {
    const queue = new FairQueue<number>();
    for (let i = 1; i <= 4; i++) queue.push('many', i);
    expect(queue.next()).toBe(1);
    queue.push('few', 10);
    queue.push('few', 11);
    const order = Array.from({ length: 5 }, () => queue.next());
    expect(order).toEqual([10, 2, 11, 3, 4]);
    expect(queue.next()).toBeUndefined();
  });

  it('passes over those who may not be served now, and counts what waits', () => {
    const queue = new FairQueue<string>();
    queue.push('busy', 'a');
    queue.push('busy', 'b');
    queue.push('idle', 'c');
    expect([queue.size, queue.sizeOf('busy'), queue.sizeOf('nobody')]).toEqual([3, 2, 0]);
    expect(queue.next((developer) => developer !== 'busy')).toBe('c');
    expect(queue.next((developer) => developer !== 'busy')).toBeUndefined();
    expect(queue.empty()).toEqual(['a', 'b']);
    expect(queue.size).toBe(0);
  });
});
