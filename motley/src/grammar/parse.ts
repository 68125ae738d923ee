import { STEERING, signCode } from '@wily-jester/core';
import {
  createDefaultCoreModule,
  createDefaultSharedCoreModule,
  EmptyFileSystem,
  inject,
  type LangiumCoreServices,
  type LangiumSharedCoreServices,
} from '#langium';
import { nearest, type Problem } from '../problems.js';
import { BEGINNINGS, blanked, declarationsIn, type Stretch } from './declarations.js';
import type { Document } from './generated/ast.js';
import { MotleyGeneratedModule, MotleyGeneratedSharedModule } from './generated/module.js';
import { DECLARATION_HEADS, REHEARSAL_HEADS, STATEMENT_HEADS } from './generated/words.js';
import { DEEPEST_TREE, pastLimits } from './limits.js';
import { PlainMessages, reservedWords } from './messages.js';
import { slipIn } from './slips.js';
import { MotleyTokens } from './tokens.js';

/** Greatest size of a sheet, in characters. */
export const LONGEST_SHEET = 65_536;
/** How deep braces, brackets and parentheses may nest. */
export const DEEPEST_NESTING = 32;

interface Parsed {
  /** Absent where the text cannot be read. */
  readonly document: Document | undefined;
  readonly problems: readonly Problem[];
}

let services: LangiumCoreServices | undefined;

function parserServices(): LangiumCoreServices {
  if (services) return services;
  const shared: LangiumSharedCoreServices = inject(
    createDefaultSharedCoreModule(EmptyFileSystem),
    MotleyGeneratedSharedModule,
  );
  services = inject(createDefaultCoreModule({ shared }), MotleyGeneratedModule, {
    parser: {
      TokenBuilder: () => new MotleyTokens(),
      ParserConfig: () => ({ recoveryEnabled: false }),
      ParserErrorMessageProvider: () => new PlainMessages(),
    },
  });
  shared.ServiceRegistry.register(services);
  return services;
}

const problem = (line: number, column: number, length: number, message: string): Problem => ({
  severity: 'error',
  line,
  column,
  endColumn: column + Math.max(1, length),
  message,
});

const BEGINNING =
  'A rule sheet begins with game "Name" for 2 to 4 seats {, and rehearsals with rehearse "what it shows" {.';

/** The first line that is more than a note, from 1; 0 where there is none. */
const firstCodeIn = (text: string): number =>
  text.split('\n').findIndex((line) => /\S/.test(line) && !line.trimStart().startsWith('//')) + 1;

/** Whether there is nothing in a text but notes. */
export const isWithoutCode = (text: string): boolean => firstCodeIn(text) === 0;

/** The first sign that would steer the terminal, or the page, on which somebody reads the sheet. */
function steeringIn(text: string): Problem | undefined {
  const at = text.replaceAll('\r\n', ' \n').search(STEERING);
  if (at < 0) return undefined;
  const before = text.slice(0, at).split('\n');
  const sign = signCode(text[at] as string);
  return problem(
    before.length,
    (before.at(-1) as string).length + 1,
    1,
    `The sign ${sign} stands here, which steers a terminal or the direction of a line: take it out.`,
  );
}

/** The parser's own state is in doubt, because it was ended while it read: the next call starts afresh. */
export function forgetParser(): void {
  services = undefined;
}

