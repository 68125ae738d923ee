import { chachaChance, seedCommitment, seedFrom } from '../chance/chacha.js';
import type { Chance, Generator } from '../chance/generator.js';
import type { TurningChance } from '../chance/turning.js';
import type { FairLine } from '../fair/lines.js';
import { toHex } from '../fair/messages.js';
import type { Pledge } from '../fair/pledge.js';
import type { Answer } from '../machine/code.js';
import { Fault } from '../machine/fault.js';
import { ASK, ASKED, NUMBER, OPENED, WAIT, WAIT_EVERY, WAIT_OVER } from '../machine/layout.js';
import { LENIENCE, MOST_TOLD } from '../machine/prices.js';
import { State } from '../machine/state.js';
import type { Budget } from '../opponents/budget.js';
import type { Thinker, Thought } from '../opponents/thinker.js';
import type { Program } from '../program/types.js';
import { botAnswer, clockAnswer, noClockChoice, noLineFits } from '../rules/bots.js';
import type { Digests } from '../rules/digest.js';
import type { Game } from '../rules/game.js';
import { withoutPlacesFor } from '../rules/handles.js';
import { isRefusal, judge, type Refusal, type WireChoice } from '../rules/judge.js';
import { redeal } from '../rules/redeal.js';
import type { Naming } from '../rules/values.js';
import { drawChoice } from '../simulate/policy.js';
import { type Carried, StepEvents } from '../views/events.js';
import { namedBy } from '../views/labels.js';
import { type Line, tell, UNDO } from '../views/narration.js';
import { type Shown, shownAnyway, shownIn } from '../views/shown.js';
import { StepReport } from '../views/step-report.js';
import { type View, type Waiting, waitingIn } from '../views/view.js';
import { Views } from '../views/views.js';
import { argsFrom, argsOf, carriedBy, choiceWords, optionOf } from './carried.js';
import { type Frozen, frozenChain, frozenState, thawedChain, thawedState } from './frozen.js';
import { layTable, type TableOptions } from './laid.js';
import type { Openings } from './openings.js';
import { type By, type Header, type Row, TIME } from './record.js';
import { Thinkers } from './thinkers.js';
import { copied, hasTold, isClear, type Undoable, undoableBefore, wentBack } from './undo.js';

/** A step that was carried out. */
export interface Played {
  readonly row: Row;
  readonly stepEvents: StepEvents;
  /** Scores after the step, by seat. */
  readonly scores: readonly number[];
}

/** A saved position of a table, which only that table can return to. */
export interface Mark {
  readonly number: number;
  readonly state: State;
  readonly answers: ReadonlyMap<number, Carried>;
  readonly lastAnswers: ReadonlyMap<number, Carried>;
  readonly undoable: Undoable | null;
  readonly chance: Chance;
}

const OPENING: readonly Carried[] = [];

/**
 * One table at play: a game, the state it stands in, and what was carried out so far. It reads no
 * clock and keeps nothing: whoever holds it stores its rows.
 */
export class Table {
  readonly game: Game;
  private current: State;
  /** What viewers are shown of the current state; `null` until somebody looks at one that was replayed. */
  private shown: Shown | null;
  private isReplaying = false;
  private readonly chance: TurningChance;
  private readonly digests: Digests;
  private readonly views: Views;
  /** Labels of answers that wait for the others, made while they were open. */
  private answers = new Map<number, Carried>();
  private lastAnswers: ReadonlyMap<number, Carried> = new Map();
  /** What may be taken back, the last choice first. */
  private undoable: Undoable | null = null;
  /** The last ask of anybody that was won, and by whom. */
  private race: { readonly ask: number; readonly seat: number } | null = null;
  private readonly pledge: Pledge | null;
  private readonly openings: Openings | null;
  private readonly thinkers: Thinkers;
  private before: {
    readonly state: State;
    readonly answers: ReadonlyMap<number, Carried>;
    readonly undoable: Undoable | null;
  } | null = null;
  /** What happened before the first choice. */
  readonly opening: StepEvents;

