import type { Expr } from '../../program/types.js';
import type { Writer } from './writer.js';

const RANK_WORDS = ['', 'ace', '2', '3', '4', '5', '6', '7', '8', '9', '10', 'jack', 'queen', 'king'];

/** A text as the row of pieces from which each viewer's words are made. */
export function pieces(x: Writer, e: Expr): string {
  if (e.k !== 'text') return e.t === 'text' ? x.write(e) : `text([${piece(x, e)}],${e.at},pay)`;
  const parts = e.parts.map((part) => (typeof part === 'string' ? x.module.text(part) : piece(x, part)));
  // What a sheet writes is short enough: only values make a text long.
  return e.parts.every((part) => typeof part === 'string')
    ? `[${parts.join(',')}]`
    : `text([${parts.join(',')}],${e.at},pay)`;
}

/** One value as a piece of a text. */
function piece(x: Writer, e: Expr): string {
  const value = x.write(e);
  const { module } = x;
  if (e.t.startsWith('kind:')) {
    const kind = module.program.kinds.find((k) => `kind:${k.name}` === e.t);
    return `word(${module.words((kind?.members ?? []).map((m) => m.label ?? m.name))},${value})`;
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
      return `seatsPiece(seatsOf(${value},${e.at}))`;
    case 'poker':
      return `handName(${value})`;
    case 'low':
      return `lowName(${value})`;
    case 'list:rank':
      return `wordsPiece(${module.words(RANK_WORDS)},${value},${e.at})`;
    case 'list:int':
      return `listPiece(${value},${e.at})`;
    case 'rank':
      return `word(${module.words(RANK_WORDS)},${value})`;
    case 'suit':
      return `word(${module.words(['spade', 'heart', 'diamond', 'club'])},${value})`;
    case 'color':
      return `word(${module.words(['black', 'red'])},${value})`;
    case 'pile':
      return `pileName(${value})`;
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
  return e.t === 'team' ? `ok(${x.write(e)},${e.at});` : `${x.write(e)};`;
}

/** The words of a text without its values. */
export function literalText(e: Expr): string {
  return e.k === 'text' ? e.parts.filter((part): part is string => typeof part === 'string').join('') : '';
}
