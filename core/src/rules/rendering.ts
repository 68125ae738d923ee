import { faceText } from '../cards/face.js';
import { maskShows, type Sees } from '../machine/runtime/visibility.js';
import type { Rendering } from '../machine/text.js';
import type { Rules } from './rules.js';

/**
 * How texts read to a viewer: cards that it may see by their faces, others as "a card".
 * @param sees the viewer's eyes, where somebody notes what they are asked
 */
export function renderingFor(
  { layout }: Rules,
  viewer: number,
  sees: Sees = (mask) => maskShows(mask, viewer),
): Rendering {
  return {
    card: (card, mask) => (sees(mask) ? faceText(layout.faces[card] as number) : null),
    seat: (seat) => layout.seats[seat] ?? 'nobody',
  };
}
