/** Long Pot Hold'em heads-up for random players, written by hand: the sheet's rules with its standard settings. */
import { below, type Chance, type Generator, quickRanker } from '@wily-jester/core';
import { OptionOrder, type Played, shuffle } from './draws.js';

const STAKE = 200;
const BIG = 2;
const SMALL = 1;
const HANDS = 20;
const [FOLD, CHECK, CALL, BET, RAISE] = [0, 1, 2, 3, 4];
/** How suits compare where the first button is drawn, by suit. */
const SUIT_PLACE = [3, 2, 1, 0];

const other = (seat: number): number => 1 - seat;

export class HoldemByHand {
  private readonly ranker = quickRanker();
  private readonly pack = new Uint8Array(52);
  private left = 0;
  private readonly muck = new Uint8Array(52);
  private mucked = 0;
  private readonly board = new Uint8Array(5);
  private onBoard = 0;
  private readonly hands = [new Uint8Array(2), new Uint8Array(2)] as const;
  private readonly held = [0, 0];
  private readonly chips = [0, 0];
  private readonly bet = [0, 0];
  private readonly paid = [0, 0];
  private readonly faced = [0, 0];
  private readonly live = [false, false];
  private readonly acted = [false, false];
  private readonly shown = [false, false];
  private level = 0;
  private fullRaise = 0;
  private aggressor = -1;
  private button = 0;
  private amount = 0;
  private choices = 0;
  private shuffles = 0;
  private readonly seven = new Uint8Array(7);
  private readonly order = new OptionOrder([FOLD, CHECK, CALL, BET, RAISE]);

  play(chance: Chance): Played {
    const generator = chance.stream('player', 0);
    this.chips.fill(STAKE);
    this.choices = 0;
    this.shuffles = 0;
    for (let c = 0; c < 52; c++) this.pack[c] = c;
    shuffle(this.pack, 52, chance, this.shuffles++);
    // A card for each seat draws for the first button.
    this.left = 50;
    this.muck[0] = this.pack[51] as number;
    this.muck[1] = this.pack[50] as number;
    this.mucked = 2;
    this.button = height(this.muck[0]) > height(this.muck[1]) ? 0 : 1;
    this.onBoard = 0;
    this.held.fill(0);
    for (let hand = 1; hand <= HANDS && (this.chips[0] as number) > 0 && (this.chips[1] as number) > 0; hand++)
      this.oneHand(hand, chance, generator);
    return { choices: this.choices, outcome: [...this.chips, this.button] };
  }

  private gather(): void {
    let at = this.left;
    for (let i = 0; i < this.mucked; i++) this.pack[at++] = this.muck[i] as number;
    for (let i = 0; i < this.onBoard; i++) this.pack[at++] = this.board[i] as number;
    for (const seat of [0, 1] as const)
      for (let i = 0; i < (this.held[seat] as number); i++) this.pack[at++] = this.hands[seat][i] as number;
    this.left = 52;
    this.mucked = 0;
    this.onBoard = 0;
    this.held.fill(0);
  }

  private oneHand(hand: number, chance: Chance, generator: Generator): void {
    const { chips, live, pack, hands } = this;
    live.fill(true);
    this.gather();
    shuffle(pack, 52, chance, this.shuffles++);
    if (hand > 1) this.button = other(this.button);
    const big = other(this.button);
    this.pay(this.button, Math.min(SMALL, chips[this.button] as number));
    this.pay(big, Math.min(BIG, chips[big] as number));
    for (let i = 0; i < 2; i++)
      for (const seat of [big, this.button] as (0 | 1)[]) hands[seat][i] = pack[--this.left] as number;
    this.held.fill(2);
    this.shown.fill(false);
    this.bettingRound(this.button, BIG, generator);
    for (let street = 1; street <= 3 && live[0] && live[1]; street++) {
      if (chips[0] === 0 || chips[1] === 0) this.shown.fill(true);
      this.muck[this.mucked++] = pack[--this.left] as number;
      for (let i = street === 1 ? 3 : 1; i > 0; i--) this.board[this.onBoard++] = pack[--this.left] as number;
      this.bettingRound(big, 0, generator);
    }
    if (live[0] && live[1]) this.showdown(big, generator);
    this.award(big);
  }

