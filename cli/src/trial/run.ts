import { BLOCK, blocksTogether, type TrialPlan, type TrialTotals } from '@wily-jester/core';
import { Piscina } from 'piscina';
import { Exit, NO } from '../exit.js';
import type { BlockAnswer } from './block-task.js';

/** So many pieces of work are under way for each thread: none waits while results are added up. */
const AHEAD = 3;

/**
 * Plays a trial with so many threads, until it has what it was for or is told to stop.
 * @param onBlock hears of each block that is added up
 * @throws Exit where a game cannot go on
 */
export async function runTrial(
  plan: TrialPlan,
  totals: TrialTotals,
  { jobs, signal, onBlock }: { readonly jobs: number; readonly signal: AbortSignal; readonly onBlock: () => void },
): Promise<void> {
  const threads = Math.min(jobs, Math.ceil(plan.games / BLOCK));
  const pool = new Piscina({
    filename: new URL('../bundled/block-task.js', import.meta.url).href,
    minThreads: threads,
    maxThreads: threads,
    workerData: plan,
  });
  const all = Math.ceil(plan.games / BLOCK);
  const together = blocksTogether(plan, totals.until);
  let next = totals.blocks;
  let fault: string | null = null;
  const isOver = (): boolean => totals.isDone || signal.aborted || fault !== null;
  const lane = async (): Promise<void> => {
    while (!isOver() && next < all) {
      const first = next;
      next = Math.min(all, next + together);
      const answer = (await pool.run({ first, blocks: next - first })) as BlockAnswer;
      if ('fault' in answer) fault = answer.fault;
      else if (!isOver()) {
        totals.offer(answer.block);
        onBlock();
      }
    }
  };
  try {
    await Promise.all(Array.from({ length: threads * AHEAD }, lane));
  } finally {
    await pool.destroy();
  }
  if (fault !== null) throw new Exit(fault, NO);
}
