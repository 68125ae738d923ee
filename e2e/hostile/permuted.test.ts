import type { Client } from '@wily-jester/client';
import type { Choice, Opened, OpenTable } from '@wily-jester/protocol';
import type { Service } from '@wily-jester/service';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { WebSocket } from 'ws';
import { seatKey, startTestService, until } from '../setup/service.js';

let service: Service;
let developer: Client;
beforeAll(async () => {
  ({ service, client: developer } = await startTestService());
});
afterAll(() => service.stop());

type Cards = Readonly<Record<string, string>>;
type Chosen = Pick<Choice, 'option'> & { readonly seat: number; readonly args?: Record<string, never> };

/** Two games that seat 1 cannot tell apart: cards that it has not seen lie otherwise. */
interface Pair {
  readonly sheet: string;
  readonly seats: readonly string[];
  readonly clocks: boolean;
  readonly same: Cards;
  readonly other: readonly [Cards, Cards];
  readonly choices: (variant: 0 | 1) => readonly Chosen[];
  /** What seat 1 tries at the end, which is refused whatever lies where. */
  readonly tries: readonly Omit<Chosen, 'seat'>[];
}

const choice = (seat: number, option: string, args: object = {}): Chosen => ({ seat, option, args: args as never });
const SUITS = ['♣', '♦', '♥', '♠'];
const FACES = SUITS.flatMap((suit) =>
  ['A', ...Array.from({ length: 9 }, (_, i) => i + 2), 'J', 'Q', 'K'].map((rank) => `${rank}${suit}`),
);
const [LEFT, RIGHT] = ['3♣ 4♣ 5♣ 6♦ 7♦ 8♦ 9♦ 10♥ J♥ Q♠ 2♠ 3♠ 4♠', '6♣ 7♣ 8♣ 2♦ 3♦ 4♦ 5♦ 2♥ 3♥ 4♥ 5♠ 6♠ 7♠'] as const;
const threeOf = (hand: string): object => ({ cs: hand.split(' ').slice(0, 3) });

const PAIRS: readonly Pair[] = [
  {
    sheet: 'Lantern Twenty-One',
    seats: ['Wren', 'Otter'],
    clocks: false,
    same: { 'hand/1': '5♠ 6♠ 2♦', 'hand/2': '10♥ 9♥' },
    other: [{ house: '10♣ 9♦' }, { house: '10♣ 6♥' }],
    choices: () => [choice(1, 'bet', { amount: 20 }), choice(2, 'bet', { amount: 10 }), choice(1, 'hit')],
    tries: [choice(1, 'bet', { amount: 20 }), choice(1, 'split'), choice(1, 'hit', { c: '9♦' })],
  },
  {
    sheet: "Long Pot Hold'em",
    seats: ['Wren', 'Otter', 'Heron'],
    clocks: false,
    same: { 'hand/1': 'A♠ K♠', muck: '9♣ 8♣ 7♣', board: '2♦ 7♥ J♣' },
    other: [
      { 'hand/2': '2♣ 7♦', 'hand/3': 'A♥ A♦' },
      { 'hand/2': 'A♥ A♦', 'hand/3': '2♣ 7♦' },
    ],
    // Wren has the button, and is asked first of three.
    choices: () => [choice(1, 'call'), choice(2, 'call'), choice(3, 'check')],
    tries: [choice(1, 'check'), choice(1, 'raise', { amount: 1_000_000 }), choice(1, 'show', { c: 'A♥' })],
  },
  {
    sheet: 'Thorn and Lady',
    seats: ['Wren', 'Otter', 'Heron', 'Pike'],
    clocks: true,
    // Wren holds the card that opens; what Pike passes to Wren is the same.
    same: {
      'hand/1': '2♣ 9♣ 10♣ J♣ 10♦ J♦ 5♥ 6♥ 7♥ 8♠ 9♠ 10♠ J♠',
      'hand/4': 'Q♣ K♣ A♣ Q♦ K♦ A♦ 8♥ 9♥ Q♥ K♥ A♥ K♠ A♠',
    },
    other: [
      { 'hand/2': LEFT, 'hand/3': RIGHT },
      { 'hand/2': RIGHT, 'hand/3': LEFT },
    ],
    choices: (variant) => {
      const [second, third] = variant === 0 ? [LEFT, RIGHT] : [RIGHT, LEFT];
      return [
        choice(2, 'pass', threeOf(second)),
        choice(3, 'pass', threeOf(third)),
        choice(1, 'pass', { cs: ['10♠', 'J♠', 'J♦'] }),
        choice(4, 'pass', { cs: ['Q♣', 'K♣', 'A♣'] }),
      ];
    },
    // A card that somebody else holds, or nobody: the answer must not say which.
    tries: FACES.map((face) => choice(1, 'lay', { c: face })).filter(
      ({ args }) => (args as { c?: string })?.c !== '2♣',
    ),
  },
];

