import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { isTaken, openDatabase } from '../../service/src/storage/database.js';
import { Ledger, type NewChoice } from '../../service/src/storage/ledger.js';
import { ChoiceRow } from '../../service/src/storage/models.js';
import { openTwo, startTestService } from '../setup/service.js';

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
