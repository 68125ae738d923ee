import {
  Fault,
  isPlayed,
  type Played,
  ReplayError,
  type Row,
  replayRow,
  settingsByName,
  type Table,
  type Waiting,
  type WireChoice,
} from '@wily-jester/core';
import type { Choice, Chosen, Hint, Offers, Step, TableSummary, TableView } from '@wily-jester/protocol';
import { Op } from 'sequelize';
import { holderOf } from '../access/rights.js';
import type { Follower, Following } from '../broadcast/follower.js';
import { Followers } from '../broadcast/followers.js';
import { MOST_STEPS, RecentSteps, stepFor } from '../broadcast/recent-steps.js';
import { faultProblem, keepingProblem, refusalProblem } from '../failure.js';
import { guarded } from '../guarded.js';
import { CatchUp } from '../peers/catch-up.js';
import type { Peers } from '../peers/peers.js';
import { Problem } from '../problems.js';
import { EVERY, forgetCheckpoints, keepCheckpoint, toCheckpoint } from '../records/checkpoints.js';
import { beginning, type InTurn, inStretches } from '../records/replay.js';
import { headerOf, newRowOf, rowOf, rowsAfter, type Sent } from '../records/rows.js';
import { programOf } from '../sheets/shelf.js';
import { isAway, isTaken } from '../storage/database.js';
import type { Right } from '../storage/keys.js';
import { ChoiceRow, TableRow } from '../storage/models.js';
import { claimThinking } from '../thinking/claim.js';
import { personWish } from '../thinking/wish.js';
import type { TableAccount } from '../workers/accounts.js';
import { hintFor } from './hints.js';
import { Holding } from './holding.js';
import { Idempotency } from './idempotency.js';
import { Line } from './line.js';
import { noteLook } from './looks.js';
import { type Mind, OwnSteps } from './own-steps.js';
import { Pacing } from './pacing.js';
import { type SeatHolder, Seats } from './seats.js';
import { TableStatus, writeStatuses } from './status.js';
import { summaryOf } from './summary.js';
import { unplayableOf, unplayableProblem } from './unplayable.js';

/** So many rows are read at once. */
const ROWS = 2_000;

/**
 * One table that is in use: its state in memory, and the only way to change it. Everything that
 * changes it runs one after the other, and a choice is answered only once it is kept.
 */
export class Room {
  readonly seats: Seats;
  readonly holding: Holding;
  private readonly followers: Followers;
  private readonly idempotency: Idempotency;
  private readonly pacing: Pacing;
  private readonly mind: Mind;
  private readonly steps: RecentSteps;
  private readonly catchUp = new CatchUp({
    known: () => this.number,
    act: (work) => this.line.act(work),
    read: () => this.readRows(),
    isAway,
  });
  readonly status: TableStatus;
  private readonly account: TableAccount;
  private readonly line = new Line({
    inTurn: (work) => this.inTurn(work),
    failed: (error) => this.peers.log.warn({ table: this.id, error }, 'the table could not go on by itself'),
    again: (milliseconds) => this.pacing.again(milliseconds, () => this.wake()),
  });

  private constructor(
    private readonly peers: Peers,
    private readonly row: TableRow,
    private readonly table: Table,
  ) {
    this.account = peers.accounts.table(row.developer);
    this.status = new TableStatus(row);
    this.idempotency = new Idempotency(row.id);
    this.steps = new RecentSteps(table);
    this.seats = new Seats(JSON.parse(row.holders) as SeatHolder[]);
    this.followers = new Followers(
      {
        snapshot: () => this.table.snapshot(),
        since: (from, viewer) => this.steps.since(from, viewer),
        around: () => ({ number: this.number, clock: this.pacing.clock(), table: this.summary() }),
      },
      (error) => {
        peers.metrics.tellingFailures.inc();
        peers.log.error({ table: row.id, error }, 'a viewer could not be told of a step');
      },
    );
    this.holding = new Holding({
      id: row.id,
      peers,
      program: table.game.program,
      seats: this.seats,
      serial: (work) => this.line.run(work),
      audit: (right, what) => this.audit(right, what),
      demandSolvable: () => peers.thinking.solutions.of(this.mind.table),
      changed: () => {
        this.wake();
        this.tellStatus();
        return this.summary();
      },
    });
    this.mind = {
      thinking: peers.thinking,
      table: {
        id: row.id,
        developer: row.developer,
        sheet: row.sheetHash,
        program: table.game.program,
        header: headerOf(row),
        rowsAfter: (number) => rowsAfter(row.id, number),
      },
    };
    const own = new OwnSteps(table, this.seats, this.mind, {
      isOpen: () => this.status.isOpen,
      clockEnd: () => this.pacing.clockEnd,
      attempt: (carryOut) => this.attempt(carryOut, null),
      claim: async (milliseconds) => {
        const isOurs = await claimThinking(row.id, peers.id, milliseconds);
        if (isOurs) peers.metrics.thoughts.inc();
        return isOurs;
      },
      again: (milliseconds, work) => this.pacing.again(milliseconds, () => this.byItself(work)),
      later: (work) => this.line.act(work),
      failed: (error) => peers.log.warn({ table: row.id, error }, 'a seat could not think'),
    });
    this.pacing = new Pacing(row.pace, Boolean(row.clocks), this.seats, {
      bot: (seat) => this.byItself(() => own.bot(seat)),
      clock: (seat, ask) => this.byItself(() => own.clock(seat, ask)),
      time: (ask) => this.byItself(() => own.time(ask)),
      resume: (ask) => this.byItself(() => own.resume(ask)),
      changed: () => this.tellClock(),
    });
  }

