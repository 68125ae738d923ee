import { describe, expect, it } from 'vitest';
import { servedConsole } from './setup/programs.js';

const { visit, developer } = servedConsole();

/** Throwing away costs seven points, and nothing else matters. */
const TOLLS = `game "Dear Tolls" for 2 seats {
  deck standard
  pile row face up
  play {
    for n in 1..2 {
      chapter "Toll {n}"
      for each s in seats {
        ask s {
          option keep "keep the coin" { score s += 3 }
          option throw "throw it away" { score s -= 4 }
        }
      }
    }
    finish
  }
}`;

describe('looking back at what choices were worth', () => {
  it('names the costliest choice, shows the others beside it, and plays on with one of them', async () => {
    await developer().addSheet({ source: TOLLS });
    const opened = await developer().openTable({
      sheet: 'Dear Tolls',
      seats: [{ name: 'Wren' }, { name: 'Otter' }],
      clocks: false,
    });
    const { id } = opened.table;
    for (const [i, option] of ['keep', 'keep', 'throw', 'keep'].entries())
      await developer().choose(id, { ask: i, option, once: `c${i}`, seat: (i % 2) + 1 });
    await visit(`/tables/${id}/past?eyes=1`, async (page) => {
      await page.getByRole('button', { name: 'What was it worth?' }).click();
      const paper = page.getByRole('complementary', { name: 'What the choices were worth' });
      await paper.getByRole('heading', { name: '“throw it away” cost 7.0' }).waitFor();
      expect(await paper.innerText()).toContain('7.0 more');
      // It looks at the seat's last choice: what it had is drawn, with whose each was.
      const choices = page.getByRole('region', { name: 'What each choice was worth' });
      await choices.getByText('yours').waitFor();
      expect(await choices.getByRole('button').allInnerTexts()).toEqual([
        expect.stringMatching(/keep the coin[\s\S]*\+[\d.]+[\s\S]*the bot’s/),
        expect.stringMatching(/throw it away[\s\S]*−[\d.]+[\s\S]*yours/),
      ]);
      await page.getByRole('button', { name: 'Show the figures' }).click();
      expect(await page.locator('[data-chart=worth] tbody').innerText()).toMatch(/3\s+throw it away/);
      // The chapter before: one goes there by the keyboard, and nothing was wrong with it.
      await page.keyboard.press('Escape');
      await page.locator('h1').click();
      await page.keyboard.press('ArrowLeft');
      await page.keyboard.press('ArrowLeft');
      await paper.getByRole('heading', { name: 'Nothing was clearly better' }).waitFor();
      await paper.getByText('as the bot would').waitFor();
      await page.locator('h1').click();
      await page.keyboard.press('ArrowRight');
      await page.keyboard.press('ArrowRight');
      await choices.getByRole('button', { name: 'keep the coin' }).click();
      await page.waitForURL((url) => !url.pathname.includes(id) && url.pathname.startsWith('/tables/'));
      const branch = new URL(page.url()).pathname.split('/').at(-1) as string;
      expect(await developer().record(branch)).toMatch(/"number":3[^\n]*"option":"keep"/);
    });
  });
});
