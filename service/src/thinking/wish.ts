/** How long is thought. */
export interface Wish {
  /** 0: playouts alone are counted. */
  readonly milliseconds: number;
  /** At most so many. */
  readonly playouts: number;
  /** Where even the first playouts take long, it ends after so many milliseconds for good. */
  readonly latest: number;
  /** When the clock of the ask runs down, in milliseconds since 1970; `null` where none runs. */
  readonly clock: number | null;
}

/** The share of a turn clock that thinking is asked for; for good it ends after twice as long. */
const SHARE = 0.4;
/** So much longer than was asked for a person waits for the first playouts where no clock runs, in milliseconds. */
const PATIENCE = 2_000;
/** What a person asks for takes no more playouts than this. */
const MOST_PLAYOUTS = 200_000;

/** For a seat that a bot plays: others wait for it. @param clock when that of the ask runs down; `null` where none runs */
export const botWish = (milliseconds: number, playouts: number, clock: number | null, now: number): Wish =>
  withinClock({ milliseconds, playouts, latest: 2 * milliseconds, clock }, now);

/** For a person who looks at what comes of it. @param clock when that of the ask runs down; `null` where none runs */
export const personWish = (milliseconds: number, clock: number | null, now: number): Wish =>
  withinClock({ milliseconds, playouts: MOST_PLAYOUTS, latest: milliseconds + PATIENCE, clock }, now);

/** What is left of it once it is begun: it may have waited for others, and for its thread to start. */
export function withinClock(wish: Wish, now: number): Wish {
  if (wish.clock === null || wish.milliseconds === 0) return wish;
  const milliseconds = Math.max(1, Math.min(wish.milliseconds, Math.floor((wish.clock - now) * SHARE)));
  return { ...wish, milliseconds, latest: Math.min(wish.latest, 2 * milliseconds) };
}
