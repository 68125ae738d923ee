import { readFileSync } from 'node:fs';
import { namedShuffle } from '@wily-jester/core';
import type { Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { servedConsole } from './setup/programs.js';
import { until } from './setup/service.js';

const { visit, developer } = servedConsole();

/** Picks one of a list's options. */
async function pick(page: Page, list: string, option: string): Promise<void> {
  await page.getByLabel(list, { exact: true }).click();
  await page.getByRole('option', { name: option, exact: true }).click();
}
/** What a click hands to whoever pressed it, as a file. */
async function taken(page: Page, button: string): Promise<{ name: string; text: string }> {
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: button }).click()]);
  return { name: file.suggestedFilename(), text: readFileSync(await file.path(), 'utf8') };
}

describe('the Trials page', () => {
  it('asks what a rule changes, and tells it in a sentence, pictures and figures', async () => {
    await visit('/trials', async (page) => {
      await page.waitForSelector('text=What is a game really like?');
      await pick(page, 'Who plays', 'chart');
      await pick(page, 'What is compared', 'pays');
      await pick(page, 'How many games', '1,000');
      await page.locator('summary').click();
      await page.locator('details label', { hasText: 'rounds' }).locator('input').fill('1');
      await page.locator('details label', { hasText: 'stake' }).locator('input').fill('100000');
      await page.getByRole('button', { name: 'Play them' }).click();
      await page.waitForURL(/\/trials\/[a-z0-9]{12}$/);
      await page.getByText(/seats\. 1,000 games in \d+ seconds/).waitFor();
      // All are played a moment before the last interval is there.
      await page.getByRole('heading', { name: /^With pays/ }).waitFor();
      const headline = await page.locator('article h1').innerText();
      expect(headline).toMatch(
        /With pays sixToFive, “house keeps” is 1\.\d+ in a hundred more than with pays threeToTwo/,
      );
      for (const chart of ['against', 'difference', 'table-gain', 'shares-hand'])
        expect(await page.locator(`[data-chart="${chart}"] svg[role="img"]`).getAttribute('aria-label')).not.toBe('');
      const difference = page.locator('[data-chart="difference"]');
      await difference.getByRole('button', { name: 'Show the figures' }).click();
      expect(await difference.locator('tbody tr').innerText()).toMatch(
        /pays sixToFive less pays threeToTwo\s+1\.\d+ ±/,
      );
      // The cells of a table are walked, and read.
      const cells = page.locator('[data-chart="table-gain"] [role="group"]');
      const read = cells.locator('[aria-live]');
      await cells.focus();
      const corner = await read.innerText();
      expect(corner).toMatch(/^\S+ against 1: /);
      await page.keyboard.press('End');
      expect(await read.innerText()).toMatch(/^\S+ against 10: /);
      await page.keyboard.press('ArrowDown');
      expect(await read.innerText()).not.toMatch(new RegExp(`^${corner.split(' ')[0]} against`));
      await page.keyboard.press('Escape');
      expect(await read.innerText()).toBe('');
      const { width = 0 } = (await cells.boundingBox()) ?? {};
      await cells.hover({ position: { x: width - 20, y: 40 } });
      expect(await cells.locator('.reading').innerText()).toMatch(/ against 10: /);
      const csv = await taken(page, 'Figures as CSV');
      expect(csv.name).toBe('quayside-twenty-one.csv');
      expect(csv.text).toContain('pays sixToFive less pays threeToTwo,house keeps,difference');
      expect((await developer().trials())[0]).toMatchObject({ status: 'done', played: 1_000 });
      // It is found again, and forgotten.
      await page.reload();
      await page.getByText(/seats\. 1,000 games in/).waitFor();
      expect(await page.locator('article h1').innerText()).toBe(headline);
      await page.getByRole('button', { name: /^Forget/ }).click();
      await page.waitForSelector('text=What is a game really like?');
      expect(await developer().trials()).toEqual([]);
    });
  });

  it('shows a trial as it grows, and keeps what there is where it is stopped', async () => {
    const { id } = await developer().openTrial({ sheet: 'Long War', games: 50_000_000, title: 'How long is a war?' });
    await visit(`/trials/${id}`, async (page) => {
      await page.getByText(/^So far: /).waitFor();
      const figure = (): Promise<string> => page.locator('.how p').innerText();
      const before = await figure();
      await until(async () => (await figure()) !== before, 'more games');
      await page.getByRole('button', { name: 'Stop and keep this' }).click();
      await page.getByText(/^“battles” is/).waitFor();
      expect(await figure()).toContain('Intervals are the wider ones that may be watched.');
      expect(await page.locator('article h1').innerText()).toMatch(/^“battles” is \d+(\.\d+)?, give or take/);
    });
    expect((await developer().trial(id)).trial.status).toBe('stopped');
  });

  it('says what the service refuses, and why a trial could not go on', async () => {
    await developer().addSheet({
      source:
        'game "Torn <b>Page</b>" for 1 seat {\n  deck standard\n  setting parts: 0..9 = 0 "what is divided by"\n  play {\n    tally "<img src=x>" 1 / parts\n    finish\n  }\n}\n',
    });
    const { hash } = await developer().sheet('Torn <b>Page</b>');
    await visit(`/trials?sheet=${hash}`, async (page) => {
      await page.getByRole('button', { name: 'Play them' }).click();
      await page.getByText('This divides by zero. (line 5 of the sheet)').waitFor();
      await page.locator('summary').click();
      const by = page.locator('details label', { hasText: 'parts' }).locator('input');
      await by.fill('11');
      await by.press('Tab');
      await page.getByRole('button', { name: 'Play them' }).click();
      await page.getByText(/parts is a whole number from 0 to 9/).waitFor();
      await by.fill('2');
      await by.press('Tab');
      await page.getByRole('button', { name: 'Play them' }).click();
      await page.getByText(/seats\. 10,000 games in/).waitFor();
      // A stranger's words are words.
      expect(await page.locator('article img').count()).toBe(0);
      expect(await page.locator('article h1').innerText()).toContain('<img src=x>');
    });
  });

  it('fits a phone', async () => {
    const { id } = await developer().openTrial({ sheet: 'Lantern Twenty-One', games: 500 });
    await until(async () => (await developer().trial(id)).trial.status === 'done', 'the trial');
    await visit(
      `/trials/${id}`,
      async (page) => {
        await page.locator('[data-chart="table-gain"] svg').waitFor();
      },
      390,
      844,
    );
  });
});

