import { below, type Generator, shufflePlaces } from '../chance/generator.js';
import type { Answer } from '../machine/code.js';
import { Fault } from '../machine/fault.js';
import { isRef } from '../machine/layout.js';
import type { State } from '../machine/state.js';
import { mayKeepSecrets } from '../program/secrets.js';
import type { Type } from '../program/types.js';
import type { Game } from '../rules/game.js';
import { Views } from '../views/views.js';
import { HiddenPlaces, unseenBy } from './hidden.js';
import { answerWith, isLegalIn } from './knowledge.js';

/** So many other games are played along, and so many where something is found to differ in them. */
const FEW = 4;
const MANY = 24;
/** What was known lately is kept for so many steps: a choice may be taken back. */
const MOST_KEPT = 32;

/** Places of a state's numbers and lists that a sheet remembers things in and that nobody is shown. */
interface Remembered {
  readonly numbers: readonly number[];
  readonly refs: readonly number[];
}
/** What stands there. */
interface Values {
  readonly numbers: readonly number[];
  readonly refs: readonly unknown[];
}

/** One step of a game, as it can be carried out with other cards. */
export type Step =
  | { readonly kind: 'opened' }
  | { readonly kind: 'chosen'; readonly before: State; readonly seat: number; readonly answer: Answer }
  | { readonly kind: 'passed'; readonly before: State; readonly how: 'resume' | 'expire' };

const twins = new WeakMap<Game, { readonly game: Game; readonly views: Views; readonly places: Remembered }>();
const isCards = (t: Type): boolean => t === 'card' || t === 'list:card';

/** A quiet game with the very same chance: with other cards in hidden places its shuffles lay these in the same places. */
function twinOf(game: Game): { readonly game: Game; readonly views: Views; readonly places: Remembered } {
  let twin = twins.get(game);
  if (!twin) {
    const quiet = game.twin(game.chance);
    twin = { game: quiet, views: new Views(quiet), places: rememberedIn(game) };
    twins.set(game, twin);
  }
  return twin;
}

function rememberedIn({ program, layout, parts }: Game): Remembered {
  const numbers: number[] = [];
  const refs: number[] = [];
  const note = (t: Type, at: number): void => {
    if (!isCards(t)) (isRef(t) ? refs : numbers).push(at);
  };
  for (const [i, { t = 'int', label, hidden }] of program.vars.entries())
    if (label === null && !hidden)
      for (let k = 0; k < (layout.varCount[i] ?? 0); k++) note(t, (layout.varBase[i] ?? 0) + k);
  for (const [i, t] of parts.slots.numberTypes.entries()) note(t, layout.slotBase + i);
  for (const [i, t] of parts.slots.refTypes.entries()) note(t, layout.refSlotBase + i);
  return { numbers, refs };
}

const valuesIn = (state: State, { numbers, refs }: Remembered): Values => ({
  numbers: numbers.map((at) => state.f[at] as number),
  refs: refs.map((at) => state.refs[at]),
});
const isSame = (a: Values, b: Values): boolean =>
  a.numbers.every((n, i) => n === b.numbers[i]) && JSON.stringify(a.refs) === JSON.stringify(b.refs);

/**
 * What a sheet remembers, in plain variables and across waits, of cards that one seat has not seen. Each step is carried
 * out with other cards in the hidden places, too; where the seat would have seen just the same, what is remembered there is
 * as good as the truth. A world has it from one of those games, and never from the truth.
 */
export class KeptSecrets {
  private samples: readonly Values[] = [];
  /** What was remembered in truth after the last steps, with the samples of it. */
  private readonly history: { readonly truth: Values; readonly samples: readonly Values[] }[] = [];
  private readonly isNeeded: boolean;

  constructor(
    private readonly game: Game,
    private readonly seat: number,
    private readonly generator: Generator,
  ) {
    this.isNeeded = mayKeepSecrets(game.program);
  }

  /** Takes note of a step that led to a state. */
  note(step: Step, after: State): void {
    if (!this.isNeeded) return;
    const { places } = twinOf(this.game);
    const truth = valuesIn(after, places);
    // Whether anything can differ is soon seen; what does is held against all that the seat sees, so that nothing favours the truth.
    const differs =
      this.samples.length > 0 || this.others(step, after, FEW, false).some((values) => !isSame(values, truth));
    const found = differs ? this.others(step, after, MANY, true) : [];
    this.samples = found.some((values) => !isSame(values, truth)) ? found : [];
    this.history.push({ truth, samples: this.samples });
    if (this.history.length > MOST_KEPT) this.history.shift();
  }

  /** The game went back to a state that it stood in before. */
  wentBack(state: State): void {
    if (!this.isNeeded) return;
    const truth = valuesIn(state, twinOf(this.game).places);
    this.samples = this.history.findLast((known) => isSame(known.truth, truth))?.samples ?? this.samples;
  }

  /** Puts what the seat holds possible in the place of what is remembered. */
  draw(into: State, generator: Generator): void {
    const { samples } = this;
    if (samples.length === 0) return;
    const { numbers, refs } = samples[below(generator, samples.length)] as Values;
    const { places } = twinOf(this.game);
    for (const [i, at] of places.numbers.entries()) into.f[at] = numbers[i] as number;
    for (const [i, at] of places.refs.entries()) into.refs[at] = refs[i] as State['refs'][number];
  }

  /** What would be remembered in other games; where it is compared, in those alone that look the same to the seat. */
  private others(step: Step, after: State, many: number, isCompared: boolean): Values[] {
    const { game: twin, views, places } = twinOf(this.game);
    const pending = new Set(
      after.refs
        .slice(this.game.layout.pendingBase, this.game.layout.pendingBase + this.game.layout.seats.length)
        .flat(2),
    );
    const cards = unseenBy(this.game, after, this.seat).filter((card) => !pending.has(card));
    if (cards.length < 2) return [];
    // Sorted: which cards truly lie there leaves no trace.
    const order = Uint16Array.from(cards).sort();
    const looks = (state: State): string | null => {
      try {
        return JSON.stringify(views.snapshot(state).view(this.seat));
      } catch (error) {
        if (error instanceof Fault) return null;
        throw error;
      }
    };
    const seen = isCompared ? looks(after) : null;
    const found: Values[] = [];
    for (let i = 0; i < many; i++) {
      shufflePlaces(order, 0, order.length, this.generator);
      const state = this.played(twin, step, cards, order);
      if (!state) continue;
      if (!isCompared || looks(state) === seen) found.push(valuesIn(state, places));
      twin.recycle(state);
    }
    return found;
  }

  /** The step with other cards; `null` where it could not have been taken so. */
  private played(twin: Game, step: Step, cards: readonly number[], order: Uint16Array): State | null {
    const lay = (state: State): void => {
      new HiddenPlaces(this.game, state, cards).lay(state, order);
      this.draw(state, this.generator);
    };
    try {
      if (step.kind === 'opened')
        return twin.openWith((state) => new HiddenPlaces(this.game, state, cards).lay(state, order));
      const state = twin.copy(step.before);
      lay(state);
      if (step.kind === 'passed') return step.how === 'resume' ? twin.advancePause(state) : twin.advanceExpired(state);
      const instead = new Map(cards.map((card, i) => [card, order[i] as number]));
      const answer = answerWith(this.game, step.before, step.answer, (card) => instead.get(card) ?? card);
      return isLegalIn(twin, state, step.seat, answer) ? twin.advance(state, step.seat, answer) : null;
    } catch (error) {
      if (error instanceof Fault) return null;
      throw error;
    }
  }
}
