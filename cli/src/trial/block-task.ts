import { type BlockResult, TrialFault, type TrialPlan, TrialPlayer } from '@wily-jester/core';
import { workerData } from 'piscina';

const player = new TrialPlayer(workerData as TrialPlan);

/** What a block came to, or the words of the game that could not go on. */
export type BlockAnswer = { readonly block: BlockResult } | { readonly fault: string };

/** Plays one block of the trial that this thread was made for. */
export default function playBlock(block: number): BlockAnswer {
  try {
    return { block: player.playBlock(block) };
  } catch (error) {
    if (error instanceof TrialFault) return { fault: `${error.message} (line ${error.fault.line} of the sheet)` };
    throw error;
  }
}
