import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { onBackAgain } from '../src/table/backAgain';

const page = Object.assign(new EventTarget(), { hidden: false });
const frame = new EventTarget();
const see = (hidden: boolean): void => {
  page.hidden = hidden;
  page.dispatchEvent(new Event('visibilitychange'));
};

describe('being back again', () => {
  const back = vi.fn();
  let stop: () => void;
  beforeEach(() => {
    vi.useFakeTimers();
    vi.stubGlobal('document', page);
    vi.stubGlobal('window', frame);
    page.hidden = false;
    back.mockClear();
    stop = onBackAgain(back);
  });
  afterEach(() => {
    stop();
    vi.unstubAllGlobals();
    vi.useRealTimers();
  });

  it('is noticed when the network is there again', () => {
    frame.dispatchEvent(new Event('online'));
    expect(back).toHaveBeenCalledTimes(1);
  });

  it('is noticed when the page is seen again after long, and not after a glance elsewhere', () => {
    see(true);
    vi.advanceTimersByTime(5_000);
    see(false);
    expect(back).not.toHaveBeenCalled();
    see(true);
    vi.advanceTimersByTime(31_000);
    expect(back).not.toHaveBeenCalled();
    see(false);
    expect(back).toHaveBeenCalledTimes(1);
    vi.advanceTimersByTime(60_000);
    see(false);
    expect(back).toHaveBeenCalledTimes(1);
  });

  it("is nobody's matter once it is stopped", () => {
    stop();
    frame.dispatchEvent(new Event('online'));
    see(true);
    vi.advanceTimersByTime(31_000);
    see(false);
    expect(back).not.toHaveBeenCalled();
  });
});
