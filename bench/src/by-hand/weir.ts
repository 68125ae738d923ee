/** Weir Patience for a random player, written by hand: the sheet's rules with its standard settings, as one loop. */
import type { Chance } from '@wily-jester/core';
import { OptionOrder, type Played, Reservoir, shuffle } from './draws.js';

const [TURN_OVER, REDEAL, BANK, BUILD, FETCH, SHIFT] = [0, 1, 2, 3, 4, 5];
const GIVE_UP = 6;
const REDEALS = 1000;
const DRAWN = 3;
const COLUMNS = 7;
const KING = 12;

/** Rank from 0 for the ace, suit, and whether a card is red. */
const RANK = Uint8Array.from({ length: 52 }, (_, c) => c % 13);
const SUIT = Uint8Array.from({ length: 52 }, (_, c) => Math.floor(c / 13));
const RED = Uint8Array.from(SUIT, (suit) => (suit === 1 || suit === 2 ? 1 : 0));

export class WeirByHand {
  private readonly stock = new Uint8Array(52);
  private stockSize = 0;
  private readonly waste = new Uint8Array(52);
  private wasteSize = 0;
  private readonly columns = Array.from({ length: COLUMNS }, () => new Uint8Array(52));
  private readonly sizes = new Uint8Array(COLUMNS);
  private readonly up = new Uint8Array(52);
  /** How many cards of each suit are home. */
  private readonly home = new Uint8Array(4);
  private turned = 0;
  private readonly order = new OptionOrder([TURN_OVER, REDEAL, BANK, BUILD, FETCH, SHIFT]);
  private readonly kept = new Reservoir();
  private card = 0;
  private to = 0;

  /** Plays one game, up to so many choices. */
  play(chance: Chance, most: number): Played {
    this.deal(chance);
    const generator = chance.stream('player', 0);
    let choices = 0;
    let isOver = false;
    while (choices < most && !isOver) {
      if (!this.hasMove()) break;
      let option = -1;
      this.order.begin();
      do option = this.order.next(generator);
      while (option >= 0 && !this.draw(option, generator));
      choices++;
      if (option < 0) option = GIVE_UP;
      this.carryOut(option);
      isOver = option === GIVE_UP || this.home.every((count) => count === 13);
    }
    return { choices, outcome: [...this.home, this.stockSize, this.wasteSize, ...this.sizes] };
  }

  private deal(chance: Chance): void {
    const pack = this.stock;
    for (let c = 0; c < 52; c++) pack[c] = c;
    shuffle(pack, 52, chance, 0);
    this.sizes.fill(0);
    this.up.fill(0);
    this.home.fill(0);
    this.wasteSize = 0;
    this.turned = 0;
    let left = 52;
    const put = (column: number, isUp: number): void => {
      const card = pack[--left] as number;
      (this.columns[column] as Uint8Array)[this.sizes[column] as number] = card;
      this.sizes[column] = (this.sizes[column] as number) + 1;
      this.up[card] = isUp;
    };
    for (let row = 0; row < COLUMNS; row++) {
      put(row, 1);
      for (let i = row + 1; i < COLUMNS; i++) put(i, 0);
    }
    this.stockSize = left;
  }

  private top(column: number): number {
    return (this.columns[column] as Uint8Array)[(this.sizes[column] as number) - 1] as number;
  }
  private goesHome(card: number): boolean {
    return this.home[SUIT[card] as number] === RANK[card];
  }
  private goesOn(card: number, column: number): boolean {
    if (this.sizes[column] === 0) return RANK[card] === KING;
    const on = this.top(column);
    return RED[card] !== RED[on] && RANK[on] === (RANK[card] as number) + 1;
  }
  private topOfHome(suit: number): number {
    return suit * 13 + (this.home[suit] as number) - 1;
  }

  /** Whether anything but giving up is legal. */
  private hasMove(): boolean {
    if (this.stockSize > 0 || (this.wasteSize > 0 && this.turned < REDEALS)) return true;
    for (let column = 0; column < COLUMNS; column++)
      if (this.sizes[column] !== 0 && this.goesHome(this.top(column))) return true;
    if (this.wasteSize > 0) {
      const card = this.waste[this.wasteSize - 1] as number;
      if (this.goesHome(card)) return true;
      for (let to = 0; to < COLUMNS; to++) if (this.goesOn(card, to)) return true;
    }
    for (let suit = 0; suit < 4; suit++)
      if (this.home[suit] !== 0)
        for (let to = 0; to < COLUMNS; to++)
          if (this.sizes[to] !== 0 && this.goesOn(this.topOfHome(suit), to)) return true;
    for (let from = 0; from < COLUMNS; from++) {
      const cards = this.columns[from] as Uint8Array;
      for (let at = this.runOf(from); at < (this.sizes[from] as number); at++)
        for (let to = 0; to < COLUMNS; to++)
          if ((at > 0 || this.sizes[to] !== 0) && this.goesOn(cards[at] as number, to)) return true;
    }
    return false;
  }

