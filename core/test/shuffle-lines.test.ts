import { Audit, LineError, ShuffleLines, type Start } from '@wily-jester/core';
import { describe, expect, it } from 'vitest';

/** The orders of lines, and the cards as they were told. */
function read(lines: readonly string[], start: Start | null = null): { orders: number[][]; cards: readonly string[] } {
  const reader = new ShuffleLines(start);
  const orders: number[][] = [];
  for (const line of lines) for (const order of reader.read(line)) orders.push([...order]);
  for (const order of reader.end()) orders.push([...order]);
  return { orders, cards: reader.cards };
}

describe('lines of shuffles', () => {
  it('are read as faces, numbers or words, however they are parted', () => {
    expect(read(['2S AS KH', '', 'KH 2♠ as']).orders).toEqual([
      [1, 0, 2],
      [2, 1, 0],
    ]);
    expect(read(['3 1 2', '1 2 3']).orders).toEqual([
      [2, 0, 1],
      [0, 1, 2],
    ]);
    expect(read(['0;2;1', '2;1;0']).orders).toEqual([
      [0, 2, 1],
      [2, 1, 0],
    ]);
    expect(read(['fox hen owl', 'owl fox hen']).orders[1]).toEqual([2, 0, 1]);
    expect(read(['["10♠","9♠"]', '{"deck":["9♠","10♠"]}']).orders).toEqual([
      [1, 0],
      [0, 1],
    ]);
    expect(read(['[1, 0]', '{"order":[0, 1]}']).orders[0]).toEqual([1, 0]);
  });

  it('may begin with a header, and one separated line alone is an order', () => {
    expect(read(['first,second', '"AS","2S"', '2S,AS']).orders).toEqual([
      [0, 1],
      [1, 0],
    ]);
    expect(read(['AS,2S', '2S,AS']).orders).toHaveLength(2);
    expect(read(['1,0,2']).orders).toEqual([[1, 0, 2]]);
  });

  it('say how the cards lie before each shuffle, where that is told', () => {
    expect(read(['2S AS', 'AS 2S'], 'first').orders).toEqual([
      [0, 1],
      [1, 0],
    ]);
    expect(read(['AS 2S'], ['2S', 'AS']).orders).toEqual([[1, 0]]);
    expect(() => read(['AS 2S'], ['2S', 'KS'])).toThrow('not those of this line');
    expect(() => read(['fox hen'], 'deck')).toThrow('no cards such as');
    expect(() => read(['fox hen'], 'numbers')).toThrow('no numbers'.replace('no', 'not'));
  });

  it('are refused where cards are copied, missing or strange, with the line', () => {
    const wrong = (...lines: string[]): string => {
      try {
        read(lines);
      } catch (error) {
        if (error instanceof LineError) return error.message;
        throw error;
      }
      return 'read';
    };
    expect(wrong('4S 9S 2S', '4S 2S 9S', '4S 4S 2S')).toBe(
      'Line 3: It has 4♠ too often and no 9♠: cards are copied, not moved. Every line holds the same cards.',
    );
    expect(wrong('4S 9S', '4S')).toContain('Line 2: It has no 9♠.');
    expect(wrong('fox hen', 'fox cat')).toContain('cat, which the first line has not');
    expect(wrong('4S 9S', '4S 1X')).toContain('Line 2: "1X" is not a card');
    expect(wrong('[1,0]', '{]')).toContain('This is no JSON');
    expect(wrong('[1,0]', '{"pack":[0,1]}')).toContain('one called order, cards or deck');
    expect(wrong('alone')).toContain('2 to 2,000 cards');
    expect(wrong('x'.repeat(300_000))).toContain('longer than');
  });

  it('tell which cards are equal, so that copies are not taken for different ones', () => {
    const reader = new ShuffleLines();
    const [order] = [...reader.read('AS AS 2S')].map((one) => [...one]);
    expect(order).toEqual([0, 1, 2]);
    expect(reader.deck).toEqual({ cards: 3, faces: [0, 0, 1] });
    const audit = new Audit(reader.deck ?? { cards: 3 });
    for (let i = 0; i < 50; i++) for (const one of reader.read(i % 2 ? '2S AS AS' : 'AS 2S AS')) audit.add(one);
    expect(audit.orders).toBe(50);
  });
});
