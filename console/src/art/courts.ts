/** Court cards: one great lozenge of harlequin cells, a head in place of each tip, exact under a half turn. */
import { COLORS, lozenge, r1, suitColor, twice } from './shapes';

interface Palette {
  readonly main: string;
  readonly second: string;
  readonly light: string;
}
const HALF_WIDTH = 16;
const HALF_HEIGHT = 23;
const GAP = `stroke="${COLORS.paper}" stroke-width="1.8" stroke-linejoin="round"`;

export function paletteOf(suit: number, four: boolean): Palette {
  const main = suitColor(suit, four);
  const lower = four ? COLORS.ink : COLORS.teal;
  const seconds = [COLORS.plum, COLORS.plum, lower, lower];
  const lights = ['#c9b6cf', COLORS.straw, COLORS.straw, '#bcd9cf'];
  return { main, second: seconds[suit] ?? COLORS.plum, light: lights[suit] ?? COLORS.straw };
}

/** Which colour a cell takes; every rule is the same at (u, v) and (−u, −v). */
export function cellColor(suit: number, u: number, v: number, p: Palette): string {
  switch (suit) {
    case 0:
      if (Math.abs(u - v) % 2 === 1) return p.main;
      return Math.abs(u + v) % 4 === 0 ? p.light : p.second;
    case 1:
      if (Math.abs(u) % 2 === 1) return p.second;
      return Math.abs(v) % 2 === 1 ? p.light : p.main;
    case 2:
      return [p.second, p.light, p.main][Math.max(Math.abs(u), Math.abs(v)) % 3] ?? p.main;
    default:
      if (Math.abs(v) % 2 === 0) return Math.abs(u) % 2 === 0 ? p.main : p.second;
      return Math.abs(u) % 2 === 0 ? p.second : p.light;
  }
}

function hasCell(rank: number, u: number, v: number): boolean {
  if (Math.abs(u) > 2 || Math.abs(v) > 2) return false;
  if (rank === 11) return Math.abs(v) <= 1;
  if (Math.abs(u + v) >= 3) return false;
  return rank === 13 || Math.abs(u - v) <= 2;
}

/** What is held: an oar, a lantern, a lock key, a bulrush. Upright around x = 0, its head at the top. */
function held(suit: number, p: Palette): string {
  const staff = `<path d="M-2.2 30H2.2V116H-2.2Z" fill="${p.main}"/>`;
  const heads = [
    `<path d="M0 -6C9 6 10 26 8 40L0 52L-8 40C-10 26 -9 6 0 -6Z" fill="${p.main}"/><path d="M0 4V42" stroke="${COLORS.paper}" stroke-width="2"/>`,
    `<path d="M0 -4L11 8V34L0 46L-11 34V8Z" fill="${p.main}"/>${lozenge(0, 21, 6, 12, COLORS.straw)}`,
    `${lozenge(0, 18, 14, 22, p.main)}${lozenge(0, 18, 6, 10, COLORS.paper)}<path d="M0 96H10V101H0ZM0 106H14V111H0Z" fill="${p.main}"/>`,
    `<rect x="-6" y="-4" width="12" height="42" rx="6" fill="${p.main}"/><path d="M1 92Q14 70 13 40Q2 66 1 92Z" fill="${p.second}"/><path d="M-1 100Q-13 84 -13 62Q-2 80 -1 100Z" fill="${p.second}"/>`,
  ];
  return staff + (heads[suit] ?? '');
}

/** A split face: one half paper, one half the suit's colour, lozenge eyes. */
function mask(cx: number, cy: number, width: number, height: number, p: Palette, oneEye = false): string {
  const left = cx - width / 2;
  const right = cx + width / 2;
  const top = cy - height / 2;
  const bottom = cy + height / 2;
  const chin = r1(bottom - height * 0.42);
  const eyeX = width * 0.24;
  const eyeY = cy - height * 0.1;
  const mouth = cy + height * 0.19;
  return [
    `<path d="M${left} ${top}H${right}V${chin}L${cx} ${r1(bottom)}L${left} ${chin}Z" fill="${COLORS.paper}" stroke="${p.main}" stroke-width="2.4" stroke-linejoin="round"/>`,
    `<path d="M${cx} ${top}H${right}V${chin}L${cx} ${bottom}Z" fill="${p.main}"/>`,
    oneEye ? '' : lozenge(cx - eyeX, eyeY, 3.4, 5.6, p.main),
    lozenge(cx + eyeX, eyeY, 3.4, 5.6, COLORS.paper),
    `<path d="M${r1(cx - 6)} ${r1(mouth)}L${cx} ${r1(mouth + 2)}" stroke="${p.main}" stroke-width="2.2" stroke-linecap="round"/>`,
    `<path d="M${cx} ${r1(mouth + 2)}L${r1(cx + 6)} ${r1(mouth)}" stroke="${COLORS.paper}" stroke-width="2.2" stroke-linecap="round"/>`,
  ].join('');
}

