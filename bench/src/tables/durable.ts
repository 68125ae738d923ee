/** Durable choices a second: from socket to commit, against bare committed inserts of the same database. */
import type { Pool } from 'mariadb';
import { bareConnections, CONNECTIONS, draw, type Ground, pause, percentile, takeSeat } from './ground.js';

/** Both are measured in turn, so that a machine that changes its speed meanwhile changes both. */
const TURNS = 7;
const SECONDS = 2;
const SETTLING = 300;

/** Committed single-row inserts a second, by ten connections with nothing between them and the database. */
async function bareInserts(pool: Pool, turn: number): Promise<number> {
  const start = performance.now();
  const end = start + SECONDS * 1000;
  let done = 0;
  await Promise.all(
    Array.from({ length: CONNECTIONS }, async (_, i) => {
      const connection = await pool.getConnection();
      for (let n = 0; performance.now() < end; n++) {
        await connection.execute('INSERT INTO bare VALUES (?, ?, ?, ?, ?)', [
          `table${i}.${turn}`,
          n,
          'draw',
          '{}',
          '0123456789abcdef0123456789abcdef',
        ]);
        done++;
      }
      await connection.release();
    }),
  );
  return (done * 1000) / (performance.now() - start);
}

/** Tables of one seat, each sending the next choice as soon as the last is acknowledged while they are let. */
async function players(ground: Ground, tables: number) {
  let done = 0;
  let running = false;
  const seats = await Promise.all(
    Array.from({ length: tables }, async () => {
      const { id, keys } = await ground.open(1);
      const seat = { number: 0, socket: null as Awaited<ReturnType<typeof takeSeat>> | null };
      seat.socket = await takeSeat(ground.address, id, keys[0] ?? '', (message) => {
        if (message.type !== 'chosen') return;
        done++;
        seat.number = message.number ?? 0;
        if (running && seat.socket) draw(seat.socket, seat.number);
      });
      return seat;
    }),
  );
  return {
    rate: async (): Promise<number> => {
      running = true;
      for (const { socket, number } of seats) if (socket) draw(socket, number);
      await pause(SETTLING);
      const before = done;
      const start = performance.now();
      await pause(SECONDS * 1000);
      const rate = ((done - before) * 1000) / (performance.now() - start);
      running = false;
      await pause(SETTLING);
      return rate;
    },
    leave: () => {
      for (const { socket } of seats) socket?.close();
    },
  };
}

export interface Durable {
  readonly bare: number;
  readonly ours: number;
  /** The middle one of all turns' ratios, and the least and greatest of them. */
  readonly ratio: number;
  readonly least: number;
  readonly most: number;
}

/** Choices a second over so many tables beside bare inserts, turn by turn. */
export async function durableChoices(ground: Ground, tables: number): Promise<Durable> {
  const pool = bareConnections(ground);
  await pool.query(
    'CREATE OR REPLACE TABLE bare (tableId CHAR(12), number INT, option VARCHAR(80), args TEXT, digest CHAR(32), PRIMARY KEY (tableId, number))',
  );
  const { rate, leave } = await players(ground, tables);
  // The first turns go to code that is compiled while it runs, on both sides.
  for (let i = 1; i <= 2; i++) {
    await bareInserts(pool, -i);
    await rate();
  }
  const bares: number[] = [];
  const rates: number[] = [];
  for (let turn = 0; turn < TURNS; turn++) {
    bares.push(await bareInserts(pool, turn));
    rates.push(await rate());
  }
  leave();
  await pool.query('DROP TABLE bare');
  await pool.end();
  const ratios = rates.map((rate, i) => rate / (bares[i] as number));
  return {
    bare: percentile(bares, 0.5),
    ours: percentile(rates, 0.5),
    ratio: percentile(ratios, 0.5),
    least: Math.min(...ratios),
    most: Math.max(...ratios),
  };
}
