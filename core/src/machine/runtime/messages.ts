import type { At } from '../../program/types.js';
import { Fault } from '../fault.js';
import { CHAPTER_TEXT, type StateLayout, WAIT } from '../layout.js';
import type { State } from '../state.js';
import { type Piece, plural, type Rendering, render } from '../text.js';
import { ACTED, CHAPTER, SAID, TOLD, type Trace } from '../trace.js';

/** Runtime functions for texts: their pieces, and the events of saying them. */
export function messages(layout: StateLayout, trace: Trace, maskOf: (s: State, c: number) => number) {
  /** Renders texts for watchers. */
  const plainRendering: Rendering = { card: () => null, seat: (seat) => layout.seats[seat] ?? 'nobody' };
  const cardPiece = (s: State, c: number): Piece => (c < 0 ? 'nothing' : { card: c, mask: maskOf(s, c) });
  const cardsPiece = (s: State, cards: readonly number[]): Piece =>
    cards.length === 0 ? 'no cards' : { cards: [...cards], masks: cards.map((c) => maskOf(s, c)) };
  const seatPieces: readonly Piece[] = layout.seats.map((_, seat) => ({ seat }));
  const seatPiece = (seat: number): Piece => seatPieces[seat] ?? 'nobody';
  const seatsPiece = (list: readonly number[]): Piece =>
    list.flatMap((seat, i) => [i === 0 ? '' : i === list.length - 1 ? ' and ' : ', ', { seat }]);
  const say = (s: State, pieces: readonly Piece[], at: At): void => {
    trace.add(SAID, trace.keep(pieces), s.f[WAIT] as number, at, 0, 0, 0);
  };
  const tell = (pieces: readonly Piece[], seat: number, at: At): void => {
    if (seat < 0) throw new Fault('There is nobody to tell this to.', at);
    trace.add(TOLD, trace.keep(pieces), seat, at, 0, 0, 0);
  };
  /** The title of the current chapter, as watchers read it. */
  const chapterTitle = (s: State): string => render(s.refs[CHAPTER_TEXT] as readonly Piece[], plainRendering);
  /** Notes that a chapter begins, whose title the state holds by now. */
  const chapter = (s: State): void => {
    trace.add(CHAPTER, trace.keep(s.refs[CHAPTER_TEXT]), 0, 0, 0, 0, 0);
  };
  /** Notes that a seat's choice is carried out from here on. */
  const act = (seat: number, ask: number, option: number): void => {
    trace.add(ACTED, seat, ask, option, 0, 0, 0);
  };
  const wordsPiece = (words: readonly string[], list: readonly number[]): Piece =>
    list.length === 0 ? 'none' : list.map((i) => words[i] ?? 'nothing').join(', ');
  const listPiece = (list: readonly number[]): Piece => (list.length === 0 ? 'none' : list.join(', '));
  const word = (list: readonly string[], i: number): string => list[i] ?? 'nothing';

  return {
    plainVoice: plainRendering,
    cardPiece,
    cardsPiece,
    seatPiece,
    seatsPiece,
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
