import type { Past, Step, TableSummary } from '@wily-jester/protocol';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';

vi.stubGlobal('sessionStorage', { getItem: () => null });
const { usePast } = await import('../src/past/usePast');
const { client, role } = await import('../src/session');

const LAST = 40;
/** Looks that wait to be answered, by the number that was asked for. */
const waiting = new Map<string, (past: Past) => void>();
const asked: string[] = [];
/** Lets everything run that waits for nothing but its turn. */
const settled = (): Promise<void> => new Promise((done) => setTimeout(done));

beforeEach(() => {
  waiting.clear();
  asked.length = 0;
  role.value = 'developer';
  client.value = {
    table: async () => ({ number: LAST, seats: [{ seat: 1, name: 'Wren' }] }) as unknown as TableSummary,
    plan: async () => ({}),
    steps: async (_id: string, _from: unknown, as: string) => {
      asked.push(`steps ${as}`);
      return [] as Step[];
    },
    past: (_id: string, number: number, as: string) => {
      asked.push(`past ${number} ${as}`);
      return new Promise((done) => waiting.set(`${number}`, done));
    },
  } as unknown as typeof client.value;
});
afterEach(() => {
  role.value = null;
});

async function answer(number: number): Promise<void> {
  waiting.get(String(number))?.({ view: { number }, step: { number } } as unknown as Past);
  await settled();
}
async function opened() {
  const past = usePast('table');
  void past.open(() => 1);
  await settled();
  await answer(LAST);
  return past;
}

describe('looking back', () => {
  it('begins at the last choice, with the first eyes, and asks once', async () => {
    const past = await opened();
    expect(past.view.value?.number).toBe(LAST);
    expect(past.isReading.value).toBe(false);
    await past.look(1);
    expect(asked).toEqual(['steps 1', `past ${LAST} 1`]);
  });

  it('shows what was asked for last, whichever answer comes first', async () => {
    const past = await opened();
    void past.go(30);
    void past.go(20);
    void past.go(10);
    expect(past.number.value).toBe(10);
    expect(past.isReading.value).toBe(true);
    await answer(10);
    expect([past.view.value?.number, past.isReading.value]).toEqual([10, false]);
    await answer(30);
    await answer(20);
    expect(past.view.value?.number).toBe(10);
  });

  it('follows quick fingers with the answers that come on the way', async () => {
    const past = await opened();
    void past.go(30);
    void past.go(20);
    await answer(30);
    expect([past.view.value?.number, past.number.value, past.isReading.value]).toEqual([30, 20, true]);
    await answer(20);
    expect([past.view.value?.number, past.isReading.value]).toEqual([20, false]);
  });

  it('stays between the opening and the last choice', async () => {
    const past = await opened();
    void past.go(-3);
    expect(past.number.value).toBe(0);
    void past.go(99);
    expect(past.number.value).toBe(LAST);
  });

  it('says what went wrong, and tries again with the same eyes', async () => {
    const past = await opened();
    const { steps } = client.value;
    client.value.steps = async () => {
      throw new Error('away');
    };
    await past.look('open');
    expect(past.problem.value).toBe('away');
    client.value.steps = steps;
    void past.look('open');
    await settled();
    expect(asked.at(-1)).toBe(`past ${LAST} open`);
  });
});
