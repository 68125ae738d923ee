/**
 * A random choice as 0.10 found it: generators that walk an option's clauses and build a list of its ways. It is what
 * generated code is measured against.
 */
import { type Arg, type Args, below, type Game, type Generator, type State } from '@wily-jester/core';

type OptionCode = Game['code']['options'][number][number];
type DomainCode = OptionCode['domains'][number];
type Option = Game['program']['asks'][number]['options'][number];

/** The slot of a state that holds the open ask. */
const ASK = 2;
const MOST_TESTED = 65_536;
const MOST_SAMPLED = 512;

function failing(option: Option, code: OptionCode, s: State, seat: number, args: Args, depth: number): boolean {
  const [a = 0, b = 0, c = 0, d = 0] = args;
  return option.needs.some((need, i) => need.depth === depth && !code.needs[i]?.holds(s, seat, a, b, c, d));
}

function* setsOf(
  game: Game,
  domain: Extract<DomainCode, { k: 'cards' }>,
  s: State,
  seat: number,
  args: Args,
): Iterable<Arg> {
  const list = [...new Set(domain.list(s, seat, ...args))];
  if (domain.shapes) {
    const found: Arg[] = [];
    game.rt.eachShape(
      domain.shapes,
      list,
      list.length,
      (set) => {
        found.push(set);
        return false;
      },
      game.code.pay,
    );
    yield* found;
    return;
  }
  const least = Math.max(0, domain.least(s, seat, ...args));
  const most = Math.min(list.length, domain.most?.(s, seat, ...args) ?? list.length);
  if (least > most) return;
  if (least === 0) yield [];
  const places: number[] = [];
  const taken: number[] = [];
  let next = 0;
  for (let tested = 0; ; ) {
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

function* valuesOf(game: Game, domain: DomainCode, s: State, seat: number, args: Args): Iterable<Arg> {
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

function* waysOf(game: Game, option: Option, code: OptionCode, s: State, seat: number): Iterable<Arg[]> {
  const budget = { left: MOST_TESTED };
  function* bind(args: Arg[]): Iterable<Arg[]> {
    const domain = code.domains[args.length];
    if (!domain) {
      yield [...args];
      return;
    }
    for (const v of valuesOf(game, domain, s, seat, args)) {
      if (budget.left-- <= 0) return;
      args.push(v);
      if (!failing(option, code, s, seat, args, args.length)) yield* bind(args);
      args.pop();
    }
  }
  if (!(code.when && !code.when(s, seat)) && !failing(option, code, s, seat, [], 0)) yield* bind([]);
}

/** A legal choice at random, asides where nothing else is legal. */
export function plainChoice(
  game: Game,
  s: State,
  seat: number,
  generator: Generator,
): { option: number; args: Args } | null {
  const ask = s.f[ASK] as number;
  const options = game.program.asks[ask]?.options ?? [];
  const codes = game.code.options[ask] ?? [];
  game.code.begin();
  const legal = options.flatMap((option, i) => {
    for (const _ of waysOf(game, option, codes[i] as OptionCode, s, seat)) return [i];
    return [];
  });
  const moves = legal.filter((i) => !options[i]?.aside);
  const among = moves.length === 0 ? legal : moves;
  const option = among[among.length === 0 ? 0 : below(generator, among.length)];
  if (option === undefined) return null;
  const ways: Arg[][] = [];
  for (const way of waysOf(game, options[option] as Option, codes[option] as OptionCode, s, seat))
    if (ways.push(way) >= MOST_SAMPLED) break;
  return { option, args: ways[below(generator, ways.length)] ?? [] };
}
