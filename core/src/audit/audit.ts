import { chachaChance, seedFrom } from '../chance/chacha.js';
import { type Generator, shufflePlaces } from '../chance/generator.js';
import { holm } from '../statistics/distributions.js';
import { PermutationCounts, RepeatCounter } from './tallied.js';
import { FAIR, repeatTest, TEST_WORDS, testsOf } from './tests.js';
import { type Judged, likelyCause, type Verdict, verdictOf } from './verdict.js';

/** The fewest and the most cards that are audited. */
export const LEAST_CARDS = 2;
export const MOST_CARDS = 2_000;

/** What so many shuffles could have shown with a power of 95 %. */
export interface Smallest {
  /** Cards that stay, more or fewer than one for each order. */
  readonly fixed: number;
  readonly rising: number;
  /** Pairs out of order. */
  readonly inversions: number;
  /** The bias of all cells together (root of their mean square), and of one cell alone, relative to fair. */
  readonly allCells: number;
  readonly oneCell: number;
  /** A seed with no more starts than this. */
  readonly starts: number;
}

/** What an audit found. */
export interface AuditReport {
  readonly cards: number;
  readonly orders: number;
  readonly verdict: Verdict;
  /** The verdict in one sentence. */
  readonly sentence: string;
  /** What is most likely wrong, as the end of that sentence. */
  readonly cause: string | null;
  readonly tests: readonly (Judged & { readonly words: string })[];
  readonly smallest: Smallest;
  /** For each place and card, how far its count is from fair, in deviations: rows are cards. */
  readonly heat: readonly (readonly number[])[];
  /** How often cards lie so many places after their own, for each order; 1 is fair. */
  readonly profile: readonly number[];
}

/** Cards of the audit, by number: where some are equal, which. */
export interface Deck {
  readonly cards: number;
  /** The face of each card in the reference order, where some are equal. */
  readonly faces?: readonly number[];
}

/** Audits a shuffle: takes its orders in, one by one, and says whether they are fair. */
export class Audit {
  private readonly counts: PermutationCounts;
  private readonly next: PermutationCounts;
  private readonly repeats = new RepeatCounter();
  private readonly whole = new Map<number, number>();
  private readonly places: Uint16Array;
  private readonly moved: Uint16Array;
  private readonly labelled: Uint16Array;
  private readonly byFace: readonly number[][];
  private readonly hasTwins: boolean;
  private readonly labels: Generator;
  private isFirst = true;

  /** @throws RangeError for fewer than 2 or more than 2,000 cards */
  constructor(private readonly deck: Deck) {
    const { cards, faces } = deck;
    if (cards < LEAST_CARDS || cards > MOST_CARDS)
      throw new RangeError(`An audit takes ${LEAST_CARDS} to ${MOST_CARDS.toLocaleString('en')} cards, not ${cards}.`);
    this.counts = new PermutationCounts(cards);
    this.next = new PermutationCounts(cards);
    this.places = new Uint16Array(cards);
    this.moved = new Uint16Array(cards);
    this.labelled = new Uint16Array(cards);
    const byFace = new Map<number, number[]>();
    for (let card = 0; card < cards; card++) {
      const face = faces?.[card] ?? card;
      byFace.set(face, [...(byFace.get(face) ?? []), card]);
    }
    this.byFace = [...byFace.values()].filter((copies) => copies.length > 1);
    this.hasTwins = this.byFace.length > 0;
    // Equal cards get their labels by fair chance of their own: a fair shuffle stays exactly fair under it.
    this.labels = chachaChance(seedFrom('audit labels')).stream('labels', 0);
  }

  /**
   * Takes an order in.
   * @param order the cards from the first place on, by their numbers in the reference order; of equal cards any
   */
  add(order: Uint16Array): void {
    if (this.hasTwins) {
      const { faces } = this.deck;
      this.repeats.add(Uint16Array.from(order, (card) => faces?.[card] ?? card));
    } else this.repeats.add(order);
    const labelled = this.hasTwins ? this.withLabels(order) : order;
    this.counts.add(labelled);
    const { places, moved } = this;
    if (!this.isFirst) {
      for (let i = 0; i < labelled.length; i++) moved[i] = places[labelled[i] as number] as number;
      this.next.add(moved);
    }
    this.isFirst = false;
    for (let i = 0; i < labelled.length; i++) places[labelled[i] as number] = i;
    if (labelled.length <= 5) {
      let key = 0;
      for (const card of labelled) key = key * 8 + card;
      this.whole.set(key, (this.whole.get(key) ?? 0) + 1);
    }
  }

  private withLabels(order: Uint16Array): Uint16Array {
    const { labelled, labels } = this;
    labelled.set(order);
    const at = new Map<number, number[]>();
    for (const [i, card] of labelled.entries()) at.set(card, [i]);
    for (const copies of this.byFace) {
      const mixed = Uint16Array.from(copies);
      shufflePlaces(mixed, 0, mixed.length, labels);
      for (const [k, card] of copies.entries()) labelled[at.get(card)?.[0] ?? 0] = mixed[k] as number;
    }
    return labelled;
  }

  get orders(): number {
    return this.counts.orders;
  }

  report(): AuditReport {
    const { counts, next, repeats } = this;
    const { n, orders } = counts;
    const copies = this.byFace.map((of) => of.length);
    const found = [
      ...testsOf(counts, 'places', this.whole),
      ...testsOf(next, 'from the last', null),
      ...(orders > 1 ? [repeatTest(repeats, orders, n, copies)] : []),
    ];
    const corrected = holm(found.map(({ p }) => p));
    const tests = found.map((test, i): Judged => ({ ...test, corrected: corrected[i] ?? 1 }));
    const least = Math.min(1, ...corrected);
    const verdict = verdictOf(least);
    const cause = verdict === 'nothing found' ? null : likelyCause({ tests, counts, next, repeats, orders });
    const spread = Math.sqrt((orders / n) * (1 - 1 / n)) || 1;
    return {
      cards: n,
      orders,
      verdict,
      sentence: sentenceOf(verdict, cause),
      cause,
      tests: tests.map((test) => ({ ...test, words: TEST_WORDS[test.name] })),
      smallest: smallestFor(n, Math.max(1, orders)),
      heat: Array.from({ length: n }, (_, card) =>
        Array.from({ length: n }, (_, place) => (counts.count(place, card) - orders / n) / spread),
      ),
      profile: Array.from(counts.shift, (count) => count / Math.max(1, orders)),
    };
  }
}

function sentenceOf(verdict: Verdict, cause: string | null): string {
  switch (verdict) {
    case 'not fair':
      return `Not fair: most likely, ${cause}.`;
    case 'suspicious':
      return `Suspicious: one fair shuffle in twenty looks like this. Send fresh shuffles; if it is not chance, then most likely ${cause}.`;
    case 'nothing found':
      return 'Nothing wrong found: every card is as likely in every place, as far as these shuffles can show.';
  }
}

/** The smallest bias that so many orders could have shown, 95 times in a hundred. */
export function smallestFor(n: number, orders: number): Smallest {
  const deviation = (name: 'rising' | 'inversions'): number => Math.sqrt(FAIR[name](n).variance / orders);
  return {
    fixed: 5.5 / Math.sqrt(orders),
    rising: 5.5 * deviation('rising'),
    inversions: 5.5 * deviation('inversions'),
    allCells: 2.75 / Math.sqrt(orders),
    oneCell: 50 / Math.sqrt(orders),
    starts: orders ** 2 / 6,
  };
}
