import type { Pay } from '../../patterns/shapes.js';
import type { At } from '../../program/types.js';
import { Fault } from '../fault.js';
import { CHAPTER_TEXT, type StateLayout, WAIT } from '../layout.js';
import { LONGEST_TEXT, MOST_TEXTS } from '../prices.js';
import type { State } from '../state.js';
import { CARD_BYTES, NUMBER_BYTES, type Piece, plural, type Rendering, render, utf8Length } from '../text.js';
import { ACTED, CHAPTER, SAID, TOLD, type Trace } from '../trace.js';

/** What stands for cards that are not seen: "and 1040 cards". */
const HIDDEN_BYTES = 16;

const tooLong = (at: At): Fault => new Fault(`A text is at most ${LONGEST_TEXT.toLocaleString('en')} bytes long.`, at);

/** Runtime functions for texts: their pieces, and the events of saying them. */
export function messages(layout: StateLayout, trace: Trace, maskOf: (s: State, c: number) => number) {
  /** Renders texts for watchers. */
  const plainRendering: Rendering = { card: () => null, seat: (seat) => layout.seats[seat] ?? 'nobody' };
  const cardPiece = (s: State, c: number): Piece => (c < 0 ? 'no card' : { card: c, mask: maskOf(s, c) });
  const cardsPiece = (s: State, cards: readonly number[], at: At): Piece => {
    if (cards.length === 0) return 'no cards';
    if (cards.length > LONGEST_TEXT / CARD_BYTES) throw tooLong(at);
    return { cards: [...cards], masks: cards.map((c) => maskOf(s, c)) };
  };
  const seatPieces: readonly Piece[] = layout.seats.map((_, seat) => ({ seat }));
  const seatPiece = (seat: number): Piece => seatPieces[seat] ?? 'nobody';
  const seatsPiece = (list: readonly number[]): Piece =>
    list.length === 0
      ? 'none'
      : list.flatMap((seat, i) => [i === 0 ? '' : i === list.length - 1 ? ' and ' : ', ', { seat }]);
  const teamPiece = (team: number): Piece =>
    team < 0 ? 'no team' : seatsPiece([...layout.seats.keys()].filter((seat) => seat % layout.program.teams === team));
  const nameBytes = layout.seats.map(utf8Length);
  const seatBytes = Math.max('nobody'.length, ...nameBytes);
  const bytesOf = (piece: Piece): number => {
    if (typeof piece === 'string') return utf8Length(piece) || 1;
    if (typeof piece === 'number') return NUMBER_BYTES;
    if (Array.isArray(piece)) return bytesIn(piece);
    if ('card' in piece) return CARD_BYTES;
    if ('cards' in piece) return CARD_BYTES * piece.cards.length + HIDDEN_BYTES;
    return nameBytes[(piece as { seat: number }).seat] ?? seatBytes;
  };
  /**
   * The most bytes of UTF-8 that a text takes, whoever reads it. What is empty counts as one, and so does each text
   * within it: whatever has a size can be gone through.
   */
  const bytesIn = (pieces: readonly Piece[]): number => {
    let bytes = 1;
    for (const piece of pieces) bytes += bytesOf(piece);
    return bytes;
  };
  /** Insists that a text is short enough, before it is a part of anything. */
  const text = (parts: readonly Piece[], at: At, pay: Pay): readonly Piece[] => {
    let bytes = 0;
    for (const part of parts) {
      bytes += bytesOf(part);
      if (bytes > LONGEST_TEXT) throw tooLong(at);
    }
    pay(40 + 4 * parts.length + (bytes >> 2));
    return parts;
  };
  /** @param bytes that it takes at most; −1 where only its pieces say it */
  const say = (s: State, pieces: readonly Piece[], at: At, bytes: number): void => {
    trace.said(bytes < 0 ? bytesIn(pieces) : bytes, at);
    trace.add(SAID, trace.keep(pieces), s.f[WAIT] as number, at, 0, 0, 0);
  };
  const tell = (pieces: readonly Piece[], seat: number, at: At, bytes: number): void => {
    if (seat < 0) throw new Fault('There is nobody to tell this to.', at);
    trace.said(bytes < 0 ? bytesIn(pieces) : bytes, at);
    trace.add(TOLD, trace.keep(pieces), seat, at, 0, 0, 0);
  };
  /** The title of the current chapter, as watchers read it. */
  const chapterTitle = (s: State): string => render(s.refs[CHAPTER_TEXT] as readonly Piece[], plainRendering);
  /** Notes that a chapter begins, whose title the state holds by now. */
  const chapter = (s: State, at: At, bytes: number): void => {
    trace.said(bytes < 0 ? bytesIn(s.refs[CHAPTER_TEXT] as readonly Piece[]) : bytes, at);
    trace.add(CHAPTER, trace.keep(s.refs[CHAPTER_TEXT]), at, 0, 0, 0, 0);
  };
  /** Notes that a seat's choice is carried out from here on. */
  const act = (seat: number, ask: number, option: number): void => {
    trace.add(ACTED, seat, ask, option, 0, 0, 0);
  };
  /** Items of a list after each other, each at least a sign and a comma. */
  const joined = (list: readonly number[], at: At, item: (i: number) => string): Piece => {
    if (list.length === 0) return 'none';
    if (list.length > LONGEST_TEXT / 3 + 1) throw tooLong(at);
    return list.map(item).join(', ');
  };
  const wordsPiece = (words: readonly string[], list: readonly number[], at: At): Piece =>
    joined(list, at, (i) => words[i] ?? 'nothing');
  const listPiece = (list: readonly number[], at: At): Piece => joined(list, at, String);
  /** Insists that the texts of a state are not too much. @param from where variables that are texts are kept, each with its end */
  const weighTexts = (s: State, from: readonly (readonly [number, number, At])[]): void => {
    let bytes = 0;
    for (const [first, end, at] of from)
      for (let i = first; i < end; i++) {
        bytes += bytesIn(s.refs[i] as readonly Piece[]);
        if (bytes > MOST_TEXTS)
          throw new Fault(`The texts that this game remembers are longer than ${MOST_TEXTS / 1024} KiB together.`, at);
      }
  };
  /** One of some words, or what is said where there is none. */
  const word = (list: readonly string[], i: number, none: string): string => list[i] ?? none;

  return {
    plainVoice: plainRendering,
    cardPiece,
    cardsPiece,
    seatPiece,
    seatsPiece,
    teamPiece,
    text,
    weighTexts,
    say,
    tell,
    chapter,
    chapterTitle,
    act,
    word,
    wordsPiece,
    listPiece,
    plural,
  };
}
