import type { Client } from '@wily-jester/client';
import type { Service } from '@wily-jester/service';
import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser, openPage, plugOf, visitor, wily } from './setup/programs.js';
import { openTwo, startTestService, until } from './setup/service.js';

let service: Service;
let developer: Client;
let browser: Browser;
let env: Record<string, string>;
beforeAll(async () => {
  const [started, opened] = await Promise.all([startTestService(), openBrowser()]);
  ({ service, client: developer } = started);
  env = { WILY_PORT: new URL(service.address).port, WILY_DATA: started.data };
  browser = opened;
});
afterAll(async () => {
  await browser.close();
  await service.stop();
});

const visit = visitor(() => ({ browser, developer }));
const text = (page: Page, selector: string): Promise<string> => page.locator(selector).innerText();

describe('the Cards page', () => {
  it('lays out a whole deck, and turns cards by click and by key', () =>
    visit('/cards', async (page) => {
      await page.waitForSelector('[data-card]');
      expect(await page.locator('[data-card]').count()).toBe(52);
      await page.click('[data-card="0"]');
      expect(await page.locator('[data-card="0"] svg').getAttribute('data-face')).toBe('back');
      expect(await text(page, '.hint')).toContain('51 lie face up');
      await page.keyboard.press('ArrowRight');
      await page.keyboard.press('Enter');
      expect(await page.locator('[data-card="1"] svg').getAttribute('data-face')).toBe('back');
      await page.click('text=Turn all up');
      expect(await page.locator('[data-face="back"]').count()).toBe(0);
      expect(await page.locator('svg[aria-label="ten of spades"]').count()).toBe(1);
    }));

  it('shuffles without losing a card', () =>
    visit('/cards', async (page) => {
      await page.waitForSelector('[data-card]');
      const order = (): Promise<string[]> =>
        page
          .locator('[data-card] svg')
          .evaluateAll((cards) => cards.map((card) => card.getAttribute('data-face') ?? ''));
      const before = await order();
      await page.click('button:has-text("Shuffle")');
      await page.waitForSelector('text=52 cards, shuffled');
      const after = await order();
      expect(after).not.toEqual(before);
      expect([...after].sort()).toEqual([...before].sort());
    }));

  it('deals one at a time or in packets: hands grow, and the deck shrinks', () =>
    visit('/cards', async (page) => {
      await page.click('text=in order');
      await page.click('button.deal');
      await page.waitForSelector('text=5 hands of 6; 22 cards are left.');
      const hands = page.locator('.hand');
      expect(await hands.count()).toBe(5);
      expect(
        await hands
          .first()
          .locator('svg[data-face]')
          .evaluateAll((c) => c.map((x) => x.getAttribute('data-face'))),
      ).toEqual(['K♣', '8♣', '3♣', 'J♦', '6♦', 'A♦']);
      expect(await text(page, '.said li:first-child')).toBe('Teal draws 10♥ and holds 6.');
      await page.click('text=in packets');
      await page.click('button.deal');
      await until(
        async () =>
          (await hands.first().locator('svg[data-face="8♣"]').count()) === 1 &&
          (await text(page, '.status')).includes('22'),
        'the packets',
      );
      expect(
        await hands
          .first()
          .locator('svg[data-face]')
          .evaluateAll((c) => c.map((x) => x.getAttribute('data-face'))),
      ).toEqual(['K♣', 'Q♣', 'J♣', '10♣', '9♣', '8♣']);
      expect(await text(page, '.left')).toContain('22 left in the deck');
    }));

  it('refuses to deal more than the deck has', () =>
    visit('/cards', async (page) => {
      await page.getByLabel('Cards each').fill('12');
      await page.keyboard.press('Tab');
      await page.waitForSelector('text=5 seats with 12 cards each need 60 cards, and this deck has 52.');
      expect(await page.locator('button.deal').isDisabled()).toBe(true);
    }));
});

