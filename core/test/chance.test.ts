import { readFileSync } from 'node:fs';
import { chacha20 } from '@noble/ciphers/chacha.js';
import {
  below,
  chachaChance,
  commitToOrder,
  deriveKey,
  type Generator,
  parseFaces,
  quickChance,
  seedCommitment,
  seedFrom,
  seedText,
  shufflePlaces,
} from '@wily-jester/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

const CHANCES = [
  ['chacha20', (n: number) => chachaChance(seedFrom(`chance ${n}`))],
  ['quick', (n: number) => quickChance(n)],
] as const;

/** Chi-square of how often each card of a small deck lands on each place, over many shuffles. */
function chiSquare(cards: number, times: number, shuffle: (places: number[], round: number) => void): number {
  const seen = Array.from({ length: cards }, () => new Array<number>(cards).fill(0));
  for (let round = 0; round < times; round++) {
    const places = Array.from({ length: cards }, (_, i) => i);
    shuffle(places, round);
    for (const [place, card] of places.entries()) (seen[card] as number[])[place] = (seen[card]?.[place] ?? 0) + 1;
  }
  const expected = times / cards;
  return seen.flat().reduce((sum, n) => sum + (n - expected) ** 2 / expected, 0);
}

const CARDS = 8;
const TIMES = 16_000;
/**
 * (8 − 1)² = 49 degrees of freedom: mean 49, standard deviation √98 ≈ 9.9. A fair shuffle passes 110
 * (over six deviations) less than once in a million runs, and the generators here are fixed anyway.
 */
const BOUND = 110;

describe('a shuffle', () => {
  it.each(CHANCES)('with %s keeps every card', (_, make) => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 60 }), { maxLength: 120 }), fc.nat(1000), (cards, count) => {
        const places = [...cards];
        shufflePlaces(places, 0, places.length, make(1).stream('shuffle', count));
        expect([...places].sort((a, b) => a - b)).toEqual([...cards].sort((a, b) => a - b));
      }),
      { numRuns: 60 },
    );
  });

  it('leaves what lies outside its stretch alone', () => {
    const places = Array.from({ length: 20 }, (_, i) => i);
    shufflePlaces(places, 5, 10, quickChance(3).stream('shuffle', 0));
    expect(places.slice(0, 5)).toEqual([0, 1, 2, 3, 4]);
    expect(places.slice(15)).toEqual([15, 16, 17, 18, 19]);
    expect(places.slice(5, 15)).not.toEqual([5, 6, 7, 8, 9, 10, 11, 12, 13, 14]);
  });

  it.each(CHANCES)('with %s brings every card to every place equally often', (_, make) => {
    const chance = make(7);
    const found = chiSquare(CARDS, TIMES, (places, round) =>
      shufflePlaces(places, 0, places.length, chance.stream('shuffle', round)),
    );
    expect(found).toBeLessThan(BOUND);
  });

  it('fails that bound when each place is swapped with any place of the whole range', () => {
    const chance = quickChance(7);
    const found = chiSquare(CARDS, TIMES, (places, round) => {
      const generator = chance.stream('shuffle', round);
      for (let i = 0; i < places.length; i++) {
        const j = below(generator, places.length);
        [places[i], places[j]] = [places[j] as number, places[i] as number];
      }
    });
    expect(found).toBeGreaterThan(BOUND);
  });

  it('fails that bound when the last place is never touched', () => {
    const found = chiSquare(CARDS, TIMES, (places, round) =>
      shufflePlaces(places, 0, places.length - 1, quickChance(1).stream('shuffle', round)),
    );
    expect(found).toBeGreaterThan(BOUND);
  });
});

describe('a bounded draw', () => {
  it('throws away what would favour a remainder', () => {
    const given = [0xffff_ffff, 0xffff_fffe, 7];
    const generator: Generator = { next: () => given.shift() ?? 0 };
    // 2^32 is no multiple of 10: the last six numbers of the range are drawn again.
    expect(below(generator, 10)).toBe(7);
    expect(given).toHaveLength(0);
  });

  it('stays below its bound', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 2 ** 32 - 1 }), fc.nat(), (n, count) => {
        const drawn = below(quickChance(2).stream('draw', count), n);
        expect(drawn).toBeGreaterThanOrEqual(0);
        expect(drawn).toBeLessThan(n);
      }),
    );
  });
});

