import { faceText } from '../cards/face.js';
import { handName } from '../hands/naming.js';
import type { Answer } from '../machine/code.js';
import { Fault } from '../machine/fault.js';
import { OPEN } from '../machine/runtime/visibility.js';
import { SetupError } from '../machine/setup.js';
import type { State } from '../machine/state.js';
import { type Piece, render } from '../machine/text.js';
import type { Row } from '../play/record.js';
import { isPlayed, type Played, Table } from '../play/table.js';
import { lineWords } from '../program/lines.js';
import { type At, lineOf, type Program, type Type } from '../program/types.js';
import type { Game } from '../rules/game.js';
import { asSeen, openly } from '../rules/handles.js';
import { isRefusal, judge, type Refusal } from '../rules/judge.js';
import { renderingFor } from '../rules/rendering.js';
import type { Naming } from '../rules/values.js';
import { writeArg } from '../rules/values.js';
import { ambiguity } from './ambiguous.js';
import type { Coverage } from './coverage.js';

/** A choice as a rehearsal words it: each value a face, or a probe of the program. */
export interface RehearsedChoice {
  readonly seat: number;
  readonly option: string;
  readonly params: readonly string[];
  readonly args: readonly (
    | { readonly face: string }
    | { readonly faces: readonly string[] }
    | { readonly probe: number; readonly t: Type }
  )[];
}

/** One step of a rehearsal. */
export type RehearsalStep = { readonly at: At } & (
  | { readonly k: 'choose'; readonly choice: RehearsedChoice }
  | { readonly k: 'asked'; readonly seat: number }
  | { readonly k: 'refused'; readonly choice: RehearsedChoice; readonly reason: number | null }
  | { readonly k: 'finished' }
  | { readonly k: 'said'; readonly text: number }
  | {
      readonly k: 'holds';
      readonly probe: number;
      readonly source: string;
      readonly sides: readonly [Side, Side] | null;
    }
  | { readonly k: 'bot'; readonly bot: number; readonly until: number | null }
  /** Time is up: for one seat, or for all that are asked. */
  | { readonly k: 'clock'; readonly seat: number | null }
);
/** One side of a comparison, so that a failure can say what was found. */
export interface Side {
  readonly probe: number;
  readonly t: Type;
  readonly source: string;
}

/** A compiled rehearsal. */
export interface Rehearsal {
  readonly title: string;
  readonly line: number;
  readonly seats: readonly string[];
  readonly settings: Readonly<Record<string, number | boolean | string>>;
  readonly gets: Readonly<Record<string, string>>;
  /** Where cards are promised, by pile, and what the pile is called there. */
  readonly promises: Readonly<Record<string, { readonly at: At; readonly source: string }>>;
  readonly starts: readonly {
    readonly variable: number;
    readonly owner: number;
    readonly second: number;
    readonly probe: number;
  }[];
  readonly steps: readonly RehearsalStep[];
}

export interface RehearsalResult {
  readonly title: string;
  readonly line: number;
  readonly passed: boolean;
  /** What went wrong, and in which line of the rehearsal. */
  readonly failure: { readonly line: number; readonly message: string } | null;
  readonly rows: readonly Row[];
}

/** Most choices that a bot plays before a rehearsal gives up. */
const MOST_BOT_CHOICES = 10_000;

/** What a sheet counts is run, so that a fault in it is found, and is not kept. */
const unheard = (): void => {};

class Failed extends Error {
  constructor(
    message: string,
    readonly at: At,
  ) {
    super(message);
  }
}

/**
 * Runs one rehearsal. Pauses end at once.
 * @param coverage notes what of the sheet it reaches
 */
