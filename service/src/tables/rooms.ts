import { randomBytes, randomInt } from 'node:crypto';
import { FaceError, Fault, type Header, SetupError, Table } from '@wily-jester/core';
import type { Opened, OpenTable, TableSummary } from '@wily-jester/protocol';
import { Problem } from '../problems.js';
import { findSheet, programOf } from '../sheets/shelf.js';
import { makeKey } from '../storage/keys.js';
import { FaultRow, SheetRow, TableRow } from '../storage/models.js';
import { type House, Room } from './room.js';
import { headerOf, type SeatHolder, summaryOf } from './rows.js';

/** How long a table that nobody uses is kept in memory, in milliseconds. */
const IDLE = 10 * 60_000;
const STANDARD_PACE = 900;
const LETTERS = 'abcdefghijkmnpqrstuvwxyz23456789';

const newId = (): string => Array.from({ length: 12 }, () => LETTERS[randomInt(LETTERS.length)]).join('');

/** The tables that are in use: loaded when somebody needs them, and let go when idle. */
export class Rooms {
  private readonly loaded = new Map<string, Promise<Room>>();
  private readonly sweep = setInterval(() => void this.letGoIdle(), 60_000);

  constructor(private readonly house: House) {
    this.sweep.unref();
    house.metrics.watchTables(() => this.loaded.size);
  }

  get(id: string): Promise<Room> {
    let room = this.loaded.get(id);
    if (!room) {
      room = Room.load(this.house, id);
      this.loaded.set(id, room);
      room.catch(() => this.loaded.delete(id));
    }
    return room;
  }

  private async letGoIdle(): Promise<void> {
    for (const [id, loading] of this.loaded) {
      const room = await loading.catch(() => null);
      if (!room || room.isFollowed || Date.now() - room.lastUsed < IDLE) continue;
      this.loaded.delete(id);
      room.letGo();
    }
  }

  /** Opens a table. @throws Problem where sheet, seats, settings or the sheet's own start do not fit */
  async open(wanted: OpenTable): Promise<Opened> {
    const sheet = await findSheet(wanted.sheet);
    const program = await programOf(sheet.hash);
    const holders = wanted.seats.map(({ bot }): SeatHolder => {
      if (bot !== undefined && !program.bots.some((b) => b.name === bot)) {
        const names = program.bots.map((b) => b.name);
        throw new Problem(
          'setup',
          `"${program.name}" has no bot "${bot}".${names.length > 0 ? ` It has ${names.join(', ')}.` : ''}`,
        );
      }
      return { bot: bot ?? null };
    });
    const header: Header = {
      seats: wanted.seats.map((seat) => seat.name.trim()),
      settings: wanted.settings ?? {},
      seed: wanted.seed ?? randomBytes(32).toString('hex'),
      gets: wanted.gets ?? {},
    };
    const table = openTable(() => new Table(program, header));
    const now = new Date();
    const id = newId();
    const promisesFairness = wanted.seed === undefined && Object.keys(header.gets ?? {}).length === 0;
    const keys = await this.house.database.transaction(async (transaction) => {
      await TableRow.create(
        {
          id,
          sheetHash: sheet.hash,
          header: JSON.stringify(header),
          bots: JSON.stringify(holders),
          status: table.isOver ? 'over' : 'open',
          chapter: table.view(-1).chapter.title.slice(0, 200),
          commitment: table.commitment,
          promisesFairness,
          pace: wanted.pace ?? STANDARD_PACE,
          clocks: wanted.clocks ?? true,
          openedAt: now,
          changedAt: now,
        },
        { transaction },
      );
      const seats: Opened['keys']['seats'] = [];
      for (const [i, holder] of holders.entries()) {
        if (holder.bot !== null) continue;
        seats.push({ seat: i + 1, key: await makeKey({ role: 'seat', table: id, seat: i }, transaction) });
      }
      return { seats, watch: await makeKey({ role: 'watch', table: id }, transaction) };
    });
    const room = await this.get(id);
    return { table: room.summary(), keys };
  }

  /** All tables, the newest first. */
  async list(): Promise<TableSummary[]> {
    const rows = await TableRow.findAll({ order: [['openedAt', 'DESC']], limit: 200 });
    const summaries: TableSummary[] = [];
    for (const row of rows) {
      const room = await this.loaded.get(row.id)?.catch(() => undefined);
      summaries.push(room ? room.summary() : await this.restingSummary(row));
    }
    return summaries;
  }

  /** A table's summary without loading it. */
  private async restingSummary(row: TableRow): Promise<TableSummary> {
    const sheet = await SheetRow.findByPk(row.sheetHash, { attributes: ['name'] });
    const fault =
      row.status === 'fault' ? await FaultRow.findOne({ where: { tableId: row.id }, order: [['id', 'DESC']] }) : null;
    const shown = fault
      ? { message: fault.message, line: fault.line, column: fault.column, number: fault.number }
      : null;
    return summaryOf(row, sheet?.name ?? '', headerOf(row).settings ?? {}, JSON.parse(row.bots) as SeatHolder[], shown);
  }

  /** Lets go of all tables, once what is under way is done. */
  async close(): Promise<void> {
    clearInterval(this.sweep);
    for (const loading of this.loaded.values()) {
      const room = await loading.catch(() => null);
      room?.letGo();
      await room?.settle();
    }
    this.loaded.clear();
  }
}

/** Turns what the engine says about an opening into a problem. */
function openTable(open: () => Table): Table {
  try {
    return open();
  } catch (error) {
    if (error instanceof SetupError || error instanceof FaceError) throw new Problem('setup', error.message);
    if (error instanceof Fault)
      throw new Problem('fault', `Line ${error.line}: ${error.message} The table is not opened.`, {
        line: error.line,
        column: error.column,
      });
    throw error;
  }
}
