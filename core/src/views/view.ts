import { HiddenRead } from '../machine/fault.js';
import {
  ABOUT,
  ANSWERED,
  ASK,
  ASKED,
  CHAPTERS,
  isRef,
  NUMBER,
  OPENED,
  PAUSE,
  WAIT,
  WAIT_ASK,
  WAIT_EVERY,
  WAIT_OVER,
  WAIT_PAUSE,
} from '../machine/layout.js';
import { OPEN } from '../machine/runtime/visibility.js';
import type { State } from '../machine/state.js';
import { type Piece, render } from '../machine/text.js';
import type { Type } from '../program/types.js';
import type { Game } from '../rules/game.js';
import { renderingFor } from '../rules/rendering.js';
import { type Value, writeValue } from '../rules/values.js';
import { type Offer, offersOf } from './offers.js';
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
      /** Seats that have answered already, where several are asked at once. */
      readonly answered: readonly number[];
      readonly together: boolean;
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
  readonly waiting: Waiting;
  /** What this viewer may choose now; empty for all who are not asked. */
  readonly offers: readonly Offer[];
  /** Whether this viewer may take back its last choice. */
  readonly undo: boolean;
  /** When the game is over: seats by their place, the winners first. */
  readonly result: { readonly winners: readonly number[] } | null;
}

/** Views of all piles, each at its place. */
function pilesView(game: Game, views: readonly PileView[]): PilesView {
  const top: Record<string, PileView | PilesView> = {};
  for (const [p, { steps }] of game.layout.piles.entries()) {
    let here = top;
    for (let i = 0; i < steps.length - 1; i++) {
      const step = steps[i] as string;
      here[step] ??= {};
      here = here[step] as Record<string, PileView | PilesView>;
    }
    here[steps.at(-1) as string] = views[p] as PileView;
  }
  return top;
}

function valuesView(game: Game, s: State, viewer: number, seat: number | null): Record<string, Value> {
  const found: Record<string, Value> = {};
  for (const [i, variable] of game.program.vars.entries()) {
    if (variable.label === null || (isRef(variable.t) && variable.t !== 'text')) continue;
    const ofSeat = variable.of.k === 'seat';
    if (ofSeat !== (seat !== null) || variable.of.k === 'pile') continue;
    if (variable.hidden && viewer !== OPEN && viewer !== seat) continue;
    const slot = (game.layout.varBase[i] ?? 0) + (seat ?? 0);
    if (variable.t === 'text') {
      found[variable.name] = render(s.refs[slot] as Piece[], renderingFor(game, viewer));
      continue;
    }
    const value = s.f[slot] as number;
    const shown = variable.t.startsWith('kind:')
      ? kindLabel(game, variable.t, value)
      : variable.t === 'seat'
        ? (game.layout.seats[value] ?? null)
        : writeValue(game, s, variable.t, value);
    found[variable.name] = shown;
  }
  return found;
}

type Figures = Pick<View, 'seats' | 'values'>;

function figuresView(game: Game, s: State, viewer: number): Figures {
  const seats = game.rt.seats.map((seat) => ({
    seat: seat + 1,
    name: game.layout.seats[seat] ?? '',
    score: s.f[game.layout.scoreBase + seat] as number,
    values: valuesView(game, s, viewer, seat),
  }));
  return { seats, values: valuesView(game, s, viewer, null) };
}

