import { type Face, faceText, isSuited } from '../cards/face.js';
import { below, type Generator } from '../chance/generator.js';
import { choose } from './census.js';
import { HandError } from './high.js';
import { quickRanker } from './quick.js';

const DECK = 52;
const HOLE = 2;
const BOARD = 5;
const MOST_HANDS = 10;
/** Most hands ranked for an exact answer: well under two seconds. */
const MOST_RANKED = 20_000_000;
const STANDARD_SAMPLES = 400_000;

/** What an odds question is about: two cards each, `null` for a hand that is not known, and the board so far. */
export interface OddsQuestion {
  readonly hands: readonly (readonly Face[] | null)[];
  readonly board: readonly Face[];
}

export interface HandOdds {
  /** The share of deals that this hand wins alone, 0 to 1. */
  readonly win: number;
  /** The share of deals where it is among several best. */
  readonly tie: number;
  /** Its share of the pots, a tied one parted evenly. */
  readonly share: number;
  /** The standard error of the share; 0 where every deal was counted. */
  readonly error: number;
}

export interface Odds {
  readonly hands: readonly HandOdds[];
  /** Every deal was counted. */
  readonly exact: boolean;
  /** Deals counted or drawn. */
  readonly deals: number;
}

function checked({ hands, board }: OddsQuestion): void {
  if (hands.length < 2 || hands.length > MOST_HANDS)
    throw new HandError(`Odds are between 2 and ${MOST_HANDS} hands, not ${hands.length}.`);
  if (board.length > BOARD) throw new HandError(`The board has at most ${BOARD} cards, not ${board.length}.`);
  const seen = new Set<Face>();
  for (const face of [...hands.flatMap((hand) => hand ?? []), ...board]) {
    if (!isSuited(face)) throw new HandError(`${faceText(face)} has no rank and suit, so it counts in no hand.`);
    if (seen.has(face)) throw new HandError(`${faceText(face)} stands there twice: the deck has one.`);
    seen.add(face);
  }
  for (const hand of hands)
    if (hand && hand.length !== HOLE) throw new HandError(`A hand has ${HOLE} cards, not ${hand.length}.`);
}

/** Wins, ties and shares under way. */
class Tally {
  readonly wins: number[];
  readonly ties: number[];
  readonly shares: number[];
  readonly squares: number[];
  deals = 0;
  private readonly ranks: Int32Array;
  private readonly cards: Uint8Array;
  private readonly ranker = quickRanker();

  constructor(readonly count: number) {
    this.wins = new Array<number>(count).fill(0);
    this.ties = new Array<number>(count).fill(0);
    this.shares = new Array<number>(count).fill(0);
    this.squares = new Array<number>(count).fill(0);
    this.ranks = new Int32Array(count);
    this.cards = new Uint8Array(count * (HOLE + BOARD));
  }
  hole(hand: number, first: number, second: number): void {
    this.cards[hand * 7] = first;
    this.cards[hand * 7 + 1] = second;
  }
  board(place: number, card: number): void {
    for (let hand = 0; hand < this.count; hand++) this.cards[hand * 7 + HOLE + place] = card;
  }
  /** Ranks all hands as they lie and adds up who is best. */
  add(): void {
    const { ranks, count } = this;
    let best = 0;
    let leaders = 0;
    let leader = 0;
    for (let hand = 0; hand < count; hand++) {
      const rank = this.ranker.seven(this.cards, hand * 7);
      ranks[hand] = rank;
      if (rank > best) {
        best = rank;
        leaders = 1;
        leader = hand;
      } else if (rank === best) leaders++;
    }
    this.deals++;
    if (leaders === 1) {
      this.wins[leader] = (this.wins[leader] as number) + 1;
      return;
    }
    for (let hand = 0; hand < count; hand++)
      if (ranks[hand] === best) {
        this.ties[hand] = (this.ties[hand] as number) + 1;
        this.shares[hand] = (this.shares[hand] as number) + 1 / leaders;
        this.squares[hand] = (this.squares[hand] as number) + 1 / (leaders * leaders);
      }
  }
  odds(exact: boolean): Odds {
    const { deals } = this;
    const hands = this.wins.map((wins, i): HandOdds => {
      const share = (wins + (this.shares[i] as number)) / deals;
      const square = (wins + (this.squares[i] as number)) / deals;
      const error = exact ? 0 : Math.sqrt(Math.max(0, square - share * share) / deals);
      return { win: wins / deals, tie: (this.ties[i] as number) / deals, share, error };
    });
    return { hands, exact, deals };
  }
}

/**
 * How often each hand of two cards is best once the board of five is complete. Counted exactly where that
 * ranks at most twenty million hands, else sampled.
 * @param generator where sampled deals come from
 * @throws HandError where cards repeat or their number is wrong
 */
export function oddsOf(question: OddsQuestion, generator: Generator, samples = STANDARD_SAMPLES): Odds {
  checked(question);
  const { hands, board } = question;
  const known = new Set([...hands.flatMap((hand) => hand ?? []), ...board].map((face) => face - 1));
  const left = Array.from({ length: DECK }, (_, card) => card).filter((card) => !known.has(card));
  const unknown = hands.flatMap((hand, i) => (hand ? [] : [i]));
  const open = BOARD - board.length;
  const tally = new Tally(hands.length);
  for (const [i, hand] of hands.entries()) if (hand) tally.hole(i, (hand[0] as Face) - 1, (hand[1] as Face) - 1);
  for (const [place, face] of board.entries()) tally.board(place, face - 1);

  let deals = choose(left.length, open);
  for (let i = 0; i < unknown.length; i++) deals *= choose(left.length - open - HOLE * i, HOLE);
  if (deals * hands.length <= MOST_RANKED) {
    const used = new Uint8Array(DECK);
    const holes = (at: number): void => {
      const hand = unknown[at];
      if (hand === undefined) {
        tally.add();
        return;
      }
      for (let i = 0; i < left.length; i++) {
        const first = left[i] as number;
        if (used[first]) continue;
        used[first] = 1;
        for (let k = i + 1; k < left.length; k++) {
          const second = left[k] as number;
          if (used[second]) continue;
          used[second] = 1;
          tally.hole(hand, first, second);
          holes(at + 1);
          used[second] = 0;
        }
        used[first] = 0;
      }
    };
    const boards = (place: number, from: number): void => {
      if (place === BOARD) {
        holes(0);
        return;
      }
      for (let i = from; i < left.length; i++) {
        const card = left[i] as number;
        tally.board(place, card);
        used[card] = 1;
        boards(place + 1, i + 1);
        used[card] = 0;
      }
    };
    boards(board.length, 0);
    return tally.odds(true);
  }
  const needed = open + HOLE * unknown.length;
  for (let n = 0; n < samples; n++) {
    for (let i = 0; i < needed; i++) {
      const j = i + below(generator, left.length - i);
      const card = left[j] as number;
      left[j] = left[i] as number;
      left[i] = card;
    }
    for (let i = 0; i < open; i++) tally.board(board.length + i, left[i] as number);
    for (const [u, hand] of unknown.entries())
      tally.hole(hand, left[open + HOLE * u] as number, left[open + HOLE * u + 1] as number);
    tally.add();
  }
  return tally.odds(false);
}
