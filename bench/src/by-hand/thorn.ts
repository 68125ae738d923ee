/** Thorn and Lady for four random players, written by hand: the sheet's rules with its standard settings. */
import { below, type Chance, type Generator } from '@wily-jester/core';
import { type Played, Reservoir, shuffle } from './draws.js';

const SEATS = 4;
const TARGET = 100;
const HEARTS = 1;
const LADY = 11;
const OPENER = 39 + 1;
/** How many ways there are to choose three of thirteen cards. */
const THREES = 286;

const SUIT = Uint8Array.from({ length: 52 }, (_, c) => Math.floor(c / 13));
/** Ranks as the game compares them: the ace is the highest. */
const HEIGHT = Uint8Array.from({ length: 52 }, (_, c) => (c % 13 === 0 ? 13 : c % 13));
const POINTS = Uint8Array.from({ length: 52 }, (_, c) => (c === LADY ? 13 : Math.floor(c / 13) === HEARTS ? 1 : 0));

export class ThornByHand {
  private readonly hands = Array.from({ length: SEATS }, () => new Uint8Array(13));
  private readonly sizes = new Uint8Array(SEATS);
  private readonly taken = Array.from({ length: SEATS }, () => new Uint8Array(52));
  private readonly takenSizes = new Uint8Array(SEATS);
  private readonly pack = new Uint8Array(52);
  private readonly played = new Uint8Array(SEATS);
  private readonly given = Array.from({ length: SEATS }, () => [0, 0, 0]);
  private readonly scores = [0, 0, 0, 0];
  private readonly kept = new Reservoir();
  private broken = false;
  private choices = 0;

  play(chance: Chance): Played {
    const generator = chance.stream('player', 0);
    const { scores } = this;
    scores.fill(0);
    this.choices = 0;
    for (let c = 0; c < 52; c++) this.pack[c] = c;
    for (let deal = 0; ; deal++) {
      this.oneDeal(deal % 4, chance, deal, generator);
      const lowest = Math.min(...scores);
      if (scores.some((score) => score >= TARGET) && scores.filter((score) => score === lowest).length === 1) break;
    }
    return { choices: this.choices, outcome: [...scores] };
  }

  private oneDeal(way: number, chance: Chance, deal: number, generator: Generator): void {
    const { pack, hands, sizes, taken, takenSizes, scores } = this;
    if (deal > 0) {
      let at = 0;
      for (let seat = 0; seat < SEATS; seat++)
        for (let i = 0; i < (takenSizes[seat] as number); i++) pack[at++] = (taken[seat] as Uint8Array)[i] as number;
    }
    shuffle(pack, 52, chance, deal);
    for (let i = 0; i < 13; i++)
      for (let seat = 0; seat < SEATS; seat++) (hands[seat] as Uint8Array)[i] = pack[51 - 4 * i - seat] as number;
    sizes.fill(13);
    takenSizes.fill(0);
    this.broken = false;
    if (way !== 3) this.passing(way, generator);
    let leader = hands.findIndex((hand) => hand.includes(OPENER));
    for (let n = 0; n < 13; n++) leader = this.trick(leader, n === 0, generator);
    const points = taken.map((cards, seat) => {
      let sum = 0;
      for (let i = 0; i < (takenSizes[seat] as number); i++) sum += POINTS[cards[i] as number] as number;
      return sum;
    });
    const shooter = points.indexOf(26);
    for (let seat = 0; seat < SEATS; seat++)
      scores[seat] = (scores[seat] as number) + (shooter < 0 ? (points[seat] as number) : seat === shooter ? 0 : 26);
  }

  private passing(way: number, generator: Generator): void {
    const { hands, given } = this;
    for (let seat = 0; seat < SEATS; seat++) {
      // A set is drawn by its size, of which there is one, and then by selection sampling.
      below(generator, THREES);
      const hand = hands[seat] as Uint8Array;
      const cards = given[seat] as number[];
      for (let i = 0, found = 0; found < 3; i++)
        if (below(generator, 13 - i) < 3 - found) cards[found++] = hand[i] as number;
      this.choices++;
    }
    for (let seat = 0; seat < SEATS; seat++) {
      const hand = hands[seat] as Uint8Array;
      const cards = given[seat] as number[];
      let at = 0;
      for (let i = 0; i < 13; i++) if (!cards.includes(hand[i] as number)) hand[at++] = hand[i] as number;
      this.sizes[seat] = 10;
    }
    for (let seat = 0; seat < SEATS; seat++) {
      const to = (seat + (way === 0 ? 1 : way === 1 ? 3 : 2)) % SEATS;
      for (const card of given[seat] as number[]) {
        (hands[to] as Uint8Array)[this.sizes[to] as number] = card;
        this.sizes[to] = (this.sizes[to] as number) + 1;
      }
    }
  }

  private trick(leader: number, isFirst: boolean, generator: Generator): number {
    const { played, taken, takenSizes } = this;
    let led = -1;
    for (let i = 0; i < SEATS; i++) {
      const seat = (leader + i) % SEATS;
      const card = this.lay(seat, led, isFirst, generator);
      if (led < 0) led = SUIT[card] as number;
      if (SUIT[card] === HEARTS) this.broken = true;
      played[seat] = card;
    }
    let taker = leader;
    for (let seat = 0; seat < SEATS; seat++) {
      const card = played[seat] as number;
      if (SUIT[card] === led && (HEIGHT[card] as number) > (HEIGHT[played[taker] as number] as number)) taker = seat;
    }
    for (let seat = 0; seat < SEATS; seat++) {
      (taken[taker] as Uint8Array)[takenSizes[taker] as number] = played[seat] as number;
      takenSizes[taker] = (takenSizes[taker] as number) + 1;
    }
    return taker;
  }

  private lay(seat: number, led: number, isFirst: boolean, generator: Generator): number {
    const hand = this.hands[seat] as Uint8Array;
    const size = this.sizes[seat] as number;
    let hasLed = false;
    let allHearts = true;
    let allPoints = true;
    for (let i = 0; i < size; i++) {
      const card = hand[i] as number;
      if (SUIT[card] === led) hasLed = true;
      if (SUIT[card] !== HEARTS) allHearts = false;
      if (POINTS[card] === 0) allPoints = false;
    }
    let place = 0;
    this.kept.begin();
    for (let i = 0; i < size; i++) {
      const card = hand[i] as number;
      if (isFirst && led < 0 && card !== OPENER) continue;
      if (led >= 0 && SUIT[card] !== led && hasLed) continue;
      if (led < 0 && !this.broken && SUIT[card] === HEARTS && !allHearts) continue;
      if (isFirst && POINTS[card] !== 0 && !allPoints) continue;
      if (this.kept.takes(generator)) place = i;
    }
    const card = hand[place] as number;
    hand.copyWithin(place, place + 1, size);
    this.sizes[seat] = size - 1;
    this.choices++;
    return card;
  }
}
