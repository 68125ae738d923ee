import type { ServerMessage, Step, TableView } from '@wily-jester/protocol';
import jsonPatch, { type Operation } from 'fast-json-patch';
import { describe, expect, it } from 'vitest';
import { type Follower, Followers } from '../src/tables/followers.js';

/** A table whose view is its number, and a client that can be held up. */
function table() {
  let number = 0;
  const view = (): TableView => ({ number, viewer: 1 }) as unknown as TableView;
  const step = (n: number): Step => ({ number: n, events: [], lines: [], scores: [] });
  const followers = new Followers({
    view,
    step,
    since: (from) => Array.from({ length: number - from }, (_, i) => step(from + 1 + i)).filter((s) => s.number > 0),
    around: () => ({ number, clock: null }),
  });
  return {
    followers,
    happen: (): void => {
      number++;
      followers.publish(number);
    },
  };
}

function client(viewer = 0): Follower & { heard: ServerMessage[]; behind: boolean; sentAway: boolean } {
  const it = {
    viewer,
    heard: [] as ServerMessage[],
    behind: false,
    sentAway: false,
    isBehind: () => it.behind,
    send: (message: ServerMessage) => it.heard.push(structuredClone(message)),
    dismiss: () => {
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
      view = jsonPatch.applyPatch(view, message.patch as Operation[], true, false).newDocument;
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

  it('with the eyes of a seat are sent away when its key ends, and nobody else is', () => {
    const { followers } = table();
    const [wren, otter, watcher] = [client(0), client(1), client(-1)];
    for (const one of [wren, otter, watcher]) followers.add(one, -1);
    followers.dismiss(0);
    expect([wren, otter, watcher].map((one) => one.sentAway)).toEqual([true, false, false]);
  });
});