  private pay(seat: number, amount: number): void {
    this.chips[seat] = (this.chips[seat] as number) - amount;
    this.bet[seat] = (this.bet[seat] as number) + amount;
    this.paid[seat] = (this.paid[seat] as number) + amount;
  }
  private canAnswer(seat: number): boolean {
    return this.live[other(seat)] === true && (this.chips[other(seat)] as number) > 0;
  }
  private price(seat: number): number {
    return (this.canAnswer(seat) ? this.level : (this.bet[other(seat)] as number)) - (this.bet[seat] as number);
  }
  private mustAct(seat: number): boolean {
    if (!this.live[seat] || this.chips[seat] === 0 || !this.live[other(seat)]) return false;
    return this.price(seat) > 0 || (this.canAnswer(seat) && !this.acted[seat]);
  }

  private bettingRound(starter: number, opening: number, generator: Generator): void {
    this.level = opening;
    this.fullRaise = BIG;
    this.aggressor = -1;
    this.acted.fill(false);
    let actor = starter;
    while (this.mustAct(0) || this.mustAct(1)) {
      if (this.mustAct(actor)) this.act(actor, generator);
      actor = other(actor);
    }
    const { paid, chips } = this;
    const leader = (paid[0] as number) >= (paid[1] as number) ? 0 : 1;
    const over = (paid[leader] as number) - (paid[other(leader)] as number);
    chips[leader] = (chips[leader] as number) + over;
    paid[leader] = (paid[leader] as number) - over;
    this.bet.fill(0);
  }

  private act(seat: number, generator: Generator): void {
    let option = -1;
    this.order.begin();
    do option = this.order.next(generator);
    while (!this.draw(option, seat, generator));
    this.choices++;
    const price = this.price(seat);
    if (option === FOLD) this.giveUp(seat);
    else if (option === CALL) this.pay(seat, Math.min(price, this.chips[seat] as number));
    else if (option !== CHECK) {
      this.fullRaise = Math.max(this.fullRaise, this.amount - this.level);
      this.level = this.amount;
      this.aggressor = seat;
      this.pay(seat, this.amount - (this.bet[seat] as number));
    }
    this.acted[seat] = true;
    this.faced[seat] = this.level;
  }

  private draw(option: number, seat: number, generator: Generator): boolean {
    const price = this.price(seat);
    if (option === FOLD || option === CALL) return price > 0;
    if (option === CHECK) return price <= 0;
    if (option === BET ? this.level !== 0 : this.level === 0 || price >= (this.chips[seat] as number)) return false;
    if (option === RAISE) {
      if (!this.canAnswer(seat)) return false;
      if (this.acted[seat] && this.level - (this.faced[seat] as number) < this.fullRaise) return false;
    }
    const most = (this.bet[seat] as number) + (this.chips[seat] as number);
    const least = Math.min(most, this.level + this.fullRaise);
    this.amount = least + below(generator, most - least + 1);
    return true;
  }

  private giveUp(seat: number): void {
    const hand = this.hands[seat as 0 | 1];
    this.live[seat] = false;
    this.muck[this.mucked++] = hand[0] as number;
    this.muck[this.mucked++] = hand[1] as number;
    this.held[seat] = 0;
  }

  private made(seat: number): number {
    this.seven.set(this.board);
    this.seven.set(this.hands[seat as 0 | 1], 5);
    return this.ranker.seven(this.seven, 0);
  }

  private showdown(first: number, generator: Generator): void {
    if (this.chips[0] === 0 || this.chips[1] === 0) return;
    const opener = this.aggressor >= 0 ? this.aggressor : first;
    for (const seat of [opener, other(opener)]) {
      if (!(this.shown[other(seat)] && this.live[other(seat)] && this.made(other(seat)) > this.made(seat))) {
        this.shown[seat] = true;
        continue;
      }
      // To give up, or to show.
      this.choices++;
      if (below(generator, 2) === 0) this.giveUp(seat);
      else this.shown[seat] = true;
    }
  }

  private award(first: number): void {
    const { chips, paid, live } = this;
    const pot = (paid[0] as number) + (paid[1] as number);
    const better = live[0] && live[1] ? this.made(0) - this.made(1) : live[0] ? 1 : -1;
    if (better !== 0) {
      const winner = better > 0 ? 0 : 1;
      chips[winner] = (chips[winner] as number) + pot;
    } else {
      const share = Math.floor(pot / 2);
      chips[0] = (chips[0] as number) + share;
      chips[1] = (chips[1] as number) + share;
      chips[first] = (chips[first] as number) + (pot - 2 * share);
    }
    paid.fill(0);
  }
}

/** How a card compares where the first button is drawn. */
const height = (card: number): number =>
  (card % 13 === 0 ? 13 : card % 13) * 4 + (SUIT_PLACE[Math.floor(card / 13)] as number);
