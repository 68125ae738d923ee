import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { openPage, servedConsole } from './setup/programs.js';
import { until } from './setup/service.js';
import { begin, behind, instead, rehearsals } from './setup/workshop.js';

const { visit, developer, browser, address } = servedConsole();

describe('a draft', () => {
  it('is kept as it is typed, found again, and gone back in', async () => {
    await visit('/workshop', async (page) => {
      const id = await begin(page, 'High Heron');
      await instead(page, '= 5 ', '= 7 ');
      await until(async () => (await developer().draft(id)).sheet.includes('1..20 = 7'), 'what was typed is kept');
      await page.getByText('draft, kept ').waitFor();
      await page.reload();
      await page.locator('.cm-line', { hasText: '1..20 = 7' }).waitFor();
      await page.getByRole('button', { name: 'History' }).click();
      const dialog = page.getByRole('dialog');
      await dialog.locator('.cm-changedLine').first().waitFor();
      // Held against itself, as any two editions or versions may be held against each other, nothing differs.
      const chosen = await dialog.locator('li button[aria-pressed="true"] b').innerText();
      const choices = await dialog.getByLabel('Compare with').locator('option').allInnerTexts();
      const same = choices.findLastIndex((text) => text.startsWith(chosen));
      await dialog.getByLabel('Compare with').selectOption({ index: same });
      await dialog.locator('.cm-changedLine').first().waitFor({ state: 'detached' });
      await dialog.getByLabel('Compare with').selectOption({ index: 0 });
      await dialog.locator('.cm-changedLine').first().waitFor();
      await dialog.getByRole('button', { name: 'Go back to this' }).click();
      await page.locator('.text .cm-line', { hasText: '1..20 = 5' }).waitFor();
      await until(async () => (await developer().draft(id)).sheet.includes('1..20 = 5'), 'it is kept too');
    });
  });

  it('stays in the browser while the service is away, and is handed over once it is back', async () => {
    const { page } = await openPage(browser(), 1280, 800, developer());
    await page.goto(`${address()}/workshop`);
    const id = await begin(page, 'High Heron');
    await page.route('**/api/drafts/**', (route) => route.abort());
    await instead(page, '= 5 ', '= 8 ');
    await page.getByText('Kept in this browser, not yet at the service.').waitFor();
    expect((await developer().draft(id)).sheet).toContain('1..20 = 5');
    // Pulling the plug of the page loses nothing either: another page of the browser has it.
    const context = page.context();
    await page.close();
    const again = await context.newPage();
    await again.goto(`${address()}/workshop/${id}`);
    await again.locator('.cm-line', { hasText: '1..20 = 8' }).waitFor();
    await until(async () => (await developer().draft(id)).sheet.includes('1..20 = 8'), 'it is handed over');
    await context.close();
  });

  it('is not overwritten by two windows: the later one is shown both', async () => {
    const { page } = await openPage(browser(), 1280, 800, developer());
    // This window hears nothing of the other one until it keeps something itself.
    await page.route('**/api/drafts/*/events', (route) => route.abort());
    await page.goto(`${address()}/workshop`);
    const id = await begin(page, 'High Heron');
    const second = await page.context().newPage();
    await second.goto(page.url());
    await second.locator('.cm-line', { hasText: '1..20 = 5' }).waitFor();
    await instead(second, '= 5 ', '= 6 ');
    await until(async () => (await developer().draft(id)).sheet.includes('= 6 '), 'the first is kept');
    await page.bringToFront();
    await instead(page, 'on stock quick', 'on stock');
    await page
      .locator('.strip', { hasText: /Changed in another window at \d\d:\d\d/ })
      .getByRole('button', { name: 'See both' })
      .click();
    const dialog = page.getByRole('dialog');
    await dialog.getByText('Two windows wrote').waitFor();
    await dialog.locator('.cm-changedLine').first().waitFor();
    expect((await developer().draft(id)).sheet).toContain('on stock quick');
    await dialog.getByRole('button', { name: 'Keep this window’s' }).click();
    await until(async () => !(await developer().draft(id)).sheet.includes('on stock quick'), 'the later one is kept');
    // The first window, where nothing was typed since, takes it over, and says so.
    await second.locator('.strip', { hasText: 'this is that text' }).waitFor();
    await page.context().close();
  });

  it('goes on the shelf, is shared to look at, and taken away as files and back', async () => {
    await visit('/workshop', async (page) => {
      const id = await begin(page, 'Nine Stones');
      await page.getByRole('button', { name: 'Put on the shelf' }).click();
      await until(async () => (await developer().draft(id)).shelf !== null, 'it is on the shelf');
      await page.getByRole('link', { name: 'on the shelf', exact: true }).waitFor();
      expect((await developer().sheet('Nine Stones')).rehearsals).toContain('make eleven');
      await page.getByRole('button', { name: 'More', exact: true }).click();
      const [zip] = await Promise.all([
        page.waitForEvent('download'),
        page.getByRole('button', { name: 'Take all files as a zip' }).click(),
      ]);
      expect(zip.suggestedFilename()).toBe('nine-stones.zip');
      const file = await zip.path();
      await page.getByRole('button', { name: 'Share a link to look' }).click();
      const link = await page.getByLabel('Link to look').inputValue();
      const guest = await page.context().browser()?.newContext();
      const look = await guest?.newPage();
      await look?.goto(link);
      await look?.getByText('You look on').waitFor();
      await look?.locator('[data-lit], .card, [data-option]').first().waitFor();
      expect(await look?.locator('.cm-content').getAttribute('contenteditable')).toBe('false');
      expect(look?.url()).not.toContain('#');
      await guest?.close();
      await page.goto(new URL('/workshop', page.url()).href);
      await page
        .locator('input[type=file]')
        .setInputFiles({ name: 'nine-stones.zip', mimeType: 'application/zip', buffer: readFileSync(file) });
      await page.waitForURL(/\/workshop\/[a-z0-9]{12}$/);
      expect(page.url()).not.toContain(id);
      await page.getByText('1 pass').waitFor();
      expect((await developer().draft(page.url().split('/').at(-1) ?? '')).rehearsals).toContain('make eleven');
    });
  });

  it('is begun as a copy of a sheet on the shelf, from its page', async () => {
    await visit('/games', async (page) => {
      await page.getByRole('button', { name: /Toll Gate/ }).click();
      await page.getByRole('link', { name: 'Open in the workshop' }).click();
      await page.waitForURL(/\/workshop\/[a-z0-9]{12}$/);
      await page.getByRole('heading', { name: 'Toll Gate' }).waitFor();
      await page.getByText('3 pass').waitFor();
    });
  });
});

