/** A source of chance: whole numbers of 32 bits, one after the other. */
export interface Generator {
  /** The next number, 0 to 2^32 − 1, each equally likely. */
  next(): number;
  /** Draws from 0 to n − 1 in a way of its own, as whoever goes through all outcomes does. */
  readonly choose?: (n: number) => number;
}

/**
 * Chance that goes by what it is for, so that games of other rules have the same where their rules are the same. Every
 * generator is good until the next one of its kind is asked for.
 */
export interface KeyedChance {
  /**
   * For the next shuffle of a pile, which is laid in the order of its faces before.
   * @param shuffle how many shuffles there have been at this table with it @param cards how many lie there
   */
  shuffle(pile: string, shuffle: number, cards: number): Generator;
  /** For the next pick at a place of the sheet. @param pick how many picks there have been with it */
  pick(place: number, pick: number): Generator;
  /** For the next choice of a seat in a chapter. */
  player(seat: number, chapter: number): Generator;
}

/** A family of generators, one for each purpose and count, so that what one draws never shifts another. */
export interface Chance {
  /** Named in a table's header, so that a record says how its chance was made. */
  readonly name: 'chacha20' | 'chacha20/2' | 'quick' | 'quick/2';
  /** The generator of one purpose and count: the same words give the same numbers, on every machine. */
  stream(purpose: string, count: number): Generator;
  /** Where chance goes by what it is for. */
  readonly keyed?: KeyedChance | undefined;
}

/** So many numbers there are of 32 bits. */
const ALL = 0x1_0000_0000;

/**
 * A whole number from 0 to n − 1, each equally likely: numbers past the last whole multiple of n
 * are thrown away (rejection sampling), so no remainder is favoured.
 * @param n 1 to 2^32
 */
export function below(generator: Generator, n: number): number {
  if (generator.choose !== undefined) return generator.choose(n);
  let drawn = generator.next();
  // Fewer than n numbers are thrown away: below the last n of all, none is.
  if (drawn >= ALL - n) {
    const limit = ALL - (ALL % n);
    while (drawn >= limit) drawn = generator.next();
  }
  return drawn % n;
}

/** Something with places that hold numbers: an array or a typed array. */
interface Places {
  readonly length: number;
  [index: number]: number;
}

/**
 * Shuffles a stretch of places where it lies: Fisher–Yates from the last place down, each swap
 * with a place drawn evenly from those not yet settled (Knuth, TAOCP vol. 2, 3.4.2, algorithm P).
 */
export function shufflePlaces(places: Places, from: number, count: number, generator: Generator): void {
  for (let i = count - 1; i > 0; i--) {
    const j = from + below(generator, i + 1);
    const held = places[from + i] as number;
    places[from + i] = places[j] as number;
    places[j] = held;
  }
}
