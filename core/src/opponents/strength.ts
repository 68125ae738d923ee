/** How a seat is played: by a bot of the sheet, at random, by a solution of the game, or by thinking for a time or for so many playouts. */
export type Strength =
  | { readonly kind: 'scripted'; readonly name: string }
  | { readonly kind: 'random' }
  | { readonly kind: 'solved' }
  | { readonly kind: 'thinking'; readonly milliseconds: number; readonly playouts: number };

/** What any sheet has: no bot of a sheet may be called so. */
export const STRENGTHS: readonly string[] = ['thinking', 'random', 'solved'];

/** How long is thought where nothing is said, in milliseconds. */
export const USUAL_THINKING = 500;
/** Thinking takes at most so long, in milliseconds. */
export const LONGEST_THINKING = 60_000;
/** Where time is given, playouts are bounded all the same. */
const MOST_PLAYOUTS = 200_000;

/** A strength that is written as nobody can read it. */
export class StrengthError extends Error {
  override readonly name = 'StrengthError';
}

const THINKING = /^thinking(?:[ :](\d+)(ms|s| playouts|p))?$/;

/**
 * Reads a strength: `thinking`, `thinking 50ms`, `thinking 2s`, `thinking 400 playouts` (a colon may stand for the blank),
 * `random`, `solved`, or the name of one of the sheet's bots.
 * @throws StrengthError for a time that cannot be read
 */
export function strengthOf(words: string): Strength {
  if (words === 'random' || words === 'solved') return { kind: words };
  if (!words.startsWith('thinking')) return { kind: 'scripted', name: words };
  const read = THINKING.exec(words);
  if (!read)
    throw new StrengthError(
      `"${words}" cannot be read: write thinking, thinking 50ms, thinking 2s or thinking 400 playouts.`,
    );
  const [, amount, unit] = read;
  if (amount === undefined) return { kind: 'thinking', milliseconds: USUAL_THINKING, playouts: MOST_PLAYOUTS };
  const count = Number(amount);
  if (unit === ' playouts' || unit === 'p') {
    if (count < 1 || count > MOST_PLAYOUTS)
      throw new StrengthError(`Thinking takes 1 to ${MOST_PLAYOUTS.toLocaleString('en')} playouts, not ${amount}.`);
    return { kind: 'thinking', milliseconds: 0, playouts: count };
  }
  const milliseconds = unit === 's' ? count * 1000 : count;
  if (milliseconds < 1 || milliseconds > LONGEST_THINKING)
    throw new StrengthError(`Thinking takes 1ms to ${LONGEST_THINKING / 1000}s, not ${amount}${unit}.`);
  return { kind: 'thinking', milliseconds, playouts: MOST_PLAYOUTS };
}

/** A strength in words that {@link strengthOf} reads. */
export function strengthWords(strength: Strength): string {
  if (strength.kind === 'scripted') return strength.name;
  if (strength.kind !== 'thinking') return strength.kind;
  const { milliseconds, playouts } = strength;
  if (milliseconds === 0) return `thinking ${playouts} playouts`;
  if (milliseconds === USUAL_THINKING) return 'thinking';
  return milliseconds % 1000 === 0 ? `thinking ${milliseconds / 1000}s` : `thinking ${milliseconds}ms`;
}
