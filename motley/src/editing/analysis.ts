import type { Program } from '@wily-jester/core';
import { compileRehearsals } from '../compile/rehearsal.js';
import { type Compiled, compileSheet } from '../compile/sheet.js';
import { KEYWORDS } from '../grammar/generated/words.js';
import { parse } from '../grammar/parse.js';
import { checkPart } from '../parts/paste.js';
import type { Problem } from '../problems.js';
import { CONSTANTS, FUNCTIONS } from '../symbols/builtins.js';
import type { Sheet } from '../symbols/scope.js';
import { describe, MEMBERS } from './describe.js';
import { type Family, type FamilyFile, partName } from './family.js';
import { membersAt } from './members.js';
import { type Occurrence, occurrenceAt, occurrencesIn, type Space, sameThing } from './occurrences.js';
import { callAround, wordStart } from './shape.js';
import { WORDS } from './words.js';

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

/** A name where it stands, in one of the files that tell a game. */
export interface Place extends Occurrence {
  readonly uri: string;
}

/**
 * What an editor wants to know of one text, among the files that tell a game with it. While the text cannot be read,
 * names are those of the last text that could.
 */
export class Analysis {
  private constructor(
    readonly family: Family,
    readonly problems: readonly Problem[],
    private readonly names: readonly Occurrence[],
    private readonly sheet: Sheet | undefined,
    private readonly program: Program | undefined,
    /** The names belong to this text, and not to one before it. */
    private readonly current: boolean,
  ) {}

  /** Looks at a text. @param before what was known of it before this change */
  static of(family: Family, before?: Analysis): Analysis {
    const { self, parts } = family;
    const compiled = family.sheet && compileSheet(family.sheet.text, parts);
    const { document } = parse(self.text);
    return new Analysis(
      family,
      problemsOf(family, compiled),
      document ? occurrencesIn(document) : (before?.names ?? []),
      compiled?.sheet ?? before?.sheet,
      compiled?.sheet ? compiled.program : before?.program,
      document !== undefined,
    );
  }

  /** The program of this very text, where it is a sheet's and nothing is wrong with it. */
  get playable(): Program | undefined {
    return this.current && !this.problems.some(({ severity }) => severity === 'error') ? this.program : undefined;
  }

  get text(): string {
    return this.family.self.text;
  }

  private at(offset: number): Occurrence | undefined {
    return this.current ? occurrenceAt(this.names, offset) : undefined;
  }

  /** All places of the name at an occurrence, in all files of the game. */
  private everywhere(one: Occurrence): Place[] {
    const { self } = this.family;
    const here = sameThing(this.names, one).map((other): Place => ({ ...other, uri: self.uri }));
    return one.scope === null ? [...here, ...this.elsewhere(one)] : here;
  }
  private elsewhere(one: Occurrence): Place[] {
    return this.others.flatMap(({ file, names }) =>
      sameThing(names, { ...one, scope: null }).map((other): Place => ({ ...other, uri: file.uri })),
    );
  }

  /** The names of the other files, where they can be read. */
  private get others(): readonly { readonly file: FamilyFile; readonly names: readonly Occurrence[] }[] {
    this.othersFound ??= this.family.files
      .filter((file) => file.uri !== this.family.self.uri)
      .map((file) => {
        const { document } = parse(file.text);
        return { file, names: document ? occurrencesIn(document) : [] };
      });
    return this.othersFound;
  }
  private othersFound: readonly { readonly file: FamilyFile; readonly names: readonly Occurrence[] }[] | undefined;

  /** What stands at a place, in words. */
  hover(offset: number): { readonly text: string; readonly offset: number; readonly end: number } | undefined {
    const one = this.at(offset);
    if (!one || !this.sheet) return this.wordAt(offset);
    const text =
      one.scope === null
        ? (describe(this.sheet, this.program, one.name, one.space) ?? MEMBERS[one.name])
        : `${one.name}: a name of this ${WHERE[one.scope.$type] ?? 'block'}`;
    return text === undefined ? undefined : { text, offset: one.offset, end: one.end };
  }

