/**
 * A program: a rule sheet that was checked and compiled, as plain data. Programs are stored with the
 * sheet, sent to workers and run by the engine; nothing here needs the text or the parser any more.
 */
import type { DeckForm } from '../cards/deck.js';
import type { At, Expr, Type } from './expressions.js';

export * from './expressions.js';

/** The meaning of programs changes only with this number; a table ends on the program with which it began. */
export const SEMANTICS = 2;

/** Who sees a card: everybody, nobody, or the owner of the pile where it lies. */
export type Facing = 'down' | 'up' | 'private';
export const FACINGS: readonly Facing[] = ['down', 'up', 'private'];

export type Target =
  | { readonly k: 'local'; readonly i: number }
  | { readonly k: 'var'; readonly i: number; readonly owner: Expr | null; readonly second?: Expr }
  | { readonly k: 'score'; readonly owner: Expr };

export type SetOp = '=' | '+=' | '-=' | '*=';

export type Deal = {
  readonly s: 'deal';
  /** How many cards (to each); `null` deals all. */
  readonly count: Expr | null;
  readonly upTo: boolean;
  readonly from: Expr;
  readonly to:
    | { readonly k: 'pile'; readonly pile: Expr }
    | { readonly k: 'seats'; readonly family: number; readonly of: Expr; readonly starting: Expr | null }
    | { readonly k: 'piles'; readonly piles: Expr };
  readonly facing: Facing | null;
  /** The facing holds only where this does. */
  readonly facingWhen: Expr | null;
  readonly into: number | null;
};

export type Move = {
  readonly s: 'move';
  readonly what: { readonly k: 'cards'; readonly cards: Expr } | { readonly k: 'all'; readonly pile: Expr };
  readonly to: Expr;
  readonly reversed: boolean;
  readonly oneByOne: boolean;
  readonly beneath: boolean;
  readonly facing: Facing | null;
  readonly facingWhen: Expr | null;
};

export type Stmt = { readonly at: At } & (
  | { readonly s: 'shuffle'; readonly pile: Expr }
  | { readonly s: 'pick'; readonly target: Target; readonly from: Expr }
  | Deal
  | Move
  | { readonly s: 'gather'; readonly piles: readonly Expr[]; readonly to: Expr }
  | { readonly s: 'turn'; readonly how: 'up' | 'down'; readonly what: Expr }
  | { readonly s: 'reveal'; readonly what: Expr; readonly to: Expr }
  | { readonly s: 'show'; readonly what: Expr; readonly to: Expr | null }
  | { readonly s: 'set'; readonly target: Target; readonly op: SetOp; readonly e: Expr }
  | { readonly s: 'reset'; readonly vars: readonly number[] }
  | { readonly s: 'let'; readonly local: number; readonly e: Expr }
  | { readonly s: 'if'; readonly c: Expr; readonly yes: readonly Stmt[]; readonly no: readonly Stmt[] | null }
  | { readonly s: 'while'; readonly c: Expr; readonly body: readonly Stmt[] }
  | { readonly s: 'repeat'; readonly body: readonly Stmt[]; readonly until: Expr | null }
  | {
      readonly s: 'each';
      readonly local: number;
      readonly list: Expr;
      readonly where: Expr | null;
      readonly body: readonly Stmt[];
    }
  | {
      readonly s: 'for';
      readonly local: number;
      readonly from: Expr;
      readonly to: Expr;
      readonly body: readonly Stmt[];
    }
  | { readonly s: 'break' }
  | { readonly s: 'return' }
  | { readonly s: 'call'; readonly routine: number; readonly args: readonly Expr[] }
  | { readonly s: 'say'; readonly text: Expr; readonly to: Expr | null }
  | { readonly s: 'chapter'; readonly text: Expr }
  | { readonly s: 'pause'; readonly seconds: number }
  | { readonly s: 'finish' }
  | { readonly s: 'ask'; readonly ask: number }
  | {
      readonly s: 'tally';
      readonly tally: number;
      readonly e: Expr;
      readonly per: Expr | null;
      readonly by: readonly Expr[];
    }
);
export type StmtOf<S extends Stmt['s']> = Extract<Stmt, { s: S }>;

export interface Local {
  readonly name: string;
  readonly t: Type;
  /** Bound by a short function inside an expression: it never outlives that expression. */
  readonly inner: boolean;
}

