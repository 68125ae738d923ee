import { type Played, Table } from '@wily-jester/core';
import { compileSheet } from '@wily-jester/motley';
import { describe, expect, it } from 'vitest';
import { OwnSteps } from '../src/tables/own-steps.js';
import { Seats } from '../src/tables/seats.js';
import type { ThinkAnswer } from '../src/thinking/thinking.js';
import { botWish, personWish, type Wish, withinClock } from '../src/thinking/wish.js';

const SHEET = `game "Two Doors" for 2 seats {
  deck standard
  play { for n in 1..3 { for each s in seats { ask s { option left { } option right { } } } } finish }
  bot steady { right }
}`;

/** A table whose first seat thinks, and all that it asks of whoever is around. */
function around({
  isOurs = async () => true,
  left = null as number | null,
  answer = async (): Promise<ThinkAnswer> => ({ kind: 'nothing' }),
  sheet = SHEET,
} = {}) {
  const { program } = compileSheet(sheet);
  if (!program) throw new Error('the sheet does not compile');
  const table = new Table(program, { seats: ['Wren', 'Otter'], seed: 'doors' });
  const seats = new Seats([{ held: 'bot', bot: 'thinking 600ms' }, { held: 'person' }]);
  const wishes: (Wish & { seat: number })[] = [];
  const [again, failures, played]: [(() => Promise<unknown>)[], unknown[], Played[]] = [[], [], []];
  let settle = (): void => undefined;
  /** Once something has come of it, one way or another. */
  const settled = new Promise<void>((done) => {
    settle = done;
  });
  const thinking = {
    think: (_: unknown, seat: number, wish: Wish) => {
      wishes.push({ ...wish, seat });
      return answer();
    },
  };
  const mind = { thinking, table: {} } as unknown as ConstructorParameters<typeof OwnSteps>[2];
  const steps = new OwnSteps(table, seats, mind, {
    isOpen: () => true,
    clockEnd: () => (left === null ? null : Date.now() + left),
    claim: isOurs,
    again: (_, work) => {
      again.push(work);
      settle();
    },
    attempt: async (carryOut) => {
      const one = carryOut();
      if (one) played.push(one);
      settle();
    },
    later: (work) => void work(),
    failed: (error) => failures.push(error),
  });
  return { table, steps, wishes, again, failures, played, settled };
}

describe('a seat that thinks', () => {
  it('plays what was thought', async () => {
    const found: ThinkAnswer = {
      kind: 'thought',
      ask: 0,
      choice: { option: 'left', args: {}, words: 'left' },
      choices: [],
      playouts: 9,
      isAlone: false,
    };
    const { steps, settled, played, wishes } = around({ answer: async () => found });
    await steps.bot(0);
    await settled;
    expect(played.map(({ row }) => row)).toMatchObject([{ seat: 1, option: 'left', by: 'bot' }]);
    expect(wishes).toMatchObject([{ seat: 0, milliseconds: 600 }]);
  });

  it("lets its sheet's bot play where the thread that thinks is ended, and says so", async () => {
    const { steps, settled, played, failures } = around({
      answer: () => Promise.reject(new Error('Terminating worker thread')),
    });
    await steps.bot(0);
    await settled;
    expect(played.map(({ row }) => row)).toMatchObject([{ seat: 1, option: 'right', by: 'bot' }]);
    expect(String(failures[0])).toContain('Terminating');
  });

  it("plays its sheet's bot's answer at once where the first one counts, and thinks where that has none", async () => {
    const race = (bot: string): string => `game "First Door" for 2 seats {
      deck standard
      play { ask any s in seats within 10s else stuck { option left { } option right { } } stuck { } finish }
      bot nimble { ${bot} }
    }`;
    const quick = around({ sheet: race('right') });
    await quick.steps.bot(0);
    expect(quick.wishes).toEqual([]);
    expect(quick.played.map(({ row }) => row)).toMatchObject([{ seat: 1, option: 'right', by: 'bot' }]);
    const shy = around({ sheet: race('right when empty(pack)'), answer: () => new Promise(() => undefined) });
    await shy.steps.bot(0);
    await Promise.resolve();
    expect(shy.played).toEqual([]);
    expect(shy.wishes).toHaveLength(1);
  });

  it('does not think while another process does, and looks again', async () => {
    let isOurs = false;
    const { steps, settled, wishes, again, table } = around({ isOurs: async () => isOurs });
    await steps.bot(0);
    await settled;
    expect(wishes).toEqual([]);
    expect(again).toHaveLength(1);
    expect(table.number).toBe(0);
    isOurs = true;
    await again[0]?.();
    await Promise.resolve();
    expect(wishes).toHaveLength(1);
  });

  it('thinks once about one question, however often it is woken', async () => {
    const { steps, wishes } = around({ answer: () => new Promise(() => undefined) });
    for (let i = 0; i < 3; i++) await steps.bot(0);
    await Promise.resolve();
    expect(wishes).toHaveLength(1);
  });

  it('takes less than half of what a clock leaves, for it may take twice as long', async () => {
    const { steps, wishes } = around({ left: 500, answer: () => new Promise(() => undefined) });
    await steps.bot(0);
    await Promise.resolve();
    expect(wishes[0]?.milliseconds).toBeLessThanOrEqual(200);
    expect(wishes[0]?.milliseconds).toBeGreaterThan(100);
    const times = (clock: number | null, milliseconds = 1_000) => {
      const wish = botWish(milliseconds, 9, clock, 10_000);
      return [wish.milliseconds, wish.latest];
    };
    expect([times(null), times(12_000), times(9_000), times(12_000, 0)]).toEqual([
      [1_000, 2_000],
      [800, 1_600],
      [1, 2],
      [0, 0],
    ]);
  });

  it('takes less where it had to wait for its thread, for the clock goes on meanwhile', () => {
    const wish = botWish(1_000, 9, 12_000, 10_000);
    expect(withinClock(wish, 11_000)).toMatchObject({ milliseconds: 400, latest: 800 });
    expect(withinClock(botWish(1_000, 9, null, 10_000), 11_000)).toMatchObject({ milliseconds: 1_000, latest: 2_000 });
  });

  it('waits longer for the first playouts where a person looks at them and no clock runs', () => {
    expect(personWish(100, null, 10_000)).toMatchObject({ milliseconds: 100, latest: 2_100 });
    expect(personWish(1_000, 12_000, 10_000)).toMatchObject({ milliseconds: 800, latest: 1_600 });
  });
});
