import type { ProblemDetails } from '@wily-jester/protocol';

const KINDS = {
  malformed: { status: 422, title: 'The request is malformed' },
  'no-key': { status: 401, title: 'A key is needed' },
  'not-allowed': { status: 403, title: 'This key may not do that' },
  turn: { status: 403, title: "It is not this seat's turn" },
  'not-found': { status: 404, title: 'There is no such thing' },
  method: { status: 405, title: 'This address does not do that' },
  stale: { status: 409, title: 'The question is no longer open' },
  refused: { status: 422, title: 'The rules do not allow it now' },
  'unknown-option': { status: 422, title: 'There is no such option' },
  'used-word': { status: 422, title: 'This word stands for another choice' },
  sheet: { status: 422, title: 'The sheet has errors' },
  setup: { status: 422, title: 'Settings or seats do not fit the sheet' },
  fault: { status: 422, title: 'The sheet made a fault' },
  'not-held': { status: 409, title: 'This seat is held otherwise' },
  differs: { status: 422, title: 'The record differs from what the rules give' },
  unplayable: { status: 409, title: 'The table cannot be played again' },
  changed: { status: 409, title: 'Somebody else has changed it meanwhile' },
  taken: { status: 409, title: 'This name is taken' },
  'in-use': { status: 409, title: 'Something else needs it' },
  closed: { status: 409, title: 'The table is closed' },
  'too-large': { status: 413, title: 'The request is too large' },
  'too-many': { status: 429, title: 'Too many requests' },
  unavailable: { status: 503, title: 'The service cannot answer now' },
  internal: { status: 500, title: 'Something went wrong here' },
} as const;
type ProblemKind = keyof typeof KINDS;
type Extra = Pick<ProblemDetails, 'number' | 'retryAfter' | 'option' | 'line' | 'column' | 'problems'>;

/** An answer that is an error: problem details (RFC 9457) with a stable type. */
export class Problem extends Error {
  override readonly name = 'Problem';
  constructor(
    readonly kind: ProblemKind,
    detail: string,
    readonly extra: Extra = {},
  ) {
    super(detail);
  }
  get status(): number {
    return KINDS[this.kind].status;
  }
  toJSON(): ProblemDetails {
    const { status, title } = KINDS[this.kind];
    return { type: `urn:wily-jester:problem:${this.kind}`, title, status, detail: this.message, ...this.extra };
  }
}