/** What differs from one table to another, and from one moment to the next, whatever lies where. */
const plain = (text: string, table: string): string =>
  text
    .replaceAll(table, 'TABLE')
    .replace(/\d{4}-\d\d-\d\dT[\d:.]+Z/g, 'TIME')
    .replace(/"left":[\d.]+/g, '"left":0');

/** One of the two games, and everything that one key can hear of it. */
class Heard {
  readonly all: string[] = [];
  private socket: WebSocket | undefined;
  private readonly frames: string[] = [];

  constructor(
    private readonly table: string,
    private readonly key: string,
  ) {}

  /** An answer: its status, what its headers say, and its text. */
  private async ask(method: string, path: string, body?: unknown): Promise<void> {
    const response = await fetch(`${service.address}/api/tables/${this.table}${path}`, {
      method,
      headers: { authorization: `Bearer ${this.key}`, ...(body ? { 'content-type': 'application/json' } : {}) },
      ...(body ? { body: JSON.stringify(body) } : {}),
    });
    const text = plain(await response.text(), this.table);
    const sent: [string, string][] = [];
    response.headers.forEach((value, name) => sent.push([name, value]));
    const headers = sent
      .filter(([name]) => !/^(date|etag|ratelimit.*|content-security-policy)$/.test(name))
      .map(([name, value]) => `${name}: ${name === 'content-length' && text.includes('"left"') ? 'some' : value}`);
    this.all.push(`${method} ${path} ${response.status}\n${headers.join('\n')}\n${text}`);
  }

  async look(number: number): Promise<void> {
    for (const path of ['', '/view', '/plan', '/choices', '/events', '/record', '/fairness', '/looks'])
      await this.ask('GET', path);
    for (const path of [`/past/${number}`, `/analysis/${number}`, '/view?as=2', '/view?as=open', '/choices?seat=2'])
      await this.ask('GET', path);
  }
  async tryAll(tries: Pair['tries'], ask: number): Promise<void> {
    for (const [i, { option, args }] of tries.entries())
      await this.ask('POST', '/choices', { ask, option, args, once: `try ${i}` });
    await this.ask('POST', '/branch', { number: 1 });
    await this.ask('POST', '/seats/2/take');
  }

  async follow(): Promise<void> {
    const { host } = new URL(service.address);
    this.socket = new WebSocket(`ws://${host}/api/tables/${this.table}/live`);
    this.socket.on('message', (data) => this.frames.push(plain(String(data), this.table)));
    await new Promise((done) => this.socket?.once('open', done));
    this.socket.send(JSON.stringify({ type: 'hello', key: this.key }));
    // One after the other, so that each is told the same of who is there already.
    await until(() => this.frames.length > 0, 'the line to begin');
  }
  /** Ends the line once it has been told of a number. */
  async leave(number: number): Promise<void> {
    await until(() => this.frames.some((text) => text.includes(`"number":${number},`)), 'the last step to be told');
    this.socket?.close();
    // Who is there, and how a clock stands, is told when it changes: by the moment, not by the cards.
    this.all.push(...this.frames.filter((text) => /^\{"type":"(view|step|problem)"/.test(text)));
  }
}

/** Plays one of the two, and gives what seat 1, a watcher and the host heard. */
async function played(pair: Pair, variant: 0 | 1): Promise<{ heard: string[][]; unseen: string }> {
  const wish: OpenTable = {
    sheet: pair.sheet,
    seats: pair.seats.map((name) => ({ name })),
    gets: { ...pair.same, ...pair.other[variant] },
    seed: 'permuted',
    clocks: pair.clocks,
    pace: 0,
  };
  const opened: Opened = await developer.openTable(wish);
  const { id } = opened.table;
  const listeners = [seatKey(opened, 1), opened.keys.watch, opened.keys.host].map((key) => new Heard(id, key));
  for (const one of listeners) await one.follow();
  let number = 0;
  for (const [i, { seat, ...chosen }] of pair.choices(variant).entries()) {
    const { ask } = await developer.offers(id, seat);
    ({ number } = await developer.choose(id, { ...chosen, seat, ask: ask ?? 0, once: `choice ${i}` }));
    for (const one of listeners) await one.look(number);
  }
  const { ask } = await developer.offers(id, 1);
  for (const one of listeners) await one.tryAll(pair.tries, ask ?? 0);
  for (const one of listeners) await one.leave(number);
  return { heard: listeners.map(({ all }) => all), unseen: JSON.stringify((await developer.view(id, 'open')).piles) };
}

describe('what a key can hear of a table', () => {
  it.each(PAIRS)('is the same, byte for byte, whatever the cards are that it has not seen: $sheet', async (pair) => {
    const [first, second] = [await played(pair, 0), await played(pair, 1)];
    expect(second.unseen).not.toEqual(first.unseen);
    expect(first.heard.flat().length).toBeGreaterThan(100);
    for (const [i, heard] of first.heard.entries()) expect(second.heard[i]).toEqual(heard);
  });
});