export interface Landmark {
  readonly e: Expr;
  readonly label: string | null;
}
export type Domain =
  | {
      readonly k: 'range';
      readonly from: Expr;
      readonly to: Expr;
      readonly by: Expr | null;
      readonly landmarks: readonly Landmark[];
    }
  | { readonly k: 'values'; readonly t: Type; readonly list: Expr }
  | {
      /** Several cards at once. */
      readonly k: 'cards';
      readonly list: Expr;
      readonly least: Expr;
      /** `null`: as many as there are. */
      readonly most: Expr | null;
      /** Holds for the set and for every smaller part of it; reads the parameter itself. */
      readonly grow: Expr | null;
      readonly shapes: readonly number[] | null;
    };

export interface Param {
  readonly name: string;
  readonly local: number;
  readonly t: Type;
  readonly domain: Domain;
}

export interface Need {
  readonly e: Expr;
  /** The sheet's own words, or `null`: then the clause is quoted. */
  readonly text: Expr | null;
  readonly source: string;
  /** How many parameters are bound when it can be tested. */
  readonly depth: number;
  readonly at: At;
}

export interface Option {
  readonly name: string;
  readonly params: readonly Param[];
  readonly label: Expr | null;
  readonly on: Expr | null;
  readonly when: Expr | null;
  readonly quick: boolean;
  readonly aside: boolean;
  readonly needs: readonly Need[];
  readonly body: readonly Stmt[];
  readonly at: At;
}

export interface Clock {
  readonly seconds: number;
  /** Options to try in turn, the bot that plays, or, where anybody may answer, the ask's `stuck` part. */
  readonly otherwise: readonly string[] | { readonly bot: number } | 'stuck';
}

export interface Ask {
  readonly routine: number;
  /**
   * `one`: `who` is asked. `every`: all of `list` where `where` holds, each as `local`, and all answers count. `any`:
   * all of them too, and the first answer counts.
   */
  readonly who:
    | { readonly k: 'one'; readonly seat: Expr }
    | { readonly k: 'every' | 'any'; readonly local: number; readonly list: Expr; readonly where: Expr | null };
  readonly about: Expr | null;
  readonly clock: Clock | null;
  readonly options: readonly Option[];
  readonly stuck: readonly Stmt[] | null;
  readonly at: At;
}

export interface Setting {
  readonly name: string;
  readonly t: Type;
  readonly domain:
    | { readonly k: 'range'; readonly from: number | Expr; readonly to: number | Expr }
    | { readonly k: 'numbers'; readonly values: readonly number[] }
    | { readonly k: 'words'; readonly words: readonly string[] }
    | { readonly k: 'flag' };
  /** The value unless a table says otherwise; words and flags by their number. */
  readonly standard: number | Expr;
  readonly help: string;
  readonly at: At;
}

export interface Kind {
  readonly name: string;
  readonly members: readonly { readonly name: string; readonly label: string | null }[];
}

export type PileShape = 'stack' | 'fan' | 'cascade' | 'row';

/** A pattern of cards that a sheet names. */
export interface Shape {
  readonly name: string;
  readonly least: number;
  readonly most: number | null;
  readonly oneRank: boolean;
  readonly oneSuit: boolean;
  /** Each card is of the rank after the one before, as the game orders ranks. */
  readonly inOrder: boolean;
}

export interface Pile {
  readonly name: string;
  readonly label: string | null;
  readonly perSeat: boolean;
  /** What a family has one pile of each for, besides seats. */
  readonly by: 'suit' | 'rank' | 'team' | null;
  /** How many of the family there are (for each seat); `null` for a single pile. */
  readonly many: number | null;
  /** The family grows: empty piles of it are not there. */
  readonly open: boolean;
  /** A family with several numbers: what they are called, and those of each pile. */
  readonly cells: { readonly names: readonly string[]; readonly keys: readonly (readonly number[])[] } | null;
  /** Where piles are drawn: the left edge in half cards, the row in quarter cards; one for each pile of the family. */
  readonly spots: readonly (readonly [number, number])[] | null;
  /** How a hand is drawn: by rank or by suit. */
  readonly sorted: 'rank' | 'suit' | null;
  /** A list of cards, the local, in an order of the sheet's own: so it is drawn, as far as its viewer sees it. */
  readonly ownOrder?: { readonly local: number; readonly e: Expr };
  readonly facing: Facing;
  readonly refill: number | null;
  readonly shape: PileShape;
  readonly alike: boolean;
  readonly at: At;
}

/** What a variable has one value for each of. */
export type Key =
  | { readonly k: 'seat' | 'team' | 'suit' | 'rank' | 'card' }
  | { readonly k: 'kind'; readonly kind: number }
  | { readonly k: 'pile'; readonly pile: number };

