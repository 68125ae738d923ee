import { describe, expect, it } from 'vitest';
import { servedConsole } from './setup/programs.js';
import { until } from './setup/service.js';
import { begin, behind, instead, news, press, readyToTake, rehearsals, verdict } from './setup/workshop.js';

const { visit, developer } = servedConsole();

describe('the workshop', () => {
  it('plays the choices so far again as soon as a rule is changed, and marks what is another figure now', async () => {
    await visit('/workshop', async (page) => {
      await begin(page, 'Between the Banks');
      await press(page, 'stay');
      expect(await page.locator('.values').innerText()).toContain('pot 4');
      await instead(page, '1..10 = 2', '1..10 = 3');
      await news(page)
        .filter({ hasText: /Played again on this text, \d choices? in \d+ ms/ })
        .waitFor();
      await page.locator('.values', { hasText: 'pot 6was 4' }).waitFor();
      // A choice that the new text refuses is named, with the two ways out.
      await instead(
        page,
        'option stay "stay ashore"',
        'option stay "stay ashore" needs pot > 99 else "The boat leaves."',
      );
      const stopped = page.locator('.waits', { hasText: 'Choice 1 is refused by the new text' });
      await stopped.waitFor();
      expect(await stopped.innerText()).toContain('The boat leaves.');
      expect(await page.locator('.wj-refuses').count()).toBeGreaterThan(0);
      await stopped.getByRole('button', { name: 'Back to the start' }).click();
      await page.locator('.rail .ends', { hasText: '0 of 0' }).waitFor();
    });
  });

  it('says under the word what is wrong, mends it with a key, and lets the table wait meanwhile', async () => {
    await visit('/workshop', async (page) => {
      await begin(page, 'Between the Banks');
      await behind(page, 'pot += paid');
      // Letters of the text press no choice at the table.
      await page.keyboard.type('\npott += bs');
      await page.locator('.wj-message', { hasText: 'There is no name "pott" here. Did you mean "pot"?' }).waitFor();
      expect(await page.locator('.rail .ends').innerText()).toContain('0 of 0');
      expect(await verdict(page).innerText()).toMatch(/^2 mistakes, line \d+$/);
      const waits = page.locator('.waits', { hasText: 'The table waits for line' });
      await waits.waitFor();
      expect(await page.locator('.play.greyed').count()).toBe(1);
      expect(await page.getByRole('button', { name: 'Put on the shelf' }).getAttribute('aria-disabled')).toBe('true');
      await page.keyboard.press('Alt+Enter');
      await page.locator('.cm-line', { hasText: /^\s*pot \+= bs$/ }).waitFor();
      await waits.getByRole('button', { name: 'Take the text back' }).click();
      await verdict(page).filter({ hasText: 'Nothing wrong' }).waitFor();
      await page.locator('.play:not(.greyed)').waitFor();
    });
  });

  it('helps with words and values: completion, what a name is worth now, its definition, another name', async () => {
    await visit('/workshop', async (page) => {
      await begin(page, 'Between the Banks');
      await behind(page, 'pot += paid');
      await page.keyboard.type(' + s.');
      const chips = page.locator('.cm-tooltip-autocomplete li', { hasText: 'chips' });
      await chips.waitFor();
      expect(await chips.innerText()).toContain('58');
      await readyToTake(page);
      await page.keyboard.press('Tab');
      await page.locator('.cm-line', { hasText: 'pot += paid + s.chips' }).waitFor();
      for (let i = 0; i < ' + s.chips'.length; i++) await page.keyboard.press('Backspace');
      // Under the pointer: what it is, and what it is worth; its twin at the table is marked.
      const word = page.locator('.cm-line', { hasText: 'pot += paid' });
      const box = await word.boundingBox();
      await page.mouse.move((box?.x ?? 0) + 60, (box?.y ?? 0) + 9);
      const tip = page.locator('.wj-tip');
      await tip.waitFor();
      expect(await tip.innerText()).toMatch(/4\s+var pot: int/);
      await page.locator('.values .pointed', { hasText: 'pot' }).waitFor();
      await page.mouse.move(5, 5);
      await behind(page, 'paid = min(s.chips, fare');
      await page.keyboard.press('F12');
      await page.locator('.row .here', { hasText: 'fare' }).waitFor();
      await page.keyboard.press('F2');
      await page.getByLabel(/Another name for/).fill('toll');
      await page.getByRole('button', { name: 'Rename everywhere' }).click();
      await verdict(page).filter({ hasText: 'Nothing wrong' }).waitFor();
      await behind(page, 'min(s.chips, toll');
      await page.getByRole('button', { name: 'Outline' }).click();
      await page.getByLabel('Jump to').fill('crossing');
      await page.getByLabel('Jump to').press('Enter');
      await page.locator('.row .here', { hasText: 'crossing' }).waitFor();
    });
  });

  it('marks the lines that ran and the one where it waits, and those that no rehearsal runs', async () => {
    await visit('/workshop', async (page) => {
      await begin(page, 'High Heron');
      await press(page, 'stay');
      await page.locator('.wj-waits', { hasText: 'ask s within 30s' }).waitFor();
      await page.locator('.wj-tag.waits', { hasText: 'waits for Wren' }).waitFor();
      await page.locator('.wj-ran').first().waitFor();
      await page.locator('.wj-bar.covered').first().waitFor();
      expect(await page.locator('.wj-bar.missed').count()).toBeGreaterThan(0);
      expect(await rehearsals(page).innerText()).toMatch(/\d+ of \d+ lines ran/);
      await page.getByLabel('A choice back').click();
      await page.locator('.rail .ends', { hasText: /^.*1 of 2$/s }).waitFor();
      await page.locator('.water header h2').click();
      await page.keyboard.press('ArrowLeft');
      await page.locator('.rail .ends', { hasText: '0 of 2' }).waitFor();
      await page.keyboard.press('e');
      await page.locator('.eyes', { hasText: 'with Wren’s eyes' }).waitFor();
      await page.keyboard.press('k');
      await page.locator('#rehearsal-title:focus').waitFor();
    });
  });

  it('keeps what was played as a rehearsal, and shows what fails where a rule is changed', async () => {
    await visit('/workshop', async (page) => {
      const id = await begin(page, 'Between the Banks');
      await press(page, 'stay');
      await page.getByRole('button', { name: 'Keep this as a rehearsal' }).click();
      const dialog = page.getByRole('dialog');
      await dialog.getByText('It passes, whatever the shuffle').waitFor();
      await dialog.getByLabel('What it shows').fill('staying ashore costs nothing');
      await dialog.locator('label', { hasText: 'pot ==' }).click();
      await dialog.locator('pre', { hasText: 'expect pot == 4' }).waitFor();
      await dialog.getByRole('button', { name: 'Keep it' }).click();
      await rehearsals(page).getByText('3 pass').waitFor();
      await until(
        async () => (await developer().draft(id)).rehearsals.includes('staying ashore costs nothing'),
        'it is kept',
      );
      await instead(page, '1..10 = 2', '1..10 = 3');
      await rehearsals(page).getByText('2 of 3 fail').waitFor();
      const failed = rehearsals(page).locator('li', { hasText: 'staying ashore' });
      expect(await failed.innerText()).toContain('pot is 6, and this expects pot == 4');
      await failed.getByRole('button', { name: 'Put the table there' }).click();
      await page.locator('.rail .ends', { hasText: /2 of 2/ }).waitFor();
      await failed.locator('.title').click();
      await page.locator('.wj-failed').first().waitFor();
    });
  });

  it('soaks each good text, names its fault, and puts the table just before it', async () => {
    await visit('/workshop', async (page) => {
      await begin(page, 'High Heron');
      const soak = page.getByRole('region', { name: 'Soak', exact: true });
      await soak.getByText('200 games').waitFor();
      expect(await soak.innerText()).toContain('every option was taken');
      await soak.getByRole('button', { name: 'Try 1,000 games with bots' }).click();
      await soak.locator('.tally').first().waitFor();
      await instead(page, 'option draw on stock quick { deal 1', 'option draw on stock quick { deal 60 / size(s.hand)');
      await soak.getByText('a fault').waitFor();
      await soak.getByRole('button', { name: 'Put the table just before it' }).first().click();
      const waits = page.locator('.waits', { hasText: 'makes a fault' });
      await waits.waitFor();
      await page.locator('.wj-refuses').first().waitFor();
    });
  });

  it('says why an option is refused with the line that refuses it, and where a choice makes a fault', async () => {
    await visit('/workshop', async (page) => {
      await begin(page, 'High Heron');
      await instead(page, 'option stay "stay out"     { }', 'option stay "stay out" { say "{10 / size(s.hand)}" }');
      await verdict(page).filter({ hasText: 'Nothing wrong' }).waitFor();
      await news(page)
        .filter({ hasText: /Make a choice|Played/ })
        .waitFor();
      await page.locator('[data-option="stay"]').click();
      const fault = page.locator('.waits', { hasText: 'The sheet made a fault' });
      await fault.waitFor();
      await page.locator('.wj-fault').first().waitFor();
      await fault.getByRole('button', { name: 'As it stood' }).click();
      await page.locator('[data-option="draw"]').waitFor();
    });
  });

  it('goes from place to place with F6, past those where nothing can be reached', async () => {
    const { id } = await developer().addDraft({
      sheet: 'game "Six" for 2 seats { deck standard play { ask seats[1] { option go { } } finish } }',
    });
    await visit(`/workshop/${id}`, async (page) => {
      await page.locator('[data-option]').waitFor();
      await page.locator('.cm-content').click();
      await page.keyboard.press('F6');
      await page.locator('.water :focus').waitFor();
      await page.keyboard.press('F6');
      await page.locator('.cm-content:focus').waitFor();
    });
  });

  it('lays the table with other seats, eyes, settings, shuffles and cards', async () => {
    await visit('/workshop', async (page) => {
      await begin(page, 'High Heron');
      await page.getByRole('button', { name: 'Seats, eyes, settings' }).click();
      const drawer = page.getByRole('complementary', { name: 'Seats, eyes, settings' });
      await drawer.getByRole('button', { name: 'More seats' }).click();
      await page.locator('.stage .seat[data-seat="3"]').waitFor();
      await drawer.getByLabel('Who plays Otter').selectOption('');
      await drawer.getByLabel('rounds').fill('9');
      await drawer.getByLabel('rounds').press('Tab');
      await page.locator('.water h2', { hasText: 'Round 1 of 9' }).waitFor();
      await drawer.locator('#stacked-pile').selectOption({ label: 'Wren, hand' });
      await drawer.locator('[data-stack="Q♦"]').click();
      // A card may be dragged onto a pile of the table as well, which is lit meanwhile.
      const pile = page.locator('.water [data-pile="hand/2"]');
      await drawer.locator('[data-stack="K♠"]').hover();
      await page.mouse.down();
      await pile.hover();
      await pile.hover({ position: { x: 9, y: 9 } });
      await page.locator('.water [data-pile="hand/2"][data-lit]').waitFor();
      await page.mouse.up();
      await drawer.locator('li', { hasText: 'Otter, hand gets' }).getByLabel('Take back K♠').waitFor();
      await drawer.getByLabel('Take back K♠').click();
      await drawer.getByRole('button', { name: 'Close' }).click();
      await page.locator('[data-option="draw"]').click();
      await page.locator('.seat[data-seat="1"] [data-pile="hand/1"]').waitFor();
      await page.locator('.water .said', { hasText: /\S/ }).waitFor();
      await page.locator('.eyes', { hasText: 'with Otter’s eyes' }).waitFor();
    });
  });
});

