import { ConfigError, readConfig } from './config.js';
import { type Service, startService } from './service.js';
import { warmUp } from './warm-up.js';

/** How long what is under way may take to end after a failure, in milliseconds. */
const LAST_WORK = 3_000;
/** The exit code of a process that ends because of its own failure (EX_SOFTWARE of sysexits.h). */
const BROKEN = 70;

/** The service as a process: configured by its environment, stopped by Ctrl-C or SIGTERM. */
async function main(): Promise<void> {
  // Whoever reads what we say may go away.
  for (const stream of [process.stdout, process.stderr]) stream.on('error', () => undefined);
  const config = readConfig(process.env);
  warmUp();
  const service = await startService(config);
  // The start command waits for this line.
  process.stdout.write(`Wily Jester serves on ${service.address}\n`);
  let stopping = false;
  const stop = (): void => {
    if (stopping) return;
    stopping = true;
    service.stop().then(
      () => process.exit(0),
      (error: unknown) => {
        process.stderr.write(`It did not stop cleanly: ${String(error)}\n`);
        process.exit(1);
      },
    );
  };
  process.on('SIGINT', stop);
  process.on('SIGTERM', stop);
  endOn('uncaughtException', service);
  endOn('unhandledRejection', service);
}

/** Ends the process in order after something that nobody caught: what is acknowledged is kept, and nothing more is taken. */
function endOn(event: 'uncaughtException' | 'unhandledRejection', service: Service): void {
  process.on(event, (error: unknown) => {
    service.log.fatal({ error }, 'something failed that nobody caught: the service ends');
    const end = (): never => process.exit(BROKEN);
    setTimeout(end, LAST_WORK);
    service.stop().then(end, end);
  });
}

main().catch((error: unknown) => {
  const message = error instanceof Error ? error.message : String(error);
  const taken = (error as NodeJS.ErrnoException).code === 'EADDRINUSE';
  process.stderr.write(
    taken ? `The port is taken: another service listens there. Set WILY_PORT to another one.\n` : `${message}\n`,
  );
  process.exit(error instanceof ConfigError || taken ? 2 : 1);
});
