import { CHANCES, NUMBER, OPENED } from '../machine/layout.js';
import type { State } from '../machine/state.js';
import { CHAPTER, MOVED, placesOf, SAID, SHOWN, TOLD, TURNED, WIDTH } from '../machine/trace.js';
import { tellingPlaces } from '../program/secrets.js';
import type { At, Program } from '../program/types.js';
import type { Game } from '../rules/game.js';

const found = new WeakMap<Program, ReadonlySet<At>>();

/** Where a program says what hangs on hidden cards. */
function tellingIn(program: Program): ReadonlySet<At> {
  let places = found.get(program);
  if (!places) {
    places = tellingPlaces(program);
    found.set(program, places);
  }
  return places;
}

/** A choice that its seat may still take back: the state before it, and what may be taken back after it. */
export interface Undoable {
  readonly seat: number;
  readonly state: State;
  readonly under: Undoable | null;
  /** Whether what was said then hangs on hidden cards: only records of earlier releases take that back. */
  readonly told: boolean;
  /** How many there are, this one included. */
  readonly depth: number;
}

/** How many choices may be taken back one after the other, at least. */
const MOST_BACK = 200;

/** A choice that may be taken back, before others. Far back the chain ends: each holds a state. */
export function undoableBefore(seat: number, state: State, under: Undoable | null, told: boolean): Undoable {
  const depth = (under?.depth ?? 0) + 1;
  return depth <= 2 * MOST_BACK
    ? { seat, state, under, told, depth }
    : { seat, state, told, ...nearest(under, MOST_BACK) };
}

/** So many of a chain, the last choices first. */
function nearest(chain: Undoable | null, most: number): Pick<Undoable, 'under' | 'depth'> {
  const kept: Undoable[] = [];
  for (let link = chain; link && kept.length < most; link = link.under) kept.push(link);
  let under = null as Undoable | null;
  for (const { seat, state, told } of kept.reverse())
    under = { seat, state, under, told, depth: (under?.depth ?? 0) + 1 };
  return { under, depth: kept.length + 1 };
}

/** The same with states of its own. */
export const copied = (undoable: Undoable | null): Undoable | null =>
  undoable && { ...undoable, state: undoable.state.copy(), under: copied(undoable.under) };

/**
 * Whether the last step revealed nothing: no viewer saw a new card, no private message was sent, and no chance was
 * used.
 */
export function isClear(game: Game, before: State, after: State): boolean {
  if (before.f[CHANCES] !== after.f[CHANCES]) return false;
  const rows = game.trace.numbers();
  for (let at = 0; at < rows.length; at += WIDTH) {
    const [kind, card = 0, , , was = 0, is = 0] = rows.slice(at, at + WIDTH);
    if (kind === SHOWN || kind === TOLD) return false;
    if ((kind === MOVED || kind === TURNED) && card >= 0 && (is & ~was) !== 0) return false;
  }
  return true;
}

/** Whether something was said in the last step that hangs on hidden cards. */
export function hasTold({ program, trace }: Game): boolean {
  const places = tellingIn(program);
  if (places.size === 0) return false;
  const rows = trace.numbers();
  for (let at = 0; at < rows.length; at += WIDTH) {
    const place = rows[at] === SAID ? rows[at + 3] : rows[at] === CHAPTER ? rows[at + 2] : undefined;
    if (place !== undefined && places.has(place as At)) return true;
  }
  return false;
}

/**
 * The state before a choice, as a new state: the number continues, the ask opens again, and the moves back
 * are recorded as events.
 */
export function wentBack(game: Game, current: State, undoable: Undoable): State {
  const { rt, trace } = game;
  const next = game.copy(undoable.state);
  next.f[NUMBER] = (current.f[NUMBER] as number) + 1;
  next.f[OPENED] = next.f[NUMBER] as number;
  game.code.begin();
  trace.clear();
  rt.act(undoable.seat, 0, 0);
  for (let p = 0; p < game.layout.piles.length; p++)
    for (const [i, c] of rt.pileCards(next, p).entries()) {
      const from = current.where[c] as number;
      const was = rt.maskOf(current, c);
      const is = rt.maskOf(next, c);
      if (from !== p)
        trace.add(MOVED, c, from, p, was, is, placesOf(rt.pileCards(current, from).indexOf(c) + 1, i + 1));
      else if (was !== is) trace.add(TURNED, c, p, i, was, is, 0);
    }
  return next;
}
