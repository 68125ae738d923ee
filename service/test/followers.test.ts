import type { ServerMessage, Step, TableView } from '@wily-jester/protocol';
import jsonPatch, { type Operation } from 'fast-json-patch';
import { describe, expect, it } from 'vitest';
import type { Follower } from '../src/broadcast/follower.js';
import { Followers } from '../src/broadcast/followers.js';
import type { Frame } from '../src/broadcast/frame.js';
import type { StepBroadcast } from '../src/broadcast/step-broadcast.js';

/** A table whose view is its number, for whoever looks, and a client that can be held up. */
function table() {
  let number = 0;
  const view = (): TableView => ({ number, viewer: 1 }) as unknown as TableView;
  const step = (n: number): Step => ({ number: n, events: [], lines: [], scores: [] });
  const followers = new Followers({
    snapshot: () => view,
    since: (from) => Array.from({ length: number - from }, (_, i) => step(from + 1 + i)).filter((s) => s.number > 0),
    around: () => ({ number, clock: null }),
  });
  /** Something happens; nobody is told yet. */
  const begin = (): StepBroadcast => {
    const happened = ++number;
    return followers.broadcast(() => step(happened));
  };
  return {
    followers,
    begin,
    /** What happened last did not happen. */
    takeBack: (): void => {
      number--;
    },
    happen: (): void => begin().send(),
  };
}

function client(
  viewer = 0,
): Follower & { heard: ServerMessage[]; letters: Frame[]; behind: boolean; sentAway: boolean } {
  const it = {
    viewer,
    heard: [] as ServerMessage[],
    letters: [] as Frame[],
    behind: false,
    sentAway: false,
    isBehind: () => it.behind,
    send: (letter: Frame) => {
      it.letters.push(letter);
      it.heard.push(JSON.parse(letter.text) as ServerMessage);
    },
    letGo: () => {
      it.sentAway = true;
    },
  };
  return it;
}

/** What a client that applies what it hears believes. */
function believed(heard: readonly ServerMessage[]): TableView | undefined {
  let view: TableView | undefined;
  for (const message of heard) {
    if (message.type === 'view') view = message.view as TableView;
    if (message.type === 'step' && view)
      view = jsonPatch.applyPatch(view, [...(message.patch ?? [])] as Operation[], true, false).newDocument;
  }
  return view;
}

