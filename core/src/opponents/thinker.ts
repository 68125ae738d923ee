import type { Chance, Generator } from '../chance/generator.js';
import { quickChance } from '../chance/quick.js';
import type { Answer } from '../machine/code.js';
import { Fault } from '../machine/fault.js';
import { NUMBER, WAIT, WAIT_ANY } from '../machine/layout.js';
import type { State } from '../machine/state.js';
import { botAnswer, lineAnswers } from '../rules/bots.js';
import type { Game } from '../rules/game.js';
import { type Policy, RandomPolicy, ScriptedPolicy } from '../simulate/policy.js';
import type { Budget } from './budget.js';
import { candidatesOf } from './candidates.js';
import { KeptSecrets, type Step } from './kept-secrets.js';
import { Knowledge } from './knowledge.js';
import { Search, type Weighed } from './search.js';
import { Worlds } from './worlds.js';

/** By so many standard errors a choice must be better than the scripted bot's. */
const GUARD = 1;

/**
 * Where the first answer counts, such as a doubt of what somebody laid face down, what others held back tells more than is drawn from
 * it: the scripted bot's answer stands. (Measured in docs/opponents.md.)
 */
const guardIn = (state: State): number => (state.f[WAIT] === WAIT_ANY ? Number.POSITIVE_INFINITY : GUARD);

/** How many choices of the bot's lines are weighed at most. */
const MOST_LINES = 12;

/** What came of thinking: the choices that were weighed, the best first. */
export interface Thought {
  readonly answer: Answer;
  readonly choices: readonly Weighed[];
  readonly playouts: number;
}

/**
 * Thinks for one seat of a game: it knows what the seat has seen and what the others' choices tell, and never looks at a
 * card that the seat may not see. It reads no clock: the budget says how long it may think.
 */
export class Thinker {
  private readonly knowledge: Knowledge;
  private readonly secrets: KeptSecrets;
  private readonly chance: Chance;
  private readonly policy: Policy;
  private readonly bot: number;

  /**
   * @param game whose states keep what seats have seen (`tracking`)
   * @param seed of its own chance: with it and a number of playouts, it always finds the same
   * @param bot of the sheet that plays all seats in playouts, and whose choice is kept unless another is better
   */
  constructor(
    private readonly game: Game,
    readonly seat: number,
    seed: number,
    bot = 0,
  ) {
    this.chance = quickChance(seed);
    const first = game.program.bots[bot];
    this.bot = first ? bot : -1;
    this.knowledge = new Knowledge(game, seat, this.chance.stream('knowledge', seat), this.bot);
    this.secrets = new KeptSecrets(game, seat, this.chance.stream('secrets', seat));
    this.policy = first ? new SteadyPolicy(new ScriptedPolicy(game, first.name)) : new RandomPolicy();
  }

  /** Takes note of a choice, its own ones too. @param before the state in which it was made */
  note(before: State, after: State, seat: number, answer: Answer): void {
    this.knowledge.note(before, after, seat, answer);
  }

  /**
   * Takes note of a step of the very table that it thinks at: what the sheet remembers there of cards that the seat has
   * not seen, it does not know.
   */
  remember(step: Step, after: State): void {
    this.secrets.note(step, after);
  }

  /** Forgets what choices told. @param back the state to which the game went back, if it did */
  clear(back?: State): void {
    this.knowledge.clear();
    if (back) this.secrets.wentBack(back);
  }

  /** The choice that promises most, or `null` where there is none to be found. */
  think(state: State, budget: Budget): Thought | null {
    const generator = this.chance.stream(`think ${this.seat}`, state.f[NUMBER] as number);
    const scripted = this.scripted(state, generator);
    return this.weigh(state, scripted ? [scripted, ...this.byLines(state, generator, budget)] : [], budget, generator);
  }

  /**
   * What it plays. Where the first answer counts nothing but the scripted bot's answer comes into question: that is given at once.
   * @returns `null` where nothing is found to choose
   */
  answer(state: State, budget: Budget): Answer | null {
    if (state.f[WAIT] === WAIT_ANY) {
      const scripted = this.scripted(state, this.chance.stream(`think ${this.seat}`, state.f[NUMBER] as number));
      if (scripted) return scripted;
    }
    return this.think(state, budget)?.answer ?? null;
  }

  /** Holds a choice of the seat against the others that it had: their gains are over this one, which stays unless another is clearly better. */
  review(state: State, taken: Answer, budget: Budget): Thought | null {
    const generator = this.chance.stream(`review ${this.seat}`, state.f[NUMBER] as number);
    const scripted = this.scripted(state, generator);
    const lines = scripted ? [scripted, ...this.byLines(state, generator, budget)] : [];
    return this.weigh(state, [taken, ...lines], budget, generator);
  }

  /** What the bot would choose if it had fewer lines: among many ways these are better than most that chance draws. */
  private byLines(state: State, generator: Generator, budget: Budget): Answer[] {
    const answers: Answer[] = [];
    if (budget.isOver?.()) return answers;
    for (const answer of lineAnswers(this.game, state, this.bot, this.seat, generator)) {
      if (answer) answers.push(answer);
      if (answers.length === MOST_LINES || budget.isOver?.()) break;
    }
    return answers;
  }

  /** @param first is weighed in any case; the very first is held against all others */
  private weigh(state: State, first: readonly Answer[], budget: Budget, generator: Generator): Thought | null {
    const { game, seat } = this;
    const candidates = candidatesOf(game, state, seat, generator, first, budget);
    const [only] = candidates;
    if (!only) return null;
    if (candidates.length === 1) return { answer: only, choices: [], playouts: 0 };
    const search = new Search(game, state, {
      seat,
      policy: this.policy,
      hasIncumbent: first.length > 0,
      guard: guardIn(state),
    });
    const choices = search.run(candidates, new Worlds(game, state, this.knowledge, this.secrets), budget, generator);
    const playouts = choices.reduce((sum, choice) => sum + choice.playouts, 0);
    return { answer: choices[0]?.answer ?? only, choices, playouts };
  }

  private scripted(state: State, generator: Generator): Answer | null {
    if (this.bot < 0) return null;
    try {
      return botAnswer(this.game, state, this.bot, this.seat, generator);
    } catch (error) {
      // A line that reads what the seat may not see, or costs too much, is no help.
      if (error instanceof Fault) return null;
      throw error;
    }
  }
}

/** The scripted bot, and chance where none of its lines fits or one of them fails. */
class SteadyPolicy implements Policy {
  readonly name: string;
  private readonly other = new RandomPolicy();

  constructor(private readonly scripted: Policy) {
    this.name = scripted.name;
  }

  choose(...asked: Parameters<Policy['choose']>): Answer | null {
    try {
      const answer = this.scripted.choose(...asked);
      if (answer) return answer;
    } catch (error) {
      if (!(error instanceof Fault)) throw error;
    }
    return this.other.choose(...asked);
  }
}
