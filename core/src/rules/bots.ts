import { below, type Generator } from '../chance/generator.js';
import type { DomainCode } from '../machine/codegen/assemble.js';
import { Fault } from '../machine/fault.js';
import { ASK } from '../machine/layout.js';
import type { State } from '../machine/state.js';
import { type Arg, inOrder, sameArg } from './domains.js';
import type { Answer, Game } from './game.js';
import { allows, isLegal, waysOf } from './legal.js';

/** Greatest number of ways that a bot weighs for one line. */
const MOST_WEIGHED = 4096;

const NO_KEY: readonly number[] = [];

/** The number of a bot by name, or −1. */
export const botNamed = (game: Game, name: string): number => game.program.bots.findIndex((bot) => bot.name === name);

/**
 * What a scripted bot plays: the first of its lines that has a legal choice; among those the most
 * preferred; ties by the bot's own chance.
 * @returns `null` where no line fits
 * @throws HiddenRead where a line reads what the seat may not see
 */
export function botAnswer(game: Game, s: State, bot: number, seat: number, generator: Generator): Answer | null {
  const ask = s.f[ASK] as number;
  game.code.begin();
  game.tossWith(generator);
  const declared = game.program.bots[bot];
  for (const [i, line] of (declared?.lines ?? []).entries()) {
    const index = game.program.asks[ask]?.options.findIndex((option) => option.name === line.option) ?? -1;
    const code = game.code.bots[bot]?.[i];
    if (index < 0 || !code) continue;
    const wanted = code.args.map((arg) => arg?.(s, seat) ?? null);
    let best: Arg[][] = [];
    let most: readonly number[] = NO_KEY;
    let looked = 0;
    for (const way of candidates(game, s, ask, index, seat, wanted)) {
      if (++looked > MOST_WEIGHED) break;
      if (code.when && !code.when(s, seat, ...way)) continue;
      const worth = code.prefer?.(s, seat, ...way) ?? NO_KEY;
      const better = best.length === 0 ? 1 : game.rt.compareKeys(worth, most);
      if (better > 0) {
        most = worth;
        best = [way];
      } else if (better === 0) best.push(way);
    }
    if (best.length > 0)
      return { option: index, args: best[best.length === 1 ? 0 : below(generator, best.length)] as Arg[] };
  }
  return null;
}

/** The legal ways that agree with the values a line gives. */
function* candidates(
  game: Game,
  s: State,
  ask: number,
  index: number,
  seat: number,
  wanted: readonly (Arg | null)[],
): Iterable<Arg[]> {
  // What is given whole needs no search.
  if (wanted.length > 0 && wanted.every((value) => value !== null)) {
    const domains = game.code.options[ask]?.[index]?.domains ?? [];
    const args: Arg[] = [];
    for (const [i, value] of (wanted as Arg[]).entries())
      args.push(inOrder(domains[i] as DomainCode, s, seat, args, value));
    if (allows(game, s, seat, { option: index, args })) yield args;
    return;
  }
  for (const way of waysOf(game, s, ask, index, seat))
    if (wanted.every((value, i) => value === null || sameArg(value, way[i] as Arg))) yield way;
}

/** What the turn clock plays for a seat: the first of its options that is legal, or what its bot plays. */
export function clockAnswer(game: Game, s: State, seat: number, generator: Generator): Answer {
  const ask = s.f[ASK] as number;
  const declared = game.program.asks[ask];
  const otherwise = declared?.clock?.otherwise ?? [];
  if ('bot' in otherwise) {
    const answer = botAnswer(game, s, otherwise.bot, seat, generator);
    if (answer) return answer;
  } else {
    for (const name of otherwise) {
      const index = declared?.options.findIndex((option) => option.name === name) ?? -1;
      if (index >= 0 && isLegal(game, s, ask, index, seat)) return { option: index, args: [] };
    }
  }
  throw new Fault(
    `The clock ran out, and nothing that it could play for ${game.layout.seats[seat]} is legal.`,
    declared?.at ?? 0,
  );
}
