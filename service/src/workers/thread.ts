import { fileURLToPath } from 'node:url';
import { Piscina } from 'piscina';
import { type Task, taskFile } from './tasks.js';

/**
 * A thread that does one piece of work after the other, started when first needed.
 * @param heap the most memory of its small objects, in MiB @param idle after how many idle milliseconds it ends
 */
export function oneThread(task: Task, { heap, idle }: { readonly heap: number; readonly idle: number }): Piscina {
  const pool = new Piscina({
    filename: fileURLToPath(taskFile(task)),
    minThreads: 0,
    maxThreads: 1,
    idleTimeout: idle,
    resourceLimits: { maxOldGenerationSizeMb: heap },
  });
  // What fails between two pieces of work fails nobody's: the next one gets another thread.
  pool.on('error', () => undefined);
  return pool;
}
