import { type Header, type Mark, type Program, type Row, replayRow, type Table } from '@wily-jester/core';
import type { Past as PastView, Step } from '@wily-jester/protocol';
import { Op } from 'sequelize';
import { type Happened, openingOf, stepFor } from '../broadcast/recent-steps.js';
import { Problem } from '../problems.js';
import { programOf } from '../sheets/shelf.js';
import { ChoiceRow, TableRow } from '../storage/models.js';
import { toCheckpoint } from './checkpoints.js';
import { beginning, type GivesTurns, type InTurn, inStretches } from './replay.js';
import { headerOf, rowOf } from './rows.js';

/** A table's choices, with what it was opened with. */
export interface Story {
  readonly row: TableRow;
  readonly program: Program;
  readonly header: Header;
  readonly rows: readonly Row[];
}

/** Reads what a table was opened with, and its choices up to a number. @throws Problem where there are not so many */
export async function storyOf(id: string, number: number): Promise<Story> {
  return { ...(await beginningOf(id)), rows: await rowsOf(id, number, 0) };
}

/** Reads what a table was opened with. @throws Problem for an unknown table */
async function beginningOf(id: string): Promise<Omit<Story, 'rows'>> {
  const row = await TableRow.findByPk(id);
  if (!row) throw new Problem('not-found', `There is no table ${id}.`);
  return { row, program: await programOf(row.sheetHash), header: headerOf(row) };
}

/** Reads a table's choices after a number, up to another one. @throws Problem where there are not so many */
async function rowsOf(id: string, number: number, after: number): Promise<Row[]> {
  const rows = await ChoiceRow.findAll({
    where: { tableId: id, number: { [Op.gt]: after, [Op.lte]: number } },
    order: [['number', 'ASC']],
    raw: true,
  });
  const reached = after + rows.length;
  if (reached < number)
    throw new Problem('malformed', `There is no number ${number} yet: the table is at ${reached}.`, {
      number: reached,
    });
  return rows.map(rowOf);
}

/** A table's choices after a number, as many as there are, up to a limit. */
export async function laterRows(id: string, number: number, most: number): Promise<Row[]> {
  const rows = await ChoiceRow.findAll({
    where: { tableId: id, number: { [Op.gt]: number } },
    order: [['number', 'ASC']],
    limit: most,
    raw: true,
  });
  return rows.map(rowOf);
}

/** How many tables' pasts are kept at hand. */
const MOST_KEPT = 32;
/** So far behind where somebody looks, marks are set: whoever goes back from there begins at the nearest. */
const BEHIND: ReadonlySet<number> = new Set([32, 256, 2048]);
/** The most marks of one table. */
const MOST_MARKS = 8;

/** A table as it was, and what led there last. */
export class Past {
  private marks: { readonly mark: Mark; readonly last: Happened }[] = [];

  constructor(
    readonly table: Table,
    public last: Happened,
    readonly inTurn: InTurn,
  ) {}

  /** Goes to the nearest mark before a number; returns whether there is one. */
  standBefore(latest: number): boolean {
    const here = this.table.number;
    const nearest = this.marks.findLast(({ mark }) => mark.number <= latest);
    if (here <= latest && (!nearest || nearest.mark.number <= here)) return true;
    if (!nearest) return false;
    this.table.goTo(nearest.mark);
    this.last = nearest.last;
    return true;
  }

  /** Carries out one more choice on the way to a number. */
  goOn(row: Row, to: number): void {
    this.last = replayRow(this.table, row);
    if (!BEHIND.has(to - row.number) || this.marks.some(({ mark }) => mark.number === row.number)) return;
    this.marks.push({ mark: this.table.mark(), last: this.last });
    this.marks.sort((a, b) => a.mark.number - b.mark.number);
    // Whoever goes back needs those behind; of these, the first one shortens the longest way.
    if (this.marks.length > MOST_MARKS) this.marks.splice((this.marks.at(-1)?.mark.number ?? 0) > to ? -1 : 1, 1);
  }
}

/** Looks back into records. Going on from where somebody looked last is quick, and so is going back a little, as a slider wants it. */
export class Pasts {
  private readonly kept = new Map<string, Past>();

  constructor(private readonly turns: GivesTurns) {}

  /** The state after a number, as a viewer sees it. */
  async at(id: string, number: number, viewer: number): Promise<PastView> {
    const { table, last, inTurn } = await this.play(id, number, number);
    return inTurn(() => ({ view: table.view(viewer), step: stepFor(table, last, number)(viewer) }));
  }

  /** The steps after a number, up to another one, as a viewer may know them; from −1 on the opening is one of them. */
  async since(id: string, from: number, to: number, viewer: number): Promise<Step[]> {
    const steps: Step[] = [];
    const tell = ({ table, last }: Past): void => {
      if (table.number > from) steps.push(stepFor(table, last, table.number)(viewer));
    };
    await this.play(id, to, from, tell);
    return steps;
  }

  /**
   * Goes to a number, from where somebody looked last, from a mark, or from the opening.
   * @param latest how far on it may stand already
   * @param each called with the opening, where it goes from there, and after every choice
   */
  private async play(id: string, number: number, latest: number, each?: (past: Past) => void): Promise<Past> {
    const found = this.kept.get(id);
    const known = found?.standBefore(latest) ? found : null;
    // Nobody else goes on with it meanwhile.
    this.kept.delete(id);
    const { past, rows } = await this.wayTo(id, number, latest, known).catch((error: unknown) => {
      if (known) this.kept.set(id, known);
      throw error;
    });
    if (past.table.number === 0) each?.(past);
    const goOn = (row: Row): void => {
      past.goOn(row, number);
      each?.(past);
    };
    await inStretches(rows, goOn, past.inTurn);
    this.kept.set(id, past);
    const [oldest] = this.kept.keys();
    if (this.kept.size > MOST_KEPT && oldest !== undefined) this.kept.delete(oldest);
    return past;
  }

  /** Where to go on from, and the choices from there to a number. */
  private async wayTo(
    id: string,
    number: number,
    latest: number,
    known: Past | null | undefined,
  ): Promise<{ readonly past: Past; readonly rows: readonly Row[] }> {
    if (known) return { past: known, rows: await rowsOf(id, number, known.table.number) };
    const { row, program, header } = await beginningOf(id);
    const inTurn = this.turns.turnsOf(row.developer);
    const table = await inTurn(() => beginning(program, header));
    const past = new Past(table, openingOf(table), inTurn);
    // What led to the number itself is told too: its choice is carried out.
    const from = await toCheckpoint(id, past.table, Math.min(latest, number - 1));
    return { past, rows: await rowsOf(id, number, from) };
  }
}
