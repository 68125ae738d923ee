import { type Expr, type Face, FaceError, LONGEST_LABEL, parseFace, utf8Length } from '@wily-jester/core';
import type { Text } from '../grammar/generated/ast.js';
import type { Frame, Sheet } from '../symbols/scope.js';
import type { ExprContext } from './context.js';

/** The characters of a text token without its quotes or braces, with escapes read. */
function unescaped(raw: string): string {
  return raw.slice(1, -1).replace(/\\(.)/g, '$1');
}

/** A text without `{expressions}`, or a problem. */
export function plainText(sheet: Sheet, text: Text): string {
  if (text.whole === undefined) {
    sheet.error(text, 'Only plain text can stand here, without { }.');
    return '';
  }
  return unescaped(text.whole);
}

/** A label: plain text that many events may tell, so that it is no long one. */
export function labelText(sheet: Sheet, text: Text): string {
  const label = plainText(sheet, text);
  const bytes = utf8Length(label);
  if (bytes > LONGEST_LABEL)
    sheet.error(text, `A label has at most ${LONGEST_LABEL} bytes, and this one has ${bytes.toLocaleString('en')}.`);
  return label;
}

/** A text with its expressions compiled. */
export function compileText(expressions: ExprContext, frame: Frame, text: Text): Expr {
  const place = expressions.sheet.at(text);
  if (text.whole !== undefined) return { k: 'text', t: 'text', at: place, parts: [unescaped(text.whole)] };
  const parts: (string | Expr)[] = [unescaped(text.start ?? '""')];
  for (const [i, part] of text.parts.entries()) {
    const e = expressions.lower(part, frame);
    if (e.t === 'nothing') expressions.sheet.error(part, 'There is nothing to say here.');
    parts.push(e);
    parts.push(unescaped(text.middles[i] ?? text.end ?? '""'));
  }
  return { k: 'text', t: 'text', at: place, parts: parts.filter((part) => part !== '') };
}

/** The face that a text names, or a problem and `undefined`. */
export function faceIn(sheet: Sheet, text: Text): Face | undefined {
  try {
    return parseFace(plainText(sheet, text));
  } catch (error) {
    if (!(error instanceof FaceError)) throw error;
    sheet.error(text, error.message);
    return undefined;
  }
}
