import { describe, expect, it } from 'vitest';
import { categoryOf, faceText, holdsOf, parseFaces, ranksOf, type Score } from '../src/index.js';

const PAYS = [0, 1, 2, 3, 4, 6, 9, 25, 50] as const;
/** Jacks or better with 9 for a full house and 6 for a flush, 800 for a royal one. */
function pays(score: Score): number {
  const category = categoryOf(score);
  const [highest = 0] = ranksOf(score);
  if (category === 1) return highest >= 11 ? 1 : 0;
  return category === 8 && highest === 14 ? 800 : (PAYS[category] as number);
}
const held = (hand: string) => holdsOf(parseFaces(hand), pays);
const shown = (hand: string): string => held(hand)[0]?.cards.map(faceText).join(' ') ?? '';
const unshown = (faces: string): string => parseFaces(faces).map(faceText).join(' ');

describe('what to hold of five cards', () => {
  // What is published of this table (two pair 2.5957, three alike 4.3025, a high pair 1.5365, a low one 0.8237), and sums over the 47 cards
  // that may come to four.
  it.each([
    ['a royal flush', 'AS KS QS JS 10S', 'AS KS QS JS 10S', 800],
    ['a straight flush', '9H 8H 7H 6H 5H', '9H 8H 7H 6H 5H', 50],
    ['four alike', '8S 8H 8D 8C KD', '8S 8H 8D 8C KD', 25],
    ['a full house', 'QS QH QD 4C 4D', 'QS QH QD 4C 4D', 9],
    ['a flush, against three to a royal', 'AS KS QS 7S 2S', 'AS KS QS 7S 2S', 6],
    ['four to a royal, against a flush', 'AS KS QS JS 2S', 'AS KS QS JS', (800 + 7 * 6 + 3 * 4 + 12 * 1) / 47],
    ['four to a royal, against a straight', 'KS QS JS 10S 9D', 'KS QS JS 10S', (800 + 50 + 7 * 6 + 5 * 4 + 9) / 47],
    ['three alike', '7S 7H 7D KC 2D', '7S 7H 7D', 4.3025],
    ['a straight, against four to a straight flush', '9H 8H 7H 6H 5S', '9H 8H 7H 6H 5S', 4],
    ['four to a straight flush', '8H 7H 6H 5H 2S', '8H 7H 6H 5H', (2 * 50 + 7 * 6 + 6 * 4) / 47],
    ['two pair', 'KS KH 4D 4C 9S', 'KS KH 4D 4C', (4 * 9 + 43 * 2) / 47],
    ['a high pair, against four to a flush', 'QS QH 9S 6S 3S', 'QS QH', 1.5365],
    ['four to a flush, against a low pair', '9S 6S 4S 3S 3H', '9S 6S 4S 3S', (9 * 6) / 47],
    ['four to a flush with a high card', 'KS 9S 6S 3S 4H', 'KS 9S 6S 3S', (9 * 6 + 3) / 47],
    ['a low pair, against four to a straight', '5S 5H 6D 7C 8S', '5S 5H', 0.8237],
    ['four to a straight open at both ends', '6S 7H 8D 9C 2S', '6S 7H 8D 9C', (8 * 4) / 47],
    ['three to a royal, against a high card', 'QS JS 10S 4H 2D', 'QS JS 10S', null],
    ['two high cards of a suit, against three', 'KS QS AH 7D 2C', 'KS QS', null],
    ['two high cards, where three are of three suits', 'KS QH JD 7C 2S', 'KS QH JD', null],
    ['one high card', 'AS 9H 7D 4C 2S', 'AS', null],
    ['nothing', '9S 7H 4D 3C 2H', '', null],
  ])('is %s', (_, hand, best, value) => {
    expect(shown(hand)).toBe(unshown(best));
    if (value !== null) expect(held(hand)[0]?.pays).toBeCloseTo(value, 4);
  });

  it('counts all draws of each way, once each', () => {
    const ways = held('AS 9H 7D 4C 2S');
    expect(ways).toHaveLength(32);
    expect(ways.reduce((sum, { draws }) => sum + draws, 0)).toBe(2_598_960);
    expect(ways.map((way) => way.pays)).toEqual(ways.map((way) => way.pays).sort((a, b) => b - a));
  });

  it('asks for five different cards with rank and suit', () => {
    expect(() => held('AS KS QS JS')).toThrow('has 5 cards, not 4');
    expect(() => held('AS AS QS JS 2H')).toThrow('A♠ stands there twice');
    expect(() => held('JK KS QS JS 2H')).toThrow('no card of a standard deck');
  });
});
