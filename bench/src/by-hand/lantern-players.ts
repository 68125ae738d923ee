/** One seat at Lantern Twenty-One, played at random or by the sheet's own bot: loops around the game written by hand. */
import { below, type Chance, type Generator, quickChance } from '@wily-jester/core';
import { OptionOrder, type Played } from './draws.js';
import { BET, DOUBLE, HIT, LanternByHand, SIT_OUT, STAND } from './lantern.js';

const STAKE = 200;
const ROUNDS = 20;
const DECKS = 6;
const LOW_BET = 10;

const game = new LanternByHand(quickChance(0), STAKE, ROUNDS, DECKS);
const wagers = new OptionOrder([BET, SIT_OUT]);
const moves = new OptionOrder([HIT, STAND, DOUBLE]);

/** Plays a game at random, as the engine's random policy draws. */
export function lanternAtRandom(chance: Chance): Played {
  game.begin(chance);
  const generator = chance.stream('player', 0);
  let choices = 0;
  while (game.wait !== 'over') {
    if (game.wait === 'pause') {
      game.resume();
      continue;
    }
    choices++;
    if (game.wait === 'bet') {
      wagers.begin();
      let amount = 0;
      if (wagers.next(generator) === BET) {
        const most = game.bank - (game.bank % 2);
        const many = Math.ceil((most - LOW_BET) / 2) + 1;
        amount = Math.min(most, LOW_BET + 2 * below(generator, many));
      }
      game.answer(amount > 0 ? BET : SIT_OUT, amount);
      continue;
    }
    moves.begin();
    let option = moves.next(generator);
    while (option === DOUBLE && (game.size[3] !== 2 || game.bank < game.bet)) option = moves.next(generator);
    game.answer(option, 0);
  }
  return { choices, outcome: [game.bank, game.houseWon] };
}

/** Plays a game as the sheet's bot `steady` does: the lowest bet, and cards below seventeen. */
export function lanternBySteady(chance: Chance): Played {
  game.begin(chance);
  let choices = 0;
  while (game.wait !== 'over') {
    if (game.wait === 'pause') {
      game.resume();
      continue;
    }
    choices++;
    if (game.wait === 'bet') game.answer(BET, LOW_BET);
    else game.answer(game.total(3) < 17 ? HIT : STAND, 0);
  }
  return { choices, outcome: [game.bank, game.houseWon] };
}

const another = (): LanternByHand => new LanternByHand(quickChance(0), STAKE, ROUNDS, DECKS);
const [open, dealt, world] = [another(), another(), another()];

/** The first turn of a game in which the seat has something to decide. */
export function lanternTurn(chance: Chance): void {
  open.begin(chance);
  while (open.wait !== 'turn') {
    if (open.wait === 'pause') open.resume();
    else open.answer(BET, LOW_BET);
  }
}

/** Holds hitting and standing there against each other, in as many worlds: what each brought, the round played on as `steady` does. */
export function lanternThought(worlds: number, generator: Generator): readonly [hit: number, stand: number] {
  const sums = [0, 0] as [number, number];
  for (let i = 0; i < worlds; i++) {
    dealt.copyFrom(open);
    dealt.redeal(generator);
    for (const option of [HIT, STAND]) {
      world.copyFrom(dealt);
      world.answer(option, 0);
      while (world.wait === 'turn') world.answer(world.total(3) < 17 ? HIT : STAND, 0);
      sums[option] = (sums[option] as number) + world.bank - open.bank;
    }
  }
  return sums;
}