  /** A word of the language, or a function of it, in words; in texts and notes there are none. */
  private wordAt(offset: number): { readonly text: string; readonly offset: number; readonly end: number } | undefined {
    const start = wordStart(this.text, offset);
    const word = /^[A-Za-z]\w*/.exec(this.text.slice(start, start + 60))?.[0] ?? '';
    const line = this.text.slice(this.text.lastIndexOf('\n', start - 1) + 1, start);
    const isInText = (line.match(/"/g)?.length ?? 0) % 2 === 1 || line.includes('//');
    const text = isInText ? undefined : (FUNCTIONS[word]?.usage ?? WORDS[word]);
    return text === undefined ? undefined : { text, offset: start, end: start + word.length };
  }

  /** How the call around a place is written, and which of its values stands there. */
  signature(offset: number): { readonly label: string; readonly index: number } | undefined {
    const call = callAround(this.text, offset);
    if (!call) return undefined;
    const usage = FUNCTIONS[call.name]?.usage;
    const declared = this.sheet && describe(this.sheet, this.program, call.name, 'name');
    const option = this.sheet && describe(this.sheet, this.program, call.name, 'option');
    const label = usage ?? declared?.split('\n')[0] ?? option;
    return label?.includes('(') ? { label, index: call.index } : undefined;
  }

  /** Where the thing at a place is declared; options may be declared by several asks. */
  definitions(offset: number): Place[] {
    const one = this.at(offset);
    if (!one) return [];
    const same = this.everywhere(one);
    const declared = same.filter((other) => other.declares);
    return declared.length > 0 ? declared : same.slice(0, 1).filter((first) => first.scope !== null);
  }

  /** All places where the thing at a place stands. */
  references(offset: number): Place[] {
    const one = this.at(offset);
    return one ? this.everywhere(one) : [];
  }

  /**
   * The places that a new name would change, in all files of the game.
   * @throws RenameError where nothing there has a name of its own, or the new one would not do
   */
  rename(offset: number, name: string): Place[] {
    const one = this.at(offset);
    if (!one || this.definitions(offset).length === 0)
      throw new RenameError('Only what this sheet declares can be given another name.');
    if (!/^[A-Za-z][A-Za-z0-9_]*$/.test(name))
      throw new RenameError(`"${name}" is no name: letters and digits, a letter first.`);
    if (KEYWORDS.includes(name)) throw new RenameError(`"${name}" is a word of the language and cannot be a name.`);
    if (one.space === 'name' && (FUNCTIONS[name] || CONSTANTS[name]))
      throw new RenameError(`"${name}" is a name of the language's own.`);
    const taken = [this.names, ...this.others.map(({ names }) => names)].some((names) =>
      names.some((other) => other.name === name && other.space === one.space && other.declares),
    );
    if (taken) throw new RenameError(`"${name}" is declared already. Every name means one thing.`);
    const places = this.everywhere(one);
    const bundled = this.family.files.find((file) => file.isBundled && places.some(({ uri }) => uri === file.uri));
    if (bundled)
      throw new RenameError(`A part that comes with the language speaks of "${one.name}", and keeps that name.`);
    return places;
  }

  /** What may stand at a place, by what stands before it. */
  suggestions(offset: number): Suggestion[] {
    const before = this.text.slice(Math.max(0, offset - 80), offset);
    const afterPoint = /\.\s*\w*$/.test(before) && !/\.\.\s*\w*$/.test(before);
    const say = (name: string, space: Space): string | undefined =>
      this.sheet && describe(this.sheet, this.program, name, space)?.split('\n')[0];
    if (afterPoint) {
      const point = this.text.lastIndexOf('.', offset - 1);
      const known = this.sheet && membersAt(this.sheet, this.text, point);
      if (known)
        return known.map((name): Suggestion => {
          const detail = say(name, 'name');
          return detail ? { name, kind: 'name', detail } : { name, kind: 'member', detail: MEMBERS[name] };
        });
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
    for (const one of [...this.names, ...this.others.flatMap(({ names }) => names)])
      if (one.declares && one.scope === null && one.space === 'name')
        declared.set(one.name, { name: one.name, kind: 'name', detail: say(one.name, 'name') });
    for (const one of this.names)
      if (one.scope?.$cstNode && one.scope.$cstNode.offset <= offset && offset <= one.scope.$cstNode.end)
        declared.set(one.name, { name: one.name, kind: 'name', detail: undefined });
    const options = /\b(within\s+\w+\s+else|or|can)\s+\w*$/.test(before) ? [...(this.sheet?.optionNames ?? [])] : [];
    return [
      ...options.map((name): Suggestion => ({ name, kind: 'option', detail: say(name, 'option') })),
      ...declared.values(),
      ...Object.entries(FUNCTIONS).map(([name, { usage }]): Suggestion => ({ name, kind: 'function', detail: usage })),
      ...KEYWORDS.map((name): Suggestion => ({ name, kind: 'keyword', detail: undefined })),
    ];
  }

  /** What the sheet declares, in its order, and where its script begins, for an outline. */
  outline(): readonly {
    readonly name: string;
    readonly detail: string;
    readonly offset: number;
    readonly end: number;
  }[] {
    const declared = this.names
      .filter((one) => one.declares && one.scope === null && this.current)
      .map((one) => {
        const detail = (this.sheet && describe(this.sheet, this.program, one.name, one.space)) ?? one.name;
        return { name: one.name, detail: detail.split(/[ \n]/)[0] ?? '', offset: one.offset, end: one.end };
      });
    const script = /^[ \t]*play[ \t]*\{/m.exec(this.family.self.text);
    const at = script ? script.index + script[0].indexOf('play') : 0;
    const play = script && this.current ? [{ name: 'play', detail: 'script', offset: at, end: at + 4 }] : [];
    return [...declared, ...play].sort((a, b) => a.offset - b.offset);
  }
}

/** What is wrong with the text that is looked at. */
function problemsOf({ self, sheet, parts }: Family, compiled: Compiled | undefined): readonly Problem[] {
  if (self.kind === 'rehearsals') return compileRehearsals(self.text, sheet?.text ?? '', parts).problems;
  if (self.kind === 'sheet') return compiled?.problems ?? [];
  // A part is checked as the sheet beside it uses it; alone, only as far as that goes.
  const alone = checkPart(self.text).problems;
  return alone.length > 0 ? alone : (compiled?.inPart(partName(self)) ?? []);
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
