import { Fault } from '../machine/fault.js';
import { BUDGETS } from '../machine/prices.js';
import { OPEN, WATCHER } from '../machine/runtime/visibility.js';
import type { State } from '../machine/state.js';
import type { Rules } from '../rules/rules.js';
import { type Offer, offersOf } from './offers.js';
import { notesView, type View } from './view.js';

/** What the sheet works out for viewers of a state, besides the cards that they see. */
export interface Shown {
  /** What each seat that is asked may choose. */
  readonly offers: ReadonlyMap<number, readonly Offer[]>;
  /** The notes as each viewer reads them; empty where the sheet has none. */
  readonly notes: ReadonlyMap<number, View['notes']>;
}

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
  if (rules.program.notes.length === 0) return { offers, notes: new Map() };
  code.begin(BUDGETS.looks);
  return { offers, notes: new Map(viewersOf(rules).map((viewer) => [viewer, notesView(rules, state, viewer)])) };
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
  return { offers: new Map(offers), notes: new Map(notes) };
}