export interface Variable {
  readonly name: string;
  readonly t: Type;
  /** What there is one of it for; `table` has one. */
  readonly of: { readonly k: 'table' } | Key | { readonly k: 'pair'; readonly keys: readonly [Key, Key] };
  readonly hidden: boolean;
  readonly start: Expr | null;
  readonly label: string | null;
  readonly at: At;
}

export interface Def {
  readonly name: string;
  readonly params: readonly { readonly local: number; readonly t: Type }[];
  readonly t: Type;
  readonly locals: readonly Local[];
  readonly body: Expr;
}

export interface Routine {
  readonly name: string;
  readonly params: readonly number[];
  readonly locals: readonly Local[];
  readonly body: readonly Stmt[];
  /** Holds an ask or a pause, itself or in a routine that it calls. */
  readonly waits: boolean;
  readonly at: At;
}

/** Something that a sheet counts where its games are tried: what is counted, and what it goes by. */
export interface Tally {
  readonly name: string;
  /** How often something is so, how much something is, how much it is per something else, or which of several it is. */
  readonly form: 'share' | 'number' | 'ratio' | 'category';
  readonly of: Type;
  readonly by: readonly { readonly t: Type; readonly words: string }[];
  readonly at: At;
}

export interface Always {
  readonly name: string;
  readonly e: Expr;
  readonly at: At;
}

export interface BotLine {
  readonly option: string;
  /** For each parameter a value, or `null` where any legal one will do. */
  readonly args: readonly (Expr | null)[] | null;
  /** Locals bound to the option's parameters, in their order. */
  readonly locals: readonly number[];
  readonly when: Expr | null;
  readonly prefer: Expr | null;
  readonly at: At;
}
export interface Bot {
  readonly name: string;
  readonly locals: readonly Local[];
  readonly lines: readonly BotLine[];
}

/** A figure that is drawn: a def of the cards beside it, of the seat, or of nothing in particular. */
export interface Note {
  readonly name: string;
  readonly def: number;
  /** Beside these piles, or beside each seat. */
  readonly beside: readonly number[] | 'seat';
}

export interface DeckDecl {
  readonly form: DeckForm;
  readonly copies: Expr | null;
  readonly jokers: Expr | null;
  readonly when: Expr | null;
}

/** Lines of a sheet that came out of a part which it uses. */
export interface PartLines {
  readonly name: string;
  /** The first and the last of them in the whole sheet. */
  readonly from: number;
  readonly to: number;
  /** What the first of them is in the part's own text. */
  readonly own: number;
}

/** Kinds of games, as lists sort and filter them. The engine knows nothing of them. */
export const GENRES = [
  'arranging',
  'betting',
  'counting',
  'drawing',
  'fishing',
  'machine',
  'melds',
  'patience',
  'race',
  'shedding',
  'tricks',
  'twentyOne',
] as const;
export type Genre = (typeof GENRES)[number];

export interface Program {
  readonly semantics: number;
  readonly name: string;
  /** The first comment of the sheet: what it is, in a line or two. */
  readonly blurb: string;
  /** What kind of game it is, as the sheet says; missing where it says nothing. */
  readonly genres?: readonly Genre[];
  /** The parts that were pasted in as it was checked; a sheet that is kept as a whole has none. */
  readonly parts?: readonly PartLines[];
  readonly seats: readonly number[];
  /** How many teams the seats form, alternating; 0 where there are none. */
  readonly teams: number;
  readonly winsLeast: boolean;
  readonly undoFree: boolean;
  /** The seed of a table is shown once its game is over, unless it is opened otherwise. */
  readonly showsSeed?: boolean;
  readonly settings: readonly Setting[];
  readonly needs: readonly Need[];
  readonly decks: readonly DeckDecl[];
  /** Ranks from low to high as this game compares them; 1 is the ace. */
  readonly rankOrder: readonly number[];
  /** Suits from low to high where this game ranks them; empty where suits tie. */
  readonly suitOrder: readonly number[];
  readonly kinds: readonly Kind[];
  readonly shapes: readonly Shape[];
  /** The first pile is the pack. */
  readonly piles: readonly Pile[];
  readonly vars: readonly Variable[];
  /** Rows of pile numbers; −1 is a gap. */
  readonly layout: readonly (readonly number[])[];
  readonly notes: readonly Note[];
  readonly counters: readonly number[];
  readonly defs: readonly Def[];
  /** The first routine is the script, `play`. */
  readonly routines: readonly Routine[];
  readonly asks: readonly Ask[];
  readonly always: readonly Always[];
  readonly bots: readonly Bot[];
  /** What trials count; missing where the sheet says nothing. */
  readonly tallies?: readonly Tally[];
  /** Expressions that rehearsals look at; empty in a sheet that is kept. */
  readonly probes: readonly Expr[];
}
