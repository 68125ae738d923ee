/**
 * Long War for two seats, written by hand: the same rules, choices and bookkeeping as the sheet, with
 * nothing of the engine. It is what the engine is measured against.
 */
import { below, type Chance, deckFaces, rankOf } from '@wily-jester/core';

const PACK = 0;
const STOCK = 1;
const FRONT = 3;
const SPOILS = 5;
const CARDS = 52;
const SEATS = [0, 1];

export class WarByHand {
  wait: 'turn' | 'pause' | 'over' = 'turn';
  battles = 0;
  readonly scores = [0, 0];
  /** Seats that are asked, and those that have answered, a bit each. */
  asked = 0;
  answered = 0;
  private fighting: number[] = [];
  private stakes = 0;
  private shuffles = 0;
  private readonly strength: Int8Array;
  readonly piles: Uint16Array[] = Array.from({ length: 6 }, () => new Uint16Array(CARDS));
  readonly size = new Int32Array(6);
  readonly where = new Uint16Array(CARDS);
  readonly up = new Uint8Array(CARDS);

  constructor(
    private readonly chance: Chance,
    private readonly limit: number,
    private readonly staked: number,
  ) {
    const faces = deckFaces([{ form: { kind: 'standard' }, copies: 1, jokers: 0 }]);
    this.strength = Int8Array.from(faces, (face) => (rankOf(face) === 1 ? 14 : rankOf(face)));
    for (let c = 0; c < CARDS; c++) this.put(c, PACK, 0);
    this.shuffle(PACK);
    for (let i = 0; i < CARDS; i++) this.deal(PACK, STOCK + (i % 2), 0);
    this.nextBattle();
  }

  private put(c: number, to: number, up: number): void {
    (this.piles[to] as Uint16Array)[this.size[to] as number] = c;
    this.size[to] = (this.size[to] as number) + 1;
    this.where[c] = to;
    this.up[c] = up;
  }
  private deal(from: number, to: number, up: number): void {
    const last = (this.size[from] as number) - 1;
    this.size[from] = last;
    this.put((this.piles[from] as Uint16Array)[last] as number, to, up);
  }
  private moveAll(from: number, to: number, up: number): void {
    const pile = this.piles[from] as Uint16Array;
    const n = this.size[from] as number;
    this.size[from] = 0;
    for (let i = 0; i < n; i++) this.put(pile[i] as number, to, up);
  }
  private shuffle(p: number): void {
    const pile = this.piles[p] as Uint16Array;
    const generator = this.chance.stream('shuffle', this.shuffles++);
    for (let i = (this.size[p] as number) - 1; i > 0; i--) {
      const j = below(generator, i + 1);
      const held = pile[i] as number;
      pile[i] = pile[j] as number;
      pile[j] = held;
    }
  }
  private has(seat: number): boolean {
    return (this.size[STOCK + seat] as number) > 0;
  }
  private top(seat: number): number {
    const pile = this.piles[FRONT + seat] as Uint16Array;
    return this.strength[pile[(this.size[FRONT + seat] as number) - 1] as number] as number;
  }
  private leaders(seats: readonly number[]): number[] {
    const most = Math.max(...seats.map((seat) => this.top(seat)));
    return seats.filter((seat) => this.top(seat) === most);
  }

  private nextBattle(): void {
    this.battles++;
    this.fighting = SEATS.filter((seat) => this.has(seat));
    this.ask(0);
  }
  private ask(stakes: number): void {
    this.stakes = stakes;
    this.asked = 0;
    this.answered = 0;
    for (const seat of this.fighting) if (this.has(seat)) this.asked |= 1 << seat;
    this.wait = this.asked === 0 ? 'pause' : 'turn';
  }

  /** A seat turns a card. Gives whether it might; a wrong answer changes nothing. */
  answer(seat: number): boolean {
    if (this.wait !== 'turn' || (this.asked & ~this.answered & (1 << seat)) === 0) return false;
    this.answered |= 1 << seat;
    if (this.answered !== this.asked) return true;
    for (const one of SEATS)
      if ((this.asked & (1 << one)) !== 0) {
        const spare = Math.min(this.stakes, (this.size[STOCK + one] as number) - 1);
        for (let i = 0; i < spare; i++) this.deal(STOCK + one, FRONT + one, 0);
        this.deal(STOCK + one, FRONT + one, 1);
      }
    this.wait = 'pause';
    return true;
  }

  /** Goes on after the rest in which people look at the cards. */
  resume(): void {
    this.fighting = this.leaders(this.fighting);
    if (this.fighting.length > 1 && this.fighting.some((seat) => this.has(seat))) {
      this.ask(this.staked);
      return;
    }
    const [winner, other] = this.fighting as [number, number | undefined];
    if (other === undefined) this.capture(winner);
    else for (const seat of SEATS) this.moveAll(FRONT + seat, SPOILS, 1);
    for (const seat of SEATS) this.scores[seat] = this.size[STOCK + seat] as number;
    if (SEATS.filter((seat) => this.has(seat)).length <= 1 || this.battles === this.limit) this.wait = 'over';
    else this.nextBattle();
  }

  private capture(winner: number): void {
    for (const seat of [winner, 1 - winner]) this.moveAll(FRONT + seat, SPOILS, 1);
    this.shuffle(SPOILS);
    // Under the stock: the spoils first, then what lay there.
    const stock = this.piles[STOCK + winner] as Uint16Array;
    const spoils = this.piles[SPOILS] as Uint16Array;
    const won = this.size[SPOILS] as number;
    stock.copyWithin(won, 0, this.size[STOCK + winner] as number);
    for (let i = 0; i < won; i++) {
      const c = spoils[i] as number;
      stock[i] = c;
      this.where[c] = STOCK + winner;
      this.up[c] = 0;
    }
    this.size[SPOILS] = 0;
    this.size[STOCK + winner] = (this.size[STOCK + winner] as number) + won;
  }
}
