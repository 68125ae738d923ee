import type { Face } from '../cards/face.js';
import { below, type Chance } from '../chance/generator.js';
import type { Answer, Arg, Code, Counting } from '../machine/code.js';
import { type Assembled, assemble } from '../machine/codegen/assemble.js';
import type { Mode } from '../machine/codegen/module.js';
import { isPriced } from '../machine/codegen/priced.js';
import { Fault, TooDear } from '../machine/fault.js';
import {
  ANSWERED,
  ASK,
  ASKED,
  ASKED_SEAT,
  layoutOf,
  type StateLayout,
  WAIT,
  WAIT_ANY,
  WAIT_ASK,
  WAIT_EVERY,
  WAIT_OVER,
  WAIT_PAUSE,
} from '../machine/layout.js';
import { dealing } from '../machine/runtime/dealing.js';
import { Dice, drawingAmong, skip } from '../machine/runtime/drawing.js';
import { LONGEST_LIST } from '../machine/runtime/lists.js';
import { lastMemo, pileMemo } from '../machine/runtime/memo.js';
import { type Runtime, runtimeOf, type Surroundings } from '../machine/runtime/runtime.js';
import { ANY_PILE, ON_TOP } from '../machine/runtime/stacking.js';
import { type Setup, SetupError } from '../machine/setup.js';
import { changes, firstState, State, type StateForm } from '../machine/state.js';
import { plural, render, utf8Length } from '../machine/text.js';
import { Trace } from '../machine/trace.js';
import type { PointKind } from '../program/points.js';
import type { At, Program } from '../program/types.js';
import { canChoose } from './legal.js';
import type { Rules } from './rules.js';

/** Everything that a table is opened with. */
export interface Opening extends Setup {
  readonly chance: Chance;
  /** Cards promised to piles: faces by pile path (`hand/1`, `house`; `top` for whatever is dealt next), the first to come first. */
  readonly promised?: Readonly<Record<string, readonly Face[]>>;
  /** Promises leave everything else as likely as it is without them, also where there are copies: for whoever counts. */
  readonly evenly?: boolean;
  /** Gives the commitment that a live table publishes after each shuffle. */
  readonly commit?: Surroundings['commit'];
  /** Keeps what seats have seen, even where the sheet never asks for it. */
  readonly tracking?: boolean;
  /** Whole piles that are moved keep promises too, as rehearsals want it. */
  readonly rehearsing?: boolean;
  /** Records no events, for simulation. States are the same as those of any other game. */
  readonly quiet?: boolean;
  /** Called for what the sheet counts; without it, nothing is counted. */
  readonly counting?: Counting | undefined;
  /** Called for each place of the sheet that is reached, as coverage wants to know. */
  readonly reached?: ((kind: PointKind, at: At) => void) | undefined;
}

/** Disables the memo of what a viewer reads: seat memory changes without touching pile stamps. */
const NEVER = Float64Array.of(Number.NaN);

/** The most states that wait to be used again. */
const MOST_POOLED = 8;

/** How many options may ask for each other, one inside the other. */
const DEEPEST_ASKS = 8;

const assembled = new WeakMap<Program, Map<string, Assembled>>();

function assembledFor(layout: StateLayout, mode: Mode): Assembled {
  const known = assembled.get(layout.program) ?? new Map<string, Assembled>();
  assembled.set(layout.program, known);
  const key = JSON.stringify([layout.settings, layout.seats.length, mode]);
  let found = known.get(key);
  if (!found) {
    found = assemble(layout, mode);
    known.set(key, found);
  }
  return found;
}

const forms = new WeakMap<Program, Map<string, StateForm>>();

/**
 * The form of a game's states: the same object for all games of a program with the same settings and seats. Games with
 * promised cards share theirs with their twins alone.
 */
