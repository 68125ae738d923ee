import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { RoughLine } from '../src/side/roughLine';

/** The service's end of a line. */
class FakeSocket {
  static readonly CONNECTING = 0;
  static readonly OPEN = 1;
  static readonly CLOSED = 3;
  static made: FakeSocket[] = [];
  readyState = FakeSocket.OPEN;
  readonly got: string[] = [];
  onopen: (() => void) | null = null;
  onmessage: ((event: { data: unknown }) => void) | null = null;
  onclose: ((event: { code: number }) => void) | null = null;
  constructor() {
    FakeSocket.made.push(this);
  }
  send(data: string): void {
    this.got.push(data);
  }
  close(): void {
    this.readyState = FakeSocket.CLOSED;
    this.onclose?.({ code: 1005 });
  }
}

beforeEach(() => {
  vi.useFakeTimers();
  FakeSocket.made = [];
  vi.stubGlobal('WebSocket', FakeSocket);
});
afterEach(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

function connected() {
  const line = RoughLine.make(() => Date.now());
  const heard: string[] = [];
  const closed: number[] = [];
  const end = line.connect('ws://service');
  end.onmessage = ({ data }) => heard.push(String(data));
  end.onclose = ({ code }) => closed.push(code);
  const service = FakeSocket.made[0] as FakeSocket;
  service.onopen?.();
  return { line, end, service, heard, closed };
}
const step = (number: number): string => JSON.stringify({ type: 'step', number });
const choose = JSON.stringify({ type: 'choose', choice: {} });

describe('a rough line', () => {
  it('delays both ways, and shows what is on its way', () => {
    const { line, end, service, heard } = connected();
    line.delay = 500;
    end.send(choose);
    service.onmessage?.({ data: step(7) });
    vi.advanceTimersByTime(400);
    expect([service.got, heard]).toEqual([[], []]);
    expect(line.moving.map(({ out, words }) => [out, words])).toEqual([
      [true, 'choose'],
      [false, '7'],
    ]);
    vi.advanceTimersByTime(200);
    expect([service.got, heard]).toEqual([[choose], [step(7)]]);
    expect([line.moving.length, line.tally.came]).toEqual([0, 1]);
  });

  it('keeps messages in order, however uneven it is', () => {
    const { line, service, heard } = connected();
    line.jitter = 1_000;
    for (let n = 1; n <= 40; n++) service.onmessage?.({ data: step(n) });
    vi.advanceTimersByTime(2_000);
    expect(heard).toEqual(Array.from({ length: 40 }, (_, i) => step(i + 1)));
  });

  it('sends the next choice twice, once, and nothing else', () => {
    const { line, end, service } = connected();
    line.doubles = true;
    end.send('{"type":"hello"}');
    end.send(choose);
    end.send(choose);
    vi.advanceTimersByTime(100);
    expect(service.got).toEqual(['{"type":"hello"}', choose, choose, choose]);
    expect([line.doubles, line.tally.doubled]).toEqual([false, 1]);
  });

  it('loses what is on its way when it is cut, and lets nobody connect until it is whole', () => {
    const { line, end, service, heard, closed } = connected();
    line.delay = 1_000;
    service.onmessage?.({ data: step(1) });
    line.breakFor(5);
    expect(line.isBroken).toBe(true);
    vi.advanceTimersByTime(2_000);
    expect([heard, closed, line.tally.lost]).toEqual([[], [1005], 1]);
    const refused: number[] = [];
    line.connect('ws://service').onclose = ({ code }) => refused.push(code);
    vi.advanceTimersByTime(10);
    expect([refused, FakeSocket.made.length]).toEqual([[1006], 1]);
    vi.advanceTimersByTime(5_000);
    expect([line.isBroken, line.brokenUntil]).toEqual([false, 0]);
    line.connect('ws://service');
    expect(FakeSocket.made).toHaveLength(2);
    end.send(choose);
    vi.advanceTimersByTime(2_000);
    expect(service.got).toEqual([]);
  });

  it('can be cleared of everything at once', () => {
    const { line } = connected();
    Object.assign(line, { delay: 300, jitter: 200, doubles: true });
    line.breakFor(60);
    line.clear();
    expect([line.delay, line.jitter, line.doubles, line.isBroken]).toEqual([0, 0, false, false]);
  });
});
