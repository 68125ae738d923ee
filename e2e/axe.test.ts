import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Page } from 'playwright-core';
import { beforeAll, describe, expect, it } from 'vitest';
import { servedConsole } from './setup/programs.js';
import { openTwo } from './setup/service.js';

const { visit, developer } = servedConsole();
const AXE = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');
const RULES = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'best-practice'];

interface Finding {
  readonly id: string;
  readonly help: string;
  readonly nodes: readonly { readonly html: string; readonly failureSummary?: string }[];
}

/** What the rules of WCAG 2.1 AA, and those of good practice, find on a page as it stands. */
async function findings(page: Page): Promise<string[]> {
  await page.evaluate(AXE);
  const found = await page.evaluate(async (tags) => {
    const { axe } = window as unknown as {
      axe: { run(on: object, how: object): Promise<{ violations: unknown[] }> };
    };
    // A picture with a name is one thing: what it is drawn of is nobody's to use, and there may be thousands of it.
    const context = { include: [['html']], exclude: [['[data-chart] svg']] };
    return (await axe.run(context, { runOnly: tags })).violations;
  }, RULES);
  expect(await page.locator('[data-chart] svg:not([role=img][aria-label])').count()).toBe(0);
  return (found as Finding[]).flatMap(({ id, help, nodes }) =>
    nodes.map(({ html, failureSummary }) => `${id}: ${help}: ${html.slice(0, 160)} ${failureSummary ?? ''}`),
  );
}

let table = '';
let trial = '';
let draft = '';
let gathering = '';
beforeAll(async () => {
  const opened = await openTwo(developer());
  table = opened.table.id;
  const { ask } = await developer().offers(table, 1);
  for (const seat of [1, 2])
    await developer().choose(table, { ask, option: 'bet', args: { amount: 20 }, once: `axe ${seat}`, seat });
  const sheet = await developer().sheet('Toll Gate');
  draft = (await developer().addDraft({ sheet: sheet.source, rehearsals: sheet.rehearsals ?? '' })).id;
  const seats = [{ name: 'Wren' }, { name: 'Otter', bot: 'thrifty' }];
  gathering = (await developer().gather({ sheet: 'Toll Gate', seats, wait: 600 })).gathering.table;
  const asked = await developer().openTrial({ sheet: 'Lantern Twenty-One', games: 500 });
  for await (const one of developer().followTrial(asked.id)) trial = one.trial.id;
});

describe('every page', () => {
  const pages: readonly (readonly [name: string, path: () => string, ready: string])[] = [
    ['Cards', () => '/cards', '[data-card="51"]'],
    ['Hands', () => '/hands', '[data-card="A♠"]'],
    ['Games', () => '/games', 'text=Start a table'],
    ['Tables', () => '/tables', 'article'],
    ['a table', () => `/tables/${table}`, '[data-option]'],
    ['Side by side', () => `/tables/${table}/side`, '[data-pane="2"] .seat.own'],
    ['Looking back', () => `/tables/${table}/past`, '.rail'],
    ['what choices were worth', () => `/tables/${table}/past?worth`, '[data-worth] .good, [data-worth] .bad'],
    ['seats that give chance', () => `/gather/${gathering}`, '[data-seat]'],
    ['Workshop', () => '/workshop', '.starters'],
    ['a draft', () => `/workshop/${draft}`, '[aria-label="Rehearsals"] li'],
    ['Trials', () => '/trials', 'form'],
    ['a trial', () => `/trials/${trial}`, '[data-chart="table-gain"] svg'],
    ['Shuffle', () => '/shuffle', '[data-chart="profile"] svg >> nth=1'],
    ['a page that is not there', () => '/nowhere', 'h1'],
  ];
  for (const [name, path, ready] of pages)
    it(`of ${name} can be used by everybody, on a desk and on a phone`, async () => {
      await visit(path(), async (page) => {
        await page.waitForSelector(ready, { state: 'attached' });
        expect(await findings(page)).toEqual([]);
        await page.setViewportSize({ width: 390, height: 844 });
        expect(await findings(page)).toEqual([]);
      });
    });
});
