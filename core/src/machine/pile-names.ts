import { SUITS } from '../cards/face.js';

const OF_RANK = ['', 'aces', '2s', '3s', '4s', '5s', '6s', '7s', '8s', '9s', '10s', 'jacks', 'queens', 'kings'];

/** A declared pile, as far as its name goes. */
export interface NamedPile {
  readonly label: string;
  /** What there is one of it for. */
  readonly of: 'table' | 'seat' | 'suit' | 'rank' | 'team';
}

/**
 * What a pile is called, wherever it is told of: "home of hearts", "lock 2", "Wren's box 1".
 * @param keys the numbers after the name in its path
 * @param seatName of a seat, from 1; without it nobody is named
 */
export function pileCalled(
  { label, of }: NamedPile,
  keys: readonly number[],
  seatName?: (seat: number) => string,
): string {
  const [first, ...rest] = keys;
  if (first === undefined) return label;
  const numbered = rest.length > 0 ? `${label} ${rest.join(' ')}` : label;
  switch (of) {
    case 'seat':
      return seatName ? `${seatName(first)}'s ${numbered}` : numbered;
    case 'suit':
      return `${numbered} of ${SUITS[first - 1] ?? first}`;
    case 'rank':
      return `${numbered} of ${OF_RANK[first] ?? first}`;
    case 'team':
      return `${numbered} of team ${first}`;
    case 'table':
      return `${label} ${keys.join(' ')}`;
  }
}
