import { setFlagsFromString } from 'node:v8';
import type { ChildAnswer, ChildNotice, ChildWork } from './children.js';

/** A child process: it does one piece of work after the other, says when it begins, and answers each. */

// Most work is over before optimized code pays for its compiling: as for commands, it is made later (`wily`).
if (process.versions.v8.startsWith('11.')) setFlagsFromString('--interrupt-budget=600000');

process.on('message', ({ file, input }: ChildWork) => {
  void answerTo(file, input).then((answer) => process.send?.(answer));
});
process.on('disconnect', () => process.exit(0));

async function answerTo(file: string, input: unknown): Promise<ChildAnswer> {
  try {
    const { default: work } = (await import(file)) as { default: (input: unknown) => unknown };
    // Sent before it begins: work that never rests would keep it here.
    await new Promise((sent) => process.send?.('begun' satisfies ChildNotice, sent));
    return { output: await work(input) };
  } catch (error) {
    return { error: error instanceof Error ? error.message : String(error) };
  }
}
