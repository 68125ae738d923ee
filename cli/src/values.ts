import type { OfferedOption } from '@wily-jester/protocol';
import { Exit, WRONG_USE } from './exit.js';

/** Reads what somebody typed after an option: `20`, or `amount=20`. Numbers and yes/no are read as such. */
export function argsFrom(offer: OfferedOption, words: readonly string[]): Record<string, string | number | boolean> {
  const args: Record<string, string | number | boolean> = {};
  for (const [i, word] of words.entries()) {
    const [, name, text] = /^(\w+)=(.*)$/.exec(word) ?? [];
    const param = name === undefined ? offer.params[i] : offer.params.find((p) => p.name === name);
    if (!param) {
      const takes = offer.params.map((p) => p.name).join(', ');
      throw new Exit(
        `"${offer.option}" takes no "${word}".`,
        WRONG_USE,
        takes ? `It takes ${takes}.` : 'It takes nothing.',
      );
    }
    const given = text ?? word;
    args[param.name] =
      param.type === 'int' || param.type === 'seat'
        ? numberOr(given)
        : param.type === 'flag'
          ? given === 'yes' || given === 'true'
          : given;
  }
  return args;
}

/** Reads `amount=20` where no offer says what is meant: the service judges it. */
export function plainArgs(words: readonly string[]): Record<string, string | number | boolean> {
  const args: Record<string, string | number | boolean> = {};
  for (const word of words) {
    const [, name, text] = /^(\w+)=(.*)$/.exec(word) ?? [];
    if (name !== undefined && text !== undefined)
      args[name] = text === 'yes' ? true : text === 'no' ? false : numberOr(text);
  }
  return args;
}

const numberOr = (text: string): number | string => (/^-?\d+$/.test(text) ? Number(text) : text);
