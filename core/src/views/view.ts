import { HiddenRead } from '../machine/fault.js';
import {
  ABOUT,
  ANSWERED,
  ASK,
  ASKED,
  OPENED,
  PAUSE,
  WAIT,
  WAIT_ANY,
  WAIT_ASK,
  WAIT_EVERY,
  WAIT_OVER,
  WAIT_PAUSE,
} from '../machine/layout.js';
import { OPEN } from '../machine/runtime/visibility.js';
import type { State } from '../machine/state.js';
import { type Piece, render } from '../machine/text.js';
import type { Type } from '../program/types.js';
import { toldTo } from '../rules/handles.js';
import { keptValues, keysOf } from '../rules/kept-for.js';
import { renderingFor } from '../rules/rendering.js';
import type { Rules } from '../rules/rules.js';
import { type Value, writeValue } from '../rules/values.js';
import { isDrawn } from './figures.js';
import type { Offer } from './offers.js';
import type { PileView } from './pile-views.js';

/** Piles by name; families by seat and number below it, counted from 1. */
export type PilesView = { readonly [name: string]: PileView | PilesView };

export interface SeatView {
  readonly seat: number;
  readonly name: string;
  readonly score: number;
  /** Labelled variables of the seat that the viewer may see, by name. */
  readonly values: Readonly<Record<string, Value>>;
}

/** What the table waits for. */
export type Waiting =
  | {
      readonly kind: 'ask';
      /** The number at which the ask opened: a choice carries it. */
      readonly ask: number;
      readonly seats: readonly number[];
      /** Seats that have answered already, where several are asked at once; in a race those that stepped aside. */
      readonly answered: readonly number[];
      /** Whether all answers of several seats are carried out together. */
      readonly together: boolean;
      /** `one` seat is asked; `every` one of several; or `any`, where the first answer counts. */
      readonly how: 'one' | 'every' | 'any';
      readonly about: string | null;
      readonly clock: { readonly seconds: number; readonly otherwise: string } | null;
    }
  | { readonly kind: 'pause'; readonly ask: number; readonly seconds: number }
  | { readonly kind: 'over' };

/** A state as one viewer sees it. Built from an allow-list: nothing gets in by itself. */
export interface View {
  readonly number: number;
  /** A seat (counted from 1), `watch`, or `open`. */
  readonly viewer: number | 'watch' | 'open';
  readonly chapter: { readonly count: number; readonly title: string };
  readonly seats: readonly SeatView[];
  readonly values: Readonly<Record<string, Value>>;
  readonly piles: PilesView;
  /** Figures beside piles and seats, by path (`hand/1`, `house`, `seat/2`). */
  readonly notes: Readonly<Record<string, readonly { readonly name: string; readonly value: Value }[]>>;
  /** Piles that are drawn in an order of the sheet's own, by path: positions (from 1) of their cards, those not seen last. */
  readonly orders?: Readonly<Record<string, readonly number[]>>;
  readonly waiting: Waiting;
  /** What this viewer may choose now; empty for all who are not asked. */
  readonly offers: readonly Offer[];
  /** Whether this viewer may take back its last choice. */
  readonly undo: boolean;
  /** When the game is over: seats by their place, the winners first. */
  readonly result: { readonly winners: readonly number[] } | null;
}

/** All piles, each at its place. */
export function pilesView(rules: Rules, views: readonly PileView[]): PilesView {
  const top: Record<string, PileView | PilesView> = {};
  for (const [p, { steps }] of rules.layout.piles.entries()) {
    let here = top;
    for (let i = 0; i < steps.length - 1; i++) {
      const step = steps[i] as string;
      if (!Object.hasOwn(here, step)) here[step] = {};
      here = here[step] as Record<string, PileView | PilesView>;
    }
    here[steps.at(-1) as string] = views[p] as PileView;
  }
  return top;
}

