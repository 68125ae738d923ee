import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Browser } from 'playwright-core';
import { rolldown } from 'rolldown';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type PlayAnswer, type PlayWish, playSome } from './setup/engine-play.js';
import { openBrowser } from './setup/programs.js';
import { ROOT } from './setup/service.js';

const SOURCE = readFileSync(join(ROOT, 'sheets/long-pot.motley'), 'utf8');
const SEATS = ['Wren', 'Otter', 'Heron'];
const CHOICES = 60;
/** The page may run no text as code. Its worker may, for that is how rules become code; it may do nothing else. */
const PAGE_POLICY = "default-src 'none'; script-src 'self'; worker-src 'self'";
const WORKER_POLICY = "default-src 'none'; script-src 'unsafe-eval'";

/** Says in its title whether the page may run a text as code. */
const PAGE_SCRIPT =
  "try { new Function(''); document.title = 'it may'; } catch (error) { document.title = error.name; }";

let folder: string;
let server: Server;
let browser: Browser;
let address: string;

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'wily-engine-'));
  const bundle = await rolldown({ input: join(ROOT, 'e2e/setup/engine-worker.ts'), platform: 'browser' });
  await bundle.write({ file: join(folder, 'worker.js'), format: 'esm' });
  server = createServer((request, response) => {
    const isWorker = request.url === '/worker.js';
    response.setHeader('content-security-policy', isWorker ? WORKER_POLICY : PAGE_POLICY);
    response.setHeader('content-type', request.url === '/' ? 'text/html' : 'text/javascript');
    if (isWorker) response.end(readFileSync(join(folder, 'worker.js')));
    else response.end(request.url === '/' ? '<!doctype html><script src="/page.js"></script>' : PAGE_SCRIPT);
  });
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  address = `http://127.0.0.1:${(server.address() as AddressInfo).port}/`;
  browser = await openBrowser();
});

afterAll(async () => {
  await browser?.close();
  server?.close();
  rmSync(folder, { recursive: true, force: true });
});

/** What the worker answers, in a page of Chromium. */
async function inBrowser(wish: PlayWish): Promise<PlayAnswer> {
  const page = await browser.newPage();
  try {
    await page.goto(address);
    return await page.evaluate(
      (asked) =>
        new Promise<PlayAnswer>((resolve, reject) => {
          const worker = new Worker('/worker.js', { type: 'module' });
          worker.onmessage = ({ data }) => resolve(data);
          worker.onerror = (event) => reject(new Error(event.message));
          worker.postMessage(asked);
        }),
      wish,
    );
  } finally {
    await page.close();
  }
}

describe('the language and the engine in a browser', () => {
  it('compile a sheet with a bundled part and play it to the digests that they come to elsewhere', async () => {
    const here = playSome({ source: SOURCE, seats: SEATS, choices: CHOICES });
    expect(here).toHaveProperty('digests.length', CHOICES);
    expect(await inBrowser({ source: SOURCE, seats: SEATS, choices: CHOICES })).toEqual(here);
  });

  it('say there what is wrong with a sheet', async () => {
    const wish = { source: 'game "Half" for 1 seat { play { deel 1 } }', seats: ['Wren'], choices: 1 };
    const here = playSome(wish);
    expect(here).toHaveProperty('problems');
    expect(await inBrowser(wish)).toEqual(here);
  });

  it('run under a policy that lets the page itself run no text as code', async () => {
    const page = await browser.newPage();
    await page.goto(address);
    expect(await page.title()).toBe('EvalError');
    await page.close();
  });
});