describe('cards at the table', () => {
  it('travel to where a new text has them', async () => {
    await visit('/workshop', async (page) => {
      await begin(page, 'Nine Stones');
      await page.emulateMedia({ reducedMotion: 'no-preference' });
      const travelling = page.waitForFunction(() =>
        document
          .querySelector('.play')
          ?.getAnimations({ subtree: true })
          .some((one) =>
            (one.effect as KeyframeEffect | null)
              ?.getKeyframes()
              .some(({ transform }) => `${transform}`.startsWith('translate(')),
          ),
      );
      await instead(page, 'layout { ', 'layout { . . ');
      await travelling;
    });
  });

  it('begin on an empty page, where rehearsals of another game are emptied', async () => {
    await visit('/workshop', async (page) => {
      await page.getByText('An empty page').click();
      await page.locator('.water h2', { hasText: 'New Game' }).waitFor();
      await page.getByText('Play a little, then keep it as a rehearsal.').waitFor();
    });
    await visit('/workshop', async (page) => {
      const id = await begin(page, 'High Heron');
      await page.locator('.cm-content').first().click();
      await page.keyboard.press('Control+a');
      await page.keyboard.insertText('game "Other" for 1 seat { deck standard play { finish } }');
      await page.getByRole('button', { name: 'empty it' }).click();
      await until(async () => (await developer().draft(id)).rehearsals === '', 'the empty rehearsals');
    });
  });
});

