import { Found, type Json, patchOf } from '@wily-jester/core';
import type { ServerMessage, Step, TableView } from '@wily-jester/protocol';
import type { Entry } from './followers.js';
import { Letter } from './letter.js';

interface Ready {
  readonly view: TableView;
  readonly letter: Letter;
}

/**
 * What all are to be told of one step: their events, their sentences, and what changed in their views. It is made
 * ready while the step is being kept, and goes out once it is; where it is never sent, it was for nothing.
 */
export class Telling {
  private ready: ReadonlyMap<Entry, Ready> | null = null;

  constructor(
    private readonly takers: () => readonly Entry[],
    private readonly look: () => (viewer: number) => TableView,
    private readonly step: (viewer: number) => Step,
  ) {}

  /** Makes ready what is to be sent. */
  prepare(): void {
    this.ready ??= this.composed();
  }

  private composed(): ReadonlyMap<Entry, Ready> {
    const look = this.look();
    const seen = new Map<number, { view: TableView; step: Step }>();
    // Those with the same eyes who were told the same until now get the very same message.
    const letters = new Map<TableView, Letter>();
    const takers = this.takers();
    const writing = new Writing(takers.length > 1);
    const ready = new Map<Entry, Ready>();
    for (const entry of takers) {
      const { viewer } = entry.follower;
      let now = seen.get(viewer);
      if (!now) {
        now = { view: look(viewer), step: this.step(viewer) };
        seen.set(viewer, now);
      }
      let letter = letters.get(entry.last);
      if (!letter) {
        letter = writing.letter(now.step, entry.last, now.view);
        letters.set(entry.last, letter);
      }
      ready.set(entry, { view: now.view, letter });
    }
    return ready;
  }

  /** Sends it to those who can take it now. */
  send(): void {
    this.prepare();
    for (const entry of this.takers()) {
      const ready = this.ready?.get(entry);
      if (!ready) continue;
      entry.last = ready.view;
      entry.follower.send(ready.letter);
    }
  }
}

/** Writes the messages of one step: what several of them have in common is compared and written once. */
class Writing {
  private readonly found: Found | undefined;
  private readonly texts = new Map<object, string>();

  /** @param several whether there is more than one message to write */
  constructor(several: boolean) {
    this.found = several ? new Found() : undefined;
  }

  letter(step: Step, before: TableView, after: TableView): Letter {
    const changes = patchOf(before as unknown as Json, after as unknown as Json, this.found);
    const patch = changes as NonNullable<ServerMessage['patch']>;
    const { number, events, lines, scores } = step;
    const message: ServerMessage = { type: 'step', number, events, lines, scores, patch };
    if (!this.found) return new Letter(message);
    const text = `{"type":"step","number":${number},"events":${this.text(events)},"lines":${this.text(lines)},"scores":${this.text(scores)},"patch":[${changes.map((change) => this.text(change)).join()}]}`;
    return new Letter(message, text);
  }

  private text(part: object): string {
    let text = this.texts.get(part);
    if (text === undefined) {
      text = JSON.stringify(part);
      this.texts.set(part, text);
    }
    return text;
  }
}
