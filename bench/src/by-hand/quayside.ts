/**
 * A round of Quayside Twenty-One for one seat from a full shoe, written by hand, with the sheet's chart as its player:
 * what trials of the sheet are held against, and quick enough for hundreds of millions of rounds. Cards of the shoe are
 * settled when they are looked at, from the same numbers as a shuffle of the whole would draw.
 */
import { below, deckFaces, type Generator, rankOf } from '@wily-jester/core';

export const HIT = 0;
export const STAND = 1;
export const DOUBLE = 2;
export const SPLIT = 3;
export const MOVES = ['hit', 'stand', 'double', 'split'] as const;

const PACKS = 6;
const MOST_HANDS = 4;
const ACE = 1;
const TEN = 10;

export interface QuaysideRules {
  /** Whether the house draws on a soft seventeen. */
  readonly softHit: boolean;
  /** What a natural pays, in bets. */
  readonly natural: number;
}

/** What a card counts, an ace as one. */
const worthOf = (face: number): number => Math.min(rankOf(face), TEN);
const FULL_SHOE = Uint8Array.from(deckFaces([{ form: { kind: 'standard' }, copies: PACKS, jokers: 0 }]), worthOf);

/** Cards that lie together: what they count with aces as one, whether there is an ace, and how many they are. */
class Cards {
  hard = 0;
  size = 0;
  first = 0;
  second = 0;
  hasAce = false;
  bet = 1;

  begin(): void {
    this.hard = 0;
    this.size = 0;
    this.hasAce = false;
    this.bet = 1;
  }
  take(worth: number): void {
    if (this.size === 0) this.first = worth;
    if (this.size === 1) this.second = worth;
    this.size++;
    this.hard += worth;
    if (worth === ACE) this.hasAce = true;
  }
  get isSoft(): boolean {
    return this.hasAce && this.hard <= 11;
  }
  get total(): number {
    return this.isSoft ? this.hard + 10 : this.hard;
  }
  get isTwoFor21(): boolean {
    return this.size === 2 && this.total === 21;
  }
}

export class QuaysideByHand {
  private readonly hands = Array.from({ length: MOST_HANDS }, () => new Cards());
  private readonly house = new Cards();
  private count = 1;

  private readonly shoe = new Uint8Array(FULL_SHOE.length);
  private readonly swapped = new Uint16Array(FULL_SHOE.length);
  private size = 0;
  /** Cards from here on are settled; the next one to be dealt lies below `at`. */
  private settled = 0;
  private at = 0;
  private generator!: Generator;

  constructor(private readonly rules: QuaysideRules) {
    this.fill([]);
  }

  /** Fills the shoe, without cards that lie on the table. @param without what those count */
  fill(without: readonly number[]): void {
    const left = [...without];
    this.size = 0;
    for (const worth of FULL_SHOE) {
      const out = left.indexOf(worth);
      if (out < 0) this.shoe[this.size++] = worth;
      else left.splice(out, 1);
    }
  }

  private shuffle(generator: Generator): void {
    this.generator = generator;
    this.settled = this.size;
    this.at = this.size;
  }
  private draw(): number {
    if (this.at === this.settled) {
      const i = --this.settled;
      this.swap(i, below(this.generator, i + 1));
    }
    return this.shoe[--this.at] as number;
  }
  private swap(i: number, j: number): void {
    const held = this.shoe[i] as number;
    this.shoe[i] = this.shoe[j] as number;
    this.shoe[j] = held;
    this.swapped[i] = j;
  }
  /** Lays the cards of the shoe as they lay before they were shuffled. */
  private restore(): void {
    for (let i = this.settled; i < this.size; i++) this.swap(i, this.swapped[i] as number);
  }

  /**
   * Plays a round by the chart.
   * @returns what the seat won, in first bets
   */
  play(generator: Generator): number {
    this.shuffle(generator);
    this.draw(); // the first card is burnt
    const own = this.hands[0] as Cards;
    own.begin();
    this.house.begin();
    this.count = 1;
    own.take(this.draw());
    this.house.take(this.draw());
    own.take(this.draw());
    this.house.take(this.draw());
    if (!this.house.isTwoFor21 && !own.isTwoFor21) this.turn(null);
    const won = this.settle();
    this.restore();
    return won;
  }

  /**
   * Holds first moves of two cards against each other, on the same cards that come: the chart plays on. The shoe is
   * filled without the three cards.
   * @param won is given what each of the moves won, in first bets
   * @returns whether there was something to decide: not where the house has a natural
   */
  weigh(
    two: readonly [number, number],
    shown: number,
    moves: readonly number[],
    generator: Generator,
    won: Float64Array,
  ): boolean {
    this.shuffle(generator);
    const hole = this.draw();
    if ((shown === ACE && hole === TEN) || (shown === TEN && hole === ACE)) return false;
    const before = this.at;
    const own = this.hands[0] as Cards;
    for (const [i, move] of moves.entries()) {
      this.at = before;
      own.begin();
      for (const worth of two) own.take(worth);
      this.house.begin();
      this.house.take(shown);
      this.house.take(hole);
      this.count = 1;
      this.turn(move);
      won[i] = this.settle();
    }
    return true;
  }

