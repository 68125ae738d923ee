import { randomBytes } from 'node:crypto';
import { fromHex, seatPromise, serviceCommitment, toHex } from '@wily-jester/core';
import type { GatheringView, SeatPart } from '@wily-jester/protocol';
import { Problem } from '../problems.js';
import type { Gathered } from './rooms.js';

/** So long seats have to show what they promised, in milliseconds. */
const SHOWING = 10_000;

/** Who sits at a table before its seats give chance. */
interface Gatherable {
  /** The hash of what everybody knows. */
  readonly facts: Uint8Array;
  readonly names: readonly string[];
  /** By seat: whether a person holds it. */
  readonly people: readonly boolean[];
  /** How long promises are waited for, in milliseconds. */
  readonly wait: number;
}

/** How a gathering stands, as it is kept; bytes as hexadecimal. */
export interface GatheringState {
  readonly facts: string;
  readonly names: readonly string[];
  readonly people: readonly boolean[];
  phase: GatheringView['phase'];
  /** The service's own part; a new one where all begins anew. */
  seed: string;
  promises: string[];
  shown: string[];
  /** By seat: whether it gives no chance to this table. */
  readonly isOut: boolean[];
  readonly voids: number[];
  /** Until when the phase lasts at most, in milliseconds since 1970. */
  until: number;
}

/**
 * One table's seats giving chance (`docs/fairness.md`): all promise, the list is frozen, and who promised shows. Whoever
 * promises nothing is left out and does no harm; whoever promised and does not show is left out, and all begins anew.
 * It is told what time it is, in milliseconds since 1970.
 */
export class Gathering {
  private readonly facts: Uint8Array;

  constructor(readonly state: GatheringState) {
    this.facts = fromHex(state.facts) ?? new Uint8Array();
  }

  static begin({ facts, names, people, wait }: Gatherable, now: number): Gathering {
    const gathering = new Gathering({
      facts: toHex(facts),
      names,
      people,
      phase: 'promising',
      seed: toHex(randomBytes(32)),
      promises: names.map(() => ''),
      shown: names.map(() => ''),
      isOut: people.map((person) => !person),
      voids: [],
      until: now + wait,
    });
    // Where bots alone sit there is nobody to wait for.
    if (!people.includes(true)) gathering.freeze(now);
    return gathering;
  }

  private get commitment(): Uint8Array {
    return serviceCommitment(this.facts, fromHex(this.state.seed) ?? new Uint8Array());
  }
  get isOpen(): boolean {
    return this.state.phase === 'open';
  }
  /** Whether its time has come to go on by itself. */
  isDue(now: number): boolean {
    return !this.isOpen && now >= this.state.until;
  }

  view(table: string, now: number): GatheringView {
    const { phase, facts, names, promises, voids, until } = this.state;
    return {
      table,
      phase,
      facts,
      commitment: toHex(this.commitment),
      promises: [...promises] as GatheringView['promises'],
      seats: names.map((name, i) => ({ seat: i + 1, name, state: this.stateOf(i) })),
      left: phase === 'open' ? 0 : Math.max(0, (until - now) / 1_000),
      voids: [...voids],
    };
  }

  private stateOf(seat: number): GatheringView['seats'][number]['state'] {
    const { people, shown, promises, isOut, phase } = this.state;
    if (!people[seat]) return 'bot';
    if (shown[seat] !== '') return 'shown';
    if (promises[seat] !== '') return 'promised';
    return isOut[seat] || phase !== 'promising' ? 'absent' : 'waiting';
  }

  /** What the table is opened with, once all is shown. */
  get gathered(): Omit<Gathered, 'id'> {
    const { seed, promises, shown, voids } = this.state;
    return { seed, gave: { promises, shown }, voids };
  }

  /** Takes a seat's promise, or what it promised. @throws Problem where it is not the time for that, or something else was promised */
  take(seat: number, { kind, value }: Pick<SeatPart, 'kind' | 'value'>, now: number): void {
    if (!this.state.people[seat]) throw new Problem('not-allowed', 'A bot plays this seat, and gives no chance.');
    if (kind === 'promise') this.promise(seat, value, now);
    else this.show(seat, value);
  }

  private promise(seat: number, value: string, now: number): void {
    const { promises, phase, isOut } = this.state;
    if (promises[seat] === value) return;
    if (phase !== 'promising' || isOut[seat])
      throw new Problem('changed', 'The list of promises is frozen: this seat gives no chance to this table.');
    if (promises[seat] !== '') throw new Problem('changed', 'This seat has promised something else already.');
    promises[seat] = value;
    if (isOut.every((out, i) => out || promises[i] !== '')) this.freeze(now);
  }

  private show(seat: number, value: string): void {
    const { promises, shown, phase } = this.state;
    if (shown[seat] === value) return;
    if (phase !== 'showing') throw new Problem('changed', 'It is not the time to show anything.');
    const bytes = fromHex(value);
    if (!bytes || toHex(seatPromise(this.facts, this.commitment, seat + 1, bytes)) !== promises[seat])
      throw new Problem('changed', 'This is not what this seat has promised.');
    shown[seat] = value;
    this.openIfShown();
  }

  private openIfShown(): void {
    const { promises, shown } = this.state;
    if (promises.every((promise, i) => promise === '' || shown[i] !== '')) this.state.phase = 'open';
  }

  /** Waits for no more promises. */
  freeze(now: number): void {
    const { state } = this;
    if (state.phase !== 'promising') return;
    for (const [i, promise] of state.promises.entries()) if (promise === '') state.isOut[i] = true;
    state.phase = 'showing';
    state.until = now + SHOWING;
    this.openIfShown();
  }

  /** Goes on by itself where its time has come. */
  goOn(now: number): void {
    if (!this.isDue(now)) return;
    if (this.state.phase === 'promising') this.freeze(now);
    else this.beginAnew(now);
  }

  /** Somebody did not show what was promised: with what the others showed, the service could choose. All is drawn anew. */
  private beginAnew(now: number): void {
    const { state } = this;
    for (const [i, promise] of state.promises.entries())
      if (promise !== '' && state.shown[i] === '') {
        state.isOut[i] = true;
        state.voids.push(i + 1);
      }
    state.seed = toHex(randomBytes(32));
    state.promises = state.promises.map(() => '');
    state.shown = state.shown.map(() => '');
    state.phase = 'promising';
    state.until = now + SHOWING;
    if (state.isOut.every(Boolean)) this.freeze(now);
  }
}
