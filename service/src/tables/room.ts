import {
  botNamed,
  Fault,
  type Header,
  isPlayed,
  meaningOf,
  OPEN,
  type Played,
  type Row,
  replay,
  type Table,
  WATCHER,
  type WireChoice,
} from '@wily-jester/core';
import type { Choice, Chosen, Offers, ServerMessage, Step, TableSummary, TableView } from '@wily-jester/protocol';
import jsonPatch from 'fast-json-patch';
import type { Logger } from 'pino';
import type { Sequelize } from 'sequelize';
import type { Metrics } from '../metrics.js';
import { Problem } from '../problems.js';
import { programOf } from '../sheets/shelf.js';
import { isAway, isTaken } from '../storage/database.js';
import { AuditRow, ChoiceRow, FaultRow, TableRow } from '../storage/models.js';
import { Pacing } from './pacing.js';
import { chosenBefore, headerOf, rowOf, type SeatHolder, settingsOf, summaryOf } from './rows.js';

/** Somebody who follows a table: a seat (from 0), {@link WATCHER} or {@link OPEN}. */
export interface Follower {
  readonly viewer: number;
  send(message: ServerMessage): void;
}

/** What is kept in memory of a step, to tell it again. */
type Happened = Pick<Played, 'happenings' | 'scores'>;
const openingOf = (table: Table): Happened => ({ happenings: table.opening, scores: table.scores() });

/** A client's choice as it came: its word, with its seat before it, and its values. */
interface Sent {
  readonly word: string;
  readonly args: WireChoice['args'];
}

interface Following {
  readonly follower: Follower;
  last: TableView;
}

/** What a room needs from the service around it. */
export interface House {
  readonly database: Sequelize;
  readonly log: Logger;
  readonly metrics: Metrics;
}

/**
 * One table that is in use: its state in memory, and the only way to change it. Everything that
 * changes it runs one after the other, and a choice is answered only once it is kept.
 */
export class Room {
  private readonly following = new Set<Following>();
  private queue: Promise<unknown> = Promise.resolve();
  private readonly pacing: Pacing;
  /** What happened, by number; the opening first. */
  private readonly steps: Happened[];
  private fault: TableSummary['fault'] = null;
  lastUsed = Date.now();

  private constructor(
    private readonly house: House,
    private readonly row: TableRow,
    private table: Table,
    steps: Happened[],
    readonly holders: readonly SeatHolder[],
  ) {
    this.steps = steps;
    this.pacing = new Pacing(row.pace, row.clocks, holders, {
      bot: (seat) => this.act(() => this.playBot(seat)),
      clock: (seat, ask) => this.act(() => this.playClock(seat, ask)),
      resume: (ask) => this.act(() => this.resume(ask)),
      changed: () => this.tellClock(),
    });
  }

  /** Loads a table from its rows. @throws Problem for an unknown table, ReplayError for a record that does not hold */
  static async load(house: House, id: string): Promise<Room> {
    const row = await TableRow.findByPk(id);
    if (!row) throw new Problem('not-found', `There is no table ${id}.`);
    const program = await programOf(row.sheetHash);
    const rows = await ChoiceRow.findAll({ where: { tableId: id }, order: [['number', 'ASC']] });
    const happened: Happened[] = [];
    const table = replay(program, headerOf(row), rows.map(rowOf), {
      live: true,
      seen: (played) => happened.push(played),
    });
    const holders = JSON.parse(row.bots) as SeatHolder[];
    const room = new Room(house, row, table, [openingOf(table), ...happened], holders);
    if (row.status === 'fault') {
      const fault = await FaultRow.findOne({ where: { tableId: id }, order: [['id', 'DESC']] });
      if (fault) room.fault = { message: fault.message, line: fault.line, column: fault.column, number: fault.number };
    }
    room.wake();
    return room;
  }

  get id(): string {
    return this.row.id;
  }
  get isFollowed(): boolean {
    return this.following.size > 0;
  }
  get number(): number {
    return this.table.number;
  }

  /** Runs one thing after the other. */
  private serial<T>(work: () => Promise<T>): Promise<T> {
    this.lastUsed = Date.now();
    const run = this.queue.then(work, work);
    this.queue = run.catch(() => undefined);
    return run;
  }

  /** Something the table does by itself: what goes wrong there is noted, and tried again where that may help. */
  private act(work: () => Promise<unknown>): void {
    this.serial(work).catch((error: unknown) => {
      this.house.log.warn(
        { table: this.id, error: error instanceof Error ? error.message : String(error) },
        'the table could not go on by itself',
      );
      if (error instanceof Problem && error.kind === 'unavailable') this.pacing.again(1_000, () => this.wake());
    });
  }

  /** Sets clocks and bots going for where the table stands. */
  private wake(): void {
    if (this.row.status !== 'open') {
      this.pacing.rest();
      return;
    }
    const { waiting } = this.table.view(WATCHER);
    this.pacing.wake(waiting, this.table.asked);
  }