  /** Loads a table from its rows. @throws Problem for an unknown table, ReplayError for a record that does not hold */
  static async load(house: Peers, id: string): Promise<Room> {
    // Plain: its values are read and written with every choice.
    const row = await TableRow.findByPk(id, { raw: true });
    if (!row) throw new Problem('not-found', `There is no table ${id}.`);
    const unplayable = unplayableOf(row);
    if (unplayable) throw unplayableProblem(unplayable);
    const program = await programOf(row.sheetHash);
    const begun = await house.turnsOf(row.developer)(() => beginning(program, headerOf(row)));
    const room = new Room(house, row, begun);
    const { status } = row;
    const from = await toCheckpoint(id, room.table);
    if (from > 0) room.beginAt(from);
    try {
      await room.readRows();
    } catch (error) {
      if (from === 0 || !(error instanceof ReplayError)) throw error;
      await forgetCheckpoints(id);
      return Room.load(house, id);
    }
    await room.status.reconcile(status, room.number);
    room.seats.setElsewhere(await house.presentElsewhere(id));
    room.wake();
    return room;
  }

  /** Takes note that the table stands at a number already. */
  private beginAt(number: number): void {
    this.steps.skipTo(number);
    this.status.reached(this.table, number, this.row.changedAt);
  }

  get id(): string {
    return this.row.id;
  }
  get isFollowed(): boolean {
    return this.followers.size > 0;
  }
  /** The number of the last choice that is kept. */
  get number(): number {
    return this.steps.last;
  }
  /** Whether nothing more will happen here. */
  get isDone(): boolean {
    return this.status.isDone;
  }
  /** When somebody used the table last, in milliseconds since 1970. */
  get lastUsed(): number {
    return this.line.lastUsed;
  }
  get waiting(): Waiting {
    return this.table.waiting;
  }

  /** What the table does, or is looked at, when its turn comes. */
  private readonly inTurn: InTurn = (work) => this.peers.turns.run(this.account, false, work);

  /** What bots, clocks and pauses do: later, where the table has used up its share of the processor. */
  private byItself(work: () => Promise<unknown>): void {
    const wait = this.account.debtEnds;
    // Not all tables of a developer at the same moment: they would hold up everybody once they may go on.
    if (wait > 0) this.pacing.again(wait * (1 + Math.random()), () => this.byItself(work));
    else this.line.act(work);
  }

  /** Starts clocks and bots for the current position. */
  private wake(): void {
    if (!this.status.isOpen) this.pacing.rest();
    else this.pacing.wake(this.table.waiting, this.table.asked);
  }

  private tellClock(): void {
    this.followers.tell({ type: 'clock', number: this.number, clock: this.pacing.clock() });
  }
  private tellStatus(): void {
    this.followers.tell({ type: 'status', number: this.number, table: this.summary() });
  }

  // ---- looking

  /** Reads the table after pending work: a choice that is not stored yet is seen by nobody. */
  read<T>(look: () => T): Promise<T> {
    return this.line.read(look);
  }

  view(viewer: number): TableView {
    this.line.used();
    return this.table.view(viewer);
  }

  summary(): TableSummary {
    return summaryOf(
      this.row,
      this.table.game.program.name,
      settingsByName(this.table.game.program, this.table.game.layout.settings),
      this.seats,
      this.status.fault,
    );
  }

