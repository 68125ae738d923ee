import type { ServerMessage } from '@wily-jester/protocol';

/** A message with its text, which is written once for all who get it. */
export class Letter {
  constructor(
    readonly message: ServerMessage,
    readonly text: string = JSON.stringify(message),
  ) {}
}
