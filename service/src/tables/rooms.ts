import { randomBytes } from 'node:crypto';
import {
  FaceError,
  Fault,
  type Gave,
  type Header,
  type Program,
  ReplayError,
  type Row,
  SEMANTICS,
  SetupError,
  type Table,
} from '@wily-jester/core';
import type { BranchWish, Opened, OpenTable, RecordFile, TableSummary } from '@wily-jester/protocol';
import type { Transaction } from 'sequelize';
import { cutTo } from '../bytes.js';
import { newId } from '../ids.js';
import type { Peers } from '../peers/peers.js';
import { Problem } from '../problems.js';
import { Analyses } from '../records/analysis.js';
import { Fairnesses } from '../records/fairness.js';
import { Pasts, storyOf } from '../records/past.js';
import { readRecord, recordOf } from '../records/record.js';
import { beginning, replayed } from '../records/replay.js';
import { findSheet, programOf } from '../sheets/shelf.js';
import {
  endKeysAt,
  forgetDeveloper,
  forgetKeys,
  forgetLookKeys,
  forgetSession,
  forgetTable,
  forgetWatchKeys,
  sessionMark,
} from '../storage/keys.js';
import { ChoiceRow, TableRow } from '../storage/models.js';
import { FairLimit } from '../workers/fair-limit.js';
import { deleteTable } from './deleting.js';
import { type ListWish, listTables, restingSummary, type TablePage } from './listing.js';
import { noteLook } from './looks.js';
import { Room } from './room.js';
import { demandBot, isSolved, type SeatHolder } from './seats.js';
import { LONGEST_CHAPTER, writeStatuses } from './status.js';
import { makeTableKeys } from './table-keys.js';
import { isUnplayable, noteUnplayable, unplayableProblem, whyUnplayable } from './unplayable.js';

/** How long a table that nobody uses is kept in memory, in milliseconds. */
const IDLE = 10 * 60_000;
/** How often the rows of tables are brought up to date, in milliseconds. */
const SUMMARIES = 5_000;
/** So many tables are loaded at once. */
const LOADING = 2;
/** So many wait for that at most: after a restart all who played come back at once. */
const MOST_LOADING = 50_000;
const STANDARD_PACE = 900;

const newSeed = (): string => randomBytes(32).toString('hex');

/** What a new table's rows are made from. */
interface NewTable {
  readonly id?: string;
  readonly developer: string;
  readonly sheet: string;
  readonly header: Header;
  readonly holders: readonly SeatHolder[];
  readonly table: Table;
  readonly rows: readonly Row[];
  readonly promisesFairness: boolean;
  readonly pace: number;
  readonly clocks: boolean;
  /** Yes where nothing is said. */
  readonly hints?: boolean;
  readonly parent: { readonly id: string; readonly number: number } | null;
}

/** What was fixed of a table before it is opened: seats gave chance to it. */
export interface Gathered {
  readonly id: string;
  readonly seed: string;
  readonly gave: Gave;
  readonly voids: readonly number[];
}

/** What becomes of the keys of a new table, within the transaction in which it is kept. */
type KeysOf<Keys> = (id: string, transaction: Transaction) => Promise<Keys>;

/** What a table will be opened with. */
export interface Plan {
  readonly sheet: string;
  readonly program: Program;
  readonly holders: readonly SeatHolder[];
  readonly header: Header;
}

/** The tables that are in use: loaded when somebody needs them, and let go when idle. */
export class Rooms {
  /** What may be checked of their shuffles. */
  readonly fairnesses: Fairnesses;
  /** The same tables as they were. */
  readonly pasts: Pasts;
  /** What choices there were worth. */
  readonly analyses: Analyses;
  /** Long records are replayed two at a time, those of several developers in turn: others keep the processor meanwhile. */
  private readonly loading = new FairLimit({ atOnce: LOADING, waiting: MOST_LOADING, waitingOfOne: MOST_LOADING });
  private readonly loaded = new Map<string, Promise<Room>>();
  /** Those of them that are there. */
  private readonly here = new Map<string, Room>();
  private readonly sweep = setInterval(() => void this.letGoIdle(), 60_000);
  private readonly summaries = setInterval(() => void this.writeSummaries(), SUMMARIES);

  constructor(private readonly house: Peers) {
    this.analyses = new Analyses(house.thinking);
    this.fairnesses = new Fairnesses(house);
    this.pasts = new Pasts(house);
    this.sweep.unref();
    house.metrics.watchTables(() => this.loaded.size);
  }

