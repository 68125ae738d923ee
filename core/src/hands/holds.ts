import { type Face, faceText } from '../cards/face.js';
import { choose } from './census.js';
import { HandError } from './high.js';
import { HAND_CLASSES, quickRanker } from './quick.js';
import { FIVE, type Score } from './score.js';

const DECK = 52;

/** One way to hold some of five cards and draw the rest. */
export interface Held {
  /** The cards that are held, in the order of the hand. */
  readonly cards: readonly Face[];
  /** What it pays on average, over all draws. */
  readonly pays: number;
  /** How many draws there are. */
  readonly draws: number;
}

/**
 * All ways to hold some of five cards, the best first, each counted exactly over all draws out of one standard deck: some
 * 2.6 million hands in all.
 * @param pays what a hand pays, by its score
 * @throws HandError where it is not five different cards of a standard deck
 */
export function holdsOf(hand: readonly Face[], pays: (score: Score) => number): Held[] {
  if (hand.length !== FIVE) throw new HandError(`A hand that draws has ${FIVE} cards, not ${hand.length}.`);
  const other = hand.find((face, i) => face < 1 || face > DECK || hand.indexOf(face) !== i);
  if (other !== undefined)
    throw new HandError(`${faceText(other)} stands there twice, or is no card of a standard deck.`);
  const { rank, scoreOf } = quickRanker();
  const payOf = Float64Array.from({ length: HAND_CLASSES + 1 }, (_, one) => (one === 0 ? 0 : pays(scoreOf(one))));
  const left = Array.from({ length: DECK }, (_, card) => card).filter((card) => !hand.includes(card + 1));
  const cards = new Uint8Array(FIVE);
  /** What all draws to the places from one on pay together. */
  const drawn = (place: number, from: number): number => {
    if (place === FIVE) return payOf[rank(cards, 0, FIVE)] as number;
    let sum = 0;
    for (let i = from; i < left.length; i++) {
      cards[place] = left[i] as number;
      sum += drawn(place + 1, i + 1);
    }
    return sum;
  };
  const ways = Array.from({ length: 1 << FIVE }, (_, mask): Held => {
    const held = hand.filter((_, i) => (mask & (1 << i)) !== 0);
    for (const [i, face] of held.entries()) cards[i] = face - 1;
    const draws = choose(left.length, FIVE - held.length);
    return { cards: held, pays: drawn(held.length, 0) / draws, draws };
  });
  return ways.sort((a, b) => b.pays - a.pays || b.cards.length - a.cards.length);
}
