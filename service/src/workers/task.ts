import type { MessagePort } from 'node:worker_threads';

/** What a worker is given: plain data, and a port to say that it has begun. */
export interface Job<Input> {
  readonly input: Input;
  readonly started: MessagePort;
}

/** Makes the function that a task file exports by default. Until it runs, time counts as waiting, not as work. */
export const taskOf =
  <Input, Output>(work: (input: Input) => Output) =>
  ({ input, started }: Job<Input>): Output => {
    started.postMessage('started');
    started.close();
    return work(input);
  };
