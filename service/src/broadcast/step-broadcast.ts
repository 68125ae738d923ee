import { Found, patchText } from '@wily-jester/core';
import type { Step, TableView } from '@wily-jester/protocol';
import type { Entry } from './follower.js';
import { Frame } from './frame.js';

interface Ready {
  readonly entry: Entry;
  readonly view: TableView;
  readonly frame: Frame;
}

/**
 * The messages of one step for all followers: events, sentences, and what changed in their views. They are made
 * ready while the step is being stored, and sent once it is.
 */
export class StepBroadcast {
  private ready: readonly Ready[] | null = null;

  /**
   * @param entries all who follow
   * @param takes whether one of them takes a message now
   * @param failed called with one who cannot be told
   */
  constructor(
    private readonly entries: ReadonlySet<Entry>,
    private readonly takes: (entry: Entry) => boolean,
    private readonly failed: (entry: Entry, error: unknown) => void,
    private readonly snapshot: () => (viewer: number) => TableView,
    private readonly step: (viewer: number) => Step,
  ) {}

  /** Makes ready what is to be sent. */
  prepare(): void {
    this.ready ??= this.composed();
  }

  private composed(): readonly Ready[] {
    const view = this.snapshot();
    const seen = new Map<number, { view: TableView; step: Step }>();
    // Followers with the same viewer and the same last view get the same frame.
    const frames = new Map<TableView, Frame>();
    const takers = [...this.entries].filter(this.takes);
    const writing = new Writing(takers.length > 1);
    const compose = (entry: Entry): Ready => {
      const { viewer } = entry.follower;
      let now = seen.get(viewer);
      if (!now) {
        now = { view: view(viewer), step: this.step(viewer) };
        seen.set(viewer, now);
      }
      let frame = frames.get(entry.last);
      if (!frame) {
        frame = writing.frame(now.step, entry.last, now.view);
        frames.set(entry.last, frame);
      }
      return { entry, view: now.view, frame };
    };
    return takers.flatMap((entry) => {
      try {
        return [compose(entry)];
      } catch (error) {
        this.failed(entry, error);
        return [];
      }
    });
  }

  /** Sends it to those who can take it now. */
  send(): void {
    this.prepare();
    for (const { entry, view, frame } of this.ready ?? []) {
      if (!this.entries.has(entry) || !this.takes(entry)) continue;
      entry.last = view;
      entry.follower.send(frame);
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

  frame({ number, events, lines, scores }: Step, before: TableView, after: TableView): Frame {
    const patch = patchText(before, after, this.found);
    const text = `{"type":"step","number":${number},"events":${this.text(events)},"lines":${this.text(lines)},"scores":${this.text(scores)},"patch":${patch}}`;
    return new Frame('step', number, text);
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
