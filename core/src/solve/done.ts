import type { Answer } from '../machine/code.js';
import type { State } from '../machine/state.js';
import { type Piece, render } from '../machine/text.js';
import { carriedBy } from '../play/carried.js';
import type { Game } from '../rules/game.js';
import { renderingFor } from '../rules/rendering.js';
import { namedTo } from '../views/labels.js';

/** What was done so far, as each seat was told of it. */
export interface Done {
  /** By seat: each choice in words. */
  readonly told: readonly (readonly string[])[];
  /** Answers to an ask of several, of which others are told once all are in. */
  readonly hidden: readonly { readonly seat: number; readonly label: readonly Piece[] }[];
}

export const nothingDone = ({ rt }: Game): Done => ({ told: rt.seats.map(() => []), hidden: [] });

/** What is done after one more choice. @param before the state in which it was made @param after the one that it led to */
export function doneAfter(game: Game, done: Done, before: State, after: State, seat: number, answer: Answer): Done {
  const { label } = carriedBy(game, before, seat, answer, {});
  const answers = [...done.hidden, { seat, label }];
  if (!game.isSingleAsk(before) && game.asked(before).length > 1) return { told: done.told, hidden: answers };
  // A card that was laid open has a name for all who see it now.
  const lines = answers
    .sort((a, b) => a.seat - b.seat)
    .map((one) => ({ seat: one.seat, label: namedTo(one.label, (card) => game.rt.maskOf(after, card)) }));
  const told = done.told.map((before, viewer) => [
    ...before,
    ...lines.map((line) => `${game.layout.seats[line.seat]} ${render(line.label, renderingFor(game, viewer))}`),
  ]);
  return { told, hidden: [] };
}
