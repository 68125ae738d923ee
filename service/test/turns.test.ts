import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Problem } from '../src/problems.js';
import { DeveloperAccounts, type TableAccount } from '../src/workers/accounts.js';
import { Turns } from '../src/workers/turns.js';

/** Work that takes so long by the clock that turns read. */
let now = 0;
const takes = (milliseconds: number, what?: () => void) => (): void => {
  now += milliseconds;
  what?.();
};

let accounts: DeveloperAccounts;
/** The account of a new table. */
const table = (developer = 'first'): TableAccount => accounts.table(developer);
beforeEach(() => {
  accounts = new DeveloperAccounts();
  now = 0;
  vi.spyOn(performance, 'now').mockImplementation(() => now);
});
afterEach(() => {
  vi.restoreAllMocks();
});

describe('turns', () => {
  it('are at once where nobody else wants to go on', () => {
    let done = false;
    void new Turns().run(table(), true, () => {
      done = true;
    });
    expect(done).toBe(true);
  });

  it('go to the table that used least lately', async () => {
    const turns = new Turns();
    const [heavy, calm] = [table(), table()];
    const order: string[] = [];
    const first = turns.run(heavy, false, takes(30));
    const waiting = [
      turns.run(
        heavy,
        false,
        takes(30, () => order.push('heavy')),
      ),
      turns.run(
        heavy,
        false,
        takes(30, () => order.push('heavy')),
      ),
      turns.run(
        calm,
        true,
        takes(1, () => order.push('calm')),
      ),
    ];
    await Promise.all([first, ...waiting]);
    expect(order).toEqual(['calm', 'heavy', 'heavy']);
  });

  it('of one table go to people first', async () => {
    const turns = new Turns();
    const [mine, other] = [table(), table()];
    const order: string[] = [];
    const running = turns.run(other, false, takes(30));
    await Promise.all([
      running,
      turns.run(
        mine,
        false,
        takes(0, () => order.push('bot')),
      ),
      turns.run(
        mine,
        true,
        takes(0, () => order.push('person')),
      ),
    ]);
    expect(order[0]).toBe('person');
  });

  it('give what the work gives, and throw what it throws', async () => {
    const turns = new Turns();
    expect(await turns.run(table(), true, () => 7)).toBe(7);
    await expect(turns.run(table(), true, () => JSON.parse('{'))).rejects.toThrow(SyntaxError);
    const busy = turns.run(table(), false, takes(30));
    await expect(turns.run(table(), false, () => JSON.parse('{'))).rejects.toThrow(SyntaxError);
    await busy;
  });

  it('are refused to people at a table that used up its share, and told when to come back', async () => {
    const turns = new Turns();
    const account = table();
    for (let i = 0; i < 5; i++) await turns.run(account, false, takes(225));
    const refused = (): unknown => {
      try {
        return turns.run(account, true, () => undefined);
      } catch (error) {
        return error;
      }
    };
    expect(refused()).toBeInstanceOf(Problem);
    expect((refused() as Problem).extra.retryAfter).toBeGreaterThan(0);
    // What a table does by itself is asked before, and comes later.
    expect(account.debtEnds).toBeGreaterThan(0);
    now += account.debtEnds + 1;
    expect(refused()).toBeInstanceOf(Promise);
    expect(account.debtEnds).toBe(0);
  });

  it('do not charge a table for what the machine did meanwhile', async () => {
    const turns = new Turns();
    const account = table();
    // No step takes so long: the process stood still.
    await turns.run(account, true, takes(30_000));
    expect(account.debtEnds).toBe(0);
    expect(await turns.run(account, true, () => 'served')).toBe('served');
  });

  it('are refused where too many wait at one table, and to nobody else', async () => {
    const turns = new Turns();
    const crowded = table();
    const running = turns.run(table(), false, takes(30));
    const waiting = Array.from({ length: 16 }, () => turns.run(crowded, true, () => undefined));
    expect(() => turns.run(crowded, true, () => undefined)).toThrow(Problem);
    await Promise.all([running, ...waiting, turns.run(table(), true, () => undefined)]);
  });

  it('save up nothing while a table is idle', async () => {
    const turns = new Turns();
    const [early, late] = [table(), table()];
    for (let i = 0; i < 5; i++) await turns.run(early, false, takes(50));
    const order: string[] = [];
    const running = turns.run(early, false, takes(30));
    const waiting: Promise<void>[] = [];
    for (let i = 0; i < 3; i++) {
      waiting.push(
        turns.run(
          late,
          false,
          takes(50, () => order.push('late')),
        ),
      );
      waiting.push(
        turns.run(
          early,
          false,
          takes(50, () => order.push('early')),
        ),
      );
    }
    await Promise.all([running, ...waiting]);
    // Who comes late goes first once, not until it has caught up.
    expect(order.slice(0, 4)).toContain('early');
  });
});

describe('the tables of one developer', () => {
  it('go after those of another who used less, however many they are', async () => {
    const turns = new Turns();
    const order: string[] = [];
    const many = Array.from({ length: 5 }, () => table('many'));
    const few = table('few');
    await turns.run(table('many'), false, takes(50));
    const running = turns.run(table('third'), false, takes(30));
    const waiting = [...many, few].map((account) =>
      turns.run(
        account,
        false,
        takes(20, () => order.push(account === few ? 'few' : 'many')),
      ),
    );
    await Promise.all([running, ...waiting]);
    expect(order[0]).toBe('few');
  });

  it('have a share together beside those of others, and all of the processor alone', async () => {
    const turns = new Turns();
    const useUp = async (): Promise<TableAccount[]> => {
      const tables = Array.from({ length: 4 }, () => table('many'));
      for (const one of tables) for (let i = 0; i < 4; i++) await turns.run(one, false, takes(225));
      return tables;
    };
    const alone = await useUp();
    expect(alone.map((one) => one.debtEnds)).toEqual([0, 0, 0, 0]);
    await turns.run(table('other'), true, takes(1));
    const beside = await useUp();
    const refused = (() => {
      try {
        return turns.run(beside[3] as TableAccount, true, () => undefined);
      } catch (error) {
        return error;
      }
    })();
    expect(String(refused)).toContain("This developer's tables have used up their share of the processor together");
    // The other one is served all the same, and once it has been idle for a while the first has all again.
    await turns.run(table('other'), true, takes(1));
    now += 6_000;
    expect(beside.map((one) => one.debtEnds)).toEqual([0, 0, 0, 0]);
  });
});

describe('a table whose turns are long', () => {
  it('lets what is being kept be answered first, and waits no longer than a moment', async () => {
    let isKeeping = false;
    const turns = new Turns(() => isKeeping);
    const [heavy, light] = [table(), table()];
    await turns.run(heavy, false, takes(8));
    isKeeping = true;
    const order: string[] = [];
    const late = turns.run(heavy, false, () => void order.push('heavy'));
    const soon = turns.run(light, true, () => void order.push('light'));
    setTimeout(() => {
      now += 5;
      order.push('kept');
      isKeeping = false;
    }, 5);
    await Promise.all([late, soon]);
    expect(order).toEqual(['light', 'kept', 'heavy']);
    await turns.run(heavy, false, takes(8));
    isKeeping = true;
    const waits = turns.run(heavy, false, () => order.push('last'));
    await new Promise((done) => setImmediate(done));
    expect(order).not.toContain('last');
    now += 30;
    await waits;
  });
});
