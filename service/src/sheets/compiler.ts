import type { Program } from '@wily-jester/core';
import type { SheetProblem } from '@wily-jester/protocol';
import { LRUCache } from 'lru-cache';
import { Problem } from '../problems.js';
import { compilers, WorkError } from '../workers/children.js';
import { taskFile } from '../workers/tasks.js';
import { hashOfTexts, madeSheets } from './made.js';

export interface SheetSource {
  readonly source: string;
  readonly rehearsals: string | undefined;
}

export interface CompiledSheet {
  readonly program: Program | null;
  readonly problems: readonly SheetProblem[];
  readonly lines: number;
  /** The sheet with the parts that it uses pasted in. */
  readonly text: string;
  readonly rehearsalProblems: readonly SheetProblem[];
}

const TASK = taskFile('compile-task');
/** Largest program that is taken, in bytes of JSON: the largest that sheets of the greatest length were seen to give is a quarter of it. */
const LARGEST_PROGRAM = 2_000_000;
/** Room for what was compiled lately, in bytes of JSON. */
const ROOM = 32_000_000;

/** What was compiled lately, by the hash of its texts: this release compiles equal texts alike. */
const known = new LRUCache<string, string>({ maxSize: ROOM, sizeCalculation: (text) => text.length + 100 });
/** What is under way, likewise: equal texts are compiled once. */
const underWay = new Map<string, Promise<string>>();

/** Takes what the build compiled for known, so that a start compiles none of it again. */
export async function takeMadeSheets(): Promise<void> {
  for (const [hash, text] of await madeSheets()) known.set(hash, text);
}

/** Compiles a developer's sheet in a process of its own. @throws Problem where it takes too long or too much, or too many wait */
export async function compileApart(developer: string, source: string, rehearsals?: string): Promise<CompiledSheet> {
  const given: SheetSource = { source, rehearsals };
  const hash = hashOfTexts(source, rehearsals);
  const found = known.get(hash);
  if (found !== undefined) return JSON.parse(found) as CompiledSheet;
  let work = underWay.get(hash);
  if (!work) {
    work = compiled(developer, given).finally(() => underWay.delete(hash));
    underWay.set(hash, work);
  }
  const text = await work;
  known.set(hash, text);
  return JSON.parse(text) as CompiledSheet;
}

async function compiled(developer: string, given: SheetSource): Promise<string> {
  try {
    const result = await compilers().run<CompiledSheet>(developer, TASK, given);
    const text = JSON.stringify(result);
    if (text.length > LARGEST_PROGRAM) throw new Problem('sheet', 'The sheet compiles to more than can be kept.');
    return text;
  } catch (error) {
    if (error instanceof WorkError) throw problemOf(error);
    throw error;
  }
}

function problemOf({ failure, message }: WorkError): Problem {
  switch (failure) {
    case 'busy':
      return new Problem('too-many', 'Too many sheets wait for the compiler: try again.', { retryAfter: 5 });
    case 'too-long':
      return new Problem('sheet', 'The sheet takes too long to compile: more than 5 seconds of a processor.');
    case 'failed':
      return new Problem('sheet', `The sheet could not be compiled: ${message}.`);
  }
}
