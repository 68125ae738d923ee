/** Durable choices a second: from socket to commit, against bare committed inserts of the same database. */
import { bareConnections, CONNECTIONS, draw, type Ground, pause, takeSeat } from './ground.js';

const SECONDS = 6;

/** Committed single-row inserts a second, by ten connections with nothing between them and the database. */
export async function bareInserts(ground: Ground): Promise<number> {
  const pool = bareConnections(ground);
  await pool.query(
    'CREATE OR REPLACE TABLE bare (tableId CHAR(12), number INT, option VARCHAR(80), args TEXT, digest CHAR(32), PRIMARY KEY (tableId, number))',
  );
  const end = performance.now() + SECONDS * 1000;
  let done = 0;
  await Promise.all(
    Array.from({ length: CONNECTIONS }, async (_, i) => {
      const connection = await pool.getConnection();
      for (let n = 0; performance.now() < end; n++) {
        await connection.execute('INSERT INTO bare VALUES (?, ?, ?, ?, ?)', [
          `table${i}`,
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
  await pool.query('DROP TABLE bare');
  await pool.end();
  return done / SECONDS;
}

/** Choices a second over so many tables of one seat, each sending the next as soon as the last is acknowledged. */
export async function durableChoices(ground: Ground, tables: number): Promise<number> {
  let done = 0;
  let running = true;
  const sockets = await Promise.all(
    Array.from({ length: tables }, async () => {
      const { id, keys } = await ground.open(1);
      const socket = await takeSeat(ground.address, id, keys[0] ?? '', (message) => {
        if (message.type !== 'chosen') return;
        done++;
        if (running) draw(socket, message.number ?? 0);
      });
      return socket;
    }),
  );
  for (const socket of sockets) draw(socket, 0);
  await pause(2_000);
  const before = done;
  const start = performance.now();
  await pause(SECONDS * 1000);
  const rate = ((done - before) * 1000) / (performance.now() - start);
  running = false;
  await pause(500);
  for (const socket of sockets) socket.close();
  return rate;
}
