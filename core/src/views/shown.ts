import { Fault } from '../machine/fault.js';
import { BUDGETS } from '../machine/prices.js';
import { OPEN, WATCHER } from '../machine/runtime/visibility.js';
import type { State } from '../machine/state.js';
import type { Rules } from '../rules/rules.js';
import { isDrawn } from './figures.js';
import { type Offer, offersOf } from './offers.js';
import { notesView, ordersView, type View } from './view.js';

/** What the sheet works out for viewers of a state, besides the cards that they see. */
export interface Shown {
  /** What each seat that is asked may choose. */
  readonly offers: ReadonlyMap<number, readonly Offer[]>;
  /** The notes as each viewer reads them; empty where the sheet has none. */
  readonly notes: ReadonlyMap<number, View['notes']>;
  /** Piles in the sheet's own order, likewise. */
  readonly orders: ReadonlyMap<number, NonNullable<View['orders']>>;
}

const hasNotes = ({ program }: Rules): boolean =>
  program.notes.length > 0 || program.vars.some((variable) => isDrawn(variable, 'pile'));
const hasOrders = (rules: Rules): boolean => rules.program.piles.some((pile) => pile.ownOrder);
const viewersOf = (rules: Rules): number[] => [OPEN, WATCHER, ...rules.rt.seats];

/**
 * Works out what all viewers will be shown of a state, whether they look or not. It is part of the step: what faults
 * here is a fault of the step, and telling can fail no more.
 * @throws Fault
 */
export function shownIn(rules: Rules, state: State): Shown {
  const { code } = rules;
  code.begin(BUDGETS.offers);
  const offers = new Map(rules.asked(state).map((seat) => [seat, offersOf(rules, state, seat)]));
  code.begin(BUDGETS.looks);
  const forAll = <T>(has: boolean, look: (viewer: number) => T): Map<number, T> =>
    new Map(has ? viewersOf(rules).map((viewer) => [viewer, look(viewer)]) : []);
  return {
    offers,
    notes: forAll(hasNotes(rules), (viewer) => notesView(rules, state, viewer)),
    orders: forAll(hasOrders(rules), (viewer) => ordersView(rules, state, viewer)),
  };
}

/** The same of a state that is kept already: what faults is left out. */
export function shownAnyway(rules: Rules, state: State): Shown {
  const orElse = <T>(budget: number, find: () => T, otherwise: T): T => {
    rules.code.begin(budget);
    try {
      return find();
    } catch (error) {
      if (error instanceof Fault) return otherwise;
      throw error;
    }
  };
  const offers = rules
    .asked(state)
    .map((seat): [number, Offer[]] => [seat, orElse(BUDGETS.offers, () => offersOf(rules, state, seat), [])]);
  const notes = viewersOf(rules).map((viewer): [number, View['notes']] => [
    viewer,
    orElse(BUDGETS.looks, () => notesView(rules, state, viewer), {}),
  ]);
  const orders = hasOrders(rules)
    ? viewersOf(rules).map((viewer): [number, NonNullable<View['orders']>] => [
        viewer,
        orElse(BUDGETS.looks, () => ordersView(rules, state, viewer), {}),
      ])
    : [];
  return { offers: new Map(offers), notes: new Map(notes), orders: new Map(orders) };
}
