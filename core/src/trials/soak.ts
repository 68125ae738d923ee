import { below, type Generator } from '../chance/generator.js';
import { quickChance } from '../chance/quick.js';
import type { Answer, Arg } from '../machine/code.js';
import { Fault } from '../machine/fault.js';
import { ASK, OPENED } from '../machine/layout.js';
import { OPEN, WATCHER } from '../machine/runtime/visibility.js';
import type { State } from '../machine/state.js';
import { REGULARS } from '../program/names.js';
import { lineOf, type Option, type Program } from '../program/types.js';
import { meaningOf } from '../rules/digest.js';
import type { Game } from '../rules/game.js';
import { openly } from '../rules/handles.js';
import { isRefusal, judge, type WireChoice } from '../rules/judge.js';
import { writeArg } from '../rules/values.js';
import { type Policy, RandomPolicy, ScriptedPolicy } from '../simulate/policy.js';
import { Simulator } from '../simulate/simulator.js';
import { RunningSummary } from '../simulate/statistics.js';
import { Views } from '../views/views.js';

/** How long a game may go on before it counts as one that does not end, in choices and pauses. */
const MOST_CHOICES = 4_000;
/** One choice in so many may be an aside, such as giving up: else random games would end before they began. */
const ASIDES = 60;
/** After one step in so many, at random, all views are made, and wrong choices are tried. */
const LOOK_EVERY = 50;

/** A game of a soak that went wrong, and how to see it again. */
export interface SoakFailure {
  readonly game: number;
  readonly seats: number;
  /** Choices that were made before it. */
  readonly choice: number;
  readonly what: string;
  /** The sheet's line, where one is to blame. */
  readonly line: number | null;
  /** What leads to just before it: the seed of its quick chance, and the choices; */
  readonly way: { readonly seed: number; readonly choices: readonly SoakedChoice[] };
}

/** A choice of a game that was soaked; its seat is −1 where time was up. */
export interface SoakedChoice {
  readonly seat: number;
  readonly choice: WireChoice | null;
}

/** What many random games of a sheet have shown. */
export interface SoakReport {
  readonly games: number;
  readonly choices: number;
  readonly refused: number;
  readonly failures: readonly SoakFailure[];
  /** Games that were still going on after 4,000 choices. */
  readonly endless: readonly number[];
  readonly longest: number;
  /** Final scores over all games and seats; `best` is the highest one, and how many games somebody reached it in. */
  readonly scores: { readonly mean: number; readonly least: number; readonly best: number; readonly games: number };
  /** How often each option was taken. */
  readonly taken: Readonly<Record<string, number>>;
  /** The step that took most operations, and the sheet's line of the ask that it answered. */
  readonly heaviest: { readonly operations: number; readonly line: number };
}

/** What a soak adds up. */
class Tally {
  choices = 0;
  refused = 0;
  longest = 0;
  readonly failures: SoakFailure[] = [];
  readonly endless: number[] = [];
  private readonly times = new Map<string, number>();
  heaviest = { operations: 0, line: 0 };
  private readonly all = new RunningSummary();
  private best = Number.NEGATIVE_INFINITY;
  private games = 0;

  constructor(program: Program) {
    for (const ask of program.asks) for (const option of ask.options) this.times.set(option.name, 0);
  }

  took(option: string): void {
    this.times.set(option, (this.times.get(option) ?? 0) + 1);
  }
  get taken(): SoakReport['taken'] {
    return Object.fromEntries(this.times);
  }

  /** Adds the scores of a game that is over. */
  add(scores: readonly number[]): void {
    const top = Math.max(...scores);
    if (top > this.best) this.games = 0;
    if (top >= this.best) this.games++;
    this.best = Math.max(this.best, top);
    for (const score of scores) this.all.add(score);
  }
  get scores(): SoakReport['scores'] {
    const { count, mean, least } = this.all.summary;
    return count === 0 ? { mean: 0, least: 0, best: 0, games: 0 } : { mean, least, best: this.best, games: this.games };
  }
}

/** Something that must never be, found while soaking. */
class Wrong extends Error {}

