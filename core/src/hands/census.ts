/** How many hands of each category there are: counted by ranks, not looked up. */
import { CATEGORIES, categoryOf, FIVE, scoreOfCounts, scoreOfSuit } from './score.js';

const RANKS = 13;
const SUITS = 4;
/** Ways to choose so many suits of four, and of the three besides a certain one. */
const ALL_SUITS = [1, 4, 6, 4, 1];
const OTHER_SUITS = [1, 3, 3, 1, 0];

/** The number of ways to choose `k` of `n`. */
export function choose(n: number, k: number): number {
  if (k < 0 || k > n) return 0;
  let ways = 1;
  for (let i = 1; i <= k; i++) ways = (ways * (n - k + i)) / i;
  return Math.round(ways);
}

/** Adds up how often each rank may lie in a hand of so many cards. */
function eachPattern(cards: number, visit: (counts: Uint8Array) => void): void {
  const counts = new Uint8Array(RANKS + 2);
  const go = (rank: number, left: number): void => {
    if (rank === RANKS + 2) {
      if (left === 0) visit(counts);
      return;
    }
    for (let n = 0; n <= Math.min(SUITS, left); n++) {
      counts[rank] = n;
      go(rank + 1, left - n);
    }
    counts[rank] = 0;
  };
  go(2, cards);
}

/** Ways to give suits to ranks so that a certain suit gets five cards or more, times four. */
function flushWays(counts: Uint8Array): number {
  // Ways by how many cards of that suit there are, rank after rank; no more than seven matter.
  const ways = [1, 0, 0, 0, 0, 0, 0, 0];
  for (let rank = 2; rank < counts.length; rank++) {
    const n = counts[rank] as number;
    if (n === 0) continue;
    const without = OTHER_SUITS[n] as number;
    const within = OTHER_SUITS[n - 1] as number;
    for (let k = ways.length - 1; k >= 0; k--) ways[k] = (ways[k] as number) * without + (ways[k - 1] ?? 0) * within;
  }
  return SUITS * ways.slice(FIVE).reduce((a, b) => a + b, 0);
}

/**
 * How many hands of five, six or seven cards of a standard deck have each category as their best, by
 * category from high card to straight flush. Up to seven cards leave no room for two flushes, or for a
 * flush beside a full house or four alike, so suited hands are counted apart.
 */
export function census(cards: 5 | 6 | 7): number[] {
  const found = new Array<number>(CATEGORIES.length).fill(0);
  const add = (category: number, hands: number): void => {
    found[category] = (found[category] ?? 0) + hands;
  };
  eachPattern(cards, (counts) => {
    let ways = 1;
    for (let rank = 2; rank < counts.length; rank++) ways *= ALL_SUITS[counts[rank] as number] as number;
    add(categoryOf(scoreOfCounts(counts)), ways - flushWays(counts));
  });
  for (let bits = 0; bits < 1 << RANKS; bits++) {
    const suited = [...bits.toString(2)].filter((bit) => bit === '1').length;
    if (suited < FIVE || suited > cards) continue;
    add(categoryOf(scoreOfSuit(bits << 2)), SUITS * choose((SUITS - 1) * RANKS, cards - suited));
  }
  return found;
}
