import type { Chance, Generator } from './generator.js';

/** Spreads one number over 32 bits, with their sign (the finalizer of MurmurHash3, public domain). */
function spread(n: number): number {
  let h = n | 0;
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return h ^ (h >>> 16);
}

/** xoshiro128** 1.1 (Blackman and Vigna 2018, public domain): fast, even, and easy to predict. */
class QuickStream implements Generator {
  private a: number;
  private b: number;
  private c: number;
  private d: number;
  constructor(seed: number, purpose: number, count: number) {
    this.a = spread(seed + 0x9e3779b9);
    this.b = spread(this.a ^ purpose);
    this.c = spread(this.b + Math.imul(count + 1, 0x85157af5));
    this.d = spread(this.c ^ 0x5851f42d) | 1;
    for (let i = 0; i < 8; i++) this.next();
  }
  next(): number {
    const result = Math.imul(rotate(Math.imul(this.b, 5), 7), 9) >>> 0;
    const t = this.b << 9;
    this.c ^= this.a;
    this.d ^= this.b;
    this.b ^= this.c;
    this.a ^= this.d;
    this.c ^= t;
    this.d = rotate(this.d, 11);
    return result;
  }
}

const rotate = (x: number, k: number): number => (x << k) | (x >>> (32 - k));

/** Chance for simulation: many times quicker than the cryptographic one and never for a table that people play at. */
export function quickChance(seed: number): Chance {
  const purposes = new Map<string, number>();
  return {
    name: 'quick',
    stream(purpose, count) {
      let word = purposes.get(purpose);
      if (word === undefined) {
        word = 0;
        for (const letter of purpose) word = spread(word + (letter.codePointAt(0) ?? 0));
        purposes.set(purpose, word);
      }
      return new QuickStream(seed, word, count);
    },
  };
}
