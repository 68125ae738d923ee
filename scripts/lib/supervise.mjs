// Keeps a process running: one that ends by itself is started again, after waits that grow.
import { setTimeout as wait } from 'node:timers/promises';

const FIRST_WAIT = 500;
const LONGEST_WAIT = 30_000;
/** After so long without an end the waits begin anew, in milliseconds. */
const STEADY = 60_000;

/**
 * Runs something again and again until it is stopped.
 * @param what.name for people
 * @param what.start starts it, and gives what ends it and a promise of its end
 * @param what.isFinal whether an end with this code would come again at once, such as one for wrong settings
 * @param what.say tells people
 */
export function supervise({ name, start, isFinal, say }) {
  let running = null;
  let stopping = false;
  let wake = () => undefined;
  const loop = (async () => {
    let pause = FIRST_WAIT;
    while (!stopping) {
      const began = Date.now();
      running = await start();
      const end = await running.ended;
      running = null;
      if (stopping) return end;
      if (isFinal(end.code)) return end;
      if (Date.now() - began > STEADY) pause = FIRST_WAIT;
      say(`The ${name} ended by itself (${end.signal ?? end.code}); it is started again in ${pause / 1000} s.`);
      const early = new Promise((done) => {
        wake = done;
      });
      await Promise.race([wait(pause, undefined, { ref: true }), early]);
      pause = Math.min(LONGEST_WAIT, 2 * pause);
    }
    return { code: 0, signal: null };
  })();
  return {
    ended: loop,
    /** Ends it for good. */
    async stop() {
      stopping = true;
      wake();
      await running?.stop();
      return loop;
    },
  };
}
