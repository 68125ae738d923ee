import type { Request, Response } from 'express';
import { keyIn } from '../access/rights.js';
import type { Lines } from '../live/lines.js';
import { Problem } from '../problems.js';
import type { Right } from '../storage/keys.js';
import type { Known } from './callers.js';

/**
 * A line of server-sent events. It counts as a socket does, and ends with the right that opened it. Until it begins,
 * the request can still be refused.
 */
export class EventStream {
  private readonly early: (() => void)[] = [];

  private constructor(private readonly response: Response) {}

  /** @throws Problem where the address, or the key, has too many lines open */
  static open(lines: Lines, request: Request, response: Response, right: Right): EventStream {
    const { address } = response.locals.caller as Known;
    const key = keyIn(request.headers) ?? '';
    const place = lines.crowd.enter(address);
    if (!place?.known(key)) {
      place?.left();
      throw new Problem('too-many', 'Too many lines are open for this key: close some of them first.', {
        retryAfter: 10,
      });
    }
    const stream = new EventStream(response);
    const close = lines.add({ key, right, end: (problem) => stream.end(problem) });
    response.on('close', () => {
      close();
      place.left();
    });
    if (response.destroyed) {
      close();
      place.left();
    }
    return stream;
  }

  /** Whether nothing can be sent any more. */
  get isClosed(): boolean {
    return this.response.destroyed || this.response.writableEnded;
  }
  /** Bytes that wait to be sent. */
  get buffered(): number {
    return this.response.writableLength;
  }
  /** Calls back once the line is closed. */
  closed(work: () => void): void {
    if (this.isClosed) work();
    else this.response.on('close', work);
  }

  /** Sends the head, and what was said before. */
  begin(): void {
    if (this.isClosed) return;
    this.response.writeHead(200, {
      'content-type': 'text/event-stream; charset=utf-8',
      'cache-control': 'no-store',
      'x-accel-buffering': 'no',
    });
    for (const said of this.early.splice(0)) said();
  }

  /** Sends an event, once the line has begun. @param sent called when it is on its way */
  send(
    event: string,
    text: string,
    { id, sent }: { readonly id?: number | undefined; readonly sent?: () => void } = {},
  ): void {
    if (this.isClosed) return;
    if (!this.response.headersSent) {
      this.early.push(() => this.send(event, text, { id, ...(sent ? { sent } : {}) }));
      return;
    }
    this.response.write(`${id === undefined ? '' : `id: ${id}\n`}event: ${event}\ndata: ${text}\n\n`, sent);
  }

  /** Ends the line, with what is wrong. */
  end(problem: Problem | null = null): void {
    if (this.isClosed) return;
    if (problem) this.send('problem', JSON.stringify({ type: 'problem', problem }));
    if (this.response.headersSent) this.response.end();
    else this.early.push(() => this.response.end());
  }
}
