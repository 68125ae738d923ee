import { randomBytes } from 'node:crypto';
import type { Logger } from 'pino';
import { Op, type Sequelize } from 'sequelize';
import type { Metrics } from '../metrics.js';
import type { InTurn } from '../records/replay.js';
import { isAway } from '../storage/database.js';
import { latestIn } from '../storage/latest.js';
import { Ledger } from '../storage/ledger.js';
import { ChoiceRow, HouseRow, NoticeRow, PresenceRow } from '../storage/models.js';
import type { Space } from '../storage/space.js';
import { releaseThinking } from '../thinking/claim.js';
import type { Thinking } from '../thinking/thinking.js';
import { DeveloperAccounts } from '../workers/accounts.js';
import { Turns } from '../workers/turns.js';

/** How often a process looks for what others have kept, in milliseconds. */
const LISTEN = 200;
/** How often a process says that it is up; silent for three times as long, it counts as gone. */
const BEAT = 5_000;
/**
 * Ids may commit out of order, so the last two seconds (in milliseconds) are read again.
 */
const OVERLAP = 2_000;
/** Ids before the last one that are read again at the start. */
const MARGIN = 1_000;
/** How long presence changes are batched before they are written, in milliseconds. */
const GATHER = 50;
/** After how long what could not be written is tried again, in milliseconds. */
const AGAIN = 1_000;
/** How long notices are kept, in milliseconds. */
const NOTICES = 60 * 60_000;

interface PresenceChange {
  readonly tableId: string;
  readonly seat: number;
  readonly isHere: boolean;
}

/** Called with what other processes on the same database did. */
export interface PeerListener {
  choice(table: string, number: number): void;
  notice(table: string, what: string): void;
  /** A process is up no more: its connections are gone. */
  gone(): void;
}

/**
 * This process among those that serve the same database. They do not talk to each other: each reads what the others
 * have written, so it only ever learns what is stored.
 */
export class Peers {
  /** Identifies this process. */
  readonly id = randomBytes(4).toString('hex');
  readonly ledger: Ledger;
  /** Whose turn it is, of all tables of this process. */
  readonly turns = new Turns(() => this.ledger.isKeeping);
  /** What the tables here, and their developers, used of the processor. */
  readonly accounts = new DeveloperAccounts();
  /**
   * Turns for what is done with a developer's tables besides playing them, such as reading a record again: it is done
   * piece by piece, and counts as theirs.
   */
  turnsOf(developer: string): InTurn {
    const account = this.accounts.table(developer);
    return (work) => this.turns.run(account, false, work);
  }
  /** How far this process had read, and when. */
  private marks: { readonly at: number; readonly choice: number; readonly notice: number }[] = [];
  private heardNotices: ReadonlySet<number> = new Set();
  private presences: Promise<void> = Promise.resolve();
  /** Seats that came or went since it was written last. */
  private readonly presenceChanges = new Map<string, PresenceChange>();
  /** Notices that are not written yet. */
  private readonly unsaid: { tableId: string; house: string; what: string; at: Date }[] = [];
  private gathering: NodeJS.Timeout | undefined;
  private isClosed = false;
  /** The other processes that were up when this one looked last. */
  private others: ReadonlySet<string> = new Set();
  private listening: NodeJS.Timeout | undefined;
  private beating: NodeJS.Timeout | undefined;
  private underWay: Promise<unknown> = Promise.resolve();

  constructor(
    readonly database: Sequelize,
    readonly log: Logger,
    readonly metrics: Metrics,
    readonly space: Space,
    readonly thinking: Thinking,
  ) {
    this.ledger = new Ledger(database);
  }

  /** Says that this process is up, and begins to listen. */
  async open(ears: PeerListener): Promise<void> {
    const latest = await latestIn(this.database, new Date());
    const notice = latest.notice - MARGIN;
    this.marks = [{ at: Date.now(), choice: latest.choice - MARGIN, notice }];
    const old = await NoticeRow.findAll({ where: { id: { [Op.gt]: notice } }, attributes: ['id'], raw: true });
    this.heardNotices = new Set(old.map(({ id }) => id));
    await NoticeRow.destroy({ where: { at: { [Op.lt]: new Date(Date.now() - NOTICES) } } });
    await this.beat();
    this.others = new Set(await this.othersUp());
    this.beating = setInterval(() => this.quietly(() => this.beat()), BEAT);
    let busy = false;
    this.listening = setInterval(() => {
      if (busy) return;
      busy = true;
      this.underWay = this.quietly(() => this.listen(ears)).finally(() => {
        busy = false;
      });
    }, LISTEN);
  }

  /** Runs something that may fail while the database is away: it is tried again soon. */
  private async quietly(work: () => Promise<unknown>): Promise<void> {
    try {
      await work();
    } catch (error) {
      if (!isAway(error)) this.log.warn({ error }, 'the other processes could not be heard');
    }
  }

  /** Says that this process is up, and strikes those off the list that have long been silent. */
  private async beat(): Promise<void> {
    await HouseRow.upsert({ id: this.id, seenAt: new Date() });
    const long = await HouseRow.findAll({ where: { seenAt: { [Op.lt]: new Date(Date.now() - 12 * BEAT) } } });
    if (long.length === 0) return;
    const ids = long.map(({ id }) => id);
    await PresenceRow.destroy({ where: { house: ids } });
    await HouseRow.destroy({ where: { id: ids } });
  }

