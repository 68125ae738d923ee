import type { Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { servedConsole } from './setup/programs.js';
import { until } from './setup/service.js';

const { visit, developer } = servedConsole();

const bots = (names: readonly string[], bot: string) => names.map((name) => ({ name, bot }));
/** The corner of a card: the rest of it may lie under the next one. */
const CORNER = { position: { x: 8, y: 22 } };
const lit = (page: Page) => page.locator('.own button.place.lit');

describe('choosing an amount', () => {
  const seats = [{ name: 'Wren' }, { name: 'Otter' }];
  /** Opens a table at which Wren may raise, and looks at it on a page of this size. */
  const raising = async (size: { width: number; height: number }, look: (page: Page, id: string) => Promise<void>) => {
    const { table } = await developer().openTable({ sheet: "Long Pot Hold'em", seats, clocks: false });
    const { waiting } = await developer().view(table.id, 'watch');
    const seat = waiting.seats?.[0] === 2 ? 'Otter' : 'Wren';
    await visit(`/tables/${table.id}`, async (page) => {
      await page.setViewportSize(size);
      await page.click(`text=${seat} >> nth=0`);
      await page.waitForSelector('[data-option=raise]');
      await look(page, table.id);
    });
  };

  it.each([
    { width: 1280, height: 800 },
    { width: 390, height: 844 },
  ])('has landmarks that stand apart on a page of $width, and says the amount in its button', async (size) => {
    await raising(size, async (page, id) => {
      const boxes = await page.locator('.marks button').evaluateAll((buttons) =>
        buttons.map((button) => {
          const { left, right, top, bottom } = button.getBoundingClientRect();
          return { left, right, top, bottom };
        }),
      );
      expect(boxes.length).toBeGreaterThanOrEqual(3);
      for (const [i, box] of boxes.entries()) {
        const next = boxes[i + 1];
        if (next) expect(next.left - box.right).toBeGreaterThan(3);
        expect(box.right).toBeLessThan(size.width);
        expect(box.bottom - box.top).toBeLessThan(40);
      }
      const button = page.locator('[data-option=raise]');
      await page.click('.marks button:has-text("the pot")');
      const pot = Number(/\d+/.exec(await page.locator('.marks button:has-text("the pot")').innerText())?.[0]);
      expect(await button.innerText()).toContain(`Raise to ${pot}`);
      await page.click('[aria-label=more]');
      expect(await button.innerText()).toContain(`Raise to ${pot + 1}`);
      await page.click('.marks button:has-text("all")');
      await page.click('[aria-label=more]');
      expect(await button.innerText()).toContain('Raise to 200');
      await page.click('.marks button >> nth=0');
      await page.click('[aria-label=less]');
      await button.click();
      await until(async () => (await developer().table(id)).number > 0, 'the raise');
      expect((await developer().record(id)).split('\n')[1]).toContain('"option":"raise","args":{"total":4}');
    });
  });
});

describe('choosing several cards at a table', () => {
  it('picks them up one by one, also while others answer, and passes them on', async () => {
    const seats = [{ name: 'Wren' }, ...bots(['Otter', 'Heron', 'Teal'], 'plain')];
    const { table } = await developer().openTable({ sheet: 'Thorn and Lady', seats, clocks: false, pace: 0 });
    await visit(`/tables/${table.id}`, async (page) => {
      await page.waitForSelector('[data-option=pass]');
      await page.click('[data-option=pass]');
      await page.waitForSelector('text="pass" takes 3 cards, not 0.');
      for (const i of [0, 4, 9]) await lit(page).nth(i).click(CORNER);
      expect(await page.locator('[data-option=pass]').innerText()).toContain('3 of 3');
      expect(await page.locator('.place.held').count()).toBe(3);
      await lit(page).nth(4).click(CORNER);
      expect(await page.locator('[data-option=pass]').innerText()).toContain('2 of 3');
      await lit(page).nth(4).click(CORNER);
      await page.click('[data-option=pass]');
      await until(async () => (await developer().view(table.id, 1)).number >= 4, 'all cards passed');
      const view = await developer().view(table.id, 'watch');
      expect(view.chapter.title).toBe('Deal 1');
    });
  });

  it('ends a choice that a card began with buttons for what is left to choose', async () => {
    const seats = [{ name: 'Wren' }, { name: 'Otter' }];
    const gets = { 'hand/2': '8♦ 3♥ 4♥ 5♥ 6♥ 7♥ 9♥', waste: 'K♠' };
    const { table } = await developer().openTable({ sheet: 'Eights Aside', seats, clocks: false, gets } as never);
    await visit(`/tables/${table.id}`, async (page) => {
      await page.click('text=Otter >> nth=0');
      await page.waitForSelector('.own svg[data-face="8♦"]');
      await page.locator('.own button.place', { has: page.locator('svg[data-face="8♦"]') }).click(CORNER);
      await page.click('button[data-finish=wild]:has-text("hearts")');
      await until(
        async () => (await developer().view(table.id, 'watch')).values.wanted === 'hearts',
        'the called suit',
      );
    });
  });

  it('chooses one plain value after the other, such as a seat and a rank', async () => {
    const { table } = await developer().openTable({
      sheet: 'Ferry Asking',
      seats: [{ name: 'Wren' }, ...bots(['Otter', 'Heron'], 'plain')],
      seed: 'steps',
      clocks: false,
      pace: 60_000,
    });
    const { id } = table;
    const [offer] = (await developer().offers(id, 1)).offers;
    const [way] = (offer?.ways ?? []).filter(([seat]) => seat === 3);
    await visit(`/tables/${id}`, async (page) => {
      await page.waitForSelector('text=Ask …');
      await page.click('[data-option="request"]:has-text("Otter")');
      await page.click('[aria-label="Begin again"]');
      await page.click('[data-option="request"]:has-text("Heron")');
      await page.waitForSelector('text=Ask Heron for …');
      await page.locator('[data-option="request"]').getByText(String(way?.[1]), { exact: true }).click();
      await until(async () => (await developer().table(id)).number > 0, 'the choice');
    });
    expect((await developer().record(id)).split('\n')[1]).toContain(`"args":{"t":3,"r":"${way?.[1]}"}`);
  });

  it('draws piles where the sheet says, and takes pairs from a heap', async () => {
    const { table } = await developer().openTable({
      sheet: 'Barley Cairn',
      seats: [{ name: 'Wren' }],
      clocks: false,
      seed: 'look',
    });
    await visit(`/tables/${table.id}`, async (page) => {
      await page.waitForSelector('[data-pile="cairn/28"]');
      const top = await page.locator('[data-pile="cairn/1"]').boundingBox();
      const last = await page.locator('[data-pile="cairn/28"]').boundingBox();
      expect((last?.y ?? 0) - (top?.y ?? 0)).toBeGreaterThan(100);
      expect(await page.locator('[data-pile^="cairn/"] button.place.lit').count()).toBe(7);
      await page.locator('[data-pile="cairn/22"] button.place').click(CORNER);
      expect(await page.locator('[data-option=take]').innerText()).toContain('1 of 1 to 2');
    });
  });

  it('fits a phone', async () => {
    const seats = [{ name: 'Wren' }, ...bots(['Otter', 'Heron', 'Teal'], 'plain')];
    const { table } = await developer().openTable({ sheet: 'Quay Stairs', seats, clocks: false, pace: 0 });
    await visit(
      `/tables/${table.id}`,
      (page) => page.waitForSelector('.own svg[data-face]').then(() => undefined),
      390,
      844,
    );
  });
});

describe('the Hands page', () => {
  const lay = async (page: Page, ...cards: string[]) => {
    for (const card of cards) await page.click(`[data-card="${card}"]`);
  };

  it('counts the odds of hands and a board that are clicked together', () =>
    visit('/hands', async (page) => {
      await lay(page, 'A♠', 'A♥', 'K♦', 'K♣');
      await page.waitForSelector('text=All 1,712,304 deals counted.');
      expect(await page.locator('[data-hand="1"] .share').innerText()).toBe('81.3 %');
      await lay(page, 'K♠', '7♦', '2♣');
      await page.waitForSelector('text=All 990 deals counted.');
      expect(await page.locator('[data-hand="2"]').innerText()).toContain('three of a kind, kings');
      await lay(page, '7♦');
      await page.waitForSelector('text=deals counted');
      expect(await page.locator('.board .full').count()).toBe(2);
    }));

  it('takes more hands, unknown ones too, and clears', () =>
    visit('/hands', async (page) => {
      await lay(page, 'Q♠', 'Q♥');
      await page.locator('[data-hand="2"] >> text=any two').click();
      await page.waitForSelector('text=deals drawn');
      await page.click('text=One more hand');
      expect(await page.locator('[data-hand]').count()).toBe(3);
      await page.waitForSelector('text=Two cards for each hand');
      await page.locator('[data-hand="3"] >> text=away').click();
      await page.click('text=Clear');
      expect(await page.locator('.spot.full').count()).toBe(0);
    }));

  it('shows how often each category is dealt, and fits a phone', () =>
    visit(
      '/hands',
      async (page) => {
        expect(await page.locator('.census').innerText()).toContain('1,302,540');
        await page.locator('.of >> text=7').click();
        await page.waitForSelector('text=133,784,560');
      },
      390,
      844,
    ));
});
