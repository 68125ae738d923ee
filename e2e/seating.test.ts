import type { Client } from '@wily-jester/client';
import { REGULARS } from '@wily-jester/core';
import type { OfferedOption } from '@wily-jester/protocol';
import type { Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { FULL } from './setup/crowd.js';
import { servedConsole } from './setup/programs.js';

const { visit, developer } = servedConsole();
/** The long form tries all sizes with least, usual and most seats, the short one the first two with one of these: `WILY_FULL=1`. */
const SIZES = [
  [1280, 800],
  [390, 844],
  [1024, 768],
] as const;
/** So many choices in: hands are dealt, and something lies on the table. */
const CHOICES = 4;

/** The values of a choice that is offered: the first way, the least amount, the fewest cards. */
function argsFor({ params, ways }: OfferedOption): Record<string, never> | null {
  const args: Record<string, unknown> = {};
  for (const [i, param] of params.entries()) {
    if (ways?.[0]) args[param.name] = ways[0][i];
    else if (param.kind === 'range') args[param.name] = param.from;
    else if (param.kind === 'cards')
      args[param.name] = param.values?.slice(0, param.least ?? 1).map(({ value }) => value);
    else return null;
  }
  return args as Record<string, never>;
}

/** Plays a little for a seat; all others are bots. */
async function playALittle(client: Client, table: string): Promise<void> {
  for (let i = 0; i < CHOICES; i++) {
    const { ask, offers } = await client.offers(table, 1);
    const [choice] = offers.flatMap((offer) => {
      const args = offer.legal && !offer.aside ? argsFor(offer) : null;
      return args ? [{ option: offer.option, args }] : [];
    });
    if (!choice || ask === null) return;
    await client.choose(table, { ask, ...choice, once: `a little ${i}`, seat: 1 }).catch(() => undefined);
  }
}

/** Goes to another page as a link does: nothing is loaded anew. */
async function goTo(page: Page, path: string): Promise<void> {
  await page.evaluate((to) => {
    history.pushState({}, '', to);
    dispatchEvent(new PopStateEvent('popstate', { state: {} }));
  }, path);
  await page.waitForURL((url) => url.href.endsWith(path));
}

/** What overlaps at a table, or reaches out of it, once it has settled. */
async function clashes(page: Page): Promise<string[]> {
  return page.evaluate(async () => {
    const frame = (): Promise<void> => new Promise((done) => requestAnimationFrame(() => done()));
    const stage = document.querySelector('.stage') as HTMLElement;
    const zones = () =>
      Array.from(stage.querySelectorAll('[data-zone]'))
        .map((zone) => ({ zone, box: zone.getBoundingClientRect() }))
        .filter(({ box }) => box.width > 0 && box.height > 0);
    const places = (): string =>
      JSON.stringify(zones().map(({ box }) => [box.left, box.top, box.right, box.bottom].map(Math.round)));
    // Settled: nothing moved for several frames.
    for (let still = 0, last = ''; still < 6; ) {
      await frame();
      const now = `${places()}${stage.classList.contains('measuring')}`;
      still = now === last ? still + 1 : 0;
      last = now;
    }
    const whole = stage.getBoundingClientRect();
    const TOUCH = 2;
    const named = (zone: Element): string => zone.getAttribute('aria-label') ?? zone.className;
    const found: string[] = [];
    for (const [i, { zone, box }] of zones().entries()) {
      if (
        box.left < whole.left - TOUCH ||
        box.right > whole.right + TOUCH ||
        box.top < whole.top - TOUCH ||
        box.bottom > whole.bottom + TOUCH
      )
        found.push(`${named(zone)} reaches out`);
      for (const other of zones().slice(i + 1))
        if (
          box.left < other.box.right - TOUCH &&
          other.box.left < box.right - TOUCH &&
          box.top < other.box.bottom - TOUCH &&
          other.box.top < box.bottom - TOUCH
        )
          found.push(`${named(zone)} lies on ${named(other.zone)}`);
    }
    if (document.documentElement.scrollWidth > window.innerWidth) found.push('the page is wider than its window');
    return found;
  });
}

describe('seats stand as people sit', () => {
  it('and nothing lies on something else: every sheet, on a screen and on a phone', async () => {
    const wrong: string[] = [];
    const sheets = await developer().sheets();
    await visit('/tables', async (page) => {
      for (const [i, { hash, name, seats }] of sheets.entries()) {
        const [least, usual, most] = [Math.min(...seats), seats.includes(2) ? 2 : (seats[0] ?? 1), Math.max(...seats)];
        const counts = FULL ? [least, usual, most] : [i % 2 === 0 ? usual : most];
        for (const count of new Set(counts)) {
          const { table } = await developer().openTable({
            sheet: hash,
            seats: REGULARS.slice(0, count).map((seat, i) =>
              i === 0 ? { name: seat } : { name: seat, bot: 'random' },
            ),
            seed: 'seats',
            clocks: false,
            pace: 0,
          });
          await playALittle(developer(), table.id);
          await goTo(page, `/tables/${table.id}?eyes=1`);
          await page.locator('.stage .seat.own').waitFor();
          await page.getByRole('heading', { level: 1, name }).waitFor();
          for (const [width, height] of FULL ? SIZES : SIZES.slice(0, 2)) {
            await page.setViewportSize({ width, height });
            for (const clash of await clashes(page)) wrong.push(`${name}, ${count} seats, ${width} wide: ${clash}`);
          }
          await developer()
            .closeTable(table.id)
            .catch(() => undefined);
        }
      }
    });
    expect(wrong).toEqual([]);
  }, 900_000);

  it('with one opposite of two, and partners face to face of four', async () => {
    const place = async (page: Page, seat: number): Promise<{ x: number; y: number }> => {
      const box = await page.locator(`.stage .seat[data-seat="${seat}"]`).boundingBox();
      return { x: (box?.x ?? 0) + (box?.width ?? 0) / 2, y: (box?.y ?? 0) + (box?.height ?? 0) / 2 };
    };
    const seated = async (count: number, look: (page: Page) => Promise<void>): Promise<void> => {
      const { table } = await developer().openTable({
        sheet: 'Toll Gate',
        seats: REGULARS.slice(0, count).map((name) => ({ name })),
        clocks: false,
      });
      await visit(`/tables/${table.id}?eyes=1`, async (page) => {
        await page.locator('.stage .seat.own').waitFor();
        await clashes(page);
        await look(page);
      });
    };
    await seated(2, async (page) => {
      const [own, other] = [await place(page, 1), await place(page, 2)];
      expect(Math.abs(own.x - other.x)).toBeLessThan(80);
      expect(other.y).toBeLessThan(own.y - 150);
    });
    await seated(4, async (page) => {
      const [own, left, partner, right] = [
        await place(page, 1),
        await place(page, 2),
        await place(page, 3),
        await place(page, 4),
      ];
      expect(left.x).toBeLessThan(own.x - 150);
      expect(right.x).toBeGreaterThan(own.x + 150);
      expect(Math.abs(left.y - right.y)).toBeLessThan(40);
      expect(partner.y).toBeLessThan(left.y);
    });
  });
});
