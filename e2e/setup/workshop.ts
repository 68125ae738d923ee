import type { Page } from 'playwright-core';

/** Begins a draft of one of the starters, and waits until its table stands. */
export async function begin(page: Page, starter: string): Promise<string> {
  await page.locator('.starters button', { hasText: starter }).click();
  await page.waitForURL(/\/workshop\/[a-z0-9]{12}$/);
  await page.waitForSelector('[data-option]');
  await page.getByRole('status').filter({ hasText: 'Nothing wrong' }).waitFor();
  return page.url().split('/').at(-1) ?? '';
}
/** Puts the caret behind the first place of a text, by searching for it. */
export async function behind(page: Page, text: string): Promise<void> {
  await page.locator('.cm-content').click();
  await page.keyboard.press('ControlOrMeta+f');
  const search = page.locator('.cm-search input[name=search]');
  await search.fill('');
  await search.pressSequentially(text);
  await search.press('Enter');
  await search.press('Escape');
  await page.keyboard.press('ArrowRight');
}
/** Writes something in the place of the first text of the kind. */
export async function instead(page: Page, text: string, put: string): Promise<void> {
  await behind(page, text);
  for (let i = 0; i < text.length; i++) await page.keyboard.press('Backspace');
  await page.keyboard.insertText(put);
}
/** Waits until keys are taken for the list that has just opened: for 75 ms they belong to what was typed before. */
export async function readyToTake(page: Page): Promise<void> {
  const opened = await page.evaluate(() => performance.now());
  await page.waitForFunction((then) => performance.now() - then > 75, opened);
}
export const news = (page: Page) => page.locator('.news');
export const verdict = (page: Page) => page.locator('.verdict');
export const rehearsals = (page: Page) => page.getByRole('region', { name: 'Rehearsals', exact: true });
export const press = async (page: Page, option: string): Promise<void> => {
  const at = await page.locator('.rail .ends').innerText();
  await page.locator(`[data-option="${option}"]`).click();
  await page.waitForFunction((before) => document.querySelector<HTMLElement>('.rail .ends')?.innerText !== before, at);
};
