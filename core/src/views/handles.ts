import { maskShows, type Sees } from '../machine/runtime/visibility.js';
import type { Rules } from '../rules/rules.js';
import type { ArgValue } from '../rules/values.js';

/** Whether a viewer may know at which place of a pile a card lies: in a hand that only others see, it may not. */
export function positionsFor(rules: Rules, sees: Sees): (pile: number) => boolean {
  const { piles } = rules.layout;
  return (p) => {
    const pile = piles[p];
    return rules.program.piles[pile?.decl ?? 0]?.facing !== 'private' || sees(1 << (pile?.seat ?? 0));
  };
}

/** What a choice named, as a viewer may know it: a handle into a pile without positions names the pile alone. */
export function withoutPlaces(rules: Rules, sees: Sees): (arg: ArgValue) => ArgValue {
  const hasPositions = positionsFor(rules, sees);
  const withoutPlace = (handle: string): string => {
    const [path = '', place] = handle.split('#');
    const p = place === undefined ? -1 : rules.layout.piles.findIndex((pile) => pile.path === path);
    return p < 0 || hasPositions(p) ? handle : path;
  };
  return (arg) =>
    typeof arg === 'string' ? withoutPlace(arg) : Array.isArray(arg) ? arg.map((one) => withoutPlace(one)) : arg;
}

/** The same for one viewer. */
export const withoutPlacesFor = (rules: Rules, viewer: number): ((arg: ArgValue) => ArgValue) =>
  withoutPlaces(rules, (mask) => maskShows(mask, viewer));
