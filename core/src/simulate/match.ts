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
  /** The share of its games in which it won or shared the best score, `1 / n` for a best score shared by `n`. */
  readonly wins: number;
  /** The 95 % interval of that share. */
  readonly winsInterval: readonly [number, number];
}

export interface MatchResult {
  readonly games: number;
  /** Games that were not over after the most choices. */
  readonly endless: number;
  /** By policy, in the order of the first turn. */
  readonly standings: readonly Standing[];
}

const MOST_CHOICES = 4_000;

/**
 * Plays many games between policies. Every deal is played once for every turn of the seats, so that nobody is better
 * off for where it sits or what it is dealt.
 * @throws SetupError where the policies are not as many as a table of the sheet has seats
 */
export function match(
  program: Program,
  { deals, seed, policies, settings, most = MOST_CHOICES }: MatchOptions,
): MatchResult {
  const seats = policies.length;
  if (!program.seats.includes(seats))
    throw new SetupError(`"${program.name}" is not for ${seats} seats: give a policy for each seat of a table.`);
  const simulator = Simulator.of(program, {
    seats: REGULARS.slice(0, seats),
    ...(settings ? { settings } : {}),
    // Whoever thinks knows what its seat has seen.
    tracking: policies.some((policy) => policy.sitDown !== undefined),
  });
  const scores = policies.map(() => new RunningSummary());
  const wins = policies.map(() => 0);
  let games = 0;
  let endless = 0;
  for (let deal = 0; deal < deals; deal++)
    for (let turn = 0; turn < seats; turn++) {
      // The policy that is `i`-th at the first turn sits `turn` seats further on.
      const seatOf = (i: number): number => (i + turn) % seats;
      const turned = policies.map((_, seat) => policies[(seat - turn + seats) % seats] as Policy);
      const { isOver } = simulator.open(seed * 1_000_003 + deal).play({ policies: turned, most });
      if (!isOver) {
        endless++;
        continue;
      }
      games++;
      const end = simulator.scores();
      const best = program.winsLeast ? Math.min(...end) : Math.max(...end);
      const winners = end.filter((score) => score === best).length;
      for (const [i, summary] of scores.entries()) {
        const score = end[seatOf(i)] as number;
        summary.add(score);
        if (score === best) wins[i] = (wins[i] as number) + 1 / winners;
      }
    }
  const standings = policies.map((policy, i): Standing => {
    const won = wins[i] as number;
    return {
      policy,
      scores: (scores[i] as RunningSummary).summary,
      wins: games === 0 ? 0 : won / games,
      winsInterval: shareInterval(won, games),
    };
  });
  return { games, endless, standings };
}
