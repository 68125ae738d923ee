/** From a choice sent to the last of four viewers patched, against a bare round trip to four sockets plus one commit. */
import { spawn } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import type { ServerMessage, TableView } from '@wily-jester/protocol';
import jsonPatch, { type Operation } from 'fast-json-patch';
import { WebSocket } from 'ws';
import { addressOf, bareConnections, draw, type Ground, pause, percentile, takeSeat } from './ground.js';

const SECONDS = 6;
/** Code is compiled, and compiled again, while it runs first: on both sides. */
const WARM = 6;
const VIEWERS = 4;
/** Draws until the pack is used up. */
const CARDS = 52;

export interface Latency {
  readonly median: number;
  readonly late: number;
  /** All times, in milliseconds. */
  readonly times: readonly number[];
}
/** What many times come to, also of several measurements together. */
export const latencyOf = (times: readonly number[]): Latency => ({
  median: percentile(times, 0.5),
  late: percentile(times, 0.99),
  times,
});

/** Calls something at an even rate for the time of a measurement. */
async function evenly(rate: number, work: (i: number) => void): Promise<void> {
  const start = performance.now();
  const all = rate * (SECONDS + WARM);
  for (let i = 0; i < all; ) {
    const due = Math.min(all, ((performance.now() - start) * rate) / 1000);
    for (; i < due; i++) work(i);
    await pause(1);
  }
}

interface BenchTable {
  number: number;
  sentAt: number;
  heard: number;
  readonly sockets: WebSocket[];
}

/**
 * Plays each table to a point of its own in the game, as tables stand that were opened at different times: otherwise
 * all of them would gather their fifty-two cards in at the same moment.
 */
async function standApart(tables: readonly BenchTable[]): Promise<void> {
  await Promise.all(
    tables.map(async (table, i) => {
      for (const goal = Math.floor((i * CARDS) / tables.length); table.number < goal; ) {
        table.sentAt = performance.now();
        draw(table.sockets[table.number % VIEWERS] as WebSocket, table.number);
        while (table.sentAt > 0) await pause(1);
      }
    }),
  );
}

/** Keeps a view as it is told, in place, before anything else is done with a message. */
function viewing(heard: (message: ServerMessage) => void): (message: ServerMessage) => void {
  let view: TableView | undefined;
  return (message) => {
    if (message.type === 'view') view = message.view;
    if (message.type === 'step') jsonPatch.applyPatch(view, [...(message.patch ?? [])] as Operation[]);
    heard(message);
  };
}

/** Milliseconds at so many choices a second, over as many tables of four seats as that takes. */
export async function choiceToViewers(ground: Ground, rate: number): Promise<Latency> {
  const times: number[] = [];
  const tables = await Promise.all(
    Array.from({ length: Math.max(4, rate / 20) }, async () => {
      const { id, keys } = await ground.open(VIEWERS);
      const table: BenchTable = { number: 0, sentAt: 0, heard: 0, sockets: [] };
      for (const key of keys)
        table.sockets.push(
          await takeSeat(
            ground.address,
            id,
            key,
            viewing(({ type, number = 0 }) => {
              if (type !== 'step' || ++table.heard < VIEWERS) return;
              times.push(performance.now() - table.sentAt);
              table.heard = 0;
              table.number = number;
              table.sentAt = 0;
            }),
          ),
        );
      return table;
    }),
  );
  await standApart(tables);
  times.length = 0;
  let skipped = 0;
  let warm = 0;
  await evenly(rate, (i) => {
    if (i === rate * WARM) warm = times.length;
    const table = tables[i % tables.length];
    if (!table || table.sentAt > 0) {
      skipped++;
      return;
    }
    table.sentAt = performance.now();
    draw(table.sockets[table.number % VIEWERS] as WebSocket, table.number);
  });
  await pause(500);
  for (const { sockets } of tables) for (const socket of sockets) socket.close();
  if (skipped > rate * SECONDS * 0.1) process.stdout.write(`  (${skipped} choices found their table still busy)\n`);
  return latencyOf(times.slice(warm));
}

/** The same with nothing of ours: a bare service, a commit, and a frame of 400 bytes to four sockets. */
export async function bareRoundTrip(ground: Ground, rate: number): Promise<Latency> {
  const pool = bareConnections(ground);
  await pool.query('CREATE OR REPLACE TABLE bare (id INT AUTO_INCREMENT PRIMARY KEY, args TEXT)');
  const server = spawn(
    process.execPath,
    [fileURLToPath(new URL('./bare-server.js', import.meta.url)), ground.database],
    { stdio: ['ignore', 'pipe', 'inherit'] },
  );
  try {
    return latencyOf(await roundTrips((await addressOf(server)).replace('http', 'ws'), rate));
  } finally {
    server.kill();
    await pool.query('DROP TABLE bare');
    await pool.end();
  }
}

async function roundTrips(address: string, rate: number): Promise<number[]> {
  const times: number[] = [];
  const tables = await Promise.all(
    Array.from({ length: Math.max(4, rate / 20) }, async (_, t) => {
      const table = { sentAt: 0, heard: 0, sockets: [] as WebSocket[] };
      for (let v = 0; v < VIEWERS; v++) {
        const socket = new WebSocket(`${address}/${t}`);
        await new Promise((done) => socket.once('open', done));
        socket.on('message', (data) => {
          JSON.parse(String(data));
          if (++table.heard < VIEWERS) return;
          times.push(performance.now() - table.sentAt);
          table.heard = 0;
          table.sentAt = 0;
        });
        table.sockets.push(socket);
      }
      return table;
    }),
  );
  let warm = 0;
  await evenly(rate, (i) => {
    if (i === rate * WARM) warm = times.length;
    const table = tables[i % tables.length];
    if (!table || table.sentAt > 0) return;
    table.sentAt = performance.now();
    table.sockets[i % VIEWERS]?.send(JSON.stringify({ type: 'choose', choice: { ask: i, option: 'draw', args: {} } }));
  });
  await pause(500);
  for (const { sockets } of tables) for (const socket of sockets) socket.terminate();
  return times.slice(warm);
}
