import { describe, expect, it } from 'vitest';
import {
  factsHash,
  fromHex,
  type GatheringState,
  Pledge,
  SeatChance,
  seatPromise,
  serviceCommitment,
  toHex,
  verifyFairness,
} from '../src/index.js';

const FACTS = {
  table: 'abcdefghijkm',
  sheet: 'a'.repeat(64),
  semantics: 9,
  settings: {},
  seats: ['Wren', 'Otter'],
  deck: ['AS', 'KH'],
};
const facts = factsHash(FACTS);
const seed = new Uint8Array(32).fill(7);
const commitment = serviceCommitment(facts, seed);
const stateWith = (phase: GatheringState['phase'], promises: string[], service = commitment): GatheringState => ({
  phase,
  facts: toHex(facts),
  commitment: toHex(service),
  promises,
  seats: [],
});
const bytes = (n: number): Uint8Array => new Uint8Array(32).fill(n);

describe('a seat that gives chance', () => {
  it('promises, waits, and shows what it promised once its promise is frozen', () => {
    const seat = new SeatChance(2, () => bytes(5));
    const move = seat.next(stateWith('promising', ['', '']));
    const promise = toHex(seatPromise(facts, commitment, 2, bytes(5)));
    expect(move).toEqual({ kind: 'promise', promise });
    expect(seat.next(stateWith('promising', ['', promise]))).toBeNull();
    expect(seat.next(stateWith('showing', ['', promise]))).toEqual({ kind: 'show', bytes: toHex(bytes(5)) });
    const shown = { ...stateWith('showing', ['', promise]), seats: [{ state: 'waiting' }, { state: 'shown' }] };
    expect(seat.next(shown)).toBeNull();
    expect(seat.next(stateWith('open', ['', promise]))).toBeNull();
  });

  it('shows nothing where its promise was left out or changed, or where it promised nothing', () => {
    const seat = new SeatChance(2, () => bytes(5));
    seat.next(stateWith('promising', ['', '']));
    expect(() => seat.next(stateWith('showing', ['', 'b'.repeat(64)]))).toThrow('nothing is shown');
    expect(() => seat.next(stateWith('showing', ['', '']))).toThrow('nothing is shown');
    expect(() => seat.next(stateWith('promising', ['', 'b'.repeat(64)]))).toThrow('Somebody else promised');
    expect(new SeatChance(1, () => bytes(1)).next(stateWith('showing', ['', '']))).toBeNull();
    expect(() => seat.next({ ...stateWith('promising', ['', '']), facts: 'x' })).toThrow('cannot be read');
  });

  it('takes new bytes where the service begins anew', () => {
    let n = 0;
    const seat = new SeatChance(1, () => bytes(++n));
    const first = seat.next(stateWith('promising', ['', '']));
    const other = serviceCommitment(facts, bytes(9));
    const second = seat.next(stateWith('promising', ['', ''], other));
    expect(second).not.toEqual(first);
    const promise = second?.kind === 'promise' ? second.promise : '';
    expect(seat.next(stateWith('showing', [promise, ''], other))).toEqual({ kind: 'show', bytes: toHex(bytes(2)) });
    // What was shown for the first draw is of no use for the second.
    expect(() => seat.next(stateWith('showing', [promise, '']))).not.toThrow();
    expect(seat.next(stateWith('showing', [promise, '']))).toBeNull();
  });
});

describe('the chance of a table', () => {
  const promise = (seat: number, value: number): string => toHex(seatPromise(facts, commitment, seat, bytes(value)));
  const gave = { promises: [promise(1, 3), ''], shown: [toHex(bytes(3)), ''] };
  const of = { shuffle: 1, pile: 'pack', cards: 2 };

  it('hangs on what the service and what each seat gave', () => {
    const key = (pledge: Pledge): string => toHex(pledge.key('digest'));
    const alone = new Pledge(FACTS, seed);
    const first = new Pledge(FACTS, seed, gave);
    const other = new Pledge(FACTS, seed, { promises: [promise(1, 4), ''], shown: [toHex(bytes(4)), ''] });
    const service = new Pledge(FACTS, bytes(8), gave);
    expect(new Set([alone, first, other, service].map(key)).size).toBe(4);
    expect(toHex(alone.opening)).not.toBe(toHex(first.opening));
    expect(first.generator(of).next()).not.toBe(other.generator(of).next());
  });

  it('is verified: each seat showed what it had promised', () => {
    const given = {
      form: 'wily-jester-fair/1',
      facts: FACTS,
      table: toHex(facts),
      commitment: toHex(commitment),
      took: [1],
      gave,
      shuffles: [],
      cards: [],
      seenNotOpened: 0,
    };
    expect(verifyFairness(given).agrees).toBe(true);
    expect(verifyFairness(given).checks.map(({ what }) => what)).toContain('what 1 of 2 seats gave');
    const wrongOf = (changed: object): string | undefined =>
      verifyFairness({ ...given, ...changed }).checks.find(({ agrees }) => !agrees)?.wrong;
    expect(wrongOf({ gave: { ...gave, shown: [toHex(bytes(4)), ''] } })).toContain('seat 1 showed something else');
    expect(wrongOf({ gave: { promises: gave.promises, shown: ['', ''] }, took: [] })).toContain('seat 1 showed');
    expect(wrongOf({ took: [1, 2] })).toContain('other seats are named');
    expect(wrongOf({ gave: { promises: [''], shown: [''] }, took: [] })).toContain('not told of every seat');
    expect(fromHex('zz')).toBeNull();
  });
});
