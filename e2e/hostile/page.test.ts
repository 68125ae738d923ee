import type { Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { servedConsole } from '../setup/programs.js';

const { visit, developer } = servedConsole();

/** Words that would become part of a page, or a script of it, where they are not taken as words. */
const EVIL = [
  `<img src=x onerror='document.title = \\"mine\\"'>`,
  `\\" autofocus onfocus='document.title = 1' x=\\"`,
  `<script>document.title = 1</script>`,
  `</style></svg><iframe srcdoc='x'></iframe>`,
];
const [IMG, QUOTE, SCRIPT, SVG] = EVIL as [string, string, string, string];

const SHEET = `// ${IMG.replaceAll('\\\\', '')}
game "Words ${IMG}" for 2 seats {
  deck standard
  pile stock "the ${SVG}" face down as stack
  pile row "${SCRIPT}" face up as row
  pile hand of each seat "${QUOTE}" private as fan
  kind Mood = calm "${IMG}" | keen "${SCRIPT}"
  var mood: Mood = calm "${SVG}"
  var words of each seat: text = "${QUOTE}" "${IMG}"
  setting fast: flag = no "${QUOTE}"
  play {
    chapter "${IMG}"
    shuffle pack
    deal 3 from pack to row
    for each s in seats { deal 2 from pack to s.hand }
    move all from pack to stock
    say "${SCRIPT} ${QUOTE}"
    repeat {
      tally "${SVG}" mood
      ask seats[1] {
        option go "go ${IMG}" on stock needs no else "${SVG} ${QUOTE}" { }
        option lay(c: card in seats[1].hand) "lay ${SCRIPT} {c}" { move c to row  mood = keen }
        option stop "stop ${QUOTE}" { finish }
      }
    }
  }
}
`;

/** What of such words became more than words: elements, handlers, or something that ran. */
const become = (page: Page): Promise<unknown> =>
  page.evaluate(() => ({
    elements: document.querySelectorAll('iframe, img[src="x"], script:not([src]), [onerror], [onfocus], [srcdoc]')
      .length,
    title: document.title === 'mine' || document.title === '1',
  }));
const WORDS_ALONE = { elements: 0, title: false };

describe('words of somebody else on our pages', () => {
  it('stay words: at the table, in lists, in the workshop, in trials, looking back', async () => {
    const client = developer();
    const { hash } = await client.addSheet({ source: SHEET });
    const seats = [{ name: 'Wren <b>' }, { name: `Otter'"&` }];
    const opened = await client.openTable({ sheet: hash, seats, seed: 'words', pace: 0, clocks: false });
    const { id } = opened.table;
    const { ask, offers } = await client.offers(id, 1);
    const card = offers.find(({ option }) => option === 'lay')?.ways?.[0]?.[0];
    await client.choose(id, { seat: 1, ask: ask ?? 0, option: 'lay', args: { c: card } as never, once: 'lay' });
    const draft = await client.addDraft({ sheet: SHEET });
    const trial = await client.openTrial({ sheet: hash, games: 40, title: '<img src=x onerror=1>' });
    const pages: readonly [string, string][] = [
      [`/tables/${id}?eyes=1`, 'onerror'],
      [`/tables/${id}/past`, 'onerror'],
      ['/tables', 'Wren <b>'],
      ['/games', 'Words <img'],
      [`/workshop/${draft.id}`, 'Words <img'],
      [`/trials/${trial.id}`, '<img src=x'],
    ];
    for (const [path, words] of pages)
      await visit(path, async (page) => {
        await page.getByText(words, { exact: false }).first().waitFor();
        expect(await become(page), path).toEqual(WORDS_ALONE);
      });
  });
});
