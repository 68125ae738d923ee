import type { ChildAnswer, ChildWork } from './children.js';

/** A child process: it does one piece of work after the other, and answers each. */
process.on('message', ({ file, input }: ChildWork) => {
  void answerTo(file, input).then((answer) => process.send?.(answer));
});
process.on('disconnect', () => process.exit(0));

async function answerTo(file: string, input: unknown): Promise<ChildAnswer> {
  try {
    const { default: work } = (await import(file)) as { default: (input: unknown) => unknown };
    return { output: await work(input) };
  } catch (error) {
    return { error: error instanceof Error ? error.message : String(error) };
  }
}
