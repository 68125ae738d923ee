import { type Face, faceText, isSuited, rankOf, suitOf } from '../cards/face.js';
import { ACE_HIGH, FIVE, type Score, scoreOfCounts, scoreOfSuit } from './score.js';

/** Cards that cannot be ranked as a hand. */
export class HandError extends Error {
  override readonly name = 'HandError';
}

/** Rank 2 to 14 of a card in a hand. @throws HandError where the card has no rank and suit */
export function highRank(face: Face): number {
  if (!isSuited(face)) throw new HandError(`${faceText(face)} has no rank and suit, so it counts in no hand.`);
  const rank = rankOf(face);
  return rank === 1 ? ACE_HIGH : rank;
}

/**
 * The best hand of up to five among any number of cards. Straights and flushes take five cards; with
 * fewer only equal ranks and the highest ones count. The ace is high, and low in the straight to the five.
 * @throws HandError where there is no card, or one without rank and suit
 */
export function pokerHigh(faces: readonly Face[]): Score {
  if (faces.length === 0) throw new HandError('A hand of no cards cannot be ranked.');
  const counts = new Uint8Array(ACE_HIGH + 1);
  const suits = [0, 0, 0, 0];
  const held = [0, 0, 0, 0];
  for (const face of faces) {
    const rank = highRank(face);
    const suit = suitOf(face);
    counts[rank] = (counts[rank] ?? 0) + 1;
    suits[suit] = (suits[suit] ?? 0) | (1 << rank);
    held[suit] = (held[suit] ?? 0) + 1;
  }
  let best = scoreOfCounts(counts);
  for (const [suit, ranks] of suits.entries())
    if ((held[suit] ?? 0) >= FIVE && ones(ranks) >= FIVE) best = Math.max(best, scoreOfSuit(ranks));
  return best;
}

const ones = (bits: number): number => {
  let many = 0;
  for (let rest = bits; rest !== 0; rest &= rest - 1) many++;
  return many;
};

/**
 * The cards that make the best hand, at most five, in the order in which they count.
 * @param rank how hands are ranked
 * @param aceLow whether the ace counts as one there
 */
export function bestFive(
  faces: readonly Face[],
  rank: (faces: readonly Face[]) => Score = pokerHigh,
  aceLow = false,
): Face[] {
  const wanted = rank(faces);
  let five = [...faces];
  // A card without which the hand is as good is not among the five.
  for (let i = five.length - 1; i >= 0 && five.length > FIVE; i--) {
    const rest = five.filter((_, at) => at !== i);
    if (rank(rest) === wanted) five = rest;
  }
  return inOrder(five, aceLow);
}

/** Most alike first, then from high to low; a straight to the five ends with its ace. */
function inOrder(five: readonly Face[], aceLow: boolean): Face[] {
  const ranks = five.map(highRank);
  const wheel =
    new Set(ranks).size === FIVE && ranks.includes(ACE_HIGH) && Math.max(...ranks.filter((r) => r < ACE_HIGH)) === FIVE;
  const value = (face: Face): number => {
    const rank = highRank(face);
    const alike = ranks.filter((other) => other === rank).length;
    return alike * 16 + ((wheel || aceLow) && rank === ACE_HIGH ? 1 : rank);
  };
  return [...five].sort((a, b) => value(b) - value(a) || suitOf(a) - suitOf(b));
}
