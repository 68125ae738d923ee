import type { Decision } from '@wily-jester/core';
import { LRUCache } from 'lru-cache';
import { Problem } from '../problems.js';
import { Children, WorkError } from '../workers/children.js';
import { taskFile } from '../workers/tasks.js';
import type { Opened } from './opened.js';
import type { SolveAnswer, SolveTask } from './solve-task.js';

const TASK = taskFile('solve-task');
/** Room for what was solved lately, in characters of JSON. */
const ROOM = 16_000_000;
/** Milliseconds of the processor that solving may take. */
const LONGEST = 15_000;

/** Solutions of small games, each found once, in processes of their own. */
export class Solutions {
  private children: Children | undefined;
  private readonly known = new LRUCache<string, { readonly decisions: readonly Decision[]; readonly size: number }>({
    maxSize: ROOM,
    sizeCalculation: ({ size }) => size,
  });
  private readonly underWay = new Map<string, Promise<readonly Decision[]>>();

  /** What a solution has seats do at a table's sheet, with its settings and seats. @throws Problem where there is none, or too many wait */
  async of({
    developer,
    sheet,
    program,
    header,
  }: Opened & { readonly developer: string }): Promise<readonly Decision[]> {
    const table = { seats: header.seats.length, settings: header.settings ?? {} };
    const key = JSON.stringify([sheet, table]);
    const known = this.known.get(key);
    if (known) return known.decisions;
    let work = this.underWay.get(key);
    if (!work) {
      work = this.solved(developer, key, { program, table }).finally(() => this.underWay.delete(key));
      this.underWay.set(key, work);
    }
    return work;
  }

  private async solved(developer: string, key: string, task: SolveTask): Promise<readonly Decision[]> {
    this.children ??= new Children({
      children: 1,
      waiting: 8,
      waitingOfOne: 2,
      atOnceOfOne: 1,
      longest: LONGEST,
      longestByClock: 4 * LONGEST,
      heap: 256,
      data: 700_000_000,
      most: 20,
    });
    const answer = await this.children.run<SolveAnswer>(developer, TASK, task).catch((error: unknown) => {
      throw error instanceof WorkError ? problemOf(error) : error;
    });
    if ('unsolved' in answer) throw new Problem('setup', answer.unsolved);
    const decisions = JSON.parse(answer.decisions) as readonly Decision[];
    this.known.set(key, { decisions, size: answer.decisions.length });
    return decisions;
  }

  close(): void {
    this.children?.close();
  }
}

function problemOf({ failure, message }: WorkError): Problem {
  switch (failure) {
    case 'busy':
      return new Problem('too-many', 'Too many games wait to be solved: try again.', { retryAfter: 10 });
    case 'too-long':
      return new Problem(
        'setup',
        `This game takes longer to solve than ${LONGEST / 1000} seconds of a processor. Smaller settings may do.`,
      );
    case 'failed':
      return new Problem('setup', `This game could not be solved: ${message}. Smaller settings may do.`);
  }
}
