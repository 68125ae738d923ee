/**
 * The fast way to rank five, six or seven cards, for odds and counts by the million.
 *
 * Each card adds two numbers: one for its rank, one for its suit. The rank numbers are places in base
 * five, so that their sum says how often each rank lies there: the six high ranks in the upper bits
 * (below 5^6 = 15,625), the seven low ones in the lower 17 (below 5^7 = 78,125). Low halves are numbered
 * by how many cards they hold, so that all that can go with one high half lie side by side; the class
 * stands at the sum of where the high half's row begins and the low half's number. The suit numbers are
 * four fields of four bits that start at three: a field whose highest bit is set has five cards or more,
 * and the ranks of that suit alone decide.
 */
import { FIVE, type Score, scoreOfCounts, scoreOfSuit } from './score.js';

const LOW_RANKS = 7;
const HIGH_RANKS = 6;
const LOW_BITS = 17;
const LOW_MASK = (1 << LOW_BITS) - 1;
const MOST_CARDS = 7;
/** Cards as numbers from 0 to 51: a standard face less one. */
const CARDS = 52;
const FLUSHED = 0x8888;
const NO_SUITS = 0x3333;
/** How many different hands of five there are, where suits tie. */
export const HAND_CLASSES = 7462;

/** Bit of a card's rank, 2 to 14, by card. */
const RANK_BIT = new Int32Array(CARDS);
const RANK_STEP = new Int32Array(CARDS);
const SUIT_STEP = new Int32Array(CARDS);
const SUIT = new Uint8Array(CARDS);
for (let card = 0; card < CARDS; card++) {
  const rank = card % 13 === 0 ? 12 : (card % 13) - 1;
  RANK_BIT[card] = 1 << (rank + 2);
  RANK_STEP[card] = rank < LOW_RANKS ? 5 ** rank : 5 ** (rank - LOW_RANKS) * (1 << LOW_BITS);
  SUIT[card] = Math.floor(card / 13);
  SUIT_STEP[card] = 1 << (4 * Math.floor(card / 13));
}

// Fixed arrays of the module: the engine that runs this can then reach them without looking up where they lie.
const ROWS = new Int32Array(5 ** HIGH_RANKS);
const LOWS = new Uint16Array(5 ** LOW_RANKS);
/** Classes of hands whose suits do not matter: 6,175 of five cards, 18,395 of six, 49,205 of seven. */
const TABLE = new Uint16Array(6_175 + 18_395 + 49_205);
/** Classes of one suit's cards, by their rank bits shifted down by two. */
const FLUSHES = new Uint16Array(1 << 13);
/** The score of each class; classes count from 1, the worst. */
const SCORES = new Int32Array(1 + HAND_CLASSES);
let filled = false;

interface Half {
  readonly sum: number;
  readonly cards: number;
  readonly counts: readonly number[];
}

/** All ways to have up to seven cards, at most four of each, among some ranks. */
function halves(ranks: number): Half[] {
  let found: Half[] = [{ sum: 0, cards: 0, counts: [] }];
  for (let i = 0; i < ranks; i++)
    found = found.flatMap((half) =>
      Array.from({ length: Math.min(4, MOST_CARDS - half.cards) + 1 }, (_, n) => ({
        sum: half.sum + n * 5 ** i,
        cards: half.cards + n,
        counts: [...half.counts, n],
      })),
    );
  return found;
}

function fill(): void {
  filled = true;
  const byCards: Half[][] = Array.from({ length: MOST_CARDS + 1 }, () => []);
  for (const half of halves(LOW_RANKS)) byCards[half.cards]?.push(half);
  const firstOf = [0];
  for (const [cards, group] of byCards.entries()) {
    const first = firstOf[cards] as number;
    for (const [i, low] of group.entries()) LOWS[low.sum] = first + i;
    firstOf.push(first + group.length);
  }
  const found: Score[] = [];
  const counts = new Uint8Array(15);
  for (const high of halves(HIGH_RANKS)) {
    const fewest = Math.max(0, FIVE - high.cards);
    ROWS[high.sum] = found.length - (firstOf[fewest] as number);
    for (let i = 0; i < HIGH_RANKS; i++) counts[2 + LOW_RANKS + i] = high.counts[i] ?? 0;
    for (const low of byCards.slice(fewest, MOST_CARDS - high.cards + 1).flat()) {
      for (let i = 0; i < LOW_RANKS; i++) counts[2 + i] = low.counts[i] ?? 0;
      found.push(scoreOfCounts(counts));
    }
  }
  const ofSuit: Score[] = Array.from(FLUSHES, (_, bits) => (ones(bits) >= FIVE ? scoreOfSuit(bits << 2) : 0));
  const distinct = [...new Set(found), ...new Set(ofSuit)].filter((score) => score > 0).sort((a, b) => a - b);
  const classes = new Map(distinct.map((score, i) => [score, i + 1]));
  SCORES.set(distinct, 1);
  for (const [i, score] of found.entries()) TABLE[i] = classes.get(score) ?? 0;
  for (const [bits, score] of ofSuit.entries()) FLUSHES[bits] = classes.get(score) ?? 0;
}

