import { below, type Generator, shufflePlaces } from '../chance/generator.js';
import { ANSWERED, WAIT, WAIT_EVERY } from '../machine/layout.js';
import type { State } from '../machine/state.js';
import type { Game } from '../rules/game.js';
import { HiddenPlaces, unseenBy } from './hidden.js';
import { answerWith, isLegalIn, type Knowledge, type Witnessed } from './knowledge.js';
import type { PrivateValues } from './private-values.js';

/** So often two cards change places, at most, until what was chosen would have been legal. */
const MOST_SWAPS = 400;

/** A choice of the past, and where the cards that are hidden now lay then. */
interface Test {
  readonly witnessed: Witnessed;
  readonly places: HiddenPlaces;
  /** Which of the hidden cards lay before the seat that chose. */
  readonly held: readonly number[];
}

/**
 * The worlds that a seat holds possible: states that look the same to it, with the cards that it does not know dealt
 * anew. Where choices of others tell something, two cards at a time change places until those choices would have been
 * legal (a random walk, which mostly ends after a few steps).
 */
export class Worlds {
  private readonly cards: readonly number[];
  private readonly places: HiddenPlaces;
  private readonly tests: readonly Test[];
  /** For each of the cards the one that lies in its place. */
  private readonly order: Uint16Array;
  private readonly trial: State;

  constructor(
    private readonly game: Game,
    private readonly state: State,
    knowledge: Knowledge,
  ) {
    const { seat, privates } = knowledge;
    this.seat = seat;
    this.privates = privates;
    this.cards = unseenBy(game, state, seat);
    this.places = new HiddenPlaces(game, state, this.cards);
    // Sorted: the true order leaves no trace in what is dealt.
    this.order = Uint16Array.from(this.cards).sort();
    this.trial = state.copy();
    this.tests = knowledge.witnessed.map((witnessed): Test => {
      const places = new HiddenPlaces(game, witnessed.state, this.cards);
      const held = places.where.flatMap((pile, i) => (game.rt.owner[pile] === witnessed.seat ? [i] : []));
      return { witnessed, places, held };
    });
  }

  private readonly seat: number;
  private readonly privates: PrivateValues;

  /** Whether there is nothing that the seat does not know. */
  get isOpen(): boolean {
    return this.cards.length < 2;
  }

  /** Lays a world into a state, and gives whether all that others chose would have been legal in it. */
  draw(into: State, generator: Generator): boolean {
    const { order } = this;
    shufflePlaces(order, 0, order.length, generator);
    const isConsistent = this.mend(generator);
    into.copyFrom(this.state);
    this.places.lay(into, order);
    this.privates.draw(into, generator);
    return isConsistent;
  }

  /** Exchanges cards until no choice of the past is contradicted, or it takes too long. */
  private mend(generator: Generator): boolean {
    const { order, tests } = this;
    if (tests.length === 0) return true;
    let broken = this.broken(generator);
    for (let i = 0; i < MOST_SWAPS && broken.length > 0; i++) {
      const { held } = broken[below(generator, broken.length)] as Test;
      if (held.length === 0) return false;
      const a = held[below(generator, held.length)] as number;
      const b = below(generator, order.length);
      this.swap(a, b);
      const then = this.broken(generator);
      if (then.length > broken.length) this.swap(a, b);
      else broken = then;
    }
    return broken.length === 0;
  }

  private swap(a: number, b: number): void {
    const { order } = this;
    const held = order[a] as number;
    order[a] = order[b] as number;
    order[b] = held;
  }

  private broken(generator: Generator): Test[] {
    return this.tests.filter((test) => !this.holds(test, generator));
  }

  private holds({ witnessed, places }: Test, generator: Generator): boolean {
    const { game, cards, order, trial } = this;
    trial.copyFrom(witnessed.state);
    places.lay(trial, order);
    this.privates.draw(trial, generator);
    const instead = (card: number): number => {
      const i = cards.indexOf(card);
      return i < 0 ? card : (order[i] as number);
    };
    return isLegalIn(game, trial, witnessed.seat, answerWith(game, witnessed.state, witnessed.answer, instead));
  }

  /** Lets others answer anew what they answered to an ask of all: that is hidden until all are in. */
  withoutAnswers(state: State): void {
    if (state.f[WAIT] !== WAIT_EVERY) return;
    const { pendingBase } = this.game.layout;
    for (const other of this.game.rt.seats) {
      const given = state.refs[pendingBase + other] as readonly number[] | null;
      // A seat that could choose nothing is known to all.
      if (other === this.seat || given === null || given[0] === -1) continue;
      state.refs[pendingBase + other] = null;
      state.f[ANSWERED] = (state.f[ANSWERED] as number) & ~(1 << other);
    }
  }
}
