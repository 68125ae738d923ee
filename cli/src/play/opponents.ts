import { signed } from '@wily-jester/charts';
import {
  type Budget,
  botNamed,
  budgetOf,
  isPlayed,
  type Played,
  strengthOf,
  type Table,
  type Thought,
  type WireChoice,
} from '@wily-jester/core';

/** The time for a hint, in milliseconds. */
export const HINT = 1_000;

/** A budget by this machine's clock. */
export const budgetFor = (milliseconds: number, playouts: number): Budget =>
  budgetOf(milliseconds, playouts, () => performance.now());

/**
 * What a seat plays that no person holds; `null` where it finds nothing.
 * @param solved what a solution of the game has a seat choose
 */
export function playFor(
  table: Table,
  seat: number,
  words: string,
  solved: (seat: number) => WireChoice | null,
): Played | null {
  const strength = strengthOf(words);
  switch (strength.kind) {
    case 'random':
      return table.playAny(seat);
    case 'solved': {
      const choice = solved(seat);
      const played = choice && table.choose(seat, choice, 'bot');
      return played && isPlayed(played) ? played : null;
    }
    case 'thinking':
      return table.playThought(seat, budgetFor(strength.milliseconds, strength.playouts));
    case 'scripted': {
      const bot = botNamed(table.game, strength.name);
      return table.isRace ? table.tryBot(seat, bot) : table.playBot(seat, bot);
    }
  }
}

/** The best choices of a thought in lines: what each is worth beside the best, and how sure that is. */
export function hintLines(table: Table, seat: number, thought: Thought, most = 4): string[] {
  const [best] = thought.choices;
  if (!best) return [`${table.wordsFor(seat, thought.answer)}: there is nothing else to choose.`];
  const shown = thought.choices.filter(({ playouts }) => playouts > 1).slice(0, most);
  if (shown.length === 0)
    return [`${table.wordsFor(seat, best.answer)}: there was no time to weigh it against the others.`];
  const width = Math.max(...shown.map(({ answer }) => table.wordsFor(seat, answer).length));
  const lines = shown.map(({ answer, mean, error }, i) => {
    const words = table.wordsFor(seat, answer).padEnd(width);
    return `  ${i === 0 ? '▸' : ' '} ${words}  ${signed(mean, 2).padStart(5)} ± ${(1.96 * error).toFixed(2)}`;
  });
  return [
    ...lines,
    `  points by the end of the chapter, ahead of the others; ${thought.playouts.toLocaleString('en')} playouts`,
  ];
}
