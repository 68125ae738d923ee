import { Audit, meanRising, namedShuffle, riffleDistance, SHUFFLE_NAMES, ShuffleError } from '@wily-jester/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { shuffleNamed } from '../src/audit/shuffles.js';
import { PermutationCounts, RepeatCounter } from '../src/audit/tallied.js';

function audited(name: string, orders: number, { cards = 52, seed = '1' } = {}) {
  const shuffle = namedShuffle(name, cards, seed);
  const audit = new Audit({ cards });
  for (let i = 0; i < orders; i++) audit.add(shuffle.next());
  return audit.report();
}

describe('riffles', () => {
  it('are as far from fair as was published', () => {
    const distances = Array.from({ length: 10 }, (_, i) => riffleDistance(52, i + 1).toFixed(3));
    expect(distances.join(' ')).toBe('1.000 1.000 1.000 1.000 0.924 0.614 0.334 0.167 0.085 0.043');
  });

  it('leave as many rising sequences as the count of all orders says', () => {
    expect(meanRising(52, 1)).toBeCloseTo(2, 4);
    expect(meanRising(52, 7)).toBeCloseTo(24.7104, 4);
    const shuffle = namedShuffle('riffle:3', 52, 'rising');
    const counts = new PermutationCounts(52);
    for (let i = 0; i < 4000; i++) counts.add(shuffle.next());
    expect(counts.rises / 4000 + 1).toBeCloseTo(meanRising(52, 3), 1);
  });
});

describe('swapping with any place', () => {
  it('gives three of six orders 4 times of 27, and the others 5 times', () => {
    const found = new Map<string, number>();
    for (let way = 0; way < 27; way++) {
      let left = way;
      const choose = (n: number): number => {
        const drawn = left % n;
        left = Math.floor(left / n);
        return drawn;
      };
      const order = Uint16Array.of(1, 2, 3);
      shuffleNamed('swap-anywhere')(order, { next: () => 0, choose });
      found.set(order.join(''), (found.get(order.join('')) ?? 0) + 1);
    }
    expect(Object.fromEntries(found)).toEqual({ 123: 4, 312: 4, 321: 4, 132: 5, 213: 5, 231: 5 });
  });
});

describe('what is counted of orders', () => {
  it('is what counting pair by pair gives', () => {
    const orders = fc.integer({ min: 2, max: 12 }).chain((n) =>
      fc.shuffledSubarray(
        Array.from({ length: n }, (_, i) => i),
        { minLength: n, maxLength: n },
      ),
    );
    fc.assert(
      fc.property(orders, (order) => {
        const n = order.length;
        const counts = new PermutationCounts(n);
        counts.add(Uint16Array.from(order));
        const pairs = order.flatMap((a, i) => order.slice(i + 1).map((b) => Number(a > b)));
        expect(counts.inversions).toBe(pairs.reduce((sum, one) => sum + one, 0));
        expect(counts.descents).toBe(order.filter((card, i) => i > 0 && card < (order[i - 1] as number)).length);
        const start = new Set(order);
        let cycles = 0;
        for (const from of start) {
          cycles++;
          for (let at = order[from] as number; at !== from; at = order[at] as number) start.delete(at);
        }
        expect(counts.cycles).toBe(cycles);
        expect(counts.odd).toBe(counts.inversions % 2);
        expect(counts.shift[0]).toBe(order.filter((card, i) => card === i).length);
      }),
    );
  });

  it('knows how often an order came again, also once only some are kept', () => {
    const few = new RepeatCounter();
    for (const n of [1, 2, 1, 3, 1, 1]) few.add(Uint16Array.of(n, 9));
    expect([few.pairs, few.neighbours]).toEqual([6, 1]);
    const many = new RepeatCounter();
    // 3,000,000 orders, of which 1,000,000 come a second time.
    for (let i = 0; i < 4_000_000; i++) {
      const k = i % 3_000_000;
      many.add(Uint16Array.of(k & 0xffff, k >> 16, 7));
    }
    expect(many.kept).toBeLessThan(1);
    expect(many.pairs / many.kept / 1_000_000).toBeCloseTo(1, 2);
  });
});

