import type { Game, Header, Row } from '@wily-jester/core';
import type { Choice, Chosen, TableSummary } from '@wily-jester/protocol';
import { Problem } from '../problems.js';
import { ChoiceRow, type TableRow } from '../storage/models.js';

/** Who holds a seat: a person, or one of the sheet's bots. */
export interface SeatHolder {
  readonly bot: string | null;
}

export const headerOf = (row: TableRow): Header => JSON.parse(row.header) as Header;

/** A kept choice as the engine's record knows it. */
export function rowOf(row: ChoiceRow): Row {
  return {
    number: row.number,
    seat: row.seat,
    by: row.by as Row['by'],
    ask: row.ask,
    option: row.option,
    args: JSON.parse(row.args) as Row['args'],
    digest: row.digest,
  };
}

/** A table's settings by name, with the values that it runs on. */
export function settingsOf(game: Game): Record<string, number | boolean | string> {
  const settings: Record<string, number | boolean | string> = {};
  for (const [i, { name, domain }] of game.program.settings.entries()) {
    const value = game.shape.settings[i] ?? 0;
    settings[name] = domain.k === 'flag' ? value !== 0 : domain.k === 'words' ? (domain.words[value] ?? '') : value;
  }
  return settings;
}

/** What everybody with a key may know of a table. */
export function summaryOf(
  row: TableRow,
  game: string,
  settings: TableSummary['settings'],
  holders: readonly SeatHolder[],
  fault: TableSummary['fault'],
): TableSummary {
  const { seats } = headerOf(row);
  return {
    id: row.id,
    sheet: row.sheetHash,
    game,
    seats: seats.map((name, i) => ({ seat: i + 1, name, bot: holders[i]?.bot ?? null })),
    status: row.status,
    number: row.number,
    chapter: row.chapter,
    opened: row.openedAt.toISOString(),
    changed: row.changedAt.toISOString(),
    settings,
    commitment: row.commitment,
    promisesFairness: Boolean(row.promisesFairness),
    pace: row.pace,
    clocks: Boolean(row.clocks),
    fault,
  };
}

const sameArgs = (a: Record<string, unknown>, b: Record<string, unknown>): boolean =>
  JSON.stringify(Object.entries(a).sort()) === JSON.stringify(Object.entries(b).sort());

/**
 * The answer to a choice that was carried out before under the same word.
 * @throws Problem where the word stood for another choice
 */
export async function chosenBefore(tableId: string, seat: number, choice: Choice): Promise<Chosen | null> {
  const row = await ChoiceRow.findOne({ where: { tableId, once: `${seat + 1} ${choice.once}` } });
  if (!row) return null;
  const args = JSON.parse(row.args) as Chosen['args'];
  const sent = row.sent === null ? args : (JSON.parse(row.sent) as Chosen['args']);
  if (row.option !== choice.option || row.ask !== choice.ask || !sameArgs(sent, choice.args ?? {}))
    throw new Problem(
      'used-word',
      `"${choice.once}" stood for another choice of yours, number ${row.number}. Give every choice a word of its own.`,
      { number: row.number, option: row.option },
    );
  return { number: row.number, seat: seat + 1, option: row.option, args, repeated: true };
}
