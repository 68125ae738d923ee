import { randomBytes } from 'node:crypto';
import { fromHex, seatPromise, serviceCommitment, toHex } from '@wily-jester/core';
import type { GatheringView, Opened, SeatPart } from '@wily-jester/protocol';
import { Problem } from '../problems.js';
import type { Gathered } from './rooms.js';

/** So long seats have to show what they promised, in milliseconds. */
const SHOWING = 10_000;

/** What is known of a table before its seats give chance. */
export interface Gatherable {
  readonly id: string;
  /** The hash of what everybody knows. */
  readonly facts: Uint8Array;
  readonly names: readonly string[];
  /** By seat: whether a person holds it. */
  readonly people: readonly boolean[];
  readonly keys: Opened['keys'];
  /** How long promises are waited for, in milliseconds. */
  readonly wait: number;
}

/**
 * One table's seats giving chance (`docs/fairness.md`): all promise, the list is frozen, and who promised shows. Whoever
 * promises nothing is left out and does no harm; whoever promised and does not show is left out, and all begins anew.
 */
export class Gathering {
  private phase: GatheringView['phase'] = 'promising';
  private seed: Uint8Array = randomBytes(32);
  private commitment: Uint8Array;
  private promises: string[];
  private shown: string[];
  private readonly isOut: boolean[];
  private readonly voids: number[] = [];
  private until = 0;
  private timer: NodeJS.Timeout | undefined;

  /** @param open called once everything was shown */
  constructor(
    private readonly about: Gatherable,
    private readonly open: (gathered: Gathered) => void,
  ) {
    this.promises = about.names.map(() => '');
    this.shown = about.names.map(() => '');
    this.isOut = about.people.map((person) => !person);
    this.commitment = serviceCommitment(about.facts, this.seed);
    this.goOnIn(about.wait, () => this.freeze());
  }

  private goOnIn(milliseconds: number, then: () => void): void {
    clearTimeout(this.timer);
    this.until = Date.now() + milliseconds;
    this.timer = setTimeout(then, milliseconds);
    this.timer.unref();
  }

  get view(): GatheringView {
    const { about, phase, promises, commitment, voids } = this;
    return {
      table: about.id,
      phase,
      facts: toHex(about.facts),
      commitment: toHex(commitment),
      promises: [...promises] as GatheringView['promises'],
      seats: about.names.map((name, i) => ({ seat: i + 1, name, state: this.stateOf(i) })),
      left: phase === 'open' ? 0 : Math.max(0, (this.until - Date.now()) / 1_000),
      voids: [...voids],
    };
  }

  private stateOf(seat: number): GatheringView['seats'][number]['state'] {
    if (!this.about.people[seat]) return 'bot';
    if (this.shown[seat] !== '') return 'shown';
    if (this.promises[seat] !== '') return 'promised';
    return this.isOut[seat] || this.phase !== 'promising' ? 'absent' : 'waiting';
  }

  /** Takes a seat's promise, or what it promised. @throws Problem where it is not the time for that, or something else was promised */
  take(seat: number, { kind, value }: Pick<SeatPart, 'kind' | 'value'>): void {
    if (!this.about.people[seat]) throw new Problem('not-allowed', 'A bot plays this seat, and gives no chance.');
    if (kind === 'promise') this.promise(seat, value);
    else this.show(seat, value);
  }

  private promise(seat: number, value: string): void {
    if (this.promises[seat] === value) return;
    if (this.phase !== 'promising' || this.isOut[seat])
      throw new Problem('changed', 'The list of promises is frozen: this seat gives no chance to this table.');
    if (this.promises[seat] !== '') throw new Problem('changed', 'This seat has promised something else already.');
    this.promises[seat] = value;
    if (this.isOut.every((out, i) => out || this.promises[i] !== '')) this.freeze();
  }

  private show(seat: number, value: string): void {
    if (this.shown[seat] === value) return;
    if (this.phase !== 'showing') throw new Problem('changed', 'It is not the time to show anything.');
    const bytes = fromHex(value);
    if (!bytes || toHex(seatPromise(this.about.facts, this.commitment, seat + 1, bytes)) !== this.promises[seat])
      throw new Problem('changed', 'This is not what this seat has promised.');
    this.shown[seat] = value;
    if (this.isShown()) this.end();
  }

  private isShown(): boolean {
    return this.promises.every((promise, i) => promise === '' || this.shown[i] !== '');
  }

  /** Waits for no more promises. */
  freeze(): void {
    if (this.phase !== 'promising') return;
    for (const [i, promise] of this.promises.entries()) if (promise === '') this.isOut[i] = true;
    this.phase = 'showing';
    if (this.isShown()) this.end();
    else this.goOnIn(SHOWING, () => this.beginAnew());
  }

  /** Somebody did not show what was promised: with what the others showed, the service could choose. All is drawn anew. */
  private beginAnew(): void {
    for (const [i, promise] of this.promises.entries())
      if (promise !== '' && this.shown[i] === '') {
        this.isOut[i] = true;
        this.voids.push(i + 1);
      }
    this.seed = randomBytes(32);
    this.commitment = serviceCommitment(this.about.facts, this.seed);
    this.promises = this.promises.map(() => '');
    this.shown = this.shown.map(() => '');
    this.phase = 'promising';
    if (this.isOut.every(Boolean)) this.freeze();
    else this.goOnIn(SHOWING, () => this.freeze());
  }

  private end(): void {
    clearTimeout(this.timer);
    this.phase = 'open';
    const { id, keys } = this.about;
    const gave = { promises: this.promises, shown: this.shown };
    this.open({ id, keys, gave, seed: toHex(this.seed), voids: this.voids });
  }

  stop(): void {
    clearTimeout(this.timer);
  }
}
