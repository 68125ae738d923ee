import { colorOf, type Face, numberOf, rankOf, suitOf } from '../../cards/face.js';
import { below, type Chance, shufflePlaces } from '../../chance/generator.js';
import { handName, lowName } from '../../hands/naming.js';
import type { CardFacts } from '../../patterns/shapes.js';
import { type At, FACINGS } from '../../program/types.js';
import { fault } from '../fault.js';
import { CHANCES, PICKS, SHUFFLES, type StateLayout, WAIT, WAIT_OVER } from '../layout.js';
import { rowOffsets, type State, type StateForm } from '../state.js';
import { ALL, MOVED, placesOf, SHOWN, SHUFFLED, type Trace, TURNED } from '../trace.js';
import { contents } from './contents.js';
import { twins } from './drawing.js';
import { listFunctions } from './lists.js';
import { messages } from './messages.js';
import { seating } from './seating.js';
import { shapeSets } from './sets.js';
import { stacking } from './stacking.js';
import { visibility } from './visibility.js';
import { wayFunctions } from './ways.js';

/** Whether the sheet asks what seats have seen, and whether it is kept. */
export interface Memory {
  readonly asked: boolean;
  readonly kept: boolean;
}

/** A pile that was shuffled. */
export interface Shuffled {
  /** How much chance the table had used before. */
  readonly count: number;
  /** Which shuffle of the table it is, from 1. */
  readonly shuffle: number;
  readonly pile: string;
  /** Its cards by their numbers, bottom first; they are the table's, and go on changing. */
  readonly cards: Uint16Array;
}

/** What a table is given: chance, promised cards, commitments to shuffles. */
export interface Surroundings {
  readonly chance: Chance;
  /** Faces promised to piles, by pile number, first to come first. */
  readonly promised: ReadonlyMap<number, readonly Face[]>;
  /** Whether promises leave everything else as likely as it is without them. */
  readonly evenly?: boolean | undefined;
  /** Called after each shuffle of a live table; gives the commitment to its order. */
  readonly commit?: ((shuffled: Shuffled) => string) | undefined;
}

/**
 * What generated code calls. One runtime serves one table's code; it holds no state of the table:
 * every function works on the state that it is given.
 */