/** Finds what would make parsing slow or hopeless before the parser sees it: size, nesting, open texts. */
function screen(text: string): Problem | undefined {
  if (text.length > LONGEST_SHEET)
    return problem(1, 1, 1, `The sheet has ${text.length} characters; at most ${LONGEST_SHEET} are read.`);
  const steering = steeringIn(text);
  if (steering) return steering;
  const open: { sign: string; line: number; column: number }[] = [];
  let line = 1;
  let start = 0;
  for (let i = 0; i < text.length; i++) {
    const sign = text[i];
    if (sign === '\n') {
      line++;
      start = i + 1;
      const last = open.at(-1);
      const inText = open.findLast((o) => o.sign === '"');
      if (inText && (last?.sign === '"' || last?.sign === 'text{'))
        return problem(inText.line, inText.column, 1, 'This text is not closed: put a " at its end, on the same line.');
      continue;
    }
    const here = { line, column: i - start + 1 };
    const top = open.at(-1)?.sign;
    if (top === '"') {
      if (sign === '\\') i++;
      else if (sign === '"') open.pop();
      else if (sign === '{') open.push({ sign: 'text{', ...here });
    } else if (sign === '"') open.push({ sign: '"', ...here });
    else if (sign === '/' && text[i + 1] === '/') {
      const end = text.indexOf('\n', i);
      i = (end < 0 ? text.length : end) - 1;
    } else if (sign === '{' || sign === '(' || sign === '[') open.push({ sign, ...here });
    else if (sign === '}' || sign === ')' || sign === ']') {
      const opener = open.pop();
      if (!opener) return problem(here.line, here.column, 1, `This "${sign}" closes nothing: one too many.`);
      const wanted = { '{': '}', 'text{': '}', '(': ')', '[': ']', '"': '"' }[opener.sign];
      if (wanted !== sign)
        return problem(
          here.line,
          here.column,
          1,
          `This "${sign}" does not close the "${opener.sign.at(-1)}" of line ${opener.line}: "${wanted}" should come first.`,
        );
    }
    if (open.length > DEEPEST_NESTING)
      return problem(here.line, here.column, 1, `Braces nest more than ${DEEPEST_NESTING} deep here.`);
  }
  const left = open.at(-1);
  if (left) return problem(left.line, left.column, 1, `This "${left.sign.at(-1)}" is never closed.`);
  if (isWithoutCode(text)) return problem(1, 1, 1, `There are no rules here yet. ${BEGINNING}`);
  return undefined;
}

/** Whether a name is declared somewhere in a text: it is never taken for another word. */
const isDeclared = (text: string, name: string): boolean =>
  new RegExp(
    `\\b(?:var|pile|def|routine|setting|kind|shape|option|let|bot|each|for)[ \\t]+${name}\\b|[|=(,][ \\t]*${name}[ \\t]*[:|]`,
  ).test(text);

/** A word of the text, and where it stands. */
interface Spot {
  readonly line: number;
  readonly column: number;
  readonly image: string;
}

const spotOf = (token: { startLine?: number; startColumn?: number; image: string }): Spot => ({
  line: token.startLine ?? 1,
  column: token.startColumn ?? 1,
  image: token.image,
});

/** The words with which statements, options and declarations begin. */
const HEADS: readonly string[] = [
  ...new Set([...STATEMENT_HEADS, 'stuck', 'else', ...DECLARATION_HEADS, ...REHEARSAL_HEADS]),
];

/** Says it better where the place shows what was meant. */
function explained(
  text: string,
  { line, column, image }: Spot,
  message: string,
  previous: Spot | null = null,
): Problem {
  const words = text.split('\n')[line - 1] ?? '';
  const before = words.slice(0, column - 1);
  const opening = /^(\s*)(\S+)/.exec(words);
  if (line === firstCodeIn(text) && opening && !/^(game|rehearse|part)\b/.test(opening[2] ?? ''))
    return problem(line, (opening[1]?.length ?? 0) + 1, opening[2]?.length ?? 1, BEGINNING);
  const slip = slipIn(words, column);
  if (slip) return problem(line, slip.from + 1, slip.length, slip.message);
  if (/\d\.$/.test(before) && /^\d/.test(image))
    return problem(
      line,
      column - 1,
      1,
      'Numbers are whole: there are no decimals. A range is written with two points, such as 1..5.',
    );
  // A misspelt word at the head of a statement reads as a name, and the parser stumbles further on.
  const statement =
    (before + image).split(/[{}]/).at(-1) ||
    before
      .replace(/[{}]\s*$/, '')
      .split(/[{}]/)
      .at(-1) ||
    '';
  const [, space = '', head] = /^(\s*)([A-Za-z]\w*)/.exec(statement) ?? [];
  if (head !== undefined && !message.includes('Did you mean') && !reservedWords.has(head) && !isDeclared(text, head)) {
    const near = nearest(head, HEADS);
    const place = words.lastIndexOf(statement, column) + space.length + 1;
    if (near && words.startsWith(head, place - 1))
      return problem(line, place, head.length, `"${head}" is not a word of a rule sheet here. Did you mean "${near}"?`);
  }
  // A misspelt word of a clause reads as a name too, and the parser stumbles over the next one.
  if (previous && !message.includes('Did you mean') && !isDeclared(text, previous.image)) {
    const near = words[previous.column - 2] === '.' ? undefined : nearest(previous.image, reservedWords);
    if (near && previous.line === line && previous.image.length > 2)
      return problem(
        line,
        previous.column,
        previous.image.length,
        `"${previous.image}" is not a word of a rule sheet here. Did you mean "${near}"?`,
      );
  }
  return problem(line, column, image.length, message);
}