describe('followers', () => {
  it('get the whole view first, then a patch for each step', () => {
    const { followers, happen } = table();
    const one = client();
    followers.add(one, -1);
    happen();
    happen();
    expect(one.heard.map((message) => message.type)).toEqual(['view', 'step', 'step']);
    expect(believed(one.heard)).toMatchObject({ number: 2 });
  });

  it('that fall behind get nothing until there is room, and then one whole view with what they missed', () => {
    const { followers, happen } = table();
    const slow = client();
    const quick = client(1);
    const following = followers.add(slow, -1);
    followers.add(quick, -1);
    happen();
    slow.behind = true;
    for (let i = 0; i < 500; i++) happen();
    followers.tell({ type: 'clock', number: 501, clock: null });
    expect(slow.heard).toHaveLength(2);
    expect(quick.heard).toHaveLength(503);
    slow.behind = false;
    // Room alone does not do: steps were left out, so that a patch would not fit.
    happen();
    expect(slow.heard).toHaveLength(2);
    following.catchUp();
    expect(slow.heard).toHaveLength(3);
    expect(slow.heard[2]).toMatchObject({ type: 'view', view: { number: 502 } });
    expect(slow.heard[2]?.steps?.map((step) => step.number)).toEqual(Array.from({ length: 501 }, (_, i) => i + 2));
    happen();
    expect(believed(slow.heard)).toMatchObject({ number: 503 });
  });

  it('are not caught up for nothing, nor after they left', () => {
    const { followers, happen } = table();
    const one = client();
    const following = followers.add(one, -1);
    following.catchUp();
    expect(one.heard).toHaveLength(1);
    one.behind = true;
    happen();
    following.leave();
    following.catchUp();
    happen();
    expect(one.heard).toHaveLength(1);
    expect(followers.size).toBe(0);
  });

  it('hear of a step once it is sent, however early it was made ready', () => {
    const { followers, begin } = table();
    const one = client();
    followers.add(one, -1);
    const telling = begin();
    telling.prepare();
    expect(one.heard).toHaveLength(1);
    telling.send();
    expect(one.heard[1]).toMatchObject({ type: 'step', number: 1 });
    expect(believed(one.heard)).toMatchObject({ number: 1 });
  });

  it('never hear of a step that was made ready and not sent, and believe what is true after the next', () => {
    const { followers, begin, happen, takeBack } = table();
    const one = client();
    followers.add(one, -1);
    happen();
    begin().prepare();
    takeBack();
    happen();
    expect(one.heard.map((message) => message.number)).toEqual([0, 1, 2]);
    expect(believed(one.heard)).toMatchObject({ number: 2 });
  });

  it('that leave or fall behind while a step is being kept are not told of it', () => {
    const { followers, begin } = table();
    const [gone, slow, there] = [client(), client(1), client(2)];
    const leaving = followers.add(gone, -1);
    const following = followers.add(slow, -1);
    followers.add(there, -1);
    const telling = begin();
    telling.prepare();
    leaving.leave();
    slow.behind = true;
    telling.send();
    expect([gone, slow, there].map((one) => one.heard.length)).toEqual([1, 1, 2]);
    slow.behind = false;
    following.catchUp();
    expect(believed(slow.heard)).toMatchObject({ number: 1 });
  });

  it('with the same eyes share one text, those who were told otherwise until now get their own', () => {
    const { followers, happen } = table();
    const [one, two, other] = [client(-1), client(-1), client(0)];
    for (const each of [one, two, other]) followers.add(each, -1);
    happen();
    happen();
    expect(one.letters[2]).toBe(two.letters[2]);
    expect(one.letters[2]).not.toBe(other.letters[2]);
    followers.tell({ type: 'clock', number: 2, clock: null });
    expect(one.letters[3]).toBe(other.letters[3]);
  });

  it('are told by a text that is as JSON writes it, and what it is about stands beside it', () => {
    const { followers, happen } = table();
    const [one, other] = [client(0), client(1)];
    for (const each of [one, other]) followers.add(each, -1);
    happen();
    happen();
    for (const letter of [...one.letters, ...other.letters]) {
      expect(letter.text).toBe(JSON.stringify(letter.message));
      expect(letter.message).toMatchObject({ type: letter.type, number: letter.number });
    }
  });

  it('are told all the same where one of them cannot be: that one gets a whole view later, or is let go', () => {
    let broken: number | null = null;
    let number = 0;
    const failures: unknown[] = [];
    const followers = new Followers(
      {
        snapshot: () => (viewer) => {
          if (viewer === broken) throw new Error('cannot be shown');
          return { number, viewer } as unknown as TableView;
        },
        since: () => [],
        around: () => ({ number, clock: null }),
      },
      (error) => failures.push(error),
    );
    const [one, other] = [client(0), client(1)];
    const [following] = [followers.add(one, -1), followers.add(other, -1)];
    const happen = (): void => {
      number++;
      followers.broadcast(() => ({ number, events: [], lines: [], scores: [] })).send();
    };
    broken = 0;
    happen();
    expect(failures).toHaveLength(1);
    expect(other.heard.map(({ type }) => type)).toEqual(['view', 'step']);
    expect(one.heard.map(({ type }) => type)).toEqual(['view']);
    broken = null;
    following?.catchUp();
    expect(one.heard.at(-1)).toMatchObject({ type: 'view', view: { number: 1 } });
    broken = 0;
    happen();
    following?.catchUp();
    expect(one.sentAway).toBe(true);
    expect(followers.size).toBe(1);
  });
});
