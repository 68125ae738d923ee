import { Found, type Json, patchOf } from '@wily-jester/core';
import type { ServerMessage, Step, TableView } from '@wily-jester/protocol';
import type { Entry } from './followers.js';
import { Letter } from './letter.js';

interface Ready {
  readonly entry: Entry;
  readonly view: TableView;
  readonly letter: Letter;
}

/** What viewers with the same eyes know of a step. */
interface Known {
  readonly viewer: number;
  readonly view: TableView;
  readonly step: Step;
}

/** Who is to be told. */
export interface Takers {
  /** All who take a message now. */
  now(): readonly Entry[];
  /** Whether one of them still does. */
  takes(entry: Entry): boolean;
}

/**
 * What all are to be told of one step: their events, their sentences, and what changed in their views. It is made
 * ready while the step is being kept, and goes out once it is; where it is never sent, it was for nothing.
 */
export class Telling {
  private ready: readonly Ready[] | null = null;

  constructor(
    private readonly takers: Takers,
    private readonly look: () => (viewer: number) => TableView,
    private readonly step: (viewer: number) => Step,
  ) {}

  /** Makes ready what is to be sent. */
  prepare(): void {
    this.ready ??= this.composed();
  }

  private composed(): readonly Ready[] {
    const look = this.look();
    const takers = this.takers.now();
    const writing = new Writing(takers.length > 1);
    // There are few eyes, however many look: lists are searched more quickly than maps are made.
    const known: Known[] = [];
    const written: { readonly last: TableView; readonly letter: Letter }[] = [];
    return takers.map((entry) => {
      const { last, follower } = entry;
      let now = known.find(({ viewer }) => viewer === follower.viewer);
      if (!now) {
        const { viewer } = follower;
        now = { viewer, view: look(viewer), step: this.step(viewer) };
        known.push(now);
      }
      // Those with the same eyes who were told the same until now get the very same message.
      let letter = written.find((other) => other.last === last)?.letter;
      if (!letter) {
        letter = writing.letter(now.step, last, now.view);
        written.push({ last, letter });
      }
      return { entry, view: now.view, letter };
    });
  }

  /** Sends it to those who can take it now. */
  send(): void {
    this.prepare();
    for (const { entry, view, letter } of this.ready ?? []) {
      if (!this.takers.takes(entry)) continue;
      entry.last = view;
      entry.follower.send(letter);
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
