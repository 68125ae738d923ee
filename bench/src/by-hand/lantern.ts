/**
 * Lantern Twenty-One for one seat, written by hand: the same rules, choices and bookkeeping as the sheet,
 * with nothing of the engine. It is what the engine is measured against.
 */
import { below, type Chance, deckFaces, type Generator, rankOf } from '@wily-jester/core';

const OUT = 0;
const PLAYING = 1;
const STOOD = 2;
export const BET = 0;
export const SIT_OUT = 1;
export const HIT = 0;
export const STAND = 1;
export const DOUBLE = 2;

const SHOE = 0;
const SPENT = 1;
const HOUSE = 2;
const HAND = 3;

/** Where the game waits: for a bet, for a turn, in the pause after a round, or nowhere any more. */
export type Wait = 'bet' | 'turn' | 'pause' | 'over';

export class LanternByHand {
  wait: Wait = 'bet';
  bank = 0;
  bet = 0;
  stage = OUT;
  houseWon = 0;
  score = 0;
  round = 1;
  private shuffles = 0;
  readonly rank: Int8Array;
  /** Cards of each pile, bottom first, and where every card lies. */
  readonly piles: Uint16Array[];
  readonly size = new Int32Array(4);
  readonly where: Uint16Array;
  readonly up: Uint8Array;

  private readonly cards: number;

  constructor(
    private chance: Chance,
    private readonly stake: number,
    private readonly rounds: number,
    decks: number,
  ) {
    const faces = deckFaces([{ form: { kind: 'standard' }, copies: decks, jokers: 0 }]);
    this.cards = faces.length;
    this.rank = Int8Array.from(faces, rankOf);
    this.piles = Array.from({ length: 4 }, () => new Uint16Array(faces.length));
    this.where = new Uint16Array(faces.length);
    this.up = new Uint8Array(faces.length);
    this.begin(chance);
  }

  /** Begins a new game. */
  begin(chance: Chance): void {
    this.chance = chance;
    this.bank = this.stake;
    this.bet = 0;
    this.stage = OUT;
    this.houseWon = 0;
    this.score = 0;
    this.round = 1;
    this.shuffles = 0;
    this.size.fill(0);
    this.where.fill(SPENT);
    this.up.fill(0);
    for (let c = 0; c < this.cards; c++) (this.piles[SPENT] as Uint16Array)[c] = c;
    this.size[SPENT] = this.cards;
    this.wait = this.bank < 10 ? 'over' : 'bet';
  }

  /** Stands where another game stands. */
  copyFrom(other: LanternByHand): void {
    const { wait, bank, bet, stage, houseWon, score, round, shuffles } = other;
    Object.assign(this, { wait, bank, bet, stage, houseWon, score, round, shuffles });
    for (const [p, pile] of this.piles.entries()) pile.set(other.piles[p] as Uint16Array);
    this.size.set(other.size);
    this.where.set(other.where);
    this.up.set(other.up);
  }

  /** Deals the cards that the seat cannot see anew: the shoe, and the house's card that lies face down. */
  redeal(generator: Generator): void {
    const shoe = this.piles[SHOE] as Uint16Array;
    const house = this.piles[HOUSE] as Uint16Array;
    const last = this.size[SHOE] as number;
    const down = (this.size[HOUSE] as number) - 1;
    shoe[last] = house[down] as number;
    for (let i = last; i > 0; i--) {
      const j = below(generator, i + 1);
      const held = shoe[i] as number;
      shoe[i] = shoe[j] as number;
      shoe[j] = held;
    }
    house[down] = shoe[last] as number;
    this.where[house[down] as number] = HOUSE;
  }

  private put(c: number, to: number, up: number): void {
    (this.piles[to] as Uint16Array)[this.size[to] as number] = c;
    this.size[to] = (this.size[to] as number) + 1;
    this.where[c] = to;
    this.up[c] = up;
  }

