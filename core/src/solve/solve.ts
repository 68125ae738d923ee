import type { Node, Tree } from './tree.js';

/** How often each choice is made, by set of what a seat cannot tell apart. */
export type Strategy = readonly (readonly number[])[];

/** How a solution stands. */
export interface Standing {
  readonly passes: number;
  /** The expected score of each seat, if all play the strategy. */
  readonly values: readonly number[];
  /** What a perfect opponent would gain against it, on average over the seats. */
  readonly exploitability: number;
}

/** What a seat gets at an end: its score beside the mean of the others', halved so that two seats' sum to nothing. */
function utility(scores: readonly number[], seat: number): number {
  if (scores.length === 1) return scores[0] ?? 0;
  const [a = 0, b = 0] = scores;
  return (seat === 0 ? a - b : b - a) / 2;
}

/**
 * How often the other seat's hand slips to any of its choices (the trembling hand, Selten 1975): so little that no place which it
 * means to reach feels it, and enough to tell how likely one of those is beside another to which only mistakes lead.
 */
const SLIP = 1e-6;
const slipping = (share: number, choices: number): number => share * (1 - SLIP) + SLIP / choices;

/** A place to which the other seat goes less often is learnt as if it went there so often: the first passes are soon forgotten. */
const SELDOM = 0.01;
/** How much a pass counts in averages: the first, at random, not at all. */
const weightOf = (pass: number): number => (pass - 1) ** 2;
/** A place that a seat's own choices lead to less often is hardly ever reached. */
const HARDLY = 0.001;

/**
 * Solves a tree of one seat, or of two whose gains are each other's losses, by regret matching with floors
 * (CFR+, Tammelin 2014; averages weigh a pass by the square of its number, Brown and Sandholm 2019): passes over
 * the whole tree, the seats in turn. No part of it is left out because a seat does not go there at present: what is averaged
 * over some passes alone need not converge.
 */
export class Solver {
  private readonly regrets: Float64Array[];
  private readonly sums: Float64Array[];
  /** What each choice would have gained in the pass under way, and how often its place was reached: with hands, and by chance alone. */
  private readonly gains: Float64Array[];
  private readonly reached: Float64Array;
  private readonly dealt: Float64Array;
  private passes = 0;

  constructor(private readonly tree: Tree) {
    if (tree.seats.length > 2) throw new RangeError('only games of one or two seats are solved');
    this.regrets = tree.infos.map(({ choices }) => new Float64Array(choices.length));
    this.sums = tree.infos.map(({ choices }) => new Float64Array(choices.length));
    this.gains = tree.infos.map(({ choices }) => new Float64Array(choices.length));
    this.reached = new Float64Array(tree.infos.length);
    this.dealt = new Float64Array(tree.infos.length);
  }

  /** So many more passes. */
  run(passes: number): void {
    for (let i = 0; i < passes; i++) {
      this.passes++;
      for (let seat = 0; seat < this.tree.seats.length; seat++) {
        const now = this.regrets.map(matched);
        this.pass(this.tree.root, seat, 1, 1, 1, now);
        this.learn();
      }
    }
  }

  /** Adds what was gained to regrets. A place to which the other seat seldom goes counts as if it went there now and then. */
  private learn(): void {
    for (const [info, gained] of this.gains.entries()) {
      // Nothing was gained where it was not dealt: places of the other seat.
      const share = (this.reached[info] as number) / ((this.dealt[info] as number) || 1);
      const scale = share > 0 && share < SELDOM ? SELDOM / share : 1;
      const regret = this.regrets[info] as Float64Array;
      for (let a = 0; a < gained.length; a++)
        regret[a] = Math.max(0, (regret[a] as number) + scale * (gained[a] as number));
      gained.fill(0);
    }
    this.reached.fill(0);
    this.dealt.fill(0);
  }

  /**
   * @param own the seat's share in reaching the node @param chance that of chance @param other that of the other seat, whose hand
   * may slip
   */
  private pass(
    node: Node,
    seat: number,
    own: number,
    chance: number,
    other: number,
    now: readonly Float64Array[],
  ): number {
    if (node.kind === 'end') return utility(node.scores, seat);
    const { next } = node;
    const isOwn = node.kind === 'decision' && this.tree.infos[node.info]?.seat === seat;
    const weights = node.kind === 'chance' ? node.probabilities : (now[node.info] as Float64Array);
    let value = 0;
    if (!isOwn) {
      const isChance = node.kind === 'chance';
      for (let i = 0; i < next.length; i++) {
        const p = weights[i] as number;
        const [dealt, gone] = isChance ? [chance * p, other] : [chance, other * slipping(p, next.length)];
        value += p * this.pass(next[i] as Node, seat, own, dealt, gone, now);
      }
      return value;
    }
    const values = new Float64Array(next.length);
    for (let a = 0; a < next.length; a++) {
      const v = this.pass(next[a] as Node, seat, own * (weights[a] as number), chance, other, now);
      values[a] = v;
      value += v * (weights[a] as number);
    }
    const reach = chance * other;
    this.dealt[node.info] = (this.dealt[node.info] as number) + chance;
    this.reached[node.info] = (this.reached[node.info] as number) + reach;
    const gained = this.gains[node.info] as Float64Array;
    const sum = this.sums[node.info] as Float64Array;
    for (let a = 0; a < values.length; a++) {
      gained[a] = (gained[a] as number) + reach * ((values[a] as number) - value);
      sum[a] = (sum[a] as number) + weightOf(this.passes) * own * (weights[a] as number);
    }
    return value;
  }

