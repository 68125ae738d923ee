import { REGULARS } from '@wily-jester/core';
import type { OpenTable, Plan, SheetSummary } from '@wily-jester/protocol';

export interface SeatForm {
  name: string;
  /** A bot of the sheet, or nobody: then a person plays. */
  bot: string | null;
}

/** Games of no more faces may be small enough to be solved; whether they are is found when the table opens. */
const FEW = 16;

/** Who may play a seat that no person holds: the sheet's own bots, and those that any sheet has. */
export const botsOf = (
  plan: Pick<Plan, 'bots' | 'faces' | 'seats'>,
): readonly { readonly name: string; readonly bot: string }[] => [
  ...plan.bots.map((bot) => ({ name: bot, bot })),
  { name: 'thinks, half a second', bot: 'thinking' },
  { name: 'thinks, 2 seconds', bot: 'thinking 2s' },
  { name: 'plays at random', bot: 'random' },
  ...(Math.max(...plan.seats) <= 2 && plan.faces.length <= FEW
    ? [{ name: 'solved: nobody gains on it', bot: 'solved' }]
    : []),
];

/** The seats that a new table has at first: one person, one bot where the game allows two. */
export function firstSeats(plan: Plan): SeatForm[] {
  const count = plan.seats.includes(2) ? 2 : (plan.seats[0] ?? 1);
  return REGULARS.slice(0, count).map((name, i) => ({ name, bot: i === 0 ? null : (plan.bots[0] ?? 'thinking') }));
}

/** The settings as the sheet says them; those that follow from others are left to it. */
export const firstSettings = (plan: Plan): Record<string, number | boolean | string> =>
  Object.fromEntries(plan.settings.flatMap((s) => (s.follows ? [] : [[s.name, s.standard]])));

/** Whether later settings follow from a setting. */
export const isFollowed = (plan: Plan, name: string): boolean => plan.settings.some((s) => s.follows?.includes(name));

/** What is sent to open a table. */
export function wishFor(
  hash: string,
  seats: readonly SeatForm[],
  settings: Readonly<Record<string, number | boolean | string>>,
  clocks: boolean,
  gets: Readonly<Record<string, readonly string[]>> = {},
): OpenTable {
  const promised = Object.entries(gets).map(([path, faces]) => [path, faces.join(' ')]);
  return {
    sheet: hash,
    seats: seats.map(({ name, bot }) => (bot === null ? { name } : { name, bot })),
    settings: { ...settings },
    clocks,
    ...(promised.length > 0 ? { gets: Object.fromEntries(promised) } : {}),
  };
}

/** The kinds of game that a sheet says it is. */
export const genresOf = (sheet: Pick<SheetSummary, 'genres'>): readonly string[] => sheet.genres ?? [];

/** A kind of game in words: `twentyOne` is "Twenty-one". */
export function genreWords(name: string): string {
  const words = name.replace(/[A-Z]/g, (capital) => `-${capital.toLowerCase()}`);
  return words.charAt(0).toUpperCase() + words.slice(1);
}

/** `1 to 5 seats`, `2 seats`. */
export function seatsText(counts: readonly number[]): string {
  const first = counts[0] ?? 1;
  const last = counts.at(-1) ?? first;
  if (counts.length === 1) return first === 1 ? '1 seat' : `${first} seats`;
  return counts.length > 2 ? `${first} to ${last} seats` : `${first} or ${last} seats`;
}
