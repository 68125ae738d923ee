import { describe, expect, it } from 'vitest';
import { servedConsole } from './setup/programs.js';
import { until } from './setup/service.js';

const { visit, developer } = servedConsole();

describe('on a phone, the table of', () => {
  it.each([
    ['Millpond Cells', 1, null],
    ['Weir Patience', 1, null],
    ['Barley Cairn', 1, null],
    ['Standing Trump', 4, 'plain'],
    ['Mirror Twenty-One', 2, 'careful'],
  ])('%s lies within the page, down to the own name', async (sheet, count, bot) => {
    const names = ['Wren', 'Otter', 'Pike', 'Teal'].slice(0, count);
    const { table } = await developer().openTable({
      sheet,
      seed: 'phone',
      seats: names.map((name, i) => ({ name, ...(i > 0 && bot !== null ? { bot } : {}) })),
    });
    await visit(
      `/tables/${table.id}`,
      async (page) => {
        await page.waitForSelector('[data-seat="1"].own');
        const boxes = (selector: string): Promise<{ left: number; right: number; bottom: number }[]> =>
          page.locator(selector).evaluateAll((all) => all.map((each) => each.getBoundingClientRect().toJSON()));
        const cards = (): ReturnType<typeof boxes> => boxes('.stage [data-face]');
        expect((await cards()).length).toBeGreaterThan(3);
        await until(async () => (await cards()).every(({ left, right }) => left >= 0 && right <= 390), 'all to fit');
        const [[name], [stage]] = await Promise.all([boxes('.own .who b'), boxes('.stage')]);
        expect(name?.bottom).toBeLessThanOrEqual(stage?.bottom ?? 0);
      },
      390,
      844,
    );
  });

  it('Barley Cairn shows the index of every card in its heap', async () => {
    const { table } = await developer().openTable({ sheet: 'Barley Cairn', seed: 'phone', seats: [{ name: 'Wren' }] });
    await visit(
      `/tables/${table.id}`,
      async (page) => {
        await page.waitForSelector('[data-pile="cairn/22"] [data-face]');
        const top = async (row: number): Promise<number> =>
          (await page.locator(`[data-pile="cairn/${(row * (row - 1)) / 2 + 1}"] [data-face]`).boundingBox())?.y ?? 0;
        for (let row = 1; row < 7; row++)
          await until(async () => (await top(row + 1)) - (await top(row)) > 17, `the index of row ${row}`);
      },
      390,
      844,
    );
  });

  it('Standing Trump shows rank and suit of every card in a hand of thirteen', async () => {
    const seats = ['Wren', 'Otter', 'Pike', 'Teal'].map((name, i) => ({ name, ...(i > 0 ? { bot: 'plain' } : {}) }));
    const { table } = await developer().openTable({ sheet: 'Standing Trump', seed: 'phone', seats });
    await visit(
      `/tables/${table.id}`,
      async (page) => {
        await page.waitForSelector('.own [data-face]');
        // What stands at the upper left of a card ends before the next card begins.
        const covered = (): Promise<DOMRect[]> =>
          page.locator('.own [data-face]').evaluateAll((cards) =>
            cards.slice(0, -1).flatMap((card, i) => {
              const { left, top, width, height } = card.getBoundingClientRect();
              const next = cards[i + 1]?.getBoundingClientRect().left ?? 0;
              return Array.from(card.querySelectorAll('g path'))
                .filter((shape) => shape.closest('[clip-path]') === null)
                .map((shape) => shape.getBoundingClientRect())
                .filter((shape) => shape.left < left + width * 0.3 && shape.top < top + height * 0.4)
                .filter((shape) => shape.right > next);
            }),
          );
        await until(async () => (await covered()).length === 0, 'every index to be seen');
      },
      390,
      844,
    );
  });
});