  private moveAll(from: number, to: number, up: number): void {
    const pile = this.piles[from] as Uint16Array;
    const n = this.size[from] as number;
    this.size[from] = 0;
    for (let i = 0; i < n; i++) this.put(pile[i] as number, to, up);
  }

  private deal(to: number, up: number): void {
    if (this.size[SHOE] === 0) {
      this.moveAll(SPENT, SHOE, 0);
      const shoe = this.piles[SHOE] as Uint16Array;
      const generator = this.chance.stream('shuffle', this.shuffles++);
      for (let i = (this.size[SHOE] as number) - 1; i > 0; i--) {
        const j = below(generator, i + 1);
        const held = shoe[i] as number;
        shoe[i] = shoe[j] as number;
        shoe[j] = held;
      }
    }
    const last = (this.size[SHOE] as number) - 1;
    this.size[SHOE] = last;
    this.put((this.piles[SHOE] as Uint16Array)[last] as number, to, up);
  }

  total(p: number): number {
    const pile = this.piles[p] as Uint16Array;
    let hard = 0;
    let ace = false;
    for (let i = 0; i < (this.size[p] as number); i++) {
      const r = this.rank[pile[i] as number] as number;
      hard += Math.min(r, 10);
      if (r === 1) ace = true;
    }
    return ace && hard <= 11 ? hard + 10 : hard;
  }

  /** Answers the question that is open. Gives whether the choice was legal; an illegal one changes nothing. */
  answer(option: number, amount: number): boolean {
    if (this.wait === 'bet') {
      if (option === SIT_OUT) {
        this.nextRound();
        return true;
      }
      const most = this.bank - (this.bank % 2);
      if (option !== BET || amount < 10 || amount > most || (amount !== most && (amount - 10) % 2 !== 0)) return false;
      this.bet = amount;
      this.bank -= amount;
      this.stage = PLAYING;
      this.deal(HAND, 1);
      this.deal(HOUSE, 1);
      this.deal(HAND, 1);
      this.deal(HOUSE, 0);
      this.turn();
      return true;
    }
    if (this.wait !== 'turn') return false;
    if (option === HIT) this.deal(HAND, 1);
    else if (option === STAND) this.stage = STOOD;
    else {
      if (option !== DOUBLE || this.size[HAND] !== 2 || this.bank < this.bet) return false;
      this.bank -= this.bet;
      this.bet *= 2;
      this.deal(HAND, 1);
      this.stage = STOOD;
    }
    this.turn();
    return true;
  }

  private turn(): void {
    if (this.stage === PLAYING && this.total(HAND) < 21) {
      this.wait = 'turn';
      return;
    }
    const house = this.piles[HOUSE] as Uint16Array;
    for (let i = 0; i < (this.size[HOUSE] as number); i++) this.up[house[i] as number] = 1;
    const mine = this.total(HAND);
    const natural = mine === 21 && this.size[HAND] === 2;
    if (mine <= 21 && !natural) while (this.total(HOUSE) < 17) this.deal(HOUSE, 1);
    const theirs = this.total(HOUSE);
    const houseNatural = theirs === 21 && this.size[HOUSE] === 2;
    let back = 0;
    if (mine > 21) back = 0;
    else if (natural && houseNatural) back = this.bet;
    else if (natural) back = this.bet + Math.floor((this.bet * 3) / 2);
    else if (houseNatural) back = 0;
    else if (theirs > 21 || mine > theirs) back = this.bet * 2;
    else if (mine === theirs) back = this.bet;
    this.bank += back;
    this.houseWon += this.bet - back;
    this.score = this.bank - this.stake;
    this.bet = 0;
    this.stage = OUT;
    this.wait = 'pause';
  }

  /** Ends the pause after a round. */
  resume(): void {
    this.moveAll(HOUSE, SPENT, 0);
    this.moveAll(HAND, SPENT, 0);
    this.nextRound();
  }

  private nextRound(): void {
    this.round++;
    this.wait = this.round > this.rounds || this.bank < 10 ? 'over' : 'bet';
  }
}
