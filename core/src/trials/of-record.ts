import type { Counting } from '../machine/code.js';
import type { Header, Row } from '../play/record.js';
import { replayRow } from '../play/replay.js';
import { Table } from '../play/table.js';
import type { Program } from '../program/types.js';
import { UNDO } from '../views/narration.js';
import { countsJson } from './counted-json.js';
import { type TrialFigures, trialFigures } from './figures.js';
import { GameCounter } from './game-counter.js';
import { TrialTotals } from './totals.js';
import type { TrialPlan } from './trial.js';

/** One row of a record with what the sheet counted in its step. */
interface Step {
  readonly row: Row;
  readonly counted: Parameters<Counting>[];
}

/** The steps that stand: what was taken back is left out, with what the table did by itself after it. */
function standing(steps: readonly Step[]): Step[] {
  const left: Step[] = [];
  for (const step of steps) {
    if (step.row.option !== UNDO) {
      left.push(step);
      continue;
    }
    while (left.length > 0 && left.pop()?.row.seat !== step.row.seat);
  }
  return left;
}

/**
 * What a sheet counts in one game that was played, as a trial of that game alone.
 * @throws ReplayError, SetupError or Fault where the record does not hold
 */
export function figuresOfRecord(program: Program, header: Header, rows: readonly Row[]): TrialFigures {
  const plan: TrialPlan = {
    arms: [
      {
        label: program.name,
        program,
        settings: header.settings ?? {},
        bots: header.seats.map(() => 'random'),
        seats: header.seats,
      },
    ],
    seed: header.seed,
    games: 1,
    longest: rows.length + 1,
  };
  const counter = new GameCounter(program);
  let heard: Parameters<Counting>[] = [];
  const table = new Table(program, header, { counting: (...counted) => heard.push(counted) });
  counter.listenTo(table.game);
  counter.beginBlock(0);
  counter.begin();
  const opening = heard;
  const steps = rows.map((row): Step => {
    heard = [];
    replayRow(table, row);
    return { row, counted: heard };
  });
  for (const counted of opening) counter.hear(...counted);
  for (const { row, counted } of standing(steps)) {
    if (row.seat !== null) counter.chose(row.option);
    for (const one of counted) counter.hear(...one);
  }
  if (table.isOver) counter.end(table.game, table.state);
  counter.fold(null, []);
  const totals = new TrialTotals(plan);
  const tallies = counter.counted.map(countsJson);
  totals.offer({ block: 0, blocks: 1, games: 1, arms: [{ tallies, endless: table.isOver ? 0 : 1 }] });
  return trialFigures(totals, plan);
}