  /**
   * @throws SetupError, FaceError or Fault where the table cannot be opened
   */
  constructor(
    program: Program,
    readonly header: Header,
    options: TableOptions = {},
  ) {
    const { thinking = [], prepare } = options;
    const laid = layTable(program, header, options);
    this.pledge = laid.pledge;
    this.chance = laid.chance;
    this.game = laid.game;
    this.openings = laid.openings;
    this.digests = laid.digests;
    this.thinkers = new Thinkers(this.game, thinking);
    this.views = new Views(this.game);
    this.current = prepare ? this.game.openWith((state) => prepare(this.game, state)) : this.game.open();
    this.opening = StepEvents.ofLastStep(this.game, OPENING);
    if (!prepare) this.thinkers.opened(this.current);
    this.openings?.stepped(this.opening.toJSON(), null);
    this.branchOff();
    this.shown = this.shownOf(this.current);
  }

  /** Redeals unseen cards at a number where this table branched off; returns whether it did. */
  private branchOff(): boolean {
    const here = (this.header.branches ?? []).filter((branch) => branch.number === this.number);
    for (const branch of here) {
      this.chance.now = chachaChance(seedFrom(branch.redeal));
      redeal(this.game, this.current, this.chance.stream('redeal', branch.number));
      this.game.checkAlways(this.current);
    }
    // Earlier states hold other cards: undo would lead back to them, and what was known of them holds no more.
    if (here.length > 0) {
      this.undoable = null;
      this.thinkers.clear();
    }
    return here.length > 0;
  }

  get state(): State {
    return this.current;
  }
  get number(): number {
    return this.current.f[NUMBER] as number;
  }
  get isOver(): boolean {
    return this.current.f[WAIT] === WAIT_OVER;
  }
  get isPaused(): boolean {
    return this.game.isPaused(this.current);
  }
  /** Whether several are asked, and the first answer counts. */
  get isRace(): boolean {
    return this.game.isRace(this.current);
  }
  /** The seats that are asked and have not answered, from 0. */
  get asked(): number[] {
    return this.game.asked(this.current);
  }
  /** The number at which the open ask (or pause) opened. */
  get openAsk(): number {
    return this.current.f[OPENED] as number;
  }
  /** What the table waits for. */
  get waiting(): Waiting {
    return waitingIn(this.game, this.current);
  }
  /** The title of the chapter under way. */
  get chapter(): string {
    return this.game.rt.chapterTitle(this.current);
  }
  /** The commitment to the seed, published before the first deal. */
  get commitment(): string {
    return this.pledge ? toHex(this.pledge.commitment) : seedCommitment(seedFrom(this.header.seed));
  }
  /** What a viewer may check of its shuffles, line by line; `null` where nothing is promised, or cards were not followed. */
  fairnessFor(viewer: number, isShown: boolean): Iterable<FairLine> | null {
    return this.openings?.for(viewer, isShown ? seedFrom(this.header.seed) : null) ?? null;
  }
  /** Scores as they stand, by seat. */
  scores(): number[] {
    return this.game.scores(this.current);
  }
  digest(): string {
    return this.digests.of(this.current);
  }
  view(viewer: number): View {
    return this.snapshot()(viewer);
  }
  /** A snapshot for several viewers, who share equal parts. Valid until the next step. */
  snapshot(): (viewer: number) => View {
    const look = this.views.snapshot(this.current, this.look());
    return (viewer) => look.view(viewer, this.mayUndo(viewer));
  }
  private look(): Shown {
    this.shown ??= shownAnyway(this.game, this.current);
    return this.shown;
  }
  /**
   * Carries out rows that were kept before: they may cost more than others, and nobody looks at what stands in between.
   */
  replaying<T>(work: () => T): T {
    this.isReplaying = true;
    this.game.code.allow(LENIENCE);
    try {
      return work();
    } finally {
      this.isReplaying = false;
      this.game.code.allow(1);
    }
  }
  /** The values of a choice of the record as a viewer may know them. */
  argsFor(args: Row['args'], viewer: number): Row['args'] {
    const shown = withoutPlacesFor(this.game, viewer);
    return Object.fromEntries(Object.entries(args).map(([name, arg]) => [name, shown(arg)]));
  }
  /** The sentences of a step for a viewer. */
  lines(stepEvents: StepEvents, number: number, viewer: number): Line[] {
    return tell(this.game, stepEvents.for(viewer), number, viewer);
  }
  /** The report of a step for several viewers. */
  report(stepEvents: StepEvents, number: number): StepReport {
    return new StepReport(this.game, stepEvents, number);
  }

