import { canonical, type Hash, hashed, toHex } from './messages.js';
import type { Opened, OpeningFacts, ShuffleOf } from './pledge.js';

/** The form of what may be checked of a table's shuffles: one JSON value a line, in the order in which they were told. */
export const FAIR_FORM = 'wily-jester-fair/3';
/** The form of earlier releases: choices are not bound there. */
export const FORM_WITHOUT_CHOICES = 'wily-jester-fair/2';

/** A shuffle that was promised, as everybody is told of it. */
export interface PromisedShuffle extends ShuffleOf {
  /** The root of its order, told before any card of it moved. */
  readonly root: string;
  /** The table's number after the step in which it was. */
  readonly at: number;
  /** What binds all choices before that step, as {@link choiceLink} gives it; earlier releases bound none. */
  readonly choices?: string;
}

/** What everybody is told alike, in this order. */
export type SharedLine =
  | { readonly fair: 'table'; readonly form: string; readonly facts: OpeningFacts; readonly hash: string }
  /** A seat that promised something and did not show it: all was begun anew without it. */
  | { readonly fair: 'void'; readonly seat: number }
  | { readonly fair: 'service'; readonly commitment: string }
  | { readonly fair: 'promise'; readonly seat: number; readonly promise: string }
  | { readonly fair: 'frozen'; readonly hash: string }
  | { readonly fair: 'show'; readonly seat: number; readonly bytes: string }
  | { readonly fair: 'ready'; readonly opening: string }
  /** Shuffles after so many were taken back: one of them comes again. */
  | { readonly fair: 'back'; readonly shuffles: number }
  | ({ readonly fair: 'shuffle' } & PromisedShuffle)
  /** How far the table had come, and what binds every choice up to there. */
  | { readonly fair: 'choices'; readonly at: number; readonly hash: string };

/** What one viewer is told, and what is told at the end. */
export type OwnLine =
  /** So many shuffles were before, and are told no more: `hash` is what the next line names. */
  | { readonly fair: 'earlier'; readonly shuffles: number; readonly hash: string }
  | ({ readonly fair: 'card' } & Opened)
  /** Cards that were seen, and came by way of another's hand: their places would tell when. */
  | { readonly fair: 'seen'; readonly cards: number }
  /** The service's seed, once the game is over, where the table was opened so. */
  | { readonly fair: 'seed'; readonly seed: string }
  | { readonly fair: 'order'; readonly shuffle: number; readonly faces: readonly string[] }
  /** How far the table had come, and the fingerprint of what everybody was told. */
  | { readonly fair: 'end'; readonly at: number; readonly head: string };

/** A line that is told to all, with the hash of the one before it. */
export type LinkedLine = SharedLine & { readonly after: string };
export type FairLine = LinkedLine | OwnLine;

/** A line bound to the one before it. */
export const linkedAfter = (after: string, line: SharedLine): LinkedLine => ({ ...line, after });

/** The lines that everybody is told, each bound to the one before: two who have the same last hash were told the same. */
export class Chain {
  /** The hash of the last line. */
  last = '';

  /** Binds a line to the last one. */
  link(line: SharedLine): LinkedLine {
    const linked = linkedAfter(this.last, line);
    this.last = linkOf(linked);
    return linked;
  }
}

/** What the line after this one names. */
export const linkOf = (line: LinkedLine): string => toHex(hashed('line', canonical(line)));

/** A choice that was carried out, as a record keeps it. */
export interface BoundChoice {
  readonly number: number;
  readonly seat: number | null;
  readonly by: string;
  readonly ask: number;
  readonly option: string;
  readonly args: Readonly<Record<string, unknown>>;
  readonly digest: string;
}

/**
 * Binds a choice to those before it. The key is known to the service alone until the seed is shown: before that nobody can
 * find a choice by trying, and afterwards everybody can tell whether it is another one.
 * @param before what binds those before it, empty for the first
 */
export const choiceLink = (before: string, key: Hash, choice: BoundChoice): string => {
  const { number, seat, by, ask, option, args, digest } = choice;
  return toHex(hashed('choice', before, key, canonical({ number, seat, by, ask, option, args, digest })));
};

const LETTERS = 'abcdefghijklmnopqrstuvwxyz234567';

/** The first 130 bits of a hash as 26 letters: a fingerprint for people to compare. */
export function lettersOf(hash: string): string {
  const bits = BigInt(`0x0${hash.slice(0, 34)}`);
  return Array.from({ length: 26 }, (_, i) => LETTERS[Number((bits >> BigInt(131 - 5 * i)) & 31n)]).join('');
}
