import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  aceToFive,
  bestFive,
  CATEGORIES,
  categoryOf,
  census,
  deuceToSeven,
  faceText,
  HAND_CLASSES,
  HandError,
  handName,
  lowName,
  oddsOf,
  parseFace,
  parseFaces,
  pokerHigh,
  quickChance,
  quickRanker,
  ranksOf,
} from '../src/index.js';

const high = (text: string): number => pokerHigh(parseFaces(text));
const named = (text: string): string => handName(high(text));
const someCards = (least: number, most: number) =>
  fc.uniqueArray(fc.integer({ min: 1, max: 52 }), { minLength: least, maxLength: most });
const asCards = (faces: readonly number[]): Uint8Array => Uint8Array.from(faces, (face) => face - 1);

describe('the best hand', () => {
  it.each([
    ['AS KS QS JS 10S 2C 2D', 'royal flush'],
    ['9H 8H 7H 6H 5H AS AD', 'straight flush, nine high'],
    ['AH 2H 3H 4H 5H KD KC', 'straight flush, five high'],
    ['7S 7H 7D 7C KS 2D 3D', 'four of a kind, sevens, king kicker'],
    ['KD KC KS 4D 4C 4H 2S', 'full house, kings over fours'],
    ['AS JS 9S 4S 2S AD AC', 'flush, ace high'],
    ['10S 9D 8H 7C 6S 2D 2C', 'straight, ten high'],
    ['AS 2D 3H 4C 5S KD QC', 'straight, five high'],
    ['6S 6D 6H AC JS 2D 9C', 'three of a kind, sixes, ace and jack kickers'],
    ['QS QD 7H 7C AS 2D 3S', 'two pair, queens and sevens, ace kicker'],
    ['QS QD 7H 7C 2S 2D KS', 'two pair, queens and sevens, king kicker'],
    ['9S 9D AH KC 4S', 'pair of nines, ace, king and four kickers'],
    ['AS QD 9H 4C 2S', 'ace high: ace, queen, nine, four, two'],
    ['9S 9D', 'pair of nines'],
    ['2S', 'two high'],
    ['KS QS JS 10S', 'king high: king, queen, jack, ten'],
  ])('of %s is "%s"', (cards, name) => {
    expect(named(cards)).toBe(name);
  });

  it('is found among more than seven cards too', () => {
    expect(named('2S 3D 4H 5C 7S 8D 9H 9C 9D 9S KD KS')).toBe('four of a kind, nines, king kicker');
    expect(named('2S 4S 6S 8S 10S 2H 4H 6H 8H QH')).toBe('flush, queen high');
  });

  it('goes up with the categories, and inside one with its ranks', () => {
    const rising = [
      '7S 5D 4H 3C 2S',
      'AS KD QH JC 9S',
      '2S 2D 3H 4C 5S',
      '3S 3D 2H 2C 4S',
      '2S 2D 2H 3C 4S',
      'AS 2D 3H 4C 5S',
      '2S 3D 4H 5C 6S',
      '2S 3S 4S 5S 7S',
      '2S 2D 2H 3C 3S',
      '2S 2D 2H 2C 3S',
      'AS 2S 3S 4S 5S',
      'AS KS QS JS 10S',
    ].map(high);
    expect(rising).toEqual([...rising].sort((a, b) => a - b));
    expect(new Set(rising).size).toBe(rising.length);
  });

  it('compares hands of unequal size by what they hold', () => {
    expect(high('9S 9D')).toBeGreaterThan(high('AS KD QH JC 9S'));
    expect(high('AS')).toBeLessThan(high('2S 2D'));
  });

  it('gives the five cards that make it, in the order in which they count', () => {
    const five = (cards: string): string => bestFive(parseFaces(cards)).map(faceText).join(' ');
    expect(five('2C AS 7H QS QD 7C 3S')).toBe('Q♠ Q♦ 7♥ 7♣ A♠');
    expect(five('AS 2D 3H 4C 5S KD QC')).toBe('5♠ 4♣ 3♥ 2♦ A♠');
    expect(five('9S 2D')).toBe('9♠ 2♦');
    expect(bestFive(parseFaces('AS 2D 3H 7C 8S KD KH'), aceToFive, true).map(faceText).join(' ')).toBe(
      '8♠ 7♣ 3♥ 2♦ A♠',
    );
  });

  it('is not there for no cards, and not for cards without rank and suit', () => {
    expect(() => pokerHigh([])).toThrow(HandError);
    expect(() => pokerHigh([parseFace('★')])).toThrow('★ has no rank and suit, so it counts in no hand.');
  });

  it('never gets worse when a card is added, and does not mind the order', () => {
    fc.assert(
      fc.property(someCards(2, 9), (faces) => {
        const all = pokerHigh(faces);
        expect(pokerHigh(faces.slice(1))).toBeLessThanOrEqual(all);
        expect(pokerHigh([...faces].reverse())).toBe(all);
        expect(pokerHigh(bestFive(faces))).toBe(all);
      }),
    );
  });

  it('stays the same when suits change places', () => {
    fc.assert(
      fc.property(someCards(5, 7), fc.shuffledSubarray([0, 1, 2, 3], { minLength: 4 }), (faces, suits) => {
        const changed = faces.map(
          (face) => (suits[Math.floor((face - 1) / 13)] as number) * 13 + ((face - 1) % 13) + 1,
        );
        expect(pokerHigh(changed)).toBe(pokerHigh(faces));
      }),
    );
  });

  it('takes its ranks apart again', () => {
    expect(ranksOf(high('QS QD 7H 7C AS'))).toEqual([12, 7, 14]);
    expect(CATEGORIES[categoryOf(high('QS QD 7H 7C AS'))]).toBe('twoPair');
  });
});

