/** Exit codes: done; the answer is no; wrong use. */
export const DONE = 0;
export const NO = 1;
export const WRONG_USE = 2;

/** What each exit code means, as help and documents say it. */
export const EXIT_CODES: readonly (readonly [number, string])[] = [
  [DONE, 'done'],
  [NO, 'the answer is no: a problem, a failed rehearsal, a refusal, a fault'],
  [WRONG_USE, 'wrong use: an option, a file or a setting that cannot be read'],
];

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
