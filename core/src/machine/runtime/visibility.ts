import type { At } from '../../program/types.js';
import { HiddenRead, ok } from '../fault.js';
import type { StateLayout } from '../layout.js';
import { rowOffsets, type State } from '../state.js';
import { ALL, SEATS, WATCHER_BIT } from '../trace.js';
import type { Contents } from './contents.js';

/** The viewer who sees everything laid open. */
export const OPEN = -2;
/** The viewer who sees what everybody sees. */
export const WATCHER = -1;

/** The bit of a viewer in a mask of those who see a card. */
export const bitOf = (viewer: number): number => (viewer === WATCHER ? WATCHER_BIT : 1 << viewer);

/** Whether a mask lets a viewer see. */
export const maskShows = (mask: number, viewer: number): boolean => viewer === OPEN || (mask & bitOf(viewer)) !== 0;

/** Whether a mask lets one certain viewer see. */
export type Sees = (mask: number) => boolean;

/**
 * Who sees which card, and what seats know of cards that they have seen.
 * @param asked whether the sheet asks what seats have seen: only then may a seat read a card that it no longer sees
 * @param kept whether seat memory is kept
 */
export function visibility(layout: StateLayout, { pileCards }: Contents, asked: boolean, kept: boolean) {
  const owner = Int8Array.from(layout.piles, (p) => p.seat);
  /** Hands of seats: piles that others do not see into. */
  const isHand = layout.piles.map((p) => p.seat >= 0 && layout.program.piles[p.decl]?.facing === 'private');

  const maskOf = (s: State, c: number): number => maskIn(s, c, s.where[c] as number);
  /** Who sees a card that lies in a certain pile. */
  const maskIn = (s: State, c: number, p: number): number => {
    const facing = s.facing[c];
    if (facing === 1) return ALL;
    const extra = s.seen[c] as number;
    if (facing === 0) return extra;
    const seat = owner[p] as number;
    return seat < 0 ? extra : extra | (1 << seat);
  };
  const sees = (s: State, c: number, viewer: number): boolean =>
    viewer === OPEN || (maskOf(s, c) & (viewer === WATCHER ? WATCHER_BIT : 1 << viewer)) !== 0;
  /** Whether a seat has seen a card since it was last shuffled. */
  const knows = (s: State, c: number, viewer: number): boolean =>
    sees(s, c, viewer) || (asked && ((s.known[c] as number) & (1 << viewer)) !== 0);
  const { facing: FACING, where: WHERE } = rowOffsets({ cards: layout.faces.length, piles: layout.piles.length });
  /** A card whose face the viewer may read; anything else is a fault. Face up and in the own hand are found at once. */
  const see = (s: State, c: number, viewer: number, at: At): number => {
    if (c < 0) return seeHidden(s, c, viewer, at);
    const facing = s.row[FACING + c];
    if (facing === 1 || (facing === 2 && owner[s.row[WHERE + c] as number] === viewer)) return c;
    return seeHidden(s, c, viewer, at);
  };
  const seeHidden = (s: State, c: number, viewer: number, at: At): number => {
    if (!knows(s, ok(c, at), viewer)) throw new HiddenRead('This reads a card that the seat may not see.', at);
    return c;
  };
  const seeAll = (s: State, cards: readonly number[], viewer: number, at: At): readonly number[] => {
    for (const c of cards) see(s, c, viewer, at);
    return cards;
  };
  /** Whether a named card is in a pile; the viewer must see the whole pile, since a card's place is a secret too. */
  const heldOpenly = (s: State, c: number, p: number, viewer: number, at: At): boolean => {
    seeAll(s, pileCards(s, p), viewer, at);
    return s.where[c] === p;
  };
  /** Records that the viewers of a mask have seen a card. */
  const note = (s: State, c: number, mask: number): void => {
    if (kept) s.known[c] = (s.known[c] as number) | (mask & SEATS);
  };
  /** After a shuffle, seats know only the cards that they still see. */
  const shuffled = (s: State, p: number): void => {
    if (kept) for (const c of pileCards(s, p)) s.known[c] = maskOf(s, c) & SEATS;
  };
  /** After a card left a hand, viewers who did not see which one know neither it nor the cards left behind. */
  const forget = (s: State, c: number, from: number, mask: number): void => {
    if (!kept || !isHand[from]) return;
    const blind = SEATS & ~(mask | (1 << (owner[from] as number)));
    for (const other of [c, ...pileCards(s, from)]) s.known[other] = (s.known[other] as number) & ~blind;
  };
  const ownOnly = (seat: number, viewer: number, at: At): number => {
    if (viewer !== OPEN && seat !== viewer) throw new HiddenRead('This reads a private variable of another seat.', at);
    return seat;
  };

  return { owner, maskOf, maskIn, sees, knows, see, seeAll, heldOpenly, note, shuffled, forget, ownOnly };
}
