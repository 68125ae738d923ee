import { faceText } from '../cards/face.js';
import type { Game } from './game.js';
import { OPEN, WATCHER } from './sight.js';
import type { Voice } from './text.js';
import { WATCHER_BIT } from './trace.js';

/** The bit of a viewer in a mask of those who see a card. */
export const bitOf = (viewer: number): number => (viewer === WATCHER ? WATCHER_BIT : 1 << viewer);

/** Whether a mask lets a viewer see. */
export const maskShows = (mask: number, viewer: number): boolean => viewer === OPEN || (mask & bitOf(viewer)) !== 0;

/**
 * How texts sound to a viewer: cards that it may see by their faces, others as "a card".
 * `second` calls the viewer's own seat "You" at the head of a sentence.
 */
export function voiceOf(game: Game, viewer: number, person: 'second' | 'third'): Voice {
  return {
    card: (card, mask) => (maskShows(mask, viewer) ? faceText(game.shape.faces[card] as number) : null),
    seat: (seat) => (person === 'second' && seat === viewer ? 'You' : (game.shape.seats[seat] ?? 'nobody')),
  };
}
