import { availableParallelism } from 'node:os';
import type { ArgValue, Decision, Review, Row } from '@wily-jester/core';
import { LRUCache } from 'lru-cache';
import { FairLimit, type FairLimits } from '../workers/fair-limit.js';
import { oneThread } from '../workers/thread.js';
import type { Opened } from './opened.js';
import { Solutions } from './solutions.js';
import type { Wish } from './wish.js';

/** What a thread is asked to think about. */
export interface ThinkTask {
  readonly id: string;
  /** The number at which the thread has the table, and what it must carry out from there. */
  readonly from: number;
  readonly rows: readonly Row[];
  /** Sent where the thread does not have the table. */
  readonly opening: Opened | null;
  readonly seat: number;
  readonly wish: Wish;
}

/** A choice of a record that a thread is asked to look back at. */
export interface ReviewTask {
  readonly opening: Opened;
  /** From the first on, to the end of the chapter or further. */
  readonly rows: readonly Row[];
  readonly number: number;
  readonly wish: Wish;
}
/** A table of which a thread is asked what a solution has a seat choose. */
export interface SolvedTask {
  readonly opening: Opened;
  readonly rows: readonly Row[];
  readonly asked: number;
  readonly decisions: readonly Decision[];
}
/** `null` where nobody chose. */
export type ReviewAnswer = Review | null;

/** A choice as clients word it, and in words. */
export interface ThoughtChoice {
  readonly option: string;
  readonly args: Readonly<Record<string, ArgValue>>;
  readonly words: string;
}

export interface Found {
  readonly kind: 'thought';
  /** The number at which the ask opened that it answers. */
  readonly ask: number;
  readonly choice: ThoughtChoice;
  /** What was weighed, the best first: points ahead of the others at the end of the chapter, and their standard error. */
  readonly choices: readonly (ThoughtChoice & {
    readonly mean: number;
    readonly error: number;
    readonly playouts: number;
  })[];
  readonly playouts: number;
  /** Whether there was nothing else to choose. */
  readonly isAlone: boolean;
}
/** What a solution has a seat choose. */
export interface Solved {
  readonly kind: 'solved';
  readonly ask: number;
  readonly choice: ThoughtChoice;
}
export type SolvedAnswer = Solved | { readonly kind: 'nothing' };
export type ThinkAnswer = Found | { readonly kind: 'nothing' } | { readonly kind: 'unknown' };

/** What a table gives of itself, so that somebody can think about it elsewhere. */
export interface Thinkable extends Opened {
  readonly id: string;
  /** Whose table it is. */
  readonly developer: string;
  /** The rows that are kept, after a number. */
  rowsAfter(number: number): Promise<readonly Row[]>;
}

/** How much longer than it may think a thread may take before it is ended, in milliseconds. */
const GRACE = 5_000;
/** A thread without work ends after so long, in milliseconds. */
const IDLE = 60_000;
/** One question after the other for each thread, those of several developers in turn. */
const QUESTIONS: FairLimits = { atOnce: 1, waiting: 256, waitingOfOne: 16 };
/** Memory for one thread, in mebibytes. */
const HEAP = 256;
/** So many tables are remembered as known to a thread. */
const MOST_KNOWN = 16;

/** A thread, and how far it has each table. */
class Lane {
  private readonly pool = oneThread('think-task', { heap: HEAP, idle: IDLE });
  private readonly known = new LRUCache<string, number>({ max: MOST_KNOWN });
  private readonly questions = new FairLimit(QUESTIONS);

  /** One question after the other: each goes on from where the one before it left the table. */
  think(table: Thinkable, seat: number, wish: Wish): Promise<ThinkAnswer> {
    return this.questions.run(table.developer, () => this.ask(table, { seat, wish }));
  }
  review(developer: string, task: ReviewTask): Promise<ReviewAnswer> {
    return this.questions.run(developer, async () => {
      const signal = AbortSignal.timeout(task.wish.latest + GRACE);
      return (await this.pool.run(task, { signal })) as ReviewAnswer;
    });
  }

  solved(table: Thinkable, asked: number, decisions: readonly Decision[]): Promise<SolvedAnswer> {
    return this.questions.run(table.developer, async () => {
      const { sheet, program, header } = table;
      const task = { opening: { sheet, program, header }, rows: await table.rowsAfter(0), asked, decisions };
      return (await this.pool.run(task, { signal: AbortSignal.timeout(GRACE) })) as SolvedAnswer;
    });
  }

  private async ask(table: Thinkable, asked: Pick<ThinkTask, 'seat' | 'wish'>): Promise<ThinkAnswer> {
    const from = this.known.get(table.id);
    if (from !== undefined) {
      const answer = await this.run({ ...asked, id: table.id, from, rows: await table.rowsAfter(from), opening: null });
      if (answer.kind !== 'unknown') return answer;
    }
    const { sheet, program, header } = table;
    const rows = await table.rowsAfter(0);
    return this.run({ ...asked, id: table.id, from: 0, rows, opening: { sheet, program, header } });
  }

  private async run(task: ThinkTask): Promise<ThinkAnswer> {
    const signal = AbortSignal.timeout(task.wish.latest + GRACE);
    this.known.delete(task.id);
    const answer = (await this.pool.run(task, { signal })) as ThinkAnswer;
    if (answer.kind !== 'unknown') this.known.set(task.id, task.rows.at(-1)?.number ?? task.from);
    return answer;
  }

  close(): Promise<void> {
    return this.pool.destroy();
  }
}

/** Thinking for seats, in threads beside the one that serves tables: each table has its own. */
export class Thinking {
  readonly solutions = new Solutions();
  private readonly lanes = Array.from({ length: Math.max(1, availableParallelism() - 1) }, () => new Lane());

  /** @throws where it takes too long, too much memory, or too many wait */
  think(table: Thinkable, seat: number, wish: Wish): Promise<ThinkAnswer> {
    return this.laneOf(table.id).think(table, seat, wish);
  }

  /** Looks back at a choice of a record. @throws where it takes too long, too much memory, or too many wait */
  review(table: Pick<Thinkable, 'id' | 'developer'>, task: ReviewTask): Promise<ReviewAnswer> {
    return this.laneOf(table.id).review(table.developer, task);
  }

  /** What a solution of the game has a seat choose. @throws where it takes too long, too much memory, or too many wait */
  async solved(table: Thinkable, seat: number): Promise<SolvedAnswer> {
    return this.laneOf(table.id).solved(table, seat, await this.solutions.of(table));
  }

  private laneOf(id: string): Lane {
    const hash = [...id].reduce((sum, sign) => (sum * 31 + sign.charCodeAt(0)) >>> 0, 0);
    return this.lanes[hash % this.lanes.length] as Lane;
  }

  async close(): Promise<void> {
    this.solutions.close();
    await Promise.all(this.lanes.map((lane) => lane.close()));
  }
}
