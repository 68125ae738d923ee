import { Client } from '@wily-jester/client';
import type { Opened, Step } from '@wily-jester/protocol';
import type { Service } from '@wily-jester/service';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { seatKey, startTestService } from './setup/service.js';

/** Each choice moves a card that the other seat does not see, and the pack is shuffled again and again. */
const TREADMILL = `game "Long Treadmill" for 2 seats { deck standard
  pile hand of each seat private as fan
  play { shuffle pack repeat { for each s in seats { ask s { option draw {
    if empty(pack) { gather hand to pack shuffle pack }
    deal 1 from pack to s.hand say "{s} draws." } option rest { finish } } } } } }`;
const CHOICES = 440;

let service: Service;
let developer: Client;
let opened: Opened;
let otter: Client;
/** What Otter was told while it happened. */
const told: Step[] = [];

beforeAll(async () => {
  ({ service, client: developer } = await startTestService());
  await developer.addSheet({ source: TREADMILL });
  opened = await developer.openTable({ sheet: 'Long Treadmill', seats: [{ name: 'Wren' }, { name: 'Otter' }] });
  otter = new Client({ address: service.address, key: seatKey(opened, 2) });
  told.push(...(await otter.steps(opened.table.id)));
  for (let ask = 0; ask < CHOICES; ask++) {
    await developer.choose(opened.table.id, { ask, option: 'draw', once: `word ${ask}`, seat: 1 + (ask % 2) });
    if (ask % 50 === 49 || ask === CHOICES - 1) told.push(...(await otter.steps(opened.table.id, told.length - 1)));
  }
});
afterAll(() => service.stop());

const page = async (from: number | null): Promise<{ steps: Step[]; more: boolean }> => {
  const address = `${service.address}/api/tables/${opened.table.id}/events${from === null ? '' : `?from=${from}`}`;
  const response = await fetch(address, { headers: { authorization: `Bearer ${seatKey(opened, 2)}` } });
  return (await response.json()) as { steps: Step[]; more: boolean };
};
const numbers = (steps: readonly Step[]): number[] => steps.map((step) => step.number);
const range = (from: number, to: number): number[] => Array.from({ length: to - from + 1 }, (_, i) => from + i);

describe('a table that was played for long', () => {
  it('is told in pages, each with what its key may know, as it was told when it happened', async () => {
    expect(numbers(told)).toEqual(range(0, CHOICES));
    const first = await page(null);
    expect(numbers(first.steps)).toEqual(range(0, 399));
    expect(first.more).toBe(true);
    const second = await page(399);
    expect(numbers(second.steps)).toEqual(range(400, CHOICES));
    expect(second.more).toBe(false);
    expect([...first.steps, ...second.steps]).toEqual(told);
    expect(await page(CHOICES)).toEqual({ steps: [], more: false });
    expect(told.some((step) => step.events.some((event) => event.kind === 'shuffled' && event.commitment))).toBe(true);
  });

  it('is told from wherever a client wants, forwards and backwards', async () => {
    for (const from of [0, 12, 39, 5, 300, 300, 41, 439]) {
      const { steps } = await page(from);
      expect(steps).toEqual(told.slice(from + 1, from + 401));
    }
    const [one, other] = await Promise.all([page(3), page(1)]);
    expect([one.steps[0], other.steps[0]]).toEqual([told[4], told[2]]);
    expect(await otter.steps(opened.table.id)).toEqual(told);
  });

  it('still knows the first word that was sent, whatever came after', async () => {
    const { id } = opened.table;
    const again = { ask: 0, option: 'draw', once: 'word 0', seat: 1 };
    const late = { ask: 10, option: 'draw', once: 'word 10', seat: 1 };
    expect(await developer.choose(id, again)).toMatchObject({ number: 1, repeated: true });
    expect(await developer.choose(id, late)).toMatchObject({ number: 11, repeated: true });
    const asWell = { ...again, option: 'rest' };
    await expect(developer.choose(id, asWell)).rejects.toMatchObject({ kind: 'used-word' });
    const now = { ask: CHOICES, option: 'draw', once: 'word 0', seat: 1 + (CHOICES % 2) };
    await expect(developer.choose(id, now)).rejects.toMatchObject({ kind: 'used-word' });
    const strange = { ask: 0, option: 'draw', once: 'never sent', seat: 1 };
    await expect(developer.choose(id, strange)).rejects.toMatchObject({ kind: 'stale' });
    expect((await developer.table(id)).number).toBe(CHOICES);
  });

  it('knows it still when it is closed', async () => {
    const { table } = await developer.openTable({
      sheet: 'Long Treadmill',
      seats: [{ name: 'Wren' }, { name: 'Otter' }],
    });
    const first = { ask: 0, option: 'draw', once: 'word 0', seat: 1 };
    await developer.choose(table.id, first);
    await developer.closeTable(table.id);
    expect(await developer.choose(table.id, first)).toMatchObject({ number: 1, repeated: true });
    const strange = { ...first, once: 'never sent' };
    await expect(developer.choose(table.id, strange)).rejects.toMatchObject({ kind: 'closed' });
  });
});