const hand = (x: number, y: number, p: Palette): string =>
  lozenge(x, y, 8.5, 12.5, COLORS.paper, `stroke="${p.main}" stroke-width="2.4" stroke-linejoin="round"`);

function king(suit: number, p: Palette): string {
  const line = `stroke="${p.main}" stroke-width="2.4" stroke-linejoin="round"`;
  const points = [-18.5, 18.5, 0].map((d, i) =>
    lozenge(100 + d, i === 2 ? 17 : 20, 9.4, i === 2 ? 15 : 12, i === 2 ? p.second : p.main, GAP),
  );
  return [
    `<g transform="translate(165 18)">${held(suit, p)}</g>${hand(165, 112, p)}`,
    `<path d="M70 60L100 124L130 60Z" fill="${COLORS.paper}"/><path d="M75 62L100 117L125 62Z" fill="${p.light}" ${line}/>`,
    `<path d="M100 116V96M89 92L85 82M111 92L115 82M94 104L91 94M106 104L109 94" stroke="${p.main}" stroke-width="2" stroke-linecap="round"/>`,
    mask(100, 65, 44, 52, p),
    `<path d="M73 42V31H127V42Z" fill="${p.main}"/>${lozenge(100, 36.5, 4, 4, COLORS.straw)}${lozenge(85, 36.5, 3, 3, COLORS.straw)}${lozenge(115, 36.5, 3, 3, COLORS.straw)}`,
    ...points,
  ].join('');
}

/** Each queen has a crown of her own: rays, lanterns, a peaked band, leaves. */
function queensCrown(suit: number, p: Palette): string {
  switch (suit) {
    case 0:
      return [-2, 2, -1, 1, 0]
        .map(
          (i) =>
            `<g transform="rotate(${i * 29} 100 66)">${lozenge(100, 26, 8.4, 17, i % 2 ? p.light : p.main, GAP)}</g>`,
        )
        .join('');
    case 1:
      return [-1, 1, 0]
        .map(
          (i) =>
            `<g transform="rotate(${i * 44} 100 68)">${lozenge(100, 24, 13, 16, i ? p.main : p.light, GAP)}${lozenge(100, 24, 4, 6, i ? COLORS.straw : p.main)}</g>`,
        )
        .join('');
    case 2:
      return `<path d="M68 46L74 14L88 34L100 6L112 34L126 14L132 46Z" fill="${p.main}" ${GAP}/>${[82, 100, 118].map((x) => lozenge(x, 38, 4.5, 6, COLORS.straw)).join('')}`;
    default:
      return [-3, 3, -2, 2, -1, 1, 0]
        .map(
          (i) =>
            `<g transform="rotate(${i * 21} 100 70)"><ellipse cx="100" cy="27" rx="6.4" ry="17" fill="${i % 2 ? p.second : p.main}" ${GAP}/></g>`,
        )
        .join('');
  }
}

function queen(suit: number, p: Palette): string {
  const hair = [
    'M100 34C76 34 67 50 67 70L54 116L78 132L88 98H112L122 132L146 116L133 70C133 50 124 34 100 34Z',
    'M100 34C74 34 64 52 62 74C58 92 70 104 82 100H118C130 104 142 92 138 74C136 52 126 34 100 34Z',
    'M100 34C78 34 70 48 70 66L64 128H84L90 96H110L116 128H136L130 66C130 48 122 34 100 34Z',
    'M100 34C76 34 68 50 68 70C52 84 66 96 56 110C66 124 76 116 82 128L90 98H110L118 128C124 116 134 124 144 110C134 96 148 84 132 70C132 50 124 34 100 34Z',
  ];
  return [
    `<g transform="translate(160 22)">${held(suit, p)}</g>`,
    queensCrown(suit, p),
    `<path d="${hair[suit]}" fill="${p.second}" stroke="${COLORS.paper}" stroke-width="2"/>`,
    lozenge(100, 106, 17, 21, p.light, GAP) + lozenge(100, 106, 6, 8, p.main),
    mask(100, 67, 40, 50, p),
    `<path d="M80 42Q100 52 120 42" stroke="${p.light}" stroke-width="4" fill="none"/>`,
    hand(160, 116, p),
  ].join('');
}

