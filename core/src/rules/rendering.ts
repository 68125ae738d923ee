import { faceText } from '../cards/face.js';
import { OPEN, WATCHER } from '../machine/runtime/visibility.js';
import type { Rendering } from '../machine/text.js';
import { WATCHER_BIT } from '../machine/trace.js';
import type { Game } from './game.js';

/** The bit of a viewer in a mask of those who see a card. */
export const bitOf = (viewer: number): number => (viewer === WATCHER ? WATCHER_BIT : 1 << viewer);

/** Whether a mask lets a viewer see. */
export const maskShows = (mask: number, viewer: number): boolean => viewer === OPEN || (mask & bitOf(viewer)) !== 0;

/** Whether a mask lets one certain viewer see. */
export type Sees = (mask: number) => boolean;

/**
 * How texts sound to a viewer: cards that it may see by their faces, others as "a card".
 * @param sees the viewer's eyes, where somebody notes what they are asked
 */
export function renderingFor(game: Game, viewer: number, sees: Sees = (mask) => maskShows(mask, viewer)): Rendering {
  return {
    card: (card, mask) => (sees(mask) ? faceText(game.layout.faces[card] as number) : null),
    seat: (seat) => game.layout.seats[seat] ?? 'nobody',
  };
}
