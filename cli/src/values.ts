import type { OfferedOption } from '@wily-jester/protocol';
import { Exit, WRONG_USE } from './exit.js';

export type Typed = string | number | boolean | string[];

/**
 * Reads what somebody typed after an option: `20`, or `amount=20`. Numbers and yes/no are read as such;
 * a choice of several cards takes all that are left, parted by blanks or commas.
 */
export function argsFrom(offer: OfferedOption, words: readonly string[]): Record<string, Typed> {
  const args: Record<string, Typed> = {};
  const several = offer.params.length === 1 && offer.params[0]?.type === 'list:card' ? offer.params[0] : undefined;
  if (several)
    return { [several.name]: cardsFrom(words.map((word) => word.replace(new RegExp(`^${several.name}=`), ''))) };
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
    if (param.type === 'list:card') args[param.name] = cardsFrom([given]);
    else
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
export function plainArgs(words: readonly string[]): Record<string, Typed> {
  const args: Record<string, Typed> = {};
  for (const word of words) {
    const [, name, text] = /^(\w+)=(.*)$/.exec(word) ?? [];
    if (name !== undefined && text !== undefined)
      args[name] = text.includes(',')
        ? cardsFrom([text])
        : text === 'yes'
          ? true
          : text === 'no'
            ? false
            : numberOr(text);
  }
  return args;
}

/** Cards as people type them: with or without brackets, commas or quotes. */
const cardsFrom = (words: readonly string[]): string[] =>
  words.flatMap((word) => word.split(/[\s,[\]"'()]+/)).filter(Boolean);

const numberOr = (text: string): number | string => (/^-?\d+$/.test(text) ? Number(text) : text);
