import { type Generator, shufflePlaces } from '../chance/generator.js';
import { quickChance } from '../chance/quick.js';
import type { Answer, Arg } from '../machine/code.js';
import { Fault } from '../machine/fault.js';
import { ASK, CHANCES, OPENED, WAIT, WAIT_EVERY } from '../machine/layout.js';
import type { State } from '../machine/state.js';
import type { Type } from '../program/types.js';
import type { Game } from '../rules/game.js';
import { HiddenPlaces, unseenBy } from './hidden.js';
import { Manner } from './manner.js';
import { PrivateValues } from './private-values.js';
import type { Witnessed } from './witnessed.js';

/** In so many worlds is looked whether a choice tells anything: one that is legal in all of them is not kept. */
const PROBES = 16;
/** At most so many choices are kept, the latest. */
const MOST_KEPT = 64;

const argTypes = (game: Game, state: State, option: number): readonly Type[] =>
  game.program.asks[state.f[ASK] as number]?.options[option]?.params.map(({ t }) => t) ?? [];

/** An answer with other cards in the place of some. */
export function answerWith(
  game: Game,
  state: State,
  { option, args }: Answer,
  instead: (card: number) => number,
): Answer {
  const types = argTypes(game, state, option);
  const exchanged = args.map((arg, i): Arg => {
    if (types[i] === 'card') return instead(arg as number);
    return types[i] === 'list:card' ? (arg as readonly number[]).map(instead) : arg;
  });
  return { option, args: exchanged };
}

/** Whether all know what was chosen: what some answer to an ask of all is hidden until all are in. */
const isTold = (before: State, after: State): boolean =>
  before.f[WAIT] !== WAIT_EVERY || after.f[WAIT] !== WAIT_EVERY || after.f[OPENED] !== before.f[OPENED];

/** Whether a choice is legal in a state, as far as that can be told. */
export function isLegalIn({ code }: Game, state: State, seat: number, { option, args }: Answer): boolean {
  code.begin();
  try {
    return code.legal[(state.f[ASK] as number) | 0]?.(state, seat, option, args) ?? false;
  } catch (error) {
    if (error instanceof Fault) return true;
    throw error;
  }
}

/**
 * What one seat knows besides what it sees: which choices of others would not have been legal with some of the cards that
 * they may have held. It is kept along the record, and ends with the next shuffle.
 */
export class Knowledge {
  private kept: Witnessed[] = [];
  /** How often there was chance when it last took note. */
  private chances: number | undefined;
  /** What it may think of the private variables of others. */
  readonly privates: PrivateValues;

  /** How others choose, as far as it tells what they hold. */
  readonly manner: Manner;

  /**
   * @param game whose states keep what seats have seen (`tracking`)
   * @param bot of the sheet, as which others are thought to play; −1 where nothing is thought of that
   */
  constructor(
    readonly game: Game,
    readonly seat: number,
    private readonly generator: Generator,
    bot = -1,
  ) {
    this.privates = new PrivateValues(game, seat);
    this.manner = new Manner(game, bot, this.privates, quickChance(generator.next()));
  }

  /** The choices that tell something, the earliest first. */
  get witnessed(): readonly Witnessed[] {
    return this.kept;
  }

  /**
   * Takes note of a choice that was carried out.
   * @param before the state in which it was chosen, as it stays: it is copied where it is kept
   */
  note(before: State, after: State, seat: number, answer: Answer): void {
    const hidden = unseenBy(this.game, after, this.seat);
    this.comeTo(before);
    this.chances = after.f[CHANCES];
    // Places of before a shuffle tell nothing of those after it, nor do those of cards that it has lost sight of since.
    if (before.f[CHANCES] !== after.f[CHANCES] || this.hasForgotten(before, hidden)) this.clear();
    else if (seat !== this.seat && isTold(before, after)) {
      if (this.tells(before, hidden, seat, answer)) {
        this.kept.push({ state: before.copy(), seat, answer: { option: answer.option, args: [...answer.args] } });
        if (this.kept.length > MOST_KEPT) this.kept.shift();
      }
      this.manner.note(before, hidden, seat, answer);
    }
    this.privates.note(before, after, seat, answer);
  }

  /** Forgets what a shuffle made void since it last took note: cards are shuffled in pauses, too, which nobody chooses. */
  comeTo(state: State): void {
    if (state.f[CHANCES] !== this.chances) this.clear();
    this.chances = state.f[CHANCES];
  }

  /** Forgets everything: the cards lie otherwise. */
  clear(): void {
    this.kept = [];
    this.manner.clear();
  }

  private hasForgotten(before: State, hidden: readonly number[]): boolean {
    const was = new Set(unseenBy(this.game, before, this.seat));
    return hidden.some((card) => !was.has(card));
  }

  /** Whether a choice would have been illegal with other cards in the place of those that are hidden after it. */
  private tells(before: State, cards: readonly number[], seat: number, answer: Answer): boolean {
    const { game } = this;
    if (cards.length < 2) return false;
    const places = new HiddenPlaces(game, before, cards);
    // Sorted: which cards truly lie there leaves no trace.
    const order = Uint16Array.from(cards).sort();
    const trial = game.copy(before);
    let isTelling = false;
    for (let i = 0; i < PROBES && !isTelling; i++) {
      trial.copyFrom(before);
      shufflePlaces(order, 0, order.length, this.generator);
      places.lay(trial, order);
      this.privates.draw(trial, this.generator);
      const instead = new Map(cards.map((c, k) => [c, order[k] as number]));
      isTelling = !isLegalIn(
        game,
        trial,
        seat,
        answerWith(game, before, answer, (c) => instead.get(c) ?? c),
      );
    }
    game.recycle(trial);
    return isTelling;
  }
}
