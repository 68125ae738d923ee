import { type Generator, shufflePlaces } from '../chance/generator.js';
import type { State } from '../machine/state.js';
import type { Rules } from './rules.js';

/**
 * Deals anew what nobody has seen: those cards change places among themselves, and everything that
 * somebody sees or remembers stays as it is.
 * @param isUnseen which cards; by default those that no seat has seen, where the game has kept that
 */
export function redeal(
  rules: Rules,
  state: State,
  generator: Generator,
  isUnseen: (card: number) => boolean = (c) => rules.rt.maskOf(state, c) === 0 && state.known[c] === 0,
): void {
  const { rt } = rules;
  const unseen: number[] = [];
  const slots: number[] = [];
  for (let p = 0; p < rules.layout.piles.length; p++)
    for (const [i, c] of rt.pileCards(state, p).entries())
      if (isUnseen(c)) {
        unseen.push(c);
        slots.push((state.start[p] as number) + i);
      }
  const order = Uint16Array.from(unseen);
  shufflePlaces(order, 0, order.length, generator);
  const places = unseen.map((c) => ({ where: state.where[c] as number, facing: state.facing[c] as number }));
  for (const [i, place] of places.entries()) {
    const c = order[i] as number;
    state.cards[slots[i] as number] = c;
    state.where[c] = place.where;
    state.facing[c] = place.facing;
    state.touch(place.where);
  }
}