function formFor(
  layout: StateLayout,
  { slots }: Assembled,
  promised: ReadonlyMap<number, readonly Face[]>,
  isKept: boolean,
): StateForm {
  const { program, seats, settings, piles, faces } = layout;
  const known = forms.get(program) ?? new Map<string, StateForm>();
  forms.set(program, known);
  const key = JSON.stringify([settings, seats.length, isKept]);
  const shared = promised.size === 0 ? known.get(key) : undefined;
  if (shared) return shared;
  const details = [
    ...program.settings.map(({ name }, i) => `${name} ${settings[i]}`),
    ...[...promised.keys()].map((p) => `cards for ${piles[p]?.path ?? ON_TOP}`),
    ...(isKept ? ['what seats have seen'] : []),
  ];
  const form: StateForm = {
    numbers: layout.numbers + slots.numbers + promised.size,
    refs: layout.refs + slots.refs,
    cards: faces.length,
    piles: piles.length,
    words: `"${program.name}" for ${plural(seats.length, 'seat')}${details.length > 0 ? ` with ${details.join(', ')}` : ''}`,
  };
  if (promised.size === 0) known.set(key, form);
  return form;
}

/**
 * One table's rules: the program, compiled for certain settings and seats. It holds no state of the table; states are
 * values that its functions take and return.
 */
export class Game implements Rules {
  readonly program: Program;
  readonly layout: StateLayout;
  readonly code: Code;
  readonly rt: Runtime;
  readonly trace: Trace;
  /** What its states are made of. */
  readonly form: StateForm;
  readonly parts: Assembled;
  /** Pile numbers with promised cards, in the order of their slots. */
  readonly promisedPiles: readonly number[];
  readonly promisedBase: number;
  /** Whether its chance goes by what it is for, as it is opened. */
  readonly isKeyed: boolean;
  private readonly reached: Opening['reached'];
  private readonly pool: State[] = [];

  /**
   * @param twinOf the game whose states it is to take, as {@link twin} gives it
   * @throws SetupError where settings, seats or promised cards do not fit the sheet
   */
  constructor(
    program: Program,
    private readonly opening: Opening,
    twinOf?: Game,
  ) {
    this.program = program;
    this.isKeyed = opening.chance.keyed !== undefined;
    this.layout = layoutOf(program, opening);
    const promised = promisedPiles(this.layout, opening.promised ?? {}, opening.rehearsing === true);
    this.parts = assembledFor(this.layout, {
      covering: opening.reached !== undefined,
      quiet: opening.quiet === true,
      tracking: opening.tracking === true,
      rehearsing: opening.rehearsing === true,
      counting: opening.counting !== undefined,
      promised: promised.size > 0,
    });
    this.trace = new Trace(
      opening.quiet,
      this.layout.piles.map(({ path, decl }) => utf8Length(path) + utf8Length(program.piles[decl]?.label ?? '')),
    );
    this.reached = opening.reached;
    this.promisedPiles = [...promised.keys()];
    this.promisedBase = this.layout.numbers + this.parts.slots.numbers;
    const isKept = this.parts.tracking || opening.tracking === true;
    this.form = twinOf?.form ?? formFor(this.layout, this.parts, promised, isKept);
    this.rt = runtimeOf(
      this.layout,
      this.form,
      this.trace,
      { chance: opening.chance, promised, evenly: opening.evenly, commit: opening.commit },
      this.promisedBase,
      { asked: this.parts.tracking, kept: isKept },
    );
    this.code = this.compiled();
    for (const [pile, refill] of this.code.refills) this.rt.refills[pile] = refill;
  }

  private compiled(): Code {
    const environment: Record<string, unknown> = {
      ...this.rt,
      dealing,
      dice: new Dice(),
      below,
      skip,
      drawingAmong,
      hit: this.reached,
      count: this.opening.counting,
      TEXTS: this.parts.texts,
      WORDS: this.parts.wordLists,
      pileMemo: () => pileMemo(this.layout.piles.length),
      viewerPileMemo: () =>
        pileMemo(this.parts.tracking ? 0 : this.layout.piles.length * (this.layout.seats.length + 2)),
      lastMemo,
      CHANGES: this.parts.tracking ? NEVER : changes,
      NO_EYES: 'Only an option or a bot has the eyes of a seat: "can" and "seen" stand there.',
      EMPTY_MIN: 'An empty list has no least value.',
      EMPTY_MAX: 'An empty list has no greatest value.',
      tooDear: (at: number, most: number) => {
        const words = `This took more than ${most.toLocaleString('en')} operations without waiting for anybody.`;
        throw new TooDear(`${words} What stands here runs on, or does too much at once.`, at);
      },
      isTooDear: (error: unknown) => error instanceof TooDear,
      tooMany: (at: number) => {
        throw new Fault(`A list has at most ${LONGEST_LIST} items.`, at);
      },
      can: (s: State, seat: number, option: string, args: readonly (Arg | null)[], at: number) =>
        this.asking(at, () => canChoose(this, s, seat, option, args)),
      noChoice: (_: State, seat: number, at: number) => {
        const who =
          seat < 0
            ? 'Several seats are asked, and none of them has a legal choice.'
            : `${this.layout.seats[seat]} is asked, and has no legal choice.`;
        throw new Fault(`${who} Add an option that is always allowed, or a "stuck" part.`, at);
      },
    };
    // What grows with its data is paid for: the table's code wraps it under its own name.
    const names = Object.keys(environment);
    const given = names.map((name) => (isPriced(name) ? `$${name}` : name));
    const make = new Function(...given, this.parts.source) as (...values: unknown[]) => Code;
    return make(...names.map((name) => environment[name]));
  }

