import type { Chance, Generator } from './generator.js';
import { spread } from './spread.js';

/** xoshiro128** 1.1 (Blackman and Vigna 2018, public domain): fast, even, and easy to predict. */
export class Xoshiro implements Generator {
  private a = 0;
  private b = 0;
  private c = 0;
  private d = 1;
  /** Begins with four words of 32 bits, the last one made odd, and throws the first numbers away. */
  begin(a: number, b: number, c: number, d: number): this {
    this.a = a;
    this.b = b;
    this.c = c;
    this.d = d | 1;
    for (let i = 0; i < 8; i++) this.next();
    return this;
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

/** The stream of one purpose and count. */
function streamOf(seed: number, purpose: number, count: number): Generator {
  const a = spread(seed + 0x9e3779b9);
  const b = spread(a ^ purpose);
  const c = spread(b + Math.imul(count + 1, 0x85157af5));
  return new Xoshiro().begin(a, b, c, spread(c ^ 0x5851f42d));
}

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
      return streamOf(seed, word, count);
    },
  };
}
