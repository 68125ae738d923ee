import type { State } from '../machine/state.js';
import type { Type } from '../program/types.js';
import type { Game } from '../rules/game.js';

/** The place of one card: where it lies and how, and who knows it. All of it belongs to the place, whatever card lies there. */
interface Spot {
  readonly at: number;
  readonly where: number;
  readonly facing: number;
  readonly seen: number;
  readonly known: number;
}

/** Values of a state that may be cards: variables and slots of the script, by number. */
interface CardValues {
  readonly numbers: readonly number[];
  readonly refs: readonly number[];
}

const isCards = (t: Type): boolean => t === 'card' || t === 'list:card';

const found = new WeakMap<Game, CardValues>();

function cardValues(game: Game): CardValues {
  const known = found.get(game);
  if (known) return known;
  const { layout, program, parts } = game;
  const { slots } = parts;
  const numbers: number[] = [];
  const refs: number[] = [];
  const note = (t: Type, at: number): void => {
    if (isCards(t)) (t === 'card' ? numbers : refs).push(at);
  };
  for (const [i, { t }] of program.vars.entries())
    for (let k = 0; k < (layout.varCount[i] ?? 0); k++) note(t, (layout.varBase[i] ?? 0) + k);
  for (const [i, t] of slots.numberTypes.entries()) note(t, layout.slotBase + i);
  for (const [i, t] of slots.refTypes.entries()) note(t, layout.refSlotBase + i);
  const values = { numbers, refs };
  found.set(game, values);
  return values;
}

/**
 * The cards that a seat has not seen since they were last shuffled, pile by pile, the lowest first. Which of them lies
 * where is what it does not know; the order of the list tells no more than their places do.
 */
export function unseenBy(game: Game, state: State, seat: number): number[] {
  const { rt, layout } = game;
  const bit = 1 << seat;
  const cards: number[] = [];
  for (let p = 0; p < layout.piles.length; p++)
    for (const c of rt.pileCards(state, p))
      if (!rt.sees(state, c, seat) && ((state.known[c] as number) & bit) === 0) cards.push(c);
  return cards;
}

/** Where so many cards lie in a state, and how other cards are laid there in their stead. */
export class HiddenPlaces {
  private readonly spots: readonly Spot[];
  private readonly piles: readonly number[];

  /** @param cards those whose places are meant, as {@link unseenBy} gives them */
  constructor(
    private readonly game: Game,
    state: State,
    private readonly cards: readonly number[],
  ) {
    this.spots = cards.map((c) => {
      const where = state.where[c] as number;
      const start = state.start[where] as number;
      const at = state.cards.indexOf(c, start);
      return {
        at,
        where,
        facing: state.facing[c] as number,
        seen: state.seen[c] as number,
        known: state.known[c] as number,
      };
    });
    this.piles = [...new Set(this.spots.map(({ where }) => where))];
  }

  /** The pile in which each of the cards lies. */
  get where(): readonly number[] {
    return this.spots.map(({ where }) => where);
  }

  /** Lays other cards at the places: the i-th of `order` where the i-th card lay, wherever the state speaks of it. */
  lay(state: State, order: ArrayLike<number>): void {
    const { spots, cards } = this;
    for (let i = 0; i < spots.length; i++) {
      const { at, where, facing, seen, known } = spots[i] as Spot;
      const c = order[i] as number;
      state.cards[at] = c;
      state.where[c] = where;
      state.facing[c] = facing;
      state.seen[c] = seen;
      state.known[c] = known;
    }
    for (const pile of this.piles) state.touch(pile);
    const { numbers, refs } = cardValues(this.game);
    if (numbers.length === 0 && refs.length === 0) return;
    const instead = new Map<number, number>();
    for (let i = 0; i < cards.length; i++) instead.set(cards[i] as number, order[i] as number);
    for (const at of numbers) {
      const c = state.f[at] as number;
      state.f[at] = instead.get(c) ?? c;
    }
    for (const at of refs) {
      const list = state.refs[at];
      if (Array.isArray(list) && list.some((c) => instead.has(c as number)))
        state.refs[at] = list.map((c) => instead.get(c as number) ?? (c as number));
    }
  }
}
