/**
 * What a step may cost, and what its parts cost, in operations: one is one part of the program's tree that is
 * evaluated, or as much work on data, some ten nanoseconds where code is warm. Neither caches nor followers nor the
 * clock change what is counted: a step that is refused here is refused everywhere.
 */

/** The most operations of each kind of work. */
export const BUDGETS = {
  /** The script from one wait to the next, with what is always so. */
  step: 2_000_000,
  /** Whether the seats that are asked have a move left, and what is offered to them: past it, ways are not listed. */
  offers: 3_000_000,
  /** One choice that is judged. */
  judging: 1_000_000,
  /** What a bot or a clock plays. */
  thinking: 3_000_000,
  /** Notes, as all viewers read them. */
  looks: 1_000_000,
} as const;

/** Rows that are kept are carried out again under so many times the limits: they were not too dear when they were made. */
export const LENIENCE = 10;

/** A turn of a loop of statements, for each part of its body: statements are dearer than parts of expressions. */
export const STATEMENT = 1.5;
/** One candidate of a choice, besides what its needs weigh. */
export const CANDIDATE = 30;
/** A card that goes from place to place. */
export const CARD = 20;
/** An item that goes into a new list. */
export const NEW_ITEM = 4;
/** Grouping an item by a number, and by a list. */
export const GROUPED = { number: 4, list: 60 } as const;
/** A comparison of a sort. */
export const COMPARED = 5;

/** Longest label of a pile, a variable or a word of a kind, in bytes of UTF-8: each event that touches it may tell it. */
export const LONGEST_LABEL = 200;
/** Longest text value, line, title or label of a choice, in bytes of UTF-8 as whoever sees most of it reads it. */
export const LONGEST_TEXT = 4_096;
/** The most that a step may say, in the same bytes. */
export const MOST_SAID = 65_536;
/** The most that each viewer is told of a step, events and sentences together, in bytes of UTF-8. */
export const MOST_TOLD = 1_048_576;
/** What an event and its sentence take besides names, labels and texts. */
export const EVENT_BYTES = 100;
/** The most events of a step. */
export const MOST_EVENTS = 4_000;
/** The most that the variables of one state may hold in texts, in the same bytes. */
export const MOST_TEXTS = 65_536;
