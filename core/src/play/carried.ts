import type { Answer, Arg } from '../machine/code.js';
import { ASK } from '../machine/layout.js';
import type { State } from '../machine/state.js';
import { type Piece, render, wordsOf } from '../machine/text.js';
import type { Option } from '../program/types.js';
import type { Game } from '../rules/game.js';
import { asSeen, openly } from '../rules/handles.js';
import { renderingFor } from '../rules/rendering.js';
import type { Naming } from '../rules/values.js';
import { type ArgValue, writeArg } from '../rules/values.js';
import type { Carried } from '../views/events.js';
import { phraseOf } from '../views/labels.js';

/** The option that an answer chooses. */
export function optionOf(game: Game, state: State, answer: Answer): Option {
  const option = game.program.asks[state.f[ASK] as number]?.options[answer.option];
  if (!option) throw new Error(`there is no option ${answer.option}`);
  return option;
}

/** The values of an answer by the names of their parameters. */
function argsBy(naming: Naming, game: Game, state: State, answer: Answer): Record<string, ArgValue> {
  const { params } = optionOf(game, state, answer);
  return Object.fromEntries(
    params.map((param, i): [string, ArgValue] => [param.name, writeArg(game, naming, param.t, answer.args[i] as Arg)]),
  );
}

/** The same as records keep them. */
export const argsOf = (game: Game, state: State, answer: Answer): Record<string, ArgValue> =>
  argsBy(openly(game, state), game, state, answer);

/** The same as a seat sends them. */
export const argsFrom = (game: Game, state: State, seat: number, answer: Answer): Record<string, ArgValue> =>
  argsBy(asSeen(game, state, seat), game, state, answer);

/** The label of a choice: the option's own, or its name with the cards that it takes. */
function labelOf(game: Game, state: State, seat: number, answer: Answer): readonly Piece[] {
  const option = optionOf(game, state, answer);
  const code = game.code.options[state.f[ASK] as number]?.[answer.option];
  const pieces = code?.label?.(state, seat, ...answer.args);
  if (pieces) return phraseOf(option.name, pieces);
  const cards = option.params.flatMap((param, i): Piece[] => {
    const arg = answer.args[i] as Arg;
    if (typeof arg !== 'number') return [' ', game.rt.cardsPiece(state, arg, option.at)];
    return param.t === 'card' ? [' ', game.rt.cardPiece(state, arg)] : [];
  });
  return [wordsOf(option.name), ...cards];
}

/** A choice as it is told of: before it is carried out. @param args its values, as {@link argsOf} gives them */
export function carriedBy(
  game: Game,
  state: State,
  seat: number,
  answer: Answer,
  args: Readonly<Record<string, ArgValue>>,
): Carried {
  return {
    seat,
    option: optionOf(game, state, answer).name,
    label: labelOf(game, state, seat, answer),
    args: Object.values(args),
  };
}

/** A choice in words, as its seat reads it. */
export const choiceWords = (game: Game, state: State, seat: number, answer: Answer): string =>
  render(labelOf(game, state, seat, answer), renderingFor(game, seat));
