import {
  type Face,
  FaceError,
  faceName,
  isJoker,
  isNumbered,
  numberOf,
  parseFace,
  RANKS,
  rankOf,
  suitOf,
} from '@wily-jester/core';
import { court, courtCorner, jester } from './courts';
import { COLORS, figures, lozenge, mark, pip, r1, star, suitColor, suitPath, twice } from './shapes';

/** How a card is drawn. */
export interface CardLook {
  /** Under 64 px wide: a large rank, one large suit. */
  readonly small?: boolean;
  /** Of a small card: rank and suit stand in a narrow strip, for fans that show little of each card. */
  readonly slim?: boolean;
  /** The index in a line, for cascades that show a strip of each card. */
  readonly wide?: boolean;
  /** Four colours to the pack. */
  readonly four?: boolean;
}

/** The inside of a card's SVG, and how a screen reader says it. */
export interface Drawn {
  readonly svg: string;
  readonly name: string;
  /** Colours of the card's paper and edge. */
  readonly paper: string;
  readonly edge: string;
}

const LEFT = 77;
const MIDDLE = 100;
const RIGHT = 123;
const both = (rows: readonly number[]): [number, number][] =>
  [LEFT, RIGHT].flatMap((x) => rows.map((y): [number, number] => [x, y]));
const THREE = [50, 140, 230];
const FOUR = [50, 110, 170, 230];
const PIPS: Readonly<Record<number, readonly (readonly [number, number])[]>> = {
  2: [
    [MIDDLE, 56],
    [MIDDLE, 224],
  ],
  3: [
    [MIDDLE, 56],
    [MIDDLE, 140],
    [MIDDLE, 224],
  ],
  4: both([52, 228]),
  5: [...both([52, 228]), [MIDDLE, 140]],
  6: both([52, 140, 228]),
  7: [...both(THREE), [MIDDLE, 94]],
  8: [...both(THREE), [MIDDLE, 94], [MIDDLE, 186]],
  9: [...both(FOUR), [MIDDLE, 140]],
  10: [...both(FOUR), [MIDDLE, 80], [MIDDLE, 200]],
};
const pipSize = (rank: number): number => (rank <= 3 ? 46 : rank <= 6 ? 38 : 32);

function pips(rank: number, suit: number, fill: string): string {
  return (PIPS[rank] ?? [])
    .map(([x, y]) => {
      const drawn = pip(suit, x, y, pipSize(rank), fill);
      return y > 140 ? `<g transform="rotate(180 ${x} ${y})">${drawn}</g>` : drawn;
    })
    .join('');
}

function ace(suit: number, fill: string): string {
  const id = `ace-${suit}`;
  let lattice = '';
  for (let a = -6; a <= 6; a += 2)
    for (let b = -6; b <= 6; b += 2) lattice += lozenge(100 + a * 11, 140 + b * 15.8, 11, 15.8, '#fff', 'opacity=".2"');
  return `<clipPath id="${id}"><path transform="translate(48 88) scale(1.04)" d="${suitPath(suit)}"/></clipPath>${pip(suit, 100, 140, 104, fill)}<g clip-path="url(#${id})">${lattice}</g>`;
}

/** The middle of the strip that slim cards show, and how wide what stands there may be. */
const SLIM = 38;
const SLIM_WIDTH = 58;
const slimIndex = (text: string, height: number, fill: string): string =>
  figures(text, SLIM, 24, height, fill, SLIM_WIDTH).svg;

function suitedCard(rank: number, suit: number, look: CardLook): string {
  const four = look.four === true;
  const fill = suitColor(suit, four);
  const letter = RANKS[rank] ?? '';
  const isCourt = rank >= 11;
  if (look.small && look.slim) {
    const corner = isCourt ? courtCorner(suit, four, `corner-${suit}-${four}`) : '';
    return corner + slimIndex(letter, 84, fill) + pip(suit, SLIM, 146, 56, fill) + pip(suit, 126, 200, 118, fill);
  }
  if (look.small) {
    const { width } = figures(letter, 0, 0, 104, fill, 104);
    const corner = isCourt ? courtCorner(suit, four, `corner-${suit}-${four}`) : '';
    return corner + figures(letter, 18 + width / 2, 20, 104, fill, 104).svg + pip(suit, 126, 200, 118, fill);
  }
  const body = isCourt ? court(rank, suit, four) : rank === 1 ? ace(suit, fill) : pips(rank, suit, fill);
  if (look.wide) {
    const { width } = figures(letter, 0, 0, 46, fill, 46);
    const shrink = isCourt ? '.74' : rank === 1 ? '1' : '.82 .76';
    const corner = figures(letter, 13 + width / 2, 14, 46, fill, 46).svg + pip(suit, 172, 35, 36, fill);
    return `<g transform="translate(100 140) scale(${shrink}) translate(-100 -140)">${body}</g>${twice(corner)}`;
  }
  return body + twice(figures(letter, 30, 15, 45, fill, 38).svg + pip(suit, 30, 82, 33, fill));
}

