/** On in another block of the script, by its number. */
export interface Onward {
  readonly to: 'block';
  readonly block: number;
}
/** Back to the caller of a routine: what that is depends on who calls it, known when all blocks are written. */
export interface Back {
  readonly to: 'caller';
  readonly routine: number;
}
export type Jump = Onward | Back;

/** Code under way: text, and between it the jumps whose form is not decided yet. */
export type Code = readonly (string | Jump)[];

/** A template of code: text stands for itself, code is put in as it is. */
export function code(texts: TemplateStringsArray, ...values: readonly (string | number | boolean | Code)[]): Code {
  const parts: (string | Jump)[] = [];
  for (const [i, text] of texts.entries()) {
    if (text !== '') parts.push(text);
    const value = values[i];
    if (value === undefined) continue;
    if (typeof value === 'object') parts.push(...value);
    else parts.push(String(value));
  }
  return parts;
}

export const goTo = (block: number): Code => [{ to: 'block', block }];
export const goBack = (routine: number): Code => [{ to: 'caller', routine }];

/** A jump within the loop around the blocks, as it is written where nothing better is known. */
const written = (jump: Jump): string => {
  if (jump.to === 'caller') throw new Error(`nobody knows yet who calls routine ${jump.routine}`);
  return `{pc=${jump.block};continue run;}`;
};

/** A template of plain text over several lines; its own line breaks and indents are left out. */
export const js = (texts: TemplateStringsArray, ...values: readonly (string | number | boolean)[]): string =>
  texts.map((text, i) => text.replace(/\n\s*/g, '') + (values[i] ?? '')).join('');

/** Code as text, each jump put by `instead`. */
export const textOf = (of: Code, instead: (jump: Jump) => string = written): string =>
  of.map((part) => (typeof part === 'string' ? part : instead(part))).join('');

/** The blocks that code goes on to, one for each jump. */
export const targetsOf = (of: Code): number[] =>
  of.flatMap((part) => (typeof part !== 'string' && part.to === 'block' ? [part.block] : []));

/** Code in which the ways back from a routine are known. */
export const withWayBack = (of: Code, wayBack: (routine: number) => Code): Code =>
  of.flatMap((part) => (typeof part !== 'string' && part.to === 'caller' ? wayBack(part.routine) : [part]));
