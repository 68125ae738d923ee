import { RANKS as LETTERS } from '../cards/face.js';
import { choose } from './census.js';
import { HAND_CLASSES, quickRanker } from './quick.js';

const DECK = 52;
const RANKS = 13;
const SUITS = 4;
const BOARD = 5;
/** Hands of two cards that are left beside a board of five. */
const HANDS = choose(DECK - BOARD, 2);
/** Boards and rivals of one hand. */
const DEALS = choose(DECK - 2, BOARD) * choose(DECK - BOARD - 2, 2);

/** What a kind of starting hand is worth. */
export interface StartingHand {
  /** Its higher and its lower rank, 2 to 14. */
  readonly high: number;
  readonly low: number;
  readonly suited: boolean;
  /** The shares of all deals that it wins alone, and in which both are as good, 0 to 1. */
  readonly win: number;
  readonly tie: number;
  /** Its share of the pots, a tied one parted evenly. */
  readonly share: number;
}

/** Every board up to the names of its suits: the ranks of each suit as bits, the largest first, and how many boards it stands for. */
function boardsOf(each: (masks: readonly number[], times: number) => void): void {
  const bySize: number[][] = Array.from({ length: BOARD + 1 }, () => []);
  for (let mask = 0; mask < 1 << RANKS; mask++) {
    let bits = 0;
    for (let left = mask; left > 0; left &= left - 1) bits++;
    bySize[bits]?.push(mask);
  }
  const masks = [0, 0, 0, 0];
  const fill = (suit: number, left: number, most: number): void => {
    if (suit === SUITS) {
      if (left > 0) return;
      const alike = [...new Set(masks)].map((mask) => masks.filter((other) => other === mask).length);
      each(
        masks,
        alike.reduce((times, n) => times / factorial(n), factorial(SUITS)),
      );
      return;
    }
    for (let size = 0; size <= left; size++)
      for (const mask of bySize[size] as number[])
        if (mask <= most) {
          masks[suit] = mask;
          fill(suit + 1, left - size, mask);
        }
  };
  fill(0, BOARD, (1 << RANKS) - 1);
}
const factorial = (n: number): number => (n < 2 ? 1 : n * factorial(n - 1));

/**
 * What each of the 169 kinds of starting hands is worth against one hand that nobody knows, counted over all boards and
 * all hands of both: some 2.8 thousand million, those that differ only in the names of suits at once. The best first.
 * @param progress is told the part that is done, 0 to 1, now and then
 */
