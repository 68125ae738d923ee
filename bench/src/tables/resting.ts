/** What tables cost that nobody plays at: memory of each, and the processor's time. */
import { readFileSync } from 'node:fs';
import type { WebSocket } from 'ws';
import { type Ground, pause, takeSeat } from './ground.js';

const VIEWERS = 4;
const IDLE_SECONDS = 10;
const TICKS = 100;

const memory = (pid: number): number =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1]) * 1024;
/** Seconds of processor time that a process has used. */
function processor(pid: number): number {
  const fields = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1]?.split(' ') ?? [];
  return (Number(fields[11]) + Number(fields[12])) / TICKS;
}

export interface Resting {
  readonly tables: number;
  /** Bytes a table with its four viewers. */
  readonly bytes: number;
  /** Share of one processor that is used while nothing happens. */
  readonly idle: number;
}

export async function restingTables(ground: Ground, tables: number): Promise<Resting> {
  const before = memory(ground.pid);
  const sockets: WebSocket[] = [];
  for (let i = 0; i < tables; i += 20)
    await Promise.all(
      Array.from({ length: Math.min(20, tables - i) }, async () => {
        const { id, keys } = await ground.open(VIEWERS);
        for (const key of keys) sockets.push(await takeSeat(ground.address, id, key, () => undefined));
      }),
    );
  await pause(3_000);
  const start = processor(ground.pid);
  await pause(IDLE_SECONDS * 1000);
  const idle = (processor(ground.pid) - start) / IDLE_SECONDS;
  const bytes = (memory(ground.pid) - before) / tables;
  for (const socket of sockets) socket.close();
  return { tables, bytes, idle };
}
