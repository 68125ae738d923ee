import { createReadStream, existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { createInterface } from 'node:readline';
import { Audit, LineError, namedShuffle, ShuffleError, ShuffleLines, type Start } from '@wily-jester/core';
import { Exit, NO, WRONG_USE } from '../exit.js';
import { INPUT } from '../files.js';

/** The orders of a known shuffle. @throws Exit where there is none of this name */
export function auditNamed(
  name: string,
  cards: number,
  shuffles: number,
  seed: string,
): { audit: Audit; words: string } {
  try {
    const shuffle = namedShuffle(name, cards, seed);
    const audit = new Audit({ cards });
    for (let i = 0; i < shuffles; i++) audit.add(shuffle.next());
    return { audit, words: shuffle.words };
  } catch (error) {
    if (error instanceof ShuffleError) throw new Exit(error.message, WRONG_USE);
    throw error;
  }
}

/** Reads `--start`: a word, or a file that lists the cards as they lie before each shuffle. */
export async function startOf(wish: string | undefined): Promise<Start | null> {
  if (wish === undefined) return null;
  if (wish === 'first' || wish === 'numbers' || wish === 'deck') return wish;
  if (!existsSync(wish))
    throw new Exit(`--start is first, numbers, deck or a file; there is no file ${wish}.`, WRONG_USE);
  return (await readFile(wish, 'utf8')).split(/[\s,;]+/).filter((word) => word !== '');
}

/** The orders of a file or of standard input, line by line: none is kept. @throws Exit for a line that cannot be read */
export async function auditLines(file: string, start: Start | null): Promise<Audit> {
  if (file !== INPUT && !existsSync(file)) throw new Exit(`There is no file ${file}.`, WRONG_USE);
  const lines = new ShuffleLines(start);
  let audit: Audit | null = null;
  const take = (orders: Iterable<Uint16Array>): void => {
    for (const order of orders) {
      const { deck } = lines;
      if (!audit && deck) audit = new Audit(deck);
      audit?.add(order);
    }
  };
  try {
    const input = file === INPUT ? process.stdin : createReadStream(file, 'utf8');
    for await (const line of createInterface({ input, crlfDelay: Number.POSITIVE_INFINITY })) take(lines.read(line));
    take(lines.end());
  } catch (error) {
    if (error instanceof LineError) throw new Exit(error.message, NO);
    throw error;
  }
  if (!audit)
    throw new Exit('There is no shuffle here: write one a line, its cards with blanks between them.', WRONG_USE);
  return audit;
}