describe('lows', () => {
  const low = (text: string): string => lowName(aceToFive(parseFaces(text)));
  const deuce = (text: string): string => lowName(deuceToSeven(parseFaces(text)));

  it('from ace to five count the ace low, and neither straights nor flushes', () => {
    expect(low('AS 2S 3S 4S 5S KD KH')).toBe('five low: five, four, three, two, ace');
    expect(low('8S 7D 6H 5C 4S')).toBe('eight low: eight, seven, six, five, four');
    expect(low('KS KD 2H 2C 3S')).toBe('two pair, kings and twos, three kicker');
    expect(low('AS AD 2H 2C 3S 9D')).toBe('pair of aces, nine, three and two kickers');
    expect(aceToFive(parseFaces('7S 4D 3H 2C AS'))).toBeGreaterThan(aceToFive(parseFaces('7S 5D 3H 2C AS')));
  });

  it('from deuce to seven count the ace high, and straights and flushes against', () => {
    expect(deuce('7S 5D 4H 3C 2S KD')).toBe('seven low: seven, five, four, three, two');
    expect(deuce('AS 2D 3H 4C 5S')).toBe('ace low: ace, five, four, three, two');
    expect(deuce('2D 3H 4C 5S 6D')).toBe('straight, six high');
    expect(deuce('2D 3D 4D 5D 7D')).toBe('flush, seven high');
    expect(deuceToSeven(parseFaces('AS 2D 3H 4C 5S'))).toBeGreaterThan(deuceToSeven(parseFaces('2D 3H 4C 5S 6D')));
    expect(deuceToSeven(parseFaces('KS QD JH 10C 8S'))).toBeGreaterThan(deuceToSeven(parseFaces('2D 2H 3C 4S 5D')));
  });

  it('never get worse when a card is added', () => {
    fc.assert(
      fc.property(someCards(6, 8), (faces) => {
        for (const rank of [aceToFive, deuceToSeven]) expect(rank(faces.slice(1))).toBeLessThanOrEqual(rank(faces));
      }),
    );
  });
});

describe('the quick ranker', () => {
  const ranker = quickRanker();

  it('agrees with the plain one on hands of five, six and seven cards', () => {
    fc.assert(
      fc.property(someCards(5, 7), (faces) => {
        expect(ranker.scoreOf(ranker.rank(asCards(faces), 0, faces.length))).toBe(pokerHigh(faces));
      }),
      { numRuns: 2000 },
    );
    fc.assert(
      fc.property(someCards(7, 7), (faces) => {
        expect(ranker.scoreOf(ranker.seven(asCards([1, ...faces]), 1))).toBe(pokerHigh(faces));
      }),
      { numRuns: 2000 },
    );
  });

  it('gives all 2,598,960 hands of five the known categories, in 7,462 classes', () => {
    const counts = new Array<number>(9).fill(0);
    const classes = new Set<number>();
    const cards = new Uint8Array(5);
    for (cards[0] = 0; cards[0] < 48; cards[0]++)
      for (cards[1] = cards[0] + 1; cards[1] < 49; cards[1]++)
        for (cards[2] = cards[1] + 1; cards[2] < 50; cards[2]++)
          for (cards[3] = cards[2] + 1; cards[3] < 51; cards[3]++)
            for (cards[4] = cards[3] + 1; cards[4] < 52; cards[4]++) {
              const found = ranker.rank(cards, 0, 5);
              classes.add(found);
              const category = categoryOf(ranker.scoreOf(found));
              counts[category] = (counts[category] ?? 0) + 1;
            }
    expect(counts).toEqual([1302540, 1098240, 123552, 54912, 10200, 5108, 3744, 624, 40]);
    expect(counts).toEqual(census(5));
    expect(classes.size).toBe(HAND_CLASSES);
    expect(Math.min(...classes)).toBe(1);
    expect(Math.max(...classes)).toBe(HAND_CLASSES);
  });
});

