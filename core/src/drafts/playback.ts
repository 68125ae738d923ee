import { faceText } from '../cards/face.js';
import type { Chance } from '../chance/generator.js';
import type { Answer } from '../machine/code.js';
import { Fault } from '../machine/fault.js';
import type { Budget } from '../opponents/budget.js';
import { type Strength, StrengthError, strengthOf } from '../opponents/strength.js';
import { argsOf, choiceWords, optionOf } from '../play/carried.js';
import { type By, type Header, TIME } from '../play/record.js';
import { type Mark, type Played, Table } from '../play/table.js';
import { ownLine } from '../program/lines.js';
import type { PointKind } from '../program/points.js';
import { type At, lineOf, type Program } from '../program/types.js';
import { askPlace, botNamed } from '../rules/bots.js';
import { openly } from '../rules/handles.js';
import { isRefusal, judge, type Refusal, type WireChoice } from '../rules/judge.js';
import type { ArgValue } from '../rules/values.js';
import type { StepEvents } from '../views/events.js';
import type { Line } from '../views/narration.js';

/** A choice that was made at a draft's table, as it can be made again on other rules. */
export interface Made {
  /** Counted from 0; −1 where nobody chose, because time was up. */
  readonly seat: number;
  readonly by: By;
  readonly option: string;
  /** Its values with cards by their faces: they mean the same cards where piles lie otherwise. */
  readonly args: Readonly<Record<string, ArgValue>>;
  /** The same with cards by their places. */
  readonly places: Readonly<Record<string, ArgValue>>;
  /** The choice in words, as its seat reads them. */
  readonly words: string;
}

/** A choice that the rules refuse, or that makes a fault. */
export interface Broken {
  /** Which of the choices, from 1; 0 where the table cannot even be opened. */
  readonly choice: number;
  readonly words: string;
  readonly reason: string;
  /** The line of the sheet's own text, or `null` where it stands in a part or nowhere. */
  readonly line: number | null;
  readonly isFault: boolean;
}

/** How a draft's table stands after one of its choices. */
interface Moment {
  readonly mark: Mark;
  /** The sheet's own lines that ran to get here, in their order. */
  readonly ran: readonly number[];
  readonly steps: readonly { readonly number: number; readonly events: StepEvents }[];
}

/** Nothing is taken back at the table itself, which would keep states of its own for it: here one steps back. */
const STEPS_BACK: By = 'bot';
/** More choices than this are not played again. */
const MOST_CHOICES = 4_000;
/** More pauses than this do not follow each other. */
const MOST_PAUSES = 1_000;

/**
 * A game of a draft: its choices can be played again on other rules, and gone through back and forward. Pauses end at
 * once. It reads no clock and keeps nothing.
 */
export class Playback {
  private readonly table: Table;
  private readonly moments: Moment[] = [];
  private readonly choices: Made[];
  private readonly ran = new Set<number>();
  private isCarrying = false;
  private place = 0;
  /** The choice that the rules do not take; those from it on are kept, and not played. */
  readonly broken: Broken | null;

  /**
   * Opens a table and plays choices on it, as far as the rules take them.
   * @param at the choice after which it stands, at first
   * @throws SetupError, FaceError or Fault where it cannot be opened
   */
  constructor(
    readonly program: Program,
    readonly header: Header,
    made: readonly Made[] = [],
    options: { readonly at?: number; readonly thinking?: readonly number[]; readonly chance?: Chance } = {},
  ) {
    this.choices = made.slice(0, MOST_CHOICES);
    this.isCarrying = true;
    this.table = new Table(program, header, {
      reached: (kind, at) => this.reached(kind, at),
      ...(options.chance ? { chance: options.chance } : {}),
      ...(options.thinking && options.thinking.length > 0 ? { thinking: options.thinking } : {}),
    });
    this.moments.push(this.moment([{ number: 0, events: this.table.opening }]));
    this.broken = this.replayed();
    this.goTo(Math.min(options.at ?? this.last, this.last));
  }