  /** The steps after a number, as many as fit one answer, and whether there are more; `kept` is `null` if memory no longer holds them. */
  stepsAfter(
    from: number,
    viewer: number,
  ): { readonly to: number; readonly more: boolean; readonly kept: Step[] | null } {
    const to = Math.min(this.number, from + MOST_STEPS);
    const kept = from + 1 < this.steps.oldest ? null : this.steps.since(from, viewer, to);
    return { to, more: to < this.number, kept };
  }

  offers(seat: number): Offers {
    const view = this.view(seat);
    return { number: view.number, ask: this.table.openAsk, seat: seat + 1, offers: view.offers };
  }

  /** What thinking for a while comes to, for a seat that is asked. @throws Problem where nothing is asked of it */
  async hint(right: Right, seat: number, milliseconds: number): Promise<Hint> {
    if (!this.row.hints)
      throw new Problem('not-allowed', 'This table was opened without hints: nobody may ask for one.');
    const name = this.table.header.seats[seat];
    const isAsked = await this.read(() => this.table.asked.includes(seat));
    if (!isAsked) throw new Problem('turn', `${name} is not asked anything now: there is nothing to hint at.`);
    await this.audit(right, `hint for seat ${seat + 1}`);
    return hintFor(this.mind, seat, personWish(milliseconds, this.pacing.clockEnd, Date.now()));
  }

  argsFor(args: Row['args'], viewer: number): Row['args'] {
    return this.table.argsFor(args, viewer);
  }

  /** Writes down that somebody looked at something with a right that others do not have. */
  async audit(right: Right, what: string | null): Promise<void> {
    if (what !== null) await noteLook(this.id, holderOf(right), what, this.number);
  }

  /** Adds a follower; one that follows as a seat makes that seat present. */
  follow(follower: Follower, from: number | null): Following {
    const { viewer } = follower;
    if (viewer >= 0) this.holding.seen(viewer);
    const following = this.followers.add(follower, from ?? -1);
    if (viewer >= 0) this.connected(viewer, 1);
    return {
      catchUp: () => this.line.act(async () => following.catchUp()),
      leave: () => {
        following.leave();
        if (viewer >= 0) this.connected(viewer, -1);
        this.line.used();
      },
    };
  }

  private connected(seat: number, by: 1 | -1): void {
    const changed = this.seats.connected(seat, by);
    const isBack = by === 1 && this.seats.returned(seat);
    if (changed) this.peers.present(this.id, seat, by === 1);
    if (changed || isBack) this.tellStatus();
    if (isBack) this.wake();
  }

  // ---- choosing

  /** A seat's choice, checked in this order: repeated? closed? stale? legal? It is stored before anybody hears of it. */
  choose(seat: number, choice: Choice): Promise<Chosen> {
    return this.line.run(() =>
      this.idempotency.once(seat, choice, {
        carryOut: () => this.chooseNow(seat, choice),
        repeat: (row) => this.chosen(seat, row, true),
      }),
    );
  }

  private async chooseNow(seat: number, choice: Choice): Promise<Chosen> {
    if (this.status.word === 'closed')
      throw new Problem('closed', 'This table is closed: nothing can be chosen any more.');
    // A question that did not open here yet was asked by another process.
    if (choice.ask > this.number) await this.readRows();
    const wire: WireChoice = { ask: choice.ask, option: choice.option, args: choice.args ?? {} };
    const { row } = await this.attempt(() => this.carryOut(seat, wire), {
      word: Idempotency.of(seat, choice),
      args: wire.args,
    });
    this.returned(seat);
    return this.chosen(seat, row, false);
  }

  /** A choice of a seat that is kept, as the seat may know it. */
  private chosen(
    seat: number,
    { number, option, args }: Pick<Row, 'number' | 'option' | 'args'>,
    repeated: boolean,
  ): Chosen {
    const shown = this.table.argsFor(args, seat) as Chosen['args'];
    return { number, seat: seat + 1, option, args: shown, repeated };
  }

  private carryOut(seat: number, wire: WireChoice): Played {
    const result = this.table.choose(seat, wire);
    if (isPlayed(result)) return result;
    this.peers.metrics.refusals.inc({ kind: result.kind });
    throw refusalProblem(result, wire.option, this.number);
  }

  /** A seat that chooses is there. */
  private returned(seat: number): void {
    if (this.seats.returned(seat)) this.tellStatus();
  }