describe('the census', () => {
  it('knows how many hands of seven there are of each category', () => {
    expect(census(7)).toEqual([23294460, 58627800, 31433400, 6461620, 6180020, 4047644, 3473184, 224848, 41584]);
  });
  it('adds up to all hands of six', () => {
    expect(census(6).reduce((a, b) => a + b, 0)).toBe(20358520);
  });
});

describe('odds', () => {
  const generator = () => quickChance(7).stream('odds', 0);
  const ask = (hands: readonly string[], board = '', samples?: number) =>
    oddsOf(
      { hands: hands.map((hand) => (hand === 'any' ? null : parseFaces(hand))), board: parseFaces(board) },
      generator(),
      samples,
    );

  it('are counted exactly for known hands', () => {
    const { exact, deals, hands } = ask(['AS AH', 'KD KC']);
    expect(exact).toBe(true);
    expect(deals).toBe(1_712_304);
    expect(hands[0]?.win).toBeCloseTo(0.8106, 4);
    expect(hands[1]?.win).toBeCloseTo(0.1855, 4);
    expect((hands[0]?.share ?? 0) + (hands[1]?.share ?? 0)).toBeCloseTo(1, 12);
  });

  it('of a complete board are certain', () => {
    const { deals, hands } = ask(['AS AH', 'KD KC', '2C 3C'], 'AD KS 7H 7D 9C');
    expect(deals).toBe(1);
    expect(hands.map((hand) => hand.win)).toEqual([1, 0, 0]);
  });

  it('part a pot evenly among those who tie', () => {
    const { hands } = ask(['AS KH', 'AD KC', '2C 3C'], 'QS JH 10D 4H 5D');
    expect(hands.map((hand) => hand.share)).toEqual([0.5, 0.5, 0]);
    expect(hands.map((hand) => hand.tie)).toEqual([1, 1, 0]);
  });

  it('against any two cards agree with counting out the turn by hand', () => {
    const board = 'AS KD 7H 7C 2S';
    const mine = parseFaces('AD AH');
    const known = [...mine, ...parseFaces(board)];
    const left = Array.from({ length: 52 }, (_, i) => i + 1).filter((face) => !known.includes(face));
    let wins = 0;
    let all = 0;
    for (const [i, first] of left.entries())
      for (const second of left.slice(i + 1)) {
        all++;
        if (pokerHigh([...mine, ...parseFaces(board)]) > pokerHigh([first, second, ...parseFaces(board)])) wins++;
      }
    const { exact, deals, hands } = ask(['AD AH', 'any'], board);
    expect(exact).toBe(true);
    expect(deals).toBe(all);
    expect(hands[0]?.win).toBe(wins / all);
  });

  it('are sampled where there are too many deals, and say how far off they may be', () => {
    const { exact, deals, hands } = ask(['AS AH', 'any'], '', 20_000);
    expect(exact).toBe(false);
    expect(deals).toBe(20_000);
    const [{ share, error } = { share: 0, error: 1 }] = hands;
    expect(error).toBeLessThan(0.004);
    expect(Math.abs(share - 0.852)).toBeLessThan(5 * error);
  });

  it('refuse cards that repeat, hands of three and lonely hands', () => {
    expect(() => ask(['AS AH', 'AS KD'])).toThrow('A♠ stands there twice: the deck has one.');
    expect(() => ask(['AS AH KD', 'KS KC'])).toThrow('A hand has 2 cards, not 3.');
    expect(() => ask(['AS AH'])).toThrow('Odds are between 2 and 10 hands, not 1.');
    expect(() => ask(['AS AH', 'KS KC'], '2C 3C 4C 5C 6C 7C')).toThrow('The board has at most 5 cards, not 6.');
  });
});