  private reached(kind: PointKind, at: At): void {
    if (!this.isCarrying || (kind !== 'statement' && kind !== 'option')) return;
    const own = ownLine(this.program, lineOf(at));
    if (own.part === null) this.ran.add(own.line);
  }

  /** The table as it stands. */
  get now(): Table {
    return this.table;
  }
  /** After how many choices it stands, and after how many it can. */
  get at(): number {
    return this.place;
  }
  get last(): number {
    return this.moments.length - 1;
  }
  /** All choices, those too that broken rules keep from being played. */
  get made(): readonly Made[] {
    return this.choices;
  }
  /** The lines that ran in the last choice, in their order. */
  get lines(): readonly number[] {
    return this.moments[this.place]?.ran ?? [];
  }
  /** The sheet's own line at which it waits; `null` where it does not, or waits in a part. */
  get waits(): number | null {
    const { table } = this;
    return table.isOver || table.isPaused ? null : this.lineIn(lineOf(askPlace(table.game, table.state)));
  }
  /** What was said so far, as a viewer hears it. */
  said(viewer: number): Line[] {
    return this.moments
      .slice(0, this.place + 1)
      .flatMap(({ steps }) => steps.flatMap(({ number, events }) => this.table.lines(events, number, viewer)));
  }
  /** What happened in the last choice. */
  get happened(): readonly StepEvents[] {
    return this.moments[this.place]?.steps.map(({ events }) => events) ?? [];
  }
  /** Everything that happened, step by step, up to here. */
  get story(): readonly StepEvents[] {
    return this.moments.slice(0, this.place + 1).flatMap(({ steps }) => steps.map(({ events }) => events));
  }
  /** Where chapters begin, with their titles. */
  get chapters(): readonly { readonly at: number; readonly title: string }[] {
    return this.moments.flatMap(({ steps }, at) =>
      steps.flatMap(({ events }) =>
        events.for(-1).flatMap((event) => (event.kind === 'chapter' ? [{ at, title: event.title }] : [])),
      ),
    );
  }

  /** Goes to how it stood after so many choices. */
  goTo(at: number): void {
    const moment = this.moments[at];
    if (!moment) throw new RangeError(`there is no moment ${at}`);
    if (this.place !== at || this.table.number !== moment.mark.number) this.table.goTo(moment.mark);
    this.place = at;
  }

  /** Makes a choice; what was to come after here is forgotten. @throws Fault, and the table stays as it was */
  choose(seat: number, choice: Omit<WireChoice, 'ask'>): Refusal | null {
    const wire = { ...choice, ask: this.table.openAsk };
    const judged = judge(this.table.game, this.table.state, seat, wire);
    if (isRefusal(judged)) return judged;
    this.carry(this.madeOf(seat, judged, 'person'), () => this.table.carryOut(seat, judged, STEPS_BACK));
    return null;
  }

  /**
   * Lets a seat be played: by a bot of the sheet, at random, or by thinking.
   * @returns whether it found something to choose
   * @throws Fault, and the table stays as it was
   */
  letPlay(seat: number, how: string, budget?: Budget): boolean {
    const answer = this.answerOf(seat, strengthOf(how), budget);
    if (!answer) return false;
    this.carry(this.madeOf(seat, answer, 'bot'), () => this.table.carryOut(seat, answer, STEPS_BACK));
    return true;
  }

  private answerOf(seat: number, strength: Strength, budget: Budget | undefined): Answer | null {
    const { table } = this;
    if (strength.kind === 'thinking')
      return table.thinkerOf(seat).answer(table.state, budget ?? { playouts: strength.playouts });
    if (strength.kind === 'solved')
      throw new StrengthError('A solution plays at tables and in matches: a draft is not solved at each key.');
    if (strength.kind === 'random') return table.anyAnswer(seat);
    const bot = botNamed(table.game, strength.name);
    return bot < 0 ? table.anyAnswer(seat) : table.botsAnswer(seat, bot);
  }

