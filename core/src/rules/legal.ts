/** Which choices there are: questions that generated code answers. What they cost counts towards the step under way. */
import { type Answer, type Arg, type Args, MOST_TESTED, type OptionCode } from '../machine/code.js';
import { TooDear } from '../machine/fault.js';
import { ASK } from '../machine/layout.js';
import { BUDGETS } from '../machine/prices.js';
import type { State } from '../machine/state.js';
import type { Option } from '../program/types.js';
import type { Rules } from './rules.js';

const codeOf = ({ code }: Rules, ask: number, option: number): OptionCode | undefined => code.options[ask]?.[option];

/** Whether an option has a legal way for this seat, or may have one: more than {@link MOST_TESTED} are not tested. */
export const isLegal = (rules: Rules, s: State, ask: number, option: number, seat: number): boolean =>
  codeOf(rules, ask, option)?.ways.any(s, seat) ?? false;

/** The first option of the open ask that may have a legal way, which is not among those that can be tested. */
export function untested(rules: Rules, s: State, seat: number): Option | undefined {
  const ask = s.f[ASK] as number;
  const isUnknown = (option: Option, i: number): boolean => {
    rules.code.begin(BUDGETS.offers);
    try {
      return option.params.length > 0 && isLegal(rules, s, ask, i, seat) && countWays(rules, s, ask, i, seat, 1) === 0;
    } catch (error) {
      if (error instanceof TooDear) return true;
      throw error;
    }
  };
  return rules.program.asks[ask]?.options.find(isUnknown);
}

/** Whether an answer is legal for a seat that is asked: nothing is listed, only this one way is tested. */
export const allows = ({ code }: Rules, s: State, seat: number, { option, args }: Answer): boolean =>
  code.legal[(s.f[ASK] as number) | 0]?.(s, seat, option, args) ?? false;

/** The legal ways to choose an option, in the order of its domains, at most `most` of them. */
export function waysOf(
  { program, code }: Rules,
  s: State,
  ask: number,
  option: number,
  seat: number,
  most = MOST_TESTED,
): Arg[][] {
  const many = program.asks[ask]?.options[option]?.params.length ?? 0;
  const values: Arg[] = [];
  const count = code.options[ask]?.[option]?.ways.list(s, seat, values, most) ?? 0;
  return Array.from({ length: count }, (_, way) => values.slice(way * many, (way + 1) * many));
}

/** How many legal ways there are, at most `most`. */
export const countWays = (
  rules: Rules,
  s: State,
  ask: number,
  option: number,
  seat: number,
  most = MOST_TESTED,
): number => codeOf(rules, ask, option)?.ways.count(s, seat, most) ?? 0;

/**
 * Whether the open ask has an option of this name that a seat may choose with these values, as `can` in a
 * sheet asks; `null` leaves a value free.
 */
export function canChoose(
  rules: Rules,
  s: State,
  seat: number,
  name: string,
  wanted: readonly (Arg | null)[],
): boolean {
  const ask = s.f[ASK] as number;
  const index = rules.program.asks[ask]?.options.findIndex((option) => option.name === name) ?? -1;
  if (index < 0) return false;
  if (wanted.every((value) => value === null)) return isLegal(rules, s, ask, index, seat);
  if (wanted.every((value) => value !== null)) return allows(rules, s, seat, { option: index, args: wanted as Args });
  return codeOf(rules, ask, index)?.ways.agrees(s, seat, wanted) ?? false;
}
