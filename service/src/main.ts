import { ConfigError, readConfig } from './config.js';
import { startService } from './service.js';

/** The service as a process: configured by its environment, stopped by Ctrl-C or SIGTERM. */
async function main(): Promise<void> {
  const service = await startService(readConfig(process.env));
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
}

main().catch((error: unknown) => {
  const message = error instanceof Error ? error.message : String(error);
  const taken = (error as NodeJS.ErrnoException).code === 'EADDRINUSE';
  process.stderr.write(
    taken ? `The port is taken: another service listens there. Set WILY_PORT to another one.\n` : `${message}\n`,
  );
  process.exit(error instanceof ConfigError ? 2 : 1);
});
