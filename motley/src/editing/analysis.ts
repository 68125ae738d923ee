import type { Program } from '@wily-jester/core';
import { CONSTANTS, FUNCTIONS } from '../compile/builtins.js';
import { compileRehearsals } from '../compile/rehearsal.js';
import type { Sheet } from '../compile/scope.js';
import { compileSheet } from '../compile/sheet.js';
import { keywords, parse } from '../grammar/parse.js';
import type { Problem } from '../problems.js';
import { describe, MEMBERS } from './describe.js';
import { type Occurrence, occurrenceAt, occurrencesIn, type Space, sameThing } from './occurrences.js';

/** Something that may stand where somebody types. */
export interface Suggestion {
  readonly name: string;
  readonly kind: 'keyword' | 'function' | 'member' | Space;
  readonly detail: string | undefined;
}

/** A name cannot be changed; the message says why. */
export class RenameError extends Error {
  override readonly name = 'RenameError';
}

/**
 * What an editor wants to know of one text. While the text cannot be read, names are those of the last
 * text that could.
 */
export class Analysis {
  private constructor(
    readonly text: string,
    readonly problems: readonly Problem[],
    private readonly names: readonly Occurrence[],
    private readonly sheet: Sheet | undefined,
    private readonly program: Program | undefined,
    /** The names belong to this text, and not to one before it. */
    private readonly current: boolean,
  ) {}

  /** Looks at a sheet. @param before what was known of it before this change */
  static ofSheet(text: string, before?: Analysis): Analysis {
    const { problems, sheet, program } = compileSheet(text);
    const { document } = parse(text);
    return document
      ? new Analysis(text, problems, occurrencesIn(document), sheet, program, true)
      : new Analysis(text, problems, before?.names ?? [], before?.sheet, before?.program, false);
  }

  /** Looks at a file of rehearsals, beside the sheet that they test. */
  static ofRehearsals(text: string, sheetText: string, before?: Analysis): Analysis {
    const { problems } = compileRehearsals(text, sheetText);
    const { sheet, program } = compileSheet(sheetText);
    const { document } = parse(text);
    return new Analysis(
      text,
      problems,
      document ? occurrencesIn(document) : (before?.names ?? []),
      sheet,
      program,
      document !== undefined,
    );
  }

  private at(offset: number): Occurrence | undefined {
    return this.current ? occurrenceAt(this.names, offset) : undefined;
  }

  /** What stands at a place, in words. */
  hover(offset: number): { readonly text: string; readonly offset: number; readonly end: number } | undefined {
    const one = this.at(offset);
    if (!one || !this.sheet) return undefined;
    const text =
      one.scope === null
        ? (describe(this.sheet, this.program, one.name, one.space) ?? MEMBERS[one.name])
        : `${one.name}: a name of this ${WHERE[one.scope.$type] ?? 'block'}`;
    return text === undefined ? undefined : { text, offset: one.offset, end: one.end };
  }

  /** Where the thing at a place is declared; options may be declared by several asks. */
  definitions(offset: number): Occurrence[] {
    const one = this.at(offset);
    if (!one) return [];
    const same = sameThing(this.names, one);
    const declared = same.filter((other) => other.declares);
    return declared.length > 0 ? declared : same.slice(0, 1).filter((first) => first.scope !== null);
  }

  /** All places where the thing at a place stands. */
  references(offset: number): Occurrence[] {
    const one = this.at(offset);
    return one ? sameThing(this.names, one) : [];
  }

  /**
   * The places that a new name would change.
   * @throws RenameError where nothing there has a name of its own, or the new one would not do
   */
  rename(offset: number, name: string): Occurrence[] {
    const one = this.at(offset);
    if (!one || this.definitions(offset).length === 0)
      throw new RenameError('Only what this sheet declares can be given another name.');
    if (!/^[A-Za-z][A-Za-z0-9_]*$/.test(name))
      throw new RenameError(`"${name}" is no name: letters and digits, a letter first.`);
    if (keywords().includes(name)) throw new RenameError(`"${name}" is a word of the language and cannot be a name.`);
    if (one.space === 'name' && (FUNCTIONS[name] || CONSTANTS[name]))
      throw new RenameError(`"${name}" is a name of the language's own.`);
    const taken = this.names.find((other) => other.name === name && other.space === one.space && other.declares);
    if (taken) throw new RenameError(`"${name}" is declared already. Every name means one thing.`);
    return sameThing(this.names, one);
  }

  /** What may stand at a place, by what stands before it. */
  suggestions(offset: number): Suggestion[] {
    const before = this.text.slice(Math.max(0, offset - 80), offset);
    const afterPoint = /\.\s*\w*$/.test(before) && !/\.\.\s*\w*$/.test(before);
    const say = (name: string, space: Space): string | undefined =>
      this.sheet && describe(this.sheet, this.program, name, space)?.split('\n')[0];
    if (afterPoint) {
      const kept = [
        ...(this.sheet?.vars ?? []).filter((v) => v.of.k !== 'table'),
        ...(this.sheet?.piles ?? []).filter((p) => p.perSeat || p.by === 'team'),
      ].map(({ name }): Suggestion => ({ name, kind: 'name', detail: say(name, 'name') }));
      return [
        ...kept,
        ...Object.entries(MEMBERS).map(([name, detail]): Suggestion => ({ name, kind: 'member', detail })),
      ];
    }
    const declared = new Map<string, Suggestion>();
    for (const one of this.names)
      if (one.declares && one.scope === null && one.space === 'name')
        declared.set(one.name, { name: one.name, kind: 'name', detail: say(one.name, 'name') });
    for (const one of this.names)
      if (one.scope?.$cstNode && one.scope.$cstNode.offset <= offset && offset <= one.scope.$cstNode.end)
        declared.set(one.name, { name: one.name, kind: 'name', detail: undefined });
    const options = /\b(within\s+\w+\s+else|or|can)\s+\w*$/.test(before) ? [...(this.sheet?.optionNames ?? [])] : [];
    return [
      ...options.map((name): Suggestion => ({ name, kind: 'option', detail: say(name, 'option') })),
      ...declared.values(),
      ...Object.entries(FUNCTIONS).map(([name, detail]): Suggestion => ({ name, kind: 'function', detail })),
      ...keywords().map((name): Suggestion => ({ name, kind: 'keyword', detail: undefined })),
    ];
  }

  /** What the sheet declares, in its order, for an outline. */
  outline(): readonly {
    readonly name: string;
    readonly detail: string;
    readonly offset: number;
    readonly end: number;
  }[] {
    return this.names
      .filter((one) => one.declares && one.scope === null && this.current)
      .map((one) => {
        const detail = (this.sheet && describe(this.sheet, this.program, one.name, one.space)) ?? one.name;
        return { name: one.name, detail: detail.split(/[ \n]/)[0] ?? '', offset: one.offset, end: one.end };
      });
  }
}

const WHERE: Readonly<Record<string, string>> = {
  Lambda: 'short function',
  Routine: 'routine',
  Def: 'def',
  Option: 'option',
  ForEach: 'loop',
  ForCount: 'loop',
  Ask: 'ask',
  PileDecl: 'family',
};