function numberedCard(n: number, { small, slim }: CardLook): string {
  const text = String(n);
  if (small && slim) return slimIndex(text, 76, COLORS.ink) + lozenge(132, 208, 38, 56, COLORS.plum);
  if (small) {
    const { width } = figures(text, 0, 0, 92, COLORS.ink, 150);
    return figures(text, 18 + width / 2, 22, 92, COLORS.ink, 150).svg + lozenge(132, 208, 38, 56, COLORS.plum);
  }
  const index = figures(text, 30, 16, 38, COLORS.ink, 44).svg;
  return (
    twice(index) +
    lozenge(100, 140, 62, 90, COLORS.mist) +
    lozenge(100, 140, 52, 76, COLORS.plum) +
    figures(text, 100, 108, 64, COLORS.paper, 70).svg
  );
}

function jokerCard(first: boolean, small: boolean): string {
  const fill = first ? COLORS.plum : COLORS.ink;
  if (small) return star(62, 68, 58, fill) + mark(128, 196, 104, fill, first ? COLORS.marigold : COLORS.mist);
  return jester(first) + twice(star(30, 36, 21, fill));
}

function faceSvg(face: Face, look: CardLook): string {
  if (isNumbered(face)) return numberedCard(numberOf(face), look);
  if (isJoker(face)) return jokerCard(face % 2 === 1, look.small === true);
  return suitedCard(rankOf(face), suitOf(face), look);
}

function back(small: boolean): string {
  const id = small ? 'back-small' : 'back';
  let cells = '';
  for (let a = -4; a <= 4; a++)
    for (let b = -5; b <= 5; b++) {
      if ((a + b) % 2 !== 0) continue;
      const x = 100 + a * 21.5;
      const y = 140 + b * 26.5;
      cells += lozenge(x, y, small ? 14 : 17, small ? 18 : 21.5, b % 2 === 0 ? '#824c79' : '#5a2f53');
      if (!small) cells += lozenge(x, y, 3.2, 4.6, b % 2 === 0 ? COLORS.marigold : '#8d5a84');
    }
  return `<clipPath id="${id}"><rect x="13" y="13" width="174" height="254" rx="8"/></clipPath><g clip-path="url(#${id})"><rect width="200" height="280" fill="${COLORS.plum}"/>${cells}</g><rect x="13" y="13" width="174" height="254" rx="8" fill="none" stroke="${COLORS.marigold}" stroke-width="${small ? 5 : 2.5}"/>${lozenge(100, 140, 40, 57, COLORS.paper)}${mark(100, 140, 66)}`;
}

function missing(small: boolean): string {
  return `<path d="M100 66L146 140L100 214L54 140Z" fill="none" stroke="#8b93a1" stroke-width="${small ? 7 : 3.5}" stroke-dasharray="${small ? '18 12' : '11 8'}"/><path d="M84 122C84 100 118 100 117 123C116 138 100 138 100 154" fill="none" stroke="${COLORS.ink}" stroke-width="${small ? 11 : 8}" stroke-linecap="round"/><circle cx="100" cy="173" r="${small ? 7 : 5.5}" fill="${COLORS.ink}"/>`;
}

const cache = new Map<string, Drawn>();

/** Draws a card: a face as text (`10♠`), or its back for `null`. What is no card gets the mark for a missing picture. */
export function drawCard(face: string | null, look: CardLook = {}): Drawn {
  const key = [face, look.small, look.slim, look.wide, look.four].join();
  const known = cache.get(key);
  if (known) return known;
  const drawn = draw(face, look);
  cache.set(key, drawn);
  return drawn;
}

function draw(face: string | null, look: CardLook): Drawn {
  const paper = { paper: COLORS.paper, edge: COLORS.edge };
  if (face === null) return { svg: back(look.small === true), name: 'a card, face down', ...paper };
  try {
    const read = parseFace(face);
    return { svg: faceSvg(read, look), name: faceName(read), ...paper };
  } catch (error) {
    if (!(error instanceof FaceError)) throw error;
    return { svg: missing(look.small === true), name: `${face}, picture missing`, paper: '#eef0ee', edge: '#c6ccd0' };
  }
}

