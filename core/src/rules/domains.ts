import type { DomainCode } from '../machine/codegen/assemble.js';
import type { State } from '../machine/state.js';
import { fitsShape, setsOfShape } from '../patterns/shapes.js';
import type { Game } from './game.js';

/** The value of a parameter: a number, or several cards. */
export type Arg = number | readonly number[];
export type Args = readonly Arg[];

/** Greatest number of candidates tested for one question about an option. */
export const MOST_TESTED = 65_536;

type CardsDomain = Extract<DomainCode, { k: 'cards' }>;

export const sameArg = (a: Arg, b: Arg): boolean =>
  typeof a === 'number' || typeof b === 'number'
    ? a === b
    : a.length === b.length && a.every((card) => b.includes(card));

function sizes(domain: CardsDomain, s: State, seat: number, args: Args, many: number): [number, number] {
  const least = Math.max(0, domain.least(s, seat, ...args));
  return [least, Math.min(many, domain.most?.(s, seat, ...args) ?? many)];
}

/** Cards in the order of a list. */
const inOrderOf = (list: readonly number[], cards: readonly number[]): number[] =>
  [...cards].sort((a, b) => list.indexOf(a) - list.indexOf(b));

/** All sets of a domain of several cards, lazily and in its order; what is tested without being one counts against a limit too. */
function* setsOf(game: Game, domain: CardsDomain, s: State, seat: number, args: Args): Iterable<readonly number[]> {
  const list = [...new Set(domain.list(s, seat, ...args))];
  if (domain.shapes) {
    for (const shape of shapesOf(game, domain))
      for (const set of setsOfShape(shape, game.rt.facts, list, MOST_TESTED)) yield inOrderOf(list, set);
    return;
  }
  const [least, most] = sizes(domain, s, seat, args, list.length);
  if (least > most) return;
  if (least === 0) yield [];
  // Depth first, so that each set comes before the larger ones that it grows into.
  const places: number[] = [];
  const taken: number[] = [];
  let next = 0;
  for (let tested = 0; ; ) {
    // No more than is left can still be taken.
    if (taken.length === most || next === list.length || taken.length + (list.length - next) < least) {
      const last = places.pop();
      if (last === undefined) return;
      taken.pop();
      next = last + 1;
      continue;
    }
    taken.push(list[next] as number);
    if (!domain.grow || domain.grow(s, seat, ...args, [...taken])) {
      if (++tested > MOST_TESTED) return;
      if (taken.length >= least) yield [...taken];
      places.push(next);
    } else taken.pop();
    next++;
  }
}

const shapesOf = (game: Game, domain: CardsDomain) =>
  (domain.shapes ?? []).flatMap((i) => game.program.shapes[i] ?? []);

/** All values of a domain, given the parameters before it; ranges are walked lazily, and their top is always there. */
export function* valuesOf(game: Game, domain: DomainCode, s: State, seat: number, args: Args): Iterable<Arg> {
  if (domain.k === 'values') {
    yield* domain.list(s, seat, ...args);
    return;
  }
  if (domain.k === 'cards') {
    yield* setsOf(game, domain, s, seat, args);
    return;
  }
  const from = domain.from(s, seat, ...args);
  const to = domain.to(s, seat, ...args);
  const by = Math.max(1, domain.by?.(s, seat, ...args) ?? 1);
  if (from > to) return;
  for (let v = from; v < to; v += by) yield v;
  yield to;
}

/** Whether a value is in a domain, without listing it. */
export function isIn(game: Game, domain: DomainCode, s: State, seat: number, args: Args, v: Arg): boolean {
  const [a = 0, b = 0, c = 0] = args;
  if (domain.k === 'cards') return typeof v !== 'number' && isSetIn(game, domain, s, seat, args, v);
  if (typeof v !== 'number') return false;
  if (domain.k === 'values') return domain.list(s, seat, a, b, c).includes(v);
  const from = domain.from(s, seat, a, b, c);
  const to = domain.to(s, seat, a, b, c);
  if (v < from || v > to) return false;
  const by = domain.by ? Math.max(1, domain.by(s, seat, a, b, c)) : 1;
  return v === to || (v - from) % by === 0;
}

/** Whether these are so many different cards of a domain's list, whatever else they must be. */
export function mayStand(domain: DomainCode, s: State, seat: number, args: Args, v: Arg): boolean {
  if (domain.k !== 'cards' || typeof v === 'number') return false;
  const list = domain.list(s, seat, ...args);
  if (new Set(v).size !== v.length || !v.every((card) => list.includes(card))) return false;
  if (domain.shapes) return true;
  const [least, most] = sizes(domain, s, seat, args, list.length);
  return v.length >= least && v.length <= most;
}

function isSetIn(game: Game, domain: CardsDomain, s: State, seat: number, args: Args, v: readonly number[]): boolean {
  if (!mayStand(domain, s, seat, args, v)) return false;
  if (domain.shapes) return shapesOf(game, domain).some((shape) => fitsShape(shape, game.rt.facts, v));
  return v.length === 0 || !domain.grow || domain.grow(s, seat, ...args, v);
}

/** A set as it is carried out and recorded: in the order of its domain, so that the same cards are the same choice. */
export function inOrder(domain: DomainCode, s: State, seat: number, args: Args, v: Arg): Arg {
  if (typeof v === 'number' || domain.k !== 'cards') return v;
  return inOrderOf(domain.list(s, seat, ...args), v);
}

/** Whether a first parameter has nothing to choose from. */
export function isEmpty(game: Game, domain: DomainCode, s: State, seat: number): boolean {
  if (domain.k === 'values') return domain.list(s, seat).length === 0;
  if (domain.k === 'range') return domain.from(s, seat) > domain.to(s, seat);
  for (const _ of setsOf(game, domain, s, seat, [])) return false;
  return true;
}

/** How many cards may be chosen at once, for those who draw the choice; `null` where shapes say it. */
export function setSizes(domain: CardsDomain, s: State, seat: number): [number, number] | null {
  if (domain.shapes) return null;
  return sizes(domain, s, seat, [], domain.list(s, seat).length);
}