  /**
   * The average over all passes, which is what converges; where the seat's own choices hardly ever led to, its latest one: an
   * average would be that of the first passes.
   */
  get strategy(): Strategy {
    let all = 0;
    for (let pass = 1; pass <= this.passes; pass++) all += weightOf(pass);
    return this.sums.map((sum, info) => {
      const reached = sum.reduce((total, share) => total + share, 0) / all;
      return [...(reached > HARDLY ? normal(sum) : matched(this.regrets[info] as Float64Array))];
    });
  }

  get standing(): Standing {
    const { strategy } = this;
    return {
      passes: this.passes,
      values: valuesOf(this.tree, strategy),
      exploitability: exploitabilityOf(this.tree, strategy),
    };
  }
}

/** Shares in proportion to what is above zero; even where nothing is. */
function normal(weights: Float64Array): Float64Array {
  const all = weights.reduce((sum, w) => sum + w, 0);
  return weights.map((w) => (all > 0 ? w / all : 1 / weights.length));
}
const matched = (regret: Float64Array): Float64Array => normal(regret.map((r) => Math.max(0, r)));

/** The expected score of each seat, if all play a strategy. */
export function valuesOf(tree: Tree, strategy: Strategy): number[] {
  const walk = (node: Node): readonly number[] => {
    if (node.kind === 'end') return node.scores;
    const weights = node.kind === 'chance' ? node.probabilities : (strategy[node.info] as readonly number[]);
    const sum = tree.seats.map(() => 0);
    for (const [i, next] of node.next.entries()) {
      const p = weights[i] as number;
      if (p > 0) for (const [seat, value] of walk(next).entries()) sum[seat] = (sum[seat] as number) + p * value;
    }
    return sum;
  };
  return [...walk(tree.root)];
}

/** What a seat gets that knows the strategy of all others and answers it as well as can be. */
export function bestResponse(tree: Tree, strategy: Strategy, seat: number): number {
  const places: { node: Extract<Node, { kind: 'decision' }>; reach: number }[][] = tree.infos.map(() => []);
  const reach = (node: Node, p: number): void => {
    if (node.kind === 'end') return;
    const isOwn = node.kind === 'decision' && tree.infos[node.info]?.seat === seat;
    if (node.kind === 'decision' && isOwn) places[node.info]?.push({ node, reach: p });
    const weights = node.kind === 'chance' ? node.probabilities : (strategy[node.info] as readonly number[]);
    for (const [i, next] of node.next.entries()) reach(next, isOwn ? p : p * (weights[i] as number));
  };
  reach(tree.root, 1);
  const chosen = new Map<number, number>();
  const choice = (info: number): number => {
    const known = chosen.get(info);
    if (known !== undefined) return known;
    const values = (tree.infos[info]?.choices ?? []).map((_, a) =>
      (places[info] ?? []).reduce((sum, place) => sum + place.reach * value(place.node.next[a] as Node), 0),
    );
    const best = values.indexOf(Math.max(...values));
    chosen.set(info, best);
    return best;
  };
  const value = (node: Node): number => {
    if (node.kind === 'end') return utility(node.scores, seat);
    if (node.kind === 'decision' && tree.infos[node.info]?.seat === seat)
      return value(node.next[choice(node.info)] as Node);
    const weights = node.kind === 'chance' ? node.probabilities : (strategy[node.info] as readonly number[]);
    return node.next.reduce((sum, next, i) => sum + (weights[i] as number) * value(next), 0);
  };
  return value(tree.root);
}

/** What perfect opponents would gain against a strategy, on average over the seats; for one seat, what it leaves lying. */
export function exploitabilityOf(tree: Tree, strategy: Strategy): number {
  const seats = tree.seats.map((_, seat) => seat);
  const gained = seats.reduce((sum, seat) => sum + bestResponse(tree, strategy, seat), 0);
  const now = tree.seats.length === 1 ? (valuesOf(tree, strategy)[0] ?? 0) : 0;
  return (gained - now) / seats.length;
}