describe('the Games page', () => {
  it('draws the tables of those tiles that come near, and keeps them', () =>
    visit('/games', async (page) => {
      const drawn = (at: 'first' | 'last') => page.locator('.tile')[at]().locator('.vignette svg');
      await drawn('first').first().waitFor();
      expect(await drawn('last').count()).toBe(0);
      await page.locator('.tile').last().scrollIntoViewIfNeeded();
      await drawn('last').first().waitFor();
      expect(await drawn('first').count()).toBeGreaterThan(0);
    }));

  it('shows what a game is, its sheet in colours and its rehearsals', () =>
    visit('/games/Lantern%20Twenty-One', async (page) => {
      await page.waitForSelector('h1:has-text("Lantern Twenty-One")');
      expect(await text(page, '.tile.on')).toContain('1 to 5 seats');
      expect(await page.locator('.tile').count()).toBeGreaterThanOrEqual(20);
      expect(await page.locator('.is-option', { hasText: 'double' }).count()).toBe(1);
      await page.click('text=Rehearsals');
      await page.waitForSelector('text=a natural pays three to two');
      await page.getByLabel('Find a sheet').fill('chess');
      await page.waitForSelector('text=No sheet is like this.');
    }));

  it('keeps the sheet in sight wherever the list stands', () =>
    visit('/games', async (page) => {
      const tile = page.locator('.tile', { hasText: 'Weir Patience' });
      await tile.scrollIntoViewIfNeeded();
      await tile.click();
      await page.waitForSelector('h1:has-text("Weir Patience")');
      const top = await page.locator('h1:has-text("Weir Patience")').boundingBox();
      expect(top?.y).toBeGreaterThan(0);
      expect(top?.y).toBeLessThan(200);
      // Its tile shows its own table: four empty homes, and seven columns.
      expect(await tile.locator('.place').count()).toBe(4);
      expect(await tile.locator('svg.card').count()).toBeGreaterThan(20);
    }));

  it('reckons settings anew that follow from others', () =>
    visit(`/games/${encodeURIComponent("Long Pot Hold'em")}`, async (page) => {
      await page.waitForSelector('text=Start a table');
      const small = page.getByLabel('smallBlind');
      expect(await small.getAttribute('placeholder')).toBe('1');
      await page.getByLabel('bigBlind').fill('40');
      await page.keyboard.press('Tab');
      await page.waitForSelector('text=1 to 40 as bigBlind is');
      expect(await small.getAttribute('placeholder')).toBe('20');
      await small.fill('41');
      await page.keyboard.press('Tab');
      await page.waitForSelector('text=smallBlind is a whole number from 1 to 40, not 41.');
      await small.fill('');
      await page.keyboard.press('Tab');
      await page.waitForSelector('text=not 41.', { state: 'detached' });
    }));

  it('opens a table with settings, and says what does not fit', () =>
    visit('/games/Lantern%20Twenty-One', async (page) => {
      await page.waitForSelector('text=Start a table');
      await page.getByLabel('lowBet').fill('7');
      await page.keyboard.press('Tab');
      await page.waitForSelector('text=The sheet says 10.');
      await page.click('button:has-text("Open the table")');
      await page.waitForSelector('text=A natural pays three to two, so bets are even.');
      await page.getByLabel('lowBet').fill('8');
      await page.keyboard.press('Tab');
      await page.click('button:has-text("Open the table")');
      await page.waitForURL(/\/tables\/[a-z0-9]{12}$/);
      await page.waitForSelector('text=Your turn');
      const id = page.url().split('/').at(-1) ?? '';
      expect(await developer.table(id)).toMatchObject({
        settings: { lowBet: 8 },
        seats: [
          { name: 'Wren', bot: null },
          { name: 'Otter', bot: 'steady' },
        ],
      });
      await developer.closeTable(id);
    }));
});