export function rehearse(program: Program, rehearsal: Rehearsal, coverage?: Coverage): RehearsalResult {
  const rows: Row[] = [];
  const { title, line } = rehearsal;
  let at: At = 0;
  try {
    const run = new Run(program, rehearsal, rows, coverage);
    for (const step of rehearsal.steps) {
      at = step.at;
      run.step(step);
    }
    run.end();
    return { title, line, passed: true, failure: null, rows };
  } catch (error) {
    if (error instanceof Failed) return failed(rehearsal, rows, lineOf(error.at), error.message);
    if (error instanceof Fault)
      return failed(
        rehearsal,
        rows,
        lineOf(at) || line,
        `the sheet made a fault in ${lineWords(program, error.line)}: ${error.message}`,
      );
    if (error instanceof SetupError) return failed(rehearsal, rows, line, error.message);
    throw error;
  }
}

function failed(rehearsal: Rehearsal, rows: readonly Row[], line: number, message: string): RehearsalResult {
  return { title: rehearsal.title, line: rehearsal.line, passed: false, failure: { line, message }, rows };
}

/** How many words must be put in, taken out or changed to make one text another (Levenshtein's distance, of words). */
function changedWords(a: string, b: string): number {
  const [from, to] = [a.split(' '), b.split(' ')];
  let before = Array.from({ length: to.length + 1 }, (_, i) => i);
  for (const [i, word] of from.entries()) {
    const now = [i + 1];
    for (const [j, other] of to.entries())
      now.push(
        Math.min((now[j] as number) + 1, (before[j + 1] as number) + 1, (before[j] as number) + Number(word !== other)),
      );
    before = now;
  }
  return before.at(-1) as number;
}

class Run {
  private readonly table: Table;
  private readonly said: string[] = [];
  /** How much was said before the chapter under way, and before the one that was last spoken in. */
  private chapterFrom = 0;
  private spokenFrom = 0;
  /** The step under way: what an expression in it cannot find is told there. */
  private at: At = 0;

  constructor(
    program: Program,
    private readonly rehearsal: Rehearsal,
    private readonly rows: Row[],
    private readonly coverage: Coverage | undefined,
  ) {
    const prepare = (game: Game, state: State): void => {
      for (const start of rehearsal.starts) {
        const base = game.layout.varBase[start.variable] ?? 0;
        const width = game.layout.varWidth[start.variable] ?? 1;
        state.f[base + width * Math.max(0, start.owner) + start.second] = Number(
          game.code.probes[start.probe]?.(state),
        );
      }
    };
    const { seats, settings, gets } = rehearsal;
    this.table = new Table(
      program,
      { seats, settings, gets, seed: `rehearsal ${rehearsal.title}` },
      { prepare, reached: coverage?.hit, counting: unheard, rehearsing: Object.keys(gets).length > 0 },
    );
    this.hear(this.table.opening.for(OPEN));
    this.passPauses();
  }

  private hear(events: ReturnType<Table['opening']['for']>): void {
    for (const event of events) {
      if (event.kind === 'said' || event.kind === 'told') this.said.push(event.text);
      if (event.kind !== 'chapter') continue;
      if (this.said.length > this.chapterFrom) this.spokenFrom = this.chapterFrom;
      this.chapterFrom = this.said.length;
    }
  }

  /** What must be so once all steps are done: every card that was promised has come. */
  end(): void {
    const { game, state } = this.table;
    for (const [i, pile] of game.promisedPiles.entries()) {
      const path = game.layout.piles[pile]?.path ?? '';
      const { at, source } = this.rehearsal.promises[path] ?? { at: 0, source: path };
      const faces = (this.rehearsal.gets[path] ?? '').split(' ');
      const came = state.f[game.promisedBase + i] as number;
      if (came < faces.length)
        throw new Failed(
          `${source} was promised ${faces.slice(came).join(' ')}, and that never came: ${came} of ${faces.length} came.`,
          at,
        );
    }
  }

  private passPauses(): void {
    while (this.table.isPaused) {
      const played = this.table.resume();
      this.rows.push(played.row);
      this.hear(played.stepEvents.for(OPEN));
    }
  }

  /** @throws Failed where the rehearsal's own expression cannot be answered */
  private probe(i: number): unknown {
    const { game, state } = this.table;
    game.code.begin();
    try {
      return game.code.probes[i]?.(state);
    } catch (error) {
      if (error instanceof Fault) throw new Failed(`this cannot be answered: ${error.message}`, this.at);
      throw error;
    }
  }

