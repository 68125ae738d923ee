// biome-ignore-all lint/suspicious/noTemplateCurlyInString: the protocol writes places to fill in like this
import { wordStart } from './shape.js';

/** A form of the language to fill in. */
export interface Snippet {
  readonly label: string;
  readonly detail: string;
  /** Its text, as the Language Server Protocol 3.17 writes snippets: `${1:name}` is the first place to fill in. */
  readonly body: string;
  /** Whether it stands at the top of a sheet, and not among statements. */
  readonly isDeclaration: boolean;
}

const declaration = (label: string, detail: string, body: string): Snippet => ({
  label,
  detail,
  body,
  isDeclaration: true,
});
const statement = (label: string, detail: string, body: string): Snippet => ({
  label,
  detail,
  body,
  isDeclaration: false,
});

/** The forms that are written most, in the order of a sheet. */
export const SNIPPETS: readonly Snippet[] = [
  declaration('setting', 'a setting with its range', 'setting ${1:rounds}: ${2:1..9} = ${3:3} "${4:rounds to play}"'),
  declaration('pile hand', "each seat's own cards", 'pile ${1:hand} of each seat private as fan'),
  declaration('pile', 'a pile of the table', 'pile ${1:stock} face ${2:down}'),
  declaration('var', 'a variable of each seat', 'var ${1:bank} of each seat: int = ${2:0} "${3:chips}"'),
  declaration('def', 'a value that is computed', 'def ${1:total}(${2:h: cards}) = ${3:sum(h, c => c.pips)}'),
  declaration('routine', 'steps with a name', 'routine ${1:turnOf}(${2:s: seat}) {\n  $0\n}'),
  declaration('bot', 'who plays a seat by rules', 'bot ${1:plain} {\n  ${2:pass}\n}'),
  declaration('play', 'the game itself', 'play {\n  $0\n}'),
  statement('ask', 'a seat chooses', 'ask ${1:s} {\n  option ${2:pass} { $0 }\n}'),
  statement(
    'option',
    'one choice of an ask',
    'option ${1:draw} needs ${2:size(stock) > 0} else "${3:The stock is empty.}" { $0 }',
  ),
  statement('for each', 'once for each seat', 'for each ${1:t} in ${2:seats} { $0 }'),
  statement('if', 'only if it holds', 'if ${1:size(stock) == 0} { $0 }'),
  statement('repeat', 'until something leaves it', 'repeat {\n  $0\n} until ${1:size(stock) == 0}'),
  statement('chapter', 'a part of the game with a title', 'chapter "${1:Deal}"'),
];

/** The forms that fit where somebody types: declarations at the top of a sheet, statements inside of its blocks. */
export function snippetsAt(text: string, offset: number): readonly Snippet[] {
  const lineStart = text.lastIndexOf('\n', offset - 1) + 1;
  // A form begins a line, or stands right after the brace that opens its block.
  if (!/^\s*$|[{}]\s*$/.test(text.slice(lineStart, wordStart(text, offset)))) return [];
  const depth = depthAt(text, offset);
  return depth === 0 ? [] : SNIPPETS.filter(({ isDeclaration }) => isDeclaration === (depth === 1));
}

/** How many braces are open at a place, past texts and notes. */
function depthAt(text: string, offset: number): number {
  let depth = 0;
  let isText = false;
  for (let i = 0; i < offset; i++) {
    const sign = text[i];
    if (isText) {
      if (sign === '\\') i++;
      else if (sign === '"' || sign === '\n') isText = false;
    } else if (sign === '"') isText = true;
    else if (sign === '/' && text[i + 1] === '/') {
      const end = text.indexOf('\n', i);
      i = end < 0 ? offset : end;
    } else if (sign === '{') depth++;
    else if (sign === '}') depth--;
  }
  return depth;
}
