import { describe, expect, it } from 'vitest';
import { Chain, lettersOf, type SharedLine } from '../src/fair/lines.js';
import { frozenHash, openingHash } from '../src/fair/pledge.js';
import {
  FAIR_FORM,
  FairFormError,
  factsHash,
  fromHex,
  type GatheringState,
  Pledge,
  readFairness,
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
    type Lines = Record<string, unknown>[];
    const opening = openingHash(facts, commitment, 2, gave);
    const told = (): Lines => [
      { fair: 'table', form: FAIR_FORM, facts: FACTS, hash: toHex(facts) },
      { fair: 'service', commitment: toHex(commitment) },
      { fair: 'promise', seat: 1, promise: gave.promises[0] },
      { fair: 'frozen', hash: toHex(frozenHash(facts, commitment, 2, gave)) },
      { fair: 'show', seat: 1, bytes: gave.shown[0] },
      { fair: 'ready', opening: toHex(opening) },
      { fair: 'choices', at: 0, hash: '' },
    ];
    /** Binds the lines, and reads and verifies them. */
    const verdictOf = (lines: Lines) => {
      const chain = new Chain();
      const linked = lines.map((line) => chain.link(line as unknown as SharedLine));
      const end = { fair: 'end', at: 0, head: lettersOf(chain.last) };
      return verifyFairness(readFairness([...linked, end].map((line) => JSON.stringify(line)).join('\n')));
    };
    const wrongOf = (change: (lines: Lines) => Lines): string | undefined =>
      verdictOf(change(told())).checks.find(({ agrees }) => !agrees)?.wrong;
    expect(wrongOf((lines) => lines)).toBeUndefined();
    expect(verdictOf(told()).checks.map(({ what }) => what)).toContain('what 1 of 2 seats gave');
    expect(verdictOf(told()).took).toEqual([1]);
    const changed = (kind: string, more: object) => (lines: Lines) =>
      lines.map((line) => (line.fair === kind ? { ...line, ...more } : line));
    expect(wrongOf(changed('show', { bytes: toHex(bytes(4)) }))).toContain('seat 1 showed something else');
    expect(wrongOf(changed('promise', { promise: toHex(bytes(4)) }))).toContain('seat 1 showed something else');
    expect(wrongOf(changed('frozen', { hash: toHex(bytes(4)) }))).toContain('the list that was frozen');
    expect(wrongOf(changed('ready', { opening: toHex(bytes(4)) }))).toContain('what all keys come from');
    expect(wrongOf(changed('show', { seat: 4_000_000_000 }))).toContain('no seat 4000000000');
    expect(wrongOf((lines) => lines.filter(({ fair }) => fair !== 'show'))).toContain('seat 1 showed something else');
    const forged = { promises: gave.promises, shown: [toHex(bytes(4)), ''] };
    expect(
      wrongOf((lines) =>
        changed('ready', { opening: toHex(openingHash(facts, commitment, 2, forged)) })(
          changed('show', { bytes: toHex(bytes(4)) })(lines),
        ),
      ),
    ).toContain('seat 1 showed something else');
    expect(fromHex('zz')).toBeNull();
  });

  it('is read only in its own form, and says which line is wrong', () => {
    const first = JSON.stringify({ fair: 'table', form: FAIR_FORM, facts: FACTS, hash: '', after: '' });
    const wrongOf = (text: string): string => {
      try {
        readFairness(text);
        return 'read';
      } catch (error) {
        if (error instanceof FairFormError) return error.message;
        throw error;
      }
    };
    expect(wrongOf(first)).toBe('read');
    expect(wrongOf('')).toContain('should tell of the table');
    expect(wrongOf(`${first}\n{`)).toBe('Line 2: it is no JSON.');
    for (const line of ['7', 'null', '{"fair":"toString"}', '{"fair":["card"]}'])
      expect(wrongOf(`${first}\n${line}`)).toContain('says nothing of a shuffle');
    expect(wrongOf(`${first}\n{"fair":"seen","cards":-1}`)).toContain('"cards" is missing');
    expect(wrongOf(first.replace('/3', '/1'))).toContain('its form is "wily-jester-fair/1"');
    expect(wrongOf(first.replace('"settings":{}', '"settings":{"a":[]}'))).toContain('"facts"');
  });
});
