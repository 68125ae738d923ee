import { type Fairness, replayRow, type Table } from '@wily-jester/core';
import { LRUCache } from 'lru-cache';
import pLimit from 'p-limit';
import { Problem } from '../problems.js';
import { programOf } from '../sheets/shelf.js';
import { TableRow } from '../storage/models.js';
import { beginning, inStretches } from './replay.js';
import { headerOf, rowsAfter } from './rows.js';

/** So many tables are kept in step, so that who asks again gets an answer without a replay. */
const MOST_KEPT = 8;
/** So many records are played again at once: others keep the processor meanwhile. */
const REPLAYED = 2;

/** Finds what may be checked of a table's shuffles, by playing its record again with every card followed. */
export class Fairnesses {
  private readonly kept = new LRUCache<string, Table>({ max: MOST_KEPT });
  private readonly replaying = pLimit(REPLAYED);
  private readonly underWay = new Map<string, Promise<Table>>();

  /** @throws Problem where nothing is promised at the table */
  async at(id: string, viewer: number): Promise<Fairness> {
    const row = await TableRow.findByPk(id, { rejectOnEmpty: true });
    const { fair } = headerOf(row);
    if (!row.promisesFairness || !fair)
      throw new Problem(
        'not-held',
        'Nothing is promised at this table: its seed or its cards were chosen, it goes on from another one, or an earlier release opened it.',
      );
    const table = await this.inStep(id);
    const branches = fair.shown ? await TableRow.count({ where: { parentId: id, status: 'open' } }) : 0;
    const fairness = table.fairnessFor(viewer, fair.shown === true && table.isOver && branches === 0);
    if (!fairness) throw new Error(`table ${id} has promises, and its cards were not followed`);
    return fairness;
  }

  /** The table as it stands, played again. Whoever asks at the same time waits for the same. */
  private inStep(id: string): Promise<Table> {
    const work = (this.underWay.get(id) ?? Promise.resolve()).then(() => this.replaying(() => this.broughtOn(id)));
    const kept = work
      .catch(() => undefined as never)
      .finally(() => {
        if (this.underWay.get(id) === kept) this.underWay.delete(id);
      });
    this.underWay.set(id, kept);
    return work;
  }

  private async broughtOn(id: string): Promise<Table> {
    const row = await TableRow.findByPk(id, { rejectOnEmpty: true });
    const table = this.kept.get(id) ?? beginning(await programOf(row.sheetHash), headerOf(row), true, true);
    await inStretches(await rowsAfter(id, table.number), (choice) => replayRow(table, choice));
    this.kept.set(id, table);
    return table;
  }
}
