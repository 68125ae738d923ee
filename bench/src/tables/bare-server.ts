/** The least that could do the work, as a process of its own: a frame comes, one row is committed, a frame goes to all of the room. */
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { type WebSocket, WebSocketServer } from 'ws';
import { bareConnections } from './ground.js';

const pool = bareConnections({ database: process.argv[2] ?? '' });
const http = createServer();
const server = new WebSocketServer({ server: http });
const rooms = new Map<string, WebSocket[]>();
/** Makes the frame as long as a step with its patch is. */
const filler = 'x'.repeat(360);
server.on('connection', (socket, request) => {
  const room = request.url ?? '';
  rooms.set(room, [...(rooms.get(room) ?? []), socket]);
  socket.on('message', async (data) => {
    await pool.execute('INSERT INTO bare (args) VALUES (?)', [String(data)]);
    for (const other of rooms.get(room) ?? []) other.send(JSON.stringify({ type: 'step', filler }));
  });
});
http.listen(0, '127.0.0.1', () =>
  process.stdout.write(`serves on http://127.0.0.1:${(http.address() as AddressInfo).port}\n`),
);
