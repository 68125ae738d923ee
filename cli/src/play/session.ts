import { randomBytes, randomInt } from 'node:crypto';
import { type FSWatcher, watch } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { createInterface, type Interface } from 'node:readline';
import {
  Fault,
  isPlayed,
  lineWords,
  OPEN,
  type Played,
  type Program,
  planOf,
  ReplayError,
  type Row,
  replay,
  SetupError,
  type SolvedPolicy,
  solvedChoice,
  Table,
  WATCHER,
  type WireChoice,
} from '@wily-jester/core';
import type { OfferedOption, Plan } from '@wily-jester/protocol';
import type { SeatWish } from '../commands/seating.js';
import { Exit, NO } from '../exit.js';
import { checkText } from '../files.js';
import { solvedPolicy } from '../match/players.js';
import { paint, sentence } from '../show/paint.js';
import { faultWords } from '../show/places.js';
import { print } from '../show/print.js';
import { problemLines } from '../show/problems.js';
import { offerLines, tableLines } from '../show/table.js';
import { argsFrom } from '../values.js';
import { budgetFor, HINT, hintLines, playFor } from './opponents.js';

/** What a game is opened with. */
export interface Opening {
  readonly file: string;
  readonly source: string;
  readonly program: Program;
  readonly seats: readonly SeatWish[];
  readonly settings: Readonly<Record<string, number | boolean | string>>;
  readonly seed: string;
  readonly open: boolean;
  readonly watch: boolean;
}

const HELP = `  a number, or an option with its values: 1, bet 20, bet amount=20, swap 7D JD
  hint   what thinking for a second would choose, and what that is worth
  undo   take back the last choice (and what bots did after it)
  wait   let the others be first, where the first answer counts
  log    all that was said so far
  again  a new game, with other cards
  seed   the word that gives this game again
  quit   end here`;

const AFTER = 'What now? log: all that was said · undo: one choice back · again: a new game · quit';

/** A hint counts no more playouts than this. */
const MOST_PLAYOUTS = 200_000;

/** A seat that has to choose, and for which nothing was found, ends the game. */
function nothingLeft(table: Table, seat: number): never {
  throw new Exit(`${table.header.seats[seat]} is asked, and nothing that may be chosen was found.`, NO);
}

/** The same items, in an order by chance. */
const inAnyOrder = <T>(items: readonly T[]): T[] =>
  items
    .map((item) => ({ item, at: randomInt(2 ** 32) }))
    .sort((a, b) => a.at - b.at)
    .map(({ item }) => item);

/** One game in the terminal: bots play at once, pauses end at once, people type. */
export class Session {
  private readonly solutions = new WeakMap<Program, SolvedPolicy>();
  private table: Table;
  private program: Program;
  private rows: Row[] = [];
  private plan: Plan;
  private said: string[] = [];
  private lines: Interface | undefined;
  private watcher: FSWatcher | undefined;
  private seed: string;
  /** Whether the person lets the others be first, where the first answer counts. */
  private letsOthers = false;
  /** A new text that does not fit the game so far: the next game is played on it. */
  private next: Program | undefined;

  constructor(private readonly opening: Opening) {
    this.program = opening.program;
    this.demandSolvable(this.program);
    this.seed = opening.seed;
    this.plan = planOf(this.program);
    this.table = this.newTable();
    this.hear(this.table.opening);
  }

  private header() {
    const { seats, settings } = this.opening;
    return { seats: seats.map((seat) => seat.name), settings, seed: this.seed };
  }

  /** The eyes that the screen looks through: the person who is asked, or everybody's. */
  private viewer(): number {
    if (this.opening.open) return OPEN;
    const people = this.opening.seats.flatMap((seat, i) => (seat.bot === undefined ? [i] : []));
    return people.find((seat) => this.table.asked.includes(seat)) ?? people[0] ?? WATCHER;
  }

  private hear(happened: Played['stepEvents']): void {
    const lines = this.table.lines(happened, this.table.number, this.viewer());
    for (const line of lines) {
      const text = line.kind === 'chapter' ? paint.bold(line.text) : sentence(line.text);
      this.said.push(text);
      print(text);
    }
  }

  private accept(played: Played): void {
    this.rows.push(played.row);
    this.hear(played.stepEvents);
  }

  /** Plays on until a person is asked or the game is over. */
  private advance(): void {
    while (!this.table.isOver) {
      if (this.table.isPaused) {
        this.accept(this.table.resume());
        continue;
      }
      const bots = this.table.asked.filter((seat) => this.opening.seats[seat]?.bot !== undefined);
      if (this.table.isRace) {
        const isPersonIn = bots.length < this.table.asked.length;
        if (isPersonIn && !this.letsOthers) return;
        this.letsOthers = false;
        const played = this.race(bots, isPersonIn);
        if (!played) return;
        this.accept(played);
        continue;
      }
      const [seat] = bots;
      if (seat === undefined) return;
      this.accept(this.playedBy(seat) ?? nothingLeft(this.table, seat));
    }
  }

