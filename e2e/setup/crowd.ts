import { randomUUID } from 'node:crypto';
import type { Client, Follow } from '@wily-jester/client';
import type { Opened, TableView } from '@wily-jester/protocol';
import { seatKey, until } from './service.js';

/** The long form of the tests that take their time: `WILY_FULL=1`. */
export const FULL = process.env.WILY_FULL === '1';

/** Keeps a figure of the long form for the docs. */
export const figure = (text: string): void => {
  if (FULL) process.stdout.write(`\n  ${text}\n`);
};

interface Acknowledged {
  readonly number: number;
  readonly seat: number;
  readonly option: string;
}

type Chosen = Pick<Acknowledged, 'option'> & { readonly args: Record<string, string | number | boolean | null> };

/** Something legal to choose, from what is offered. */
export function somethingLegal(view: Pick<TableView, 'offers'>): Chosen | null {
  const open = view.offers.filter((offer) => offer.legal);
  for (const offer of [...open].sort(() => Math.random() - 0.5)) {
    const args: Chosen['args'] = {};
    for (const param of offer.params) {
      if (param.kind === 'range') args[param.name] = param.from ?? 0;
      else if (param.kind === 'values') args[param.name] = param.values?.[0]?.value ?? null;
    }
    if (Object.keys(args).length === offer.params.length) return { option: offer.option, args };
  }
  return null;
}

/** One client with a seat, that plays whatever is legal until it is stopped. */
export class Player {
  readonly acknowledged: Acknowledged[] = [];
  readonly wrong: string[] = [];
  /** How often it was told that nothing can be kept now. */
  unavailable = 0;
  readonly follow: Follow;
  private ended = false;
  private readonly playing: Promise<void>;

  constructor(
    client: Client,
    readonly opened: Opened,
    readonly seat: number,
  ) {
    this.follow = client.withKey(seatKey(opened, seat)).follow(opened.table.id, {});
    this.playing = this.play();
  }

  private async play(): Promise<void> {
    while (!this.ended) {
      const { view } = this.follow;
      const chosen = view?.waiting.seats?.includes(this.seat) === true ? somethingLegal(view) : null;
      if (!view || !chosen) {
        await new Promise((done) => setTimeout(done, 2));
        continue;
      }
      const choice = { ask: view.waiting.ask ?? 0, ...chosen, once: randomUUID() };
      try {
        const { number, option } = await this.follow.choose(choice);
        this.acknowledged.push({ number, seat: this.seat, option });
        await until(() => this.ended || (this.follow.view?.number ?? 0) >= number, 'the view to follow');
      } catch (error) {
        const { kind, message } = error as { kind?: string; message: string };
        if (this.ended) return;
        if (kind === 'unavailable') this.unavailable++;
        if (!['stale', 'turn', 'unavailable', 'refused'].includes(kind ?? '')) this.wrong.push(`${kind} ${message}`);
        await new Promise((done) => setTimeout(done, 20));
      }
    }
  }

  /** Stops choosing, once what is under way is answered; the connection stays. */
  async rest(): Promise<void> {
    this.ended = true;
    await this.playing;
  }
}

/** Many tables of two seats, with a client at each seat. */
export async function crowd(client: Client, tables: number): Promise<Player[]> {
  const players: Player[] = [];
  for (let i = 0; i < tables; i++) {
    const opened = await client.openTable({
      sheet: 'Lantern Twenty-One',
      seats: [{ name: 'Wren' }, { name: 'Otter' }],
      settings: { rounds: 1000, stake: 100_000 },
      clocks: false,
      pace: 0,
    });
    players.push(new Player(client, opened, 1), new Player(client, opened, 2));
  }
  return players;
}

export const acknowledgedBy = (players: readonly Player[]): number =>
  players.reduce((sum, player) => sum + player.acknowledged.length, 0);

/** What is wrong after play: choices lost or applied twice, and views that differ from the service's. */
export async function wrongAfter(client: Client, players: readonly Player[]): Promise<string[]> {
  const wrong = players.flatMap((player) => player.wrong);
  for (const { opened, seat, acknowledged, follow } of players) {
    const { id } = opened.table;
    const rows = (await client.record(id))
      .trim()
      .split('\n')
      .slice(1)
      .map((line) => JSON.parse(line) as { number: number; seat: number | null; option: string });
    for (const [i, row] of rows.entries()) if (row.number !== i + 1) wrong.push(`${id}: row ${i + 1} is ${row.number}`);
    for (const { number, option } of acknowledged) {
      const row = rows[number - 1];
      if (row?.option !== option || row.seat !== seat) wrong.push(`${id}: the acknowledged choice ${number} is lost`);
    }
    const numbers = acknowledged.map(({ number }) => number);
    if (new Set(numbers).size !== numbers.length) wrong.push(`${id}: a choice was acknowledged twice`);
    await until(
      async () => JSON.stringify(follow.view) === JSON.stringify(await client.view(id, seat)),
      `seat ${seat} of ${id} to see what the service says`,
    ).catch((error: Error) => wrong.push(error.message));
  }
  return wrong;
}
