import {
  eachStmt,
  keptSecrets,
  lineOf,
  looksAt,
  type Pieces,
  type Program,
  type Stmt,
  type Taints,
} from '@wily-jester/core';
import { listed } from '../problems.js';

/** One way in which a sheet lets everybody conclude something about cards that not everybody sees. */
export interface Reveal {
  readonly line: number;
  readonly message: string;
}

/** The hidden things that an expression reads. */
function hiddenIn(program: Program, read: Pieces, taints: Taints = new Map()): string[] {
  const { faces, piles, variables } = looksAt(program, read, taints);
  return [...(faces ? piles : []), ...variables];
}

/** What a statement decides by, and what everybody sees of it. */
function outcome(s: Stmt): { pieces: Pieces; what: string } | undefined {
  switch (s.s) {
    case 'if':
      return { pieces: [s.c], what: 'Which way the script goes here' };
    case 'while':
      return { pieces: [s.c], what: 'How often this is repeated' };
    case 'repeat':
      return { pieces: [s.until], what: 'How often this is repeated' };
    case 'each':
      return { pieces: [s.where, s.list], what: 'Whose turn comes here' };
    case 'say':
      return s.to === null ? { pieces: [s.text], what: 'What is said here' } : undefined;
    case 'set':
      return s.target.k === 'score' ? { pieces: [s.e], what: 'This score' } : undefined;
    case 'deal':
      return { pieces: [s.count], what: 'How many cards are dealt here' };
    default:
      return undefined;
  }
}

/**
 * What a sheet reveals by how it runs: where the script, which sees everything, decides or says something
 * by cards or variables that not everybody sees. It is a list to think about, not of mistakes: the cards
 * may lie face up by then.
 */
export function revealsOf(program: Program): Reveal[] {
  const found: Reveal[] = [];
  const add = (at: number, what: string, hidden: readonly string[]): void => {
    const names = listed([...new Set(hidden)].map((name) => `"${name}"`));
    if (names !== '')
      found.push({ line: lineOf(at), message: `${what} depends on ${names}: all who watch may conclude something.` });
  };
  for (const routine of program.routines) {
    const taints = new Map<number, readonly string[]>();
    eachStmt(routine.body, program.asks, (s) => {
      if (s.s === 'let') taints.set(s.local, hiddenIn(program, [s.e], taints));
      const seen = outcome(s);
      // A card in a text is named only to those who see it; a value made of its face is said to all.
      if (seen) add(s.at, seen.what, hiddenIn(program, seen.pieces, taints));
      if (s.s === 'set' && s.target.k === 'var') {
        const variable = program.vars[s.target.i];
        if (variable && variable.label !== null && !variable.hidden)
          add(s.at, `The value of "${variable.name}", which is drawn on the table,`, hiddenIn(program, [s.e], taints));
      }
    });
  }
  for (const ask of program.asks) {
    for (const option of ask.options)
      add(option.at, `That "${option.name}" may be chosen`, hiddenIn(program, [option.when]));
    if (ask.stuck) {
      const pieces = ask.options.flatMap((option) => [option.when, ...option.needs.map((need) => need.e)]);
      add(
        ask.at,
        'Whether the seat is stuck',
        pieces.flatMap((piece) => hiddenIn(program, [piece])),
      );
    }
  }
  for (const { variable, of, at } of keptSecrets(program)) {
    const message = `"${variable}", which nobody is shown, keeps something of ${listed(of.map((name) => `"${name}"`))}: a seat that thinks does not know it, unless it is told.`;
    found.push({ line: lineOf(at), message });
  }
  return [...new Map(found.map((reveal) => [`${reveal.line} ${reveal.message}`, reveal])).values()].sort(
    (a, b) => a.line - b.line,
  );
}
