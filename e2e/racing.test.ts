import type { Client } from '@wily-jester/client';
import type { Service } from '@wily-jester/service';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { seatKey, startTestService, until } from './setup/service.js';

const GRAB = `game "Quick Grab" for 2 seats {
  deck standard
  play {
    repeat {
      ask any s in seats within 1s else stuck { option grab { score s += 1 }  option leave aside { } } stuck { say "Nobody." finish }
    } until sum(seats, s => s.score) == 3
  }
}`;

let service: Service;
let client: Client;
beforeAll(async () => {
  ({ service, client } = await startTestService());
});
afterAll(() => service.stop());

describe('a race at a live table', () => {
  it('is won by one of those who answer at the same time, and the other is told who was first', async () => {
    await client.addSheet({ source: GRAB });
    const opened = await client.openTable({
      sheet: 'Quick Grab',
      seats: [{ name: 'Wren' }, { name: 'Otter' }],
      clocks: false,
    });
    const { id } = opened.table;
    const people = [1, 2].map((seat) => client.withKey(seatKey(opened, seat)));
    for (const round of [0, 1, 2]) {
      const choice = { ask: round, option: 'grab', args: {} };
      const answers = await Promise.all(
        people.map((person, i) =>
          person.choose(id, { ...choice, once: `${round} ${i}` }).then(
            (done) => done.seat,
            (error: { status: number; message: string }) => `${error.status} ${error.message}`,
          ),
        ),
      );
      const first = answers.find((answer) => typeof answer === 'number');
      expect(answers).toContain(first);
      expect(answers).toContain(`409 ${first === 1 ? 'Wren' : 'Otter'} was first.`);
    }
    const view = await client.view(id, 1);
    expect(view.waiting.kind).toBe('over');
    expect(view.seats.reduce((sum, seat) => sum + seat.score, 0)).toBe(3);
  });

  it('ends with its clock, and the row stands in the record', async () => {
    const opened = await client.openTable({ sheet: 'Quick Grab', seats: [{ name: 'Wren' }, { name: 'Otter' }] });
    const { id } = opened.table;
    const wren = client.withKey(seatKey(opened, 1)).follow(id, {});
    await until(() => wren.view?.waiting.kind === 'over', 'the clock to end the race');
    wren.stop();
    const rows = (await client.record(id)).trim().split('\n').slice(1);
    expect(rows.map((row) => JSON.parse(row))).toMatchObject([{ seat: null, by: 'table', option: 'time', ask: 0 }]);
  });

  it('is run by bots, each in its time', async () => {
    const opened = await client.openTable({
      sheet: 'Ford Dash',
      seats: [
        { name: 'Wren', bot: 'nimble' },
        { name: 'Otter', bot: 'nimble' },
        { name: 'Heron', bot: 'nimble' },
      ],
      pace: 1,
      clocks: false,
    });
    const { id } = opened.table;
    await until(async () => (await client.view(id, 1)).number >= 3, 'bots to lay three cards');
    const rows = (await client.record(id)).trim().split('\n').slice(1);
    expect(rows.every((row) => JSON.parse(row).by === 'bot')).toBe(true);
  });
});
