import { FaceError, faceText, parseFace } from '../cards/face.js';
import { type Deck, LEAST_CARDS, MOST_CARDS } from './audit.js';

/** A line of shuffles that cannot be read: which one, what is wrong with it, and how to mend it. */
export class LineError extends Error {
  override readonly name = 'LineError';
  constructor(
    readonly line: number,
    message: string,
  ) {
    super(`Line ${line}: ${message}`);
  }
}

/**
 * In which order the cards lie before each shuffle: as in the first line, by number, as faces of a new pack, or as they
 * are listed. It only matters for what can be found: a wrong one causes no false alarm.
 */
export type Start = 'first' | 'numbers' | 'deck' | readonly string[];

type Form = 'json' | 'separated' | 'words';
/** Longest line, in characters. */
const LONGEST_LINE = 262_144;
/** A line names at most so many cards that are missing or doubled. */
const MOST_NAMED = 4;

/** How the cards of a file are written. */
interface Known {
  readonly kind: 'numbers' | 'faces' | 'words';
  /** The cards in the reference order, as they are told. */
  readonly cards: readonly string[];
  /** Where each card stands there: the places of all its copies. */
  readonly places: ReadonlyMap<string, readonly number[]>;
}

const counted = (words: readonly string[]): Map<string, number> => {
  const found = new Map<string, number>();
  for (const word of words) found.set(word, (found.get(word) ?? 0) + 1);
  return found;
};

/** Whether words are 0..n−1 or 1..n, each once. */
function areNumbers(words: readonly string[]): boolean {
  if (!words.every((word) => /^\d{1,5}$/.test(word))) return false;
  const sorted = words.map(Number).sort((a, b) => a - b);
  const from = sorted[0] as number;
  return from <= 1 && sorted.every((n, i) => n === from + i);
}

function facesOf(words: readonly string[]): number[] | null {
  try {
    return words.map(parseFace);
  } catch (error) {
    if (error instanceof FaceError) return null;
    throw error;
  }
}

/**
 * Reads shuffles, one a line: words, faces or numbers with blanks or commas between them, or JSON (an array, or an object
 * with `order`, `cards` or `deck`).
 */
export class ShuffleLines {
  private line = 0;
  private form: Form | null = null;
  private known: Known | null = null;
  private header: { readonly words: readonly string[]; readonly line: number } | null = null;
  private mayBeHeader = true;
  private readonly used = new Map<string, number>();
  private order: Uint16Array = new Uint16Array(0);

  constructor(private readonly start: Start | null = null) {}

  /** The deck, once the first line has been read. */
  get deck(): Deck | null {
    const { known } = this;
    if (!known) return null;
    const hasTwins = known.places.size < known.cards.length;
    const faces = new Map([...known.places.keys()].map((card, i) => [card, i]));
    return {
      cards: known.cards.length,
      ...(hasTwins ? { faces: known.cards.map((card) => faces.get(card) ?? 0) } : {}),
    };
  }
  /** The cards in the reference order. */
  get cards(): readonly string[] {
    return this.known?.cards ?? [];
  }
  /** Lines that have been read. */
  get lines(): number {
    return this.line;
  }