  /** The other processes that said lately that they are up. */
  private async othersUp(): Promise<string[]> {
    const { houses } = await latestIn(this.database, new Date(Date.now() - 3 * BEAT));
    return houses.filter((id) => id !== this.id);
  }

  private async listen(ears: PeerListener): Promise<void> {
    const now = Date.now();
    const { choice, notice, houses } = await latestIn(this.database, new Date(now - 3 * BEAT));
    const others = new Set(houses.filter((id) => id !== this.id));
    if ([...this.others].some((id) => !others.has(id))) ears.gone();
    const mark = { at: now, choice, notice };
    // The last mark that is old enough, and all later ones.
    while ((this.marks[1]?.at ?? now) <= now - OVERLAP) this.marks.shift();
    const from = this.marks[0] ?? mark;
    // A process that is alone wrote everything itself. After a process has left, its last rows are still read.
    if (this.others.size > 0 || others.size > 0) await this.hear(ears, from);
    this.marks.push(mark);
    this.others = others;
  }

  /** Reports what others have stored since a mark; repeats do no harm. */
  private async hear(ears: PeerListener, from: { readonly choice: number; readonly notice: number }): Promise<void> {
    const house = { [Op.ne]: this.id };
    const choices = await ChoiceRow.findAll({
      attributes: ['tableId', 'number'],
      where: { seq: { [Op.gt]: from.choice }, house },
      order: [['seq', 'ASC']],
      raw: true,
    });
    for (const { tableId, number } of choices) ears.choice(tableId, number);
    const notices = await NoticeRow.findAll({
      where: { id: { [Op.gt]: from.notice }, house },
      order: [['id', 'ASC']],
      raw: true,
    });
    for (const { id, tableId, what } of notices) if (!this.heardNotices.has(id)) ears.notice(tableId, what);
    this.heardNotices = new Set(notices.map(({ id }) => id));
  }

  /** Notifies other processes of a change other than a choice, as soon as the database accepts it. */
  async notify(tableId: string, what: string): Promise<void> {
    this.unsaid.push({ tableId, house: this.id, what, at: new Date() });
    await this.quietly(() => this.writeNotices());
  }

  private async writeNotices(): Promise<void> {
    const notices = this.unsaid.splice(0);
    if (notices.length === 0) return;
    try {
      await NoticeRow.bulkCreate(notices);
    } catch (error) {
      this.unsaid.unshift(...notices);
      this.writeIn(AGAIN);
      throw error;
    }
  }

  /** Notes that a seat connected to this process, or disconnected. Changes are written in batches. */
  present(tableId: string, seat: number, isHere: boolean): void {
    this.presenceChanges.set(`${tableId} ${seat}`, { tableId, seat, isHere });
    this.writeIn(GATHER);
  }

  /** Writes what is not written yet, a little later. */
  private writeIn(milliseconds: number): void {
    if (this.isClosed) return;
    this.gathering ??= setTimeout(() => {
      this.gathering = undefined;
      this.presences = this.presences.then(() =>
        this.quietly(async () => {
          await this.writeComings();
          await this.writeNotices();
        }),
      );
    }, milliseconds);
  }

  /** Writes presence changes. Those that fail are written later, unless they changed again. */
  private async writeComings(): Promise<void> {
    if (this.presenceChanges.size === 0) return;
    const changed = new Map(this.presenceChanges);
    this.presenceChanges.clear();
    try {
      await this.writePresences([...changed.values()]);
    } catch (error) {
      for (const [key, coming] of changed) if (!this.presenceChanges.has(key)) this.presenceChanges.set(key, coming);
      this.writeIn(AGAIN);
      throw error;
    }
  }

  private async writePresences(changed: readonly PresenceChange[]): Promise<void> {
    const row = ({ tableId, seat }: PresenceChange) => ({ tableId, seat, house: this.id });
    const here = changed.filter(({ isHere }) => isHere).map(row);
    const gone = changed.filter(({ isHere }) => !isHere).map(row);
    await PresenceRow.bulkCreate(here, { ignoreDuplicates: true });
    if (gone.length > 0) await PresenceRow.destroy({ where: { [Op.or]: gone } });
    const at = new Date();
    for (const { tableId, seat, isHere } of changed)
      this.unsaid.push({ tableId, house: this.id, what: `${isHere ? 'here' : 'gone'} ${seat}`, at });
  }

  /** The seats of a table that are connected to other processes which are up. */
  async presentElsewhere(tableId: string): Promise<Set<number>> {
    const houses = await this.othersUp();
    if (houses.length === 0) return new Set();
    const rows = await PresenceRow.findAll({ where: { tableId, house: houses } });
    return new Set(rows.map(({ seat }) => seat));
  }

  /** Stops listening, and takes this process off the list. */
  async close(): Promise<void> {
    clearInterval(this.listening);
    clearInterval(this.beating);
    clearTimeout(this.gathering);
    this.isClosed = true;
    this.ledger.close();
    await this.underWay;
    await this.presences;
    await this.quietly(async () => {
      await this.writeNotices();
      await PresenceRow.destroy({ where: { house: this.id } });
      await HouseRow.destroy({ where: { id: this.id } });
      await releaseThinking(this.id);
    });
  }
}