  /**
   * A seat's choice: carried out, or refused.
   * @param naming how it names cards: as the seat does, or as records do
   * @throws Fault, and the table stays as it was
   */
  choose(seat: number, choice: WireChoice, by: By = 'person', naming?: Naming): Played | Refusal {
    if (choice.option === UNDO) return this.undo(seat, choice.ask);
    const judged = judge(this.game, this.current, seat, choice, naming);
    if (!isRefusal(judged)) return this.carryOut(seat, judged, by);
    const { race } = this;
    const isOpen = this.isRace && this.openAsk === choice.ask;
    if (race?.ask !== choice.ask || isOpen || race.seat === seat) return judged;
    return { kind: 'stale', reason: `${this.header.seats[race.seat]} was first.`, option: choice.option };
  }

  /** Whether a seat may take back its last choice: nobody has chosen since, and nobody saw a new card. */
  mayUndo(seat: number): boolean {
    const { undoable } = this;
    return undoable?.seat === seat && (!undoable.told || this.isReplaying);
  }

  private undo(seat: number, ask: number): Played | Refusal {
    if (ask !== this.openAsk)
      return {
        kind: 'stale',
        reason: `The question of number ${ask} is no longer open; the open one is of number ${this.openAsk}.`,
        option: UNDO,
      };
    const { undoable } = this;
    if (!undoable || !this.mayUndo(seat))
      return {
        kind: 'illegal',
        reason:
          'There is nothing to take back: only the last choice can be, by the seat that made it, and only while nobody has seen a new card or heard of a hidden one since.',
        option: UNDO,
      };
    const next = wentBack(this.game, this.current, undoable);
    this.thinkers.clear(next);
    return this.accept(
      next,
      this.shownOf(next),
      { seat: seat + 1, by: 'person', ask, option: UNDO, args: {} },
      [{ seat, option: UNDO, label: ['take back the last choice'], args: [] }],
      undoable.under,
    );
  }

  /** What a scripted bot plays for a seat. @throws Fault where none of its lines fits */
  playBot(seat: number, bot: number): Played {
    const played = this.tryBot(seat, bot);
    if (played) return played;
    throw noLineFits(this.game, this.current, this.game.program.bots[bot]?.name ?? '', seat);
  }

  /** The same; `null` where none of its lines fits. @throws Fault where its lines make one */
  tryBot(seat: number, bot: number): Played | null {
    const answer = this.botsAnswer(seat, bot);
    return answer && this.carryOut(seat, answer, 'bot');
  }

  /** What a scripted bot would choose; `null` where none of its lines fits. @throws Fault where its lines make one */
  botsAnswer(seat: number, bot: number): Answer | null {
    return botAnswer(this.game, this.current, bot, seat, this.thinking('bot', seat));
  }

  /** What the turn clock plays for a seat. @throws Fault where nothing that it may play is legal */
  playClock(seat: number): Played {
    const answer = clockAnswer(this.game, this.current, seat, this.thinking('clock', seat));
    if (!answer) throw noClockChoice(this.game, this.current, this.header.seats[seat] ?? '');
    return this.carryOut(seat, answer, 'clock');
  }

