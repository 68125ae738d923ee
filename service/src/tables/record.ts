import { SEMANTICS, WATCHER } from '@wily-jester/core';
import { ChoiceRow, TableRow } from '../storage/models.js';
import type { Room } from './room.js';
import { headerOf } from './rows.js';

/** The form of an exported record. */
const RECORD_FORM = 'wily-jester-record/1';

/**
 * A table's record as NDJSON: a header line, then a line a choice. The seed, promised cards and the
 * values of answers that are not in yet go to developers only.
 */
export async function recordOf(room: Room, whole: boolean): Promise<string> {
  const row = await TableRow.findByPk(room.id, { rejectOnEmpty: true });
  const header = headerOf(row);
  const summary = room.summary();
  const lines: unknown[] = [
    {
      form: RECORD_FORM,
      table: room.id,
      game: summary.game,
      sheet: row.sheetHash,
      semantics: SEMANTICS,
      generator: 'chacha20',
      settings: summary.settings,
      seats: header.seats,
      commitment: row.commitment,
      promisesFairness: summary.promisesFairness,
      opened: summary.opened,
      ...(whole ? { seed: header.seed, gets: header.gets ?? {} } : {}),
    },
  ];
  const choices = await ChoiceRow.findAll({ where: { tableId: room.id }, order: [['number', 'ASC']] });
  const { waiting } = room.view(WATCHER);
  for (const choice of choices) {
    const isOpen = waiting.together === true && choice.ask === waiting.ask && choice.number > choice.ask;
    lines.push({
      number: choice.number,
      seat: choice.seat,
      by: choice.by,
      ask: choice.ask,
      option: whole || !isOpen ? choice.option : null,
      args: whole || !isOpen ? JSON.parse(choice.args) : null,
      digest: choice.digest,
      at: choice.at.toISOString(),
    });
  }
  return `${lines.map((line) => JSON.stringify(line)).join('\n')}\n`;
}