/**
 * Plays random games of a sheet: random legal choices, and random wrong ones, which must be refused with a
 * reason. After every choice all cards must be there; views of all viewers are made again and again; and each
 * game's choices, in the form of a record, must lead to the same state again in a quiet game.
 * @param options.settings as a table gives them
 * @param options.bot a scripted bot that plays instead of chance
 * @param options.seats always so many seats; without it the counts take turns
 * @param options.from the first game's number: game 17 of a seed is the same game in any soak
 * @throws SetupError where the settings do not fit the sheet
 */
export function soak(
  program: Program,
  options: {
    readonly games: number;
    readonly seed: number;
    readonly from?: number;
    readonly bot?: number;
    readonly seats?: number;
    readonly settings?: Readonly<Record<string, number | boolean | string>>;
  },
): SoakReport {
  const tally = new Tally(program);
  const tables = new Map<number, SoakedTable>();
  const first = options.from ?? 0;
  const bot = options.bot === undefined ? undefined : program.bots[options.bot]?.name;
  const policy = bot === undefined ? new RandomPolicy(ASIDES) : new ScriptedPolicy({ program }, bot);
  for (let i = first; i < first + options.games; i++) {
    const seats = options.seats ?? (program.seats[i % program.seats.length] as number);
    const table = tables.get(seats) ?? new SoakedTable(program, seats, options.settings ?? {}, policy);
    tables.set(seats, table);
    table.play(i, options.seed * 1_000_003 + i, tally);
  }
  const { choices, refused, failures, endless, longest, taken, heaviest, scores } = tally;
  return { games: options.games, choices, refused, failures, endless, longest, scores, taken, heaviest };
}

/** What is counted is run, so that a fault in it is found, and is not kept. */
const unheard = (): void => {};

/** A game that is compiled once and played with many seeds, and its quiet twin, which replays its records. */
class SoakedTable {
  private readonly simulator: Simulator;
  private readonly quiet: Simulator;
  private readonly views: Views;
  private readonly policies: readonly Policy[];

  constructor(
    program: Program,
    seats: number,
    settings: Readonly<Record<string, number | boolean | string>>,
    policy: Policy,
  ) {
    this.simulator = Simulator.of(program, {
      seats: REGULARS.slice(0, seats),
      settings,
      quiet: false,
      counting: unheard,
    });
    this.quiet = Simulator.twinOf(this.simulator.game);
    this.views = new Views(this.simulator.game);
    this.policies = new Array<Policy>(seats).fill(policy);
  }

  /** Plays one game, and notes what comes of it. */
  play(number: number, seed: number, tally: Tally): void {
    const { game } = this.simulator;
    const wrongs = quickChance(seed).stream('wrong choices', 0);
    const record: SoakedChoice[] = [];
    let steps = 0;
    let place = 0;
    try {
      const { isOver } = this.simulator.open(seed).play({
        policies: this.policies,
        most: MOST_CHOICES,
        order: 'any',
        before: (state) => {
          place = game.isPaused(state) ? 0 : (game.program.asks[state.f[ASK] as number]?.at ?? 0);
          if (steps === 0 || below(wrongs, LOOK_EVERY) === 0) this.look(state, wrongs, tally);
        },
        choosing: (state, seat, answer) => {
          const option = game.program.asks[state.f[ASK] as number]?.options[answer.option];
          if (option) tally.took(option.name);
          tally.choices++;
          record.push({ seat, choice: wireOf(game, state, answer) });
        },
        expiring: () => record.push({ seat: -1, choice: null }),
        after: (state) => {
          steps++;
          const operations = game.code.spent();
          if (operations > tally.heaviest.operations) tally.heaviest = { operations, line: lineOf(place) };
          checkCards(game, state);
        },
      });
      const { state } = this.simulator;
      this.viewAll(state);
      if (isOver) tally.add(game.scores(state));
      else tally.endless.push(number);
      replayed(this.quiet.open(seed), meaningOf(game, state), isOver, record, steps);
    } catch (error) {
      if (!(error instanceof Fault || error instanceof Wrong)) throw error;
      const line = error instanceof Fault ? error.line : lineOf(place) || null;
      tally.failures.push({
        game: number,
        seats: this.policies.length,
        choice: steps,
        what: error.message,
        line,
        way: { seed, choices: record },
      });
    }
    tally.longest = Math.max(tally.longest, steps);
  }

