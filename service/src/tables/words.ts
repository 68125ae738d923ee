import type { Row } from '@wily-jester/core';
import type { Choice, Chosen } from '@wily-jester/protocol';
import { Problem } from '../problems.js';

interface Kept {
  readonly row: Row;
  /** The values as the client wrote them, as JSON. */
  readonly sent: string | null;
}

const inOrder = (args: Readonly<Record<string, unknown>>): string => JSON.stringify(Object.entries(args).sort());

/** The words under which clients sent the choices of one table: a choice that comes again is answered again. */
export class Words {
  private readonly kept = new Map<string, Kept>();

  note(word: string | null, row: Row, sent: string | null | undefined): void {
    if (word !== null) this.kept.set(word, { row, sent: sent ?? null });
  }

  /**
   * The answer to a choice that was carried out before under the same word, or `null`.
   * @throws Problem where the word stood for another choice
   */
  answerTo(seat: number, choice: Choice): Chosen | null {
    const kept = this.kept.get(`${seat + 1} ${choice.once}`);
    if (!kept) return null;
    const { row } = kept;
    const sent = kept.sent === null ? row.args : (JSON.parse(kept.sent) as Record<string, unknown>);
    if (row.option !== choice.option || row.ask !== choice.ask || inOrder(sent) !== inOrder(choice.args ?? {}))
      throw new Problem(
        'used-word',
        `"${choice.once}" stood for another choice of yours, number ${row.number}. Give every choice a word of its own.`,
        { number: row.number, option: row.option },
      );
    const args = { ...row.args } as Chosen['args'];
    return { number: row.number, seat: seat + 1, option: row.option, args, repeated: true };
  }
}
