import { fromHex, toHex } from './messages.js';
import { seatPromise } from './pledge.js';

/** How a gathering stands, as the service tells it: nothing in it is believed. */
export interface GatheringState {
  readonly phase: 'promising' | 'showing' | 'open';
  /** The hash of what everybody knows, and the service's promise of its seed. */
  readonly facts: string;
  readonly commitment: string;
  /** What seats promised, in their order; frozen once they are to be shown. */
  readonly promises: readonly string[];
  /** What each seat has done. */
  readonly seats: readonly { readonly state: string }[];
}

/** What a seat sends next. */
export type SeatMove =
  | { readonly kind: 'promise'; readonly promise: string }
  | { readonly kind: 'show'; readonly bytes: string };

/** The service does not hold to the protocol: whoever sees it shows nothing. */
export class ProtocolError extends Error {
  override readonly name = 'ProtocolError';
}

/**
 * One seat's part in the chance of a table: it promises random bytes, and shows them only once its promise stands in the
 * frozen list. Where the service begins anew it takes new bytes.
 */
export class SeatChance {
  private bytes: Uint8Array | null = null;
  private promise = '';
  /** The service's promise that the own one was made for. */
  private about = '';

  /** @param seat from 1 @param random gives 32 random bytes, new ones each time */
  constructor(
    private readonly seat: number,
    private readonly random: () => Uint8Array,
  ) {}

  /** What to send now; `null` to wait. @throws ProtocolError where the own promise was left out or changed */
  next({ phase, facts, commitment, promises, seats }: GatheringState): SeatMove | null {
    const [known, service] = [fromHex(facts), fromHex(commitment)];
    if (!known || !service) throw new ProtocolError('What the service promises cannot be read.');
    const own = promises[this.seat - 1] ?? '';
    if (phase === 'promising') {
      if (this.about === commitment && own === this.promise) return null;
      if (this.about !== commitment) {
        this.bytes = this.random();
        this.about = commitment;
        this.promise = toHex(seatPromise(known, service, this.seat, this.bytes));
      }
      if (own !== '' && own !== this.promise) throw new ProtocolError('Somebody else promised for this seat.');
      return { kind: 'promise', promise: this.promise };
    }
    if (phase !== 'showing' || !this.bytes || this.about !== commitment) return null;
    // Shown is only what everybody is bound to: else the others could still choose.
    if (own !== this.promise)
      throw new ProtocolError('The list does not hold what this seat promised: nothing is shown.');
    return seats[this.seat - 1]?.state === 'shown' ? null : { kind: 'show', bytes: toHex(this.bytes) };
  }
}