/** What is drawn of a variable, beside a seat, a pile or the table: by its name, with whose value it is where there are several. */
function drawnOf(rules: Rules, s: State, viewer: number, i: number, beside: number | null): [string, Value][] {
  const { name, t = 'int' } = rules.program.vars[i] ?? {};
  return keptValues(rules.layout, i, beside).map(({ owners, slot }) => {
    const words = (beside === null ? owners : owners.slice(1)).map((owner) => owner.words).join(', ');
    return [words === '' ? `${name}` : `${name}[${words}]`, drawnValue(rules, s, viewer, t, slot)];
  });
}

function drawnValue(rules: Rules, s: State, viewer: number, t: Type, slot: number): Value {
  if (t === 'text') return render(s.refs[slot] as Piece[], renderingFor(rules, viewer));
  const value = s.f[slot] as number;
  if (t.startsWith('kind:')) return value < 0 ? null : kindLabel(rules, t, value);
  return t === 'seat' ? (rules.layout.seats[value] ?? null) : writeValue(rules, toldTo(rules, s, viewer), t, value);
}

function valuesView(rules: Rules, s: State, viewer: number, seat: number | null): Record<string, Value> {
  return Object.fromEntries(
    rules.program.vars.flatMap((variable, i) => {
      if (!isDrawn(variable, seat === null ? 'table' : 'seat')) return [];
      if (variable.hidden && viewer !== OPEN && viewer !== seat) return [];
      return drawnOf(rules, s, viewer, i, seat);
    }),
  );
}

export type Figures = Pick<View, 'seats' | 'values'>;

export function figuresView(rules: Rules, s: State, viewer: number): Figures {
  const seats = rules.rt.seats.map((seat) => ({
    seat: seat + 1,
    name: rules.layout.seats[seat] ?? '',
    score: s.f[rules.layout.scoreBase + seat] as number,
    values: valuesView(rules, s, viewer, seat),
  }));
  return { seats, values: valuesView(rules, s, viewer, null) };
}

function kindLabel(rules: Rules, t: Type, v: number): string {
  const member = rules.program.kinds.find((k) => `kind:${k.name}` === t)?.members[v];
  return member?.label ?? member?.name ?? '';
}

/** Evaluates something as a viewer; what it may not see is left out. */
function asSeen<T>(read: () => T): T | undefined {
  try {
    return read();
  } catch (error) {
    if (error instanceof HiddenRead) return undefined;
    throw error;
  }
}

function noteValue(rules: Rules, s: State, viewer: number, t: Type, raw: unknown): Value {
  if (t === 'text') return render(raw as Piece[], renderingFor(rules, viewer));
  if (t.startsWith('kind:')) return kindLabel(rules, t, raw as number);
  return typeof raw === 'boolean' ? raw : writeValue(rules, toldTo(rules, s, viewer), t, raw as number);
}

export function notesView(rules: Rules, s: State, viewer: number): View['notes'] {
  const notes: Record<string, { name: string; value: Value }[]> = {};
  const add = (path: string, name: string, value: Value): void => {
    if (!Object.hasOwn(notes, path)) notes[path] = [];
    notes[path]?.push({ name, value });
  };
  for (const [i, variable] of rules.program.vars.entries()) {
    if (!isDrawn(variable, 'pile')) continue;
    const [of] = keysOf(variable);
    const piles = rules.layout.piles.filter(({ decl }) => of?.k === 'pile' && decl === of.pile);
    for (const [beside, { path }] of piles.entries())
      for (const [name, value] of drawnOf(rules, s, viewer, i, beside)) add(path, name, value);
  }
  for (const [i, note] of rules.program.notes.entries()) {
    const read = rules.code.notes[i];
    const { t = 'int', params = [] } = rules.program.defs[note.def] ?? {};
    if (!read) continue;
    if (note.beside === 'seat') {
      for (const seat of rules.rt.seats) {
        const raw = asSeen(() => read(s, viewer, seat));
        if (raw !== undefined) add(`seat/${seat + 1}`, note.name, noteValue(rules, s, viewer, t, raw));
      }
      continue;
    }
    for (const [p, pile] of rules.layout.piles.entries()) {
      if (!note.beside.includes(pile.decl)) continue;
      // A note about cards is left out where there are none; one that takes no cards is shown everywhere.
      if (s.len[p] === 0 && params.length > 0) continue;
      const raw = asSeen(() => read(s, viewer, p));
      if (raw !== undefined) add(pile.path, note.name, noteValue(rules, s, viewer, t, raw));
    }
  }
  return notes;
}

