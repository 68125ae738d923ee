import type { Face } from '../cards/face.js';
import type { Generator } from '../chance/generator.js';
import { quickChance } from '../chance/quick.js';
import { TrialChance, trialRoot } from '../chance/trial.js';
import type { Answer } from '../machine/code.js';
import { ASK } from '../machine/layout.js';
import { choiceWords } from '../play/carried.js';
import type { Program } from '../program/types.js';
import { keptAnswer } from '../rules/bots.js';
import type { Game } from '../rules/game.js';
import { waysOf } from '../rules/legal.js';
import { type Policy, ScriptedPolicy } from '../simulate/policy.js';
import { Simulator } from '../simulate/simulator.js';
import { Running } from '../statistics/running.js';

/** What is weighed: a bot's choice against the others that it had, in very many deals. */
export interface OptionsPlan {
  readonly program: Program;
  readonly seats: readonly string[];
  readonly settings: Readonly<Record<string, number | boolean | string>>;
  /** Cards that are dealt in any case, by pile path. */
  readonly promised: Readonly<Record<string, readonly Face[]>>;
  /** The bot that plays all seats. */
  readonly bot: string;
  /** The seat whose first ask with this option is looked at, from 0. */
  readonly seat: number;
  readonly at: string;
  readonly deals: number;
  /** The same text gives the same deals. */
  readonly seed: string;
}

/** What one choice was worth beside the bot's own, the same cards dealt for both. */
export interface WeighedOption {
  readonly words: string;
  /** In how many of the deals that came to the ask it was legal, and in how many the bot chose it. */
  readonly legal: number;
  readonly chosen: number;
  /** Points that it brings more than the bot's own choice, on average where it was legal, and the standard error of that. */
  readonly gain: number;
  readonly error: number;
}

export interface WeighedOptions {
  /** Deals in which the seat came to be asked. */
  readonly asked: number;
  /** Whether an option had more ways than are weighed: the first of them stand for all. */
  readonly isCut: boolean;
  /** The best first. */
  readonly options: readonly WeighedOption[];
}

/** So many ways of one option are weighed. */
const MOST_WAYS = 8;
/** The most steps before and after the choice. */
const LONGEST = 10_000;

/** What one choice came to beside the bot's own. */
class Held {
  readonly gains = new Running();
  chosen = 0;
}

/**
 * Deals a game many times, lets a bot play to the first ask of a seat that has an option, and plays each choice there on
 * from the same cards, the bot choosing all else: paired differences, so that few deals tell much.
 * @throws SetupError, Fault
 */
export function weighOptions({ program, seat, at, deals, seed, bot, ...opening }: OptionsPlan): WeighedOptions {
  const simulator = Simulator.of(program, { ...opening, evenly: true });
  const after = Simulator.twinOf(simulator.game);
  const chance = new TrialChance(trialRoot(seed));
  const { game } = simulator;
  const policy = new ScriptedPolicy(game, bot);
  const policies = opening.seats.map(() => policy);
  const found = new Map<string, Held>();
  let [asked, isCut] = [0, false];
  for (let deal = 0; deal < deals; deal++) {
    simulator.open(chance.begin(deal));
    const own = playedTo(simulator, policies, seat, at, quickChance(deal).stream('own', 0));
    if (!own) continue;
    asked++;
    const { state } = simulator;
    /** What the seat has in the end, or at that of the chapter. */
    const scoreWith = (answer: Answer): number => {
      after.take(state, deal);
      after.game.advance(after.state, seat, answer);
      after.play({ policies, until: 'chapter', most: LONGEST });
      return after.scores()[seat] as number;
    };
    const base = scoreWith(own);
    const ownWords = choiceWords(game, state, seat, own);
    const answers = answersOf(game, simulator, seat);
    isCut ||= answers.isCut;
    for (const answer of answers.kept) {
      const words = choiceWords(game, state, seat, answer);
      const held = found.get(words) ?? new Held();
      found.set(words, held);
      const isOwn = words === ownWords;
      held.gains.add(isOwn ? 0 : scoreWith(answer) - base);
      if (isOwn) held.chosen++;
    }
  }
  const options = [...found].map(([words, { gains, chosen }]): WeighedOption => {
    return { words, legal: gains.count, chosen, gain: gains.mean, error: gains.error };
  });
  return { asked, isCut, options: options.sort((a, b) => b.gain - a.gain) };
}

/** Plays to the first ask of a seat with an option; gives what its bot chooses there, or `null` where it does not come to that. */
function playedTo(
  simulator: Simulator,
  policies: readonly Policy[],
  seat: number,
  at: string,
  generator: Generator,
): Answer | null {
  const { game } = simulator;
  for (let steps = 0; steps < LONGEST; steps++) {
    const { state } = simulator;
    const { options = [] } = game.program.asks[state.f[ASK] as number] ?? {};
    if (options.some(({ name }) => name === at) && game.asked(state).includes(seat)) {
      const own = policies[seat]?.choose(game, state, seat, generator);
      if (own) return keptAnswer(own);
    }
    if (simulator.play({ policies, most: 1 }).isOver) return null;
  }
  return null;
}

/** The choices of a seat that is asked, asides left out, and whether there are more. */
function answersOf(
  game: Game,
  { state }: Simulator,
  seat: number,
): { readonly kept: Answer[]; readonly isCut: boolean } {
  const ask = state.f[ASK] as number;
  game.code.begin();
  const ways = (game.program.asks[ask]?.options ?? []).map((option, i) =>
    option.aside ? [] : waysOf(game, state, ask, i, seat, MOST_WAYS + 1).map((args): Answer => ({ option: i, args })),
  );
  return { kept: ways.flatMap((all) => all.slice(0, MOST_WAYS)), isCut: ways.some((all) => all.length > MOST_WAYS) };
}