  /**
   * Reads a line.
   * @returns the orders that it gives: none, one, or two where only now the first line turns out to be no header. Each is
   *   overwritten by the next.
   * @throws LineError
   */
  *read(text: string): Generator<Uint16Array> {
    this.line++;
    if (text.length > LONGEST_LINE) throw new LineError(this.line, 'This line is longer than 262,144 characters.');
    const trimmed = text.trim();
    if (trimmed === '') return;
    this.form ??= /^[[{]/.test(trimmed) ? 'json' : /[,;\t]/.test(trimmed) ? 'separated' : 'words';
    const words = this.wordsOf(trimmed);
    if (this.form === 'separated' && this.mayBeHeader && !this.known) {
      if (!this.header) {
        this.header = { words, line: this.line };
        return;
      }
      const { header } = this;
      this.mayBeHeader = false;
      const [first, second] = [counted(header.words), counted(words)];
      const isOrder = header.words.length === words.length && [...first].every(([word, n]) => second.get(word) === n);
      if (isOrder) yield this.orderOf(header.words, header.line);
    }
    yield this.orderOf(words, this.line);
  }

  /** What is left once all lines were read: the only line of a separated file. */
  *end(): Generator<Uint16Array> {
    if (this.header && this.mayBeHeader && !this.known) yield this.orderOf(this.header.words, this.header.line);
  }

  private wordsOf(text: string): string[] {
    if (this.form === 'json') return this.jsonWords(text);
    const parts = this.form === 'separated' ? text.split(/[,;\t]/) : text.split(/\s+/);
    return parts.map((part) => part.trim().replace(/^"([^"]*)"$/, '$1')).filter((part) => part !== '');
  }

  private jsonWords(text: string): string[] {
    let value: unknown;
    try {
      value = JSON.parse(text);
    } catch {
      throw new LineError(this.line, 'This is no JSON: write an array such as ["A♠","2♠"], one a line.');
    }
    const object = value as { order?: unknown; cards?: unknown; deck?: unknown } | null;
    const list = Array.isArray(value) ? value : (object?.order ?? object?.cards ?? object?.deck);
    if (!Array.isArray(list) || !list.every((item) => typeof item === 'string' || typeof item === 'number'))
      throw new LineError(this.line, 'This is no array of cards, nor an object with one called order, cards or deck.');
    return list.map(String);
  }

  private orderOf(words: readonly string[], line: number): Uint16Array {
    const known = this.known ?? this.learn(words, line);
    const written = known.kind === 'faces' ? this.asFaces(words, line) : words;
    const { used, order } = this;
    used.clear();
    if (written.length !== known.cards.length) this.refuse(written, known, line);
    for (const [i, word] of written.entries()) {
      const copy = used.get(word) ?? 0;
      const place = known.places.get(word)?.[copy];
      if (place === undefined) return this.refuse(written, known, line);
      used.set(word, copy + 1);
      order[i] = place;
    }
    return order;
  }

  private asFaces(words: readonly string[], line: number): string[] {
    return words.map((word) => {
      try {
        return faceText(parseFace(word));
      } catch (error) {
        throw error instanceof FaceError ? new LineError(line, error.message) : error;
      }
    });
  }

  private refuse(words: readonly string[], known: Known, line: number): never {
    const here = counted(words);
    const missing: string[] = [];
    const doubled: string[] = [];
    for (const [card, places] of known.places) {
      const n = here.get(card) ?? 0;
      if (n < places.length) missing.push(card);
      if (n > places.length) doubled.push(card);
    }
    const strange = [...here.keys()].filter((card) => !known.places.has(card));
    const named = (cards: readonly string[]): string =>
      cards.slice(0, MOST_NAMED).join(' ') +
      (cards.length > MOST_NAMED ? ` and ${cards.length - MOST_NAMED} others` : '');
    const parts = [
      ...(doubled.length > 0 ? [`${named(doubled)} too often`] : []),
      ...(missing.length > 0 ? [`no ${named(missing)}`] : []),
      ...(strange.length > 0 ? [`${named(strange)}, which the first line has not`] : []),
    ];
    const why = doubled.length > 0 && missing.length > 0 ? ': cards are copied, not moved' : '';
    throw new LineError(line, `It has ${parts.join(' and ')}${why}. Every line holds the same cards.`);
  }

  /** Learns from the first order what the cards are, and in which order they lie at first. */
  private learn(words: readonly string[], line: number): Known {
    if (words.length < LEAST_CARDS || words.length > MOST_CARDS)
      throw new LineError(line, `An order has ${LEAST_CARDS} to 2,000 cards, and this one ${words.length}.`);
    const isNumbers = areNumbers(words);
    const faces = isNumbers ? null : facesOf(words);
    const kind = isNumbers ? 'numbers' : faces ? 'faces' : 'words';
    const cards = this.reference(kind, faces ? faces.map(faceText) : words, faces, line);
    const places = new Map<string, number[]>();
    for (const [i, card] of cards.entries()) places.set(card, [...(places.get(card) ?? []), i]);
    this.known = { kind, cards, places };
    this.order = new Uint16Array(cards.length);
    return this.known;
  }

  private reference(
    kind: Known['kind'],
    words: readonly string[],
    faces: readonly number[] | null,
    line: number,
  ): string[] {
    const { start } = this;
    if (start === 'first') return [...words];
    if (Array.isArray(start)) {
      const listed = kind === 'faces' ? this.asFaces(start as string[], line) : (start as string[]);
      const [a, b] = [counted(listed), counted(words)];
      if (listed.length !== words.length || [...a].some(([card, n]) => b.get(card) !== n))
        throw new LineError(line, 'The cards that were given as the first order are not those of this line.');
      return listed;
    }
    if (start === 'numbers' && kind !== 'numbers')
      throw new LineError(line, 'These are not numbers without gaps from 0 or 1.');
    if (start === 'deck' && kind !== 'faces') throw new LineError(line, 'These are no cards such as 10♠ or 10S.');
    if (kind === 'numbers') return [...words].sort((a, b) => Number(a) - Number(b));
    return faces ? [...faces].sort((a, b) => a - b).map(faceText) : [...words];
  }
}