  private playedBy(seat: number): Played | null {
    return playFor(this.table, seat, this.opening.seats[seat]?.bot ?? '', (asked) => this.solvedChoice(asked));
  }

  private solvedChoice(seat: number): WireChoice | null {
    return solvedChoice(this.program, this.header(), this.rows, seat, this.solutionOf(this.program));
  }

  /** What seats play by that are called `solved`: found once for each text. @throws Exit where the game cannot be solved */
  private solutionOf(program: Program): SolvedPolicy {
    const { seats, settings } = this.opening;
    const known = this.solutions.get(program) ?? solvedPolicy({ program, seats: seats.length, settings });
    this.solutions.set(program, known);
    return known;
  }

  /** Insists that those can play who play by a solution. @throws Exit where the game cannot be solved */
  private demandSolvable(program: Program): void {
    if (this.opening.seats.some(({ bot }) => bot === 'solved')) this.solutionOf(program);
  }

  /** A table at which everybody may think: persons, too, may ask for a hint. */
  private newTable(): Table {
    return new Table(this.program, this.header(), { thinking: this.thinking() });
  }
  private thinking(): number[] {
    return [...this.opening.seats.keys()];
  }

  /** What the first bot plays that has an answer, in an order by chance; else what the clock plays, if nobody else is left. */
  private race(bots: readonly number[], isPersonIn: boolean): Played | null {
    for (const seat of inAnyOrder(bots)) {
      const played = this.playedBy(seat);
      if (played) return played;
    }
    return isPersonIn && this.table.waiting.kind === 'ask' && this.table.waiting.clock === null
      ? null
      : this.table.endRace();
  }

  async run(): Promise<void> {
    this.lines = createInterface({
      input: process.stdin,
      output: process.stdout,
      terminal: process.stdin.isTTY === true,
      prompt: '› ',
    });
    if (this.opening.watch) this.watchSheet();
    this.advance();
    this.show();
    try {
      for await (const line of this.lines) {
        if (this.hearPerson(line.trim())) break;
      }
    } finally {
      this.watcher?.close();
      this.lines.close();
    }
  }

  private show(): void {
    print();
    const view = this.table.view(this.viewer());
    for (const line of tableLines(view, this.plan)) print(line);
    if (this.table.isOver) {
      const winners = (view.result?.winners ?? []).map((seat) => view.seats[seat - 1]?.name);
      print(
        `\n${paint.bold('The game is over.')} ${winners.length > 0 ? `${winners.join(' and ')} ${winners.length === 1 ? 'wins' : 'win'}.` : ''}`,
      );
      print(paint.dim(AFTER));
      this.lines?.prompt();
      return;
    }
    const seat = this.personAsked();
    const clock = view.waiting.kind === 'ask' ? view.waiting.clock : null;
    print(
      `\n${paint.bold(this.opening.seats[seat]?.name ?? '')} ${this.table.isRace ? 'may be first (or wait)' : 'is asked'}${clock ? paint.dim(` (live: ${clock.seconds} s, then ${clock.otherwise})`) : ''}:`,
    );
    for (const line of offerLines(this.offers(seat))) print(line);
    this.lines?.prompt();
  }

  /** The seat that is asked and has a person. */
  private personAsked(): number {
    return this.table.asked.find((seat) => this.opening.seats[seat]?.bot === undefined) ?? 0;
  }

  private offers(seat: number): readonly OfferedOption[] {
    return this.table.view(seat).offers;
  }

  /** What a person typed. Gives true when the game should end. */
  private hearPerson(line: string): boolean {
    const [word = '', ...rest] = line.split(/\s+/);
    switch (word) {
      case '':
        this.lines?.prompt();
        return false;
      case 'quit':
      case 'q':
        return true;
      case 'help':
      case '?':
        print(HELP);
        this.lines?.prompt();
        return false;
      case 'log':
        for (const text of this.said) print(text);
        this.lines?.prompt();
        return false;
      case 'seed':
        print(this.seed);
        this.lines?.prompt();
        return false;
      case 'hint':
      case 'why':
        this.hint();
        return false;
      case 'wait':
        this.wait();
        return false;
      case 'undo':
      case 'back':
        this.undo();
        return false;
      case 'again':
        this.again();
        return false;
      default:
        this.choose(word, rest);
        return false;
    }
  }