  private name(seat: number): string {
    return this.rehearsal.seats[seat] ?? 'nobody';
  }

  /** Its expressions are the author's own, who sees all cards; by its face a card is named as at the table. */
  private naming(seat: number): Naming {
    const { game, state } = this.table;
    return { ...openly(game, state), isNamed: asSeen(game, state, seat).isNamed };
  }

  private judged(choice: RehearsedChoice, wire = this.wire(choice)): Answer | Refusal {
    return judge(this.table.game, this.table.state, choice.seat, wire, this.naming(choice.seat));
  }

  private wire(choice: RehearsedChoice): { ask: number; option: string; args: Record<string, unknown> } {
    const args: Record<string, unknown> = {};
    for (const [i, name] of choice.params.entries()) {
      const arg = choice.args[i];
      if (!arg) continue;
      if ('face' in arg) args[name] = arg.face;
      else if ('faces' in arg) args[name] = arg.faces;
      else {
        const value = this.probe(arg.probe);
        args[name] = writeArg(
          this.table.game,
          this.naming(choice.seat),
          arg.t,
          Array.isArray(value) ? value : Number(value),
        );
      }
    }
    return { ask: this.table.openAsk, option: choice.option, args };
  }

  /** A probed text, as somebody who sees all cards hears it. */
  private words(text: number): string {
    return render(this.probe(text) as Piece[], renderingFor(this.table.game, OPEN));
  }

  step(step: RehearsalStep): void {
    const { table } = this;
    this.at = step.at;
    switch (step.k) {
      case 'choose': {
        const wire = this.wire(step.choice);
        const judged = this.judged(step.choice, wire);
        const unclear = isRefusal(judged) ? null : ambiguity(table.game, table.state, step.choice, judged);
        if (unclear) throw new Failed(unclear, step.at);
        // What is refused may still take back a choice, or come too late for a race.
        const { seat } = step.choice;
        const result = isRefusal(judged)
          ? table.choose(seat, wire, 'person', this.naming(seat))
          : table.carryOut(seat, judged, 'person');
        if (!isPlayed(result)) throw new Failed(`${this.name(step.choice.seat)} may not: ${result.reason}`, step.at);
        this.rows.push(result.row);
        this.hear(result.stepEvents.for(OPEN));
        this.passPauses();
        return;
      }
      case 'asked':
        if (!table.asked.includes(step.seat)) {
          const who = table.asked.map((seat) => this.name(seat));
          throw new Failed(
            `${this.name(step.seat)} is not asked; ${who.length > 0 ? `${who.join(' and ')} ${who.length > 1 ? 'are' : 'is'}` : table.isOver ? 'the game is over' : 'nobody is'}.`,
            step.at,
          );
        }
        return;
      case 'refused':
        this.refused(step);
        return;
      case 'finished':
        if (!table.isOver)
          throw new Failed(
            `the game is not over: ${table.asked.map((seat) => this.name(seat)).join(' and ')} is asked.`,
            step.at,
          );
        return;
      case 'said': {
        const text = this.words(step.text);
        if (!this.said.includes(text)) throw new Failed(`"${text}" was not said. ${this.saidInstead(text)}`, step.at);
        return;
      }
      case 'holds':
        this.holds(step);
        return;
      case 'bot':
        this.letBotPlay(step);
        return;
      case 'clock':
        this.letClockPlay(step);
    }
  }

  /** What was said in the chapter under way, or else in the last one with words; what is nearest to a text first. */
  private saidInstead(text: string): string {
    const here = this.said.slice(this.chapterFrom);
    const lines = [...new Set(here.length > 0 ? here : this.said.slice(this.spokenFrom))];
    if (lines.length === 0) return 'Nothing was said yet.';
    const nearest = lines
      .map((line, i) => ({ line, i, changed: changedWords(line, text) }))
      .sort((a, b) => a.changed - b.changed || b.i - a.i);
    return `This was said${here.length > 0 ? '' : ' in the chapter before'}, the nearest first:${nearest.map(({ line }) => `\n  "${line}"`).join('')}`;
  }

