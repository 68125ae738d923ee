import { describe, expect, it } from 'vitest';
import { addressOf, countedAs, proxiesIn } from '../src/access/callers.js';

const asked = (peer: string, forwarded?: string) => ({
  headers: forwarded === undefined ? {} : { 'x-forwarded-for': forwarded },
  socket: { remoteAddress: peer },
});

describe('where a request comes from', () => {
  const none = proxiesIn('');
  const some = proxiesIn('10.0.0.1, 10.1.0.0/16, ::1');

  it('is its peer, whatever it says, unless that is a trusted proxy', () => {
    expect(addressOf(asked('203.0.113.1', '198.51.100.1'), none)).toBe('203.0.113.1');
    expect(addressOf(asked('203.0.113.1', '198.51.100.1'), some)).toBe('203.0.113.1');
    expect(addressOf(asked('::ffff:203.0.113.1'), none)).toBe('203.0.113.1');
  });
  it('is what the nearest proxy tells, past those that are trusted too', () => {
    expect(addressOf(asked('10.0.0.1', '198.51.100.1'), some)).toBe('198.51.100.1');
    expect(addressOf(asked('10.0.0.1', '192.0.2.9, 198.51.100.1, 10.1.2.3'), some)).toBe('198.51.100.1');
    expect(addressOf(asked('::1', ' 2001:db8::1 '), some)).toBe('2001:db8::1');
  });
  it('is the proxy where it tells nothing that is an address', () => {
    for (const forwarded of [undefined, '', 'unknown', 'x'.repeat(5_000)])
      expect(addressOf(asked('10.0.0.1', forwarded), some)).toBe('10.0.0.1');
  });
  it('counts by network where it is of IPv6', () => {
    expect(countedAs('203.0.113.1')).toBe('203.0.113.1');
    expect(countedAs('2001:db8:1:2:3:4:5:6')).toBe(countedAs('2001:db8:1:2::9'));
    expect(countedAs('2001:db8:1:3::9')).not.toBe(countedAs('2001:db8:1:2::9'));
    expect(countedAs('::1')).toBe('0:0:0:0::/64');
  });
  it('is refused as a setting where it is no address', () => {
    for (const list of ['proxy.example', '10.0.0', '10.0.0.1; 10.0.0.2'])
      expect(() => proxiesIn(list)).toThrow('WILY_PROXY');
  });
});
