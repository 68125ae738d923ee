import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Client } from '@wily-jester/client';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { WebSocket } from 'ws';
import { newFolder, serviceProcess } from '../setup/programs.js';
import { freshDatabase, openTwo, seatKey } from '../setup/service.js';

let service: Awaited<ReturnType<typeof serviceProcess>>;
let client: Client;
let key: string;
beforeAll(async () => {
  const env = {
    WILY_DB_URL: await freshDatabase(),
    WILY_DATA: newFolder(),
    WILY_PORT: '0',
    WILY_RATE: '1000000',
    WILY_GUESSES: '1000',
  };
  service = await serviceProcess(env);
  key = readFileSync(join(env.WILY_DATA, 'developer.key'), 'utf8').trim();
  client = new Client({ address: service.address, key });
});
afterAll(() => service?.kill());

/** What a socket hears, until it is closed, of frames that are sent one after the other. */
async function heard(table: string, frames: readonly unknown[]): Promise<{ texts: string[]; code: number }> {
  const socket = new WebSocket(`${service.address.replace('http', 'ws')}/api/tables/${table}/live`);
  const texts: string[] = [];
  socket.on('message', (data) => texts.push(String(data)));
  await new Promise((done) => socket.once('open', done));
  const closed = new Promise<number>((done) => socket.once('close', done));
  for (const frame of frames) socket.send(JSON.stringify(frame));
  return { texts, code: await closed };
}

describe('words that strangers send', () => {
  it('never end the process: a viewer as long as a frame', async () => {
    const opened = await openTwo(client);
    for (const as of ['x'.repeat(5_000), '\u{1f0a1}'.repeat(60), 99, -1, 'seat', { a: 1 }]) {
      const { texts, code } = await heard(opened.table.id, [
        { type: 'hello', key, as },
        { type: 'hello', key: 'no key of ours' },
      ]);
      expect(code).toBe(4003);
      expect(texts.join()).toContain('problem');
      expect(texts.join().length).toBeLessThan(1_000);
    }
    expect((await client.health()).status).toBe('ok');
  });

  it('are what a frame may hold, and nothing else', async () => {
    const opened = await openTwo(client);
    const wrong = [{ type: 'hello' }, { type: 'hello', key, choice: {} }, { type: 'choose', key }, { type: 'choose' }];
    for (const frame of wrong) {
      const { texts } = await heard(opened.table.id, [frame, { type: 'hello', key: 'no key of ours' }]);
      expect(JSON.parse(texts[0] ?? '').type, JSON.stringify(frame)).toBe('problem');
    }
  });

  it('name one table in one way', async () => {
    const opened = await openTwo(client);
    const headers = { authorization: `Bearer ${seatKey(opened, 1)}` };
    for (const id of [
      `${opened.table.id}%20`,
      `${opened.table.id.slice(0, 11)}`,
      `%20${opened.table.id}`,
      '%00'.repeat(12),
    ]) {
      const response = await fetch(`${service.address}/api/tables/${id}/view`, { headers });
      expect([403, 404], id).toContain(response.status);
      const developers = await fetch(`${service.address}/api/tables/${id}/view`, {
        headers: { authorization: `Bearer ${key}` },
      });
      expect(developers.status, id).toBe(404);
    }
  });

  it('are no names where nobody can see them', async () => {
    for (const name of ['Wren\u202eretto', 'Wr\u0000en', 'Wr\ten', '\ud800', 'A\u2028B', '\u200b'])
      await expect(openTwo(client, { seats: [{ name }, { name: 'Otter' }] }), JSON.stringify(name)).rejects.toThrow();
    const opened = await openTwo(client, { seats: [{ name: 'Wre\u0301n' }, { name: 'Öttér' }] });
    expect(opened.table.seats.map((seat) => seat.name)).toEqual(['Wr\u00e9n', 'Öttér']);
    for (const title of ['Reed\u202e Row', 'Reed\u0007 Row', `Reed ${'x'.repeat(100)}`]) {
      const source = `game "${title}" for 1 seat { deck standard play { finish } }`;
      await expect(client.addSheet({ source }), JSON.stringify(title)).rejects.toThrow(/name|sign/);
    }
  });

  it('are no titles either, nor what a window calls itself', async () => {
    for (const sign of ['\u001b[2J', '\u202e', '\u009b']) {
      const trial = client.openTrial({ sheet: 'Long War', games: 10, title: `over ${sign} there` });
      await expect(trial).rejects.toMatchObject({ kind: 'malformed' });
      const { id, number } = await client.addDraft({ sheet: 'game "X" for 1 seat { }' });
      const texts = { sheet: 'game "X" for 1 seat { }', rehearsals: '', parts: {} };
      const kept = client.keepDraft(id, { after: number, ...texts, window: `disk ${sign}` });
      await expect(kept).rejects.toMatchObject({ kind: 'malformed' });
    }
  });

  it('hold nobody up: blank lines without end, slashes', async () => {
    await expect(client.addSheet({ source: '\n'.repeat(65_000) })).rejects.toThrow();
    // These alone took longer than anybody has waited.
    await expect(client.addSheet({ source: `${'/'.repeat(80)}\n` })).rejects.toThrow();
    const lines = Array.from({ length: 20 }, () => client.health());
    await Promise.all(lines);
  });
});
