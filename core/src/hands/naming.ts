import { RANK_WORDS } from '../cards/face.js';
import { scoreOfLow } from './low.js';
import {
  ACE_HIGH,
  categoryOf,
  FLUSH,
  FOUR_ALIKE,
  FULL_HOUSE,
  PAIR,
  ranksOf,
  type Score,
  STRAIGHT,
  STRAIGHT_FLUSH,
  THREE_ALIKE,
  TWO_PAIR,
} from './score.js';

/** Ranks of scores go up to 14, the ace; in lows it is 1. */
const WORDS = [...RANK_WORDS, RANK_WORDS[1]];
const word = (rank: number | undefined): string => WORDS[rank ?? 0] ?? '';
const several = (rank: number | undefined): string => `${word(rank)}${rank === 6 ? 'es' : 's'}`;

/** What categories are called in the trade. */
export const CATEGORY_NAMES = [
  'high card',
  'pair',
  'two pair',
  'three of a kind',
  'straight',
  'flush',
  'full house',
  'four of a kind',
  'straight flush',
] as const;

function kickers(ranks: readonly number[]): string {
  if (ranks.length === 0) return '';
  const words = ranks.map(word);
  const last = words.pop() as string;
  return `, ${words.length > 0 ? `${words.join(', ')} and ${last} kickers` : `${last} kicker`}`;
}

/** A hand in words: `two pair, queens and sevens, ace kicker`. */
export function handName(score: Score): string {
  const category = categoryOf(score);
  const [first, second, ...rest] = ranksOf(score);
  const others = second === undefined ? [] : [second, ...rest];
  switch (category) {
    case STRAIGHT_FLUSH:
      return first === ACE_HIGH ? 'royal flush' : `straight flush, ${word(first)} high`;
    case FOUR_ALIKE:
      return `four of a kind, ${several(first)}${kickers(others)}`;
    case FULL_HOUSE:
      return `full house, ${several(first)} over ${several(second)}`;
    case FLUSH:
      return `flush, ${word(first)} high`;
    case STRAIGHT:
      return `straight, ${word(first)} high`;
    case THREE_ALIKE:
      return `three of a kind, ${several(first)}${kickers(others)}`;
    case TWO_PAIR:
      return `two pair, ${several(first)} and ${several(second)}${kickers(rest)}`;
    case PAIR:
      return `pair of ${several(first)}${kickers(others)}`;
    default:
      return `${word(first)} high${others.length > 0 ? `: ${[first, ...others].map(word).join(', ')}` : ''}`;
  }
}

/** A low in words: `seven low: seven, five, four, three, two`; with equal ranks as a high hand is named. */
export function lowName(low: Score): string {
  const score = scoreOfLow(low);
  if (categoryOf(score) > 0) return handName(score);
  const ranks = ranksOf(score);
  return `${word(ranks[0])} low: ${ranks.map(word).join(', ')}`;
}
