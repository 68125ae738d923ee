import { Script } from 'node:vm';
import { forgetParser } from '../grammar/parse.js';

/** As long as the service gives a sheet to be compiled by the clock, in milliseconds: other work may keep the processor from it. */
const LONGEST = 20_000;

/** A text took too long to be read. */
export class TooSlow extends Error {
  override readonly name = 'TooSlow';
  constructor() {
    super(
      `This text was not read within ${LONGEST / 1_000} seconds: make it shorter, or give parts of it names of their own.`,
    );
  }
}

const PLACE = Symbol.for('wily-jester work within a time');
const CALL = new Script(`globalThis[Symbol.for('${Symbol.keyFor(PLACE)}')]()`);

/**
 * Does something with a stranger's text that must not take longer than the service would let it: then it is ended
 * wherever it is, by the engine itself.
 * @param longest in milliseconds
 * @throws TooSlow, or what the work throws
 */
export function withinTime<T>(work: () => T, longest = LONGEST): T {
  const place = globalThis as { [PLACE]?: () => T };
  const before = place[PLACE];
  place[PLACE] = work;
  try {
    return CALL.runInThisContext({ timeout: longest }) as T;
  } catch (error) {
    if ((error as { code?: unknown }).code !== 'ERR_SCRIPT_EXECUTION_TIMEOUT') throw error;
    // It was in the middle of something.
    forgetParser();
    throw new TooSlow();
  } finally {
    if (before) place[PLACE] = before;
    else delete place[PLACE];
  }
}
