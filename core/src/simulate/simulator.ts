import { below, type Chance, type Generator, type KeyedChance } from '../chance/generator.js';
import { quickChance } from '../chance/quick.js';
import type { Answer } from '../machine/code.js';
import {
  ANSWERED,
  ASK,
  ASKED,
  ASKED_SEAT,
  CHAPTERS,
  WAIT,
  WAIT_ANY,
  WAIT_ASK,
  WAIT_EVERY,
  WAIT_OVER,
  WAIT_PAUSE,
} from '../machine/layout.js';
import type { State } from '../machine/state.js';
import type { Program } from '../program/types.js';
import { clockAnswer, noClockChoice } from '../rules/bots.js';
import { Game, type Opening } from '../rules/game.js';
import { nothingFound, type Policy, type SeatedPolicy } from './policy.js';

/** Chance whose seed can be set anew, so that one game can be played with many seeds. */
class Reseeded implements Chance {
  readonly name = 'quick';
  private current: Chance = quickChance(0);

  get keyed(): KeyedChance | undefined {
    return this.current.keyed;
  }

  stream(purpose: string, count: number): Generator {
    return this.current.stream(purpose, count);
  }
  use(chance: number | Chance): Generator {
    this.current = typeof chance === 'number' ? quickChance(chance) : chance;
    return this.current.stream('player', 0);
  }
}

/** How a game is played on. */
export interface PlayOptions {
  /** A policy for each seat. */
  readonly policies: readonly Policy[];
  /** Most choices and ends of pauses; `Infinity` where nothing is said. */
  readonly most?: number;
  /** Where it stops: at the end, or as soon as another chapter has begun. */
  readonly until?: 'end' | 'chapter';
  /**
   * Which of several seats that are asked at once answers next: the first, any by chance, or the one that is given;
   * −1 where time is up. Where the first answer counts, chance says who that is, unless the seat is given.
   */
  readonly order?: 'first' | 'any' | ((asked: readonly number[]) => number);
  readonly before?: (state: State) => void;
  /** What is chosen, before it is carried out. */
  readonly choosing?: (state: State, seat: number, answer: Answer) => void;
  /** Called before the time of an ask of anybody is up. */
  readonly expiring?: () => void;
  readonly after?: (state: State) => void;
}

type Order = NonNullable<PlayOptions['order']>;

/** Who answers next and how; nobody does where time is up. */
interface Chosen {
  readonly seat: number;
  readonly answer: Answer | null;
}

/** What came of playing on. */
export interface PlayResult {
  /** Choices and ends of pauses. */
  readonly steps: number;
  readonly choices: number;
  /** Whether the game is over. */
  readonly isOver: boolean;
}

/**
 * Plays a game without a table: no events, no undo, no record. It owns one state at a time, and is deterministic for
 * a seed.
 */
export class Simulator {
  private current: State | null = null;
  private generator: Generator;
  /** Draws who is first where anybody may answer. */
  private racing: Generator;

  private constructor(
    readonly game: Game,
    private readonly chance: Reseeded,
  ) {
    this.generator = chance.use(0);
    this.racing = chance.stream('race', 0);
  }

  /**
   * A simulator of its own.
   * @param opening seats, settings, promised cards; it is quiet unless that is said otherwise
   * @throws SetupError where these do not fit the sheet
   */
  static of(program: Program, opening: Omit<Opening, 'chance'>): Simulator {
    const chance = new Reseeded();
    return new Simulator(new Game(program, { quiet: true, ...opening, chance }), chance);
  }

  /** A simulator that takes the states of a game, such as a table's. */
  static twinOf(game: Game): Simulator {
    const chance = new Reseeded();
    return new Simulator(game.twin(chance), chance);
  }

  /** The state in which the game stands. It changes with each step. */
  get state(): State {
    if (!this.current) throw new Error('This simulator stands nowhere yet: open a game, or take a state.');
    return this.current;
  }

  /**
   * Begins a new game.
   * @param chance a seed (a whole number), from which all chance of the game and of its policies comes; or that chance
   * @throws SetupError, Fault
   */
  open(chance: number | Chance): this {
    this.begin(chance);
    this.stand(this.game.open());
    return this;
  }

  /**
   * Stands where a state of another game stands, with chance of its own from there on.
   * @throws StateFormError where that game is no twin of this one
   */
  take(state: State, seed: number): this {
    this.begin(seed);
    this.stand(this.game.copy(state));
    return this;
  }

