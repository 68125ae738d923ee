import { readFileSync } from 'node:fs';
import type { Opened } from '@wily-jester/protocol';
import type { Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { openPage, servedConsole } from './setup/programs.js';
import { openTwo, seatKey, until } from './setup/service.js';

const { visit, address, browser, developer } = servedConsole();

const joinPath = (opened: Opened, seat: number): string => `/join/${opened.table.id}#${seatKey(opened, seat)}`;

/** A window of its own, as another person's. */
async function window(path: string, width = 1280, height = 800): Promise<Page> {
  const { page } = await openPage(browser(), width, height, path.startsWith('/join') ? undefined : developer());
  await page.goto(`${address()}${path}`);
  return page;
}
/** Plays one round at a table of two by way of the service. */
async function playRound(id: string): Promise<void> {
  for (const seat of [1, 2])
    await developer().choose(id, { ask: 0, option: 'bet', args: { amount: 10 }, once: `b${seat}`, seat });
  await developer().choose(id, { ask: 2, option: 'stand', once: 's1', seat: 1 });
  await developer().choose(id, { ask: 3, option: 'stand', once: 's2', seat: 2 });
}

describe('an invitation', () => {
  it('is made on the table, and whoever opens it sits in that seat and sees its cards alone', async () => {
    const opened = await openTwo(developer());
    let link = '';
    await visit(`/tables/${opened.table.id}`, async (page) => {
      await page.click('text=Seats and more');
      await page.click('[data-seat-row="2"] >> text=Invite');
      link = await page.locator('[aria-label="Link for Otter"]').inputValue();
      expect(new URL(link).hash).toMatch(/^#seat_/);
    });
    await playRound(opened.table.id);
    const page = await window(link.replace(address(), ''));
    await page.waitForSelector('[data-seat="2"].own');
    // The key is gone from the address, and there is nothing to look with but Otter's eyes.
    expect(page.url()).toBe(`${address()}/tables/${opened.table.id}`);
    expect(await page.locator('#seen-by').count()).toBe(0);
    expect(await page.locator('nav a').allInnerTexts()).toContain('Your table');
    expect((await developer().table(opened.table.id)).seats[1]).toMatchObject({ held: 'person', present: true });
    await page.close();
  });

  it('that has ended says so, and leads nowhere', async () => {
    const opened = await openTwo(developer());
    const path = joinPath(opened, 1);
    await developer().newKey(opened.table.id, { role: 'seat', seat: 1 });
    await visit(path, async (page) => {
      await page.waitForSelector('text=This invitation does not open');
    });
  });

  it('lets two people play in two windows; one leaves to the bot, and takes the seat back', async () => {
    const opened = await openTwo(developer());
    const { id } = opened.table;
    const [wren, otter] = [await window(joinPath(opened, 1)), await window(joinPath(opened, 2), 390, 844)];
    for (const page of [wren, otter]) {
      await page.waitForSelector('[data-option="bet"]');
      await page.click('[data-option="bet"]');
    }
    await wren.click('[data-option="stand"]');
    await otter.waitForSelector('[data-option="stand"]');
    await otter.click('text=Seats and more');
    await otter.selectOption('[aria-label="Hand the seat of Otter to a bot"]', { index: 1 });
    await until(async () => (await developer().table(id)).number >= 4, 'the bot to play');
    expect((await developer().table(id)).seats[1]).toMatchObject({ held: 'bot', bot: 'steady' });
    await wren.waitForSelector('[data-seat="2"] >> text=bot');
    await otter.click('text=Take it back');
    await until(async () => (await developer().table(id)).seats[1]?.held === 'person', 'Otter to be back');
    // The same without the dialog: whoever comes back to a seat that a bot plays is told, and takes it there.
    await otter.selectOption('[aria-label="Hand the seat of Otter to a bot"]', { index: 1 });
    await otter.keyboard.press('Escape');
    await otter.waitForSelector('text=The bot “steady” plays for you.');
    // Where the service does not answer, the table stays in sight, with the reason beside the button.
    await otter.route('**/seats/**', (route) => route.abort());
    await otter.click('text=Take your seat back');
    await otter.waitForSelector('text=The service did not answer. Try again.');
    await otter.unroute('**/seats/**');
    await otter.click('text=Take your seat back');
    await until(async () => (await developer().table(id)).seats[1]?.held === 'person', 'Otter to be back again');
    await otter.waitForSelector('text=plays for you', { state: 'detached' });
    await otter.close();
    await wren.waitForSelector('[data-seat="2"] >> text=not here');
    await wren.close();
  });
});

/** Opens the panes of a table, on a page with room for them. */
const beside = (opened: Opened, work: (page: Page) => Promise<void>): Promise<void> =>
  visit(`/tables/${opened.table.id}/side`, work, 1280, 1000);

describe('side by side', () => {
  it('shows seats with connections of their own, each as the service says', async () => {
    const opened = await openTwo(developer());
    await beside(opened, async (page) => {
      await page.waitForSelector('[data-pane="2"] [data-option="bet"]');
      expect(await page.locator('[data-pane]').count()).toBe(2);
      await page.click('[data-pane="1"] [data-option="bet"]');
      await page.click('[data-pane="2"] [data-option="bet"]');
      await page.waitForSelector('[data-pane="1"] [data-option="stand"]');
      for (const pane of [1, 2]) await page.waitForSelector(`[data-pane="${pane}"] >> text=as the service says, at 2`);
      // Each hand is in its own pane, and the open pane shows everything.
      await page.click('[aria-label="Add a pane"]');
      await page.click('[role="option"]:has-text("Open table")');
      await page.waitForSelector('[data-pane="open"]');
      expect(await page.locator('[data-pane="1"] [data-pile="house"] [data-face="back"]').count()).toBe(1);
      await until(
        async () => (await page.locator('[data-pane="open"] [data-pile="house"] [data-face]').count()) === 2,
        'the open table',
      );
      expect(await page.locator('[data-pane="open"] [data-pile="house"] [data-face="back"]').count()).toBe(0);
    });
  });

  it('refuses whoever acts out of turn, and counts a choice once that is sent twice', async () => {
    const opened = await openTwo(developer());
    const { id } = opened.table;
    await beside(opened, async (page) => {
      await page.waitForSelector('[data-pane="1"] [data-option="bet"]');
      await page.click('[data-pane="1"] >> text=Next choice twice');
      await page.click('[data-pane="1"] [data-option="bet"]');
      await page.waitForSelector('[data-pane="1"] >> text=1 sent twice');
      // It counts as sent before it is kept.
      await until(async () => (await developer().table(id)).number > 0, 'the bet to be kept');
      await page.click('[data-pane="1"] >> text=Act out of turn');
      await page.waitForSelector('[data-pane="1"] >> text=Refused: It is not Wren\'s turn: Otter is asked.');
      expect((await developer().table(id)).number).toBe(1);
    });
  });

  it('shows a hand of thirteen whole above the buttons of its seat', async () => {
    const seats = ['Wren', 'Otter', 'Pike', 'Teal'].map((name) => ({ name }));
    const { table } = await developer().openTable({ sheet: 'Standing Trump', seed: 'phone', seats });
    await visit(`/tables/${table.id}/side`, async (page) => {
      await page.waitForSelector('[data-pane] [data-option="bid"]');
      const asked = page.locator('[data-pane]', { has: page.locator('[data-option="bid"]') });
      const bottom = (selector: string): Promise<number> =>
        asked.locator(selector).evaluate((element) => element.getBoundingClientRect().bottom);
      expect(await asked.locator('.own [data-face]').count()).toBe(13);
      await until(async () => (await bottom('.own .hands')) <= (await bottom('.stage')), 'the hand to fit');
    });
  });

  it('says when its line is whole again and the client has not come back yet', async () => {
    const opened = await openTwo(developer());
    await beside(opened, async (page) => {
      await page.waitForSelector('[data-pane="2"] [data-option="bet"]');
      // New lines are made, and nobody answers on them.
      await page.routeWebSocket(/\/live$/, () => undefined);
      await page.selectOption('[data-pane="2"] select', '2');
      await page.click('[data-pane="2"] >> text=Cut off for 2 s');
      await page.waitForSelector('[data-pane="2"] >> text=the line is broken');
      await page.waitForSelector('[data-pane="2"] >> text=coming back');
    });
  });

  it('catches up after its line was cut, with nothing missing', async () => {
    const opened = await openTwo(developer());
    await beside(opened, async (page) => {
      await page.waitForSelector('[data-pane="2"] [data-option="bet"]');
      await page.click('[data-pane="2"] >> text=Cut off for 5 s');
      await page.waitForSelector('[data-pane="2"] >> text=cut off');
      await page.click('[data-pane="1"] [data-option="bet"]');
      await page.waitForSelector('[data-pane="1"] >> text=up to date');
      await page.waitForSelector('[data-pane="2"] >> text=up to date');
      await page.waitForSelector('[data-pane="2"] >> text=as the service says, at 1');
      await page.click('[data-pane="2"] [data-option="bet"]');
      await page.waitForSelector('[data-pane="1"] [data-option="stand"]');
    });
  });
});

describe('looking back', () => {
  it('goes through a record choice by choice, with any eyes', async () => {
    const opened = await openTwo(developer());
    await playRound(opened.table.id);
    await visit(`/tables/${opened.table.id}/past`, async (page) => {
      const house = page.locator('[data-pile="house"]');
      await page.waitForSelector('input[type=range]', { state: 'attached' });
      const number = (await page.locator('input[type=range]').getAttribute('max')) ?? '';
      await page.locator('input[type=range]').fill('2');
      await until(async () => (await house.locator('[data-face="back"]').count()) === 1, 'the deal');
      await page.click('label[for="open-hands"]');
      await until(async () => (await house.locator('[data-face="back"]').count()) === 0, 'open hands');
      await page.click('[aria-label="The choice before"]');
      await until(async () => (await house.locator('[data-at]').count()) === 0, 'the bets');
      await page.click('[aria-label="The next chapter"]');
      expect(Number(await page.locator('.steps b').innerText())).toBeGreaterThan(1);
      await page.locator('input[type=range]').fill(number);
      await until(async () => (await page.locator('.steps b').innerText()) === number, 'the end');
      expect(await page.locator('[data-option]').count()).toBe(0);
    });
  });

  it('goes on from a number at a new table that knows where it came from', async () => {
    const opened = await openTwo(developer());
    await playRound(opened.table.id);
    await visit(`/tables/${opened.table.id}/past?at=2`, async (page) => {
      await page.waitForSelector('text=Go on from here');
      await page.click('text=Go on from here');
      await page.waitForSelector('[data-option="stand"]');
      const id = new URL(page.url()).pathname.split('/').at(-1) ?? '';
      expect(id).not.toBe(opened.table.id);
      expect(await developer().table(id)).toMatchObject({ number: 2, parent: { table: opened.table.id, number: 2 } });
      await page.click('text=Seats and more');
      await page.waitForSelector('text=This table went on from number 2');
    });
  });

  it('keeps the same eyes from the table to its record, to the table that goes on, and back to where that left', async () => {
    const opened = await openTwo(developer());
    await playRound(opened.table.id);
    await visit(`/tables/${opened.table.id}`, async (page) => {
      await page.click('.seen >> text=Otter');
      await page.waitForSelector('.seat.own[data-seat="2"]');
      await page.click('text=Seats and more');
      await page.click('text=Look back');
      await page.waitForSelector('[aria-label="The record"]');
      await page.waitForSelector('.seat.own[data-seat="2"]');
      await page.locator('input[type=range]').fill('2');
      await until(async () => (await page.locator('.steps b').innerText()) === '2', 'number 2');
      await page.click('text=Go on from here');
      await page.waitForSelector('text=Seats and more');
      await page.waitForSelector('.seat.own[data-seat="2"]');
      await page.click('text=Seats and more');
      await page.click(`a:has-text("${opened.table.id}")`);
      await page.waitForSelector('[aria-label="The record"]');
      await until(async () => (await page.locator('.steps b').innerText()) === '2', 'where it left');
      await page.click('text=To the table');
      await page.waitForSelector('text=Seats and more');
      await page.waitForSelector('.seat.own[data-seat="2"]');
    });
  });
});

describe('a record', () => {
  it('is saved from a table and loaded as another one; a changed one says where it differs', async () => {
    const opened = await openTwo(developer());
    await playRound(opened.table.id);
    let file = '';
    await visit(`/tables/${opened.table.id}`, async (page) => {
      await page.click('text=Seats and more');
      const [download] = await Promise.all([page.waitForEvent('download'), page.click('text=Save the record')]);
      expect(download.suggestedFilename()).toBe(`${opened.table.id}.ndjson`);
      file = await download.path();
      file = readFileSync(file, 'utf8');
    });
    const upload = (page: Page, content: string): Promise<void> =>
      page.setInputFiles('input[type=file]', {
        name: 'record.ndjson',
        mimeType: 'application/x-ndjson',
        buffer: Buffer.from(content),
      });
    await visit('/tables', async (page) => {
      await page.waitForSelector('text=Load a record');
      await upload(page, file.replace('"amount":10', '"amount":12'));
      await page.waitForSelector('text=record.ndjson cannot be loaded. After choice 1 (bet) the state is another one');
      await upload(page, file);
      await page.waitForSelector('text=looking back');
    });
  });
});

describe('a stacked pack', () => {
  it('is put together by clicking cards, and comes as it was stacked', async () => {
    const { hash } = await developer().sheet('Lantern Twenty-One');
    await visit(`/games/${hash}`, async (page) => {
      await page.click('label[for="set-stacked"]');
      for (const face of ['A♠', 'K♥']) await page.click(`[data-stack="${face}"]`);
      const given = page.locator('.stacked output');
      expect(await given.textContent()).toBe('A♠ K♥');
      await page.selectOption('#stacked-pile', { label: 'the house' });
      expect(await given.textContent()).toBe('');
      await page.click('text=Open the table');
      await page.click('[data-option="bet"]');
      await until(async () => (await page.locator('[data-pile="hand/1"] [data-face]').count()) === 2, 'the deal');
      const faces = page.locator('[data-pile="hand/1"] [data-face]');
      expect(await faces.evaluateAll((cards) => cards.map((card) => card.getAttribute('data-face')))).toEqual([
        'A♠',
        'K♥',
      ]);
    });
  });
});

describe('taking back', () => {
  it('is a button where the sheet allows it', async () => {
    const opened = await openTwo(developer(), { sheet: 'Weir Patience', seats: [{ name: 'Wren' }], settings: {} });
    const { id } = opened.table;
    await visit(`/tables/${id}`, async (page) => {
      await page.waitForSelector('[data-option="turnOver"]');
      expect(await page.locator('[data-option="undo"]').count()).toBe(0);
      await page.click('[data-option="turnOver"]');
      await page.click('[data-option="undo"]');
      await until(async () => (await developer().table(id)).number === 2, 'the choice to be taken back');
      await page.waitForSelector('text=You take back the last choice.');
    });
  });
});
