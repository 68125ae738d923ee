import { quickChance } from '../chance/quick.js';
import { choiceWords } from '../play/carried.js';
import type { Header, Row } from '../play/record.js';
import { replayRow } from '../play/replay.js';
import { Table } from '../play/table.js';
import { REGULARS } from '../program/names.js';
import type { Program } from '../program/types.js';
import { Game } from '../rules/game.js';
import { isRefusal, judge, type WireChoice } from '../rules/judge.js';
import { UNDO } from '../views/narration.js';
import type { SolvedPolicy } from './solved-policy.js';
import { doneWords } from './tree.js';

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
  const done: string[] = [];
  for (const row of rows) {
    const { state } = table;
    if (row.option === UNDO) done.pop();
    else if (row.seat !== null) {
      const answer = judge(table.game, state, row.seat - 1, row);
      if (!isRefusal(answer))
        done.push(doneWords(named, row.seat - 1, choiceWords(named, state, row.seat - 1, answer)));
    }
    replayRow(table, row, false);
  }
  if (!table.asked.includes(seat)) return null;
  const answer = policy.answerAt(named, table.state, seat, done, table.thinking('solved', seat));
  return answer && { ask: table.openAsk, ...table.wireOf(answer), words: table.wordsFor(seat, answer) };
}
