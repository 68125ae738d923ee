/**
 * The worth of a hand as one whole number: its category, then the ranks that decide, from the most
 * important to the least, four bits each. Scores of hands compare as the hands do, whatever their size.
 */
export type Score = number;

/** Categories from low to high, as their numbers stand in scores. */
export const CATEGORIES = [
  'highCard',
  'pair',
  'twoPair',
  'threeAlike',
  'straight',
  'flush',
  'fullHouse',
  'fourAlike',
  'straightFlush',
] as const;
export type Category = (typeof CATEGORIES)[number];

export const HIGH_CARD = 0;
export const PAIR = 1;
export const TWO_PAIR = 2;
export const THREE_ALIKE = 3;
export const STRAIGHT = 4;
export const FLUSH = 5;
export const FULL_HOUSE = 6;
export const FOUR_ALIKE = 7;
export const STRAIGHT_FLUSH = 8;

/** How many cards decide. */
export const FIVE = 5;
/** The ace where it is high; ranks of scores go from 2 to 14, or from 1 in ace-to-five lows. */
export const ACE_HIGH = 14;

/** Packs a category and up to five ranks. */
export function scoreOf(category: number, ranks: readonly number[]): Score {
  let score = category;
  for (let i = 0; i < FIVE; i++) score = score * 16 + (ranks[i] ?? 0);
  return score;
}
export const categoryOf = (score: Score): number => Math.floor(score / 16 ** FIVE);
/** The ranks that decide, the most important first. */
export function ranksOf(score: Score): number[] {
  const ranks: number[] = [];
  for (let i = FIVE - 1; i >= 0; i--) {
    const rank = Math.floor(score / 16 ** i) % 16;
    if (rank > 0) ranks.push(rank);
  }
  return ranks;
}

/** The highest card of the best straight among ranks given as bits (bit 2 to bit 14), or 0; the ace is also low. */
export function straightIn(ranks: number): number {
  const withLowAce = ranks | ((ranks >> ACE_HIGH) & 1 ? 2 : 0);
  for (let high = ACE_HIGH; high >= FIVE; high--) {
    const five = 0b11111 << (high - 4);
    if ((withLowAce & five) === five) return high;
  }
  return 0;
}

/** The highest `many` ranks among bits, from high to low. */
export function highest(ranks: number, many: number): number[] {
  const found: number[] = [];
  for (let rank = ACE_HIGH; rank >= 1 && found.length < many; rank--) if ((ranks >> rank) & 1) found.push(rank);
  return found;
}

/** The best score of cards whose suits do not matter. @param counts how many cards of each rank, at 2 to 14 */
export function scoreOfCounts(counts: ArrayLike<number>): Score {
  let present = 0;
  let cards = 0;
  const alike: number[][] = [[], [], [], [], []];
  for (let rank = ACE_HIGH; rank >= 2; rank--) {
    const count = counts[rank] ?? 0;
    if (count === 0) continue;
    present |= 1 << rank;
    cards += count;
    alike[Math.min(count, 4)]?.push(rank);
  }
  const [, , pairs = [], threes = [], fours = []] = alike;
  const others = (except: readonly number[], many: number): number[] =>
    highest(
      except.reduce((bits, rank) => bits & ~(1 << rank), present),
      Math.min(many, cards),
    );
  const [four] = fours;
  if (four !== undefined) {
    // With several packs a rank may lie there more often than four times: what is left over may be the kicker.
    const kicker = (counts[four] ?? 0) > 4 ? [Math.max(four, ...others([four], 1))] : others([four], 1);
    return scoreOf(FOUR_ALIKE, [four, ...kicker]);
  }
  const [three, otherThree] = threes;
  if (three !== undefined) {
    const pair = Math.max(otherThree ?? 0, pairs[0] ?? 0);
    if (pair > 0) return scoreOf(FULL_HOUSE, [three, pair]);
  }
  const straight = straightIn(present);
  if (straight > 0) return scoreOf(STRAIGHT, [straight]);
  if (three !== undefined) return scoreOf(THREE_ALIKE, [three, ...others([three], 2)]);
  const [high, low] = pairs;
  if (high !== undefined && low !== undefined) return scoreOf(TWO_PAIR, [high, low, ...others([high, low], 1)]);
  if (high !== undefined) return scoreOf(PAIR, [high, ...others([high], 3)]);
  return scoreOf(HIGH_CARD, highest(present, FIVE));
}

/** The score of five or more cards of one suit. @param ranks bits 2 to 14 */
export function scoreOfSuit(ranks: number): Score {
  const straight = straightIn(ranks);
  return straight > 0 ? scoreOf(STRAIGHT_FLUSH, [straight]) : scoreOf(FLUSH, highest(ranks, FIVE));
}
