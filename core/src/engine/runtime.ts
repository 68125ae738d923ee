import { colorOf, type Face, faceText, numberOf, rankOf, suitOf } from '../cards/face.js';
import { below, type Chance, shufflePlaces } from '../chance/generator.js';
import { handName, lowName } from '../hands/naming.js';
import type { CardFacts } from '../patterns/shapes.js';
import { type At, FACINGS, type Program } from '../program/types.js';
import { bearings } from './bearings.js';
import { Fault, HiddenRead } from './fault.js';
import { reckoning } from './reckoning.js';
import { CHANCES, type Shape, WAIT, WAIT_OVER } from './shape.js';
import { speaking } from './speaking.js';
import type { State } from './state.js';
import { ALL, MOVED, SEATS, SHOWN, SHUFFLED, type Trace, TURNED, WATCHER_BIT } from './trace.js';

/** Greatest number of operations in one step. */
export const MOST_OPERATIONS = 1_000_000;
/** The viewer who sees everything laid open. */
export const OPEN = -2;
/** The viewer who sees what everybody sees. */
export const WATCHER = -1;

/** What a table takes from outside: chance, and cards promised to piles. */
export interface Surroundings {
  readonly chance: Chance;
  /** Faces promised to piles, by pile number, first to come first. */
  readonly promised: ReadonlyMap<number, readonly Face[]>;
  /** Called after each shuffle of a live table, with the pile's order. */
  readonly commit?: ((count: number, order: readonly Face[]) => string) | undefined;
}

/**
 * What generated code calls. One runtime serves one table's code; it holds no state of the table:
 * every function works on the state that it is given.
 */
