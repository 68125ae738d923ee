import type { Waiting } from '@wily-jester/core';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Pacing } from '../src/tables/pacing.js';
import { type SeatHolder, Seats } from '../src/tables/seats.js';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

const PACE = 900;
const person: SeatHolder = { held: 'person' };
const bot: SeatHolder = { held: 'bot', bot: 'steady' };

function table(holders: readonly SeatHolder[], clocks = true) {
  const done: string[] = [];
  const seats = new Seats(holders);
  const pacing = new Pacing(PACE, clocks, seats, {
    bot: (seat) => done.push(`bot ${seat}`),
    clock: (seat, ask) => done.push(`clock ${seat} of ${ask}`),
    resume: (ask) => done.push(`resume ${ask}`),
    time: (ask) => done.push(`time of ${ask}`),
    changed: () => done.push(`changed to ${pacing.clock()?.ask ?? 'none'}`),
  });
  return { pacing, seats, done };
}
const asking = (ask: number, seconds: number | null, seats: readonly number[]): Waiting => ({
  kind: 'ask',
  ask,
  seats,
  answered: [],
  together: seats.length > 1,
  how: seats.length > 1 ? 'every' : 'one',
  about: null,
  clock: seconds === null ? null : { seconds, otherwise: 'stand' },
});

describe('the pace of a table', () => {
  it('lets a bot play after a while, and not twice', () => {
    const { pacing, done } = table([person, bot]);
    pacing.wake(asking(0, null, [2]), [1]);
    vi.advanceTimersByTime(PACE - 1);
    expect(done).toEqual([]);
    vi.advanceTimersByTime(60_000);
    expect(done).toEqual(['bot 1']);
  });

  it('ends a pause in its time', () => {
    const { pacing, done } = table([person]);
    pacing.wake({ kind: 'pause', ask: 4, seconds: 2 }, []);
    vi.advanceTimersByTime(1_999);
    expect(done).toEqual([]);
    vi.advanceTimersByTime(1);
    expect(done).toEqual(['resume 4']);
  });

  it('waits for a seat that was never seen, and winds its clock up once it is', () => {
    const { pacing, seats, done } = table([{ held: 'person', unseen: true }, person]);
    pacing.wake(asking(3, 20, [1]), [0]);
    vi.advanceTimersByTime(90_000);
    expect([done, pacing.clock()]).toEqual([[], null]);
    expect([seats.seen(0), seats.seen(0)]).toEqual([true, false]);
    pacing.wake(asking(3, 20, [1]), [0]);
    vi.advanceTimersByTime(20_000);
    expect(done).toEqual(['changed to 3', 'clock 0 of 3']);
  });

  it('answers for one of several in time, though another was never seen', () => {
    const { pacing, done } = table([{ held: 'person', unseen: true }, person]);
    pacing.wake(asking(3, 20, [1, 2]), [0, 1]);
    vi.advanceTimersByTime(20_000);
    expect(done).toEqual(['changed to 3', 'clock 1 of 3']);
  });

  it('runs a clock down once for an ask, though the table wakes again meanwhile', () => {
    const { pacing, done } = table([person, person]);
    pacing.wake(asking(3, 20, [1, 2]), [0, 1]);
    vi.advanceTimersByTime(15_000);
    expect(pacing.clock()).toMatchObject({ ask: 3, seconds: 20, left: 5 });
    pacing.wake(asking(3, 20, [2]), [1]);
    vi.advanceTimersByTime(5_000);
    expect(done).toEqual(['changed to 3', 'clock 1 of 3']);
  });

  it('begins anew for another ask, and tells of it', () => {
    const { pacing, done } = table([person]);
    pacing.wake(asking(1, 20, [1]), [0]);
    vi.advanceTimersByTime(19_000);
    pacing.wake(asking(2, 20, [1]), [0]);
    vi.advanceTimersByTime(19_000);
    expect(done).toEqual(['changed to 1', 'changed to 2']);
    pacing.wake({ kind: 'over' }, []);
    vi.advanceTimersByTime(60_000);
    expect(done).toEqual(['changed to 1', 'changed to 2', 'changed to none']);
  });

  it('answers at once for those who are away, and waits for the others', () => {
    const { pacing, seats, done } = table([person, person, { held: 'free' }]);
    for (let i = 0; i < 2; i++) seats.answered(0, true);
    pacing.wake(asking(5, 30, [1, 2, 3]), [0, 1, 2]);
    vi.advanceTimersByTime(PACE);
    expect(done).toEqual(['changed to 5', 'clock 0 of 5']);
    pacing.wake(asking(5, 30, [2, 3]), [1, 2]);
    vi.advanceTimersByTime(PACE);
    expect(done).toEqual(['changed to 5', 'clock 0 of 5', 'clock 2 of 5']);
    pacing.wake(asking(5, 30, [2]), [1]);
    vi.advanceTimersByTime(27_000);
    expect(done).toHaveLength(3);
    vi.advanceTimersByTime(3_000);
    expect(done.at(-1)).toBe('clock 1 of 5');
  });

  it('lets bots race: each takes its time, by chance, and none is asked twice', () => {
    const { pacing, done } = table([bot, person, bot]);
    const race: Waiting = { ...asking(0, 20, [1, 2, 3]), together: false, how: 'any' } as Waiting;
    pacing.wake(race, [0, 1, 2]);
    vi.advanceTimersByTime(PACE - 1);
    expect(done).toEqual(['changed to 0']);
    vi.advanceTimersByTime(2 * PACE + 1);
    expect([...done].sort()).toEqual(['bot 0', 'bot 2', 'changed to 0']);
    // Somebody stepped aside: those who were silent stay so, and the clock goes on.
    pacing.wake(race, [0, 2]);
    vi.advanceTimersByTime(20_000 - 3 * PACE);
    expect(done.slice(3)).toEqual(['time of 0']);
  });

  it('leaves a race to those who are there', () => {
    const { pacing, seats, done } = table([person, { held: 'free' }]);
    for (let i = 0; i < 2; i++) seats.answered(0, true);
    pacing.wake({ ...asking(0, null, [1, 2]), together: false, how: 'any' } as Waiting, [0, 1]);
    vi.advanceTimersByTime(60_000);
    expect(done).toEqual([]);
  });

  it('plays no clock where clocks are off, nor where an ask has none', () => {
    const still = table([person], false);
    still.pacing.wake(asking(0, 5, [1]), [0]);
    const open = table([person]);
    open.pacing.wake(asking(0, null, [1]), [0]);
    vi.advanceTimersByTime(100_000);
    expect([...still.done, ...open.done]).toEqual([]);
    expect(still.pacing.clock()).toBeNull();
  });

  it('does nothing more once it rests, and may try again later', () => {
    const { pacing, done } = table([bot]);
    pacing.wake(asking(0, null, [1]), [0]);
    pacing.rest();
    vi.advanceTimersByTime(10_000);
    expect(done).toEqual([]);
    pacing.again(1_000, () => done.push('again'));
    vi.advanceTimersByTime(1_000);
    expect(done).toEqual(['again']);
  });
});
