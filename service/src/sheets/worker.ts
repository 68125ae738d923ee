import { parentPort } from 'node:worker_threads';
import { compileRehearsals, compileSheet } from '@wily-jester/motley';

/** Runs in a worker of its own: checks strangers' texts, one after the other, and hands back plain data. */
parentPort?.on('message', ({ source, rehearsals }: { source: string; rehearsals: string | undefined }) => {
  const { program, problems, lines, text } = compileSheet(source);
  const rehearsalProblems = rehearsals && program ? compileRehearsals(rehearsals, source).problems : [];
  parentPort?.postMessage({ program: program ?? null, problems, lines, text, rehearsalProblems });
});

// The language is loaded: what comes now is a sheet's own time.
parentPort?.postMessage('ready');