const ones = (bits: number): number => {
  let many = 0;
  for (let rest = bits; rest !== 0; rest &= rest - 1) many++;
  return many;
};

/** The class of five or more cards of one suit: among up to seven nothing but a straight flush of the same beats them. */
function ofSuit(suits: number, cards: Uint8Array, at: number, many: number): number {
  const suit = (31 - Math.clz32(suits & FLUSHED)) >> 2;
  let bits = 0;
  for (let i = at; i < at + many; i++) {
    const card = cards[i] as number;
    if (SUIT[card] === suit) bits |= RANK_BIT[card] as number;
  }
  return FLUSHES[bits >> 2] as number;
}

function seven(cards: Uint8Array, at: number): number {
  const a = cards[at] as number;
  const b = cards[at + 1] as number;
  const c = cards[at + 2] as number;
  const d = cards[at + 3] as number;
  const e = cards[at + 4] as number;
  const f = cards[at + 5] as number;
  const g = cards[at + 6] as number;
  const suits =
    (NO_SUITS +
      (SUIT_STEP[a] as number) +
      (SUIT_STEP[b] as number) +
      (SUIT_STEP[c] as number) +
      (SUIT_STEP[d] as number) +
      (SUIT_STEP[e] as number) +
      (SUIT_STEP[f] as number) +
      (SUIT_STEP[g] as number)) |
    0;
  if ((suits & FLUSHED) !== 0) return ofSuit(suits, cards, at, MOST_CARDS);
  const ranks =
    ((RANK_STEP[a] as number) +
      (RANK_STEP[b] as number) +
      (RANK_STEP[c] as number) +
      (RANK_STEP[d] as number) +
      (RANK_STEP[e] as number) +
      (RANK_STEP[f] as number) +
      (RANK_STEP[g] as number)) |
    0;
  return TABLE[((ROWS[ranks >> LOW_BITS] as number) + (LOWS[ranks & LOW_MASK] as number)) | 0] as number;
}

function rank(cards: Uint8Array, at: number, many: number): number {
  let suits = NO_SUITS;
  let ranks = 0;
  for (let i = at; i < at + many; i++) {
    const card = cards[i] as number;
    suits += SUIT_STEP[card] as number;
    ranks += RANK_STEP[card] as number;
  }
  if ((suits & FLUSHED) !== 0) return ofSuit(suits, cards, at, many);
  return TABLE[(ROWS[ranks >> LOW_BITS] as number) + (LOWS[ranks & LOW_MASK] as number)] as number;
}

/** Ranks hands of five to seven cards by tables. */
export interface QuickRanker {
  /**
   * The class of the best five among seven cards, from 1 (7-5-4-3-2) to {@link HAND_CLASSES} (a royal flush).
   * @param cards cards as faces less one, 0 to 51, all different
   * @param at where the seven begin
   */
  readonly seven: (cards: Uint8Array, at: number) => number;
  /** The class of five to seven cards, `many` from `at` on. */
  readonly rank: (cards: Uint8Array, at: number, many: number) => number;
  /** The score of a class. */
  readonly scoreOf: (handClass: number) => Score;
}

const RANKER: QuickRanker = { seven, rank, scoreOf: (handClass) => SCORES[handClass] as Score };

/** The quick ranker; its tables are made when it is first asked for (about a tenth of a second). */
export function quickRanker(): QuickRanker {
  if (!filled) fill();
  return RANKER;
}
