import { describe, expect, it } from 'vitest';
import { servedConsole } from './setup/programs.js';
import { until } from './setup/service.js';

const { visit, developer } = servedConsole();

describe('a hint in the console', () => {
  it('shows what the choices are worth, and plays the one that is pressed', async () => {
    const { table } = await developer().openTable({
      sheet: 'Eights Aside',
      seats: [{ name: 'Wren' }, { name: 'Otter', bot: 'random' }],
      seed: 'lantern',
      pace: 0,
      clocks: false,
    });
    const { id } = table;
    await until(async () => (await developer().view(id, 1)).waiting.seats?.includes(1) === true, "Wren's turn");
    const { number } = await developer().view(id, 1);
    await visit(`/tables/${id}?as=1`, async (page) => {
      await page.click('[data-hint]');
      await page.waitForSelector('[data-hinted]');
      const words = await page.locator('[data-hinted] .words').first().innerText();
      // The same stands on the cards and buttons themselves: what is best is ringed, what was weighed says what it is worth.
      const marked = page.locator('.place.best, .choice:has([data-weighed].best)');
      expect(await marked.count()).toBeGreaterThan(0);
      const worths = await page.locator('.place .weighed, .choice [data-weighed]').allInnerTexts();
      expect(worths.length).toBeGreaterThan(0);
      for (const worth of worths) expect(worth).toMatch(/^[+−]?\d+\.\d$/);
      await page.locator('[data-hinted]').first().click();
      await until(async () => (await developer().view(id, 1)).number > number, 'the choice');
      const [row] = (await developer().steps(id, number)).flatMap((step) => step.lines.map((line) => line.text));
      expect(row?.replace(/\.$/, '')).toContain(words.split(' ').at(-1));
      // A hint is about one question: it goes with it.
      await page.waitForSelector('[data-hinted]', { state: 'detached' });
    });
    expect((await developer().looks(id)).map(({ what }) => what)).toContain('hint for seat 1');
  });
});

describe('who plays a seat', () => {
  it('is chosen with its strength when a table opens, also for a sheet without bots', async () => {
    await developer().addSheet({
      source: 'game "No Bots" for 2 seats { deck standard play { ask seats[1] { option go { } } finish } }',
    });
    const { hash } = await developer().sheet('No Bots');
    await visit(`/games/${hash}`, async (page) => {
      await page.waitForSelector('text=thinks, half a second');
      await page.click('text=Open the table');
      await page.waitForURL('**/tables/**');
      const { tables } = await developer().tablePage({ limit: 50 });
      expect(tables.find((table) => table.game === 'No Bots')?.seats.map((seat) => seat.bot)).toEqual([
        null,
        'thinking',
      ]);
    });
  });
});

describe('who plays a seat of a small game', () => {
  it('may be its solution, taken from a list that opens at its field', async () => {
    const { hash } = await developer().sheet('Three-Card Duel');
    await visit(`/games/${hash}`, async (page) => {
      const field = page.locator('[role="combobox"]').nth(1);
      await field.click();
      const choice = page.getByRole('option', { name: 'solved: nobody gains on it' });
      const [at, of] = [await choice.boundingBox(), await field.boundingBox()];
      if (!at || !of) throw new Error('the list is not there');
      expect(at.x + at.width).toBeGreaterThan(of.x);
      expect(at.x).toBeLessThan(of.x + of.width);
      await choice.click();
      await page.click('text=Open the table');
      await page.waitForURL('**/tables/**');
      const { tables } = await developer().tablePage({ limit: 50 });
      expect(tables.find((table) => table.game === 'Three-Card Duel')?.seats.map((seat) => seat.bot)).toEqual([
        null,
        'solved',
      ]);
    });
  });
});

describe('a game', () => {
  it('is found among others by its kind', async () => {
    await visit('/games', async (page) => {
      await page.selectOption('[aria-label="Kind of game"]', 'tricks');
      const names = await page.locator('.tile b').allInnerTexts();
      expect(names).toContain('Silent Partner');
      expect(names).not.toContain('Long War');
    });
  });
});
