import { type FairLine, replayRow, type Table } from '@wily-jester/core';
import { LRUCache } from 'lru-cache';
import { Op } from 'sequelize';
import { Problem } from '../problems.js';
import { programOf } from '../sheets/shelf.js';
import { TableRow } from '../storage/models.js';
import { Crowded, FairLimit } from '../workers/fair-limit.js';
import { beginning, type GivesTurns, type InTurn, inStretches, STRETCH } from './replay.js';
import { headerOf, rowsAfter } from './rows.js';

/** So many tables are kept in step, so that who asks again gets an answer without a replay. */
const MOST_KEPT = 8;
/** So many records are played again at once: others keep the processor meanwhile. */
const REPLAYED = 2;
/** A page is written once it has so many characters. */
const PAGE = 65_536;

/** A table that is played again, and its developer's turns. */
interface Followed {
  readonly table: Table;
  readonly inTurn: InTurn;
}

/** Finds what may be checked of a table's shuffles, by playing its record again with every card followed. */
export class Fairnesses {
  private readonly kept = new LRUCache<string, Followed>({ max: MOST_KEPT });
  private readonly replaying = new FairLimit({ atOnce: REPLAYED, waiting: 128, waitingOfOne: 12 });
  private readonly underWay = new Map<string, Promise<Followed>>();

  constructor(private readonly turns: GivesTurns) {}

  /** What a viewer may check, as NDJSON, page by page. @throws Problem where nothing is promised at the table */
  async *at(id: string, viewer: number): AsyncGenerator<string> {
    const row = await TableRow.findByPk(id, { rejectOnEmpty: true });
    const { fair } = headerOf(row);
    if (!row.promisesFairness || !fair)
      throw new Problem(
        'not-held',
        'Nothing is promised at this table: its seed or its cards were chosen, it goes on from another one, or an earlier release opened it.',
      );
    const { table, inTurn } = await this.inStep(id, row.developer);
    const lines = table.fairnessFor(viewer, await isSeedShown(row, table.isOver));
    if (!lines) throw new Error(`table ${id} has promises, and its cards were not followed`);
    yield* pagesOf(lines, inTurn);
  }

  /** The table as it stands, played again. Whoever asks at the same time waits for the same. */
  private inStep(id: string, developer: string): Promise<Followed> {
    const work = (this.underWay.get(id) ?? Promise.resolve()).then(() =>
      this.replaying.run(developer, () => this.broughtOn(id)).catch(tooManyWait),
    );
    const kept = work
      .catch(() => undefined as never)
      .finally(() => {
        if (this.underWay.get(id) === kept) this.underWay.delete(id);
      });
    this.underWay.set(id, kept);
    return work;
  }

  private async broughtOn(id: string): Promise<Followed> {
    const followed = this.kept.get(id) ?? (await this.begun(id));
    const { table, inTurn } = followed;
    await inStretches(await rowsAfter(id, table.number), (choice) => replayRow(table, choice), inTurn);
    this.kept.set(id, followed);
    return followed;
  }

  private async begun(id: string): Promise<Followed> {
    const row = await TableRow.findByPk(id, { rejectOnEmpty: true });
    const program = await programOf(row.sheetHash);
    const inTurn = this.turns.turnsOf(row.developer);
    return { table: await inTurn(() => beginning(program, headerOf(row), true, true)), inTurn };
  }
}

/** @throws Problem where too many wait, or the error itself */
function tooManyWait(error: unknown): never {
  if (!(error instanceof Crowded)) throw error;
  throw new Problem('unavailable', 'Too many records are played again at once: ask again later.', { retryAfter: 10 });
}

/** Whether everybody is shown a table's seed: it was opened so, its game is over, and none is open that goes on from it. */
export async function isSeedShown(row: TableRow, isOver: boolean): Promise<boolean> {
  if (!isOver || !row.promisesFairness || headerOf(row).fair?.shown !== true) return false;
  for (let parents = [row.id]; parents.length > 0; ) {
    const children = await TableRow.findAll({
      attributes: ['id', 'status'],
      where: { parentId: { [Op.in]: parents } },
      raw: true,
    });
    if (children.some(({ status }) => status === 'open')) return false;
    parents = children.map(({ id }) => id);
  }
  return true;
}

/** Lines as text: proofs are made as they are written, a page a turn. */
async function* pagesOf(lines: Iterable<FairLine>, inTurn: InTurn): AsyncGenerator<string> {
  const left = lines[Symbol.iterator]();
  for (let isDone = false; !isDone; ) {
    const page = await inTurn(() => {
      const until = performance.now() + STRETCH;
      let text = '';
      while (!isDone && text.length < PAGE && performance.now() < until) {
        const { done, value } = left.next();
        if (done) isDone = true;
        else text += `${JSON.stringify(value)}\n`;
      }
      return text;
    });
    if (page !== '') yield page;
  }
}
