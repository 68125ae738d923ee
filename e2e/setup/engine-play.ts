import { drawChoice, quickChance, Table } from '@wily-jester/core';
import { compileSheet } from '@wily-jester/motley';

/** What a worker is asked: to compile a sheet and play so many choices of it. */
export interface PlayWish {
  readonly source: string;
  readonly seats: readonly string[];
  readonly choices: number;
}
export type PlayAnswer = { readonly digests: readonly string[] } | { readonly problems: readonly unknown[] };

/** Compiles a sheet and plays games of it at random, always the same way; a digest for each choice. */
export function playSome({ source, seats, choices }: PlayWish): PlayAnswer {
  const { program, problems } = compileSheet(source);
  if (!program) return { problems };
  const generator = quickChance(3).stream('player', 0);
  const digests: string[] = [];
  for (let game = 0; digests.length < choices; game++) {
    const table = new Table(program, { seats, seed: `anywhere ${game}` });
    while (!table.isOver && digests.length < choices) {
      const [seat = 0] = table.asked;
      const answer = table.isPaused ? null : drawChoice(table.game, table.state, seat, generator, false);
      digests.push((answer ? table.carryOut(seat, answer, 'person') : table.resume()).row.digest);
    }
  }
  return { digests };
}
