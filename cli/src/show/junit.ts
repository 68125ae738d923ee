import type { RehearsalResult, SoakReport } from '@wily-jester/core';
import type { Problem } from '@wily-jester/motley';

const escaped = (text: string): string => text.replace(/[<>&"']/g, (sign) => `&#${sign.charCodeAt(0)};`);

/** One test: what it is called, where it stands, and what went wrong. */
interface Case {
  readonly title: string;
  readonly line: number;
  readonly seconds: number;
  readonly failure: { readonly line: number; readonly message: string } | null;
}

/** The tests of one file. */
export interface Suite {
  readonly name: string;
  readonly file: string;
  readonly cases: readonly Case[];
}

/** A sheet's rehearsals as a suite. */
export const rehearsalSuite = (
  name: string,
  file: string,
  results: readonly (RehearsalResult & { seconds: number })[],
): Suite => ({ name, file, cases: results });

/** A check as a suite: a test for each problem that is an error, or one that passes. */
export function checkSuite(file: string, problems: readonly Problem[]): Suite {
  const errors = problems.filter(({ severity }) => severity === 'error');
  const cases = errors.map(({ line, message }) => ({ title: message, line, seconds: 0, failure: { line, message } }));
  return {
    name: file,
    file,
    cases: cases.length > 0 ? cases : [{ title: 'check', line: 1, seconds: 0, failure: null }],
  };
}

/** A soak as a suite: a test for each game that went wrong or did not end, or one that passes. */
export function soakSuite(file: string, { failures, endless }: SoakReport, seconds: number): Suite {
  const cases = [
    ...failures.map(({ game, choice, line, what }) => ({
      title: `game ${game}, after choice ${choice}`,
      failure: { line: line ?? 1, message: what },
    })),
    ...endless.map((game) => ({ title: `game ${game}`, failure: { line: 1, message: 'This game did not end.' } })),
  ].map((each) => ({ ...each, line: each.failure.line, seconds: seconds / (failures.length + endless.length) }));
  return {
    name: file,
    file,
    cases: cases.length > 0 ? cases : [{ title: 'soak', line: 1, seconds, failure: null }],
  };
}

/** Results in the JUnit form that build servers read. */
export function junitOf(suites: readonly Suite[]): string {
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    '<testsuites>',
    ...suites.flatMap(suiteLines),
    '</testsuites>',
    '',
  ].join('\n');
}

function suiteLines({ name, file, cases }: Suite): string[] {
  const failures = cases.filter(({ failure }) => failure !== null).length;
  const time = cases.reduce((sum, each) => sum + each.seconds, 0);
  return [
    `  <testsuite name="${escaped(name)}" tests="${cases.length}" failures="${failures}" errors="0" time="${time.toFixed(4)}">`,
    ...cases.map(({ title, line, seconds, failure }) => {
      const open = `    <testcase classname="${escaped(name)}" name="${escaped(title)}" file="${escaped(file)}" line="${line}" time="${seconds.toFixed(4)}"`;
      if (!failure) return `${open}/>`;
      return `${open}>\n      <failure message="${escaped(failure.message)}">${escaped(`${file}:${failure.line}`)}</failure>\n    </testcase>`;
    }),
    '  </testsuite>',
  ];
}
