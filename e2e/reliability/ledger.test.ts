import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { isTaken, openDatabase } from '../../service/src/storage/database.js';
import { Ledger, type NewChoice } from '../../service/src/storage/ledger.js';
import { ChoiceRow, TableRow } from '../../service/src/storage/models.js';
import { type Summary, writeSummaries } from '../../service/src/storage/summaries.js';
import { connected, heldUp } from '../setup/held.js';
import { openTwo, startTestService, until } from '../setup/service.js';

let running: Awaited<ReturnType<typeof startTestService>>;
let database: Awaited<ReturnType<typeof openDatabase>>;
let ledger: Ledger;
beforeAll(async () => {
  running = await startTestService();
  database = await openDatabase(running.database);
  ledger = new Ledger(database);
});
afterAll(async () => {
  await database.close();
  await running.service.stop();
});

const newTable = async (): Promise<string> => (await openTwo(running.client)).table.id;
const choice = (tableId: string, number: number, more: Partial<NewChoice> = {}): NewChoice => ({
  tableId,
  number,
  seat: 1,
  by: 'person',
  ask: number - 1,
  option: 'bet',
  args: '{"amount":10}',
  digest: 'd'.repeat(32),
  once: `1 word ${number}`,
  sent: '{"amount":10}',
  at: new Date(),
  house: 'other',
  ...more,
});
const rowsOf = (tableId: string) => ChoiceRow.findAll({ where: { tableId }, order: [['number', 'ASC']], raw: true });

describe('choices that are written together', () => {
  it('are written as they are: nothing, quotes and faces too', async () => {
    const id = await newTable();
    const args = JSON.stringify({ cs: ['K♣', `it's "so" \\ ?`] });
    const at = new Date(Date.UTC(2026, 10, 23, 21, 5, 7, 89));
    const rows = [
      choice(id, 1, { args, sent: null, at }),
      choice(id, 2, { seat: null, once: null, sent: null, by: 'table' }),
    ];
    await Promise.all(rows.map((row) => ledger.append(row)));
    const [first, second] = await rowsOf(id);
    expect(first).toMatchObject({ number: 1, args, sent: null, once: '1 word 1', house: 'other' });
    expect(new Date(first?.at ?? 0).getTime()).toBe(at.getTime());
    expect(second).toMatchObject({ number: 2, seat: null, once: null, by: 'table' });
    expect(second?.seq).toBeGreaterThan(first?.seq as number);
  });

  it('are kept all but the one that was taken, each once', async () => {
    const ids = await Promise.all(Array.from({ length: 9 }, newTable));
    await ledger.append(choice(ids[4] as string, 1));
    const outcomes = await Promise.allSettled(ids.map((id) => ledger.append(choice(id, 1, { house: 'here' }))));
    expect(outcomes.map((outcome) => outcome.status === 'fulfilled')).toEqual(ids.map((_, i) => i !== 4));
    expect(isTaken((outcomes[4] as PromiseRejectedResult).reason)).toBe(true);
    for (const [i, id] of ids.entries())
      expect((await rowsOf(id)).map((row) => row.house)).toEqual([i === 4 ? 'other' : 'here']);
  });

  it('are kept all or none by the database itself', async () => {
    const id = await newTable();
    const connection = await database.connectionManager.getConnection({ type: 'write' });
    const rows = [1, 2, 2].map((number) => [id, number]);
    const batch = (connection as { batch(sql: string, rows: unknown[][]): Promise<unknown> }).batch(
      "INSERT INTO choices (tableId, number, `by`, ask, `option`, args, digest, `at`) VALUES (?, ?, 'x', 0, 'x', '{}', '', NOW())",
      rows,
    );
    await expect(batch).rejects.toMatchObject({ errno: 1062 });
    database.connectionManager.releaseConnection(connection);
    expect(await rowsOf(id)).toEqual([]);
  });
});

describe('choices that others are in the way of', () => {
  /** Another process, with a transaction of its own. */
  async function another() {
    const other = await connected(running.database);
    const write = (table: string, number: number): Promise<unknown> =>
      other.query(
        "INSERT INTO choices (tableId, number, `by`, ask, `option`, args, digest, `at`) VALUES (?, ?, 'x', 0, 'x', '{}', '', NOW())",
        [table, number],
      );
    await other.beginTransaction();
    return { other, write };
  }

  it('do not wait while how their tables stand is written', async () => {
    const id = await newTable();
    const { other } = await another();
    try {
      await other.query('UPDATE tables SET chapter = ? WHERE id = ?', ['Round 7', id]);
      await ledger.append(choice(id, 1));
      expect((await rowsOf(id)).length).toBe(1);
    } finally {
      await other.rollback();
      await other.end();
    }
  });

  it('are kept where the database breaks a ring of waiting at their cost', async () => {
    const [first, second, third] = (await Promise.all([newTable(), newTable(), newTable()])) as [
      string,
      string,
      string,
    ];
    const looking = await connected(running.database);
    const { other, write } = await another();
    try {
      // It has written the most, so that it is not the one that is taken back.
      for (let number = 1; number <= 40; number++) await write(third, number);
      await write(second, 1);
      const kept = Promise.all([first, second].map((id) => ledger.append(choice(id, 1))));
      await until(async () => {
        const waiting = await looking.query(
          "SELECT id FROM information_schema.processlist WHERE db = DATABASE() AND state = 'Update' AND time_ms > 30",
        );
        return (waiting as unknown[]).length > 0;
      }, 'choices that wait for another process');
      await write(first, 1);
      await other.rollback();
      await kept;
      for (const id of [first, second]) expect((await rowsOf(id)).map((row) => row.house)).toEqual(['other']);
    } finally {
      await Promise.all([other.end(), looking.end()]);
    }
  });
});

