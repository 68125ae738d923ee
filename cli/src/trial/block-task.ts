import { type BlockResult, TrialFault, type TrialPlan, TrialPlayer } from '@wily-jester/core';
import { workerData } from 'piscina';

const player = new TrialPlayer(workerData as TrialPlan);

/** What the blocks came to, or the words of the game that could not go on. */
export type BlockAnswer = { readonly block: BlockResult } | { readonly fault: string };

/** Plays some blocks in a row of the trial that this thread was made for. */
export default function playBlocks({
  first,
  blocks,
}: {
  readonly first: number;
  readonly blocks: number;
}): BlockAnswer {
  try {
    return { block: player.playBlock(first, blocks) };
  } catch (error) {
    if (error instanceof TrialFault) return { fault: `${error.message} (line ${error.fault.line} of the sheet)` };
    throw error;
  }
}
