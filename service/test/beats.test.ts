import { pino } from 'pino';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Beats, type Feed } from '../src/live/feed.js';

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
});

/** A feed that notes when it was asked to say that it is alive. */
function feed(): { feed: Feed; at: number[] } {
  const at: number[] = [];
  return { feed: { sayAlive: () => at.push(Date.now()) } as unknown as Feed, at };
}

describe('the beats of feeds', () => {
  it('come every twenty seconds for each, whoever else comes and goes', () => {
    const beats = new Beats(pino({ level: 'silent' }));
    const stays = Array.from({ length: 250 }, feed);
    for (const each of stays) beats.add(each.feed);
    for (let second = 0; second < 100; second++) {
      const leave = beats.add(feed().feed);
      vi.advanceTimersByTime(700);
      leave();
      vi.advanceTimersByTime(300);
    }
    for (const { at } of stays) {
      expect(at).toHaveLength(5);
      for (let i = 1; i < at.length; i++) expect((at[i] as number) - (at[i - 1] as number)).toBe(20_000);
    }
    beats.stop();
  });

  it('are spread over the time, so that thousands do not have theirs at once', () => {
    const beats = new Beats(pino({ level: 'silent' }));
    const all = Array.from({ length: 1_000 }, feed);
    for (const each of all) beats.add(each.feed);
    vi.advanceTimersByTime(20_000);
    const together = new Map<number, number>();
    for (const { at } of all) together.set(at[0] as number, (together.get(at[0] as number) ?? 0) + 1);
    expect(Math.max(...together.values())).toBe(10);
    beats.stop();
  });

  it('end for a feed that is closed, and for all where the service stops', () => {
    const beats = new Beats(pino({ level: 'silent' }));
    const gone = feed();
    const stays = feed();
    beats.add(gone.feed)();
    beats.add(stays.feed);
    vi.advanceTimersByTime(20_000);
    beats.stop();
    vi.advanceTimersByTime(60_000);
    expect(gone.at).toEqual([]);
    expect(stays.at).toHaveLength(1);
  });
});
