import type { Client } from '@wily-jester/client';
import type { Service } from '@wily-jester/service';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { newDeveloper, openTwo, seatKey, startTestService } from '../setup/service.js';

let service: Service;
let first: Client;
beforeAll(async () => {
  ({ service, client: first } = await startTestService());
});
afterAll(() => service.stop());

const SHEET = 'game "Shared" for 1 seat { deck standard play { ask seats[1] { option go { } } finish } }\n';

describe('one developer among others', () => {
  it('does not wait behind a seat of somebody else that looks back at a dozen choices', async () => {
    const [busy, calm] = await Promise.all([newDeveloper(first, 'busy'), newDeveloper(first, 'calm')]);
    const played = async (client: Client) => {
      const opened = await openTwo(client);
      const { id } = opened.table;
      for (const seat of [1, 2]) {
        const { ask } = await client.offers(id, seat);
        await client.choose(id, { seat, ask: ask ?? 0, option: 'bet', args: { amount: 10 }, once: `bet ${seat}` });
      }
      await client.closeTable(id);
      return { id, key: client.withKey(seatKey(opened, 1)) };
    };
    const [theirs, mine] = await Promise.all([played(busy), played(calm)]);
    const order: string[] = [];
    const looks = Array.from({ length: 12 }, (_, i) =>
      theirs.key.analysis(theirs.id, 1, { milliseconds: 1_000 + i }).then(
        () => order.push('busy'),
        (error: { problem: { status: number } }) => order.push(`refused ${error.problem.status}`),
      ),
    );
    const own = calm.analysis(mine.id, 1, { milliseconds: 300 }).then(() => order.push('calm'));
    await Promise.all([...looks, own]);
    // At most four of one key wait; another developer's comes after the one that is under way.
    expect(order.filter((what) => what === 'refused 429')).toHaveLength(8);
    expect(order.filter((what) => !what.startsWith('refused')).indexOf('calm')).toBeLessThanOrEqual(2);
  });

  it('has a number of gatherings of its own', async () => {
    const [busy, calm] = await Promise.all([newDeveloper(first, 'gathers'), newDeveloper(first, 'gathers-too')]);
    const wish = { sheet: 'Lantern Twenty-One', seats: [{ name: 'Wren' }, { name: 'Otter' }] };
    let refused = 0;
    for (let i = 0; i < 21; i++)
      await Promise.all(
        Array.from({ length: 10 }, () =>
          busy.gather(wish).catch((error: { kind: string }) => {
            expect(error.kind).toBe('too-many');
            refused++;
          }),
        ),
      );
    expect(refused).toBeGreaterThanOrEqual(1);
    expect((await calm.gather(wish)).gathering.phase).toBe('promising');
  });
});

describe('drafts that come from one file', () => {
  it('are one, however many begin it at once', async () => {
    const wish = { sheet: SHEET, origin: '/home/wren/shared.motley' };
    const begun = await Promise.all(Array.from({ length: 8 }, () => first.addDraft(wish)));
    expect(new Set(begun.map(({ id }) => id)).size).toBe(1);
    const texts = Array.from({ length: 8 }, (_, i) => first.addDraft({ ...wish, sheet: `${SHEET}// ${i}\n` }));
    const kept = await Promise.all(texts);
    expect(new Set(kept.map(({ id }) => id))).toEqual(new Set([begun[0]?.id]));
    const [listed] = await first.drafts();
    expect(listed).toMatchObject({ id: begun[0]?.id, lines: 3 });
    expect((await first.editions(begun[0]?.id ?? '')).map(({ lines }) => lines)).toContain(3);
  });
});
