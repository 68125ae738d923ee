import type { Generator } from '../chance/generator.js';
import type { Answer, Arg, DomainCode } from '../machine/code.js';
import { Fault } from '../machine/fault.js';
import { ASK } from '../machine/layout.js';
import { BUDGETS } from '../machine/prices.js';
import type { State } from '../machine/state.js';
import { keptAnswer } from '../rules/bots.js';
import type { Game } from '../rules/game.js';
import { allows, isLegal, waysOf } from '../rules/legal.js';
import type { Budget } from './budget.js';

/** The most ways of one option that are weighed; of more, some are drawn. */
const MOST_WAYS = 40;
/** So many steps an amount without landmarks is looked at in. */
const STEPS = 6;

const keyOf = ({ option, args }: Answer): string => JSON.stringify([option, args]);

/**
 * The choices of a seat that are worth weighing: all legal ways of each option where they are few, else those that chance
 * draws, and of amounts the landmarks, the ends and some between. Asides come in where nothing else is legal.
 * @param first choices that are weighed in any case, such as those of bots; they are given back as they are
 * @param budget where its time is up, no more ways are drawn; where it is up for good, what was found by then must do
 */
export function candidatesOf(
  game: Game,
  state: State,
  seat: number,
  generator: Generator,
  first: readonly Answer[] = [],
  budget: Pick<Budget, 'isOver' | 'isLate'> = {},
): Answer[] {
  const ask = state.f[ASK] as number;
  const options = game.program.asks[ask]?.options ?? [];
  const found = new Map<string, Answer>();
  const add = (answer: Answer): void => {
    const key = keyOf(answer);
    if (!found.has(key)) found.set(key, answer);
  };
  for (const answer of first) add(answer);
  for (const wantsAsides of [false, true]) {
    if (wantsAsides && found.size > 0) break;
    for (const [i, option] of options.entries()) {
      if (option.aside !== wantsAsides || (found.size > 0 && budget.isLate?.())) continue;
      game.code.begin(BUDGETS.thinking);
      try {
        for (const args of waysWorth(game, state, ask, i, seat, generator, budget)) add({ option: i, args });
      } catch (error) {
        // What is too dear to be found is left out.
        if (!(error instanceof Fault)) throw error;
      }
    }
  }
  return [...found.values()];
}

function waysWorth(
  game: Game,
  state: State,
  ask: number,
  option: number,
  seat: number,
  generator: Generator,
  budget: Pick<Budget, 'isOver'>,
): readonly (readonly Arg[])[] {
  const code = game.code.options[ask]?.[option];
  const { params } = game.program.asks[ask]?.options[option] ?? { params: [] };
  if (!code || !isLegal(game, state, ask, option, seat)) return [];
  const [domain, ...more] = code.domains;
  if (!domain) return [[]];
  if (more.length === 0 && domain.k === 'range')
    return amounts(state, seat, domain)
      .filter((n) => allows(game, state, seat, { option, args: [n] }))
      .map((n) => [n]);
  const all = waysOf(game, state, ask, option, seat, MOST_WAYS + 1);
  if (all.length <= MOST_WAYS) return all.map((way) => way.slice(0, params.length));
  const drawn = new Map<string, readonly Arg[]>();
  for (let i = 0; i < 2 * MOST_WAYS && drawn.size < MOST_WAYS && !(drawn.size > 0 && budget.isOver?.()); i++) {
    const answer = code.ways.draw(state, seat, generator);
    if (answer) drawn.set(keyOf(answer), keptAnswer(answer).args);
  }
  return [...drawn.values()];
}

/** The amounts of a range that are worth weighing, the least first. */
function amounts(state: State, seat: number, range: Extract<DomainCode, { k: 'range' }>): number[] {
  const from = range.from(state, seat);
  const to = range.to(state, seat);
  const by = Math.max(1, range.by?.(state, seat) ?? 1);
  const marks = range.marks.map((mark) => mark(state, seat));
  const count = Math.floor((to - from) / by);
  // Each some times as much as the one before: small amounts differ more from each other than large ones.
  const steps = Array.from({ length: STEPS + 1 }, (_, i) => from + by * Math.round(count * (i / STEPS) ** 2));
  return [...new Set([from, ...steps, ...marks, to])].filter((n) => n >= from && n <= to).sort((a, b) => a - b);
}