describe('what runs in the page', () => {
  it('is ended where it runs on, and the table is played on as it stood', async () => {
    await visit('/workshop', async (page) => {
      await begin(page, 'High Heron');
      const worker = page.workers().find((one) => one.url().includes('table.worker'));
      // Nothing that a text says can run on for long; should something all the same, it would be like this.
      await worker?.evaluate(() => {
        setTimeout(() => {
          for (;;);
        });
      });
      await page.locator('[data-option="draw"]').click();
      await page.getByText('The table takes too long').waitFor();
      await page.getByRole('button', { name: 'As it stood' }).click();
      await press(page, 'draw');
      // Bots may have gone on already.
      expect(await page.locator('.rail .ends').innerText()).toMatch(/([1-9]) of \1/);
    });
  });

  it('turns rules into code in workers alone, which can reach no address; pages may not', async () => {
    await visit('/workshop', async (page) => {
      const workers: string[] = [];
      page.on('worker', (worker) => workers.push(worker.url()));
      await begin(page, 'High Heron');
      await until(() => workers.some((url) => url.includes('proof.worker')), 'the workers');
      const policy = async (url: string): Promise<string> =>
        (await page.request.get(url)).headers()['content-security-policy'] ?? '';
      for (const name of ['table', 'proof'])
        expect(await policy(workers.find((url) => url.includes(`${name}.worker`)) ?? '')).toBe(
          "default-src 'none'; script-src 'self' 'unsafe-eval'",
        );
      expect(await policy(page.url())).not.toContain('unsafe-eval');
      expect(await policy(workers.find((url) => url.includes('language.worker')) ?? '')).not.toContain('unsafe-eval');
      const worker = page.workers().find((one) => one.url().includes('table.worker'));
      expect(
        await worker?.evaluate(() =>
          fetch('/api/session').then(
            () => 'reached',
            () => 'not reached',
          ),
        ),
      ).toBe('not reached');
    });
  });
});
