import {
  type Answer,
  type Game,
  Knowledge,
  quickChance,
  RandomPolicy,
  REGULARS,
  Simulator,
  type State,
} from '@wily-jester/core';
import { programOf, sheetText } from './support.js';

/** A choice of a game that was played at random. */
export interface Step {
  readonly before: State;
  readonly after: State;
  readonly seat: number;
  readonly answer: Answer;
}

/** The first choices of a random game whose states keep what seats have seen. */
export function played(sheet: string, seed: number, most = 60): { game: Game; steps: Step[] } {
  const program = programOf(sheetText(sheet));
  const seats = REGULARS.slice(0, program.seats[Math.min(1, program.seats.length - 1)]);
  const simulator = Simulator.of(program, { seats, tracking: true });
  const steps: Step[] = [];
  let before: State | null = null;
  let chosen: Pick<Step, 'seat' | 'answer'> | null = null;
  simulator.open(seed).play({
    policies: seats.map(() => new RandomPolicy()),
    most,
    before: (state) => {
      before = state.copy();
      chosen = null;
    },
    choosing: (_, seat, { option, args }) => {
      chosen = { seat, answer: { option, args: [...args] } };
    },
    after: (state) => {
      if (before && chosen) steps.push({ before, after: state.copy(), ...chosen });
    },
  });
  return { game: simulator.game, steps };
}

export const knowledgeOf = (game: Game, seat: number, steps: readonly Step[]): Knowledge => {
  const knowledge = new Knowledge(game, seat, quickChance(3).stream('test', 0));
  for (const { before, after, seat: chooser, answer } of steps) knowledge.note(before, after, chooser, answer);
  return knowledge;
};
