import { readdirSync, readFileSync } from 'node:fs';
import { performance } from 'node:perf_hooks';
import ts from 'typescript';
import { describe, expect, it } from 'vitest';

const ROOT = new URL('../../', import.meta.url);
/** Where texts of strangers are read. */
const PACKAGES = ['core', 'motley', 'protocol', 'service', 'client', 'cli', 'console'];

/** Every regular expression in the sources, by its place. */
function expressions(): [place: string, expression: RegExp][] {
  const found: [string, RegExp][] = [];
  for (const folder of PACKAGES)
    for (const file of readdirSync(new URL(`${folder}/src`, ROOT), { recursive: true, encoding: 'utf8' })) {
      if (!/\.(ts|vue)$/.test(file)) continue;
      const text = readFileSync(new URL(`${folder}/src/${file}`, ROOT), 'utf8');
      // Of a component, the script is read: templates hold no expressions of their own.
      const script = file.endsWith('.vue') ? (/<script[^>]*>([\s\S]*?)<\/script>/.exec(text)?.[1] ?? '') : text;
      const source = ts.createSourceFile(file, script, ts.ScriptTarget.Latest, true);
      const walk = (node: ts.Node): void => {
        if (ts.isRegularExpressionLiteral(node)) {
          const end = node.text.lastIndexOf('/');
          // The scanner of the grammar tries its own at one place only, and braces and texts are counted before it.
          const flags = file.includes('generated') ? 'y' : node.text.slice(end + 1).replace(/[gy]/g, '');
          found.push([`${folder}/src/${file} ${node.text}`, new RegExp(node.text.slice(1, end), flags)]);
        }
        ts.forEachChild(node, walk);
      };
      walk(source);
    }
  return found;
}

/** What is repeated: pieces that many expressions look for, and the plain characters of the expression itself. */
function pumps(expression: RegExp): string[] {
  const own = expression.source.replace(/\\[a-zA-Z]|[[\](){}|?*+^$.\\]/g, ' ').split(/\s+/);
  const pieces = [
    ' ',
    '\n',
    '\t',
    'a',
    'A',
    '0',
    '/',
    '"',
    '\\',
    '{',
    '}',
    '-',
    '_',
    '.',
    ',',
    '♠',
    ' a',
    'a ',
    '\n ',
    '//\n',
    '0a',
  ];
  return [...new Set([...pieces, ...own, ...own.flatMap((word) => [`${word} `, `${word}\n`, `${word}a`])])].filter(
    (piece) => piece !== '' && piece.length < 12,
  );
}

/** Milliseconds that an expression takes for a text, at best: what comes between is not its own. */
function best(expression: RegExp, text: string): number {
  let least = Number.POSITIVE_INFINITY;
  for (let i = 0; i < 3; i++) {
    const from = performance.now();
    expression.test(text);
    least = Math.min(least, performance.now() - from);
    if (least < NOTHING) break;
  }
  return least;
}

/** Its expressions are given lines of so many characters at most. */
const SHORT_LINES = 'motley/src/grammar/slips.ts';
const SHORT = 4_000;
const LONG = 64_000;
/** Sixteen times the text may take so many times as long, with room for what the machine does besides. */
const RATIO = 40;
/** What takes less is too short to be measured, in milliseconds. */
const NOTHING = 2;

/** Whether it takes too long again and again: a machine that does something else for a moment is no proof. */
function isSlow(expression: RegExp, of: (length: number) => string): boolean {
  for (let tries = 0; tries < 4; tries++) {
    const short = best(expression, of(SHORT));
    if (short <= NOTHING && best(expression, of(LONG)) <= Math.max(NOTHING, RATIO * short)) return false;
  }
  return true;
}

/** The first text that an expression goes through more than once, shortened; `null` where there is none. */
function slowText(expression: RegExp, longest = LONG): string | null {
  const starts = ['', expression.source.replace(/\\[a-zA-Z]|[[\](){}|?*+^$.\\]/g, '').slice(0, 4), '"'];
  for (const pump of pumps(expression))
    for (const start of starts)
      for (const end of ['\u0001', 'a']) {
        const of = (length: number): string => start + pump.repeat(length / pump.length) + end;
        if (longest < LONG ? best(expression, of(longest)) > NOTHING : isSlow(expression, of)) return of(12);
      }
  return null;
}

describe('regular expressions', () => {
  it('the check finds those that go back over their own steps', () => {
    for (const slow of [/^\s*use\s+"/m, /(\d+(?:s|min)?\b)/, /\{[^}]*\}/])
      expect([slow.source, slowText(slow)]).toEqual([slow.source, expect.any(String)]);
    expect(slowText(/[a-z]+/)).toBe(null);
  });

  it('read a text of any kind once', () => {
    const all = expressions();
    expect(all.length).toBeGreaterThan(60);
    const longestFor = (place: string): number => (place.startsWith(SHORT_LINES) ? 300 : LONG);
    expect(
      all.flatMap(([place, expression]) => (slowText(expression, longestFor(place)) === null ? [] : [place])),
    ).toEqual([]);
  });
});
