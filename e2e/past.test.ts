import { type Client, ServiceError } from '@wily-jester/client';
import { recordHeaderSchema, recordRowSchema, type TableView } from '@wily-jester/protocol';
import type { Service } from '@wily-jester/service';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openTwo, seatKey, startTestService, until } from './setup/service.js';

let service: Service;
let developer: Client;
beforeAll(async () => {
  ({ service, client: developer } = await startTestService());
});
afterAll(() => service.stop());

/** Plays one round at a table of two, and gives the views of seat 1 by number. */
async function playRound(id: string): Promise<TableView[]> {
  const views = [await developer.view(id, 1)];
  const choose = async (seat: number, ask: number, option: string, args = {}): Promise<void> => {
    await developer.choose(id, { ask, option, args, once: `${seat} ${ask} ${option}`, seat });
    views.push(await developer.view(id, 1));
  };
  await choose(1, 0, 'bet', { amount: 10 });
  await choose(2, 0, 'bet', { amount: 20 });
  await choose(1, 2, 'stand');
  await choose(2, 3, 'stand');
  return views;
}
const failure = async (work: Promise<unknown>): Promise<ServiceError> => {
  const error = await work.catch((thrown: unknown) => thrown);
  if (error instanceof ServiceError) return error;
  throw new Error('it did not fail');
};
const faces = (view: TableView, pile: string): unknown =>
  (view.piles as Record<string, { cards?: unknown }>)[pile]?.cards;

describe('looking back', () => {
  it('shows every number as it was, in any order, with the step that led to it', async () => {
    const { table } = await openTwo(developer);
    const views = await playRound(table.id);
    for (const number of [4, 0, 2, 3, 1]) {
      const past = await developer.past(table.id, number, 1);
      expect(past.view).toEqual(views[number]);
      expect(past.step).toEqual((await developer.steps(table.id, number === 0 ? undefined : number - 1, 1))[0]);
    }
    expect((await developer.past(table.id, 2, 'open')).view.viewer).toBe('open');
  });

  it('is for developers while the table is open, and then for every key with its own eyes', async () => {
    const opened = await openTwo(developer);
    const { id } = opened.table;
    await playRound(id);
    const wren = developer.withKey(seatKey(opened, 1));
    expect((await failure(wren.past(id, 1))).problem.detail).toContain('only a developer key looks back');
    await developer.closeTable(id);
    expect((await wren.past(id, 1)).view.viewer).toBe(1);
    expect((await failure(wren.past(id, 1, 2))).kind).toBe('not-allowed');
    expect((await developer.withKey(opened.keys.watch).past(id, 2)).view.viewer).toBe('watch');
  });

  it('says how far the table is where it is asked for more', async () => {
    const { table } = await openTwo(developer);
    const error = await failure(developer.past(table.id, 7));
    expect(error.problem).toMatchObject({ status: 422, number: 0 });
    expect(error.message).toBe('There is no number 7 yet: the table is at 0.');
  });
});

describe('a branch', () => {
  it('goes on from a number: what was seen is the same, what was not is dealt anew', async () => {
    const { table } = await openTwo(developer);
    await playRound(table.id);
    const branched = await developer.branch(table.id, { number: 2 });
    expect(branched.table).toMatchObject({
      number: 2,
      parent: { table: table.id, number: 2 },
      promisesFairness: false,
    });
    const { id } = branched.table;
    for (const seat of [1, 2])
      expect((await developer.view(id, seat)).piles).toEqual((await developer.past(table.id, 2, seat)).view.piles);
    expect(faces(await developer.view(id, 'open'), 'shoe')).not.toEqual(
      faces((await developer.past(table.id, 2, 'open')).view, 'shoe'),
    );
    expect(
      (await developer.withKey(seatKey(branched, 1)).choose(id, { ask: 2, option: 'stand', once: 'b' })).number,
    ).toBe(3);
    expect((await developer.table(table.id)).number).toBeGreaterThanOrEqual(4);
  });

  it('keeps every card as it lies where it is asked to, and may branch again', async () => {
    const { table } = await openTwo(developer);
    await playRound(table.id);
    const same = await developer.branch(table.id, { number: 3, same: true });
    const open = async (id: string): Promise<unknown> => (await developer.past(id, 3, 'open')).view;
    expect(await open(same.table.id)).toEqual(await open(table.id));
    const again = await developer.branch(same.table.id, { number: 1 });
    expect(again.table).toMatchObject({ number: 1, parent: { table: same.table.id, number: 1 } });
  });

  it('is refused beyond the last number', async () => {
    const { table } = await openTwo(developer);
    expect((await failure(developer.branch(table.id, { number: 1 }))).problem.status).toBe(422);
  });
});

