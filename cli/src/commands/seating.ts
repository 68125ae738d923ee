import { type Program, REGULARS, STRENGTHS, StrengthError, strengthOf, strengthWords } from '@wily-jester/core';
import type { Plan } from '@wily-jester/protocol';
import { Exit, WRONG_USE } from '../exit.js';

export interface SeatWish {
  name: string;
  bot?: string;
}

/**
 * Reads `--seats Wren,Otter:steady,Heron:thinking 2s`; without it as many seats as the game needs at least, two where it allows them.
 * @param others who sits beside the first person where nothing is said: bots in a terminal, people at a live table
 */
export function seatsFrom(
  text: string | undefined,
  counts: readonly number[],
  bots: readonly string[],
  others: 'bots' | 'people' = 'bots',
): SeatWish[] {
  const bot = bots[0];
  if (text === undefined) {
    const wanted = counts.includes(2) ? 2 : (counts[0] ?? 1);
    return REGULARS.slice(0, wanted).map((name, i) =>
      i > 0 && others === 'bots' ? { name, bot: bot ?? 'thinking' } : { name },
    );
  }
  return text.split(',').map((part) => {
    const [name = '', ...words] = part.split(':').map((word) => word.trim());
    const wish = words.length > 0 ? words.join(' ') : undefined;
    if (!name) throw new Exit('--seats has an empty name: write it like Wren,Otter:steady.', WRONG_USE);
    if (wish === undefined) return { name };
    const known = wish === 'bot' ? (bot ?? 'thinking') : readWish(wish, bots);
    if (known === undefined)
      throw new Exit(`This sheet has no bot "${wish}".`, WRONG_USE, `It has ${[...bots, ...STRENGTHS].join(', ')}.`);
    return { name, bot: known };
  });
}

/** A bot of the sheet, or a strength that any sheet has, such as `thinking 2s`. @throws Exit for a time that cannot be read */
export function readWish(wish: string, bots: readonly string[]): string | undefined {
  try {
    const strength = strengthOf(wish);
    return strength.kind === 'scripted' ? bots.find((bot) => bot === wish) : strengthWords(strength);
  } catch (error) {
    if (error instanceof StrengthError) throw new Exit(error.message, WRONG_USE);
    throw error;
  }
}

/** Reads `--set` for a sheet that is compiled here. */
export const settingsOf = (program: Program, words: readonly string[] = []): ReturnType<typeof settingsFrom> =>
  settingsFrom(
    words,
    program.settings.map(({ name, t }) => ({ name, type: t === 'int' ? 'int' : t === 'flag' ? 'flag' : 'word' })),
  );

/** Reads `--set rounds=5 softHit=yes`. What the values may be, the sheet itself says. */
export function settingsFrom(
  words: readonly string[],
  known: readonly Pick<Plan['settings'][number], 'name' | 'type'>[],
): Record<string, number | boolean | string> {
  const settings: Record<string, number | boolean | string> = {};
  for (const word of words) {
    const [, name, value] = /^(\w+)=(.+)$/.exec(word) ?? [];
    if (name === undefined || value === undefined)
      throw new Exit(`"${word}" is no setting: write it like rounds=5.`, WRONG_USE);
    const setting = known.find((s) => s.name === name);
    settings[name] = setting?.type === 'int' && /^-?\d+$/.test(value) ? Number(value) : value;
  }
  return settings;
}
