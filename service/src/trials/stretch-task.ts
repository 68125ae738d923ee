import { setPriority } from 'node:os';
import {
  type KeptTrial,
  TrialFault,
  type TrialPlan,
  TrialPlayer,
  TrialTotals,
  trialFigures,
  type Until,
} from '@wily-jester/core';

/** What a thread is asked for: to play on with a trial for a while. */
export interface StretchTask {
  readonly trial: string;
  readonly milliseconds: number;
  /** Whether what it would go on from is wanted too. */
  readonly keeps: boolean;
  /** Sent where the thread does not have the trial: its plan, and what was kept of it, as JSON. */
  readonly begin: { readonly plan: TrialPlan; readonly until: Until | null; readonly kept: string | null } | null;
}
/** How far it is. Figures and what is kept are JSON already: nobody who only passes them on reads them. */
export interface Stretch {
  readonly kind: 'stretch';
  readonly played: number;
  readonly isDone: boolean;
  readonly figures: string | null;
  readonly kept: string | null;
}
export type StretchAnswer = Stretch | { readonly kind: 'fault'; readonly words: string } | { readonly kind: 'unknown' };

/** Tables come first: on Linux this is the priority of this thread alone. */
const BEHIND = 15;
try {
  setPriority(0, BEHIND);
} catch {
  // Where that may not be set, trials share the processor as the system likes.
}

/** The trial that this thread plays, with its sums: the thread that serves tables has none of this work. */
let known: {
  readonly trial: string;
  readonly plan: TrialPlan;
  readonly player: TrialPlayer;
  readonly totals: TrialTotals;
} | null = null;

function begun(trial: string, { plan, until, kept }: NonNullable<StretchTask['begin']>): NonNullable<typeof known> {
  const totals = new TrialTotals(plan, until);
  if (kept !== null) totals.goOn(JSON.parse(kept) as KeptTrial);
  return { trial, plan, player: new TrialPlayer(plan), totals };
}

/** Plays blocks of a trial for so long, at least one. */
export default function playOn({ trial, milliseconds, keeps, begin }: StretchTask): StretchAnswer {
  if (begin) known = begun(trial, begin);
  if (known?.trial !== trial) return { kind: 'unknown' };
  const { plan, player, totals } = known;
  const until = performance.now() + milliseconds;
  try {
    do {
      if (!totals.isDone) totals.offer(player.playBlock(totals.blocks));
    } while (!totals.isDone && performance.now() < until);
  } catch (error) {
    if (!(error instanceof TrialFault)) throw error;
    return { kind: 'fault', words: `${error.message} (line ${error.fault.line} of the sheet)` };
  }
  return {
    kind: 'stretch',
    played: totals.games,
    isDone: totals.isDone,
    figures: totals.games > 0 ? JSON.stringify(trialFigures(totals, plan)) : null,
    kept: keeps ? JSON.stringify(totals.kept) : null,
  };
}
