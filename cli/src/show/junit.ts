import type { RehearsalResult } from '@wily-jester/core';

const escaped = (text: string): string => text.replace(/[<>&"']/g, (sign) => `&#${sign.charCodeAt(0)};`);

/** Rehearsal results in the JUnit form that build servers read. */
export function junitOf(
  suite: string,
  file: string,
  results: readonly (RehearsalResult & { seconds: number })[],
): string {
  const failures = results.filter((result) => !result.passed).length;
  const time = results.reduce((sum, result) => sum + result.seconds, 0);
  const cases = results.map((result) => {
    const open = `    <testcase classname="${escaped(suite)}" name="${escaped(result.title)}" file="${escaped(file)}" line="${result.line}" time="${result.seconds.toFixed(4)}"`;
    if (!result.failure) return `${open}/>`;
    return `${open}>\n      <failure message="${escaped(result.failure.message)}">${escaped(`${file}:${result.failure.line}`)}</failure>\n    </testcase>`;
  });
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    '<testsuites>',
    `  <testsuite name="${escaped(suite)}" tests="${results.length}" failures="${failures}" errors="0" time="${time.toFixed(4)}">`,
    ...cases,
    '  </testsuite>',
    '</testsuites>',
    '',
  ].join('\n');
}