describe('an audit', () => {
  it.each([
    ['swap-anywhere', 130, 'each swap draws from the whole deck, not from the cards not yet settled'],
    ['sort-by-coin', 400, 'sorting by a random comparison'],
    ['never-stays', 3, 'no card may keep its place: draw from 0..i, not 0..i−1'],
    ['off-by-one', 4, 'the last card never moves: the random index ends one too early'],
    ['random-pairs:104', 60, 'too few swaps: about'],
    ['riffle:7', 60, 'like about 7 riffles'],
    ['riffle:8', 400, 'like about 8 riffles'],
    ['overhand:20', 2000, 'much of the old order is left: packets or insertion'],
    ['short-keys:8', 400, 'equal sort keys: only about'],
    ['modulo:8', 2500, 'numbers that favour small values (a remainder)'],
    ['weak-seed:16', 1000, 'starts: the seed is too small'],
    ['goes-on:riffle:7', 60, 'like about 7 riffles, from the last order'],
    ['goes-on:swap-anywhere', 130, 'each swap draws from the whole deck'],
    ['old-cards', 400, 'the shuffle is sometimes skipped'],
  ])('finds %s in %i shuffles, and says what is wrong', (name, orders, cause) => {
    const { verdict, sentence } = audited(name, orders);
    expect(verdict).toBe('not fair');
    expect(sentence).toContain(cause);
  });

  it('says of a program that cuts that it only cuts', () => {
    const audit = new Audit({ cards: 52 });
    for (let i = 0; i < 200; i++) audit.add(Uint16Array.from({ length: 52 }, (_, k) => (k + i * 7) % 52));
    expect(audit.report().sentence).toContain('it only cuts');
  });

  it('finds nothing in our own shuffle, from the deck or going on', () => {
    for (const name of ['ours', 'goes-on:ours'])
      expect(audited(name, 20_000, { seed: 'lantern' }).verdict).toBe('nothing found');
    expect(audited('ours', 20_000, { seed: 'lantern' }).sentence).toMatch(/^Nothing wrong found/);
  });

  it('raises a false alarm no oftener than one time in a hundred', () => {
    let alarms = 0;
    for (let run = 0; run < 200; run++)
      if (audited('ours', 300, { seed: `fair ${run}` }).verdict === 'not fair') alarms++;
    // More than 6 of 200 would come in one of two hundred such tests; the seeds are fixed.
    expect(alarms).toBeLessThanOrEqual(6);
  });

  it('takes cards of which some are equal, and stays fair', () => {
    const faces = Array.from({ length: 104 }, (_, card) => card % 52);
    const shuffle = namedShuffle('ours', 104, 'two packs');
    const wrong = namedShuffle('off-by-one', 104, 'two packs');
    const [fair, stuck] = [new Audit({ cards: 104, faces }), new Audit({ cards: 104, faces })];
    for (let i = 0; i < 2000; i++) {
      fair.add(shuffle.next());
      stuck.add(wrong.next());
    }
    expect(fair.report().verdict).toBe('nothing found');
    expect(stuck.report().verdict).toBe('not fair');
  });

  it('counts whole orders where there are few cards', () => {
    const { tests, verdict } = audited('swap-anywhere', 5_000, { cards: 3 });
    expect(verdict).toBe('not fair');
    expect(tests.find(({ name }) => name === 'orders')?.corrected).toBeLessThan(1e-6);
    expect(audited('ours', 5_000, { cards: 3 }).verdict).toBe('nothing found');
  });

  it('tells the smallest bias that would have shown', () => {
    const { smallest } = audited('ours', 10_000);
    expect(smallest.fixed).toBeCloseTo(0.055, 3);
    expect(smallest.rising).toBeCloseTo(0.116, 2);
    expect(smallest.inversions).toBeCloseTo(3.5, 0);
    expect(smallest.starts / 2 ** 24).toBeCloseTo(1, 1);
  });

  it('knows its shuffles by name, and says which there are', () => {
    for (const name of SHUFFLE_NAMES) expect(() => namedShuffle(name, 20, 's').next()).not.toThrow();
    expect(() => namedShuffle('rifle', 52, 's')).toThrow(ShuffleError);
    expect(() => namedShuffle('riffle:0', 52, 's')).toThrow('a whole number from 1 to 50');
    expect(() => namedShuffle('ours:3', 52, 's')).toThrow('takes no number');
    expect(() => new Audit({ cards: 1 })).toThrow(RangeError);
  });
});
