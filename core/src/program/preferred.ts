import { cardTests } from './card-tests.js';
import type { Expr, Lambda } from './expressions.js';
import { localsIn } from './tree.js';
import type { BotLine, Option, Program } from './types.js';

/** What a bot's line prefers, where the most preferred way is found without going through all of them. */
export type Preferred =
  /** An amount as it is, or the least. */
  | { readonly k: 'amount'; readonly least: boolean }
  /** Cards whose values come to the most, or to the least. */
  | { readonly k: 'sum'; readonly by: Lambda; readonly least: boolean }
  /** As many cards as there may be, or as few, whichever they are. */
  | { readonly k: 'size'; readonly least: boolean };

/** Finds that an option's one value decides by itself; `null` where its ways are weighed one by one. */
export function preferredOf(program: Program, option: Option, line: BotLine): Preferred | null {
  const [param, ...more] = option.params;
  const [local] = line.locals;
  if (!param || more.length > 0 || local === undefined || !line.prefer || line.args?.some((arg) => arg !== null))
    return null;
  const { prefer } = line;
  const whole = prefer.k === 'key' && prefer.items.length === 1 ? (prefer.items[0] as Expr) : prefer;
  const least = whole.k === 'neg';
  const key = whole.k === 'neg' ? whole.a : whole;
  const { domain } = param;
  if (domain.k === 'range') return key.k === 'local' && key.i === local ? { k: 'amount', least } : null;
  if (domain.k !== 'cards' || domain.shapes !== null || domain.grow !== null) return null;
  if (option.needs.some((need) => need.depth > 0) || !cardTests(program, option, line).isWhole) return null;
  if (key.k === 'fn' && key.f === 'size' && key.args[0]?.k === 'local' && key.args[0].i === local)
    return { k: 'size', least };
  const isSum = key.k === 'fold' && key.f === 'sum' && key.of.k === 'local' && key.of.i === local;
  return isSum && !localsIn(key.by.body).has(local) ? { k: 'sum', by: key.by, least } : null;
}
