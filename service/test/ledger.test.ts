import type { Sequelize } from 'sequelize';
import { describe, expect, it, vi } from 'vitest';
import { Ledger, type NewChoice } from '../src/storage/ledger.js';
import { momentText } from '../src/storage/statements.js';

const choice = (tableId: string, number: number): NewChoice => ({
  tableId,
  number,
  seat: 1,
  by: 'person',
  ask: number - 1,
  option: 'go',
  args: '{}',
  digest: '',
  once: null,
  sent: null,
  at: new Date(Date.UTC(2026, 10, 23, 12, 0, 0, 45)),
  house: 'house',
});

const contested = (): Error => Object.assign(new Error('Deadlock found'), { errno: 1213 });
const taken = (): Error => Object.assign(new Error('Duplicate entry'), { errno: 1062 });

/** A database that keeps (table, number) once, and tells how many rows each statement had. */
function database() {
  const kept = new Set<string>();
  const sizes: number[] = [];
  const times = new Set<unknown>();
  const it = { kept, sizes, times, lent: 0, taken: 0, wrong: null as Error | null, contested: 0, isWhole: true };
  const batch = async (_: string, rows: readonly (readonly unknown[])[]): Promise<void> => {
    await new Promise((done) => setImmediate(done));
    sizes.push(rows.length);
    if (it.wrong) throw it.wrong;
    if (it.contested > 0) {
      it.contested--;
      throw contested();
    }
    const keys = rows.map((row) => `${row[0]} ${row[1]}`);
    if (keys.some((key) => kept.has(key)) || new Set(keys).size < keys.length) throw taken();
    for (const row of rows) times.add(row[10]);
    for (const key of keys) kept.add(key);
  };
  const connection = {
    batch,
    execute: (sql: string, row: readonly unknown[]) => batch(sql, [row]),
    isValid: () => it.isWhole,
  };
  const connectionManager = {
    getConnection: async () => {
      it.lent++;
      it.taken++;
      return connection;
    },
    releaseConnection: () => {
      it.lent--;
    },
  };
  return Object.assign(it, { connectionManager });
}
const ledgerOn = (base: ReturnType<typeof database>): Ledger => new Ledger(base as unknown as Sequelize);

describe('the ledger', () => {
  it('writes what comes at the same time in one statement, and answers each', async () => {
    const base = database();
    const ledger = ledgerOn(base);
    await Promise.all(Array.from({ length: 50 }, (_, i) => ledger.append(choice(`table${i}`, 1))));
    expect(base.kept.size).toBe(50);
    expect(base.sizes).toEqual([50]);
    expect([...base.times]).toEqual(['2026-11-23 12:00:00.045']);
  });

  it('gathers what comes while it writes, and leaves nothing behind', async () => {
    const base = database();
    const ledger = ledgerOn(base);
    const all: Promise<void>[] = [];
    for (let round = 1; round <= 20; round++) {
      for (let i = 0; i < 30; i++) all.push(ledger.append(choice(`table${i}`, round)));
      await new Promise((done) => setImmediate(done));
    }
    await Promise.all(all);
    expect(base.kept.size).toBe(600);
    expect(base.sizes.length).toBeLessThan(40);
  });

  it('refuses only the choice that was taken, and keeps its neighbours', async () => {
    const base = database();
    base.kept.add('table2 1');
    const ledger = ledgerOn(base);
    const outcomes = await Promise.allSettled([1, 2, 3].map((i) => ledger.append(choice(`table${i}`, 1))));
    expect(outcomes.map((outcome) => outcome.status)).toEqual(['fulfilled', 'rejected', 'fulfilled']);
    expect(base.sizes).toEqual([3, 1, 1, 1]);
  });

  it('keeps one of two that want the same number', async () => {
    const base = database();
    const ledger = ledgerOn(base);
    const outcomes = await Promise.allSettled([ledger.append(choice('table', 1)), ledger.append(choice('table', 1))]);
    expect(outcomes.map((outcome) => outcome.status).sort()).toEqual(['fulfilled', 'rejected']);
    expect(base.kept.size).toBe(1);
  });

  it('keeps all of those that the database took back because others were in the way, each alone', async () => {
    const base = database();
    base.contested = 2;
    const ledger = ledgerOn(base);
    await Promise.all([1, 2, 3].map((i) => ledger.append(choice(`table${i}`, 1))));
    expect(base.kept.size).toBe(3);
    expect(base.sizes).toEqual([3, 1, 1, 1, 1]);
  });

  it('gives one up that others keep from being written, and goes on', async () => {
    const base = database();
    base.contested = 5;
    const ledger = ledgerOn(base);
    await expect(ledger.append(choice('table1', 1))).rejects.toMatchObject({ errno: 1213 });
    await ledger.append(choice('table1', 1));
    expect(base.kept.size).toBe(1);
  });

  it('tells all of a group when the database is away, and goes on when it is back', async () => {
    const base = database();
    const ledger = ledgerOn(base);
    base.wrong = new Error('gone away');
    const outcomes = await Promise.allSettled([1, 2].map((i) => ledger.append(choice(`table${i}`, 1))));
    expect(outcomes.map((outcome) => outcome.status)).toEqual(['rejected', 'rejected']);
    base.wrong = null;
    await ledger.append(choice('table1', 1));
    expect([...base.kept]).toEqual(['table1 1']);
    ledger.close();
    expect(base.lent).toBe(0);
  });

  it('keeps its connections while there is more to do, and gives them back when there is not', async () => {
    vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] });
    try {
      const base = database();
      const ledger = ledgerOn(base);
      for (let number = 1; number <= 8; number++) {
        await ledger.append(choice('table', number));
        vi.advanceTimersByTime(600);
        expect([base.taken, base.lent]).toEqual([1, 1]);
      }
      vi.advanceTimersByTime(2_000);
      expect(base.lent).toBe(0);
      await ledger.append(choice('table', 9));
      expect([base.taken, base.lent]).toEqual([2, 1]);
    } finally {
      vi.useRealTimers();
    }
  });

  it('takes another connection where one has broken meanwhile', async () => {
    const base = database();
    const ledger = ledgerOn(base);
    await ledger.append(choice('table', 1));
    base.isWhole = false;
    await ledger.append(choice('table', 2));
    expect([base.taken, base.lent]).toEqual([2, 1]);
    ledger.close();
    expect(base.lent).toBe(0);
  });
});

describe('a moment', () => {
  it('is written as the database writes it, to the millisecond', () => {
    const moments = [
      '2026-11-23T12:00:00.045Z',
      '2026-11-23T12:00:00.999Z',
      '2026-11-23T12:00:01.000Z',
      '1969-12-31T23:59:59.007Z',
    ];
    expect(moments.map((moment) => momentText(new Date(moment)))).toEqual(
      moments.map((moment) => moment.replace('T', ' ').replace('Z', '')),
    );
  });
});
