/** npm run bench:tables: live tables, each figure against a baseline in the same run, all sharing this machine. */
import { durableChoices } from './tables/durable.js';
import { type Ground, percentile, startGround } from './tables/ground.js';
import { bareRoundTrip, choiceToViewers, type Latency } from './tables/latency.js';
import { restingTables } from './tables/resting.js';

/** Turns of each side, one after the other; the medians are printed. */
const LATENCY_TURNS = 3;

const whole = (n: number): string => Math.round(n).toLocaleString('en').padStart(9);
const fine = (n: number): string => n.toFixed(1).padStart(9);

/** Does something with a service of its own, so that none has to clear up after another. */
async function grounded(work: (ground: Ground) => Promise<void>): Promise<void> {
  const ground = await startGround();
  // An error thrown in a message handler, such as a refusal, reaches no caller: end the measurement with it.
  let end: (error: Error) => void = () => undefined;
  const thrown = new Promise<never>((_, failed) => {
    end = failed;
  });
  process.on('uncaughtException', end);
  try {
    await Promise.race([work(ground), thrown]);
  } finally {
    await ground.stop();
    // Errors from here on end the process with a message.
    process.off('uncaughtException', end);
  }
}

await grounded(async (ground) => {
  const { tables, bytes, idle } = await restingTables(ground, 1_000);
  process.stdout.write(
    `${tables} open tables with four viewers each: ${Math.round(bytes / 1024)} KiB a table, ${(idle * 100).toFixed(1)} % of a processor while nothing happens\n\n`,
  );
});

await grounded(async (ground) => {
  process.stdout.write(
    'Durable choices a second, from socket to commit, against bare committed inserts by ten connections\n',
  );
  process.stdout.write(`${'bare'.padStart(9)} ${'ours'.padStart(9)}  ratio\n`);
  for (const tables of [50, 200]) {
    const { bare, ours, ratio, least, most } = await durableChoices(ground, tables);
    process.stdout.write(
      `${whole(bare)} ${whole(ours)}  ${ratio.toFixed(2)} (${least.toFixed(2)} to ${most.toFixed(2)})   ${tables} tables\n`,
    );
  }
  process.stdout.write(
    '\nFrom a choice sent to the last of four viewers patched, in milliseconds, against four sockets and one commit\n',
  );
  process.stdout.write(
    `${'bare'.padStart(9)} ${'99 %'.padStart(9)} ${'ours'.padStart(9)} ${'99 %'.padStart(9)}  ratios\n`,
  );
  for (const rate of [200, 1_000]) {
    const turns: { bare: Latency; ours: Latency }[] = [];
    for (let turn = 0; turn < LATENCY_TURNS; turn++)
      turns.push({ bare: await bareRoundTrip(ground, rate), ours: await choiceToViewers(ground, rate) });
    const middle = (figure: (turn: (typeof turns)[number]) => number): number => percentile(turns.map(figure), 0.5);
    process.stdout.write(
      `${fine(middle(({ bare }) => bare.median))} ${fine(middle(({ bare }) => bare.late))} ${fine(middle(({ ours }) => ours.median))} ${fine(middle(({ ours }) => ours.late))}  ${middle(({ bare, ours }) => ours.median / bare.median).toFixed(1)} and ${middle(({ bare, ours }) => ours.late / bare.late).toFixed(1)}   ${rate} choices a second\n`,
    );
  }
});
