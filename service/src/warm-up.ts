import { aceToFive, bestFive, commitToOrder, deckFaces, deuceToSeven, type Face, pokerHigh } from '@wily-jester/core';
import { nativeSha256 } from './records/hmac.js';

/** How often each is done: enough for the machine's compiler to have seen it. */
const TIMES = 12;

/**
 * Does once what is slow when it is done for the first time: the dearest steps rank lows and commit to shuffles, and
 * whoever comes first should not wait for code to be compiled.
 */
export function warmUp(): void {
  const deck: readonly Face[] = deckFaces([{ form: { kind: 'standard' }, copies: 1, jokers: 0 }]);
  for (let i = 0; i < TIMES; i++) {
    const hand = Array.from({ length: 14 }, (_, k) => deck[(i * 7 + k * 5) % deck.length] as Face);
    aceToFive(hand);
    deuceToSeven(hand);
    pokerHigh(hand);
    bestFive(hand.slice(0, 9), pokerHigh, false);
    commitToOrder(deck, new Uint8Array(32).fill(i), nativeSha256);
  }
}