  /** Begins to listen to the other processes on the same database. */
  async open(): Promise<void> {
    const tell = (id: string, say: (room: Room) => void): void => {
      void this.loaded.get(id)?.then(say, () => undefined);
    };
    await this.house.open({
      choice: (id, number) => tell(id, (room) => room.hearOfChoice(number)),
      notice: (id, what) => {
        const [kind, seat] = what.split(' ');
        if (kind === 'keys') forgetKeys(id, Number(seat));
        if (kind === 'watch-keys') forgetWatchKeys(id);
        if (kind === 'session') return forgetSession(seat ?? '');
        if (kind === 'look-keys') return forgetLookKeys(id);
        if (kind === 'developer') {
          forgetDeveloper(seat ?? '');
          return;
        }
        if (kind === 'deleted') {
          forgetTable(id);
          void this.drop(id);
          return;
        }
        tell(id, (room) => room.hearOfNotice(what));
      },
      gone: () => {
        for (const id of this.loaded.keys()) tell(id, (room) => room.hearOfNotice('gone'));
      },
    });
  }

  get(id: string): Promise<Room> {
    let room = this.loaded.get(id);
    if (!room) {
      room = this.loadedInTurn(id);
      this.loaded.set(id, room);
      room.then(
        (ready) => this.here.set(id, ready),
        () => this.loaded.delete(id),
      );
    }
    return room;
  }

  /** Loads a table in its developer's turn. */
  private async loadedInTurn(id: string): Promise<Room> {
    const row = await TableRow.findByPk(id, { attributes: ['developer'], raw: true });
    return this.loading.run(row?.developer ?? '', () => this.roomOf(id));
  }

  /** Loads a table; what it shows to be unplayable is noted, so that nobody tries it with every request. */
  private async roomOf(id: string): Promise<Room> {
    try {
      return await Room.load(this.house, id);
    } catch (error) {
      const why = whyUnplayable(error);
      if (!why || isUnplayable(error)) throw error;
      this.house.log.error({ table: id, number: why.number, reason: why.reason }, 'a table cannot be played again');
      await noteUnplayable(id, why);
      throw unplayableProblem(why);
    }
  }

  private async letGoIdle(): Promise<void> {
    for (const [id, loading] of this.loaded) {
      const room = await loading.catch(() => null);
      if (!room || room.isFollowed || Date.now() - room.lastUsed < IDLE) continue;
      this.loaded.delete(id);
      this.here.delete(id);
      await room.letGo();
    }
  }

  private async writeSummaries(): Promise<void> {
    const rooms = await Promise.all([...this.loaded.values()].map((loading) => loading.catch(() => null)));
    const statuses = rooms.flatMap((room) => (room ? [room.status] : []));
    await writeStatuses(this.house.database, statuses).catch((error: unknown) => {
      this.house.log.warn({ error }, 'how the tables stand could not be written');
    });
  }

  /** Opens a table. @throws Problem where sheet, seats, settings or the sheet's own start do not fit */
  async openTable(developer: string, wanted: OpenTable): Promise<Opened> {
    const id = newId();
    const plan = await this.planned(developer, id, wanted);
    return this.create(await this.toOpen(developer, wanted, { ...plan, id }));
  }

  /** Opens a table to which its seats gave chance, and whose keys are there. @throws Problem likewise */
  async openGathered(developer: string, wanted: OpenTable, { id, seed, gave, voids }: Gathered): Promise<void> {
    const { header, ...plan } = await this.planned(developer, id, wanted);
    const { fair } = header;
    const given: Header = { ...header, seed, ...(fair ? { fair: { ...fair, gave, voids } } : {}) };
    const made = await this.toOpen(developer, wanted, { ...plan, id, header: given });
    await this.keep(made, (_, transaction) => endKeysAt(id, null, transaction));
  }

  private async toOpen(developer: string, wanted: OpenTable, plan: Plan & { id: string }): Promise<NewTable> {
    const { id, sheet, program, header, holders } = plan;
    return {
      id,
      developer,
      sheet,
      header,
      holders,
      table: await opening(() => this.house.turnsOf(developer)(() => beginning(program, header, false))),
      rows: [],
      promisesFairness: header.fair !== undefined,
      pace: wanted.pace ?? STANDARD_PACE,
      clocks: wanted.clocks ?? true,
      hints: wanted.hints ?? true,
      parent: null,
    };
  }

