/** How choices name cards: by handles, which say where a card lies as far as whoever chooses may know it, and by faces. */
import { faceText } from '../cards/face.js';
import { shufflePlaces } from '../chance/generator.js';
import { OPENED } from '../machine/layout.js';
import { maskShows, type Sees } from '../machine/runtime/visibility.js';
import type { State } from '../machine/state.js';
import type { Rules } from './rules.js';
import type { ArgValue, Naming } from './values.js';

const pileAt = (rules: Rules, path: string): number => rules.layout.piles.findIndex((pile) => pile.path === path);
const splitHandle = (handle: string): { path: string; place: number } => {
  const [, path = '', place = ''] = /^(.+)#(\d{1,9})$/.exec(handle) ?? [];
  return { path, place: Number(place) };
};

/** Whether a viewer may know at which place of a pile a card lies: in a hand that only others see, it may not. */
export function positionsFor(rules: Rules, sees: Sees): (pile: number) => boolean {
  const { piles } = rules.layout;
  return (p) => {
    const pile = piles[p];
    return rules.program.piles[pile?.decl ?? 0]?.facing !== 'private' || sees(1 << (pile?.seat ?? 0));
  };
}

/** As records name cards, and whoever sees them all: by the places where they lie, bottom first, and by every face. */
export function openly(rules: Rules, state: State): Naming {
  return {
    handleOf: (card) => {
      const path = rules.layout.piles[state.where[card] as number]?.path ?? '';
      return `${path}#${rules.rt.indexOf(state, card) + 1}`;
    },
    cardAt: (handle) => {
      const { path, place } = splitHandle(handle);
      const pile = pileAt(rules, path);
      if (pile < 0 || place < 1 || place > (state.len[pile] as number)) return -1;
      return state.cards[(state.start[pile] as number) + place - 1] as number;
    },
    isNamed: () => true,
    isBlind: () => false,
  };
}

/**
 * As a seat names cards: by their faces those alone that it sees. In a pile whose places it may not know, what it sees
 * comes first, as in its view, and the rest in an order of chance, another one for each question that is asked: a
 * card that it gave away is not known by its handle.
 */
export function asSeen(rules: Rules, state: State, seat: number): Naming {
  const open = openly(rules, state);
  const hasPositions = positionsFor(rules, (mask) => maskShows(mask, seat));
  const mixed = new Map<number, readonly number[]>();
  const inOrder = (pile: number): readonly number[] => {
    let cards = mixed.get(pile);
    if (!cards) {
      cards = mixedFor(rules, state, seat, pile);
      mixed.set(pile, cards);
    }
    return cards;
  };
  return {
    handleOf: (card) => {
      const pile = state.where[card] as number;
      if (hasPositions(pile)) return open.handleOf(card);
      return `${rules.layout.piles[pile]?.path}#${inOrder(pile).indexOf(card) + 1}`;
    },
    cardAt: (handle) => {
      const { path, place } = splitHandle(handle);
      const pile = pileAt(rules, path);
      return pile < 0 || hasPositions(pile) ? open.cardAt(handle) : (inOrder(pile)[place - 1] ?? -1);
    },
    isNamed: (card) => rules.rt.sees(state, card, seat),
    isBlind: (card) => !hasPositions(state.where[card] as number),
  };
}

function mixedFor(rules: Rules, state: State, seat: number, pile: number): number[] {
  const cards = [...rules.rt.pileCards(state, pile)];
  const path = rules.layout.piles[pile]?.path;
  // Another number of cards is another order: what came or went is not known by the places of the rest.
  const purpose = `places ${path} of ${cards.length} for ${seat}`;
  shufflePlaces(cards, 0, cards.length, rules.chance.stream(purpose, state.f[OPENED] as number));
  const faceOf = (card: number): string => faceText(rules.layout.faces[card] as number);
  const seen = cards.filter((card) => rules.rt.sees(state, card, seat));
  seen.sort((a, b) => (faceOf(a) < faceOf(b) ? -1 : faceOf(a) > faceOf(b) ? 1 : 0));
  return [...seen, ...cards.filter((card) => !seen.includes(card))];
}

/** As a viewer is told of cards: a card whose place it may not know is told by its pile alone. */
export function toldTo(rules: Rules, state: State, viewer: number): Naming {
  const open = openly(rules, state);
  const shown = withoutPlacesFor(rules, viewer);
  return { ...open, handleOf: (card) => String(shown(open.handleOf(card))) };
}

/** What a choice named, as a viewer may know it: a handle into a pile without positions names the pile alone. */
export function withoutPlaces(rules: Rules, sees: Sees): (arg: ArgValue) => ArgValue {
  const hasPositions = positionsFor(rules, sees);
  const withoutPlace = (handle: string): string => {
    const { path } = splitHandle(handle);
    const p = path === '' ? -1 : pileAt(rules, path);
    return p < 0 || hasPositions(p) ? handle : path;
  };
  return (arg) =>
    typeof arg === 'string' ? withoutPlace(arg) : Array.isArray(arg) ? arg.map((one) => withoutPlace(one)) : arg;
}

/** The same for one viewer. */
export const withoutPlacesFor = (rules: Rules, viewer: number): ((arg: ArgValue) => ArgValue) =>
  withoutPlaces(rules, (mask) => maskShows(mask, viewer));
