import { type Header, type Program, type Row, replay, replayRow, type Table } from '@wily-jester/core';
import type { Past as PastView, TableView } from '@wily-jester/protocol';
import { Op } from 'sequelize';
import { Problem } from '../problems.js';
import { programOf } from '../sheets/shelf.js';
import { ChoiceRow, TableRow } from '../storage/models.js';
import { nativeMac } from './mac.js';
import { headerOf, rowOf } from './rows.js';
import { Steps } from './steps.js';

/** A table's choices up to a number, with what it was opened with. */
export interface Story {
  readonly row: TableRow;
  readonly program: Program;
  readonly header: Header;
  readonly rows: readonly Row[];
}

/** Reads a table's choices up to a number. @throws Problem where there are not so many */
export async function storyOf(id: string, number: number): Promise<Story> {
  const row = await TableRow.findByPk(id);
  if (!row) throw new Problem('not-found', `There is no table ${id}.`);
  const rows = await ChoiceRow.findAll({
    where: { tableId: id, number: { [Op.lte]: number } },
    order: [['number', 'ASC']],
  });
  if (rows.length < number)
    throw new Problem('malformed', `There is no number ${number} yet: the table is at ${rows.length}.`, {
      number: rows.length,
    });
  return { row, program: await programOf(row.sheetHash), header: headerOf(row), rows: rows.map(rowOf) };
}

/** How many tables' pasts are kept at hand. */
const MOST_KEPT = 32;

/** Looks back into records. Going on from where somebody looked last is quick, as a slider wants it. */
export class Pasts {
  private readonly kept = new Map<string, { readonly table: Table; readonly steps: Steps }>();

  /** The state after a number, as a viewer sees it. */
  async at(id: string, number: number, viewer: number): Promise<PastView> {
    const story = await storyOf(id, number);
    let past = this.kept.get(id);
    if (!past || past.table.number > number) {
      const table = replay(story.program, story.header, [], { live: true, mac: nativeMac });
      past = { table, steps: new Steps(table) };
    }
    const { table, steps } = past;
    for (const row of story.rows.slice(table.number)) steps.add(replayRow(table, row));
    this.kept.delete(id);
    this.kept.set(id, past);
    const [oldest] = this.kept.keys();
    if (this.kept.size > MOST_KEPT && oldest !== undefined) this.kept.delete(oldest);
    return { view: table.view(viewer) as unknown as TableView, step: steps.at(number, viewer) };
  }
}
