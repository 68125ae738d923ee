/**
 * npm run bench:workshop: from a key typed to the table that stands there again, in Chromium, for hold'em after 60 choices;
 * with its parts, and beside what the service alone would take to check the same text.
 */
import { readFileSync } from 'node:fs';
import { chromium, type Page } from 'playwright-core';
import { startGround } from './tables/ground.js';
import { median } from './timing.js';

const CHOICES = 60;
const KEYS = 15;
const MOST = 400;
const MOST_PROBLEM = 150;
const FREE = 10_000_000;

interface Timed {
  /** From the key to the table, or to the sentence under a mistake, in milliseconds. */
  readonly whole: number;
  readonly reading: number;
  readonly playing: number;
}

/** Types one key at the caret, and waits until a sign of the page changes. */
async function timed(page: Page, key: string, sign: string): Promise<Timed> {
  await page.evaluate((watched) => {
    const page = document.querySelector('.workshop') as HTMLElement;
    const before = page.dataset[watched];
    const w = window as unknown as { typed: number; seen: Promise<number> };
    addEventListener('keydown', () => (w.typed = performance.now()), { once: true, capture: true });
    w.seen = new Promise((done) => {
      const observer = new MutationObserver(() => {
        if (page.dataset[watched] === before) return;
        observer.disconnect();
        requestAnimationFrame(() => done(performance.now()));
      });
      observer.observe(page, { attributes: true });
    });
  }, sign);
  await page.keyboard.press(key);
  return page.evaluate(async () => {
    const w = window as unknown as { typed: number; seen: Promise<number> };
    const whole = (await w.seen) - w.typed;
    const { readMs = '0', playedMs = '0' } = (document.querySelector('.workshop') as HTMLElement).dataset;
    return { whole, reading: Number(readMs), playing: Number(playedMs) };
  });
}

const sheet = readFileSync(new URL('../../sheets/long-pot.motley', import.meta.url), 'utf8');
const rehearsals = readFileSync(new URL('../../sheets/long-pot.rehearsal.motley', import.meta.url), 'utf8');
const ground = await startGround(FREE);
const ask = async (path: string, body: object): Promise<Record<string, string>> => {
  const headers = { authorization: `Bearer ${ground.key}`, 'content-type': 'application/json', origin: ground.address };
  const response = await fetch(`${ground.address}${path}`, { method: 'POST', headers, body: JSON.stringify(body) });
  if (!response.ok) throw new Error(await response.text());
  return (await response.json()) as Record<string, string>;
};
const browser = await chromium.launch({
  executablePath: process.env.WILY_CHROMIUM ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-quic', '--disable-background-networking'],
});
try {
  const { id } = await ask('/api/drafts', { sheet, rehearsals });
  const { word } = await ask('/api/logins', {});
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce' });
  const page = await context.newPage();
  await page.goto(`${ground.address}/workshop/${id}#open=${word}`);
  await page.locator('[data-option]').first().waitFor();
  const last = async (): Promise<number> =>
    Number(/of (\d+)/.exec(await page.locator('.rail .ends').innerText())?.[1] ?? 0);
  while ((await last()) < CHOICES) {
    const call = page.locator(
      '[data-option="call"], [data-option="check"], [data-option="fold"], [data-option="giveUp"]',
    );
    const before = await last();
    await call.last().click();
    await page.waitForFunction((n) => !document.querySelector('.rail .ends')?.textContent?.includes(`of ${n}`), before);
  }
  await page.locator('.cm-content').click();
  await page.keyboard.press('Control+Home');
  for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowDown');
  await page.keyboard.press('End');
  const keys: Timed[] = [];
  // A blank more, a blank less: each is another text, read and played anew.
  for (let i = 0; i < KEYS; i++) keys.push(await timed(page, i % 2 === 0 ? 'Space' : 'Backspace', 'playedAt'));
  const problems: Timed[] = [];
  for (let i = 0; i < KEYS; i++) {
    problems.push(await timed(page, 'q', 'mistakes'));
    await timed(page, 'Backspace', 'mistakes');
  }
  const checks: number[] = [];
  for (let i = 0; i < KEYS; i++) {
    const from = performance.now();
    await ask('/api/sheets/check', { source: `${sheet}${' '.repeat(i)}` });
    checks.push(performance.now() - from);
  }
  const whole = median(keys.map((key) => key.whole));
  const check = median(checks);
  const mistake = median(problems.map((key) => key.whole));
  const ms = (n: number): string => `${n.toFixed(0).padStart(5)} ms`;
  process.stdout.write(
    `Hold'em after ${await last()} choices, ${sheet.split('\n').length} lines; the middle of ${KEYS} keys\n` +
      `${ms(whole)}  from a key to the table that stands there again (goal ${MOST})\n` +
      `${ms(median(keys.map((key) => key.reading)))}  of it reading the text\n` +
      `${ms(median(keys.map((key) => key.playing)))}  of it playing the choices again\n` +
      `${ms(mistake)}  from a key to the sentence under a mistake (goal ${MOST_PROBLEM} after a pause)\n` +
      `${ms(check)}  for the service to check the same text, with nothing played: ${(whole / check).toFixed(2)} of it is the whole way in the page\n`,
  );
  process.exitCode = whole > MOST ? 1 : 0;
} finally {
  await browser.close();
  await ground.stop();
}
