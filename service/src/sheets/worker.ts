import { parentPort, workerData } from 'node:worker_threads';
import { compileRehearsals, compileSheet } from '@wily-jester/motley';

/** Runs in a worker of its own: checks a stranger's text, and hands back plain data. */
const { source, rehearsals } = workerData as { source: string; rehearsals: string | undefined };
const { program, problems, lines } = compileSheet(source);
const rehearsalProblems = rehearsals && program ? compileRehearsals(rehearsals, source).problems : [];
parentPort?.postMessage({ program: program ?? null, problems, lines, rehearsalProblems });
