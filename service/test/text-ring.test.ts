import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { TextRing } from '../src/broadcast/text-ring.js';

describe('the latest texts of a table', () => {
  it('come out as they went in, however long they are and whatever they are written in', () => {
    fc.assert(
      fc.property(fc.array(fc.string({ unit: 'grapheme', maxLength: 400 }), { maxLength: 60 }), (all) => {
        const kept = new TextRing(20);
        expect(all.map((text) => kept.add(text))).toEqual(all.map((_, i) => i));
        expect(kept.last).toBe(all.length - 1);
        expect(kept.oldest).toBe(Math.max(0, all.length - 20));
        for (let i = kept.oldest; i < all.length; i++) expect(kept.at(i)).toBe(all[i]);
      }),
    );
  });

  it('can be read at any time between', () => {
    const kept = new TextRing(5);
    for (let i = 0; i < 3_000; i++) {
      kept.add(`${i} K♠ `.repeat(i % 40));
      const any = kept.oldest + (i % (kept.last - kept.oldest + 1));
      expect(kept.at(any)).toBe(`${any} K♠ `.repeat(any % 40));
    }
  });

  it('are fewer where they are long, and never none', () => {
    const kept = new TextRing(400, 1_000);
    for (let i = 0; i < 50; i++) kept.add(`${i} `.repeat(100));
    expect(kept.last).toBe(49);
    expect(kept.last - kept.oldest).toBeLessThan(4);
    for (let i = kept.oldest; i <= kept.last; i++) expect(kept.at(i)).toBe(`${i} `.repeat(100));
    kept.add('x'.repeat(5_000));
    expect(kept.oldest).toBe(50);
    expect(kept.at(50)).toHaveLength(5_000);
  });

  it('make room for new ones: those that are no longer kept take none', () => {
    const kept = new TextRing(400);
    const before = process.memoryUsage().arrayBuffers;
    for (let i = 0; i < 200_000; i++) kept.add('x'.repeat(300));
    expect(process.memoryUsage().arrayBuffers - before).toBeLessThan(10 * 400 * 300);
  });
});