/** The outline of an empty pile: a small lozenge, or the suit it waits for. */
export function drawEmpty(suit: number | null, small: boolean): string {
  const line = 'rgba(223,230,234,.42)';
  const inside =
    suit === null
      ? `<path d="M100 112L119 140L100 168L81 140Z" fill="none" stroke="${line}" stroke-width="${small ? 6 : 3}"/>`
      : pip(suit, 100, 140, small ? 96 : 72, 'rgba(223,230,234,.34)');
  return `<rect x="4" y="4" width="192" height="272" rx="14" fill="rgba(223,230,234,.05)" stroke="${line}" stroke-width="${small ? 6 : 3}" stroke-dasharray="${small ? '16 12' : '11 9'}" stroke-linecap="round"/>${inside}`;
}

/** The lozenge of a seat: two colours and a partition of its own, so that colour alone never tells seats apart. */
const SEAT_LOOKS: readonly { readonly a: string; readonly b: string; readonly d: string; readonly inner?: boolean }[] =
  [
    { a: '#8a4f80', b: '#c99bbf', d: 'M0 -64L-49 0L0 64Z' },
    { a: '#1d7f78', b: '#8fcabd', d: 'M-49 0L0 -34L49 0L0 64Z' },
    { a: '#43627c', b: '#b3c9d9', d: 'M0 -64L-49 0H0ZM0 64L49 0H0Z' },
    { a: '#5b7a3c', b: '#bcd09a', d: 'M-34 -20H34L49 0L34 20H-34L-49 0Z' },
    { a: '#2b7d92', b: '#9fd4df', d: 'M0 -64L49 0L0 64L-49 0Z', inner: true },
    { a: '#5b7a3c', b: '#cfe0a6', d: 'M0 -64L49 0L24.5 32L-24.5 -32Z' },
    { a: '#6e6a86', b: '#d3cfe2', d: 'M0 -64L49 0L0 18L-49 0Z' },
    { a: '#9a5a3c', b: '#e0b497', d: 'M-49 0L0 -64L49 0Z' },
  ];

/** A seat's own lozenge, on a field of 100 by 130 around (0, 0). @param seat counted from 1 */
export function drawSeat(seat: number): string {
  const look = SEAT_LOOKS[(seat - 1) % SEAT_LOOKS.length] ?? SEAT_LOOKS[0];
  if (!look) return '';
  const inner = look.inner ? `<path d="M0 -30L23 0L0 30L-23 0Z" fill="${look.b}"/>` : '';
  return `<path d="M0 -64L49 0L0 64L-49 0Z" fill="${look.b}"/><path d="${look.d}" fill="${look.a}"/>${inner}`;
}

const COUNTERS = [
  { worth: 250, side: '#6b3a63', top: '#8d5784' },
  { worth: 50, side: '#c8443b', top: '#df776f' },
  { worth: 10, side: '#1d7f78', top: '#4ba79f' },
  { worth: 2, side: '#dfe6ea', top: '#ffffff' },
] as const;
const MOST_COUNTERS = 7;

/** A number as a stack of flat lozenges, at most seven; the figure itself always stands beside it. */
export function drawCounters(amount: number): { svg: string; height: number } {
  const stack: (typeof COUNTERS)[number][] = [];
  let left = amount;
  for (const counter of COUNTERS)
    while (left >= counter.worth && stack.length < MOST_COUNTERS) {
      stack.push(counter);
      left -= counter.worth;
    }
  // Less than the least of them is still something.
  const [least] = COUNTERS.slice(-1);
  if (stack.length === 0 && amount > 0 && least) stack.push(least);
  const height = 22 + stack.length * 5;
  const svg = stack
    .map(({ side, top }, i) => {
      const y = height - 13 - i * 5;
      return `<path d="M1 ${y}L17 ${y + 9}L33 ${y}V${r1(y + 3.6)}L17 ${r1(y + 12.6)}L1 ${r1(y + 3.6)}Z" fill="${side}" stroke="#0f1c2a" stroke-opacity=".35" stroke-width=".8"/><path d="M17 ${y - 9}L33 ${y}L17 ${y + 9}L1 ${y}Z" fill="${top}"/><path d="M17 ${y - 5}L26 ${y}L17 ${y + 5}L8 ${y}Z" fill="${side}"/>`;
    })
    .join('');
  return { svg, height };
}
