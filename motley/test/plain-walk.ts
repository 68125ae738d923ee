import type { Arg, Args, Game, State } from '@wily-jester/core';

type OptionCode = Game['code']['options'][number][number];
type DomainCode = OptionCode['domains'][number];

/** The slot of a state that holds the open ask. */
const ASK = 2;

/** The option that a seat is asked for, as it is declared and as it is compiled. */
export const optionsAsked = (game: Game, s: State) =>
  (game.program.asks[s.f[ASK] as number]?.options ?? []).map((option, i) => ({
    option,
    code: game.code.options[s.f[ASK] as number]?.[i] as OptionCode,
  }));

/** All subsets of a list for which a condition holds of every part that they grow from, the smaller part first. */
function* growing(list: readonly number[], grows: (set: readonly number[]) => boolean): Iterable<number[]> {
  function* from(taken: number[], next: number): Iterable<number[]> {
    for (let i = next; i < list.length; i++) {
      const set = [...taken, list[i] as number];
      if (!grows(set)) continue;
      yield set;
      yield* from(set, i + 1);
    }
  }
  yield [];
  yield* from([], 0);
}

function* valuesOf(game: Game, domain: DomainCode, s: State, seat: number, args: Args): Iterable<Arg> {
  if (domain.k === 'values') {
    yield* domain.list(s, seat, ...args);
    return;
  }
  if (domain.k === 'range') {
    const from = domain.from(s, seat, ...args);
    const to = domain.to(s, seat, ...args);
    const by = Math.max(1, domain.by?.(s, seat, ...args) ?? 1);
    if (from > to) return;
    for (let v = from; v < to; v += by) yield v;
    yield to;
    return;
  }
  const list = [...new Set(domain.list(s, seat, ...args))];
  const { shapes, grow } = domain;
  if (shapes) {
    for (const set of growing(list, () => true)) if (game.rt.fitsAny(shapes, set) && set.length > 0) yield set;
    return;
  }
  const least = domain.least(s, seat, ...args);
  const most = domain.most?.(s, seat, ...args) ?? list.length;
  for (const set of growing(list, (set) => set.length <= most && (!grow || grow(s, seat, ...args, set))))
    if (set.length >= least) yield set;
}

/** All legal ways to choose an option, clause by clause and value by value. */
export function plainWays(game: Game, s: State, seat: number, index: number): Arg[][] {
  const { option, code } = optionsAsked(game, s)[index] as ReturnType<typeof optionsAsked>[number];
  game.code.begin();
  const fails = (args: Args, depth: number): boolean =>
    option.needs.some((need, i) => need.depth === depth && !code.needs[i]?.holds(s, seat, ...args));
  const bind = (args: readonly Arg[]): Arg[][] => {
    const domain = code.domains[args.length];
    if (!domain) return [[...args]];
    return [...valuesOf(game, domain, s, seat, args)].flatMap((value) => {
      const more = [...args, value];
      return fails(more, more.length) ? [] : bind(more);
    });
  };
  if ((code.when && !code.when(s, seat)) || fails([], 0)) return [];
  return bind([]);
}
