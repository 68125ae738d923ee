import { describe, expect, it } from 'vitest';
import { Allowance } from '../src/access/allowance.js';

describe('what a key may do in a second', () => {
  it("is two seconds' worth at once, then one after the other", () => {
    const allowance = new Allowance(20);
    const waits = Array.from({ length: 43 }, () => allowance.take('seat', 5_000));
    expect(waits.slice(0, 40)).toEqual(new Array(40).fill(0));
    expect(waits.slice(40)).toEqual([50, 100, 150]);
    expect(allowance.take('another', 5_000)).toBe(0);
  });

  it("comes back with time, and no more of it than two seconds' worth", () => {
    const allowance = new Allowance(10);
    for (let i = 0; i < 25; i++) allowance.take('seat', 1_000);
    expect(allowance.take('seat', 1_600)).toBe(0);
    const later = Array.from({ length: 21 }, () => allowance.take('seat', 60_000));
    expect(later.filter((wait) => wait === 0)).toHaveLength(20);
  });
});

it('where little is allowed, something is', () => {
  const allowance = new Allowance(0.2);
  expect(Array.from({ length: 10 }, () => allowance.take('seat', 1_000))).toEqual(new Array(10).fill(0));
  expect(allowance.take('seat', 1_000)).toBeGreaterThan(0);
});
