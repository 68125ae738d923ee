import type { Row } from '@wily-jester/core';
import type { Choice, Chosen } from '@wily-jester/protocol';
import { TextRing } from '../broadcast/text-ring.js';
import { Problem } from '../problems.js';
import { rowOf } from '../records/rows.js';
import { isAway } from '../storage/database.js';
import { ChoiceRow } from '../storage/models.js';

/** Most words kept in memory; older ones are looked up in the database. */
const MOST_KEPT = 400;

/** What is kept of a choice. */
type KeptRow = Pick<Row, 'number' | 'ask' | 'option' | 'args'>;

/** How a choice is answered: by carrying it out, or from what is kept of it. */
export interface Answering {
  carryOut(): Promise<Chosen>;
  repeat(row: KeptRow): Chosen;
}

interface Kept {
  readonly row: KeptRow;
  /** The values as the client wrote them, as JSON. */
  readonly sent: string | null;
}

/** Refusals that a choice gets which was carried out before. */
const MAYBE_KEPT: ReadonlySet<Problem['kind']> = new Set(['stale', 'turn', 'closed']);
/** `null` if the database is unavailable, so that the original refusal stands. @throws any other error */
const orNone = (error: unknown): null => {
  if (!(error instanceof Problem) && isAway(error)) return null;
  throw error;
};

const inOrder = (args: Readonly<Record<string, unknown>>): string => JSON.stringify(Object.entries(args).sort());

/** Makes choices idempotent: a choice that arrives again under the same client word gets the same answer. */
export class Idempotency {
  private readonly texts = new TextRing(MOST_KEPT);
  /** The number of its text, by word. */
  private readonly kept = new Map<string, number>();

  constructor(private readonly tableId: string) {}

  /** The word of a seat's choice, as it is kept. */
  static of(seat: number, { once }: Choice): string {
    return `${seat + 1} ${once}`;
  }

  note(word: string | null, row: Row, sent: string | null | undefined): void {
    if (word === null) return;
    const { number, ask, option, args } = row;
    const kept: Kept = { row: { number, ask, option, args }, sent: sent ?? null };
    this.kept.set(word, this.texts.add(JSON.stringify(kept)));
    const [oldest] = this.kept;
    if (oldest && oldest[1] < this.texts.oldest) this.kept.delete(oldest[0]);
  }

  /**
   * Carries a choice out, unless it was carried out before: then its answer is given again.
   * @throws Problem where the word stood for another choice, or what `carryOut` throws
   */
  async once(seat: number, choice: Choice, { carryOut, repeat }: Answering): Promise<Chosen> {
    const before = this.answerTo(seat, choice);
    if (before) return repeat(before);
    try {
      return await carryOut();
    } catch (error) {
      // Long ago, or by another process, or where an answer of the database was lost, this very choice may have been kept.
      const mayBeKept = error instanceof Problem && MAYBE_KEPT.has(error.kind);
      const kept = mayBeKept
        ? (this.answerTo(seat, choice) ?? (await this.answerFromRows(seat, choice).catch(orNone)))
        : null;
      if (kept) return repeat(kept);
      throw error;
    }
  }

  /** A choice that was carried out lately under the same word, or `null`. */
  private answerTo(seat: number, choice: Choice): KeptRow | null {
    const kept = this.kept.get(Idempotency.of(seat, choice));
    return kept === undefined ? null : repeated(choice, JSON.parse(this.texts.at(kept)) as Kept);
  }

  /** The same for a choice of long ago. */
  private async answerFromRows(seat: number, choice: Choice): Promise<KeptRow | null> {
    const row = await ChoiceRow.findOne({
      where: { tableId: this.tableId, once: Idempotency.of(seat, choice) },
      raw: true,
    });
    return row ? repeated(choice, { row: rowOf(row), sent: row.sent }) : null;
  }
}

/** @throws Problem where the word stood for another choice */
function repeated(choice: Choice, kept: Kept): KeptRow {
  const { row } = kept;
  const sent = kept.sent === null ? row.args : (JSON.parse(kept.sent) as Record<string, unknown>);
  if (row.option !== choice.option || row.ask !== choice.ask || inOrder(sent) !== inOrder(choice.args ?? {}))
    throw new Problem(
      'used-word',
      `"${choice.once}" stood for another choice of yours, number ${row.number}. Give every choice a word of its own.`,
      { number: row.number, option: row.option },
    );
  return row;
}
