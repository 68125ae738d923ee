import type { IncomingMessage, Server } from 'node:http';
import type { Duplex } from 'node:stream';

/** Headers of a request that only the line to the next machine means. */
const OF_THE_LINE: ReadonlySet<string> = new Set(['upgrade', 'connection', 'http2-settings']);

/**
 * Answers a request that asks for another protocol than WebSocket as if it had not asked: a client that would rather
 * speak HTTP/2 sends an ordinary request with such a wish. Node hands it over as an upgrade; it is read again without.
 */
export function asOrdinary(server: Server, request: IncomingMessage, socket: Duplex, head: Buffer): void {
  const lines = [`${request.method} ${request.url} HTTP/${request.httpVersion}`];
  for (let i = 0; i + 1 < request.rawHeaders.length; i += 2) {
    const [name = '', value = ''] = request.rawHeaders.slice(i, i + 2);
    if (!OF_THE_LINE.has(name.toLowerCase())) lines.push(`${name}: ${value}`);
  }
  socket.unshift(Buffer.concat([Buffer.from(`${lines.join('\r\n')}\r\n\r\n`, 'latin1'), head]));
  server.emit('connection', socket);
}