  /** @param first what is done first; the chart's move where it is null */
  private turn(first: number | null): void {
    let next = first;
    for (let h = 0; h < this.count; h++) {
      const hand = this.hands[h] as Cards;
      if (hand.size === 1) hand.take(this.draw());
      while (hand.total < 21 && !this.isSplitAce(hand)) {
        const move = next ?? this.chartMove(hand);
        next = null;
        if (move === STAND) break;
        if (move === SPLIT) this.split(hand);
        else hand.take(this.draw());
        if (move === DOUBLE) {
          hand.bet = 2;
          break;
        }
      }
    }
  }
  private isSplitAce(hand: Cards): boolean {
    return this.count > 1 && hand.first === ACE;
  }
  private split(hand: Cards): void {
    const other = this.hands[this.count++] as Cards;
    const { first, second } = hand;
    hand.begin();
    hand.take(first);
    other.begin();
    other.take(second);
    hand.take(this.draw());
  }

  /** What the chart does with a hand that has something to decide. */
  chartMove(hand: Pick<Cards, 'size' | 'first' | 'second' | 'total' | 'isSoft'>): number {
    const shown = this.house.first;
    const { softHit } = this.rules;
    const isPair = hand.size === 2 && hand.first === hand.second;
    if (isPair && this.count < MOST_HANDS && chartSplits(hand.first, shown)) return SPLIT;
    if (
      hand.size === 2 &&
      (hand.isSoft ? doublesSoft(hand.total, shown, softHit) : doublesHard(hand.total, shown, softHit))
    )
      return DOUBLE;
    return (hand.isSoft ? standsSoft(hand.total, shown) : standsHard(hand.total, shown)) ? STAND : HIT;
  }
  /** The same for two cards against one of the house's. */
  chartFirst(two: readonly [number, number], shown: number): number {
    const hand = new Cards();
    for (const worth of two) hand.take(worth);
    this.house.begin();
    this.house.take(shown);
    this.count = 1;
    return this.chartMove(hand);
  }

  /** The house draws, and bets are settled. */
  private settle(): number {
    const { house, rules } = this;
    const isAlone = this.count === 1;
    let anyOpen = false;
    for (let h = 0; h < this.count; h++) {
      const hand = this.hands[h] as Cards;
      if (hand.total <= 21 && !(isAlone && hand.isTwoFor21)) anyOpen = true;
    }
    const houseNatural = house.isTwoFor21;
    if (anyOpen && !houseNatural)
      while (house.total < 17 || (rules.softHit && house.isSoft && house.total === 17)) house.take(this.draw());
    const theirs = house.total;
    let won = 0;
    for (let h = 0; h < this.count; h++) {
      const hand = this.hands[h] as Cards;
      const mine = hand.total;
      if (mine > 21) won -= hand.bet;
      else if (isAlone && hand.isTwoFor21) won += houseNatural ? 0 : rules.natural;
      else if (houseNatural) won -= hand.bet;
      else if (theirs > 21 || mine > theirs) won += hand.bet;
      else if (mine < theirs) won -= hand.bet;
    }
    return won;
  }
}

const within = (n: number, from: number, to: number): boolean => n >= from && n <= to;

function chartSplits(worth: number, shown: number): boolean {
  if (worth === ACE || worth === 8) return true;
  if (worth === 9) return within(shown, 2, 6) || shown === 8 || shown === 9;
  if (worth === 7 || worth === 3 || worth === 2) return within(shown, 2, 7);
  if (worth === 6) return within(shown, 2, 6);
  return worth === 4 && within(shown, 5, 6);
}
function doublesSoft(total: number, shown: number, softHit: boolean): boolean {
  if (total <= 14) return within(shown, 5, 6);
  if (total <= 16) return within(shown, 4, 6);
  if (total === 17) return within(shown, 3, 6);
  if (total === 18) return within(shown, softHit ? 2 : 3, 6);
  return total === 19 && softHit && shown === 6;
}
function doublesHard(total: number, shown: number, softHit: boolean): boolean {
  if (total === 9) return within(shown, 3, 6);
  if (total === 10) return within(shown, 2, 9);
  return total === 11 && (softHit || shown >= 2);
}
const standsSoft = (total: number, shown: number): boolean => total >= 19 || (total === 18 && within(shown, 2, 8));
function standsHard(total: number, shown: number): boolean {
  if (shown === ACE || shown >= 7) return total >= 17;
  return total >= (shown <= 3 ? 13 : 12);
}
