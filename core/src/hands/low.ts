import { type Face, suitOf } from '../cards/face.js';
import { highRank } from './high.js';
import {
  ACE_HIGH,
  categoryOf,
  FIVE,
  FLUSH,
  HIGH_CARD,
  highest,
  type Score,
  STRAIGHT,
  STRAIGHT_FLUSH,
  scoreOf,
  scoreOfCounts,
} from './score.js';

/** Lows count the other way round: the worth of a low is this less the score of its cards, so that more is better. */
const LOWEST = scoreOf(STRAIGHT_FLUSH + 1, []);

/** The score of the cards that a low is made of. */
export const scoreOfLow = (low: Score): Score => LOWEST - low;

/** Calls back for every five of the cards (for all of them where there are fewer). */
function eachFive(faces: readonly Face[], visit: (five: readonly Face[]) => void): void {
  const many = Math.min(FIVE, faces.length);
  const taken: Face[] = [];
  const take = (from: number): void => {
    if (taken.length === many) {
      visit(taken);
      return;
    }
    for (let i = from; i <= faces.length - (many - taken.length); i++) {
      taken.push(faces[i] as Face);
      take(i + 1);
      taken.pop();
    }
  };
  take(0);
}

function lowestOf(faces: readonly Face[], score: (five: readonly Face[]) => Score): Score {
  let least = Number.POSITIVE_INFINITY;
  eachFive(faces, (five) => {
    least = Math.min(least, score(five));
  });
  return LOWEST - least;
}

/** Ranks of cards with the ace as 1: equal ranks count, straights and flushes do not. */
function aceLowScore(five: readonly Face[]): Score {
  const counts = new Uint8Array(ACE_HIGH + 1);
  for (const face of five) {
    const rank = highRank(face);
    counts[rank === ACE_HIGH ? 1 : rank] = (counts[rank === ACE_HIGH ? 1 : rank] ?? 0) + 1;
  }
  // The aces are moved below the twos by shifting every rank up by one; the shift is taken back after.
  const shifted = new Uint8Array(ACE_HIGH + 1);
  let present = 0;
  for (let rank = 1; rank < ACE_HIGH; rank++) {
    shifted[rank + 1] = counts[rank] ?? 0;
    if ((counts[rank] ?? 0) > 0) present |= 1 << rank;
  }
  const score = scoreOfCounts(shifted);
  if (categoryOf(score) === STRAIGHT) return scoreOf(HIGH_CARD, highest(present, FIVE));
  return scoreOf(
    categoryOf(score),
    Array.from({ length: FIVE }, (_, i) => Math.max(0, (Math.floor(score / 16 ** (FIVE - 1 - i)) % 16) - 1)),
  );
}

/**
 * The best ace-to-five low of at most five among the cards: aces are low, straights and flushes do not
 * count. The best is 5-4-3-2-A. More is better. @throws HandError as `pokerHigh` does
 */
export const aceToFive = (faces: readonly Face[]): Score => lowestOf(faces, aceLowScore);

/** The high score of five cards where the ace is high only, so that 5-4-3-2-A is no straight. */
function deuceScore(five: readonly Face[]): Score {
  const counts = new Uint8Array(ACE_HIGH + 1);
  let present = 0;
  for (const face of five) {
    const rank = highRank(face);
    counts[rank] = (counts[rank] ?? 0) + 1;
    present |= 1 << rank;
  }
  const [first] = five;
  const flush = five.length === FIVE && five.every((face) => suitOf(face) === suitOf(first as Face));
  const score = scoreOfCounts(counts);
  const ranks = highest(present, FIVE);
  const wheel = ranks[0] === ACE_HIGH && ranks[1] === FIVE;
  if (categoryOf(score) === STRAIGHT && !wheel) return scoreOf(flush ? STRAIGHT_FLUSH : STRAIGHT, ranks.slice(0, 1));
  if (flush) return scoreOf(FLUSH, ranks);
  return categoryOf(score) === STRAIGHT ? scoreOf(HIGH_CARD, ranks) : score;
}

/**
 * The best deuce-to-seven low of at most five among the cards: the ace is high, straights and flushes
 * count against. The best is 7-5-4-3-2 of mixed suits. More is better. @throws HandError as `pokerHigh` does
 */
export const deuceToSeven = (faces: readonly Face[]): Score => lowestOf(faces, deuceScore);
