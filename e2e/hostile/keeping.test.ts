import { chromium } from 'playwright-core';
import { expect, inject, it } from 'vitest';
import { servedConsole } from '../setup/programs.js';
import { openTwo, until } from '../setup/service.js';

const { visit, developer, address } = servedConsole();

it('a table that was played is deleted on the page, once that was said twice', async () => {
  const { table } = await openTwo(developer());
  await developer().closeTable(table.id);
  await visit('/tables', async (page) => {
    const card = page.locator(`[data-played="${table.id}"]`);
    await card.getByRole('button', { name: /^Delete/ }).click();
    await card.getByRole('button', { name: 'Keep it' }).click();
    expect((await developer().table(table.id)).status).toBe('closed');
    await card.getByRole('button', { name: /^Delete/ }).click();
    await card.getByRole('button', { name: 'Delete for good' }).click();
    await card.waitFor({ state: 'detached' });
  });
  await expect(developer().table(table.id)).rejects.toMatchObject({ status: 404 });
});

it('a sheet that no table uses is deleted on the page', async () => {
  const source = 'game "Passing Fancy" for 1 seat { deck standard play { ask seats[1] { option rest { } } } }';
  const { hash } = await developer().addSheet({ source });
  await visit(`/games/${hash}`, async (page) => {
    await page.getByRole('tab', { name: 'Tables' }).click();
    await page.getByRole('button', { name: 'Delete the sheet Passing Fancy' }).click();
    await page.getByRole('button', { name: 'Delete for good' }).click();
    await page.getByText('Passing Fancy').first().waitFor({ state: 'detached' });
    await page.waitForURL(/\/games$/);
  });
  await expect(developer().sheet(hash)).rejects.toMatchObject({ status: 404 });
});

it('looks with other eyes are told at the table, and links to watch end there', async () => {
  const opened = await openTwo(developer());
  const { id } = opened.table;
  await developer().view(id, 'open');
  await visit(`/tables/${id}`, async (page) => {
    await page.getByRole('button', { name: 'Seats and more' }).click();
    await page.getByText('Looks with other eyes').click();
    await page.waitForSelector('ol:has-text("open hands")');
    await page.getByRole('button', { name: 'End all links to watch' }).click();
    await until(
      () =>
        developer()
          .withKey(opened.keys.watch)
          .view(id)
          .then(
            () => false,
            () => true,
          ),
      'the watch key to end',
    );
  });
});

it('a page comes in by a link, once, and the word stays in no history', async () => {
  const { word } = await developer().makeLogin();
  const browser = await chromium.launch({
    executablePath: inject('browser'),
    args: ['--no-sandbox', '--disable-quic', '--disable-background-networking'],
  });
  try {
    const page = await (await browser.newContext()).newPage();
    await page.goto(`${address()}/#open=${word}`);
    await page.waitForSelector('[data-game], h1');
    expect(page.url()).not.toContain(word);
    await page.goto(`${address()}/tables`);
    await page.waitForSelector('h1:has-text("Tables")');
    const other = await (await browser.newContext()).newPage();
    await other.goto(`${address()}/#open=${word}`);
    await other.waitForSelector('text=This word is unknown, used up or too old.');
    await other.waitForSelector('text=A key, please');
  } finally {
    await browser.close();
  }
});