function kindLabel(game: Game, t: Type, v: number): string {
  const member = game.program.kinds.find((k) => `kind:${k.name}` === t)?.members[v];
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

function noteValue(game: Game, s: State, viewer: number, t: Type, raw: unknown): Value {
  if (t === 'text') return render(raw as Piece[], renderingFor(game, viewer));
  if (t.startsWith('kind:')) return kindLabel(game, t, raw as number);
  return typeof raw === 'boolean' ? raw : writeValue(game, s, t, raw as number);
}

function notesView(game: Game, s: State, viewer: number): View['notes'] {
  const notes: Record<string, { name: string; value: Value }[]> = {};
  const add = (path: string, name: string, value: Value): void => {
    notes[path] ??= [];
    notes[path].push({ name, value });
  };
  for (const [i, note] of game.program.notes.entries()) {
    const read = game.code.notes[i];
    const { t = 'int', params = [] } = game.program.defs[note.def] ?? {};
    if (!read) continue;
    if (note.beside === 'seat') {
      for (const seat of game.rt.seats) {
        const raw = asSeen(() => read(s, viewer, seat));
        if (raw !== undefined) add(`seat/${seat + 1}`, note.name, noteValue(game, s, viewer, t, raw));
      }
      continue;
    }
    for (const [p, pile] of game.layout.piles.entries()) {
      if (!note.beside.includes(pile.decl)) continue;
      // Nothing is said of no cards; what does not ask for cards is so wherever it is noted.
      if (s.len[p] === 0 && params.length > 0) continue;
      const raw = asSeen(() => read(s, viewer, p));
      if (raw !== undefined) add(pile.path, note.name, noteValue(game, s, viewer, t, raw));
    }
  }
  return notes;
}

/** What the clock would play, in words. */
export function clockWords(game: Game, ask: number): { seconds: number; otherwise: string } | null {
  const clock = game.program.asks[ask]?.clock;
  if (!clock) return null;
  const { otherwise } = clock;
  return {
    seconds: clock.seconds,
    otherwise: 'bot' in otherwise ? `bot ${game.program.bots[otherwise.bot]?.name}` : otherwise.join(' or '),
  };
}

/** What the table waits for, the same for every viewer. */
export function waitingIn(game: Game, s: State): Waiting {
  const { f } = s;
  const wait = f[WAIT];
  const ask = f[OPENED] as number;
  if (wait === WAIT_OVER) return { kind: 'over' };
  if (wait === WAIT_PAUSE) return { kind: 'pause', ask, seconds: f[PAUSE] as number };
  const together = wait === WAIT_EVERY;
  const about =
    wait === WAIT_ASK && (f[ABOUT] as number) >= 0 ? (game.layout.piles[f[ABOUT] as number]?.path ?? null) : null;
  const answered = together
    ? game.rt.seats.filter((seat) => ((f[ASKED] as number) & (f[ANSWERED] as number) & (1 << seat)) !== 0)
    : [];
  return {
    kind: 'ask',
    ask,
    seats: game.asked(s).map((seat) => seat + 1),
    answered: answered.map((seat) => seat + 1),
    together,
    about,
    clock: clockWords(game, f[ASK] as number),
  };
}

/** The seats with the best score, counted from 1; none where nobody ever scored. */
function winnersOf(game: Game, s: State): number[] {
  const scores = game.rt.seats.map((seat) => s.f[game.layout.scoreBase + seat] as number);
  if (scores.every((score) => score === 0)) return [];
  const best = game.program.winsLeast ? Math.min(...scores) : Math.max(...scores);
  return scores.flatMap((score, seat) => (score === best ? [seat + 1] : []));
}

/**
 * A state that several viewers look at, one after the other: what is the same for some of them is made once, or at
 * least is the very same object. It holds as long as the state stays as it is.
 */
export class Snapshot {
  private readonly common: Pick<View, 'number' | 'chapter' | 'waiting' | 'result'>;
  /** Figures that are the same for all, once one was told them. */
  private figures: Figures | undefined;
  private readonly own: Pick<View, 'seats' | 'values' | 'notes' | 'offers'>[] = [];
  private readonly piles: { readonly views: readonly PileView[]; readonly placed: PilesView }[] = [];

  constructor(
    private readonly game: Game,
    private readonly s: State,
  ) {
    this.common = {
      number: s.f[NUMBER] as number,
      ...game.told.again({
        chapter: { count: s.f[CHAPTERS] as number, title: game.rt.chapterTitle(s) },
        waiting: waitingIn(game, s),
      }),
      result: s.f[WAIT] === WAIT_OVER ? { winners: winnersOf(game, s) } : null,
    };
  }

  /**
   * The state as a viewer sees it: a seat's number (from 0), {@link WATCHER} or {@link OPEN}.
   * @param offered what the seat may choose, where it was found already
   * @param undo whether the seat may take back its last choice
   */
  view(viewer: number, offered?: readonly Offer[], undo = false): View {
    const { game, s } = this;
    game.code.begin();
    const { seats, values } = this.figures ?? figuresView(game, s, viewer);
    const own = game.told.againFor(
      viewer,
      {
        seats,
        values,
        notes: notesView(game, s, viewer),
        offers: offered ?? (viewer >= 0 && game.asked(s).includes(viewer) ? offersOf(game, s, viewer) : []),
      },
      this.own,
    );
    this.own.push(own);
    if (game.areFiguresCommon) this.figures = own;
    const { number, chapter, waiting, result } = this.common;
    return {
      number,
      viewer: viewer === OPEN ? 'open' : viewer < 0 ? 'watch' : viewer + 1,
      chapter,
      seats: own.seats,
      values: own.values,
      piles: this.pilesFor(viewer),
      notes: own.notes,
      waiting,
      offers: own.offers,
      undo,
      result,
    };
  }

  /** All piles as a viewer sees them: the very same object for all to whom each looks the same. */
  private pilesFor(viewer: number): PilesView {
    const { game, s } = this;
    const views = game.layout.piles.map((_, p) => game.piles.viewed(s, p, viewer));
    const known = this.piles.find((other) => views.every((view, p) => view === other.views[p]));
    if (known) return known.placed;
    const placed = pilesView(game, views);
    this.piles.push({ views, placed });
    return placed;
  }
}
