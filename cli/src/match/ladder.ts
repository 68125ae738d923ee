import { Match, type Rating, ratingsOf, SoloMatch } from '@wily-jester/core';
import { Exit, WRONG_USE } from '../exit.js';
import { paint } from '../show/paint.js';
import { print, printJson } from '../show/print.js';
import type { Timed, Where } from './players.js';

interface Climb {
  readonly seed: number;
  /** For each pair. */
  readonly deals: number;
  readonly players: readonly Timed[];
  readonly isJson: boolean;
}

const Z = 1.96;
const whole = (n: number): string => `${n < 0 ? '−' : '+'}${Math.abs(Math.round(n))}`;

/** All players against each other on the same deals, and how strong that makes each. */
export function climb(where: Where, { seed, deals, players, isJson }: Climb): void {
  const { program, seats, settings } = where;
  if (seats > 2 && program.teams !== 2)
    throw new Exit('A ladder is for one seat, two seats or two sides.', WRONG_USE, 'Say how many seats: --seats 2');
  const began = performance.now();
  const wins = players.map(() => players.map(() => 0));
  const margins = players.map(() => 0);
  let games = 0;
  for (const [i, a] of players.entries())
    for (const [j, b] of players.entries()) {
      if (j <= i) continue;
      const policies = Array.from({ length: Math.max(2, seats) }, (_, seat) => (seat % 2 === 0 ? a : b).policy);
      const match =
        seats === 1
          ? new SoloMatch(program, { seed, settings, policies })
          : new Match(program, { seed, settings, policies });
      for (let deal = 0; deal < deals; deal++) match.playDeal();
      const { standings, games: played } = match.result;
      // Alone, both play each deal: that is one comparison of two games.
      const compared = seats === 1 ? played / 2 : played;
      // Of partners each is counted: together they won once.
      const share = shareOf(standings.filter(({ policy }) => policy === a.policy));
      const other = shareOf(standings.filter(({ policy }) => policy === b.policy));
      const even = share + other === 0 ? 0.5 : share / (share + other);
      (wins[i] as number[])[j] = even * compared;
      (wins[j] as number[])[i] = (1 - even) * compared;
      const margin = standings.find(({ policy }) => policy === a.policy)?.margin.mean ?? 0;
      margins[i] = (margins[i] as number) + margin / (players.length - 1);
      margins[j] = (margins[j] as number) - margin / (players.length - 1);
      games += played;
    }
  const rated = ratingsOf(wins)
    .map((rating, i) => ({
      ...rating,
      name: players[i]?.policy.name ?? '',
      each: players[i]?.each ?? 0,
      margin: margins[i] ?? 0,
      i,
    }))
    .sort((a, b) => b.rating - a.rating || b.margin - a.margin);
  const seconds = (performance.now() - began) / 1000;
  if (isJson)
    printJson({
      game: program.name,
      games,
      seconds,
      players: rated.map(({ name, rating, error, margin, each, i }) => ({
        name,
        margin,
        rating,
        interval: [rating - Z * error, rating + Z * error],
        wins: rated
          .filter((other) => other.i !== i)
          .map((other) => ({
            against: other.name,
            games: gamesOf(wins, i, other.i),
            won: wins[i]?.[other.i] ?? 0,
          })),
        millisecondsForAChoice: each,
      })),
    });
  else lines(program.name, rated, { games, seconds });
}

const shareOf = (standings: readonly { readonly wins: number }[]): number =>
  standings.reduce((sum, { wins }) => sum + wins, 0);
const gamesOf = (wins: readonly (readonly number[])[], i: number, j: number): number =>
  (wins[i]?.[j] ?? 0) + (wins[j]?.[i] ?? 0);

function lines(
  game: string,
  rated: readonly (Rating & { readonly name: string; readonly each: number; readonly margin: number })[],
  { games, seconds }: { readonly games: number; readonly seconds: number },
): void {
  const width = Math.max(...rated.map(({ name }) => name.length));
  print(`${paint.bold(game)}: all against all`);
  for (const { name, rating, error, each, margin } of rated)
    print(
      `  ${name.padEnd(width)}  ${paint.bold(whole(rating).padStart(5))}  95 % from ${whole(rating - Z * error)} to ${whole(rating + Z * error)}   ${margin < 0 ? '−' : '+'}${Math.abs(margin).toFixed(2)} a game   ${each < 10 ? each.toFixed(2) : Math.round(each)} ms a choice`,
    );
  print(paint.dim('  Ratings count games won, not by how much: 400 more wins ten of eleven; 0 is their average.'));
  print(`  ${games.toLocaleString('en')} games; ${seconds.toFixed(1)} s.`);
}
