import { below, type Generator } from '../chance/generator.js';
import { quickChance } from '../chance/quick.js';
import type { Setup } from '../machine/setup.js';
import type { State } from '../machine/state.js';
import { Thinker } from '../opponents/thinker.js';
import { choiceWords } from '../play/carried.js';
import { REGULARS } from '../program/names.js';
import { lineOf, type Program } from '../program/types.js';
import { keptAnswer, lineAnswers } from '../rules/bots.js';
import type { Game } from '../rules/game.js';
import { type Policy, RandomPolicy, ScriptedPolicy } from '../simulate/policy.js';
import { Simulator } from '../simulate/simulator.js';

/** How one line of a bot fared. */
export interface LineReport {
  /** Where it stands in the sheet. */
  readonly line: number;
  readonly option: string;
  /** How often it was what the bot played. */
  readonly fired: number;
  /** At so many of those places was thought about it. */
  readonly looked: number;
  /** At so many thinking found something clearly better, by more than two standard errors. */
  readonly overruled: number;
  /** What that gained, on average over the places where it was clear. */
  readonly gain: number;
  /** The place where most was to be gained. */
  readonly example: { readonly plays: string; readonly better: string; readonly gain: number } | null;
}

export interface BotLinesOptions {
  readonly games: number;
  readonly seed: number;
  /** How many playouts are spent at each place that is looked at. */
  readonly playouts: number;
  /** One place in so many is looked at. */
  readonly every: number;
  readonly seats?: number;
  readonly settings?: Setup['settings'];
}

/** By so many standard errors another choice must be better to count. */
const CLEAR = 2;
/** What gains less is not worth a word. */
const LEAST_GAIN = 0.05;
const MOST_CHOICES = 2_000;

class Sums {
  fired = 0;
  looked = 0;
  overruled = 0;
  gained = 0;
  example: LineReport['example'] = null;
}

/**
 * Lets a bot of the sheet play against itself, and reports on each of its lines: how often it fired, and how often
 * thinking would clearly have chosen something else.
 */
export function botLines(program: Program, bot: number, options: BotLinesOptions): LineReport[] {
  const { games, seed, playouts, every, settings } = options;
  const { name = '', lines = [] } = program.bots[bot] ?? {};
  const seats = REGULARS.slice(0, options.seats ?? (program.seats.includes(2) ? 2 : Math.min(...program.seats)));
  const simulator = Simulator.of(program, { seats, ...(settings ? { settings } : {}), tracking: true });
  const { game } = simulator;
  const sums = lines.map(() => new Sums());
  const draws = quickChance(seed).stream('places', 0);
  const thinkers = seats.map((_, seat) => new Thinker(game, seat, seed, bot));
  const scripted = new ScriptedPolicy(game, name);
  const random = new RandomPolicy();
  const watched: Policy = {
    name,
    choose: (rules, state, seat, generator) => {
      const fired = firing(game, state, seat, generator, bot);
      const at = sums[fired];
      if (at) {
        at.fired++;
        if (below(draws, every) === 0) look(game, state, seat, thinkers[seat] as Thinker, playouts, at);
      }
      return scripted.choose(rules, state, seat, generator) ?? random.choose(rules, state, seat, generator);
    },
  };
  for (let i = 0; i < games; i++)
    simulator.open(seed * 1_000_003 + i).play({ policies: seats.map(() => watched), most: MOST_CHOICES });
  return sums.map(({ fired, looked, overruled, gained, example }, i) => ({
    line: lineOf(lines[i]?.at ?? 0),
    option: lines[i]?.option ?? '',
    fired,
    looked,
    overruled,
    gain: overruled === 0 ? 0 : gained / overruled,
    example,
  }));
}

/** The line that fires: the first that has a legal choice; −1 where none does. */
function firing(game: Game, state: State, seat: number, generator: Generator, bot: number): number {
  let i = 0;
  for (const answer of lineAnswers(game, state, bot, seat, generator)) {
    if (answer) return i;
    i++;
  }
  return -1;
}

function look(game: Game, state: State, seat: number, thinker: Thinker, playouts: number, sums: Sums): void {
  const thought = thinker.think(state, { playouts });
  sums.looked++;
  const [best] = thought?.choices ?? [];
  if (!thought || !best || best.gain <= Math.max(LEAST_GAIN, CLEAR * best.gainError)) return;
  // Gains are held against the scripted choice, which is the one with none.
  const own = thought.choices.find(({ gain, gainError }) => gain === 0 && gainError === 0);
  if (!own || own === best) return;
  sums.overruled++;
  sums.gained += best.gain;
  if (best.gain > (sums.example?.gain ?? 0))
    sums.example = {
      plays: choiceWords(game, state, seat, keptAnswer(own.answer)),
      better: choiceWords(game, state, seat, keptAnswer(best.answer)),
      gain: best.gain,
    };
}