  private refused(step: Extract<RehearsalStep, { k: 'refused' }>): void {
    const judged = this.judged(step.choice);
    if (!isRefusal(judged))
      throw new Failed(`${this.name(step.choice.seat)} may choose "${step.choice.option}" here.`, step.at);
    if (judged.need !== undefined) this.coverage?.hit('refusal', judged.need);
    if (step.reason === null) return;
    const wanted = this.words(step.reason);
    const { reason }: Refusal = judged;
    if (reason !== wanted) throw new Failed(`the refusal says "${reason}", not "${wanted}".`, step.at);
  }

  private holds(step: Extract<RehearsalStep, { k: 'holds' }>): void {
    if (this.probe(step.probe) === true) return;
    if (!step.sides) throw new Failed(`this does not hold: ${step.source}.`, step.at);
    const [a, b] = step.sides;
    throw new Failed(
      `${a.source} is ${this.shown(a)}, and this expects ${step.source}${b.source === this.shown(b) ? '' : ` (${b.source} is ${this.shown(b)})`}.`,
      step.at,
    );
  }

  private shown(side: Side): string {
    const raw = this.probe(side.probe);
    if (typeof raw === 'boolean') return raw ? 'yes' : 'no';
    const { game } = this.table;
    const v = raw as number;
    if (side.t === 'seat') return v < 0 ? 'nothing' : this.name(v);
    if (side.t === 'card') return v < 0 ? 'nothing' : faceText(game.layout.faces[v] as number);
    if (side.t === 'poker') return handName(v);
    if (Array.isArray(raw)) return raw.map((item) => this.item(side.t, item)).join(' ') || 'none';
    if (side.t.startsWith('kind:'))
      return game.program.kinds.find((k) => `kind:${k.name}` === side.t)?.members[v]?.name ?? String(v);
    return String(v);
  }

  /** One item of a list that a failure shows. */
  private item(t: Type, v: unknown): string {
    if (t === 'list:card') return faceText(this.table.game.layout.faces[v as number] as number);
    return t === 'list:seat' ? this.name(v as number) : String(v);
  }

  private letClockPlay({ seat, at }: Extract<RehearsalStep, { k: 'clock' }>): void {
    const { table } = this;
    const { asked, waiting } = table;
    if (asked.length === 0) throw new Failed('nobody is asked, so that no clock runs.', at);
    if (waiting.kind !== 'ask' || waiting.clock === null)
      throw new Failed('what is asked here has no clock: it would say "within 20s else …".', at);
    if (seat !== null && !asked.includes(seat)) throw new Failed(`${this.name(seat)} is not asked.`, at);
    const plays = (played: Played): void => {
      this.rows.push(played.row);
      this.hear(played.stepEvents.for(OPEN));
    };
    if (table.isRace && seat === null) plays(table.endRace());
    else for (const one of seat === null ? asked : [seat]) plays(table.playClock(one));
    this.passPauses();
  }

  private letBotPlay(step: Extract<RehearsalStep, { k: 'bot' }>): void {
    const { table } = this;
    for (let i = 0; i < MOST_BOT_CHOICES; i++) {
      if (table.isOver || (step.until !== null && this.probe(step.until) === true)) return;
      if (table.asked.length === 0) break;
      // Where anybody may answer, the first seat does for which the bot finds something.
      const played = table.isRace
        ? (firstOf(table.asked, (seat) => table.tryBot(seat, step.bot)) ?? table.endRace())
        : table.playBot(table.asked[0] as number, step.bot);
      this.rows.push(played.row);
      this.hear(played.stepEvents.for(OPEN));
      this.passPauses();
    }
    throw new Failed(`the bot played ${MOST_BOT_CHOICES} choices, and it was not done.`, step.at);
  }
}

/** What is found first for one of several. */
function firstOf<T, R>(items: readonly T[], find: (item: T) => R | null): R | null {
  for (const item of items) {
    const found = find(item);
    if (found !== null) return found;
  }
  return null;
}