/** Piles in the sheet's own order, as a viewer sees them: cards that it does not see stay as they lie, behind the others. */
export function ordersView(rules: Rules, s: State, viewer: number): NonNullable<View['orders']> {
  const orders: Record<string, readonly number[]> = {};
  for (const [p, { decl, path }] of rules.layout.piles.entries()) {
    const sorted = rules.code.orders[decl];
    if (!sorted) continue;
    const [from, size] = [s.start[p] as number, s.len[p] as number];
    const places = Array.from({ length: size }, (_, i) => i);
    const cardAt = (i: number): number => s.cards[from + i] as number;
    const isSeen = (i: number): boolean => rules.rt.sees(s, cardAt(i), viewer);
    const seen = places.filter(isSeen);
    const placeOf = new Map(seen.map((i) => [cardAt(i), i]));
    const cards = seen.length > 1 ? asSeen(() => sorted(s, viewer, seen.map(cardAt))) : undefined;
    const inOrder = cards?.map((card) => placeOf.get(card) as number) ?? seen;
    orders[path] = [...inOrder, ...places.filter((i) => !isSeen(i))].map((i) => i + 1);
  }
  return orders;
}

/** What the clock would play, in words. */
export function clockWords(rules: Rules, ask: number): { seconds: number; otherwise: string } | null {
  const clock = rules.program.asks[ask]?.clock;
  if (!clock) return null;
  const { otherwise } = clock;
  return {
    seconds: clock.seconds,
    otherwise:
      otherwise === 'stuck'
        ? 'stuck'
        : 'bot' in otherwise
          ? `bot ${rules.program.bots[otherwise.bot]?.name}`
          : otherwise.join(' or '),
  };
}

/** What the table waits for, the same for every viewer. */
export function waitingIn(rules: Rules, s: State): Waiting {
  const { f } = s;
  const wait = f[WAIT];
  const ask = f[OPENED] as number;
  if (wait === WAIT_OVER) return { kind: 'over' };
  if (wait === WAIT_PAUSE) return { kind: 'pause', ask, seconds: f[PAUSE] as number };
  const together = wait === WAIT_EVERY;
  const about =
    wait !== WAIT_EVERY && (f[ABOUT] as number) >= 0 ? (rules.layout.piles[f[ABOUT] as number]?.path ?? null) : null;
  const answered =
    wait !== WAIT_ASK
      ? rules.rt.seats.filter((seat) => ((f[ASKED] as number) & (f[ANSWERED] as number) & (1 << seat)) !== 0)
      : [];
  return {
    kind: 'ask',
    ask,
    seats: rules.asked(s).map((seat) => seat + 1),
    answered: answered.map((seat) => seat + 1),
    together,
    how: together ? 'every' : wait === WAIT_ANY ? 'any' : 'one',
    about,
    clock: clockWords(rules, f[ASK] as number),
  };
}

/** The seats with the best score, counted from 1; none where nobody ever scored. */
export function winnersOf(rules: Rules, s: State): number[] {
  const scores = rules.rt.seats.map((seat) => s.f[rules.layout.scoreBase + seat] as number);
  if (scores.every((score) => score === 0)) return [];
  const best = rules.program.winsLeast ? Math.min(...scores) : Math.max(...scores);
  return scores.flatMap((score, seat) => (score === best ? [seat + 1] : []));
}