  private tellClock(): void {
    const clock = this.pacing.clock();
    for (const { follower } of this.following) follower.send({ type: 'clock', number: this.number, clock });
  }

  // ---- looking

  view(viewer: number): TableView {
    this.lastUsed = Date.now();
    return this.table.view(viewer) as unknown as TableView;
  }

  summary(): TableSummary {
    return summaryOf(this.row, this.table.game.program.name, settingsOf(this.table.game), this.holders, this.fault);
  }

  /** What happened after a number, for a viewer. */
  since(from: number, viewer: number): Step[] {
    const steps: Step[] = [];
    for (let number = Math.max(0, from + 1); number <= this.number; number++) steps.push(this.step(number, viewer));
    return steps;
  }

  private step(number: number, viewer: number): Step {
    const step = this.steps[number];
    const events = step?.happenings.for(viewer) ?? [];
    return {
      number,
      events,
      lines: this.table.linesOf(events, number, viewer),
      scores: step?.scores ?? [],
    } as unknown as Step;
  }

  offers(seat: number): Offers {
    const view = this.view(seat);
    return { number: view.number, ask: this.table.openAsk, seat: seat + 1, offers: view.offers };
  }

  /** Notes that hands were laid open with a developer's key. */
  async audit(what: string): Promise<void> {
    await AuditRow.create({ tableId: this.id, what, number: this.number, at: new Date() });
  }

  follow(follower: Follower, from: number | null): () => void {
    const last = structuredClone(this.view(follower.viewer));
    const entry: Following = { follower, last };
    this.following.add(entry);
    follower.send({
      type: 'view',
      number: this.number,
      view: last,
      steps: this.since(from ?? -1, follower.viewer),
      clock: this.pacing.clock(),
      table: this.summary(),
    });
    return () => {
      this.following.delete(entry);
      this.lastUsed = Date.now();
    };
  }

  // ---- choosing

  /** A seat's choice, in the order of work: seen before? whose? stale? legal? kept? only then told. */
  choose(seat: number, choice: Choice): Promise<Chosen> {
    return this.serial(async () => {
      const before = await chosenBefore(this.id, seat, choice);
      if (before) {
        // Kept, though the database's answer was lost: the table catches up.
        if (before.number > this.number) await this.reload();
        return before;
      }
      if (this.row.status === 'closed')
        throw new Problem('closed', 'This table is closed: nothing can be chosen any more.');
      const wire: WireChoice = { ask: choice.ask, option: choice.option, args: choice.args ?? {} };
      const played = await this.attempt(
        () => {
          const result = this.table.choose(seat, wire);
          if (isPlayed(result)) return result;
          this.house.metrics.refusals.inc({ kind: result.kind });
          const extra = {
            number: this.number,
            option: choice.option,
            ...(result.line === undefined ? {} : { line: result.line }),
          };
          const kinds = {
            turn: 'turn',
            stale: 'stale',
            unknown: 'unknown-option',
            malformed: 'malformed',
            illegal: 'refused',
          } as const;
          throw new Problem(kinds[result.kind], result.reason, extra);
        },
        { word: `${seat + 1} ${choice.once}`, args: wire.args },
      );
      const { number, option, args } = played.row;
      return { number, seat: seat + 1, option, args: { ...args } as Chosen['args'], repeated: false };
    });
  }

  private async playBot(seat: number): Promise<void> {
    const bot = botNamed(this.table.game, this.holders[seat]?.bot ?? '');
    if (this.row.status !== 'open' || bot < 0 || !this.table.asked.includes(seat)) return;
    await this.attempt(() => this.table.playBot(seat, bot), null);
  }

  private async playClock(seat: number, ask: number): Promise<void> {
    if (this.row.status !== 'open' || this.table.openAsk !== ask || !this.table.asked.includes(seat)) return;
    await this.attempt(() => this.table.playClock(seat), null);
  }

  private async resume(ask: number): Promise<void> {
    if (this.row.status !== 'open' || !this.table.isPaused || this.table.openAsk !== ask) return;
    await this.attempt(() => this.table.resume(), null);
  }

  /** Carries out a step, keeps it, and tells it; what cannot be kept did not happen. */
  private async attempt(carryOut: () => Played, sent: Sent | null): Promise<Played> {
    let played: Played;
    try {
      played = carryOut();
    } catch (error) {
      if (error instanceof Fault) await this.keepFault(error);
      throw error instanceof Fault
        ? new Problem(
            'fault',
            `Line ${error.line}: ${error.message} The table stands where it stood, at choice ${this.number}.`,
            { line: error.line, column: error.column, number: this.number },
          )
        : error;
    }
    try {
      await this.keep(played.row, sent);
    } catch (error) {
      this.table.takeBack();
      if (isTaken(error)) {
        await this.reload();
        throw new Problem('stale', `Another choice came first; the table is at number ${this.number}.`, {
          number: this.number,
        });
      }
      if (isAway(error))
        throw new Problem('unavailable', 'The database does not answer. Nothing was changed: try again.');
      throw error;
    }
    this.house.metrics.choices.inc({ by: played.row.by });
    this.steps[played.row.number] = played;
    this.publish(played.row.number);
    this.wake();
    return played;
  }