  /** What a table would be opened with. @throws Problem where there is no such sheet, or no such bot */
  async planned(developer: string, id: string, wanted: OpenTable): Promise<Plan> {
    const sheet = await findSheet(wanted.sheet);
    const program = await programOf(sheet.hash);
    const holders = wanted.seats.map(({ bot }): SeatHolder => {
      if (bot !== undefined) demandBot(program, bot);
      return bot === undefined ? { held: 'person', unseen: true } : { held: 'bot', bot };
    });
    const promisesFairness = wanted.seed === undefined && Object.keys(wanted.gets ?? {}).length === 0;
    if (wanted.showsSeed === true && !promisesFairness)
      throw new Problem(
        'setup',
        'The seed is shown of tables that promise something: leave seed and cards to the service.',
      );
    const header: Header = {
      seats: wanted.seats.map((seat) => seat.name.trim().normalize('NFC')),
      settings: wanted.settings ?? {},
      seed: wanted.seed ?? newSeed(),
      gets: wanted.gets ?? {},
      ...(promisesFairness
        ? {
            fair: {
              table: id,
              sheet: sheet.hash,
              semantics: SEMANTICS,
              ...((wanted.showsSeed ?? program.showsSeed) ? { shown: true } : {}),
            },
          }
        : {}),
    };
    if (holders.some((holder) => holder.held === 'bot' && isSolved(holder.bot)))
      await this.house.thinking.solutions.of({ developer, sheet: sheet.hash, program, header });
    return { sheet: sheet.hash, program, holders, header };
  }

  /** Opens a branch of a table at a number: unseen cards are dealt anew, unless asked not to. */
  async branch(developer: string, id: string, { number, same, pace, clocks }: BranchWish): Promise<Opened> {
    const { row, program, header, rows } = await storyOf(id, number);
    const kept = (header.branches ?? []).filter((branch) => branch.number <= number);
    const branches = same ? kept : [...kept, { number, redeal: newSeed() }];
    const branched: Header = { ...header, branches };
    return this.create({
      developer,
      sheet: row.sheetHash,
      header: branched,
      holders: JSON.parse(row.holders) as SeatHolder[],
      table: await opening(() =>
        replayed(program, branched, rows, { areKept: true, inTurn: this.house.turnsOf(developer) }),
      ),
      rows,
      promisesFairness: false,
      pace: pace ?? row.pace,
      clocks: clocks ?? Boolean(row.clocks),
      hints: Boolean(row.hints),
      parent: { id, number },
    });
  }

  /** Loads a record as a new table. @throws Problem where it differs, with the choice at which it does */
  async load(developer: string, { record, bots }: RecordFile): Promise<Opened> {
    const { sheet, game, header, rows } = readRecord(record);
    const program = await programOf(sheet).catch((error: unknown) => {
      if (error instanceof Problem && error.kind === 'not-found')
        throw new Problem(
          'not-found',
          `The record is of "${game}", version ${sheet.slice(0, 12)}: add that sheet first.`,
        );
      throw error;
    });
    const table = await opening(
      () => replayed(program, header, rows, { areKept: false, inTurn: this.house.turnsOf(developer) }),
      ' The record was changed after it was saved: no table is opened.',
    );
    const first = program.bots[0]?.name;
    const played = new Set(rows.flatMap((row) => (row.by === 'bot' ? [row.seat] : [])));
    return this.create({
      developer,
      sheet,
      header,
      holders: header.seats.map(
        (_, i): SeatHolder =>
          bots === true && first !== undefined && played.has(i + 1) ? { held: 'bot', bot: first } : { held: 'person' },
      ),
      table,
      rows,
      promisesFairness: false,
      pace: STANDARD_PACE,
      clocks: false,
      parent: null,
    });
  }

  /** Keeps a new table, and makes its keys. */
  private create(made: NewTable): Promise<Opened> {
    return this.keep(made, (id, transaction) => makeTableKeys(id, made.holders, transaction));
  }

  /** Keeps a new table with the choices that it begins with. */
  private async keep<Keys>(made: NewTable, keysOf: KeysOf<Keys>): Promise<{ table: TableSummary; keys: Keys }> {
    this.house.space.demandForMore();
    const { table, rows, holders, parent } = made;
    const now = new Date();
    const { id = newId() } = made;
    const keys = await this.house.database.transaction(async (transaction) => {
      await TableRow.create(
        {
          id,
          sheetHash: made.sheet,
          header: JSON.stringify(made.header),
          holders: JSON.stringify(holders),
          status: table.isOver ? 'over' : 'open',
          number: table.number,
          chapter: cutTo(table.chapter, LONGEST_CHAPTER),
          commitment: table.commitment,
          promisesFairness: made.promisesFairness,
          pace: made.pace,
          clocks: made.clocks,
          hints: made.hints ?? true,
          openedAt: now,
          changedAt: now,
          parentId: parent?.id ?? null,
          parentNumber: parent?.number ?? null,
          developer: made.developer,
        },
        { transaction },
      );
      await ChoiceRow.bulkCreate(
        rows.map((row) => ({
          ...row,
          tableId: id,
          args: JSON.stringify(row.args),
          once: null,
          at: now,
          house: this.house.id,
        })),
        { transaction, validate: false },
      );
      return keysOf(id, transaction);
    });
    if (!made.promisesFairness && parent === null)
      await noteLook(id, made.developer, 'opened with cards or a seed known', 0);
    const room = await this.get(id);
    return { table: room.summary(), keys };
  }

