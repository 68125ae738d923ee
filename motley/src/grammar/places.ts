import type { AstNode } from '#langium';

/** Where a node begins and ends, counted from 1. */
export function placeOf(node: AstNode): { line: number; column: number; endColumn: number } {
  const range = node.$cstNode?.range;
  if (!range) return { line: 1, column: 1, endColumn: 2 };
  const line = range.start.line + 1;
  const column = range.start.character + 1;
  const sameLine = range.end.line === range.start.line;
  return { line, column, endColumn: sameLine ? range.end.character + 1 : column + 1 };
}

/** The text that a node was read from. */
export const sourceOf = (node: AstNode): string => node.$cstNode?.text ?? '';