  private async keep(row: Row, sent: Sent | null): Promise<void> {
    const now = new Date();
    const view = this.table.view(WATCHER);
    const status = this.table.isOver ? 'over' : 'open';
    await this.house.database.transaction(async (transaction) => {
      await ChoiceRow.create(
        {
          tableId: this.id,
          number: row.number,
          seat: row.seat,
          by: row.by,
          ask: row.ask,
          option: row.option,
          args: JSON.stringify(row.args),
          digest: row.digest,
          once: sent?.word ?? null,
          sent: sent && JSON.stringify(sent.args),
          at: now,
        },
        { transaction },
      );
      await TableRow.update(
        { number: row.number, chapter: view.chapter.title.slice(0, 200), status, changedAt: now },
        { where: { id: this.id }, transaction },
      );
    });
    Object.assign(this.row, { number: row.number, chapter: view.chapter.title.slice(0, 200), changedAt: now });
    this.row.status = status;
    this.fault = null;
  }

  private async keepFault(fault: Fault): Promise<void> {
    const { message, line, column } = fault;
    this.house.metrics.faults.inc();
    this.house.log.error({ table: this.id, number: this.number, line, message }, 'the sheet made a fault');
    await FaultRow.create({
      tableId: this.id,
      number: this.number,
      message,
      line,
      column,
      state: meaningOf(this.table.game, this.table.state),
      at: new Date(),
    });
    await TableRow.update({ status: 'fault' }, { where: { id: this.id } });
    this.row.status = 'fault';
    this.fault = { message, line, column, number: this.number };
    this.pacing.rest();
    this.tellStatus();
  }

  /** Catches up with rows that another process kept. */
  private async reload(): Promise<void> {
    const rows = await ChoiceRow.findAll({ where: { tableId: this.id }, order: [['number', 'ASC']] });
    const happened: Happened[] = [];
    this.table = replay(this.table.game.program, this.table.header as Header, rows.map(rowOf), {
      live: true,
      seen: (played) => happened.push(played),
    });
    const from = this.steps.length;
    this.steps.splice(0, this.steps.length, openingOf(this.table), ...happened);
    await this.row.reload();
    for (let number = from; number <= this.number; number++) this.publish(number);
    this.wake();
  }

  /** Tells each follower what it may know: its events, its sentences, and what changed in its view. */
  private publish(number: number): void {
    const views = new Map<number, TableView>();
    const steps = new Map<number, Step>();
    for (const entry of this.following) {
      const { viewer } = entry.follower;
      let view = views.get(viewer);
      if (!view) {
        view = structuredClone(this.table.view(viewer)) as unknown as TableView;
        views.set(viewer, view);
        steps.set(viewer, this.step(number, viewer));
      }
      const patch = jsonPatch.compare(entry.last, view) as NonNullable<ServerMessage['patch']>;
      entry.last = view;
      const step = steps.get(viewer) as Step;
      entry.follower.send({ type: 'step', number, events: step.events, lines: step.lines, scores: step.scores, patch });
    }
    if (this.row.status !== 'open') this.tellStatus();
  }

  private tellStatus(): void {
    const table = this.summary();
    for (const { follower } of this.following) follower.send({ type: 'status', number: this.number, table });
  }

  close(): Promise<TableSummary> {
    return this.serial(async () => {
      if (this.row.status !== 'over') {
        const now = new Date();
        await TableRow.update({ status: 'closed', changedAt: now }, { where: { id: this.id } });
        this.row.status = 'closed';
        this.row.changedAt = now;
      }
      this.pacing.rest();
      this.tellStatus();
      return this.summary();
    });
  }

  /** Lets go of the table: its timers stop, and its rows remain. */
  letGo(): void {
    this.pacing.rest();
  }

  /** Waits until nothing is under way. */
  async settle(): Promise<void> {
    await this.queue;
  }
}

/** The viewer that a word or a seat's number stands for: seats are counted from 1 outside. */
export function viewerOf(word: string | number, seats: number): number {
  if (word === 'watch') return WATCHER;
  if (word === 'open') return OPEN;
  const seat = Number(word);
  if (!Number.isInteger(seat) || seat < 1 || seat > seats)
    throw new Problem('malformed', `"${word}" is no viewer: a seat from 1 to ${seats}, "watch" or "open".`);
  return seat - 1;
}
