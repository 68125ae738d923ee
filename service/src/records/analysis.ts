import type { Analysis } from '@wily-jester/protocol';
import { LRUCache } from 'lru-cache';
import { Problem } from '../problems.js';
import type { Thinking } from '../thinking/thinking.js';
import { personWish } from '../thinking/wish.js';
import { Crowded, FairLimit } from '../workers/fair-limit.js';
import { laterRows, storyOf } from './past.js';

/** So many choices stay at hand, as they were found. */
const MOST_KEPT = 2_000;
/** So many choices after the one that is looked at are read, for the end of its chapter. */
const MOST_LATER = 400;
/** A choice further on than this is not looked back at: each is played from the opening. */
const FURTHEST = 10_000;
/** So many choices are told at most, the best first, and the one that was made. */
const MOST_TOLD = 12;

/** So many choices one key waits for at most. */
const MOST_OF_KEY = 4;

/**
 * What choices were worth: thought about in the threads of bots, one at a time, so that live seats wait for one at most, and
 * those of several developers' tables in turn.
 */
export class Analyses {
  private readonly kept = new LRUCache<string, Analysis>({ max: MOST_KEPT });
  private readonly inTurn = new FairLimit({ atOnce: 1, waiting: 128, waitingOfOne: 12 });
  /** How many each asker waits for. */
  private readonly asked = new Map<string, number>();

  constructor(private readonly thinking: Thinking) {}

  /**
   * Looks back at the choice with a number.
   * @param asker whoever asks, by a word of its own
   * @param demand called with the seat that chose, from 0: throws where that is nobody's business
   * @throws Problem where nobody chose, or too many think
   */
  async of(
    id: string,
    number: number,
    milliseconds: number,
    asker: string,
    demand: (seat: number) => void,
  ): Promise<Analysis> {
    if (number > FURTHEST)
      throw new Problem('malformed', `Only the first ${FURTHEST} choices of a table are looked back at.`);
    const { row, program, header, rows } = await storyOf(id, number);
    const seat = rows.at(-1)?.seat ?? null;
    if (seat === null) throw nobodyChose(number);
    demand(seat - 1);
    const later = await laterRows(id, number, MOST_LATER);
    // How the chapter ended is another answer once the record has gone on.
    const key = `${id} ${number} ${milliseconds} ${later.length}`;
    const before = this.kept.get(key);
    if (before) return before;
    const opening = { sheet: row.sheetHash, program, header };
    const task = { opening, rows: [...rows, ...later], number, wish: personWish(milliseconds, null, Date.now()) };
    const thinking = (): ReturnType<Thinking['review']> => this.thinking.review({ id, developer: row.developer }, task);
    const found = await this.counted(asker, () => this.inTurn.run(row.developer, thinking)).catch((error: unknown) => {
      if (error instanceof Problem) throw error;
      const words = error instanceof Crowded ? 'Too many look back at once' : 'It took too long';
      throw new Problem('unavailable', `${words}: ask again later.`, { retryAfter: 10 });
    });
    if (!found) throw nobodyChose(number);
    const { choices, ...rest } = found;
    const told = choices
      .filter(({ isTaken }, i) => i < MOST_TOLD || isTaken)
      .map(({ option, args, words, mean, error, gain, gainError, isTaken }) => ({
        option,
        args: { ...args },
        words,
        mean,
        error: known(error),
        gain,
        gainError: known(gainError),
        taken: isTaken,
      }));
    const analysis: Analysis = { number, seat, ...rest, choices: told as Analysis['choices'] };
    // Where the machine left no time for a single playout, another try may find more.
    if (choices.length === 0 || rest.playouts > 0) this.kept.set(key, analysis);
    return analysis;
  }

  /** Counts what an asker waits for. @throws Problem where it is too much */
  private async counted<T>(asker: string, work: () => Promise<T>): Promise<T> {
    const many = this.asked.get(asker) ?? 0;
    if (many >= MOST_OF_KEY)
      throw new Problem('too-many', 'This key looks back at several choices already: wait for each answer.', {
        retryAfter: 5,
      });
    this.asked.set(asker, many + 1);
    try {
      return await work();
    } finally {
      const left = (this.asked.get(asker) ?? 1) - 1;
      if (left === 0) this.asked.delete(asker);
      else this.asked.set(asker, left);
    }
  }
}

/** One playout says nothing of its error. */
const known = (error: number): number | null => (Number.isFinite(error) ? error : null);

const nobodyChose = (number: number): Problem =>
  new Problem('malformed', `Number ${number} is nobody's choice: name one that a seat chose.`);