/** So many declarations are looked at again, each without the broken ones before it. */
const MOST_BROKEN = 10;

interface Reading {
  readonly document: Document;
  /** The first thing that is wrong, where, and where the word before it stands. */
  readonly wrong: { readonly problem: Problem; readonly offset: number; readonly before: number } | null;
}

/** @param text as it was written, for words about its lines @param rest what is read of it */
function read(text: string, rest: string): Reading {
  const { value, lexerErrors, parserErrors } = parserServices().parser.LangiumParser.parse<Document>(rest);
  const [lexed] = lexerErrors;
  if (lexed) {
    const sign = rest[lexed.offset] ?? '';
    const hint = /[♠♥♦♣]/.test(sign) ? ' A card stands in quotes: "A♠".' : '';
    const message = `"${sign}" is not a sign of the language.${hint}`;
    const found = explained(text, { line: lexed.line ?? 1, column: lexed.column ?? 1, image: sign }, message);
    return { document: value, wrong: { problem: found, offset: lexed.offset, before: lexed.offset } };
  }
  const [wrong] = parserErrors;
  if (!wrong) return { document: value, wrong: null };
  const { previousToken } = wrong as { previousToken?: typeof wrong.token };
  // A misspelt keyword reads as a name, and the parser stumbles over the word after it.
  const image = /^"([^"]*)" is not a word/.exec(wrong.message)?.[1];
  const useful =
    previousToken &&
    (Number.isNaN(wrong.token.startOffset) || (image === previousToken.image && image !== wrong.token.image))
      ? previousToken
      : wrong.token;
  const before = useful === wrong.token && previousToken?.tokenType.name === 'ID' ? spotOf(previousToken) : null;
  const found = explained(text, spotOf(useful), wrong.message, before);
  const { startOffset: offset } = useful;
  return { document: value, wrong: { problem: found, offset, before: previousToken?.startOffset ?? offset } };
}

/** A chain that not even the parser can follow. It stands in the longest line, as far as anybody can tell. */
function tooDeepFor(text: string): Problem {
  const lengths = text.split('\n').map((line) => line.length);
  const line = lengths.indexOf(Math.max(...lengths.slice(0, LONGEST_SHEET))) + 1;
  return problem(line, 1, 1, `The sheet nests more than ${DEEPEST_TREE} deep, probably in this line: take it apart.`);
}

/** Reads a sheet or a rehearsal file into its syntax tree; tells the first mistake of each declaration. Never throws. */
export function parse(text: string): Parsed {
  const screened = screen(text);
  if (screened) return { document: undefined, problems: [screened] };
  try {
    const problems: Problem[] = [];
    const declarations = declarationsIn(text);
    const broken = new Set<Stretch>();
    let rest = text;
    for (;;) {
      const { document, wrong } = read(text, rest);
      if (!wrong) {
        const past = problems.length === 0 ? pastLimits(document) : null;
        if (past) problems.push(past);
        return { document: problems.length === 0 ? document : undefined, problems };
      }
      const holding = (offset: number): Stretch | undefined =>
        declarations.find(({ from, to }) => offset >= from && offset < to);
      const found = holding(wrong.offset);
      // Where the first word of a declaration is a word of the language, it is the one before it that lacks its end.
      const isSound = found?.from === wrong.offset && BEGINNINGS.has(/^\w*/.exec(text.slice(found.from))?.[0] ?? '');
      const around = isSound ? (holding(wrong.before) ?? found) : found;
      // What is left of a declaration that was taken out already is a mistake of no other.
      if (problems.length > 0 && (!around || broken.has(around))) return { document: undefined, problems };
      problems.push(wrong.problem);
      if (!around || broken.size === MOST_BROKEN) return { document: undefined, problems };
      broken.add(around);
      rest = blanked(rest, around);
    }
  } catch (error) {
    forgetParser();
    // Where the stack ends depends on the caller: what is that deep is past the limit in any case.
    if (error instanceof RangeError) return { document: undefined, problems: [tooDeepFor(text)] };
    const message = error instanceof Error ? error.message : String(error);
    return { document: undefined, problems: [problem(1, 1, 1, `The sheet could not be read: ${message}`)] };
  }
}