  private asksInside = 0;
  /** Options may ask for each other with `can`, but not in a circle. */
  private asking(at: At, ask: () => boolean): boolean {
    if (this.asksInside >= DEEPEST_ASKS)
      throw new Fault('"can" asks in a circle here: each of these options waits for the other to be legal.', at);
    this.asksInside++;
    try {
      return ask();
    } finally {
      this.asksInside--;
    }
  }

  /**
   * A game whose states are those of this one, and which notes nothing of what happens: for simulating what may
   * come of a state. Hand a state over with {@link copy}.
   * @param chance where its shuffles come from
   */
  twin(chance: Chance): Game {
    const { seats, settings, promised, evenly, tracking } = this.opening;
    const same = {
      seats,
      ...(settings ? { settings } : {}),
      ...(promised ? { promised, ...(evenly ? { evenly } : {}) } : {}),
      ...(tracking ? { tracking } : {}),
    };
    return new Game(this.program, { ...same, chance, quiet: true }, this);
  }

  /** A state to write into: from the pool, or new. */
  private blank(): State {
    return this.pool.pop() ?? new State(this.form);
  }
  /**
   * A copy in a pooled state, of a state of this game or of a twin.
   * @throws StateFormError where its states are made otherwise
   */
  copy(state: State): State {
    return this.blank().copyFrom(state);
  }
  /** Gives a state back for reuse; nobody may look at it any more. */
  recycle(state: State): void {
    if (this.pool.length < MOST_POOLED) this.pool.push(state);
  }

  /**
   * The state of number 0: the script's first run to a wait.
   * @throws SetupError where the sheet's own needs refuse the settings
   * @throws Fault where the script fails before it waits
   */
  open(): State {
    const state = firstState(this.layout, this.blank());
    this.code.begin();
    this.trace.clear();
    this.guard(() => this.code.init(state));
    for (const need of this.code.needs)
      if (!this.guard(() => need.holds(state))) throw new SetupError(render(need.text(state), this.rt.plainVoice));
    this.run(state);
    return state;
  }

  /** Opens with some variables set first, as rehearsals do. */
  openWith(prepare: (state: State) => void): State {
    const state = firstState(this.layout, this.blank());
    this.code.begin();
    this.trace.clear();
    this.guard(() => this.code.init(state));
    prepare(state);
    this.run(state);
    return state;
  }

  /** Carries out an answer that was found legal. The given state stays as it is. @throws Fault */
  answer(state: State, seat: number, answer: Answer): State {
    return this.advance(this.copy(state), seat, answer);
  }

  /**
   * Carries out an answer in the given state itself, as simulations do. After a fault the state is lost.
   * @throws Fault
   */
  advance(state: State, seat: number, { option, args }: Answer): State {
    if (!this.trace.quiet) this.trace.clear();
    let broken: number;
    try {
      broken = this.code.answer(state, seat, option, args);
    } catch (error) {
      throw this.asFault(error);
    }
    if (broken >= 0) throw this.brokenAlways(broken);
    return state;
  }

  /** Ends a pause, as the table itself does. @throws Fault */
  resume(state: State): State {
    return this.advancePause(this.copy(state));
  }

  /** Ends a pause in the given state itself. @throws Fault */
  advancePause(state: State): State {
    return this.stepped(state, () => this.code.resume(state));
  }

