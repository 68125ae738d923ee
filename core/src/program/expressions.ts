/** Places, types and expressions of a program. */

/** A place in the sheet: line · 4096 + column, both counted from 1. */
export type At = number;
export const at = (line: number, column: number): At => line * 4096 + Math.min(column, 4095);
export const lineOf = (place: At): number => Math.floor(place / 4096);
export const columnOf = (place: At): number => place % 4096;

/** The type of a value. `list:card` is written `cards` in a sheet; `kind:Stage` is a kind that the sheet declares. */
export type Type =
  | 'int'
  | 'flag'
  | 'seat'
  | 'card'
  | 'rank'
  | 'suit'
  | 'color'
  | 'pile'
  | 'text'
  | 'team'
  /** The worth of a hand: high, or low. */
  | 'poker'
  | 'low'
  /** Numbers that are compared from the first to the last. */
  | 'key'
  /** A value that compares the other way round. */
  | 'turned'
  | 'nothing'
  | `kind:${string}`
  | `list:${string}`;

/** The empty value, for every type whose values are whole numbers from 0 on. */
export const NOTHING = -1;

interface Of {
  readonly t: Type;
  readonly at: At;
}
export type BinaryOp = '+' | '-' | '*' | '/' | '%' | '==' | '!=' | '<' | '<=' | '>' | '>=' | 'and' | 'or' | 'in';
export type CardField = 'rank' | 'suit' | 'color' | 'pips' | 'number' | 'place' | 'pile';
export type Fold = 'any' | 'all' | 'none' | 'count' | 'sum' | 'min' | 'max';
export type Pick = 'best' | 'least' | 'find';
export type Sift = 'only' | 'map' | 'leaders' | 'sorted' | 'groups' | 'distinct';
/** How cards are ranked as a hand. */
export type HandKind = 'high' | 'aceToFive' | 'deuceToSeven';
export type Plain =
  | 'size'
  | 'empty'
  | 'top'
  | 'first'
  | 'last'
  | 'abs'
  | 'min2'
  | 'max2'
  | 'faceUp'
  | 'reversed'
  | 'others'
  | 'nextSeat'
  | 'previousSeat'
  | 'seatsFrom'
  | 'nextRank'
  | 'plural'
  | 'tops'
  | 'listMin'
  | 'listMax'
  | 'listSum'
  | 'sizeOfPile'
  | 'emptyPile'
  | 'chance'
  | 'tail'
  | 'cardsOf'
  | 'score'
  | 'firstOf'
  | 'seen'
  | 'category'
  | 'handRanks'
  | 'handName'
  | 'lowName'
  | 'teamOf'
  | 'seatsOf'
  | 'teamScore'
  | 'nextTeam'
  | 'rangeOf'
  | 'withoutItems'
  | 'withoutLists'
  | 'placeOf'
  | 'colorOf'
  | 'lowRanks';

/** A short function inside an expression: its parameters are locals of the frame around it. */
export interface Lambda {
  /** One local for each item; two for neighbours, the lower first. */
  readonly params: readonly number[];
  readonly body: Expr;
}

export type Expr = Of &
  (
    | { readonly k: 'lit'; readonly v: number }
    | { readonly k: 'text'; readonly parts: readonly (string | Expr)[] }
    | { readonly k: 'setting'; readonly i: number }
    | { readonly k: 'local'; readonly i: number }
    | { readonly k: 'me' }
    /** A variable; what it is kept for stands in `owner`, and in `second` where it is kept for pairs. */
    | { readonly k: 'var'; readonly i: number; readonly owner: Expr | null; readonly second?: Expr }
    | { readonly k: 'pile'; readonly i: number; readonly owner: Expr | null; readonly index: Expr | null }
    /** One pile of a family with several numbers. */
    | { readonly k: 'cell'; readonly i: number; readonly index: readonly Expr[] }
    /** One of the numbers that say which pile of its family a pile is. */
    | { readonly k: 'cellKey'; readonly n: number; readonly of: Expr }
    /** The first empty pile of a family that grows. */
    | { readonly k: 'fresh'; readonly i: number }
    | { readonly k: 'family'; readonly i: number; readonly owner: Expr | null }
    | { readonly k: 'cards'; readonly of: Expr }
    | { readonly k: 'seats' }
    | { readonly k: 'suits' }
    | { readonly k: 'ranks' }
    | { readonly k: 'teams' }
    | { readonly k: 'field'; readonly f: CardField; readonly of: Expr }
    | { readonly k: 'owner'; readonly of: Expr }
    | { readonly k: 'op'; readonly op: BinaryOp; readonly a: Expr; readonly b: Expr }
    | { readonly k: 'not'; readonly a: Expr }
    | { readonly k: 'neg'; readonly a: Expr }
    | { readonly k: 'if'; readonly c: Expr; readonly a: Expr; readonly b: Expr }
    | { readonly k: 'call'; readonly def: number; readonly args: readonly Expr[] }
    | { readonly k: 'list'; readonly items: readonly Expr[] }
    | { readonly k: 'item'; readonly of: Expr; readonly n: Expr }
    | { readonly k: 'is'; readonly of: Expr; readonly face: number }
    /** The one card with a face. */
    | { readonly k: 'face'; readonly face: number }
    /** Ways to choose among a list, one by one, each a list: as many as the sizes say, or groups of some shapes. */
    | { readonly k: 'ways'; readonly of: Expr; readonly sizes: Expr | null; readonly shapes: readonly number[] }
    /** The best arrangement of cards into groups of shapes that share no card; each card weighs 1 without weights. */
    | { readonly k: 'arranged'; readonly of: Expr; readonly shapes: readonly number[]; readonly weights: Expr | null }
    /** Whether cards are of one of these shapes. */
    | { readonly k: 'fits'; readonly of: Expr; readonly shapes: readonly number[] }
    /** The most cards among others that are of one of these shapes. */
    | { readonly k: 'largest'; readonly of: Expr; readonly shapes: readonly number[] }
    | { readonly k: 'hand'; readonly kind: HandKind; readonly of: Expr }
    | { readonly k: 'bestFive'; readonly kind: HandKind; readonly of: Expr }
    /** Whether an option of the open ask has a legal choice with these values; `null` leaves one free. */
    | { readonly k: 'can'; readonly option: string; readonly args: readonly (Expr | null)[] }
    | { readonly k: 'key'; readonly items: readonly Expr[] }
    | { readonly k: 'fold'; readonly f: Fold; readonly of: Expr; readonly by: Lambda }
    | { readonly k: 'choose'; readonly f: Pick; readonly of: Expr; readonly by: Lambda }
    | { readonly k: 'sift'; readonly f: Sift; readonly of: Expr; readonly by: Lambda }
    | { readonly k: 'fn'; readonly f: Plain; readonly args: readonly Expr[] }
  );
export type ExprOf<K extends Expr['k']> = Extract<Expr, { k: K }>;
