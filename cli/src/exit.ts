/** Exit codes: done; the answer is no; wrong use. */
export const DONE = 0;
export const NO = 1;
export const WRONG_USE = 2;

/** Ends a command with a message for a person, on stderr. */
export class Exit extends Error {
  override readonly name = 'Exit';
  constructor(
    message: string,
    readonly code: typeof NO | typeof WRONG_USE,
    /** What to do next. */
    readonly next?: string,
  ) {
    super(message);
  }
}
