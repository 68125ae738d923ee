import { once } from 'node:events';
import type { Response } from 'express';

/** Sends NDJSON page by page, as fast as the client takes it. */
export async function sendNdjson(response: Response, pages: AsyncGenerator<string>): Promise<void> {
  // The first page goes out once nothing can be refused any more.
  const first = await pages.next();
  response.type('application/x-ndjson');
  if (!first.done) await written(response, first.value);
  for await (const page of pages) {
    if (response.destroyed) return;
    await written(response, page);
  }
  response.end();
}

/** Writes, and waits while the client is behind. */
async function written(response: Response, text: string): Promise<void> {
  if (response.write(text) || response.destroyed) return;
  await Promise.race([once(response, 'drain'), once(response, 'close')]);
}
