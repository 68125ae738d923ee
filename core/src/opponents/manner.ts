import { type Chance, type Generator, shufflePlaces } from '../chance/generator.js';
import type { Answer } from '../machine/code.js';
import { Fault } from '../machine/fault.js';
import { ASK, NUMBER } from '../machine/layout.js';
import type { State } from '../machine/state.js';
import { botAnswer } from '../rules/bots.js';
import type { Game } from '../rules/game.js';
import { HiddenPlaces } from './hidden.js';
import type { PrivateValues } from './private-values.js';
import type { Witnessed } from './witnessed.js';

/** In so many worlds is looked whether the bot's choice hangs on hidden cards: one that does not tells nothing. */
const PROBES = 24;
/** At most so many choices are kept, the latest. */
const MOST_KEPT = 8;

/**
 * Whether a bot would make such a choice: the same option, the same numbers, as many cards.
 * @param bot of the sheet
 */
export function wouldChoose(
  game: Game,
  state: State,
  bot: number,
  { seat, answer }: Pick<Witnessed, 'seat' | 'answer'>,
  generator: Generator,
): boolean {
  let own: Answer | null;
  try {
    own = botAnswer(game, state, bot, seat, generator);
  } catch (error) {
    // What cannot be told speaks against nothing.
    if (error instanceof Fault) return true;
    throw error;
  }
  if (!own || own.option !== answer.option) return false;
  const params = game.program.asks[state.f[ASK] as number]?.options[answer.option]?.params ?? [];
  return params.every(({ t }, i) => {
    const [mine, its] = [own.args[i], answer.args[i]];
    if (typeof mine === 'object' && typeof its === 'object') return mine.length === its.length;
    return t === 'card' || mine === its;
  });
}

/**
 * Choices of others that the sheet's bot would make with some cards and not with others: whoever chose so probably holds
 * such cards. It is a guess, for people play as they like: worlds that speak against it are less likely, not impossible.
 */
export class Manner {
  private kept: Witnessed[] = [];

  /** @param bot of the sheet, as which others are thought to play; −1 where there is none */
  constructor(
    private readonly game: Game,
    readonly bot: number,
    private readonly privates: PrivateValues,
    private readonly chance: Chance,
  ) {}

  get witnessed(): readonly Witnessed[] {
    return this.kept;
  }

  /** @param hidden the cards that the seat does not know */
  note(before: State, hidden: readonly number[], seat: number, answer: Answer): void {
    if (this.bot < 0 || hidden.length < 2 || !this.tells(before, hidden, seat, answer)) return;
    this.kept.push({ state: before.copy(), seat, answer: { option: answer.option, args: [...answer.args] } });
    if (this.kept.length > MOST_KEPT) this.kept.shift();
  }

  clear(): void {
    this.kept = [];
  }

  /** Whether the bot would choose so with some of the cards that it may hold, and not with others. */
  private tells(before: State, hidden: readonly number[], seat: number, answer: Answer): boolean {
    const { game } = this;
    // A stream for each choice: what was looked at before shifts nothing.
    const generator = this.chance.stream('manner', before.f[NUMBER] as number);
    const places = new HiddenPlaces(game, before, hidden);
    // Sorted: which cards truly lie there leaves no trace.
    const order = Uint16Array.from(hidden).sort();
    const trial = game.copy(before);
    let [would, wouldNot] = [0, 0];
    for (let i = 0; i < PROBES; i++) {
      trial.copyFrom(before);
      shufflePlaces(order, 0, order.length, generator);
      places.lay(trial, order);
      this.privates.draw(trial, generator);
      if (wouldChoose(game, trial, this.bot, { seat, answer }, generator)) would++;
      else wouldNot++;
    }
    game.recycle(trial);
    return would > 0 && wouldNot > 0;
  }
}
