import { SetupError, type TrialPlan, TrialTotals, trialArms, type Until, UntilError } from '@wily-jester/core';
import type { NewTrial } from '@wily-jester/protocol';
import { Problem } from '../problems.js';
import { programOf } from '../sheets/shelf.js';

/** Most choices and ends of pauses of one game: one that goes on longer is told of. */
const LONGEST = 100_000;

/** A trial's plan, and when it ends. */
export interface Planned {
  readonly plan: TrialPlan;
  readonly until: Until | null;
}

/** Reads what a trial is asked for. @throws Problem where it does not fit the sheet */
export async function planned(hash: string, wish: NewTrial): Promise<Planned> {
  const program = await programOf(hash);
  const { settings, seats, bots, compare, games, seed = '1', until } = wish;
  try {
    const arms = trialArms(program, { ...(settings ? { settings } : {}), seats, bots, compare });
    const plan: TrialPlan = { arms, seed, games, longest: LONGEST };
    const ends: Until | null = until
      ? until.within === undefined
        ? { tally: until.tally, differs: true }
        : { tally: until.tally, within: until.within }
      : null;
    // Whether it can end by that figure is known before anything is played.
    new TrialTotals(plan, ends);
    return { plan, until: ends };
  } catch (error) {
    if (error instanceof SetupError || error instanceof UntilError) throw new Problem('setup', error.message);
    throw error;
  }
}
