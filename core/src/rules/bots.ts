import type { Generator } from '../chance/generator.js';
import type { Answer } from '../machine/code.js';
import { Fault } from '../machine/fault.js';
import { ASK } from '../machine/layout.js';
import { BUDGETS } from '../machine/prices.js';
import type { State } from '../machine/state.js';
import { lineOf } from '../program/types.js';
import { isLegal, untested } from './legal.js';
import type { Rules } from './rules.js';

/** The number of a bot by name, or −1. */
export const botNamed = ({ program }: Pick<Rules, 'program'>, name: string): number =>
  program.bots.findIndex((bot) => bot.name === name);

/** Where the open ask stands in the sheet. */
export const askPlace = ({ program }: Rules, state: State): number => program.asks[state.f[ASK] as number]?.at ?? 0;

/** An answer that stays as it is when generated code finds the next one. */
export const keptAnswer = ({ option, args }: Answer): Answer => ({ option, args: [...args] });

/**
 * What a scripted bot plays: the first of its lines that has a legal choice; among those the most
 * preferred; ties by the bot's own chance.
 * @returns `null` where no line fits
 * @throws HiddenRead where a line reads what the seat may not see
 */
export function botAnswer({ code }: Rules, s: State, bot: number, seat: number, generator: Generator): Answer | null {
  code.begin(BUDGETS.thinking);
  const answer = code.bots[bot]?.(s, seat, generator) ?? null;
  return answer && keptAnswer(answer);
}

/** What each line of a scripted bot would play by itself, one after the other; `null` where it fits nothing, or makes a fault. */
export function* lineAnswers(
  { code }: Rules,
  s: State,
  bot: number,
  seat: number,
  generator: Generator,
): Iterable<Answer | null> {
  for (const line of code.botLines[bot]?.(s, generator) ?? []) {
    code.begin(BUDGETS.thinking);
    let answer: Answer | null = null;
    try {
      answer = line?.(s, seat, generator) ?? null;
    } catch (error) {
      if (!(error instanceof Fault)) throw error;
    }
    yield answer && keptAnswer(answer);
  }
}

/**
 * What the turn clock plays for a seat: the first of its options that is legal, or what its bot plays.
 * @returns `null` where nothing is legal
 */
export function clockAnswer(rules: Rules, s: State, seat: number, generator: Generator): Answer | null {
  const ask = s.f[ASK] as number;
  const declared = rules.program.asks[ask];
  const otherwise = declared?.clock?.otherwise ?? [];
  if (otherwise === 'stuck') return null;
  if ('bot' in otherwise) return botAnswer(rules, s, otherwise.bot, seat, generator);
  rules.code.begin(BUDGETS.thinking);
  for (const name of otherwise) {
    const index = declared?.options.findIndex((option) => option.name === name) ?? -1;
    if (index >= 0 && isLegal(rules, s, ask, index, seat)) return { option: index, args: [] };
  }
  return null;
}

/** A clock that has nothing to play is a fault of its sheet. */
export const noClockChoice = (rules: Rules, state: State, who: string): Fault =>
  new Fault(`The clock ran out, and nothing that it could play for ${who} is legal.`, askPlace(rules, state));

/** Says of an option that too much would have to be tested, where that may be why nothing was found. */
export function untestedWords(rules: Rules, state: State, seat: number): string {
  const option = untested(rules, state, seat);
  return option
    ? ` Among the ways to "${option.name}" (line ${lineOf(option.at)}) that can be tested none is legal: ask twice in turn, or narrow what is chosen from.`
    : '';
}

/** A bot that has nothing to play is a fault of its sheet. */
export const noLineFits = (rules: Rules, state: State, bot: string, seat: number): Fault =>
  new Fault(
    `The bot "${bot}" has no line that fits here. End it with an option that is always allowed.${untestedWords(rules, state, seat)}`,
    askPlace(rules, state),
  );
