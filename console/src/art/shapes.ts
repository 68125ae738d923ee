/** The simple shapes that cards are drawn with, as SVG text. A card's field is 200 wide and 280 high. */
import glyphs from './glyphs.json';

export const COLORS = {
  ink: '#1c2233',
  night: '#22384a',
  paper: '#fbf6ea',
  marigold: '#e3a03a',
  vermilion: '#c8443b',
  teal: '#1d7f78',
  plum: '#6b3a63',
  mist: '#dfe6ea',
  amber: '#a8640a',
  straw: '#f0d9a8',
  edge: '#d9d0bb',
} as const;

/** Suits in deck order: spades, hearts, diamonds, clubs; on a field of 100 by 100. */
const SUIT_PATHS = [
  'M50 3C57 17 91 39 91 62C91 76 81 84 70 84C63 84 58 81 55 76C56 85 60 92 68 97H32C40 92 44 85 45 76C42 81 37 84 30 84C19 84 9 76 9 62C9 39 43 17 50 3Z',
  'M50 97C43 81 7 58 7 32C7 16 18 6 30 6C40 6 47 12 50 21C53 12 60 6 70 6C82 6 93 16 93 32C93 58 57 81 50 97Z',
  'M50 1Q66 29 91 50Q66 71 50 99Q34 71 9 50Q34 29 50 1Z',
  'M50 4C62 4 71 13 71 25C71 32 68 38 63 42C67 40 71 39 75 39C87 39 96 48 96 60C96 72 87 81 75 81C66 81 59 77 55 71C56 83 60 92 68 97H32C40 92 44 83 45 71C41 77 34 81 25 81C13 81 4 72 4 60C4 48 13 39 25 39C29 39 33 40 37 42C32 38 29 32 29 25C29 13 38 4 50 4Z',
] as const;
export const suitPath = (suit: number): string => SUIT_PATHS[suit] ?? '';

/** The colour of a suit, with two or four colours to the pack. */
export function suitColor(suit: number, four: boolean): string {
  const { ink, vermilion, amber, teal } = COLORS;
  return ((four ? [ink, vermilion, amber, teal] : [ink, vermilion, vermilion, ink]) as string[])[suit] ?? ink;
}

export const r1 = (n: number): number => Math.round(n * 10) / 10;

export function pip(suit: number, cx: number, cy: number, size: number, fill: string): string {
  return `<path transform="translate(${r1(cx - size / 2)} ${r1(cy - size / 2)}) scale(${size / 100})" d="${suitPath(suit)}" fill="${fill}"/>`;
}

export function lozenge(
  cx: number,
  cy: number,
  halfWidth: number,
  halfHeight: number,
  fill: string,
  extra = '',
): string {
  return `<path d="M${r1(cx)} ${r1(cy - halfHeight)}L${r1(cx + halfWidth)} ${r1(cy)}L${r1(cx)} ${r1(cy + halfHeight)}L${r1(cx - halfWidth)} ${r1(cy)}Z" fill="${fill}" ${extra}/>`;
}

interface Glyph {
  readonly d: string;
  readonly adv: number;
  readonly b: readonly number[];
}
const GLYPHS = glyphs as Readonly<Record<string, Glyph>>;
/** Two figures stand closer than their outlines say: "10" is kerned by nine hundredths of its height. */
const KERN = 9;

/** Figures or a rank as outlines: so high, squeezed into at most so wide, centred on x, its top at y. */
export function figures(
  text: string,
  cx: number,
  y: number,
  height: number,
  fill: string,
  mostWide: number,
): { svg: string; width: number } {
  const scale = height / 100;
  let x = 0;
  let low = Number.POSITIVE_INFINITY;
  let high = Number.NEGATIVE_INFINITY;
  const parts: { d: string; x: number }[] = [];
  for (const [i, letter] of [...text].entries()) {
    const glyph = GLYPHS[letter];
    if (!glyph) continue;
    if (i > 0) x -= KERN;
    parts.push({ d: glyph.d, x });
    low = Math.min(low, x + (glyph.b[0] ?? 0));
    high = Math.max(high, x + (glyph.b[2] ?? 0));
    x += glyph.adv;
  }
  const natural = (high - low) * scale;
  const squeeze = natural > mostWide ? mostWide / natural : 1;
  const width = natural * squeeze;
  const svg = parts
    .map((part) => {
      const left = cx - width / 2 + (part.x - low) * scale * squeeze;
      return `<path transform="translate(${r1(left)} ${r1(y + height)}) scale(${(scale * squeeze).toFixed(4)} ${scale.toFixed(4)})" d="${part.d}" fill="${fill}"/>`;
    })
    .join('');
  return { svg, width };
}

/** Something in both halves of a card: as it is, and turned by half a turn. */
export const twice = (svg: string): string => `${svg}<g transform="rotate(180 100 140)">${svg}</g>`;

/** A star of five kites: the joker's index. */
export function star(cx: number, cy: number, radius: number, fill: string): string {
  const kite = `M0 ${-radius}L${r1(radius * 0.235)} ${r1(-radius * 0.36)}L0 0L${r1(-radius * 0.235)} ${r1(-radius * 0.36)}Z`;
  return [0, 72, 144, 216, 288]
    .map((turn) => `<path transform="translate(${cx} ${cy}) rotate(${turn})" d="${kite}" fill="${fill}"/>`)
    .join('');
}

/** The mark: a lozenge of two halves, winking. */
export function mark(
  x: number,
  y: number,
  width: number,
  left: string = COLORS.plum,
  right: string = COLORS.marigold,
): string {
  return `<g transform="translate(${x} ${y}) scale(${width / 70})"><path d="M0 -50L35 0L0 50Z" fill="${right}"/><path d="M0 -50L-35 0L0 50Z" fill="${left}"/><path d="M-13 -13L-7.5 -3L-13 7L-18.5 -3Z" fill="${COLORS.paper}"/><path d="M6 -3q7 7.5 14 0" stroke="${COLORS.ink}" stroke-width="4" fill="none" stroke-linecap="round"/><path d="M-7 21Q2 28 10 17" stroke="${COLORS.paper}" stroke-width="3.6" fill="none" stroke-linecap="round"/></g>`;
}