  /** A page of tables, the newest first. */
  list(wish: ListWish): Promise<TablePage> {
    return listTables(wish, (id) => this.here.get(id));
  }

  /** How a table stands, also one that cannot be played again. @throws Problem for an unknown table */
  async summary(id: string): Promise<TableSummary> {
    try {
      return (await this.get(id)).summary();
    } catch (error) {
      if (isUnplayable(error)) return restingSummary(id);
      throw error;
    }
  }

  /** Closes a table, also one that cannot be played again. */
  async closeTable(id: string): Promise<TableSummary> {
    try {
      return await (await this.get(id)).close();
    } catch (error) {
      if (!isUnplayable(error)) throw error;
      await TableRow.update({ status: 'closed', changedAt: new Date() }, { where: { id } });
      return restingSummary(id);
    }
  }

  /** The record of a table, page by page. @param viewerIn who reads it, of so many seats; `null` for a developer */
  async *record(id: string, viewerIn: (seats: number) => number | null): AsyncGenerator<string> {
    const room = await this.get(id).catch((error: unknown) => {
      if (isUnplayable(error)) return null;
      throw error;
    });
    const summary = room?.summary() ?? (await restingSummary(id));
    yield* recordOf(summary, room, viewerIn(summary.seats.length));
  }

  /** Tries once more to load a table that could not be played again. @throws Problem where it still cannot */
  async retry(id: string): Promise<TableSummary> {
    await TableRow.update({ unplayable: null }, { where: { id } });
    return (await this.get(id)).summary();
  }

  /** Deletes a table with its record and keys. */
  async delete(id: string): Promise<void> {
    if ((await TableRow.count({ where: { id } })) === 0) throw new Problem('not-found', `There is no table ${id}.`);
    const letGo = async (): Promise<void> => {
      await this.drop(id);
      await this.house.notify(id, 'deleted');
    };
    await letGo();
    await deleteTable(this.house.database, id);
    forgetTable(id);
    // Whoever asked for it meanwhile had it loaded again.
    await letGo();
  }

  /** Tells the other processes whose keys have ended: a developer's, one session's, or those to look at a draft. */
  async sayEnded(
    what: { readonly developer: string } | { readonly session: string } | { readonly draft: string },
  ): Promise<void> {
    if ('developer' in what) await this.house.notify('', `developer ${what.developer}`);
    else if ('session' in what) await this.house.notify('', `session ${sessionMark(what.session)}`);
    else await this.house.notify(what.draft, 'look-keys');
  }

  /** Lets go of a table that is deleted; those who follow it are let go. */
  private async drop(id: string): Promise<void> {
    const room = await this.loaded.get(id)?.catch(() => null);
    this.loaded.delete(id);
    this.here.delete(id);
    await room?.end();
  }

  /** Lets go of all tables, once what is under way is done. */
  async close(): Promise<void> {
    clearInterval(this.sweep);
    clearInterval(this.summaries);
    await Promise.all([...this.loaded.values()].map(async (loading) => (await loading.catch(() => null))?.letGo()));
    this.loaded.clear();
    this.here.clear();
    await this.house.close();
  }
}

/**
 * Turns what the engine says about an opening into a problem.
 * @param differs what is to be said besides where choices do not lead where they did
 */
export async function opening<T>(open: () => Promise<T>, differs = ''): Promise<T> {
  try {
    return await open();
  } catch (error) {
    if (error instanceof SetupError || error instanceof FaceError) throw new Problem('setup', error.message);
    if (error instanceof ReplayError)
      throw new Problem('differs', `${error.message}${differs}`, { number: error.number });
    if (error instanceof Fault)
      throw new Problem('fault', `Line ${error.line}: ${error.message} The table is not opened.`, {
        line: error.line,
        column: error.column,
      });
    throw error;
  }
}
