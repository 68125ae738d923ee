import { type AstNode, AstUtils, CstUtils } from '#langium';
import type { Document } from '../grammar/generated/ast.js';

/** The kind of a name: options and bots have namespaces of their own. */
export type Space = 'name' | 'option' | 'bot';

/** A name where it stands in the text. */
export interface Occurrence {
  readonly name: string;
  readonly space: Space;
  readonly offset: number;
  readonly end: number;
  /** The node that the name is bound by, where it holds only inside it; `null` for names of the whole sheet. */
  readonly scope: AstNode | null;
  readonly declares: boolean;
}

const DECLARATIONS: ReadonlySet<string> = new Set([
  'Setting',
  'KindDecl',
  'KindMember',
  'PileDecl',
  'VarDecl',
  'Def',
  'Routine',
  'BotDecl',
  'Shape',
  'Option',
  'TypedParam',
  'OptionParam',
  'Let',
  'LocalVar',
  'ForEach',
  'ForCount',
  'PileSpan',
]);

/** Which of a node's words are names, and of what sort. */
const NAMES: Readonly<Record<string, Readonly<Record<string, Space>>>> = {
  Ref: { name: 'name' },
  Member: { name: 'name' },
  Can: { option: 'option' },
  BotLine: { option: 'option' },
  ChoiceLine: { option: 'option' },
  Option: { name: 'option' },
  BotDecl: { name: 'bot' },
  BotPlays: { bot: 'bot' },
  Ask: { name: 'name', otherwise: 'option', bot: 'bot' },
  PileDecl: { name: 'name', refill: 'name' },
  VarDecl: { name: 'name', each: 'name' },
  Hole: { name: 'name' },
  TypeRef: { name: 'name' },
  ValueDomain: { type: 'name', shapes: 'name' },
  Binary: { others: 'name' },
  LayoutCell: { name: 'name' },
  NoteDecl: { name: 'name', piles: 'name' },
  CountersDecl: { names: 'name' },
  Reset: { names: 'name' },
  Lambda: { params: 'name' },
  SettingValue: { name: 'name' },
};

/** The names that a node binds for what is inside it (for a `let`: for the block around it). */
function bindsInside(node: AstNode, name: string): boolean {
  const named = node as unknown as {
    name?: string;
    params?: readonly (string | { name: string })[];
    statements?: AstNode[];
    spans?: { name: string }[];
  };
  switch (node.$type) {
    case 'Lambda':
      return named.params?.includes(name) === true;
    case 'Routine':
    case 'Def':
    case 'Hole':
    case 'Option':
      return named.params?.some((param) => typeof param !== 'string' && param.name === name) === true;
    case 'PileDecl':
      return named.spans?.some((span) => span.name === name) === true;
    case 'ForEach':
    case 'ForCount':
      return named.name === name;
    case 'Ask':
      return named.name === name;
    case 'Block':
    case 'Play':
      return (
        named.statements?.some(
          (s) => (s.$type === 'Let' || s.$type === 'LocalVar') && (s as unknown as { name: string }).name === name,
        ) === true
      );
    default:
      return false;
  }
}

function scopeOf(node: AstNode, name: string): AstNode | null {
  for (let here: AstNode | undefined = node; here; here = here.$container) if (bindsInside(here, name)) return here;
  return null;
}

/** All names of a sheet or a rehearsal file, in the order of the text. */
export function occurrencesIn(document: Document): Occurrence[] {
  const found: Occurrence[] = [];
  for (const node of AstUtils.streamAst(document)) {
    const cst = node.$cstNode;
    if (!cst) continue;
    const spaces = NAMES[node.$type] ?? (DECLARATIONS.has(node.$type) ? { name: 'name' as const } : {});
    for (const leaf of CstUtils.flattenCst(cst)) {
      if (leaf.astNode !== node || !/^[A-Za-z]\w*$/.test(leaf.text)) continue;
      const space = spaceOf(node, spaces, leaf.text);
      if (!space) continue;
      const scope = space === 'name' && node.$type !== 'Member' ? scopeOf(node, leaf.text) : null;
      const { offset, end } = leaf;
      if (!found.some((other) => other.offset === offset))
        found.push({
          name: leaf.text,
          space,
          offset,
          end,
          scope,
          declares: DECLARATIONS.has(node.$type) && (node as unknown as { name: string }).name === leaf.text,
        });
    }
  }
  return found.sort((a, b) => a.offset - b.offset);
}

/** The sort of name that a word of a node is, or nothing where it is a word of the language. */
function spaceOf(node: AstNode, spaces: Readonly<Record<string, Space>>, word: string): Space | undefined {
  for (const [property, space] of Object.entries(spaces)) {
    const value = (node as unknown as Record<string, unknown>)[property];
    if (value === word || (Array.isArray(value) && value.includes(word))) return space;
  }
  return undefined;
}

/** The occurrence at a place of the text. */
export const occurrenceAt = (all: readonly Occurrence[], offset: number): Occurrence | undefined =>
  all.find((one) => one.offset <= offset && offset <= one.end);

/** All occurrences of the same thing. */
export const sameThing = (all: readonly Occurrence[], one: Occurrence): Occurrence[] =>
  all.filter((other) => other.name === one.name && other.space === one.space && other.scope === one.scope);
