import { LangiumParserErrorMessageProvider } from '#langium';
import { listed, nearest } from '../problems.js';
import { KEYWORDS } from './generated/words.js';

// The parser library's own types for these hooks are not exported; these are the parts that are used.
interface Token {
  readonly image: string;
  readonly tokenType: TokenType;
}
interface TokenType {
  readonly name: string;
}

/** The reserved words of the language. */
export const reservedWords: ReadonlySet<string> = new Set(KEYWORDS);

const PLAIN_NAMES: Readonly<Record<string, string>> = {
  ID: 'a name',
  INT: 'a whole number',
  TEXT_WHOLE: 'a text in quotes',
  TEXT_START: 'a text in quotes',
  TEXT_MIDDLE: 'the rest of the text',
  TEXT_END: 'the rest of the text',
  DURATION: 'a time such as 30s',
  EOF: 'the end of the sheet',
};

const shown = (type: TokenType): string => PLAIN_NAMES[type.name] ?? `"${type.name}"`;
const found = (token: Token): string =>
  token.tokenType.name === 'EOF' ? 'the sheet ends' : `there is "${token.image}"`;

/** What the parser expected, in plain words, with the nearest word where something looks misspelt. */
export class PlainMessages extends LangiumParserErrorMessageProvider {
  private misspelt(actual: Token, expected: readonly TokenType[]): string | undefined {
    const expectedWords = expected.map((type) => type.name).filter((name) => /^[a-z]+$/.test(name));
    // A word at the head of a line is looked at where the line is known.
    if (actual.tokenType.name !== 'ID') return undefined;
    const near = nearest(actual.image, expectedWords);
    return near && `"${actual.image}" is not a word of a rule sheet here. Did you mean "${near}"?`;
  }

  private sentence(actual: Token, previous: Token | undefined, expected: readonly TokenType[]): string {
    const near = this.misspelt(actual, expected);
    if (near) return near;
    if (actual.image === 'score' && expected.some((type) => type.name === 'ID'))
      return 'A score is read after its seat, such as s.score; "score s += 1" is a statement of its own.';
    if (reservedWords.has(actual.image) && expected.some((type) => type.name === 'ID'))
      return `"${actual.image}" is a word of the language and cannot be a name here. Choose another name.`;
    const names = [...new Set(expected.map(shown))];
    const after = previous?.image ? ` after "${previous.image}"` : '';
    if (names.length === 0) return `${sentenceCase(found(actual))}${after}, which does not fit.`;
    const few = names.length > 6 ? [...names.slice(0, 5), 'or the like'].join(', ') : listed(names, 'or');
    return `${sentenceCase(found(actual))}${after}, where ${few} should be.`;
  }

  override buildMismatchTokenMessage(options: { expected: TokenType; actual: Token; previous: Token }): string {
    return this.sentence(options.actual, options.previous, [options.expected]);
  }

  override buildNoViableAltMessage(options: {
    expectedPathsPerAlt: TokenType[][][];
    actual: Token[];
    previous: Token;
  }): string {
    const first = options.expectedPathsPerAlt.flat().flatMap((path) => path.slice(0, 1));
    return this.sentence(options.actual[0] as Token, options.previous, first);
  }

  override buildEarlyExitMessage(options: {
    expectedIterationPaths: TokenType[][];
    actual: Token[];
    previous: Token;
  }): string {
    const first = options.expectedIterationPaths.flatMap((path) => path.slice(0, 1));
    return this.sentence(options.actual[0] as Token, options.previous, first);
  }

  override buildNotAllInputParsedMessage(options: { firstRedundant: Token }): string {
    return `The sheet ends before "${options.firstRedundant.image}": one brace too many, or a second game in the file.`;
  }
}

function sentenceCase(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}
