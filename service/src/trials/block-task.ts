import { setPriority } from 'node:os';
import { type BlockResult, TrialFault, type TrialPlan, TrialPlayer } from '@wily-jester/core';

/** What a thread is asked for: a block of a trial, whose plan is sent along where the thread does not have it. */
export interface BlockTask {
  readonly trial: string;
  readonly block: number;
  readonly plan: TrialPlan | null;
}
export type BlockAnswer =
  | { readonly kind: 'block'; readonly block: BlockResult }
  | { readonly kind: 'fault'; readonly words: string }
  | { readonly kind: 'unknown' };

/** Tables come first: on Linux this is the priority of this thread alone. */
const BEHIND = 15;
try {
  setPriority(0, BEHIND);
} catch {
  // Where that may not be set, trials share the processor as the system likes.
}

let known: { readonly trial: string; readonly player: TrialPlayer } | null = null;

/** Plays a block of a trial. */
export default function playBlock({ trial, block, plan }: BlockTask): BlockAnswer {
  if (known?.trial !== trial) {
    if (!plan) return { kind: 'unknown' };
    known = { trial, player: new TrialPlayer(plan) };
  }
  try {
    return { kind: 'block', block: known.player.playBlock(block) };
  } catch (error) {
    if (!(error instanceof TrialFault)) throw error;
    return { kind: 'fault', words: `${error.message} (line ${error.fault.line} of the sheet)` };
  }
}