describe('chance', () => {
  it.each(CHANCES)('of %s gives the same numbers for the same words, and others for others', (_, make) => {
    const first = (purpose: string, count: number): number[] => {
      const stream = make(5).stream(purpose, count);
      return Array.from({ length: 300 }, () => stream.next());
    };
    expect(first('shuffle', 3)).toEqual(first('shuffle', 3));
    expect(first('shuffle', 3)).not.toEqual(first('shuffle', 4));
    expect(first('shuffle', 3)).not.toEqual(first('pick', 3));
    for (const n of first('shuffle', 0)) expect(n).toBe(n >>> 0);
  });

  it('agrees with the published test vectors', () => {
    const file = new URL('../../docs/shuffle-vectors.json', import.meta.url);
    const { vectors } = JSON.parse(readFileSync(file, 'utf8')) as {
      vectors: { seed: string; count: number; cards: number; order: number[]; commitment: string; key: string }[];
    };
    expect(vectors.length).toBeGreaterThanOrEqual(4);
    for (const vector of vectors) {
      const seed = seedFrom(vector.seed);
      const places = Array.from({ length: vector.cards }, (_, i) => i);
      shufflePlaces(places, 0, places.length, chachaChance(seed).stream('shuffle', vector.count));
      expect(places).toEqual(vector.order);
      expect(seedCommitment(seed)).toBe(vector.commitment);
      expect(Buffer.from(deriveKey(seed, 'shuffle', vector.count)).toString('hex')).toBe(vector.key);
    }
  });

  it('takes a seed of 64 digits as it is, and makes one of any other word', () => {
    const hex = 'ab'.repeat(32);
    expect(seedText(seedFrom(hex))).toBe(hex);
    expect(seedText(seedFrom('lantern'))).toMatch(/^[0-9a-f]{64}$/);
    expect(seedText(seedFrom('lantern'))).not.toBe(seedText(seedFrom('Lantern')));
  });
});

describe('the commitment to a shuffle', () => {
  const faces = parseFaces('A♠ K♥ 10♦ 2♣ Q♠ 7♥ 3♦');
  const key = deriveKey(seedFrom('commit'), 'salt', 0);

  it('is another one for another order, and for another salt', () => {
    expect(commitToOrder(faces, key)).not.toBe(commitToOrder([...faces].reverse(), key));
    expect(commitToOrder(faces, key)).not.toBe(commitToOrder(faces, deriveKey(seedFrom('commit'), 'salt', 1)));
  });
});

describe('the chance of a live table', () => {
  it('is the key stream of ChaCha20 under a key of its own, from the first word to the last', () => {
    fc.assert(
      fc.property(fc.constantFrom('shuffle', 'pick', 'bot 3'), fc.nat(100_000), (purpose, count) => {
        const seed = seedFrom('live');
        const bytes = new Uint8Array(2048);
        chacha20(deriveKey(seed, purpose, count), new Uint8Array(12), new Uint8Array(2048), bytes, 0);
        const words = new Uint32Array(bytes.buffer);
        const stream = chachaChance(seed).stream(purpose, count);
        expect(Array.from(words, () => stream.next())).toEqual([...words]);
      }),
      { numRuns: 20 },
    );
  });

  it('reads streams in turn as it reads them one after the other', () => {
    const read = (order: readonly number[]): number[][] => {
      const chance = chachaChance(seedFrom('live'));
      const streams = [0, 1, 2].map((count) => chance.stream('shuffle', count));
      const words: number[][] = [[], [], []];
      for (const i of order) words[i]?.push(streams[i]?.next() ?? 0);
      return words;
    };
    fc.assert(
      fc.property(fc.array(fc.nat(2), { minLength: 300, maxLength: 600 }), (order) => {
        expect(read(order)).toEqual(read([...order].sort()));
      }),
      { numRuns: 20 },
    );
  });

  it('gives each purpose and count the same stream, whichever was asked for before', () => {
    const chance = chachaChance(seedFrom('live'));
    const first = (purpose: string, count: number): number => chance.stream(purpose, count).next();
    const once = [first('shuffle', 0), first('pick', 7), first('shuffle', 1)];
    expect([first('shuffle', 1), first('shuffle', 0), first('pick', 7)]).toEqual([once[2], once[0], once[1]]);
    expect(new Set(once).size).toBe(3);
  });
});