function jack(suit: number, p: Palette): string {
  const x = 93;
  const feathers = [
    [26, 29, 7, 13, 56],
    [40, 20, 5.4, 10.5, 58],
    [51, 14, 3.8, 7.5, 62],
  ].map(
    ([dx = 0, y = 0, w = 0, h = 0, turn = 0], i) =>
      `<g transform="rotate(${turn} ${x + dx} ${y})">${lozenge(x + dx, y, w, h, i % 2 ? p.light : p.main, GAP)}</g>`,
  );
  return [
    `<g transform="translate(150 40) rotate(18 0 60)">${held(suit, p)}</g>`,
    `<path d="M${x - 27} 98L${x} 82L${x + 27} 98L${x} 122Z" fill="${p.light}" stroke="${p.main}" stroke-width="2.4" stroke-linejoin="round"/>`,
    mask(x, 66, 40, 50, p, true),
    `<path d="M${x - 31} 66L${x + 27} 42L${x + 20} 26L${x - 9} 20L${x - 29} 42Z" fill="${p.second}" stroke="${COLORS.paper}" stroke-width="2" stroke-linejoin="round"/><path d="M${x - 31} 66L${x + 27} 42L${x + 25} 36L${x - 30} 58Z" fill="${p.main}"/>`,
    ...feathers,
    hand(146, 121, p),
  ].join('');
}

/** The whole figure of a court card. @param rank 11 jack, 12 queen, 13 king */
export function court(rank: number, suit: number, four: boolean): string {
  const p = paletteOf(suit, four);
  let coat = '';
  for (let u = -2; u <= 2; u++)
    for (let v = -2; v <= 2; v++)
      if (hasCell(rank, u, v))
        coat += lozenge(
          100 + (u - v) * HALF_WIDTH,
          140 + (u + v) * HALF_HEIGHT,
          HALF_WIDTH,
          HALF_HEIGHT,
          cellColor(suit, u, v, p),
          GAP,
        );
  const figure = rank === 13 ? king : rank === 12 ? queen : jack;
  return coat + twice(figure(suit, p));
}

/** A corner of harlequin for small courts. */
export function courtCorner(suit: number, four: boolean, id: string): string {
  const p = paletteOf(suit, four);
  let cells = '';
  for (let u = -3; u <= 3; u++)
    for (let v = -3; v <= 3; v++)
      cells += lozenge(
        198 + (u - v) * 21,
        32 + (u + v) * 30,
        21,
        30,
        cellColor(suit, u, v, p),
        `stroke="${COLORS.paper}" stroke-width="4"`,
      );
  return `<clipPath id="${id}"><path d="M124 2H180Q198 2 198 20V128Z"/></clipPath><g clip-path="url(#${id})">${cells}</g>`;
}

/** The jester: three horns, the winking split mask, a collar of five lozenges. */
export function jester(first: boolean): string {
  const p = first
    ? { a: COLORS.plum, b: COLORS.vermilion, l: COLORS.straw }
    : { a: COLORS.ink, b: COLORS.night, l: COLORS.mist };
  const k = COLORS.ink;
  const collar = [-2, 2, -1, 1, 0].map(
    (i) =>
      `<g transform="rotate(${-i * 33} 100 166)">${lozenge(100, 214, 16, 34, i % 2 ? p.l : i === 0 ? p.b : p.a, GAP)}<circle cx="100" cy="252" r="5" fill="${k}"/></g>`,
  );
  return [
    `<path d="M100 96C86 58 54 50 33 82C48 79 60 90 64 110L72 140H100Z" fill="${p.a}"/><path d="M100 96C114 58 146 50 167 82C152 79 140 90 136 110L128 140H100Z" fill="${p.b}"/>`,
    `<path d="M70 118C77 86 88 60 100 36C112 60 123 86 130 118Z" fill="${p.l}" ${GAP}/>${lozenge(33, 92, 8, 12, k)}${lozenge(167, 92, 8, 12, k)}${lozenge(100, 29, 8, 12, k)}`,
    ...collar,
    `<path d="M66 124H134V158L100 198L66 158Z" fill="${COLORS.paper}" stroke="${k}" stroke-width="2.6" stroke-linejoin="round"/><path d="M100 124H134V158L100 198Z" fill="${p.a}"/>`,
    `<path d="M62 113H138V127H62Z" fill="${k}"/>${[-28, -14, 0, 14, 28].map((d) => lozenge(100 + d, 120, 4, 5, COLORS.straw)).join('')}`,
    `${lozenge(83, 146, 5, 9, k)}<path d="M108 145q8 8 16 0" stroke="${COLORS.paper}" stroke-width="3.6" fill="none" stroke-linecap="round"/>`,
    `<path d="M86 167Q93 177 100 177" stroke="${k}" stroke-width="3" fill="none" stroke-linecap="round"/><path d="M100 177Q109 176 115 164" stroke="${COLORS.paper}" stroke-width="3" fill="none" stroke-linecap="round"/>`,
  ].join('');
}
