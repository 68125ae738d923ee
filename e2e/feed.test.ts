import type { Client, Follow } from '@wily-jester/client';
import type { ServerMessage, TableView } from '@wily-jester/protocol';
import type { Service } from '@wily-jester/service';
import jsonPatch, { type Operation } from 'fast-json-patch';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { openTwo, seatKey, startTestService, until } from './setup/service.js';

let service: Service;
let developer: Client;
const ending: (() => void)[] = [];
beforeAll(async () => {
  ({ service, client: developer } = await startTestService());
});
afterEach(() => {
  for (const end of ending.splice(0)) end();
});
afterAll(() => service.stop());

interface Heard {
  readonly id: string | undefined;
  readonly event: string | undefined;
  readonly message: ServerMessage;
}

/** Reads server-sent events, with nothing but what fetch gives. */
async function feed(
  id: string,
  key: string,
  headers: Record<string, string> = {},
  query = '',
): Promise<{ heard: Heard[]; stop(): void; ended: () => boolean }> {
  const stopping = new AbortController();
  const response = await fetch(`${service.address}/api/tables/${id}/feed${query}`, {
    headers: { authorization: `Bearer ${key}`, ...headers },
    signal: stopping.signal,
  });
  expect(response.status).toBe(200);
  expect(response.headers.get('content-type')).toContain('text/event-stream');
  const heard: Heard[] = [];
  let ended = false;
  const read = async (): Promise<void> => {
    let text = '';
    for await (const chunk of response.body as unknown as AsyncIterable<Uint8Array>) {
      text += new TextDecoder().decode(chunk);
      const blocks = text.split('\n\n');
      text = blocks.pop() ?? '';
      for (const block of blocks) {
        const fields = new Map(
          block.split('\n').map((line) => [line.split(': ')[0], line.split(': ').slice(1).join(': ')]),
        );
        heard.push({
          id: fields.get('id'),
          event: fields.get('event'),
          message: JSON.parse(fields.get('data') ?? 'null'),
        });
      }
    }
  };
  read()
    .catch(() => undefined)
    .finally(() => {
      ended = true;
    });
  const stop = (): void => stopping.abort();
  ending.push(stop);
  return { heard, stop, ended: () => ended };
}
const bet = (seat: number, ask = 0) => ({ ask, option: 'bet', args: { amount: 10 }, once: `${seat} ${ask}`, seat });

describe('the feed by server-sent events', () => {
  it('gives the view, then every step with its number as id, and keeps the view true by patches', async () => {
    const opened = await openTwo(developer);
    const { id } = opened.table;
    const { heard } = await feed(id, seatKey(opened, 1));
    await until(() => heard.length > 0, 'the view');
    expect(heard[0]).toMatchObject({ id: '0', event: 'view', message: { type: 'view', number: 0 } });
    await developer.choose(id, bet(1));
    await developer.choose(id, bet(2));
    await until(() => heard.filter(({ event }) => event === 'step').length === 2, 'two steps');
    let view = heard[0]?.message.view as TableView;
    for (const { message } of heard)
      if (message.type === 'step')
        view = jsonPatch.applyPatch(view, [...(message.patch ?? [])] as Operation[], false, false).newDocument;
    expect(view).toEqual(await developer.view(id, 1));
    expect(heard.filter(({ event }) => event === 'step').map((h) => h.id)).toEqual(['1', '2']);
  });

  it.each([
    ['Last-Event-ID', { 'last-event-id': '1' }, ''],
    ['"from"', {}, '?from=1'],
  ])('is resumed by %s, with the steps that were missed', async (_, headers, query) => {
    const opened = await openTwo(developer);
    const { id } = opened.table;
    await developer.choose(id, bet(1));
    await developer.choose(id, bet(2));
    const { heard } = await feed(id, seatKey(opened, 2), headers as Record<string, string>, query);
    await until(() => heard.length > 0, 'the view');
    expect(heard[0]?.message.steps?.map((step) => step.number)).toEqual([2]);
    expect(heard[0]?.message.view?.number).toBe(2);
  });

  it('makes a seat present, and ends with its key', async () => {
    const opened = await openTwo(developer);
    const { id } = opened.table;
    const { heard, ended } = await feed(id, seatKey(opened, 1));
    await until(() => heard.length > 0, 'the view');
    expect((await developer.table(id)).seats[0]?.present).toBe(true);
    await developer.newKey(id, { role: 'seat', seat: 1 });
    await until(ended, 'the feed to end');
    expect(heard.at(-1)?.message.problem?.type).toBe('urn:wily-jester:problem:no-key');
    await until(async () => (await developer.table(id)).seats[0]?.present === false, 'Wren to be gone');
  });

  it('refuses before the first event what it would refuse elsewhere', async () => {
    const opened = await openTwo(developer);
    const response = await fetch(`${service.address}/api/tables/${opened.table.id}/feed?as=2`, {
      headers: { authorization: `Bearer ${seatKey(opened, 1)}` },
    });
    expect(response.status).toBe(403);
    expect(await response.json()).toMatchObject({ type: 'urn:wily-jester:problem:not-allowed' });
  });
});

describe('a choice that is sent many times', () => {
  it('counts once, though it comes ten times at once from two sockets and over HTTP', async () => {
    const opened = await openTwo(developer);
    const { id } = opened.table;
    const wren = developer.withKey(seatKey(opened, 1));
    const follows = [0, 1].map((): Follow => wren.follow(id, {}));
    for (const follow of follows) ending.push(() => follow.stop());
    await until(() => follows.every((follow) => follow.view !== null), 'both views');
    const choice = { ask: 0, option: 'bet', args: { amount: 10 }, once: 'just this' };
    const answers = await Promise.all(
      Array.from({ length: 10 }, (_, i) =>
        i % 3 === 2 ? wren.choose(id, choice) : (follows[i % 2] as Follow).choose(choice),
      ),
    );
    expect(new Set(answers.map((answer) => answer.number))).toEqual(new Set([1]));
    expect((await developer.record(id)).trim().split('\n')).toHaveLength(2);
  });
});
