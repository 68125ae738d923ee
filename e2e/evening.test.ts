import type { TableView } from '@wily-jester/protocol';
import type { BrowserContext, Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { FULL } from './setup/crowd.js';
import { openPage, plugOf, servedConsole } from './setup/programs.js';
import { until } from './setup/service.js';

/** Hands to play: `WILY_FULL=1` plays the long form. */
const HANDS = FULL ? 10 : 2;

const { address, browser, developer } = servedConsole();

interface Window {
  readonly page: Page;
  readonly context: BrowserContext;
  readonly wrong: string[];
  readonly plug: Awaited<ReturnType<typeof plugOf>>;
}
async function window(path: string, width = 1280, height = 800): Promise<Window> {
  const { page, wrong } = await openPage(browser(), width, height, path.startsWith('/join') ? undefined : developer());
  const plug = await plugOf(page);
  await page.goto(`${address()}${path}`);
  return { page, context: page.context(), wrong, plug };
}

/** Clicks what a person would who wants to see the next card: check, else call, else whatever is there. */
async function clickOn({ page }: Window): Promise<boolean> {
  for (const option of ['check', 'call', 'showIt', 'giveUp', 'fold', 'post']) {
    const button = page.locator(`[data-option="${option}"]:not([disabled])`);
    if ((await button.count()) === 0) continue;
    await button
      .first()
      .click({ timeout: 2_000 })
      .catch(() => undefined);
    return true;
  }
  return false;
}

describe('an evening', () => {
  it("of hold'em in two windows with two bots: a line that breaks, a watcher on a phone, a look back, another end", async () => {
    // The demo's own table.
    const table = (await developer().tables()).find(({ game }) => game === "Long Pot Hold'em");
    const id = table?.id ?? '';
    const host = await window(`/tables/${id}`);
    await host.page.click('text=Seats and more');
    const links: string[] = [];
    for (const [seat, name] of [
      [1, 'Wren'],
      [2, 'Otter'],
    ] as const) {
      await host.page.click(`[data-seat-row="${seat}"] >> text=Invite`);
      links.push(await host.page.locator(`[aria-label="Link for ${name}"]`).inputValue());
    }
    await host.page.click('text=Make a link to watch');
    links.push(await host.page.locator('[aria-label="Link to watch"]').inputValue());
    await host.context.close();
    const path = (link: string | undefined): string => (link ?? '').replace(address(), '');
    const wren = await window(path(links[0]));
    const otter = await window(path(links[1]));
    const phone = await window(path(links[2]), 390, 844);
    for (const { page } of [wren, otter, phone]) await page.waitForSelector('.stage');

    const hand = async (): Promise<number> => (await developer().view(id, 'watch')).chapter.count;
    const playTo = async (count: number, players: readonly Window[]): Promise<void> => {
      await until(
        async () => {
          for (const player of players) await clickOn(player);
          return (await hand()) >= count;
        },
        `hand ${count}`,
        FULL ? 500_000 : 120_000,
      );
    };
    await playTo(2, [wren, otter]);

    // The plug is pulled on one window; it says so, and comes back to the same hand by itself.
    await otter.plug.pull();
    await otter.page.waitForSelector('text=The connection is lost');
    await until(
      async () => (await clickOn(wren)) || (await developer().view(id, 'watch')).waiting.seats?.includes(2) === true,
      'Wren to play on',
    );
    otter.plug.putBack();
    await otter.page.waitForSelector('text=The connection is lost', { state: 'detached' });
    await playTo(HANDS + 1, [wren, otter]);

    const rest = async (): Promise<TableView> => developer().view(id, 'watch');
    const { number } = await rest();
    // The phone saw it all without touching anything, and no hand but those that were laid open.
    await phone.page.click('text=What was said');
    await phone.page.waitForSelector(`text=Hand ${HANDS}`);
    expect(await phone.page.locator('[data-option]').count()).toBe(0);
    for (const { wrong } of [wren, phone]) expect(wrong).toEqual([]);
    for (const { context } of [wren, otter, phone]) await context.close();

    // Back to the last hand from the other seat's eyes, and on from there at a new table.
    const back = await window(`/tables/${id}/past`);
    await back.page.click('.seen >> text=Otter');
    await back.page.click('[aria-label="The chapter before"]');
    await back.page.waitForSelector('.seat.own[data-seat="2"] [data-at="2"]');
    const at = Number(await back.page.locator('.steps b').innerText());
    expect(at).toBeLessThanOrEqual(number);
    await back.page.click('text=Go on from here');
    await back.page.waitForURL((url) => !url.pathname.endsWith('/past'));
    const branch = new URL(back.page.url()).pathname.split('/').at(-1) ?? '';
    await back.page.waitForSelector('.seat.own[data-seat="2"]');
    expect(await developer().table(branch)).toMatchObject({ parent: { table: id, number: at } });
    expect(back.wrong).toEqual([]);
    await back.context.close();
  }, 900_000);
});