describe('learning', () => {
  it('goes step by step through a game of one’s own, can be left and gone on with', async () => {
    await visit('/workshop', async (page) => {
      await page.getByRole('link', { name: /Take the tour/ }).click();
      const tour = page.getByRole('region', { name: 'The tour' });
      await tour.getByText('Step 1 of 8').waitFor();
      expect(await tour.innerText()).toContain('say "{size(pack)} cards, and {top(pack)} lies on top."');
      await behind(page, 'shuffle pack');
      await page.keyboard.type('\n');
      await page.keyboard.insertText('say "{size(pack)} cards, and {top(pack)} lies on top."');
      await tour.getByText('It is written.').waitFor();
      await tour.getByText('Seen.').waitFor();
      await tour.getByRole('button', { name: 'Next' }).click();
      await tour.getByRole('button', { name: 'Write it for me' }).click();
      await tour.getByText('Seen.').waitFor();
      expect(await page.locator('.stage [data-pile^="hand/"]').count()).toBeGreaterThan(1);
      await page.goto(new URL('/workshop', page.url()).href);
      await page.getByRole('link', { name: /Take the tour/ }).click();
      await tour.getByText('Step 2 of 8').waitFor();
      for (const step of [3, 4, 5, 6, 7]) {
        await tour.getByRole('button', { name: /Next|Skip/ }).click();
        await tour.getByText(`Step ${step} of 8`).waitFor();
        await tour.getByRole('button', { name: 'Write it for me' }).click();
        await tour.getByText('It is written.').waitFor();
      }
      await page.getByText('4 pass').waitFor();
      await tour.getByText('Seen.').waitFor();
      await tour.getByRole('button', { name: 'Next' }).click();
      await page.getByRole('button', { name: 'Put on the shelf' }).click();
      await tour.getByRole('button', { name: 'That was all' }).click();
      await tour.waitFor({ state: 'detached' });
      expect((await developer().sheet('Barge Nines')).rehearsals).toContain('an ace counts one or eleven');
    });
  });

  it('finds a word in the reference, and tries its example with one press', async () => {
    await visit('/workshop', async (page) => {
      const id = await begin(page, 'High Heron');
      await page.keyboard.press('F1');
      const drawer = page.getByRole('complementary', { name: 'Reference and examples' });
      await drawer.getByLabel('Search the reference').fill('tally share');
      await drawer.getByRole('button', { name: 'Try it as a draft' }).first().click();
      await page.waitForURL((url) => /\/workshop\/[a-z0-9]{12}$/.test(url.pathname) && !url.pathname.endsWith(id));
      await page
        .getByRole('status')
        .filter({ hasText: /Nothing wrong|doubt/ })
        .or(page.locator('.verdict', { hasText: 'doubt' }))
        .first()
        .waitFor();
    });
  });

  it('is read, and played, on a phone; and has the text above the table on a tablet in portrait', async () => {
    const sheet = await developer().sheet('Toll Gate');
    const { id } = await developer().addDraft({ sheet: sheet.source, rehearsals: sheet.rehearsals ?? '' });
    await visit(
      `/workshop/${id}`,
      async (page) => {
        await page.locator('.cm-content[contenteditable=false]').waitFor();
        await page.getByRole('button', { name: 'Table', exact: true }).click();
        await page.locator('.stage .seat.own').waitFor();
        await page.getByRole('button', { name: 'Rehearsals', exact: true }).first().click();
        await rehearsals(page).getByText('3 pass').waitFor();
      },
      390,
      844,
    );
    await visit(
      `/workshop/${id}`,
      async (page) => {
        const text = await page.locator('[data-editor]').boundingBox();
        const table = await page.locator('.stage').boundingBox();
        expect((text?.y ?? 0) + (text?.height ?? 0)).toBeLessThan(table?.y ?? 0);
        expect(await page.locator('.cm-content').getAttribute('contenteditable')).toBe('true');
      },
      768,
      1024,
    );
  });
});
