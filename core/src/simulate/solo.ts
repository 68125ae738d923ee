import { REGULARS } from '../program/names.js';
import type { Program } from '../program/types.js';
import type { MatchOptions, MatchResult, Standing } from './match.js';
import { Simulator } from './simulator.js';
import { RunningSummary, shareInterval } from './statistics.js';

const MOST_CHOICES = 4_000;

/**
 * Two policies at a game of one seat: each plays every deal, and their scores are held against each other. It gives what a
 * match gives; a game that one of them does not end counts with the score that it had reached.
 */
export class SoloMatch {
  private readonly simulator: Simulator;
  private readonly scores = [new RunningSummary(), new RunningSummary()] as const;
  private readonly margin = new RunningSummary();
  private readonly wins = [0, 0];
  private deals = 0;
  private endless = 0;

  /** @param options with two policies */
  constructor(
    private readonly program: Program,
    private readonly options: Omit<MatchOptions, 'deals'>,
  ) {
    const { policies, settings } = options;
    this.simulator = Simulator.of(program, {
      seats: REGULARS.slice(0, 1),
      ...(settings ? { settings } : {}),
      tracking: policies.some((policy) => policy.sitDown !== undefined),
    });
  }

  /** Lets both play the next deal. */
  playDeal(): void {
    const { policies, seed, most = MOST_CHOICES } = this.options;
    const sign = this.program.winsLeast ? -1 : 1;
    const ends = policies.map((policy, i) => {
      const { isOver } = this.simulator.open(seed * 1_000_003 + this.deals).play({ policies: [policy], most });
      if (!isOver) this.endless++;
      const score = this.simulator.scores()[0] ?? 0;
      this.scores[i as 0 | 1].add(score);
      return sign * score;
    });
    const [first = 0, second = 0] = ends;
    this.deals++;
    this.margin.add(first - second);
    const share = first === second ? 0.5 : first > second ? 1 : 0;
    this.wins[0] = (this.wins[0] ?? 0) + share;
    this.wins[1] = (this.wins[1] ?? 0) + 1 - share;
  }

  get result(): MatchResult {
    const { deals, endless, options } = this;
    const { summary } = this.margin;
    const standings = options.policies.map((policy, i): Standing => {
      const won = this.wins[i] ?? 0;
      const sign = i === 0 ? 1 : -1;
      const [from, to] = summary.interval;
      const margin =
        sign === 1
          ? summary
          : {
              ...summary,
              mean: -summary.mean,
              least: -summary.most,
              most: -summary.least,
              interval: [-to, -from] as const,
            };
      return {
        policy,
        scores: this.scores[i as 0 | 1].summary,
        margin,
        bySeat: [margin],
        wins: deals === 0 ? 0 : won / deals,
        winsInterval: shareInterval(won, deals),
      };
    });
    return { deals, games: 2 * deals, endless, standings };
  }
}
