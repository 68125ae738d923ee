import { quickChance } from '../chance/quick.js';
import type { Header, Row } from '../play/record.js';
import { replayRow } from '../play/replay.js';
import { Table } from '../play/table.js';
import { REGULARS } from '../program/names.js';
import type { Program } from '../program/types.js';
import { keptAnswer } from '../rules/bots.js';
import { Game } from '../rules/game.js';
import { openly } from '../rules/handles.js';
import { isRefusal, judge, type WireChoice } from '../rules/judge.js';
import { UNDO } from '../views/narration.js';
import { type Done, doneAfter, nothingDone } from './done.js';
import type { SolvedPolicy } from './solved-policy.js';

/** A choice as clients word it, and in words. */
export interface SolvedChoice extends WireChoice {
  readonly args: Row['args'];
  readonly words: string;
}

/**
 * What a solved strategy chooses for a seat after the rows of a record. Records of games that can be solved are short:
 * all of it is played again.
 * @returns `null` where the seat is not asked there
 * @throws UnknownPlace where the strategy is of another game, or of other settings
 */
export function solvedChoice(
  program: Program,
  header: Header,
  rows: readonly Row[],
  seat: number,
  policy: SolvedPolicy,
): SolvedChoice | null {
  const table = new Table(program, header);
  // Strategies speak of seats by the names that they have in trees, whoever sits there.
  const named = new Game(program, {
    seats: REGULARS.slice(0, header.seats.length),
    settings: header.settings ?? {},
    chance: quickChance(1),
  });
  // After each choice that stands, for what is taken back.
  const done = [nothingDone(named)];
  const now = (): Done => done.at(-1) as Done;
  for (const row of rows) {
    const { state } = table;
    const judged =
      row.seat === null || row.option === UNDO
        ? null
        : judge(table.game, state, row.seat - 1, row, openly(table.game, state));
    const answer = judged && !isRefusal(judged) ? keptAnswer(judged) : null;
    replayRow(table, row, false);
    if (row.option === UNDO) done.pop();
    if (answer && row.seat !== null) done.push(doneAfter(named, now(), state, table.state, row.seat - 1, answer));
  }
  if (!table.asked.includes(seat)) return null;
  const answer = policy.answerAt(named, table.state, seat, now(), table.thinking('solved', seat));
  return answer && { ask: table.openAsk, ...table.wireOf(seat, answer), words: table.wordsFor(seat, answer) };
}