  private choose(word: string, rest: readonly string[]): void {
    if (this.table.isOver) {
      print(AFTER);
      this.lines?.prompt();
      return;
    }
    const seat = this.personAsked();
    const offers = this.offers(seat);
    const legal = offers.filter((offer) => offer.legal);
    const offer = offers.find((o) => o.option === word) ?? (/^\d+$/.test(word) ? legal[Number(word) - 1] : undefined);
    try {
      const args = offer?.legal ? argsFrom(offer, rest) : {};
      const result = this.table.choose(seat, { ask: this.table.openAsk, option: offer?.option ?? word, args });
      if (!isPlayed(result)) {
        print(
          paint.yellow(result.reason) +
            (result.line === undefined ? '' : paint.dim(`  (${lineWords(this.program, result.line)})`)),
        );
        this.lines?.prompt();
        return;
      }
      this.accept(result);
      this.advance();
    } catch (error) {
      if (error instanceof Exit) print(paint.yellow(`${error.message} ${error.next ?? ''}`));
      else if (error instanceof Fault)
        print(paint.red(`${faultWords(this.program, error)} The table stands where it stood.`));
      else throw error;
      this.lines?.prompt();
      return;
    }
    this.show();
  }

  /** What thinking for a moment comes to, for whoever is asked. */
  private hint(): void {
    const seat = this.personAsked();
    if (this.table.isOver || !this.table.asked.includes(seat)) print('Nothing is asked of anybody here.');
    else {
      const thought = this.table.think(seat, budgetFor(HINT, MOST_PLAYOUTS));
      for (const line of thought ? hintLines(this.table, seat, thought) : ['Nothing was found.']) print(line);
    }
    this.lines?.prompt();
  }

  /** Lets the others be first, and the clock run down. */
  private wait(): void {
    if (!this.table.isRace) print('Nobody else can be first here: it is your turn.');
    else {
      const { number } = this.table;
      this.letsOthers = true;
      this.advance();
      if (this.table.number === number) print('Nobody else answers.');
    }
    this.show();
  }

  /** Goes back to before the last choice of a person. */
  private undo(): void {
    const last = this.rows.findLastIndex((row) => row.by === 'person');
    if (last < 0) {
      print('There is nothing to take back.');
      this.lines?.prompt();
      return;
    }
    this.rows = this.rows.slice(0, last);
    this.table = replay(this.program, this.header(), this.rows, { thinking: this.thinking() });
    const back = `Back at number ${this.table.number}.`;
    this.said.push(paint.dim(back));
    print(back);
    this.show();
  }

  /** A new game, with other cards; on the new text, where one did not fit the game before. */
  private again(): void {
    this.program = this.next ?? this.program;
    this.next = undefined;
    this.plan = planOf(this.program);
    this.seed = randomBytes(8).toString('hex');
    this.rows = [];
    this.said = [];
    this.table = this.newTable();
    this.hear(this.table.opening);
    this.advance();
    this.show();
  }

  // ---- the sheet changes meanwhile

  private watchSheet(): void {
    let text = this.opening.source;
    let timer: NodeJS.Timeout | undefined;
    this.watcher = watch(this.opening.file, () => {
      clearTimeout(timer);
      timer = setTimeout(async () => {
        const now = await readFile(this.opening.file, 'utf8').catch(() => text);
        if (now === text || now.trim() === '') return;
        text = now;
        await this.changed(now);
      }, 60);
    });
    print(paint.dim(`Watching ${this.opening.file}: every save is checked and tried.`));
  }

  private async changed(text: string): Promise<void> {
    const { program, problems } = await checkText(this.opening.file, text);
    print();
    if (!program) {
      for (const line of problemLines(
        problems.filter((p) => p.severity === 'error'),
        this.opening.file,
        text,
      ))
        print(line);
      print(paint.dim('The game goes on with the text before.'));
      this.lines?.prompt();
      return;
    }
    try {
      this.demandSolvable(program);
    } catch (error) {
      if (!(error instanceof Exit)) throw error;
      print(paint.yellow(`A seat plays by a solution, and the new text has none. ${error.message}`));
      print(paint.dim('The game goes on with the text before.'));
      this.lines?.prompt();
      return;
    }
    try {
      const table = replay(program, this.header(), this.rows, { check: false, thinking: this.thinking() });
      this.program = program;
      this.plan = planOf(program);
      this.table = table;
      print(paint.green(`The new text: all ${this.rows.length} choices so far fit it.`));
      this.advance();
      this.show();
    } catch (error) {
      if (!(error instanceof ReplayError || error instanceof SetupError || error instanceof Fault)) throw error;
      print(paint.yellow(`The new text does not fit the game so far. ${error.message}`));
      print(paint.dim('The game goes on with the text before; "again" begins anew with the new one.'));
      this.next = program;
      this.lines?.prompt();
    }
  }
}
