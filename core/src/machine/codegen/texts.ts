import { byName } from '../../program/by-name.js';
import type { Expr } from '../../program/types.js';
import { LONGEST_TEXT } from '../prices.js';
import { CARD_BYTES, NUMBER_BYTES, utf8Length } from '../text.js';
import type { Writer } from './writer.js';

const RANK_WORDS = ['', 'ace', '2', '3', '4', '5', '6', '7', '8', '9', '10', 'jack', 'queen', 'king'];

/** What whose pile it is, and which of its family, takes besides the names of pile and seat. */
const OF_FAMILY = 40;
/** What the name of a ranked hand takes. */
const NAME_BYTES = 80;

/** What values take in a text, in bytes of UTF-8, where that is known without them. */
const BYTES: Readonly<Record<string, number>> = byName({
  int: NUMBER_BYTES,
  flag: 3,
  card: Math.max(CARD_BYTES, 'no card'.length),
  poker: NAME_BYTES,
  low: NAME_BYTES,
  rank: 7,
  suit: 7,
  color: 8,
});

/** The bytes that a value takes in a text at most, or `null` where only the value says it. */
function bytesOfValue(x: Writer, e: Expr): number | null {
  if (e.t.startsWith('kind:')) {
    const kind = x.module.program.kinds.find((k) => `kind:${k.name}` === e.t);
    return Math.max(7, ...(kind?.members ?? []).map((m) => utf8Length(m.label ?? m.name)));
  }
  const { seats } = x.module.layout;
  const seat = Math.max('nobody'.length, ...seats.map(utf8Length));
  if (e.t === 'seat') return seat;
  if (e.t === 'pile') {
    const names = x.module.program.piles.map(({ label, name }) => utf8Length(label ?? name));
    return OF_FAMILY + seat + Math.max(...names);
  }
  if (e.t === 'list:seat' || e.t === 'team') return Math.max('no team'.length, (seat + 5) * seats.length);
  if (e.t !== 'text') return BYTES[e.t] ?? null;
  if (e.k === 'text') return bytesOf(x, e);
  if (e.k === 'if') {
    const [a, b] = [bytesOf(x, e.a), bytesOf(x, e.b)];
    return a === null || b === null ? null : Math.max(a, b);
  }
  if (e.k !== 'fn') return null;
  if (e.f === 'plural') return NUMBER_BYTES + 3 + utf8Length(literalText(e.args[1] as Expr));
  return e.f === 'handName' || e.f === 'lowName' ? NAME_BYTES : null;
}

/** The bytes that a text takes at most, or `null` where only its values say it. */
export function bytesOf(x: Writer, e: Expr): number | null {
  if (e.k !== 'text') return bytesOfValue(x, e);
  let bytes = 1;
  for (const part of e.parts) {
    const more = typeof part === 'string' ? utf8Length(part) : bytesOfValue(x, part);
    if (more === null) return null;
    bytes += more;
  }
  return bytes;
}

/** A text as the row of pieces from which each viewer's words are made. Only values make a text too long. */
export function pieces(x: Writer, e: Expr): string {
  if (e.k !== 'text' && e.t === 'text') return x.write(e);
  const parts = e.k === 'text' ? e.parts : [e];
  const code = parts.map((part) => (typeof part === 'string' ? x.module.text(part) : piece(x, part))).join(',');
  const bytes = bytesOf(x, e);
  return bytes !== null && bytes <= LONGEST_TEXT ? `[${code}]` : `text([${code}],${e.at},pay)`;
}

/** One value as a piece of a text. */
function piece(x: Writer, e: Expr): string {
  const value = x.write(e);
  const { module } = x;
  if (e.t.startsWith('kind:')) {
    const kind = module.program.kinds.find((k) => `kind:${k.name}` === e.t);
    return `word(${module.words((kind?.members ?? []).map((m) => m.label ?? m.name))},${value},${module.text('nothing')})`;
  }
  switch (e.t) {
    case 'text':
      return value;
    case 'flag':
      return `(${value}?${module.text('yes')}:${module.text('no')})`;
    case 'card':
      return `cardPiece(s,${value})`;
    case 'list:card':
      return `cardsPiece(s,${value},${e.at})`;
    case 'seat':
      return `seatPiece(${value})`;
    case 'list:seat':
      return `seatsPiece(${value})`;
    case 'team':
      return `teamPiece(${value})`;
    case 'poker':
      return `handName(${value})`;
    case 'low':
      return `lowName(${value})`;
    case 'list:rank':
      return `wordsPiece(${module.words(RANK_WORDS)},${value},${e.at})`;
    case 'list:int':
      return `listPiece(${value},${e.at})`;
    case 'rank':
      return `word(${module.words(RANK_WORDS)},${value},${module.text('no rank')})`;
    case 'suit':
      return `word(${module.words(['spade', 'heart', 'diamond', 'club'])},${value},${module.text('no suit')})`;
    case 'color':
      return `word(${module.words(['black', 'red'])},${value},${module.text('no color')})`;
    case 'pile':
      return `pileWords(${value})`;
    default:
      return value;
  }
}

/** Values that are always there and cost nothing to find. */
const isPlain = (e: Expr): boolean =>
  e.k === 'lit' || e.k === 'setting' || e.k === 'local' || (e.k === 'var' && e.owner === null);

/** Code that finds the values of a text that is not said: it stops where they would, and costs what they would. */
export function unsaid(x: Writer, e: Expr): string {
  if (isPlain(e)) return '';
  if (e.k === 'text') return e.parts.map((part) => (typeof part === 'string' ? '' : unsaid(x, part))).join('');
  if (e.k === 'fn' && (e.f === 'plural' || e.f === 'handName' || e.f === 'lowName'))
    return unsaid(x, e.args[0] as Expr);
  if (e.k === 'if' && e.t === 'text') return `if(${x.write(e.c)}){${unsaid(x, e.a)}}else{${unsaid(x, e.b)}}`;
  return `${x.write(e)};`;
}

/** The words of a text without its values. */
export function literalText(e: Expr): string {
  return e.k === 'text' ? e.parts.filter((part): part is string => typeof part === 'string').join('') : '';
}