  /** Where the run at the end of a column begins: face up, in sequence, in alternate colours. */
  private runOf(column: number): number {
    const cards = this.columns[column] as Uint8Array;
    let at = this.sizes[column] as number;
    while (at > 0) {
      const card = cards[at - 1] as number;
      if (this.up[card] === 0) break;
      const above = cards[at] as number;
      if (
        at < (this.sizes[column] as number) &&
        !(RED[card] !== RED[above] && RANK[card] === (RANK[above] as number) + 1)
      )
        break;
      at--;
    }
    return at;
  }

  /** Draws a way of an option; gives whether it has one. */
  private draw(option: number, generator: ReturnType<Chance['stream']>): boolean {
    const { kept } = this;
    switch (option) {
      case TURN_OVER:
        return this.stockSize > 0;
      case REDEAL:
        return this.stockSize === 0 && this.wasteSize > 0 && this.turned < REDEALS;
      case BANK:
        kept.begin();
        for (let column = 0; column < COLUMNS; column++)
          if (this.sizes[column] !== 0 && this.goesHome(this.top(column)) && kept.takes(generator))
            this.card = this.top(column);
        if (this.wasteSize > 0) {
          const card = this.waste[this.wasteSize - 1] as number;
          if (this.goesHome(card) && kept.takes(generator)) this.card = card;
        }
        return kept.seen > 0;
      case BUILD: {
        if (this.wasteSize === 0) return false;
        kept.begin();
        const card = this.waste[this.wasteSize - 1] as number;
        for (let to = 0; to < COLUMNS; to++) if (this.goesOn(card, to) && kept.takes(generator)) this.to = to;
        return kept.seen > 0;
      }
      case FETCH:
        kept.begin();
        for (let suit = 0; suit < 4; suit++) {
          if (this.home[suit] === 0) continue;
          const card = this.topOfHome(suit);
          for (let to = 0; to < COLUMNS; to++)
            if (this.sizes[to] !== 0 && this.goesOn(card, to) && kept.takes(generator)) {
              this.card = card;
              this.to = to;
            }
        }
        return kept.seen > 0;
      default:
        kept.begin();
        for (let from = 0; from < COLUMNS; from++) {
          const cards = this.columns[from] as Uint8Array;
          for (let at = this.runOf(from); at < (this.sizes[from] as number); at++)
            for (let to = 0; to < COLUMNS; to++)
              if ((at > 0 || this.sizes[to] !== 0) && this.goesOn(cards[at] as number, to) && kept.takes(generator)) {
                this.card = from * 64 + at;
                this.to = to;
              }
        }
        return kept.seen > 0;
    }
  }

  private take(card: number): void {
    if (this.wasteSize > 0 && this.waste[this.wasteSize - 1] === card) {
      this.wasteSize--;
      return;
    }
    for (let column = 0; column < COLUMNS; column++)
      if (this.sizes[column] !== 0 && this.top(column) === card) {
        this.sizes[column] = (this.sizes[column] as number) - 1;
        return;
      }
  }
  private put(card: number, column: number): void {
    (this.columns[column] as Uint8Array)[this.sizes[column] as number] = card;
    this.sizes[column] = (this.sizes[column] as number) + 1;
    this.up[card] = 1;
  }

  private carryOut(option: number): void {
    switch (option) {
      case TURN_OVER:
        for (let i = 0; i < DRAWN && this.stockSize > 0; i++)
          this.waste[this.wasteSize++] = this.stock[--this.stockSize] as number;
        break;
      case REDEAL:
        while (this.wasteSize > 0) this.stock[this.stockSize++] = this.waste[--this.wasteSize] as number;
        this.turned++;
        break;
      case BANK:
        this.take(this.card);
        this.home[SUIT[this.card] as number] = (this.home[SUIT[this.card] as number] as number) + 1;
        break;
      case BUILD:
        this.put(this.waste[--this.wasteSize] as number, this.to);
        break;
      case FETCH:
        this.home[SUIT[this.card] as number] = (this.home[SUIT[this.card] as number] as number) - 1;
        this.put(this.card, this.to);
        break;
      case SHIFT: {
        const from = this.card >> 6;
        const at = this.card & 63;
        const cards = this.columns[from] as Uint8Array;
        const size = this.sizes[from] as number;
        this.sizes[from] = at;
        for (let i = at; i < size; i++) this.put(cards[i] as number, this.to);
        break;
      }
      default:
        return;
    }
    for (let column = 0; column < COLUMNS; column++) if (this.sizes[column] !== 0) this.up[this.top(column)] = 1;
  }
}