export function startingHands(progress: (part: number) => void = () => undefined): StartingHand[] {
  const { seven } = quickRanker();
  const kind = Uint8Array.from({ length: DECK * DECK }, (_, pair) => kindOf(Math.floor(pair / DECK), pair % DECK));
  const [wins, ties] = [new Float64Array(RANKS * RANKS), new Float64Array(RANKS * RANKS)];
  const cards = new Uint8Array(BOARD + 2);
  const left = new Uint8Array(DECK - BOARD);
  const [first, second] = [new Uint8Array(HANDS), new Uint8Array(HANDS)];
  const ranks = new Uint16Array(HANDS);
  const order = new Uint16Array(HANDS);
  /** By rank: where its hands begin in their order, once they are counted. */
  const begins = new Uint16Array(HAND_CLASSES + 2);
  /** By card: hands with it that are worse than those that are looked at, and as good. */
  const [worse, alike] = [new Uint16Array(DECK), new Uint16Array(DECK)];
  let boards = 0;

  boardsOf((masks, times) => {
    begins.fill(0);
    let [on, off] = [0, 0];
    for (let card = 0; card < DECK; card++) {
      const suit = Math.floor(card / RANKS);
      if (((masks[suit] as number) >> (card % RANKS)) & 1) cards[2 + on++] = card;
      else left[off++] = card;
    }
    let n = 0;
    for (let i = 0; i < left.length; i++)
      for (let k = i + 1; k < left.length; k++) {
        cards[0] = first[n] = left[i] as number;
        cards[1] = second[n] = left[k] as number;
        const rank = seven(cards, 0);
        ranks[n++] = rank;
        (begins[rank + 1] as number)++;
      }
    for (let rank = 1; rank < begins.length; rank++)
      begins[rank] = (begins[rank] as number) + (begins[rank - 1] as number);
    for (let hand = 0; hand < HANDS; hand++) {
      const rank = ranks[hand] as number;
      const place = begins[rank] as number;
      order[place] = hand;
      begins[rank] = place + 1;
    }
    worse.fill(0);
    for (let from = 0; from < HANDS; ) {
      const rank = ranks[order[from] as number];
      let to = from;
      for (; to < HANDS && ranks[order[to] as number] === rank; to++) count(alike, order[to] as number, 1);
      for (let i = from; i < to; i++) {
        const hand = order[i] as number;
        const [a, b] = [first[hand] as number, second[hand] as number];
        const of = kind[a * DECK + b] as number;
        // Hands that hold one of its cards are no rivals; it is itself among those that are as good, once for each of its cards.
        const fewer = from - (worse[a] as number) - (worse[b] as number);
        const same = to - from - (alike[a] as number) - (alike[b] as number) + 1;
        wins[of] = (wins[of] as number) + times * fewer;
        ties[of] = (ties[of] as number) + times * same;
      }
      for (let i = from; i < to; i++) {
        count(alike, order[i] as number, -1);
        count(worse, order[i] as number, 1);
      }
      from = to;
    }
    if (++boards % 4_096 === 0) progress(Math.min(1, boards / BOARDS));
  });

  function count(into: Uint16Array, hand: number, by: number): void {
    const [a, b] = [first[hand] as number, second[hand] as number];
    into[a] = (into[a] as number) + by;
    into[b] = (into[b] as number) + by;
  }
  return Array.from({ length: RANKS * RANKS }, (_, of): StartingHand => {
    const [a, b] = [Math.floor(of / RANKS), of % RANKS];
    const kinds = { high: Math.max(a, b) + 2, low: Math.min(a, b) + 2, suited: a > b };
    const [won, tied, all] = [wins[of] as number, ties[of] as number, waysTo(kinds) * DEALS];
    return {
      ...kinds,
      win: won / all,
      tie: tied / all,
      share: (won + tied / 2) / all,
    };
  }).sort((a, b) => b.share - a.share);
}

/** Boards of five that differ in more than the names of their suits. */
const BOARDS = 134_459;

/** The place of a card's rank, the ace the highest. */
const placeOf = (card: number): number => ((card % RANKS) + RANKS - 1) % RANKS;

/** Where a kind stands among 169: suited ones with their higher rank first. */
function kindOf(a: number, b: number): number {
  const [p, q] = [placeOf(a), placeOf(b)];
  const [high, low] = [Math.max(p, q), Math.min(p, q)];
  const isSuited = Math.floor(a / RANKS) === Math.floor(b / RANKS);
  return isSuited ? high * RANKS + low : low * RANKS + high;
}

type Kind = Pick<StartingHand, 'high' | 'low' | 'suited'>;

/** In how many ways a kind can be dealt, of 1,326. */
export const waysTo = ({ high, low, suited }: Kind): number => (high === low ? 6 : suited ? 4 : 12);

/** The kind at a place of the usual chart, its rows and columns by rank (2 to 14): of one suit where the higher rank is the row's. */
export const kindAt = (row: number, column: number): Kind => ({
  high: Math.max(row, column),
  low: Math.min(row, column),
  suited: row > column,
});

/** A kind in words, such as `AK suited`, `77` or `72`. */
export const startWords = ({ high, low, suited }: Kind): string =>
  `${letterOf(high)}${letterOf(low)}${suited ? ' suited' : ''}`;
/** A rank from 2 to 14 as it is written. */
export const letterOf = (rank: number): string => LETTERS[((rank - 1) % RANKS) + 1] as string;