export function runtimeOf(
  layout: StateLayout,
  form: StateForm,
  trace: Trace,
  around: Surroundings,
  promisedBase: number,
  memory: Memory,
) {
  const { faces, piles, program } = layout;
  const table = seating(layout);
  const { ok, pileName } = table;
  const rank = Int8Array.from(faces, rankOf);
  const suit = Int8Array.from(faces, suitOf);
  const color = Int8Array.from(faces, colorOf);
  const pips = Int8Array.from(faces, (face) => Math.max(0, rankOf(face)));
  const number = Int16Array.from(faces, numberOf);
  const pileFacing = Uint8Array.from(piles, (p) => FACINGS.indexOf(program.piles[p.decl]?.facing ?? 'down'));
  /** How ranks compare: place in the game's order, by rank. */
  const rankPlace = new Int8Array(14).fill(-1);
  for (const [i, r] of program.rankOrder.entries()) rankPlace[r] = i;
  const suitPlace = new Int8Array(4);
  for (const [i, s] of program.suitOrder.entries()) suitPlace[s] = i;
  const facts: CardFacts = {
    place: Int16Array.from(faces, (_, c) =>
      (rank[c] as number) > 0 ? (rankPlace[rank[c] as number] as number) : (number[c] as number),
    ),
    rank: Int16Array.from(faces, (_, c) => Math.max(rank[c] as number, number[c] as number)),
    suit,
  };
  const { where: WHERE, seen: SEEN, facing: FACING, cards: CARDS } = rowOffsets(form);
  const refills: (((s: State) => unknown) | undefined)[] = [];
  const held = contents(pileName);
  const { pileCards, indexOf } = held;
  const eyes = visibility(layout, held, memory.asked, memory.kept);
  const { maskOf, maskIn, note, forget } = eyes;
  /** Whether visibility changes are recorded: for events, or for seat memory. */
  const noting = memory.kept || !trace.quiet;
  const remembering = layout.program.vars.flatMap(({ t, of }, i) =>
    of.k === 'card' || of.k === 'pair'
      ? [null]
      : t === 'card' || t === 'list:card'
        ? [{ t, from: layout.varBase[i] as number, to: (layout.varBase[i] as number) + (layout.varCount[i] as number) }]
        : [],
  );
  /** Whether a variable holds a card, or one is kept for it. */
  const isRemembered = (s: State, c: number): boolean =>
    remembering.some((variable) => {
      if (variable === null) return true;
      const { t, from, to } = variable;
      if (t === 'card') return s.f.subarray(from, to).includes(c);
      return s.refs.slice(from, to).some((list) => (list as readonly number[] | null)?.includes(c));
    });
  const mayExchange = (s: State, c: number): boolean =>
    memory.kept && s.known[c] === 0 && maskOf(s, c) === 0 && !isRemembered(s, c);
  const { arrange, isDue } = stacking(
    faces,
    around.promised,
    promisedBase,
    around.evenly === true,
    pileName,
    mayExchange,
  );

  // ---- numbers
  const chk = (x: number, at: At): number =>
    x <= 9007199254740991 && x >= -9007199254740991
      ? x
      : fault('This number is too large: whole numbers are exact up to 9,007,199,254,740,991.', at);
  const div = (a: number, b: number, at: At): number =>
    b === 0 ? fault('This divides by zero.', at) : Math.floor(a / b);
  const mod = (a: number, b: number, at: At): number =>
    b === 0 ? fault('This divides by zero.', at) : a - b * Math.floor(a / b);

  // ---- cards from place to place
  /** @param left the place that the card left, from 1 */
  const put = (s: State, c: number, to: number, facing: number, beneath: boolean, left: number): void => {
    const from = s.where[c] as number;
    const before = noting ? maskOf(s, c) : 0;
    const length = s.len[to] as number;
    if (length === (s.cap[to] as number)) s.grow(to, length + 1);
    const at = s.start[to] as number;
    if (beneath) {
      s.cards.copyWithin(at + 1, at, at + length);
      s.cards[at] = c;
    } else s.cards[at + length] = c;
    s.len[to] = length + 1;
    s.touch(to);
    s.where[c] = to;
    s.facing[c] = facing < 0 ? (pileFacing[to] as number) : facing;
    s.seen[c] = 0;
    if (!noting) return;
    const after = maskOf(s, c);
    forget(s, c, from, before | after);
    note(s, c, after);
    trace.add(MOVED, c, from, to, before, after, placesOf(left, beneath ? 1 : length + 1));
  };
  /** Takes a card out of its pile; gives the place where it lay, from 1. */
  const lift = (s: State, c: number): number => {
    const { row } = s;
    const p = row[WHERE + c] as number;
    const last = (s.len[p] as number) - 1;
    // From the top down, each card above it moves a place down: mostly it is few.
    let held = c;
    const first = CARDS + (s.start[p] as number);
    let at = first + last;
    for (; at >= first; at--) {
      const here = row[at] as number;
      row[at] = held;
      if (here === c) break;
      held = here;
    }
    s.len[p] = last;
    s.touch(p);
    return at - first + 1;
  };
  const fill = (s: State, p: number): void => {
    if (s.len[p] === 0) refills[p]?.(s);
  };

  /** Refills a pile that is empty, and gives how many cards it holds then. */
  const filled = (s: State, p: number, at: At): number => {
    fill(s, p);
    const length = s.len[p] as number;
    return length === 0 ? fault(`This deals from ${pileName(p)}, and ${pileName(p)} is empty.`, at) : length;
  };
  /** Notes that a card was dealt. @param before who saw it where it lay */
  const moved = (s: State, c: number, from: number, to: number, before: number): void => {
    const after = maskIn(s, c, to);
    forget(s, c, from, before | after);
    note(s, c, after);
    const { len } = s;
    trace.add(MOVED, c, from, to, before, after, placesOf((len[from] as number) + 1, len[to] as number));
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
      put(s, c, to, facing, beneath, lift(s, c));
    }
  };
  /** Moves one card. */
  const moveCard = (s: State, c: number, to: number, beneath: boolean, facing: number, at: At): void => {
    put(s, c, to, facing, beneath, lift(s, ok(c, at)));
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
    // Seat memory changes with each card that leaves a hand.
    if ((reversed || beneath) && memory.kept) {
      moveCards(s, pileCards(s, from), to, reversed, beneath, facing, at);
      return;
    }
    const there = s.len[to] as number;
    if (there + count > (s.cap[to] as number)) s.grow(to, there + count);
    s.len[from] = 0;
    s.len[to] = there + count;
    s.touch(from, to);
    const { row } = s;
    const way = facing < 0 ? (pileFacing[to] as number) : facing;
    const base = CARDS + (s.start[from] as number);
    const start = CARDS + (s.start[to] as number);
    if (beneath) row.copyWithin(start + count, start, start + there);
    // A pile that nobody sees before or after is one event with a count.
    let unseen = noting && way === 0 && !reversed && !beneath;
    for (let i = 0; i < count && unseen; i++) {
      const c = row[base + i] as number;
      unseen = row[FACING + c] === 0 && row[SEEN + c] === 0;
    }
    if (unseen) trace.add(MOVED, -1, from, to, 0, 0, count);
    // One by one, from the bottom or from the top, onto the pile or under it.
    const fromTop = reversed !== beneath;
    for (let i = 0; i < count; i++) {
      const c = row[fromTop ? base + count - 1 - i : base + i] as number;
      const before = noting && !unseen ? maskIn(s, c, from) : 0;
      row[beneath ? start + count - 1 - i : start + there + i] = c;
      row[WHERE + c] = to;
      row[FACING + c] = way;
      row[SEEN + c] = 0;
      if (!noting) continue;
      const after = unseen ? 0 : maskIn(s, c, to);
      forget(s, c, from, before | after);
      if (unseen) continue;
      note(s, c, after);
      const places = placesOf(fromTop ? count - i : 1, beneath ? 1 : there + i + 1);
      trace.add(MOVED, c, from, to, before, after, places);
    }
  };
  const turnCard = (s: State, c: number, facing: number): void => {
    const before = noting ? maskOf(s, c) : 0;
    s.facing[c] = facing;
    s.seen[c] = 0;
    s.touch(s.where[c] as number);
    if (!noting) return;
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
      s.touch(s.where[c] as number);
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
  const lies = new Uint8Array(faces.length);
  /** All cards by their faces, equal ones by their numbers. */
  const byFace = Uint16Array.from(faces.keys()).sort((a, b) => (faces[a] as Face) - (faces[b] as Face) || a - b);
  /** Lays a stretch of cards in the order of their faces, so that what lay where before makes no difference. */
  const inFaceOrder = (cards: Uint16Array, from: number, count: number): void => {
    for (let i = from; i < from + count; i++) lies[cards[i] as number] = 1;
    let to = from;
    for (const c of byFace) {
      if (lies[c] === 0) continue;
      lies[c] = 0;
      cards[to++] = c;
    }
  };
  const shuffle = (s: State, p: number): void => {
    const count = s.f[CHANCES] as number;
    s.f[CHANCES] = count + 1;
    const shuffles = (s.f[SHUFFLES] as number) + 1;
    s.f[SHUFFLES] = shuffles;
    const from = s.start[p] as number;
    const size = s.len[p] as number;
    const path = piles[p]?.path ?? '';
    const { keyed } = around.chance;
    if (keyed) inFaceOrder(s.cards, from, size);
    const generator = keyed ? keyed.shuffle(path, shuffles, size) : around.chance.stream('shuffle', count);
    shufflePlaces(s.cards, from, size, generator);
    s.touch(p);
    eyes.shuffled(s, p);
    const root = around.commit?.({ count, shuffle: shuffles, pile: path, cards: s.cards.subarray(from, from + size) });
    trace.add(SHUFFLED, p, count, root === undefined ? -1 : trace.keep(root), 0, 0, 0);
  };
  const pick = (s: State, list: readonly number[], at: At): number => {
    if (list.length === 0) fault('There is nothing to pick from.', at);
    const count = s.f[CHANCES] as number;
    s.f[CHANCES] = count + 1;
    const picks = (s.f[PICKS] as number) + 1;
    s.f[PICKS] = picks;
    const generator = around.chance.keyed?.pick(at, picks) ?? around.chance.stream('pick', count);
    return list[below(generator, list.length)] as number;
  };

  const finish = (s: State): true => {
    s.f[WAIT] = WAIT_OVER;
    return true;
  };

  return {
    ...table,
    ...held,
    ...eyes,
    ...messages(layout, trace, maskOf),
    ...listFunctions(layout, facts, rankPlace),
    ...shapeSets(program.shapes, facts),
    ...wayFunctions(program.shapes, facts),
    ...twins(layout),
    rank,
    suit,
    color,
    pips,
    number,
    faces,
    rankPlace,
    suitPlace,
    refills,
    settings: layout.settings,
    chk,
    div,
    mod,
    fill,
    filled,
    moved,
    arrange,
    isDue,
    pileFacing,
    moveCard,
    moveCards,
    moveAll,
    turn,
    turnPile,
    reveal,
    shuffle,
    pick,
    show,
    handName,
    lowName,
    finish,
    fault,
  };
}
export type Runtime = ReturnType<typeof runtimeOf>;