  /**
   * What the clock plays where anybody may answer: for the first seat, as the sheet lists them, for which it finds something, or the ask's
   * `stuck` part. Asides leave the ask open: then it is to be asked again.
   * @throws Fault where it finds nothing
   */
  endRace(): Played {
    const { game, current } = this;
    const ask = this.openAsk;
    if (game.program.asks[current.f[ASK] as number]?.clock?.otherwise === 'stuck') {
      const next = game.expire(current);
      this.thinkers.passed(current, 'expire', next);
      const row = { seat: null, by: 'table', ask, option: TIME, args: {} } as const;
      return this.accept(next, this.shownOf(next), row, OPENING, null);
    }
    for (const seat of game.racers(current)) {
      const answer = clockAnswer(game, current, seat, this.thinking('clock', seat));
      if (answer) return this.carryOut(seat, answer, 'clock');
    }
    throw noClockChoice(game, current, 'any seat');
  }

  /**
   * What a seat's thinking comes to; nothing is carried out. Only for seats that the table was opened with as `thinking`.
   * @returns `null` where it finds nothing to choose
   */
  think(seat: number, budget: Budget): Thought | null {
    return this.thinkerOf(seat).think(this.current, budget);
  }
  thinkerOf(seat: number): Thinker {
    return this.thinkers.of(seat);
  }

  /** Carries out what a seat's thinking comes to; `null` where it finds nothing. @throws Fault */
  playThought(seat: number, budget: Budget): Played | null {
    const answer = this.thinkerOf(seat).answer(this.current, budget);
    return answer && this.carryOut(seat, answer, 'bot');
  }

  /** Carries out any legal choice of a seat; `null` where there is none to be found. @throws Fault */
  playAny(seat: number): Played | null {
    const answer = this.anyAnswer(seat);
    return answer && this.carryOut(seat, answer, 'bot');
  }

  /** Any legal choice of a seat; `null` where there is none to be found. @throws Fault */
  anyAnswer(seat: number): Answer | null {
    return drawChoice(this.game, this.current, seat, this.thinking('random', seat), false);
  }

  /** A choice as its seat sends it. */
  wireOf(seat: number, answer: Answer): { option: string; args: Row['args'] } {
    const { game, current } = this;
    return { option: optionOf(game, current, answer).name, args: argsFrom(game, current, seat, answer) };
  }

  /** A choice in words, as its seat reads it. */
  wordsFor(seat: number, answer: Answer): string {
    return choiceWords(this.game, this.current, seat, answer);
  }

  /** Ends a pause. @throws Fault */
  resume(): Played {
    const ask = this.openAsk;
    const next = this.game.resume(this.current);
    this.thinkers.passed(this.current, 'resume', next);
    return this.accept(
      next,
      this.shownOf(next),
      { seat: null, by: 'table', ask, option: 'pause', args: {} },
      OPENING,
      this.game.program.undoFree ? this.undoable : null,
    );
  }

  /** Reverts the last step, when it could not be stored. */
  takeBack(): void {
    if (!this.before) throw new Error('there is no step to take back');
    this.game.recycle(this.current);
    this.current = this.before.state;
    this.answers = new Map(this.before.answers);
    this.lastAnswers = this.before.answers;
    this.undoable = this.before.undoable;
    this.before = null;
    this.shown = null;
  }

  /** Saves the current position. A mark holds copies, so later steps do not affect it. */
  mark(): Mark {
    return {
      number: this.number,
      state: this.current.copy(),
      answers: new Map(this.answers),
      lastAnswers: this.lastAnswers,
      undoable: copied(this.undoable),
      chance: this.chance.now,
    };
  }

  /** Returns to a saved position, earlier or later. @param mark of this table */
  goTo(mark: Mark): void {
    this.thinkers.clear(mark.state);
    this.current = mark.state.copy();
    this.answers = new Map(mark.answers);
    this.lastAnswers = mark.lastAnswers;
    this.undoable = copied(mark.undoable);
    this.chance.now = mark.chance;
    this.before = null;
    this.shown = null;
  }

  /** The current position as plain data. */
  freeze(): Frozen {
    return {
      number: this.number,
      digest: this.digest(),
      state: frozenState(this.current),
      answers: [...this.answers],
      undoable: frozenChain(this.undoable),
    };
  }

