// The browser that tests and screenshots are made with.
import { findProgram, Stop } from './machine.mjs';

/** The one without a window starts fewer processes, and does the same work with three quarters of the processor time. */
const PROGRAMS = ['chromium-headless-shell', 'chromium'];

export const BROWSER_PROGRAMS = [{ programs: PROGRAMS, packages: ['chromium-headless-shell', 'fonts-dejavu-core'] }];

/** Where the browser is, as Debian packages it. */
export function findBrowser() {
  const found = process.env.WILY_CHROMIUM ?? findProgram(PROGRAMS);
  if (!found) throw new Stop('There is no Chromium here: "npm test" installs it.');
  return found;
}
