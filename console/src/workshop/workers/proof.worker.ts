/** Rehearsals, soaks and small trials of a draft, beside its table. */
import {
  Coverage,
  type CoveragePoint,
  Fault,
  lineOf,
  ownLine,
  type Program,
  type Rehearsal,
  rehearse,
  SetupError,
  type SoakReport,
  soak,
  TrialFault,
  type TrialFigures,
  TrialPlayer,
  TrialTotals,
  trialArms,
  trialFigures,
} from '@wily-jester/core';
import { type Reveal, revealsOf } from '@wily-jester/motley/reveals';
import { expose } from 'comlink';

/** One rehearsal that was run. */
export interface Rehearsed {
  readonly title: string;
  /** Its line, and the lines between which it stands, in the rehearsals' text. */
  readonly line: number;
  readonly failure: { readonly line: number; readonly message: string } | null;
  readonly choices: number;
  /** What leads to where it ended: the same seats, settings, cards and choices. */
  readonly way: {
    readonly seats: readonly string[];
    readonly settings: Rehearsal['settings'];
    readonly gets: Rehearsal['gets'];
    readonly rows: readonly {
      readonly seat: number;
      readonly option: string;
      readonly args: Readonly<Record<string, unknown>>;
    }[];
    readonly seed: string;
  };
}
/** What rehearsals reach of the sheet's own lines. */
export interface Reach {
  /** Lines that ran. */
  readonly covered: readonly number[];
  /** Lines of which something did not. */
  readonly missed: readonly number[];
}
/** A trial that is played at once, or why it could not be. */
export interface SmallTrial {
  readonly figures: TrialFigures | null;
  readonly problem: string;
}

let program: Program | null = null;
let coverage: Coverage | null = null;

const linesOf = (of: Program, points: readonly CoveragePoint[]): number[] => [
  ...new Set(
    points.flatMap(({ at }) => {
      const own = ownLine(of, lineOf(at));
      return own.part === null ? [own.line] : [];
    }),
  ),
];

function playTrial(of: Program, games: number): SmallTrial {
  try {
    const plan = { arms: trialArms(of, {}), seed: 'workshop', games, longest: 4_000 };
    const player = new TrialPlayer(plan);
    const totals = new TrialTotals(plan);
    for (let block = 0; !totals.isDone; block++) totals.offer(player.playBlock(block));
    return { figures: trialFigures(totals, plan), problem: '' };
  } catch (error) {
    if (error instanceof TrialFault || error instanceof SetupError || error instanceof Fault)
      return { figures: null, problem: error.message };
    throw error;
  }
}

const proof = {
  /** Takes rules whose rehearsals are run one by one. */
  begin(rules: Program): void {
    coverage = new Coverage(rules);
    program = rules;
  },
  rehearse(rehearsal: Rehearsal): Rehearsed {
    const { title, line, failure, rows } = rehearse(program as Program, rehearsal, coverage ?? undefined);
    return {
      title,
      line,
      failure,
      choices: rows.length,
      way: {
        seats: rehearsal.seats,
        settings: rehearsal.settings,
        gets: rehearsal.gets,
        rows: rows.flatMap(({ seat, option, args, by }) =>
          by === 'table' || seat === null ? [] : [{ seat: seat - 1, option, args }],
        ),
        seed: `rehearsal ${title}`,
      },
    };
  },
  /** What the rehearsals have reached since {@link begin}. */
  reach(): Reach {
    if (!program || !coverage) return { covered: [], missed: [] };
    const missed = new Set(linesOf(program, coverage.missed));
    return { covered: linesOf(program, coverage.points).filter((line) => !missed.has(line)), missed: [...missed] };
  },
  /** Plays so many random games, and what they show. */
  soak(rules: Program, games: number, from: number): SoakReport {
    return soak(rules, { games, from, seed: 1 });
  },
  trial(rules: Program, games: number): SmallTrial {
    return playTrial(rules, games);
  },
  reveals(rules: Program): readonly Reveal[] {
    return revealsOf(rules);
  },
};

export type Proof = typeof proof;
expose(proof);