  /** Makes the views of all seats, of those who watch and the open one. */
  private viewAll(state: State): void {
    const snapshot = this.views.snapshot(state);
    for (const viewer of [...this.simulator.game.rt.seats, WATCHER, OPEN]) snapshot.view(viewer);
  }

  /** Makes all views, and tries choices that must be refused. */
  private look(state: State, generator: Generator, tally: Tally): void {
    const { game } = this.simulator;
    this.viewAll(state);
    const asked = game.asked(state);
    const ask = state.f[OPENED] as number;
    const seat = asked[0];
    const idle = game.rt.seats.find((other) => !asked.includes(other));
    const mustRefuse = (who: number, option: string, args: Record<string, unknown>, at = ask): void => {
      const judged = judge(game, state, who, { ask: at, option, args });
      if (!isRefusal(judged)) throw new Wrong(`A wrong choice was taken: ${option} ${JSON.stringify(args)}.`);
      if (judged.reason.trim() === '') throw new Wrong(`A choice was refused without a reason: ${option}.`);
      tally.refused++;
    };
    if (idle !== undefined) mustRefuse(idle, anyOption(game, generator), {});
    if (seat === undefined) return;
    mustRefuse(seat, 'noSuchOption', {});
    mustRefuse(seat, anyOption(game, generator), {}, ask + 1);
    const declared = game.program.asks[state.f[ASK] as number]?.options ?? [];
    for (const option of declared) {
      mustRefuse(seat, option.name, { noSuchValue: 1 });
      if (option.params.length > 0) mustRefuse(seat, option.name, {});
      for (const param of option.params) {
        const wrong = param.t === 'int' ? -987_654_321 : `nowhere/9#${1 + below(generator, 9)}`;
        mustRefuse(
          seat,
          option.name,
          Object.fromEntries(option.params.map((p) => [p.name, p === param ? wrong : null])),
        );
      }
    }
  }
}

function wireOf(game: Game, state: State, answer: Answer): WireChoice {
  const option = game.program.asks[state.f[ASK] as number]?.options[answer.option] as Option;
  const args = option.params.map((param, i) => [
    param.name,
    writeArg(game, openly(game, state), param.t, answer.args[i] as Arg),
  ]);
  return { ask: state.f[OPENED] as number, option: option.name, args: Object.fromEntries(args) };
}

/** Plays a record again from the start, and insists that it ends in the same state where the game was over. */
function replayed(
  simulator: Simulator,
  end: string,
  isOver: boolean,
  record: readonly SoakedChoice[],
  steps: number,
): void {
  let at = 0;
  const recorded: Policy = {
    name: 'recorded',
    choose: (rules, state, seat) => {
      const judged = judge(
        rules,
        state,
        seat,
        (record[at++] as SoakedChoice).choice as WireChoice,
        openly(rules, state),
      );
      if (!isRefusal(judged)) return judged;
      throw new Wrong(`Played again from its record, choice ${at} is refused: ${judged.reason}`);
    },
  };
  const order = (): number => {
    const seat = record[at]?.seat ?? 0;
    if (seat < 0) at++;
    return seat;
  };
  const policies = simulator.game.layout.seats.map(() => recorded);
  simulator.play({ policies, most: steps, order });
  if (isOver && meaningOf(simulator.game, simulator.state) !== end)
    throw new Wrong('Played again from its record, the game ends in another state.');
}

function anyOption(game: Game, generator: Generator): string {
  const names = game.program.asks.flatMap((ask) => ask.options.map((option) => option.name));
  return names[below(generator, names.length)] ?? 'none';
}

/** Insists that every card is in exactly one pile, where the books say. */
function checkCards(game: Game, state: State): void {
  const seen = new Uint8Array(game.layout.faces.length);
  let count = 0;
  for (let p = 0; p < game.layout.piles.length; p++) {
    const from = state.start[p] as number;
    for (let i = 0; i < (state.len[p] as number); i++) {
      const c = state.cards[from + i] as number;
      if (seen[c] !== 0 || state.where[c] !== p)
        throw new Wrong(`A card is in two places: ${openly(game, state).handleOf(c)}.`);
      seen[c] = 1;
      count++;
    }
  }
  if (count !== seen.length) throw new Wrong(`${seen.length - count} cards are gone.`);
}