describe('a table', () => {
  it('is played with the mouse, and agrees with the command line', async () => {
    const { table } = await openTwo(developer, {
      seats: [{ name: 'Wren' }, { name: 'Otter', bot: 'steady' }],
      gets: { 'hand/1': '5♠ 6♠ 2♦ 9♣', house: '10♣ 9♦', 'hand/2': '10♥ 9♥' },
    });
    await visit(`/tables/${table.id}`, async (page) => {
      await page.waitForSelector('[data-option=bet]');
      await page.click('text=50 >> nth=0');
      await page.click('[data-option=bet]');
      await page.waitForSelector('[data-option=hit]');
      expect(await page.locator('.own [data-face="5♠"]').count()).toBe(1);
      expect(await page.locator('[data-pile=house] [data-face=back]').count()).toBe(1);
      // The lit pile plays its option as the button does.
      await page.click('[data-pile=shoe] .touch');
      await page.waitForSelector('.own [data-face="2♦"]');
      const seen = await wily(['tables', 'show', table.id, '--as', 'Wren', '--json'], { env });
      const view = JSON.parse(seen.out) as {
        piles: { hand: Record<string, { cards: string[] }> };
        notes: Record<string, { value: number }[]>;
      };
      expect(view.piles.hand['1']?.cards).toEqual(['5♠', '6♠', '2♦']);
      expect(await text(page, '.own .note')).toBe(String(view.notes['hand/1']?.[0]?.value));
      const chosen = await wily(['tables', 'choose', table.id, 'stand'], { env });
      expect(chosen).toMatchObject({ err: '', out: expect.stringContaining('You stand.') });
      await page.waitForSelector('.past >> text=Round 1 of 3');
      expect(await text(page, '.past li:first-child')).toMatch(/Wren −50\s*·\s*Otter 0/);
    });
  });

  it('is played with the keyboard alone', async () => {
    const { table } = await openTwo(developer, { seats: [{ name: 'Wren' }], seed: 'x' });
    await visit(`/tables/${table.id}`, async (page) => {
      await page.waitForSelector('[data-option=bet]');
      await page.getByRole('slider').focus();
      await page.keyboard.press('ArrowRight');
      await page.keyboard.press('ArrowRight');
      expect(await text(page, '[data-option=bet]')).toContain('Bet 14');
      await page.keyboard.press('Tab');
      await page.locator('[data-option=bet]').focus();
      await page.keyboard.press('Enter');
      await page.waitForSelector('[data-option=stand]');
      await page.keyboard.press('h');
      await until(async () => (await developer.table(table.id)).number === 2, 'the key to hit');
      const focus = await page.evaluate(() => getComputedStyle(document.activeElement ?? document.body).outlineStyle);
      expect(['solid', 'none', 'auto']).toContain(focus);
    });
  });

  it('shows a refusal beside what was touched, and "not now" with its reason', async () => {
    const { table } = await openTwo(developer, { seats: [{ name: 'Wren' }], gets: { 'hand/1': '5♠ 6♠' } });
    await visit(`/tables/${table.id}`, async (page) => {
      await page.waitForSelector('[data-option=bet]');
      await page.click('text=200 all');
      await page.click('[data-option=bet]');
      await page.waitForSelector('.not-now');
      await page.locator('.not-now').click({ force: true });
      expect(await text(page, '.bubble')).toBe('You have too few chips to double.');
    });
  });

  it('is seen with any eyes, or with all hands open, and the record says so', async () => {
    const { table } = await openTwo(developer, { gets: { house: '10♣ 9♦', 'hand/1': '5♠ 6♠' } });
    for (const seat of [1, 2])
      await developer.choose(table.id, { ask: 0, option: 'bet', args: { amount: 10 }, once: `${seat}`, seat });
    await visit(`/tables/${table.id}`, async (page) => {
      await page.waitForSelector('[data-option=stand]');
      // As long as Otter's view is on its way, what Wren may choose is not offered to Otter.
      let isHeld = true;
      await page.routeWebSocket(/\/live$/, (line) => {
        if (!isHeld) line.connectToServer();
      });
      await page.click('.seen >> text=Otter');
      await page.waitForSelector('text=Otter, you');
      expect(await text(page, '.panel')).toContain('Wren is asked');
      expect(await page.locator('[data-option]').count()).toBe(0);
      isHeld = false;
      await page.click('.seen >> text=Wren');
      await page.waitForSelector('[data-option=stand]');
      await page.click('.seen >> text=watchers');
      expect(await page.locator('[data-pile=house] [data-face=back]').count()).toBe(1);
      await page.getByLabel('Open hands').click();
      await page.waitForSelector('[data-pile=house] [data-face="9♦"].open');
      expect(await page.locator('[data-face=back]').count()).toBeLessThan(7);
    });
  });

  it('says that its line is broken, comes back by itself, and has missed nothing', async () => {
    const { table } = await openTwo(developer, { settings: { rounds: 1 } });
    const { page, wrong } = await openPage(browser, 1280, 800, developer);
    const plug = await plugOf(page);
    await page.goto(`${service.address}/tables/${table.id}`);
    await page.waitForSelector('[data-option=sitOut]');
    await plug.pull();
    await page.waitForSelector('text=The connection is lost');
    const choice = { ask: 0, option: 'bet', args: { amount: 20 }, once: 'meanwhile', seat: 2 };
    await developer.choose(table.id, choice);
    plug.putBack();
    await page.waitForSelector('text=The connection is lost', { state: 'detached' });
    await page.waitForSelector('[data-seat="2"] >> text=has answered');
    await page.click('[data-option=sitOut]');
    await page.waitForSelector('text=Otter bets 20.');
    expect(wrong).toEqual([]);
    await page.context().close();
  });

  it('makes its line anew once the network is there again, for the old one may be dead without a word', async () => {
    const { table } = await openTwo(developer, { settings: { rounds: 1 } });
    await visit(`/tables/${table.id}`, async (page) => {
      await page.waitForSelector('[data-option=sitOut]');
      const line = page.waitForEvent('websocket');
      await page.context().setOffline(true);
      await page.context().setOffline(false);
      await line;
      await page.click('[data-option=sitOut]');
      await until(async () => (await developer.table(table.id)).number === 1, 'the choice');
    });
  });

  it('tells when the game is over', async () => {
    const { table } = await openTwo(developer, { seats: [{ name: 'Wren' }], settings: { rounds: 1 } });
    await visit(`/tables/${table.id}`, async (page) => {
      await page.waitForSelector('[data-option=sitOut]');
      await page.click('[data-option=sitOut]');
      await page.waitForSelector('.over >> text=The game is over.');
      await page.goto(`${service.address}/tables`);
      await page.waitForSelector('h2:has-text("Played")');
    });
  });

  it('of any game is played by touching cards and piles', async () => {
    const { table } = await developer.openTable({
      sheet: 'Lock Ladder',
      seats: [{ name: 'Wren' }],
      gets: { 'hand/1': '5♠ 9♥ 3♦ J♣ 2♣ 8♦ 4♠ K♥' },
      clocks: false,
    });
    await visit(`/tables/${table.id}`, async (page) => {
      await page.waitForSelector('.own button.place');
      expect(await page.locator('.own button.place').count()).toBe(8);
      await page.click('.own button.place:has([data-face="5♠"])');
      await page.waitForSelector('.own .place.held');
      expect(await page.locator('.middle .touch').count()).toBe(3);
      await page.keyboard.press('Escape');
      await page.waitForSelector('.own .place.held', { state: 'detached' });
      // By keyboard: pick the card up, then lay it on the second lock.
      await page.locator('.own button.place:has([data-face="5♠"])').focus();
      await page.keyboard.press('Enter');
      await page.locator('[data-pile="lock/2"] .touch').focus();
      await page.keyboard.press('Enter');
      await page.waitForSelector('[data-pile="lock/2"] [data-face="5♠"]');
      // A card that goes on one lock less is lit for the others only.
      await page.click('.own button.place:has([data-face="3♦"])');
      expect(await page.locator('[data-pile="lock/2"] .touch').count()).toBe(0);
      expect(await page.locator('[data-pile="lock/1"] .touch').count()).toBe(1);
    });
  });

  it('of a patience shows its columns downwards, and plays a card at a double click', async () => {
    const { table } = await developer.openTable({
      sheet: 'Weir Patience',
      seats: [{ name: 'Wren' }],
      gets: { 'column/1': 'A♠', 'column/2': '9♦ 2♠' },
    });
    await visit(`/tables/${table.id}`, async (page) => {
      await page.waitForSelector('[data-pile="column/7"]');
      const tops = await page
        .locator('[data-pile="column/7"] .place')
        .evaluateAll((cards) => cards.map((card) => card.getBoundingClientRect().top));
      expect(tops).toEqual([...tops].sort((a, b) => a - b));
      expect(new Set(tops).size).toBe(7);
      const ace = page.locator('[data-pile="column/1"] button.place');
      const home = page.locator('[data-pile="home/1"] [data-face="A♠"]');
      // The table may still find its size: then a click of the two falls beside the card.
      await until(async () => {
        if ((await ace.count()) > 0) await ace.dblclick({ timeout: 2_000 }).catch(() => undefined);
        return (await home.count()) > 0;
      }, 'the ace to be home');
      const box = await page.locator('.stage').boundingBox();
      const last = await page.locator('[data-pile="column/7"] .place').last().boundingBox();
      expect((last?.y ?? 0) + (last?.height ?? 0)).toBeLessThan((box?.y ?? 0) + (box?.height ?? 0));
    });
  });

  it('that is not there says so, and shows the way', () =>
    openPage(browser, 1280, 800, developer).then(async ({ page }) => {
      await page.goto(`${service.address}/tables/abcdefghijkm`);
      await page.waitForSelector('text=There is no table abcdefghijkm.');
      await page.click('text=See the tables');
      await page.waitForSelector('h2:has-text("To come back to")');
      await page.context().close();
    }));
});