  /** Goes to a position that was kept; returns whether it fits: where it does not, the table stays where it was. */
  thaw(frozen: Frozen): boolean {
    const blank = (): State => new State(this.current.form);
    const state = thawedState(frozen.state, blank());
    const undoable = thawedChain(frozen.undoable, blank);
    if (!state || undoable === undefined) return false;
    if (state.f[NUMBER] !== frozen.number || this.digests.of(state) !== frozen.digest) return false;
    this.current = state;
    this.answers = new Map(frozen.answers);
    this.lastAnswers = new Map(frozen.answers);
    this.undoable = undoable;
    const branch = (this.header.branches ?? []).findLast(({ number }) => number <= frozen.number);
    if (branch) this.chance.now = chachaChance(seedFrom(branch.redeal));
    this.before = null;
    this.shown = null;
    return true;
  }

  /** The chance of what a seat chooses by itself at this number: nobody can foresee it who does not know the seed. */
  thinking(who: string, seat: number): Generator {
    return this.chance.stream(`${who} ${seat}`, this.number);
  }

  /** Carries out an answer that is legal. */
  carryOut(seat: number, answer: Answer, by: By): Played {
    const { game, current } = this;
    const option = optionOf(game, current, answer);
    const args = argsOf(game, current, answer);
    const carried = carriedBy(game, current, seat, answer, args);
    const together = current.f[WAIT] === WAIT_EVERY;
    const { openAsk, isRace } = this;
    const next = game.answer(current, seat, answer);
    const shown = this.shownOf(next);
    let done: Carried[] = [];
    if (together) {
      this.answers.set(seat, carried);
      if (next.f[ASKED] === 0 || next.f[OPENED] !== openAsk) {
        done = [...this.answers.values()];
        this.answers.clear();
      }
    } else done = [{ ...carried, label: namedBy(game.trace.numbers(), carried.label) }];
    this.thinkers.chosen(current, next, seat, answer);
    if (isRace && !option.aside) this.race = { ask: openAsk, seat };
    return this.accept(
      next,
      shown,
      { seat: seat + 1, by, ask: openAsk, option: option.name, args },
      done,
      by === 'person' && !together && !isRace ? this.undoableAfter(next, seat) : null,
    );
  }

  /** What may be taken back after a person's choice. */
  private undoableAfter(next: State, seat: number): Undoable | null {
    const { game, current, undoable } = this;
    if (!game.program.undoFree && !isClear(game, current, next)) return null;
    const told = !game.program.undoFree && hasTold(game);
    return undoableBefore(seat, current, undoable?.seat === seat ? undoable : null, told);
  }

  /** What viewers will be shown of a state that a step leads to, before the step counts. @throws Fault */
  private shownOf(next: State): Shown | null {
    if (this.isReplaying) return null;
    const { code, trace } = this.game;
    if (trace.toldBytes > MOST_TOLD)
      throw new Fault(
        `What this step tells is more than ${MOST_TOLD / 1024} KiB for each who looks on: let it wait in between, or move fewer cards.`,
        code.here(),
      );
    return shownIn(this.game, next);
  }

  private accept(
    next: State,
    shown: Shown | null,
    row: Omit<Row, 'number' | 'digest'>,
    carried: readonly Carried[],
    undoable: Undoable | null,
  ): Played {
    const stepEvents = StepEvents.ofLastStep(this.game, carried);
    // States that undo may still need are not recycled.
    if (this.before && !this.undoable && !this.before.undoable) this.game.recycle(this.before.state);
    this.before = { state: this.current, answers: this.lastAnswers, undoable: this.undoable };
    this.lastAnswers = new Map(this.answers);
    this.undoable = undoable;
    this.current = next;
    this.shown = shown;
    const played = {
      row: { number: this.number, ...row, digest: this.digest() },
      stepEvents,
      scores: this.scores(),
    };
    this.openings?.stepped(stepEvents.toJSON(), played.row);
    if (this.branchOff()) this.shown = this.shownOf(this.current);
    return played;
  }
}

export const isPlayed = (result: Played | Refusal): result is Played => 'row' in result;
