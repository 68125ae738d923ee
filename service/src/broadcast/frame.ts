import type { ServerMessage } from '@wily-jester/protocol';

/** A message as it is sent: serialised once for all receivers. */
export class Frame {
  constructor(
    readonly type: ServerMessage['type'],
    /** The table's number, if the message has one. */
    readonly number: number | undefined,
    readonly text: string,
  ) {}

  static of(message: ServerMessage): Frame {
    return new Frame(message.type, message.number, JSON.stringify(message));
  }

  private counted: number | undefined;
  /** How many bytes it is, of UTF-8: counted once for all receivers. */
  get bytes(): number {
    this.counted ??= Buffer.byteLength(this.text);
    return this.counted;
  }

  /** What its text says. */
  get message(): ServerMessage {
    return JSON.parse(this.text) as ServerMessage;
  }
}
