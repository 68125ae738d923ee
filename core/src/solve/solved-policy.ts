import { below, type Generator } from '../chance/generator.js';
import type { Answer } from '../machine/code.js';
import type { State } from '../machine/state.js';
import { choiceWords } from '../play/carried.js';
import type { Game } from '../rules/game.js';
import type { Rules } from '../rules/rules.js';
import { drawChoice, type Policy, type SeatedPolicy } from '../simulate/policy.js';
import { type Done, doneAfter, nothingDone } from './done.js';
import type { Strategy } from './solve.js';
import { answersAt, placeAt, type Tree } from './tree.js';

/** What a solved game has a seat do at one place: the share of each choice, by its words. */
export interface Decision {
  /** From 0. */
  readonly seat: number;
  /** What the seat holds and what was done, in words. */
  readonly holding: string;
  readonly choices: Readonly<Record<string, number>>;
}

/** A place of a game that a strategy says nothing of, or says two things of. */
export class UnknownPlace extends Error {
  override readonly name = 'UnknownPlace';
}

/** A strategy as a list of what is done where. */
export const decisionsOf = (tree: Tree, strategy: Strategy): Decision[] =>
  tree.infos.map(({ seat, words, choices }, i) => ({
    seat,
    holding: words,
    choices: Object.fromEntries(choices.map((choice, a) => [choice, strategy[i]?.[a] ?? 0])),
  }));

/** Chance is drawn in so many steps. */
const FINE = 0x7fff_ffff;

const keyOf = (seat: number, holding: string): string => `${seat} ${holding}`;

/** Plays as a solved strategy says, drawing among choices by their shares. */
export class SolvedPolicy implements Policy {
  readonly name = 'solved';
  private readonly places = new Map<string, Decision>();

  /** @throws UnknownPlace where two places read the same: words do not tell enough of such a game */
  constructor(decisions: readonly Decision[]) {
    for (const decision of decisions) {
      const key = keyOf(decision.seat, decision.holding);
      if (this.places.has(key))
        throw new UnknownPlace(
          `Two places of this game read "${decision.holding}": its strategy cannot be played by words.`,
        );
      this.places.set(key, decision);
    }
  }

  /** It knows what was done only where it sits: whoever asks it without that gets any legal choice. */
  choose(rules: Rules, state: State, seat: number, generator: Generator): Answer | null {
    return drawChoice(rules, state, seat, generator, false);
  }

  sitDown(game: Game): SeatedPolicy {
    let done = nothingDone(game);
    return {
      name: this.name,
      choose: (_, state, asked, generator) => this.answerAt(game, state, asked, done, generator),
      witness: (before, after, chooser, answer) => {
        done = doneAfter(game, done, before, after, chooser, answer);
      },
    };
  }

  /**
   * What it chooses at a place.
   * @param game whose seats are called as those of the tree are
   * @throws UnknownPlace where the strategy is of another game, or of other settings
   */
  answerAt(game: Game, state: State, seat: number, done: Done, generator: Generator): Answer | null {
    const holding = placeAt(game, state, seat, done);
    const decision = this.places.get(keyOf(seat, holding));
    const answers = answersAt(game, state, seat);
    const shares = answers.map((answer) => decision?.choices[choiceWords(game, state, seat, answer)] ?? -1);
    if (!decision || shares.includes(-1))
      throw new UnknownPlace(
        `The strategy says nothing of "${holding}": it was made for another game, or for other settings.`,
      );
    let left = (below(generator, FINE) / FINE) * shares.reduce((sum, share) => sum + share, 0);
    const i = shares.findIndex((share) => {
      left -= share;
      return left < 0;
    });
    return answers[i < 0 ? answers.length - 1 : i] ?? null;
  }
}