describe('on a phone', () => {
  it.each(['/cards', '/games', '/tables'])('%s fits', (path) =>
    visit(path, async (page) => void (await page.waitForSelector('h1')), 390, 844),
  );

  it('a table can be played', async () => {
    const { table } = await openTwo(developer, {
      seats: [{ name: 'Wren' }, { name: 'Otter', bot: 'steady' }],
      seed: 'x',
    });
    await visit(
      `/tables/${table.id}`,
      async (page) => {
        await page.waitForSelector('[data-option=bet]');
        await page.click('[data-option=bet]');
        await page.waitForSelector('[data-option=stand]');
        const box = await page.locator('[data-option=stand]').boundingBox();
        expect(box?.height).toBeGreaterThanOrEqual(44);
        await page.click('text=What was said');
        await page.waitForSelector('text=You bet 10.');
      },
      390,
      844,
    );
  });
});

describe("on another address than the service's own machine", () => {
  it('the console asks for a key, and takes a good one only', async () => {
    const { page } = await openPage(browser);
    await page.goto(`${service.address.replace('127.0.0.1', 'wily.test')}/games`);
    await page.waitForSelector('text=A key, please');
    await page.getByLabel('Key').fill('developer_nobody');
    await page.click('button:has-text("Come in")');
    await page.waitForSelector('text=The service does not know this key.');
    await page.getByLabel('Key').fill(service.developerKey);
    await page.click('button:has-text("Come in")');
    await page.waitForSelector('.tile:has-text("Lantern Twenty-One")');
    await page.context().close();
  });
});