describe('a record as a file', () => {
  it('fits its schema, and loads as a table that stands where the first one stood', async () => {
    const { table } = await openTwo(developer);
    await playRound(table.id);
    const record = await developer.record(table.id);
    const [header, ...rows] = record
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line));
    const ajv = new Ajv2020({ strict: false });
    expect(ajv.validate(recordHeaderSchema, header)).toBe(true);
    for (const row of rows) expect(ajv.validate(recordRowSchema, row)).toBe(true);
    const loaded = await developer.loadRecord(record);
    expect(loaded.table.number).toBe(rows.length);
    expect(await developer.view(loaded.table.id, 'open')).toEqual(
      (await developer.past(table.id, rows.length, 'open')).view,
    );
    expect((await developer.record(loaded.table.id)).split('\n').length).toBe(record.split('\n').length);
  });

  it('of a branch loads too', async () => {
    const { table } = await openTwo(developer);
    await playRound(table.id);
    const branched = await developer.branch(table.id, { number: 2 });
    await developer.choose(branched.table.id, { ask: 2, option: 'hit', once: 'h', seat: 1 });
    const loaded = await developer.loadRecord(await developer.record(branched.table.id));
    expect(await developer.view(loaded.table.id, 'open')).toEqual(await developer.view(branched.table.id, 'open'));
  });

  it('says at which choice it differs, and where it cannot be read', async () => {
    const opened = await openTwo(developer);
    await playRound(opened.table.id);
    const record = await developer.record(opened.table.id);
    const lines = record.trim().split('\n');
    const changed = (at: number, change: (line: string) => string): string =>
      lines.map((line, i) => (i === at ? change(line) : line)).join('\n');
    const load = async (text: string) => (await failure(developer.loadRecord(text))).problem;
    expect(await load(changed(2, (line) => line.replace(/"amount":20/, '"amount":30')))).toMatchObject({
      type: 'urn:wily-jester:problem:differs',
      number: 2,
      detail:
        'After choice 2 (bet) the state is another one than the record says. The record was changed after it was saved: no table is opened.',
    });
    expect(await load(changed(3, (line) => line.replace('stand', 'double')))).toMatchObject({ number: 3 });
    expect(await load(changed(3, () => '{"number":3'))).toMatchObject({
      line: 4,
      detail: 'Line 4 of the record is not JSON.',
    });
    expect((await load(changed(3, (line) => line.replace('"number":3', '"number":4')))).detail).toBe(
      'Line 4 should be choice 3, and is choice 4.',
    );
    expect(
      (await load(changed(0, (line) => line.replace(/"sheet":"[0-9a-f]{12}/, '"sheet":"000000000000')))).status,
    ).toBe(404);
    expect((await load(await developer.withKey(opened.keys.watch).record(opened.table.id))).detail).toContain(
      'has no seed',
    );
    expect((await load('')).status).toBe(422);
  });
});

describe('taking back a choice', () => {
  it('is a choice of its own at a live table, and stands in the record', async () => {
    const { table } = await openTwo(developer, { sheet: 'Weir Patience', seats: [{ name: 'Wren' }], settings: {} });
    const { id } = table;
    const start = await developer.view(id, 1);
    expect(start.undo).toBe(false);
    await developer.choose(id, { ask: 0, option: 'turnOver', once: 'a', seat: 1 });
    await until(async () => (await developer.view(id, 1)).undo, 'that it may be taken back');
    const { ask } = (await developer.view(id, 1)).waiting as { ask: number };
    expect(await developer.choose(id, { ask, option: 'undo', once: 'b', seat: 1 })).toMatchObject({
      number: 2,
      option: 'undo',
    });
    expect((await developer.view(id, 1)).piles).toEqual(start.piles);
    expect((await developer.loadRecord(await developer.record(id))).table.number).toBe(2);
    expect((await failure(developer.choose(id, { ask: 2, option: 'undo', once: 'c', seat: 1 }))).kind).toBe('refused');
  });
});