describe('how tables stand', () => {
  const stands = (id: string, number: number, more: Partial<Summary> = {}): Summary => ({
    id,
    number,
    chapter: `Round ${number}, "it's" 🂡`,
    changedAt: new Date(Date.UTC(2026, 10, 23, 21, 5, 7, 89)),
    status: 'open',
    ...more,
  });

  it('is written for many at once, but for those of which more is known', async () => {
    const ids = await Promise.all(Array.from({ length: 5 }, newTable));
    const [first, later, closed, over] = ids as [string, string, string, string, string];
    await TableRow.update({ number: 9, chapter: 'Round 9' }, { where: { id: later } });
    await TableRow.update({ status: 'closed' }, { where: { id: closed } });
    await writeSummaries(database, [
      stands(first, 3),
      stands(later, 8),
      stands(closed, 3),
      stands(over, 4, { status: 'over' }),
    ]);
    const rows = await TableRow.findAll({ where: { id: ids }, raw: true });
    const of = (id: string) => rows.find((row) => row.id === id);
    expect(of(first)).toMatchObject({ number: 3, chapter: `Round 3, "it's" 🂡`, status: 'open' });
    expect(new Date(of(first)?.changedAt ?? 0).toISOString()).toBe('2026-11-23T21:05:07.089Z');
    expect(of(later)).toMatchObject({ number: 9, chapter: 'Round 9' });
    expect(of(closed)).toMatchObject({ number: 0, status: 'closed' });
    expect(of(over)).toMatchObject({ number: 4, status: 'over' });
    expect(of(ids[4] as string)).toMatchObject({ number: 0, status: 'open' });
  });

  it('is written for none of those that come together where the database refuses one', async () => {
    const [first, second] = await Promise.all([newTable(), newTable()]);
    const refused = stands(second as string, 2, { chapter: 'x'.repeat(300) });
    await expect(writeSummaries(database, [stands(first as string, 2), refused])).rejects.toThrow(/too long/i);
    expect((await TableRow.findByPk(first as string, { raw: true }))?.number).toBe(0);
    await writeSummaries(database, [stands(first as string, 2)]);
    expect((await TableRow.findByPk(first as string, { raw: true }))?.number).toBe(2);
  });
});

describe('a choice that is not kept yet', () => {
  const bet = { ask: 0, option: 'bet', args: { amount: 10 }, seat: 1 };

  it('is seen by nobody before it is', async () => {
    const id = await newTable();
    await running.client.view(id, 1);
    const database = await heldUp(running.database, 'choices');
    const chosen = running.client.choose(id, { ...bet, once: 'slow' });
    await database.waiting('choices');
    const order: string[] = [];
    const looks = [
      running.client.view(id, 1).then(({ number }) => order.push(`view ${number}`)),
      running.client.steps(id).then((steps) => order.push(`steps ${steps.length}`)),
      running.client.offers(id, 1).then(({ number }) => order.push(`offers ${number}`)),
    ];
    expect((await running.client.table(id)).number).toBe(0);
    expect(order).toEqual([]);
    await database.letGo();
    expect((await chosen).number).toBe(1);
    await Promise.all(looks);
    expect(order.sort()).toEqual(['offers 1', 'steps 2', 'view 1']);
  });

  it('was never there where it cannot be', async () => {
    const id = await newTable();
    await running.client.view(id, 1);
    const database = await heldUp(running.database, 'choices');
    const chosen = running.client.choose(id, { ...bet, once: 'lost' }).catch((error: unknown) => error);
    const query = await database.waiting('choices');
    const view = running.client.view(id, 1);
    await database.cut(query);
    expect(await chosen).toMatchObject({ kind: 'unavailable' });
    await database.letGo();
    expect((await view).number).toBe(0);
    expect((await running.client.steps(id)).length).toBe(1);
    expect(await running.client.choose(id, { ...bet, once: 'lost' })).toMatchObject({ number: 1, repeated: false });
  });
});
