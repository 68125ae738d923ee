import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Client } from '@wily-jester/client';
import { type Browser, type BrowserContext, chromium, type Page, type WebSocketRoute } from 'playwright-core';
import { afterAll, beforeAll, inject } from 'vitest';
import { PATIENCE, ROOT, startTestService } from './service.js';

export interface Ran {
  readonly code: number;
  readonly out: string;
  readonly err: string;
}

/** Runs the command line as a process. */
export function wily(
  args: readonly string[],
  options: { input?: string; cwd?: string; env?: Record<string, string> } = {},
): Promise<Ran> {
  return new Promise((done) => {
    const child = spawn(process.execPath, [join(ROOT, 'wily'), ...args], {
      cwd: options.cwd ?? ROOT,
      env: { ...process.env, ...options.env },
    });
    let out = '';
    let err = '';
    child.stdout.on('data', (data) => {
      out += String(data);
    });
    child.stderr.on('data', (data) => {
      err += String(data);
    });
    child.on('close', (code) => done({ code: code ?? -1, out, err }));
    child.stdin.end(options.input ?? '');
  });
}

/** Starts the command line and lets a test speak with it. */
export function converse(
  args: readonly string[],
  cwd: string,
): { child: ChildProcess; said: () => string; say(text: string): void; ended: Promise<number> } {
  const child = spawn(process.execPath, [join(ROOT, 'wily'), ...args], { cwd });
  let out = '';
  child.stdout.on('data', (data) => {
    out += String(data);
  });
  const ended = new Promise<number>((done) => child.on('close', (code) => done(code ?? -1)));
  return { child, said: () => out, say: (text) => child.stdin.write(`${text}\n`), ended };
}

/** The service as a process of its own, so that it can be killed. */
export async function serviceProcess(
  env: Record<string, string>,
): Promise<{ address: string; child: ChildProcess; kill(): Promise<void> }> {
  const child = spawn(process.execPath, [join(ROOT, 'service/dist/bundled/main.js')], {
    env: { ...process.env, WILY_LOG: 'silent', WILY_SHEETS: join(ROOT, 'sheets'), ...env },
  });
  const gone = new Promise<void>((done) => child.once('exit', () => done()));
  let err = '';
  child.stderr.on('data', (data) => {
    err += String(data);
  });
  const address = await new Promise<string>((done, failed) => {
    child.stdout.on('data', (data) => {
      const found = /serves on (\S+)/.exec(String(data))?.[1];
      if (found) done(found);
    });
    child.once('exit', (code) => failed(new Error(`the service ended with ${code}: ${err}`)));
  });
  return {
    address,
    child,
    kill: async () => {
      child.kill('SIGKILL');
      await gone;
    },
  };
}

/** What a command printed as JSON. */
export const json = (ran: Ran): never => JSON.parse(ran.out) as never;

export const newFolder = (): string => mkdtempSync(join(tmpdir(), 'wily-cli-'));

/** Headless Chromium, as Debian packages it. */
export function openBrowser(): Promise<Browser> {
  return chromium.launch({
    executablePath: inject('browser'),
    args: [
      '--no-sandbox',
      '--disable-quic',
      '--disable-background-networking',
      '--host-resolver-rules=MAP wily.test 127.0.0.1',
    ],
  });
}

/** Makes the pages of a context a developer's, as a link with a word does. */
export async function comeIn(context: BrowserContext, developer: Client): Promise<void> {
  const { address } = developer.options;
  const { word } = await developer.makeLogin();
  await context.request.post(`${address}/api/session`, { data: { word }, headers: { origin: address } });
}

/** A page that collects what goes wrong on it, and is a developer's where one is given. */
export async function openPage(
  browser: Browser,
  width = 1280,
  height = 800,
  developer?: Client,
): Promise<{ page: Page; wrong: string[] }> {
  const context = await browser.newContext({ viewport: { width, height }, reducedMotion: 'reduce' });
  if (developer) await comeIn(context, developer);
  const page = await context.newPage();
  page.setDefaultTimeout(PATIENCE);
  const wrong: string[] = [];
  page.on('console', (message) => {
    // The browser itself notes answers such as 422; the page shows them in its own words.
    const isAnswer = /status of (403|404|409|422)/.test(message.text());
    if ((message.type() === 'error' || message.type() === 'warning') && !isAnswer) wrong.push(message.text());
  });
  page.on('pageerror', (error) => wrong.push(error.message));
  return { page, wrong };
}

/** Opens pages of a console, and insists at the end of each visit that it fits and that nothing went wrong on it. */
export function visitor(
  setup: () => { browser: Browser; developer: Client },
): (path: string, work: (page: Page) => Promise<void>, width?: number, height?: number) => Promise<void> {
  return async (path, work, width = 1280, height = 800) => {
    const { browser, developer } = setup();
    const { address } = developer.options;
    const { page, wrong } = await openPage(browser, width, height, developer);
    try {
      await page.goto(`${address}${path}`);
      await work(page);
      const fits = await page.evaluate(
        () => document.documentElement.scrollWidth <= document.documentElement.clientWidth,
      );
      if (!fits) throw new Error(`the page ${path} is wider than its window`);
      if (wrong.length > 0) throw new Error(`on the page ${path}: ${wrong.join('; ')}`);
    } finally {
      await page.context().close();
    }
  };
}

/** A console in a browser, on a service of its own: for the tests of one file. */
export function servedConsole(): {
  readonly visit: ReturnType<typeof visitor>;
  readonly address: () => string;
  readonly browser: () => Browser;
  readonly developer: () => Client;
} {
  let started: Awaited<ReturnType<typeof startTestService>>;
  let browser: Browser;
  beforeAll(async () => {
    [started, browser] = await Promise.all([startTestService(), openBrowser()]);
  });
  afterAll(async () => {
    await browser.close();
    await started.service.stop();
  });
  return {
    visit: visitor(() => ({ browser, developer: started.client })),
    address: () => started.service.address,
    browser: () => browser,
    developer: () => started.client,
  };
}

/** The plug of a page's live lines: pulled, they break, and no new one comes about until it is put back. */
export async function plugOf(page: Page): Promise<{ pull(): Promise<void>; putBack(): void }> {
  let isOut = false;
  const lines = new Set<WebSocketRoute>();
  await page.routeWebSocket(/\/live$/, (line) => {
    if (isOut) {
      void line.close({ code: 1011 });
      return;
    }
    line.connectToServer();
    lines.add(line);
  });
  return {
    pull: async () => {
      isOut = true;
      for (const line of lines) await line.close({ code: 1011 });
      lines.clear();
    },
    putBack: () => {
      isOut = false;
    },
  };
}
