import type { ProblemDetails } from '@wily-jester/protocol';

/** An answer that is an error: problem details (RFC 9457). */
export class ServiceError extends Error {
  override readonly name = 'ServiceError';
  constructor(readonly problem: ProblemDetails) {
    super(problem.detail);
  }
  get status(): number {
    return this.problem.status;
  }
  /** The last part of the problem's type: `stale`, `refused` … */
  get kind(): string {
    return this.problem.type.split(':').at(-1) ?? '';
  }
}

/** The service did not answer at all. */
export class Unreachable extends Error {
  override readonly name = 'Unreachable';
}

export interface ClientOptions {
  /** `http://127.0.0.1:4790`; empty in a page that the service serves itself. */
  readonly address: string;
  /** A developer, seat or watch key; absent where a cookie says who you are. */
  readonly key?: string | undefined;
}

/** Who looks: a seat's number, what everybody sees, or all hands open. */
export type Viewer = number | 'watch' | 'open';
