import type { Analysis } from '@wily-jester/protocol';
import { LRUCache } from 'lru-cache';
import pLimit from 'p-limit';
import { Problem } from '../problems.js';
import type { Thinking } from '../thinking/thinking.js';
import { personWish } from '../thinking/wish.js';
import { laterRows, storyOf } from './past.js';

/** So many choices stay at hand, as they were found. */
const MOST_KEPT = 2_000;
/** So many choices after the one that is looked at are read, for the end of its chapter. */
const MOST_LATER = 400;
/** A choice further on than this is not looked back at: each is played from the opening. */
const FURTHEST = 10_000;
/** So many choices are told at most, the best first, and the one that was made. */
const MOST_TOLD = 12;

/** What choices were worth: thought about in the threads of bots, one at a time, so that live seats wait for one at most. */
export class Analyses {
  private readonly kept = new LRUCache<string, Analysis>({ max: MOST_KEPT });
  private readonly inTurn = pLimit(1);

  constructor(private readonly thinking: Thinking) {}

  /**
   * Looks back at the choice with a number.
   * @param demand called with the seat that chose, from 0: throws where that is nobody's business
   * @throws Problem where nobody chose, or too many think
   */
  async of(id: string, number: number, milliseconds: number, demand: (seat: number) => void): Promise<Analysis> {
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
    const found = await this.inTurn(() => this.thinking.review({ id, developer: row.developer }, task)).catch(() => {
      throw new Problem('unavailable', 'Too many think at once, or it took too long: ask again later.');
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
}

/** One playout says nothing of its error. */
const known = (error: number): number | null => (Number.isFinite(error) ? error : null);

const nobodyChose = (number: number): Problem =>
  new Problem('malformed', `Number ${number} is nobody's choice: name one that a seat chose.`);
