import { below, type Generator } from '../chance/generator.js';
import type { Answer } from '../machine/code.js';
import { Fault, TooDear } from '../machine/fault.js';
import { ASK } from '../machine/layout.js';
import { SetupError } from '../machine/setup.js';
import type { State } from '../machine/state.js';
import { askPlace, botNamed, keptAnswer, noLineFits, untestedWords } from '../rules/bots.js';
import type { Game } from '../rules/game.js';
import type { Rules } from '../rules/rules.js';

/**
 * Chooses for a seat, from what that seat may see and nothing else. What it decides by chance it draws from the
 * generator that it is given, so that the same numbers lead to the same choice.
 */
export interface Policy {
  readonly name: string;
  /**
   * A legal choice for a seat that is asked. It is good until the next one is made.
   * @returns `null` where it finds none
   */
  choose(rules: Rules, state: State, seat: number, generator: Generator): Answer | null;
  /** The same for one seat of a game that begins, where it must remember what happens there. */
  sitDown?(game: Game, seat: number): SeatedPolicy;
}

/** A policy that plays one seat of one game, and hears of every choice there. */
export interface SeatedPolicy extends Policy {
  /** @param before the state in which the choice was made; it is the caller's, and goes on changing */
  witness(before: State, after: State, seat: number, answer: Answer): void;
}

/** A seat that has to answer and for which its policy finds nothing is a fault of the sheet. */
export const nothingFound = (rules: Rules, state: State, seat: number, policy: Policy): Fault =>
  policy instanceof ScriptedPolicy
    ? noLineFits(rules, state, policy.name, seat)
    : new Fault(
        `${rules.layout.seats[seat]} is asked, and nothing that may be chosen was found.${untestedWords(rules, state, seat)}`,
        askPlace(rules, state),
      );

/**
 * Draws a legal choice: the option evenly among those that have a legal way, then one of its ways evenly, to within
 * 2^−32. Values that the sheet promises to be interchangeable (`alike`) count once.
 * @param asides whether asides count as much as other options; otherwise they are drawn where nothing else is legal
 * @returns `null` where nothing is legal
 */
export function drawChoice(
  { code }: Rules,
  state: State,
  seat: number,
  generator: Generator,
  asides = true,
): Answer | null {
  const answer = code.draw[(state.f[ASK] as number) | 0]?.(state, seat, generator, asides) ?? null;
  return answer && keptAnswer(answer);
}

/** Plays at random, as {@link drawChoice} draws. */
export class RandomPolicy implements Policy {
  readonly name = 'random';

  /**
   * @param asides one choice in so many may be an aside, such as giving up, as likely as any other option; with 0,
   *   the default, asides are chosen only where nothing else is legal
   */
  constructor(private readonly asides = 0) {}

  choose(rules: Rules, state: State, seat: number, generator: Generator): Answer | null {
    const open = this.asides > 0 && below(generator, this.asides) === 0;
    try {
      return rules.code.draw[(state.f[ASK] as number) | 0]?.(state, seat, generator, open) ?? null;
    } catch (error) {
      if (error instanceof TooDear) return null;
      throw error;
    }
  }
}

/** Plays one of the sheet's own bots. */
export class ScriptedPolicy implements Policy {
  private readonly bot: number;

  /** @throws SetupError where the sheet has no bot of this name */
  constructor(
    { program }: Pick<Rules, 'program'>,
    readonly name: string,
  ) {
    this.bot = botNamed({ program }, name);
    if (this.bot < 0) {
      const names = program.bots.map((bot) => bot.name).join(', ') || 'none';
      throw new SetupError(`"${program.name}" has no bot "${name}". It has ${names}.`);
    }
  }

  choose(rules: Rules, state: State, seat: number, generator: Generator): Answer | null {
    rules.code.begin();
    return rules.code.bots[this.bot]?.(state, seat, generator) ?? null;
  }
}
