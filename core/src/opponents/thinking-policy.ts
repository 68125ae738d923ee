import type { Generator } from '../chance/generator.js';
import type { Answer } from '../machine/code.js';
import type { State } from '../machine/state.js';
import type { Game } from '../rules/game.js';
import type { Rules } from '../rules/rules.js';
import { drawChoice, type Policy, type SeatedPolicy } from '../simulate/policy.js';
import type { Budget } from './budget.js';
import { Thinker } from './thinker.js';

/** How long is thought about one choice, made anew for each. */
export type BudgetFor = () => Budget;

/** Plays by thinking: for simulated games, whose states keep what seats have seen (`tracking`). */
export class ThinkingPolicy implements Policy {
  /** @param name as it is shown, such as `thinking 50ms` */
  constructor(
    readonly name: string,
    private readonly budget: BudgetFor,
    private readonly seed = 1,
  ) {}

  /** It thinks only where it sits: whoever asks it without that gets any legal choice. */
  choose(rules: Rules, state: State, seat: number, generator: Generator): Answer | null {
    return drawChoice(rules, state, seat, generator, false);
  }

  sitDown(game: Game, seat: number): SeatedPolicy {
    const thinker = new Thinker(game, seat, this.seed);
    return {
      name: this.name,
      choose: (_, state) => thinker.answer(state, this.budget()),
      witness: (before, after, chooser, answer) => thinker.note(before, after, chooser, answer),
    };
  }
}
