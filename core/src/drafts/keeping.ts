import { faceText } from '../cards/face.js';
import { MOVED, SHUFFLED, WIDTH } from '../machine/trace.js';
import type { StepEvents } from '../views/events.js';
import type { Playback } from './playback.js';

/** A shuffle, or a move: of a card that some or nobody saw before and after, or of a whole pile that nobody sees. */
type Told =
  | { readonly shuffled: number }
  | { readonly from: number; readonly to: number; readonly card: number | null; readonly isUnseen: boolean };

/** The moves and shuffles of a step. */
function* toldIn(events: StepEvents): Generator<Told> {
  const { rows } = events.toJSON();
  for (let at = 0; at < rows.length; at += WIDTH) {
    const [kind, card = -1, from = 0, to = 0, , after = 0] = rows.slice(at, at + WIDTH);
    if (kind === SHUFFLED) yield { shuffled: card };
    else if (kind === MOVED) yield { from, to, card: card < 0 ? null : card, isUnseen: after === 0 };
  }
}

/**
 * Which cards came to which piles out of shuffled ones, in the order in which they came: with these promised, another
 * shuffle leads to the same game. A whole pile that is moved unseen stays a shuffled one. Where a pile that nobody looks
 * into is given other cards as well, what comes after these is not promised: they would be taken for it.
 * @returns faces by the path of the pile
 */
export function cardsThatCame(playback: Playback): Record<string, string[]> {
  const { layout } = playback.now.game;
  const shuffled = new Set<number>();
  const closed = new Set<number>();
  const came = new Map<number, string[]>();
  for (const events of playback.story)
    for (const told of toldIn(events)) {
      if ('shuffled' in told) {
        shuffled.add(told.shuffled);
        continue;
      }
      const { from, to, card, isUnseen } = told;
      if (!shuffled.has(from)) {
        if (isUnseen) closed.add(to);
      } else if (card === null) shuffled.add(to);
      else if (!shuffled.has(to) && !closed.has(to))
        came.set(to, [...(came.get(to) ?? []), faceText(layout.faces[card] as number)]);
    }
  return Object.fromEntries([...came].map(([pile, faces]) => [layout.piles[pile]?.path ?? '', faces]));
}
