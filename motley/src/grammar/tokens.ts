import { DefaultTokenBuilder, type Grammar, type GrammarAST, type TokenBuilderOptions } from '#langium';

const START = 'TEXT_START';
const MIDDLE = 'TEXT_MIDDLE';
const END = 'TEXT_END';
const PLAIN = 'plain';
const INSIDE = 'insideText';

/**
 * Texts hold `{expressions}`, and those may hold texts again. Inside the braces of a text a closing
 * brace goes on with the text; outside it closes a block. Two lexer modes on a stack keep them apart.
 */
export class MotleyTokens extends DefaultTokenBuilder {
  override buildTokens(grammar: Grammar, options?: TokenBuilderOptions) {
    const tokens = super.buildTokens(grammar, options);
    if (!Array.isArray(tokens)) return tokens;
    // A plain closing brace is never the beginning of a text's middle or end: the modes tell them apart.
    for (const token of tokens) if (token.name === '}') delete token.LONGER_ALT;
    return {
      modes: {
        [PLAIN]: tokens.filter((token) => token.name !== MIDDLE && token.name !== END),
        [INSIDE]: tokens.filter((token) => token.name !== '}'),
      },
      defaultMode: PLAIN,
    };
  }

  protected override buildTerminalToken(terminal: GrammarAST.TerminalRule) {
    const token = super.buildTerminalToken(terminal);
    if (token.name === START) token.PUSH_MODE = INSIDE;
    if (token.name === END) token.POP_MODE = true;
    return token;
  }
}
