/** The types of generated code: what a choice is made of, and the functions that {@link Code} gives. */
import type { Generator } from '../chance/generator.js';
import type { State } from './state.js';
import type { Piece } from './text.js';

/** The value of a parameter: a number, or several cards. */
export type Arg = number | readonly number[];
export type Args = readonly Arg[];

/** A seat's answer: the option's place in its ask, and a value for each parameter. */
export interface Answer {
  readonly option: number;
  readonly args: Args;
}

/** A value that is counted: a number, or the pieces of a text. */
export type Counted = number | readonly Piece[];

/** Hears what a sheet counts: which of its tallies, the value and what it is per, and what it goes by (0 where there is none). */
export type Counting = (tally: number, value: Counted, per: number, first: Counted, second: Counted) => void;

/** Reads something as one seat sees it: state, viewer, and up to four values. */
export type Read<T> = (s: State, v: number, ...args: Args) => T;

export type DomainCode =
  | {
      readonly k: 'range';
      readonly from: Read<number>;
      readonly to: Read<number>;
      readonly by: Read<number> | null;
      readonly marks: readonly Read<number>[];
    }
  | { readonly k: 'values'; readonly list: Read<readonly number[]> }
  | {
      readonly k: 'cards';
      readonly list: Read<readonly number[]>;
      readonly least: Read<number>;
      readonly most: Read<number> | null;
      readonly grow: Read<boolean> | null;
      readonly shapes: readonly number[] | null;
    };

/** The clauses of one option, each as a function, and the walks over its legal ways. */
export interface OptionCode {
  readonly when: Read<boolean> | null;
  readonly on: Read<number | readonly number[]> | null;
  /** The label once all parameters are chosen. */
  readonly label: Read<readonly Piece[]> | null;
  /** The label with `{name}` where a parameter's value will stand. */
  readonly template: Read<readonly Piece[]> | null;
  readonly domains: readonly DomainCode[];
  readonly needs: readonly { readonly holds: Read<boolean>; readonly text: Read<readonly Piece[]> | null }[];
  readonly ways: WaysCode;
}

/**
 * The walks over the legal ways of one option, in the order of its domains. All of them are written from one walk:
 * each `needs` is tested as soon as its parameters are bound, each candidate counts as an operation, and at most
 * {@link MOST_TESTED} candidates are tested.
 */
export interface WaysCode {
  /** Whether there is a legal way. */
  readonly any: (s: State, v: number) => boolean;
  /** Whether there is a legal way with these values; `null` leaves one free. */
  readonly agrees: (s: State, v: number, wanted: readonly (Arg | null)[]) => boolean;
  /** How many legal ways there are, at most `most`. */
  readonly count: (s: State, v: number, most: number) => number;
  /** Writes at most `most` legal ways into a buffer, the values of one behind those of the other; gives how many. */
  readonly list: (s: State, v: number, into: Arg[], most: number) => number;
  /** Draws a legal way, each as likely as any other; `null` where there is none. The answer is good until the next draw. */
  readonly draw: (s: State, v: number, generator: Generator) => Answer | null;
}

/** Greatest number of candidates tested for one question about an option. */
export const MOST_TESTED = 65_536;

/** What generated code gives back. */
export interface Code {
  /** Begins to count operations from nothing. @param most how many there may be; those of a step unless it is said */
  readonly begin: (most?: number) => void;
  /** Steps may cost so many times what they usually may, from now on. */
  readonly allow: (times: number) => void;
  /** The place of the sheet that was noted last. */
  readonly here: () => number;
  /** Counts operations of work that is done outside of generated code, for what it asked. */
  readonly pay: (operations: number) => void;
  /** Operations since {@link begin}. */
  readonly spent: () => number;
  readonly init: (s: State) => void;
  readonly script: (s: State) => void;
  /** Carries out an answer that is legal, and gives what {@link always} gives. */
  readonly answer: (s: State, seat: number, option: number, args: Args) => number;
  /** Runs the `stuck` part of an ask whose time is up, and gives what {@link always} gives. */
  readonly expire: (s: State) => number;
  /** Ends a pause, and gives what {@link always} gives. */
  readonly resume: (s: State) => number;
  /** By ask, then by option. */
  readonly options: readonly (readonly OptionCode[])[];
  /** By ask: whether an answer is legal for a seat that is asked. */
  readonly legal: readonly ((s: State, v: number, option: number, args: Args) => boolean)[];
  /** By ask: whether a seat has a legal choice that counts as a move left. */
  readonly choosable: readonly ((s: State, v: number) => boolean)[];
  /** By ask of which the first answer counts: the seats in the order in which the sheet lists them; `null` for others. */
  readonly racers: readonly (((s: State) => readonly number[]) | null)[];
  /**
   * By ask: draws a legal choice, the option evenly among those that have one, then its way evenly.
   * @param asides whether asides count as much as other options; otherwise they are drawn where nothing else is legal
   */
  readonly draw: readonly ((s: State, v: number, generator: Generator, asides: boolean) => Answer | null)[];
  /** The first declaration of what is always so that does not hold, or −1. */
  readonly always: (s: State) => number;
  readonly needs: readonly { readonly holds: (s: State) => boolean; readonly text: (s: State) => readonly Piece[] }[];
  /** By bot: what it plays for a seat that is asked; `null` where no line fits. The answer is good until the next one. */
  readonly bots: readonly ((s: State, v: number, generator: Generator) => Answer | null)[];
  /** By bot: for each of its lines what it would play by itself, as above; `null` where it does not answer the open ask. */
  readonly botLines: readonly ((
    s: State,
    generator: Generator,
  ) => readonly (((s: State, v: number, generator: Generator) => Answer | null) | null)[])[];
  readonly notes: readonly Read<unknown>[];
  /** By declared pile: some of its cards in the sheet's own order, as a viewer reads it; `null` where it has none. */
  readonly orders: readonly (((s: State, viewer: number, cards: readonly number[]) => readonly number[]) | null)[];
  readonly probes: readonly ((s: State) => unknown)[];
  readonly refills: readonly (readonly [number, (s: State) => unknown])[];
}
