import type { TableSummary } from '@wily-jester/protocol';
import { role, seatHeld } from '../session';

/** Whose eyes a table is seen with: a seat's, or those of whoever watches. */
export type Eyes = number | 'watch';

/**
 * Whose eyes at first: those of the key's own seat; with a developer's key those that the address names, or else the
 * first seat's that a person holds.
 * @param wish what the address says, as {@link eyesIn} wrote it
 */
export function firstEyes(table: TableSummary, wish: unknown): Eyes {
  if (role.value !== 'developer') return seatHeld.value ?? 'watch';
  if (wish === 'watch') return 'watch';
  const { seats } = table;
  return (seats.find(({ seat }) => String(seat) === wish) ?? seats.find(({ bot }) => bot === null))?.seat ?? 'watch';
}

/** The part of an address that says whose eyes, so that they stay the same from page to page of a table. */
export const eyesIn = (eyes: Eyes): { eyes: string } => ({ eyes: String(eyes) });