describe('the Shuffle page', () => {
  const orders = (name: string, many: number): Buffer => {
    const shuffle = namedShuffle(name, 52, 'page');
    return Buffer.from(Array.from({ length: many }, () => [...shuffle.next()].join(' ')).join('\n'));
  };

  it('holds a known wrong shuffle against ours, and says what is wrong', async () => {
    await visit('/shuffle', async (page) => {
      const [left, right] = [page.locator('.panel').first(), page.locator('.panel').last()];
      await left.getByText('each swap draws from the whole deck, not from the cards not yet settled').waitFor();
      await right.getByText('every card is as likely in every place').waitFor();
      expect(await page.locator('.tests tbody tr').count()).toBe(10);
      await page.getByRole('button', { name: 'off by one' }).click();
      await left.getByText('the last card never moves').waitFor();
      const csv = await taken(page, 'Figures as CSV');
      expect(csv.name).toBe('off-by-one.csv');
      expect(csv.text).toMatch(/^test,eye,p,corrected/);
    });
  });

  it('audits a file that never leaves the browser, and names a line that cannot be read', async () => {
    await visit('/shuffle', async (page) => {
      const sent: string[] = [];
      page.on('request', (request) => request.method() !== 'GET' && sent.push(request.url()));
      const left = page.locator('.panel').first();
      const give = (name: string, buffer: Buffer) =>
        page.locator('input[type=file]').setInputFiles({ name, mimeType: 'text/plain', buffer });
      await give('mine.txt', orders('riffle:3', 300));
      await left.getByText('it is like about 3 riffles').waitFor();
      expect(await left.locator('header').innerText()).toContain('mine.txt');
      await give('copied.txt', Buffer.from('0 1 2\n0 0 2\n'));
      await left.getByText('Line 2: It has 0 too often and no 1: cards are copied, not moved.').waitFor();
      expect(sent).toEqual([]);
    });
  });

  it('fits a phone', async () => {
    await visit(
      '/shuffle',
      async (page) => {
        await page.locator('.panel [data-chart="places"] svg').last().waitFor();
      },
      390,
      844,
    );
  });
});