  /** Carries out a step, if there is one, stores it and broadcasts it; a step that cannot be stored is reverted. */
  private async attempt<P extends Played | null>(carryOut: () => P, sent: Sent | null): Promise<P> {
    this.peers.space.demandForChoice();
    let played: P;
    try {
      played = await this.peers.turns.run(this.account, sent !== null, carryOut);
    } catch (error) {
      if (error instanceof Fault) await this.keepFault(error);
      throw error instanceof Fault ? faultProblem(error, this.number) : error;
    }
    if (played === null) return played;
    const { row } = played;
    const kept = newRowOf(row, { table: this.id, house: this.peers.id, sent });
    const keeping = this.peers.ledger.append(kept);
    const telling = this.followers.broadcast(stepFor(this.table, played, row.number));
    // Frames are prepared while the database writes.
    const soon = setImmediate(guarded(this.peers.log, 'preparing what a step tells', () => telling.prepare()));
    try {
      await keeping;
    } catch (error) {
      this.table.takeBack();
      const before = this.number;
      if (isTaken(error)) await this.readRows();
      // Another process's choice came first: a person's choice is tried after it.
      if (sent && this.number > before) return this.attempt(carryOut, sent);
      throw keepingProblem(error, this.number);
    } finally {
      clearImmediate(soon);
    }
    this.line.kept();
    this.peers.metrics.choices.inc({ by: row.by });
    this.happened(played, kept);
    telling.send();
    if (!this.status.isOpen) this.tellStatus();
    this.wake();
    return played;
  }

  /** Takes note of a step that is kept. */
  private happened(played: Played, kept: Pick<ChoiceRow, 'once' | 'sent' | 'args' | 'at'>): void {
    const { row } = played;
    this.steps.add(played);
    this.idempotency.note(kept.once, row, kept.sent);
    if (row.seat !== null) this.seats.answered(row.seat - 1, row.by === 'clock');
    this.status.reached(this.table, row.number, kept.at);
    if (row.number % EVERY === 0) this.keepPosition();
  }

  /** Keeps where the table stands, so that it need not be played from its beginning again. */
  private keepPosition(): void {
    keepCheckpoint(this.id, this.table).catch((error: unknown) => {
      this.peers.log.warn({ table: this.id, error }, 'a position could not be kept');
    });
  }

  private async keepFault(fault: Fault): Promise<void> {
    this.peers.metrics.faults.inc();
    this.peers.log.error(
      { table: this.id, number: this.number, line: fault.line, message: fault.message },
      'the sheet made a fault',
    );
    await this.status.failed(this.table, fault);
    this.pacing.rest();
    this.tellStatus();
    await this.peers.notify(this.id, 'fault');
  }

  // ---- other processes

  /** Carries out the rows that are kept and not yet known here. */
  private async readRows(): Promise<void> {
    const before = this.number;
    let rows: ChoiceRow[];
    do {
      rows = await ChoiceRow.findAll({
        where: { tableId: this.id, number: { [Op.gt]: this.number } },
        order: [['number', 'ASC']],
        limit: ROWS,
        raw: true,
      });
      await inStretches(
        rows,
        (row) => {
          const played = replayRow(this.table, rowOf(row));
          this.happened(played, row);
          this.followers.broadcast(stepFor(this.table, played, row.number)).send();
        },
        this.inTurn,
      );
    } while (rows.length === ROWS);
    if (this.number === before) return;
    if (!this.status.isOpen) this.tellStatus();
    this.wake();
  }

  /** Another process kept a choice. */
  hearOfChoice(number: number): void {
    this.catchUp.of(number);
  }

  /** Another process changed the table's seats or status. */
  hearOfNotice(what: string): void {
    this.line.act(async () => {
      const fresh = await TableRow.findByPk(this.id);
      if (!fresh) return;
      this.seats.holders = JSON.parse(fresh.holders) as SeatHolder[];
      this.seats.setElsewhere(await this.peers.presentElsewhere(this.id));
      const [kind, seat] = what.split(' ');
      if (kind === 'here') this.seats.returned(Number(seat));
      await this.status.heard(fresh.status);
      this.wake();
      this.tellStatus();
    });
  }

  close(): Promise<TableSummary> {
    return this.line.run(async () => {
      if (this.status.word !== 'over') {
        await this.status.close();
        await this.peers.notify(this.id, 'closed');
      }
      this.pacing.rest();
      this.tellStatus();
      return this.summary();
    });
  }

  /** Lets go of a table that is deleted, and of those who follow it. */
  async end(): Promise<void> {
    this.pacing.end();
    this.followers.end();
    await this.line.end();
  }

  /** Lets go of the table: its timers stop, and its rows remain. */
  async letGo(): Promise<void> {
    this.pacing.end();
    await this.line.end();
    await writeStatuses(this.peers.database, [this.status]);
  }
}
