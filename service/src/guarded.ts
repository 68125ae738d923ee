import type { Logger } from 'pino';

/**
 * Wraps what runs from a timer, a socket or the loop itself: nobody waits for it, so nobody would catch what it throws.
 * An error is logged, and ends nothing.
 */
export function guarded<Args extends unknown[]>(
  log: Logger,
  what: string,
  work: (...args: Args) => unknown,
): (...args: Args) => void {
  const failed = (error: unknown): void => log.error({ error }, `${what} failed`);
  return (...args) => {
    try {
      const result = work(...args);
      if (result instanceof Promise) result.catch(failed);
    } catch (error) {
      failed(error);
    }
  };
}