  /** Ends an ask of anybody whose time is up. @throws Fault */
  endRace(): void {
    const made: Made = { seat: -1, by: 'table', option: TIME, args: {}, places: {}, words: 'time is up' };
    this.carry(made, () => this.table.endRace());
  }

  /** A choice as it can be made again. */
  private madeOf(seat: number, answer: Answer, by: By): Made {
    const { game, state } = this.table;
    const places = argsOf(game, state, answer);
    const { name: option, params } = optionOf(game, state, answer);
    const args = Object.fromEntries(
      params.map((param, i): [string, ArgValue] => {
        const value = answer.args[i];
        if (param.t === 'card' && typeof value === 'number') return [param.name, faceOf(game.layout.faces, value)];
        if (Array.isArray(value))
          return [param.name, (value as readonly number[]).map((card) => faceOf(game.layout.faces, card))];
        return [param.name, places[param.name] ?? null];
      }),
    );
    return { seat, by, option, args, places, words: choiceWords(game, state, seat, answer) };
  }

  private carry(made: Made, work: () => Played): void {
    this.goTo(this.place);
    const moment = this.carried(work);
    this.moments.length = this.place + 1;
    this.choices.length = this.place;
    this.moments.push(moment);
    this.choices.push(made);
    this.place++;
  }

  /** Carries something out with the pauses after it. @throws Fault, and the table stays as it was */
  private carried(work: () => Played): Moment {
    const before = this.table.mark();
    this.ran.clear();
    this.isCarrying = true;
    try {
      const { row, stepEvents } = work();
      return this.moment([{ number: row.number, events: stepEvents }]);
    } catch (error) {
      this.table.goTo(before);
      throw error;
    } finally {
      this.isCarrying = false;
    }
  }

  /** How it stands now, once pauses are over. @throws Fault */
  private moment(steps: { number: number; events: StepEvents }[]): Moment {
    for (let i = 0; this.table.isPaused && i < MOST_PAUSES; i++) {
      const { row, stepEvents } = this.table.resume();
      steps.push({ number: row.number, events: stepEvents });
    }
    this.isCarrying = false;
    const ran = [...this.ran];
    this.ran.clear();
    return { mark: this.table.mark(), ran, steps };
  }

  /** Plays the choices that are known. Gives the first that the rules do not take. */
  private replayed(): Broken | null {
    for (const [i, made] of this.choices.entries()) {
      const stop = (reason: string, line: number | null, isFault = false): Broken => ({
        choice: i + 1,
        words: made.seat < 0 ? made.words : `${this.header.seats[made.seat] ?? 'nobody'}: ${made.words}`,
        reason,
        line,
        isFault,
      });
      try {
        const refusal = this.again(made);
        if (refusal) return stop(refusal.reason, this.lineIn(refusal.line));
      } catch (error) {
        if (error instanceof Fault) return stop(error.message, this.lineIn(error.line), true);
        throw error;
      }
      this.place = i + 1;
    }
    return null;
  }

  /** The same choice once more: the same cards, or else the same places. @throws Fault */
  private again(made: Made): Refusal | null {
    const { table } = this;
    if (made.seat < 0) {
      if (!table.isRace) return { kind: 'turn', reason: 'Nobody races here.' };
      this.moments.push(this.carried(() => table.endRace()));
      return null;
    }
    const wire = { ask: table.openAsk, option: made.option };
    const naming = openly(table.game, table.state);
    const judged = judge(table.game, table.state, made.seat, { ...wire, args: made.args }, naming);
    const answer = isRefusal(judged)
      ? judge(table.game, table.state, made.seat, { ...wire, args: made.places }, naming)
      : judged;
    if (isRefusal(answer)) return isRefusal(judged) ? judged : answer;
    this.moments.push(this.carried(() => table.carryOut(made.seat, answer, STEPS_BACK)));
    return null;
  }

  private lineIn(line: number | undefined): number | null {
    if (line === undefined || line < 1) return null;
    const own = ownLine(this.program, line);
    return own.part === null ? own.line : null;
  }
}

const faceOf = (faces: readonly number[], card: number): string => faceText(faces[card] as number);