  private begin(chance: number | Chance): void {
    this.generator = this.chance.use(chance);
    this.racing = this.chance.stream('race', 0);
  }

  private stand(state: State): void {
    if (this.current) this.game.recycle(this.current);
    this.current = state;
  }

  /** Scores as they stand, by seat. */
  scores(): number[] {
    return this.game.scores(this.state);
  }

  /** The seat that answers next, or −1 where nobody is asked. */
  private next(order: Order): number {
    const { f } = this.state;
    if (f[WAIT] === WAIT_ASK) return (f[ASKED_SEAT] as number) | 0;
    if (f[WAIT] !== WAIT_EVERY) return -1;
    const open = (f[ASKED] as number) & ~(f[ANSWERED] as number);
    if (order === 'first') return 31 - Math.clz32(open & -open);
    const asked = this.game.asked(this.state);
    return order === 'any' ? (asked[below(this.generator, asked.length)] as number) : order(asked);
  }

  /** What a seat draws from for its next choice. */
  private generatorOf(seat: number): Generator {
    return this.chance.keyed?.player(seat, (this.state.f[CHAPTERS] as number) | 0) ?? this.generator;
  }

  private answered(policies: readonly Policy[], order: Order): Chosen {
    const { game, state } = this;
    const seat = this.next(order);
    const policy = policies[seat] as Policy;
    const answer = policy.choose(game, state, seat, this.generatorOf(seat));
    if (!answer) throw nothingFound(game, state, seat, policy);
    return { seat, answer };
  }

  /**
   * The first answer to an ask of anybody: the seats are asked in an order that is drawn, and those whose policy finds
   * nothing stay silent. Where all do, the clock plays; no answer then means that its `stuck` part runs.
   */
  private raced(policies: readonly Policy[], order: Order): Chosen {
    const { game, state } = this;
    const left = game.asked(state);
    if (typeof order === 'function') {
      const seat = order(left);
      return { seat, answer: policies[seat]?.choose(game, state, seat, this.generatorOf(seat)) ?? null };
    }
    for (let many = left.length; many > 0; many--) {
      const [seat = 0] = left.splice(below(this.racing, many), 1);
      const answer = policies[seat]?.choose(game, state, seat, this.generatorOf(seat));
      if (answer) return { seat, answer };
    }
    if (game.program.asks[state.f[ASK] as number]?.clock?.otherwise === 'stuck') return { seat: -1, answer: null };
    for (const seat of game.asked(state)) {
      const answer = clockAnswer(game, state, seat, this.generator);
      if (answer) return { seat, answer };
    }
    throw noClockChoice(game, state, 'any seat');
  }

  /**
   * Plays on to the end, to the next chapter, or for so many steps.
   * @throws Fault where the sheet makes one, or a policy finds no choice; the state is lost then
   */
  play({
    policies: asked,
    most = Number.POSITIVE_INFINITY,
    until = 'end',
    order = 'first',
    ...watch
  }: PlayOptions): PlayResult {
    const { game, state } = this;
    const { f } = state;
    const { before, choosing, expiring, after } = watch;
    const policies = asked.map((policy, seat) => policy.sitDown?.(game, seat) ?? policy);
    const witnesses = policies.filter((policy): policy is SeatedPolicy => 'witness' in policy);
    const last = witnesses.length > 0 ? state.copy() : null;
    const chapter = f[CHAPTERS];
    let choices = 0;
    let steps = 0;
    for (; steps < most && f[WAIT] !== WAIT_OVER && (until === 'end' || f[CHAPTERS] === chapter); steps++) {
      before?.(state);
      if (f[WAIT] === WAIT_PAUSE) game.advancePause(state);
      else {
        const { seat, answer } = f[WAIT] === WAIT_ANY ? this.raced(policies, order) : this.answered(policies, order);
        if (answer) {
          choosing?.(state, seat, answer);
          last?.copyFrom(state);
          game.advance(state, seat, answer);
          if (last) for (const policy of witnesses) policy.witness(last, state, seat, answer);
          choices++;
        } else {
          expiring?.();
          game.advanceExpired(state);
        }
      }
      after?.(state);
    }
    return { steps, choices, isOver: f[WAIT] === WAIT_OVER };
  }
}
