import type { Setup } from '../machine/setup.js';
import { SetupError } from '../machine/setup.js';
import { REGULARS } from '../program/names.js';
import type { Program } from '../program/types.js';
import type { Policy } from './policy.js';
import { Simulator } from './simulator.js';
import { RunningSummary, type Summary, shareInterval } from './statistics.js';

export interface MatchOptions {
  /** How many deals: each is played once for every turn of the seats. */
  readonly deals: number;
  readonly seed: number;
  /** A policy for each seat of the first turn. */
  readonly policies: readonly Policy[];
  readonly settings?: Setup['settings'];
  /** Most choices of one game; one that goes on longer does not count. 4,000 where nothing is said. */
  readonly most?: number;
}

/** How one policy did. */
export interface Standing {
  readonly policy: Policy;
  /** Its scores, a value for each of its games. */
  readonly scores: Summary;
  /**
   * How far its score was above the mean of all that play another policy (below, where the lowest score wins): a value for
   * each deal, over all turns of the seats, since the games of one deal are alike.
   */
  readonly margin: Summary;
  /** The same by seat: a value for each game in which it sat there. */
  readonly bySeat: readonly Summary[];
  /** The share of its games in which it won or shared the best score, `1 / n` for a best score shared by `n` seats, or sides. */
  readonly wins: number;
  /** The 95 % interval of that share. */
  readonly winsInterval: readonly [number, number];
}

export interface MatchResult {
  readonly deals: number;
  readonly games: number;
  /** Games that were not over after the most choices. */
  readonly endless: number;
  /** By policy, in the order of the first turn. */
  readonly standings: readonly Standing[];
}

const MOST_CHOICES = 4_000;

/** Sums of one policy over a match. */
class Sums {
  readonly scores = new RunningSummary();
  readonly margins = new RunningSummary();
  readonly bySeat: readonly RunningSummary[];
  wins = 0;

  constructor(
    readonly policy: Policy,
    seats: number,
  ) {
    this.bySeat = Array.from({ length: seats }, () => new RunningSummary());
  }

  standing(games: number): Standing {
    return {
      policy: this.policy,
      scores: this.scores.summary,
      margin: this.margins.summary,
      bySeat: this.bySeat.map((sums) => sums.summary),
      wins: games === 0 ? 0 : this.wins / games,
      winsInterval: shareInterval(this.wins, games),
    };
  }
}

/**
 * Plays many games between policies, a deal at a time. Every deal is played once for every turn of the seats, so that
 * nobody is better off for where it sits or what it is dealt.
 */
export class Match {
  private readonly simulator: Simulator;
  private readonly sums: readonly Sums[];
  private deals = 0;
  private games = 0;
  private endless = 0;

  /** @throws SetupError where the policies are not as many as a table of the sheet has seats */
  constructor(
    private readonly program: Program,
    private readonly options: Omit<MatchOptions, 'deals'>,
  ) {
    const { policies, settings } = options;
    const seats = policies.length;
    if (!program.seats.includes(seats))
      throw new SetupError(`"${program.name}" is not for ${seats} seats: give a policy for each seat of a table.`);
    this.simulator = Simulator.of(program, {
      seats: REGULARS.slice(0, seats),
      ...(settings ? { settings } : {}),
      // Whoever thinks knows what its seat has seen.
      tracking: policies.some((policy) => policy.sitDown !== undefined),
    });
    this.sums = policies.map((policy) => new Sums(policy, seats));
  }

  /** Plays the next deal, once for every turn of the seats. */
  playDeal(): void {
    const { policies } = this.options;
    const margins = policies.map(() => new RunningSummary());
    for (let turn = 0; turn < policies.length; turn++) this.playGame(turn, margins);
    this.deals++;
    for (const [i, { summary }] of margins.entries()) if (summary.count > 0) this.sums[i]?.margins.add(summary.mean);
  }

  private playGame(turn: number, margins: readonly RunningSummary[]): void {
    const { policies, seed, most = MOST_CHOICES } = this.options;
    const seats = policies.length;
    // The policy that is `i`-th at the first turn sits `turn` seats further on.
    const turned = policies.map((_, seat) => policies[(seat - turn + seats) % seats] as Policy);
    const { isOver } = this.simulator.open(seed * 1_000_003 + this.deals).play({ policies: turned, most });
    if (!isOver) {
      this.endless++;
      return;
    }
    this.games++;
    const sign = this.program.winsLeast ? -1 : 1;
    const end = this.simulator.scores();
    const best = Math.max(...end.map((score) => sign * score));
    const { teams } = this.program;
    // Partners win together: theirs is one win.
    const winners = new Set(
      end.flatMap((score, seat) => (sign * score === best ? [teams > 0 ? seat % teams : seat] : [])),
    );
    for (const [i, sums] of this.sums.entries()) {
      const seat = (i + turn) % seats;
      const score = end[seat] as number;
      sums.scores.add(score);
      if (sign * score === best) sums.wins += 1 / winners.size;
      const others = end.filter((_, other) => turned[other] !== sums.policy);
      const mean = others.reduce((sum, other) => sum + other, 0) / Math.max(1, others.length);
      const margin = sign * (score - (others.length > 0 ? mean : score));
      margins[i]?.add(margin);
      sums.bySeat[seat]?.add(margin);
    }
  }

  get result(): MatchResult {
    const { deals, games, endless } = this;
    return { deals, games, endless, standings: this.sums.map((sums) => sums.standing(games)) };
  }
}

/**
 * Plays a match of so many deals.
 * @throws SetupError where the policies are not as many as a table of the sheet has seats
 */
export function match(program: Program, { deals, ...options }: MatchOptions): MatchResult {
  const played = new Match(program, options);
  for (let deal = 0; deal < deals; deal++) played.playDeal();
  return played.result;
}
