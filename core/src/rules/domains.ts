/** Values of one parameter, one by one, for explaining choices. Walks over whole ways are generated code. */
import type { Arg, Args, DomainCode } from '../machine/code.js';
import { standsIn } from '../machine/runtime/sets.js';
import type { State } from '../machine/state.js';
import type { Rules } from './rules.js';

type CardsDomain = Extract<DomainCode, { k: 'cards' }>;

function sizes(domain: CardsDomain, s: State, seat: number, args: Args, many: number): [number, number] {
  const least = Math.max(0, domain.least(s, seat, ...args));
  return [least, Math.min(many, domain.most?.(s, seat, ...args) ?? many)];
}

/**
 * Calls back for each value of a domain, given the parameters before it; the top of a range is always there.
 * @returns whether a visit ended the walk by giving `true`
 */
export function eachValue(
  { rt, code }: Rules,
  domain: DomainCode,
  s: State,
  seat: number,
  args: Args,
  visit: (value: Arg) => boolean,
): boolean {
  if (domain.k === 'values') return domain.list(s, seat, ...args).some(visit);
  if (domain.k === 'cards') {
    const list = [...new Set(domain.list(s, seat, ...args))];
    if (domain.shapes) return rt.eachShape(domain.shapes, list, list.length, visit, code.pay);
    const [least, most] = sizes(domain, s, seat, args, list.length);
    const { grow } = domain;
    const grows = grow && ((set: readonly number[]) => grow(s, seat, ...args, set));
    return rt.eachSet(list, list.length, least, most, grows, visit, code.pay, null);
  }
  const from = domain.from(s, seat, ...args);
  const to = domain.to(s, seat, ...args);
  const by = Math.max(1, domain.by?.(s, seat, ...args) ?? 1);
  for (let v = from; v < to; v += by) {
    code.pay(1);
    if (visit(v)) return true;
  }
  return from <= to && visit(to);
}

/** Whether a value is in a domain, without listing it. */
export function isIn(rules: Rules, domain: DomainCode, s: State, seat: number, args: Args, v: Arg): boolean {
  if (domain.k === 'cards') return typeof v !== 'number' && isSetIn(rules, domain, s, seat, args, v);
  if (typeof v !== 'number') return false;
  if (domain.k === 'values') return domain.list(s, seat, ...args).includes(v);
  const from = domain.from(s, seat, ...args);
  const to = domain.to(s, seat, ...args);
  if (v < from || v > to) return false;
  const by = domain.by ? Math.max(1, domain.by(s, seat, ...args)) : 1;
  return v === to || (v - from) % by === 0;
}

/** Whether these are so many different cards of a domain's list, whatever else they must be. */
export function mayStand(domain: DomainCode, s: State, seat: number, args: Args, v: Arg): boolean {
  if (domain.k !== 'cards' || typeof v === 'number') return false;
  const list = domain.list(s, seat, ...args);
  const [least, most] = domain.shapes ? [0, list.length] : sizes(domain, s, seat, args, list.length);
  return standsIn(list, list.length, v, least, most);
}

function isSetIn(rules: Rules, domain: CardsDomain, s: State, seat: number, args: Args, v: readonly number[]): boolean {
  if (!mayStand(domain, s, seat, args, v)) return false;
  if (domain.shapes) return rules.rt.fitsAny(domain.shapes, v);
  return v.length === 0 || !domain.grow || domain.grow(s, seat, ...args, v);
}

/** A set as it is carried out and recorded: in the order of its domain, so that the same cards are the same choice. */
export function inOrder({ rt }: Rules, domain: DomainCode, s: State, seat: number, args: Args, v: Arg): Arg {
  if (typeof v === 'number' || domain.k !== 'cards') return v;
  return rt.inOrderOf(domain.list(s, seat, ...args), v);
}

/** How many cards may be chosen at once, for those who draw the choice; `null` where shapes say it. */
export function setSizes(domain: CardsDomain, s: State, seat: number): [number, number] | null {
  if (domain.shapes) return null;
  return sizes(domain, s, seat, [], domain.list(s, seat).length);
}