  /** A step of the table's own. */
  private stepped(state: State, step: () => number): State {
    if (!this.trace.quiet) this.trace.clear();
    const broken = this.guard(step);
    if (broken >= 0) throw this.brokenAlways(broken);
    return state;
  }

  /** Runs the `stuck` part of an ask of anybody whose time is up. @throws Fault */
  expire(state: State): State {
    return this.advanceExpired(this.copy(state));
  }

  /** The same in the given state itself. @throws Fault */
  advanceExpired(state: State): State {
    return this.stepped(state, () => this.code.expire(state));
  }

  private run(state: State): void {
    const { code } = this;
    try {
      code.script(state);
      this.checkAlways(state);
    } catch (error) {
      throw this.asFault(error);
    }
  }

  /** Checks the sheet's `always` declarations. @throws Fault */
  checkAlways(state: State): void {
    const broken = this.code.always(state);
    if (broken >= 0) throw this.brokenAlways(broken);
  }

  private brokenAlways(i: number): Fault {
    const declared = this.program.always[i];
    return new Fault(`"${declared?.name}" does not hold any more.`, declared?.at ?? 0);
  }

  private guard<T>(run: () => T): T {
    try {
      return run();
    } catch (error) {
      throw this.asFault(error);
    }
  }

  /** Anything that goes wrong in generated code is a fault of the sheet, at the place that was noted last. */
  private asFault(error: unknown): unknown {
    if (error instanceof SetupError || (error instanceof Fault && error.line > 0)) return error;
    if (error instanceof Fault) return new Fault(error.message, this.code.here());
    const message = error instanceof Error ? error.message : String(error);
    return new Fault(`The engine could not go on: ${message}`, this.code.here());
  }

  get chance(): Chance {
    return this.opening.chance;
  }
  get tracking(): boolean {
    return this.parts.tracking;
  }

  /** The seats that are asked and have not answered. */
  asked(state: State): number[] {
    const wait = state.f[WAIT];
    if (wait === WAIT_ASK) return [state.f[ASKED_SEAT] as number];
    if (wait !== WAIT_EVERY && wait !== WAIT_ANY) return [];
    const open = (state.f[ASKED] as number) & ~(state.f[ANSWERED] as number);
    return this.rt.seats.filter((seat) => (open & (1 << seat)) !== 0);
  }
  isPaused(state: State): boolean {
    return state.f[WAIT] === WAIT_PAUSE;
  }
  isOver(state: State): boolean {
    return state.f[WAIT] === WAIT_OVER;
  }
  /** Whether several are asked, and the first answer counts. */
  /** Who may still be first, in the order in which the sheet lists them. */
  racers(state: State): number[] {
    const asked = this.asked(state);
    const listed = this.code.racers[state.f[ASK] as number];
    if (!listed) return asked;
    this.code.begin();
    return [...new Set(listed(state))].filter((seat) => asked.includes(seat));
  }
  isRace(state: State): boolean {
    return state.f[WAIT] === WAIT_ANY;
  }
  /** Whether one seat is asked alone. */
  isSingleAsk(state: State): boolean {
    return state.f[WAIT] === WAIT_ASK;
  }

  /** Scores as they stand in a state, by seat. */
  scores(state: State): number[] {
    return this.rt.seats.map((seat) => state.f[this.layout.scoreBase + seat] as number);
  }
}

function promisedPiles(
  layout: StateLayout,
  promised: Readonly<Record<string, readonly Face[]>>,
  comesAgain: boolean,
): Map<number, readonly Face[]> {
  const found = new Map<number, readonly Face[]>();
  const left = [...layout.faces];
  for (const [path, faces] of Object.entries(promised)) {
    const pile = path === ON_TOP ? ANY_PILE : layout.piles.findIndex((p) => p.path === path);
    if (pile < 0 && pile !== ANY_PILE)
      throw new SetupError(
        `There is no pile "${path}" at this table. There are ${layout.piles.map((p) => p.path).join(', ')}; "${ON_TOP}" is what is dealt next, wherever it goes.`,
      );
    for (const face of faces) {
      const at = left.indexOf(face);
      if (at < 0) throw new SetupError(`${path} is promised a card that the deck does not have, or not so often.`);
      // What was dealt comes again after the next shuffle, and a rehearsal may go on so long.
      if (!comesAgain) left.splice(at, 1);
    }
    found.set(pile, faces);
  }
  return found;
}