export function runtimeOf(shape: Shape, trace: Trace, around: Surroundings, promisedBase: number) {
  const { faces, piles, program } = shape;
  const table = bearings(shape);
  const { ok, pileName } = table;
  const rank = Int8Array.from(faces, rankOf);
  const suit = Int8Array.from(faces, suitOf);
  const color = Int8Array.from(faces, colorOf);
  const pips = Int8Array.from(faces, (face) => Math.max(0, rankOf(face)));
  const number = Int16Array.from(faces, numberOf);
  const pileFacing = Uint8Array.from(piles, (p) => FACINGS.indexOf(program.piles[p.decl]?.facing ?? 'down'));
  const owner = Int8Array.from(piles, (p) => p.seat);
  /** How ranks compare: place in the game's order, by rank. */
  const rankPlace = new Int8Array(14).fill(-1);
  for (const [i, r] of program.rankOrder.entries()) rankPlace[r] = i;
  const suitPlace = new Int8Array(4);
  for (const [i, s] of program.suitOrder.entries()) suitPlace[s] = i;
  const facts: CardFacts = {
    place: (c) => ((rank[c] as number) > 0 ? (rankPlace[rank[c] as number] as number) : (number[c] as number)),
    rank: (c) => Math.max(rank[c] as number, number[c] as number),
    suit: (c) => suit[c] as number,
  };
  /** Whether what each seat has seen is kept: only where the sheet asks for it. */
  const tracking = asksWhatWasSeen(program);
  const refills: (((s: State) => unknown) | undefined)[] = [];
  const queues = [...around.promised].map(([pile, queue]) => ({ pile, queue }));
  const promising = queues.length > 0;

  const fault = (message: string, at: At): never => {
    throw new Fault(message, at);
  };

  // ---- numbers
  const chk = (x: number, at: At): number =>
    x <= 9007199254740991 && x >= -9007199254740991
      ? x
      : fault('This number is too large: whole numbers are exact up to 9,007,199,254,740,991.', at);
  const div = (a: number, b: number, at: At): number =>
    b === 0 ? fault('This divides by zero.', at) : Math.floor(a / b);
  const mod = (a: number, b: number, at: At): number =>
    b === 0 ? fault('This divides by zero.', at) : a - b * Math.floor(a / b);

  // ---- who sees what
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
    sees(s, c, viewer) || (tracking && ((s.known[c] as number) & (1 << viewer)) !== 0);
  /** A card whose face the viewer may read; anything else is a fault. */
  const see = (s: State, c: number, viewer: number, at: At): number => {
    ok(c, at);
    if (!knows(s, c, viewer)) throw new HiddenRead('This reads a card that the seat may not see.', at);
    return c;
  };
  const seeAll = (s: State, cards: readonly number[], viewer: number, at: At): readonly number[] => {
    for (const c of cards) see(s, c, viewer, at);
    return cards;
  };
  /** Whether a named card lies in a pile, for a viewer who must see into it to be told. */
  const heldOpenly = (s: State, c: number, p: number, viewer: number, at: At): boolean => {
    seeAll(s, pileCards(s, p), viewer, at);
    return s.where[c] === p;
  };
  const note = (s: State, c: number, mask: number): void => {
    if (tracking) s.known[c] = (s.known[c] as number) | (mask & SEATS);
  };
  /** A card left a hand: those who did not see which one no longer know what is left there, nor what went. */
  const forget = (s: State, c: number, from: number, seen: number): void => {
    const seat = owner[from] as number;
    if (!tracking || seat < 0 || program.piles[piles[from]?.decl ?? 0]?.facing !== 'private') return;
    const blind = SEATS & ~(seen | (1 << seat));
    for (const other of [c, ...pileCards(s, from)]) s.known[other] = (s.known[other] as number) & ~blind;
  };
  const ownOnly = (seat: number, viewer: number, at: At): number => {
    if (viewer !== OPEN && seat !== viewer) throw new HiddenRead('This reads a private variable of another seat.', at);
    return seat;
  };

  // ---- cards from place to place
  /** The place of a card in its pile, from 0. */
  const indexOf = (s: State, c: number): number => {
    const p = s.where[c] as number;
    const from = s.start[p] as number;
    for (let i = (s.len[p] as number) - 1; i >= 0; i--) if (s.cards[from + i] === c) return i;
    return -1;
  };
  const put = (s: State, c: number, to: number, facing: number, beneath: boolean): void => {
    const from = s.where[c] as number;
    const before = maskOf(s, c);
    const length = s.len[to] as number;
    if (length === (s.cap[to] as number)) s.grow(to, length + 1);
    const at = s.start[to] as number;
    if (beneath) {
      s.cards.copyWithin(at + 1, at, at + length);
      s.cards[at] = c;
    } else s.cards[at + length] = c;
    s.len[to] = length + 1;
    s.where[c] = to;
    s.facing[c] = facing < 0 ? (pileFacing[to] as number) : facing;
    s.seen[c] = 0;
    const after = maskOf(s, c);
    forget(s, c, from, before | after);
    note(s, c, after);
    trace.add(MOVED, c, from, to, before, after, 0);
  };
  const lift = (s: State, c: number): void => {
    const p = s.where[c] as number;
    const from = s.start[p] as number;
    const last = (s.len[p] as number) - 1;
    const i = s.cards[from + last] === c ? last : indexOf(s, c);
    if (i < last) s.cards.copyWithin(from + i, from + i + 1, from + last + 1);
    s.len[p] = last;
  };
  const fill = (s: State, p: number): void => {
    if (s.len[p] === 0) refills[p]?.(s);
  };

  // ---- promised cards
  const waiting = (s: State, q: number): number => {
    const { queue } = queues[q] as { queue: readonly Face[] };
    return queue.length - (s.f[promisedBase + q] as number);
  };
  const swapToTop = (s: State, p: number, i: number): void => {
    const from = s.start[p] as number;
    const last = from + (s.len[p] as number) - 1;
    const held = s.cards[last] as number;
    s.cards[last] = s.cards[from + i] as number;
    s.cards[from + i] = held;
  };
  /** Brings a promised card to the top of the pile that is dealt from, and keeps others' promised cards from leaving. */
  const arrange = (s: State, from: number, to: number, at: At): void => {
    const length = s.len[from] as number;
    const base = s.start[from] as number;
    const q = queues.findIndex((entry, i) => entry.pile === to && waiting(s, i) > 0);
    if (q >= 0) {
      const wanted = (queues[q] as { queue: readonly Face[] }).queue[s.f[promisedBase + q] as number] as Face;
      for (let i = length - 1; i >= 0; i--)
        if (faces[s.cards[base + i] as number] === wanted) {
          swapToTop(s, from, i);
          s.f[promisedBase + q] = (s.f[promisedBase + q] as number) + 1;
          return;
        }
      fault(`${pileName(to)} was promised ${faceText(wanted)}, and ${pileName(from)} does not hold it.`, at);
    }
    const promisedTo = (face: Face): number => {
      let many = 0;
      for (const [i, { queue }] of queues.entries())
        for (let k = s.f[promisedBase + i] as number; k < queue.length; k++) if (queue[k] === face) many++;
      return many;
    };
    for (let i = length - 1; i >= 0; i--) {
      const face = faces[s.cards[base + i] as number] as Face;
      const kept = promisedTo(face);
      let spare = -kept;
      if (kept > 0) for (let k = 0; k < length; k++) if (faces[s.cards[base + k] as number] === face) spare++;
      if (kept === 0 || spare > 0) {
        if (i < length - 1) swapToTop(s, from, i);
        return;
      }
    }
  };

  const deal1 = (s: State, from: number, to: number, facing: number, at: At): number => {
    let length = s.len[from] as number;
    if (length === 0) {
      fill(s, from);
      length = s.len[from] as number;
      if (length === 0) fault(`This deals from ${pileName(from)}, and ${pileName(from)} is empty.`, at);
    }
    if (promising) arrange(s, from, to, at);
    const c = s.cards[(s.start[from] as number) + length - 1] as number;
    const before = maskIn(s, c, from);
    const place = s.len[to] as number;
    s.len[from] = length - 1;
    if (place === (s.cap[to] as number)) s.grow(to, place + 1);
    s.cards[(s.start[to] as number) + place] = c;
    s.len[to] = place + 1;
    s.where[c] = to;
    s.facing[c] = facing < 0 ? (pileFacing[to] as number) : facing;
    s.seen[c] = 0;
    const after = maskIn(s, c, to);
    forget(s, c, from, before | after);
    note(s, c, after);
    trace.add(MOVED, c, from, to, before, after, 0);
    return c;
  };
  /** Deals up to a number; stops early, when fewer will do, once the pile and its refill are used up. */
  const dealN = (
    s: State,
    from: number,
    to: number,
    count: number,
    upTo: boolean,
    facing: number,
    at: At,
  ): number[] => {
    const dealt: number[] = [];
    for (let i = 0; i < count; i++) {
      if (upTo) {
        fill(s, from);
        if (s.len[from] === 0) break;
      }
      dealt.push(deal1(s, from, to, facing, at));
    }
    return dealt;
  };
  const dealAll = (s: State, from: number, to: readonly number[], facing: number, at: At): number[] => {
    const dealt: number[] = [];
    for (let i = 0; (s.len[from] as number) > 0 && to.length > 0; i++)
      dealt.push(deal1(s, from, to[i % to.length] as number, facing, at));
    return dealt;
  };
  /** Deals round the table, one card at a time; `count` −1 deals all. */
  const dealRound = (
    s: State,
    from: number,
    base: number,
    of: readonly number[],
    starting: number,
    count: number,
    upTo: boolean,
    facing: number,
    at: At,
  ): void => {
    const order =
      starting < 0 ? of : [...of.filter((seat) => seat >= starting), ...of.filter((seat) => seat < starting)];
    if (order.length === 0) return;
    for (let i = 0; count < 0 || i < count; i++)
      for (const seat of order) {
        if (count < 0 && s.len[from] === 0) return;
        if (upTo) {
          fill(s, from);
          if (s.len[from] === 0) return;
        }
        deal1(s, from, base + seat, facing, at);
      }
  };
  const moveCards = (
    s: State,
    cards: readonly number[],
    to: number,
    reversed: boolean,
    beneath: boolean,
    facing: number,
    at: At,
  ): void => {
    const order = reversed !== beneath ? [...cards].reverse() : cards;
    for (const c of order) {
      ok(c, at);
      lift(s, c);
      put(s, c, to, facing, beneath);
    }
  };
  /** Moves a whole pile as it lies. */
  const moveAll = (
    s: State,
    from: number,
    to: number,
    reversed: boolean,
    beneath: boolean,
    facing: number,
    at: At,
  ): void => {
    if (from === to) return;
    const count = s.len[from] as number;
    if (count === 0) return;
    if (reversed || beneath) {
      moveCards(s, pileCards(s, from), to, reversed, beneath, facing, at);
      return;
    }
    const need = (s.len[to] as number) + count;
    if (need > (s.cap[to] as number)) s.grow(to, need);
    const base = s.start[from] as number;
    s.len[from] = 0;
    const way = facing < 0 ? (pileFacing[to] as number) : facing;
    const start = (s.start[to] as number) + (s.len[to] as number);
    // A pile that nobody sees into, and will not, is one event: only its size is known.
    let unseen = way === 0;
    for (let i = 0; i < count && unseen; i++) {
      const c = s.cards[base + i] as number;
      unseen = s.facing[c] === 0 && s.seen[c] === 0;
    }
    if (unseen) trace.add(MOVED, -1, from, to, 0, 0, count);
    for (let i = 0; i < count; i++) {
      const c = s.cards[base + i] as number;
      const before = unseen ? 0 : maskIn(s, c, from);
      s.cards[start + i] = c;
      s.where[c] = to;
      s.facing[c] = way;
      s.seen[c] = 0;
      const after = unseen ? 0 : maskIn(s, c, to);
      forget(s, c, from, before | after);
      if (unseen) continue;
      note(s, c, after);
      trace.add(MOVED, c, from, to, before, after, 0);
    }
    s.len[to] = need;
  };
  const turnCard = (s: State, c: number, facing: number): void => {
    const before = maskOf(s, c);
    s.facing[c] = facing;
    s.seen[c] = 0;
    const after = maskOf(s, c);
    note(s, c, after);
    if (after !== before) trace.add(TURNED, c, s.where[c] as number, indexOf(s, c), before, after, 0);
  };
  const turnPile = (s: State, p: number, facing: number): void => {
    const from = s.start[p] as number;
    const to = from + (s.len[p] as number);
    for (let i = from; i < to; i++) turnCard(s, s.cards[i] as number, facing);
  };
  const turn = (s: State, cards: readonly number[], facing: number, at: At): void => {
    for (const c of cards) turnCard(s, ok(c, at), facing);
  };
  const reveal = (s: State, cards: readonly number[], seat: number, at: At): void => {
    for (const c of cards) {
      ok(c, at);
      const before = maskOf(s, c);
      s.seen[c] = (s.seen[c] as number) | (1 << ok(seat, at));
      const after = maskOf(s, c);
      note(s, c, after);
      if (after !== before) trace.add(TURNED, c, s.where[c] as number, indexOf(s, c), before, after, 0);
    }
  };

  /** Lets all, or one seat, see cards for a moment: an event, the facing stays. */
  const show = (s: State, cards: readonly number[], seat: number, at: At): void => {
    const mask = seat < 0 ? ALL : 1 << seat;
    for (const c of cards) {
      ok(c, at);
      note(s, c, mask);
      trace.add(SHOWN, c, s.where[c] as number, indexOf(s, c), mask | maskOf(s, c), seat, 0);
    }
  };

  // ---- chance
  const shuffle = (s: State, p: number): void => {
    const count = s.f[CHANCES] as number;
    s.f[CHANCES] = count + 1;
    const from = s.start[p] as number;
    shufflePlaces(s.cards, from, s.len[p] as number, around.chance.stream('shuffle', count));
    if (tracking) for (const c of pileCards(s, p)) s.known[c] = maskOf(s, c) & SEATS;
    const root = around.commit?.(
      count,
      Array.from(s.cards.subarray(from, from + (s.len[p] as number)), (c) => faces[c] as Face),
    );
    trace.add(SHUFFLED, p, count, root === undefined ? -1 : trace.keep(root), 0, 0, 0);
  };
  const pick = (s: State, list: readonly number[], at: At): number => {
    if (list.length === 0) fault('There is nothing to pick from.', at);
    const count = s.f[CHANCES] as number;
    s.f[CHANCES] = count + 1;
    return list[below(around.chance.stream('pick', count), list.length)] as number;
  };

  // ---- lists
  const pileCards = (s: State, p: number): number[] => {
    const from = s.start[p] as number;
    return Array.from(s.cards.subarray(from, from + (s.len[p] as number)));
  };
  const pileItem = (s: State, p: number, i: number, at: At): number =>
    i >= 1 && i <= (s.len[p] as number)
      ? (s.cards[(s.start[p] as number) + i - 1] as number)
      : fault(`There is no card ${i} in ${pileName(p)}, which holds ${s.len[p]}.`, at);
  const top = (s: State, p: number): number => {
    const length = s.len[p] as number;
    return length === 0 ? -1 : (s.cards[(s.start[p] as number) + length - 1] as number);
  };
  const tops = (s: State, list: readonly number[]): number[] =>
    list.filter((p) => s.len[p] !== 0).map((p) => top(s, p));
  /** From a card to the top of its pile. */
  const tail = (s: State, c: number): number[] => {
    const p = s.where[c] as number;
    return pileCards(s, p).slice(indexOf(s, c));
  };
  const cardsOf = (s: State, list: readonly number[]): number[] => list.flatMap((p) => pileCards(s, p));

  const finish = (s: State): true => {
    s.f[WAIT] = WAIT_OVER;
    return true;
  };

  return {
    ...table,
    ...speaking(shape, trace, maskOf),
    ...reckoning(shape, facts),
    rank,
    suit,
    color,
    pips,
    number,
    owner,
    faces,
    rankPlace,
    suitPlace,
    refills,
    settings: shape.settings,
    chk,
    div,
    mod,
    maskOf,
    sees,
    see,
    ownOnly,
    indexOf,
    fill,
    deal1,
    dealN,
    dealAll,
    dealRound,
    moveCards,
    moveAll,
    turn,
    turnPile,
    reveal,
    shuffle,
    pick,
    pileCards,
    pileItem,
    top,
    tops,
    tail,
    cardsOf,
    heldOpenly,
    seeAll,
    knows,
    show,
    handName,
    lowName,
    finish,
    fault,
  };
}
/** Whether a program asks anywhere what a seat has seen. */
const asksWhatWasSeen = (program: Program): boolean => JSON.stringify(program).includes('"f":"seen"');

export type Runtime = ReturnType<typeof runtimeOf>;
