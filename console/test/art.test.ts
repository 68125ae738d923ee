import { deckFaces, faceText, joker, numbered } from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { drawCard, drawCounters, drawEmpty, drawSeat } from '../src/art/card';
import { cellColor, paletteOf } from '../src/art/courts';
import { suitColor } from '../src/art/shapes';

const PACK = deckFaces([{ form: { kind: 'standard' }, copies: 1, jokers: 0 }]).map(faceText);

/** Whether the tags of a piece of SVG open and close as they should. */
function isWellFormed(svg: string): boolean {
  const open: string[] = [];
  for (const [, closing, name = '', selfClosing] of svg.matchAll(/<(\/)?([a-zA-Z]+)[^>]*?(\/)?>/g)) {
    if (closing) {
      if (open.pop() !== name) return false;
    } else if (!selfClosing) open.push(name);
  }
  return open.length === 0 && !/NaN|undefined|Infinity/.test(svg);
}

describe('the card art', () => {
  it('draws every card of a pack, each another one, in every look', () => {
    for (const look of [
      {},
      { small: true },
      { wide: true },
      { four: true },
      { small: true, four: true },
      { small: true, slim: true },
    ]) {
      const drawn = PACK.map((face) => drawCard(face, look).svg);
      for (const svg of drawn) expect(isWellFormed(svg)).toBe(true);
      expect(new Set(drawn).size).toBe(52);
    }
  });

  it('draws jokers, numbers up to three figures, the back and what is missing', () => {
    const faces = [
      faceText(joker(1)),
      faceText(joker(2)),
      faceText(numbered(7)),
      faceText(numbered(57)),
      faceText(numbered(104)),
      null,
      'no card',
    ];
    const drawn = faces.map((face) => drawCard(face));
    for (const { svg } of drawn) expect(isWellFormed(svg)).toBe(true);
    expect(new Set(drawn.map((d) => d.svg)).size).toBe(faces.length);
    expect(drawn.map((d) => d.name)).toEqual([
      'joker',
      'joker 2',
      'number 7',
      'number 57',
      'number 104',
      'a card, face down',
      'no card, picture missing',
    ]);
  });

  it('shows as many pips as a card counts', () => {
    for (let rank = 2; rank <= 10; rank++) {
      const spade = drawCard(`${rank}♠`).svg.match(/M50 3C57/g)?.length;
      // Two more stand in the corners.
      expect(spade).toBe(rank + 2);
    }
  });

  it('says every card as a screen reader should', () => {
    expect(drawCard('10♠').name).toBe('ten of spades');
    expect(drawCard('Q♦', { small: true }).name).toBe('queen of diamonds');
  });

  it('gives four colours to the suits where that is wanted, two otherwise', () => {
    expect(new Set([0, 1, 2, 3].map((suit) => suitColor(suit, true))).size).toBe(4);
    expect(new Set([0, 1, 2, 3].map((suit) => suitColor(suit, false))).size).toBe(2);
  });

  it('keeps the courts the same under a half turn', () => {
    for (let suit = 0; suit < 4; suit++) {
      const palette = paletteOf(suit, false);
      for (let u = -2; u <= 2; u++)
        for (let v = -2; v <= 2; v++) expect(cellColor(suit, u, v, palette)).toBe(cellColor(suit, -u, -v, palette));
    }
  });

  it('gives every queen a crown of her own', () => {
    const shapes = ['Q♠', 'Q♥', 'Q♦', 'Q♣'].map((face) => drawCard(face).svg.replace(/#[0-9a-f]{6}/g, ''));
    expect(new Set(shapes.map((svg) => svg.length)).size).toBe(4);
  });
});

describe('seats, counters and empty piles', () => {
  it('tell eight seats apart without colour alone', () => {
    const shapes = Array.from({ length: 8 }, (_, i) => drawSeat(i + 1).replace(/#[0-9a-f]{6}/g, ''));
    expect(new Set(shapes).size).toBe(8);
    expect(drawSeat(9)).toBe(drawSeat(1));
  });

  it('stack at most seven counters, the dearest first', () => {
    const count = (amount: number): number =>
      drawCounters(amount).svg.match(/fill="#[0-9a-f]{6}" stroke=/g)?.length ?? 0;
    expect(count(0)).toBe(0);
    expect(count(1)).toBe(1);
    expect(count(40)).toBe(4);
    expect(count(64)).toBe(4);
    expect(count(100_000)).toBe(7);
    expect(drawCounters(40).height).toBeGreaterThan(drawCounters(10).height);
  });

  it('wait for their suit', () => {
    expect(new Set([null, 0, 1, 2, 3].map((suit) => drawEmpty(suit, false))).size).toBe(5);
  });
});
