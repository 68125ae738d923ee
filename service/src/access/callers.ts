import { BlockList, isIPv4, isIPv6 } from 'node:net';

const MINUTE = 60_000;
/** The most addresses that are remembered. */
const MOST_KNOWN = 10_000;

/** A request, or the beginning of a socket. */
export interface Caller {
  readonly headers: { readonly [name: string]: string | string[] | undefined };
  readonly socket: { readonly remoteAddress?: string | undefined };
}

/** Reads the addresses of proxies that are trusted. @throws Error which names the one that is none */
export function proxiesIn(list: string): BlockList {
  const block = new BlockList();
  for (const entry of list.split(',').flatMap((part) => part.trim() || [])) {
    const [address = '', bits] = entry.split('/');
    const kind = isIPv4(address) ? 'ipv4' : isIPv6(address) ? 'ipv6' : null;
    if (kind === null)
      throw new Error(`"${entry}" is no address: WILY_PROXY lists those of proxies, such as 127.0.0.1.`);
    if (bits === undefined) block.addAddress(address, kind);
    else block.addSubnet(address, Number(bits), kind);
  }
  return block;
}

const plain = (address: string): string => address.trim().replace(/^::ffff:/, '');
const isListed = (list: BlockList, address: string): boolean =>
  isIPv4(address) ? list.check(address, 'ipv4') : isIPv6(address) && list.check(address, 'ipv6');

/** Where a request comes from: as trusted proxies tell it, the nearest address that is no proxy of theirs. */
export function addressOf({ headers, socket }: Caller, proxies: BlockList): string {
  const peer = plain(socket.remoteAddress ?? '');
  if (!isListed(proxies, peer)) return peer;
  const told = String(headers['x-forwarded-for'] ?? '')
    .split(',')
    .map(plain)
    .filter((address) => isIPv4(address) || isIPv6(address));
  return told.findLast((address) => !isListed(proxies, address)) ?? told[0] ?? peer;
}

/** The address as it is counted: of IPv6 the network, for one household has as many addresses as it likes. */
export function countedAs(address: string): string {
  if (!isIPv6(address)) return address;
  const [head = '', tail = ''] = address.split('::');
  const before = head === '' ? [] : head.split(':');
  const after = tail === '' ? [] : tail.split(':');
  const whole = address.includes('::')
    ? [...before, ...new Array<string>(8 - before.length - after.length).fill('0'), ...after]
    : before;
  return `${whole.slice(0, 4).join(':')}::/64`;
}

/** Counts the unknown keys that each address has tried. */
export class Guesses {
  /** @param most unknown keys that one address may try in a minute; then it waits, and nobody asks the database */
  constructor(private readonly most: number) {}

  private readonly tried = new Map<string, { count: number; readonly until: number }>();

  /** Whether an address has tried too many. */
  isOver(address: string): boolean {
    const found = this.tried.get(address);
    return found !== undefined && found.until > Date.now() && found.count >= this.most;
  }
  failed(address: string): void {
    const found = this.tried.get(address);
    if (found && found.until > Date.now()) found.count++;
    else {
      this.tried.delete(address);
      const [oldest] = this.tried.keys();
      if (this.tried.size >= MOST_KNOWN && oldest !== undefined) this.tried.delete(oldest);
      this.tried.set(address, { count: 1, until: Date.now() + MINUTE });
    }
  }
}
