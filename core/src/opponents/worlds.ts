import { below, type Generator, shufflePlaces } from '../chance/generator.js';
import { ANSWERED, WAIT, WAIT_EVERY } from '../machine/layout.js';
import type { State } from '../machine/state.js';
import type { Game } from '../rules/game.js';
import { HiddenPlaces, unseenBy } from './hidden.js';
import type { KeptSecrets } from './kept-secrets.js';
import { answerWith, isLegalIn, type Knowledge } from './knowledge.js';
import { wouldChoose } from './manner.js';
import type { PrivateValues } from './private-values.js';
import type { Witnessed } from './witnessed.js';

/** So often two cards change places, at most, until what was chosen would have been legal. */
const MOST_SWAPS = 400;
/** Chance is drawn in so many steps. */
const FINE = 0x7fff_ffff;
/** So many worlds are dealt until one is taken, at most: then it is the one in which the fewest choices surprise. */
const MOST_DEALT = 24;
/** By so much a world is less likely taken for each choice in it that the sheet's bot would not have made. */
const SURPRISE = 0.05;

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
 * legal (a random walk, which mostly ends after a few steps); worlds in which the sheet's bot would not have chosen as
 * others did are seldom taken.
 */
export class Worlds {
  private readonly cards: readonly number[];
  private readonly places: HiddenPlaces;
  private readonly tests: readonly Test[];
  /** Choices that the sheet's bot would make with some cards only. */
  private readonly manners: readonly Test[];
  private readonly bot: number;
  /** For each of the cards the one that lies in its place. */
  private readonly order: Uint16Array;
  private readonly trial: State;

  constructor(
    private readonly game: Game,
    private readonly state: State,
    knowledge: Knowledge,
    private readonly secrets: KeptSecrets | null = null,
  ) {
    knowledge.comeTo(state);
    const { seat, privates } = knowledge;
    this.seat = seat;
    this.privates = privates;
    this.cards = unseenBy(game, state, seat);
    this.places = new HiddenPlaces(game, state, this.cards);
    // Sorted: the true order leaves no trace in what is dealt.
    this.order = Uint16Array.from(this.cards).sort();
    this.trial = state.copy();
    const test = (witnessed: Witnessed): Test => {
      const places = new HiddenPlaces(game, witnessed.state, this.cards);
      const held = places.where.flatMap((pile, i) => (game.rt.owner[pile] === witnessed.seat ? [i] : []));
      return { witnessed, places, held };
    };
    this.tests = knowledge.witnessed.map(test);
    this.manners = knowledge.manner.witnessed.map(test);
    this.bot = knowledge.manner.bot;
  }

  private readonly seat: number;
  private readonly privates: PrivateValues;

  /** Whether there is nothing that the seat does not know. */
  get isOpen(): boolean {
    return this.cards.length < 2;
  }

  /** Lays a world into a state, and gives whether all that others chose would have been legal in it. */
  draw(into: State, generator: Generator): boolean {
    const isConsistent = this.deal(generator);
    into.copyFrom(this.state);
    this.places.lay(into, this.order);
    this.privates.draw(into, generator);
    this.secrets?.draw(into, generator);
    return isConsistent;
  }

  /** Deals until a world is taken: one in which the choices of others are no surprise, or seldom another. */
  private deal(generator: Generator): boolean {
    const { order } = this;
    let [best, fewest, isBestConsistent] = [order, Number.POSITIVE_INFINITY, false];
    for (let i = 0; i < MOST_DEALT; i++) {
      shufflePlaces(order, 0, order.length, generator);
      const isConsistent = this.mend(generator);
      if (this.manners.length === 0) return isConsistent;
      const allowed = Math.floor(Math.log((below(generator, FINE) + 1) / FINE) / Math.log(SURPRISE));
      const surprises = this.surprises(generator, Math.max(allowed, fewest - 1));
      if (surprises <= allowed) return isConsistent;
      if (surprises >= fewest) continue;
      [best, fewest, isBestConsistent] = [order.slice(), surprises, isConsistent];
    }
    order.set(best);
    return isBestConsistent;
  }

  /** How many choices the sheet's bot would not have made in the world as it is dealt; counted until there are more than matter. */
  private surprises(generator: Generator, most: number): number {
    const { game, order, trial, bot } = this;
    let many = 0;
    for (const { witnessed, places } of this.manners) {
      trial.copyFrom(witnessed.state);
      places.lay(trial, order);
      this.privates.draw(trial, generator);
      if (!wouldChoose(game, trial, bot, witnessed, generator) && ++many > most) break;
    }
    return many;
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
