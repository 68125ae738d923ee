import { type Face, faceText } from '../../cards/face.js';
import type { At } from '../../program/types.js';
import { fault } from '../fault.js';
import type { State } from '../state.js';

/** Promises to no pile in particular: the next cards to be dealt, wherever they go. No pile can have this name. */
export const ON_TOP = 'top';
/** The pile number of such promises. */
export const ANY_PILE = -2;

/**
 * Cards that are promised to piles, as rehearsals give them: whatever is dealt to such a pile is what was promised,
 * as long as there is something left. How much was given is kept in the state, from slot `base` on.
 * @param promised faces by pile number, the first to come first
 * @param evenly of several copies the one with the lowest number comes, wherever it lies, so that what is dealt besides is as
 *   likely as without a promise; otherwise it is the one that lies nearest to the top, as records of tables have it
 * @param mayExchange whether nobody can tell a card from another one that lies elsewhere: nobody saw it since it was
 *   shuffled, and nothing is kept of it
 */
export function stacking(
  faces: readonly Face[],
  promised: ReadonlyMap<number, readonly Face[]>,
  base: number,
  evenly: boolean,
  pileName: (p: number) => string,
  mayExchange: (s: State, card: number) => boolean,
) {
  const queues = [...promised].map(([pile, queue], i) => ({ pile, queue, slot: base + i }));
  const isWaiting = (s: State, { queue, slot }: (typeof queues)[number]): boolean =>
    (s.f[slot] as number) < queue.length;
  const swapToTop = (s: State, p: number, i: number): void => {
    const from = s.start[p] as number;
    const last = from + (s.len[p] as number) - 1;
    const held = s.cards[last] as number;
    s.cards[last] = s.cards[from + i] as number;
    s.cards[from + i] = held;
  };
  /** How many cards of a face are still promised to any pile. */
  const owed = (s: State, face: Face): number => {
    let many = 0;
    for (const { queue, slot } of queues)
      for (let k = s.f[slot] as number; k < queue.length; k++) if (queue[k] === face) many++;
    return many;
  };
  /**
   * Brings a card that lies elsewhere to the top of a pile, and the top card there: what nobody saw can still be any
   * card. Gives whether it could.
   */
  const exchanged = (s: State, from: number, face: Face): boolean => {
    const here = (s.start[from] as number) + (s.len[from] as number) - 1;
    const top = s.cards[here] as number;
    if (!mayExchange(s, top)) return false;
    for (let card = 0; card < faces.length; card++) {
      if (faces[card] !== face || !mayExchange(s, card)) continue;
      const pile = s.where[card] as number;
      const there = s.cards.indexOf(card, s.start[pile] as number);
      const facing = s.facing[card] as number;
      s.cards[here] = card;
      s.cards[there] = top;
      s.where[card] = from;
      s.where[top] = pile;
      s.facing[card] = s.facing[top] as number;
      s.facing[top] = facing;
      s.touch(from, pile);
      return true;
    }
    return false;
  };
  /** Brings a promised card to the top of the pile that is dealt from, and keeps others' promised cards from leaving. */
  const arrange = (s: State, from: number, to: number, at: At): void => {
    if (queues.length === 0) return;
    const start = s.start[from] as number;
    const inPile = Array.from(
      s.cards.subarray(start, start + (s.len[from] as number)),
      (c: number) => faces[c] as Face,
    );
    const wantedBy = (entry: (typeof queues)[number]): number => {
      const face = entry.queue[s.f[entry.slot] as number] as Face;
      if (!evenly) return inPile.lastIndexOf(face);
      let found = -1;
      for (const [i, other] of inPile.entries())
        if (other === face && (found < 0 || (s.cards[start + i] as number) < (s.cards[start + found] as number)))
          found = i;
      return found;
    };
    const due =
      queues.find((entry) => entry.pile === to && isWaiting(s, entry)) ??
      queues.find((entry) => entry.pile === ANY_PILE && isWaiting(s, entry) && wantedBy(entry) >= 0);
    if (due) {
      const wanted = due.queue[s.f[due.slot] as number] as Face;
      const i = wantedBy(due);
      if (i < 0 && exchanged(s, from, wanted)) {
        s.f[due.slot] = (s.f[due.slot] as number) + 1;
        return;
      }
      if (i < 0) fault(`${pileName(to)} was promised ${faceText(wanted)}, and ${pileName(from)} does not hold it.`, at);
      swapToTop(s, from, i);
      s.f[due.slot] = (s.f[due.slot] as number) + 1;
      return;
    }
    const free = inPile.findLastIndex((face) => inPile.filter((other) => other === face).length > owed(s, face));
    if (free >= 0) swapToTop(s, from, free);
  };
  /** Whether a pile is promised cards that have not come. */
  const isDue = (s: State, to: number): boolean => queues.some((entry) => entry.pile === to && isWaiting(s, entry));
  return { arrange, isDue };
}
