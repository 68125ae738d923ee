import { existsSync } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import { basename } from 'node:path';
import {
  Coverage,
  columnOf,
  lineOf,
  type PointKind,
  type Program,
  type RehearsalResult,
  rehearse,
} from '@wily-jester/core';
import type { Problem, Reveal } from '@wily-jester/motley';
import { RELEASE } from '@wily-jester/protocol';
import type { Command } from 'commander';
import { Exit, NO, WRONG_USE } from '../exit.js';
import {
  checkText,
  eachFile,
  INPUT,
  inTime,
  partsFor,
  readSheet,
  readText,
  rehearsalsOf,
  sheetsAmong,
} from '../files.js';
import { language } from '../language.js';
import { checkSuite, junitOf, rehearsalSuite, type Suite } from '../show/junit.js';
import { paint } from '../show/paint.js';
import { placeJson, placeWords } from '../show/places.js';
import { print, printJson, write } from '../show/print.js';
import { problemLines } from '../show/problems.js';
import { sarifOf } from '../show/sarif.js';
import { starter } from '../starter.js';

async function newSheet(name: string): Promise<void> {
  const words = name.replace(/\.motley$/, '').trim();
  const slug = words
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '');
  if (!slug) throw new Exit(`"${name}" is no name for a sheet: use letters, such as "River Nines".`, WRONG_USE);
  const title =
    words.includes('-') || words === words.toLowerCase()
      ? slug
          .split('-')
          .map((w) => w.charAt(0).toUpperCase() + w.slice(1))
          .join(' ')
      : words;
  const file = `${slug}.motley`;
  for (const path of [file, rehearsalsOf(file)])
    if (existsSync(path)) throw new Exit(`${path} is there already; nothing was written.`, NO, 'Choose another name.');
  const { sheet, rehearsals } = await starter(title);
  await writeFile(file, sheet);
  await writeFile(rehearsalsOf(file), rehearsals);
  print(`${file} is a small game that works, and ${rehearsalsOf(file)} tests it.`);
  print(paint.dim(`Next: ./wily play ${file} · ./wily rehearse ${file}`));
}

interface CheckOptions {
  json?: boolean;
  reveals?: boolean;
  whole?: boolean;
  junit?: string;
  sarif?: string;
}

/** What a check found in one file. */
interface Found {
  readonly file: string;
  readonly problems: readonly Problem[];
  readonly json: object;
}

async function check(named: readonly string[], options: CheckOptions): Promise<void> {
  const files = sheetsAmong(named);
  const found = await eachFile(files, (file) => checkFile(file, options));
  if (options.json) printJson(files.length === 1 ? found[0]?.json : found.map(({ json }) => json));
  if (options.junit !== undefined)
    await writeFile(options.junit, junitOf(found.map(({ file, problems }) => checkSuite(file, problems))));
  if (options.sarif !== undefined)
    await writeFile(options.sarif, `${JSON.stringify(sarifOf(RELEASE, found), null, 2)}\n`);
  if (found.some(({ problems }) => problems.some(({ severity }) => severity === 'error'))) process.exitCode ||= NO;
}

async function checkFile(file: string, options: CheckOptions): Promise<Found> {
  const { problemsOfPart, revealsOf } = await language();
  const written = await readText(file);
  const inPart = await inTime(file, () => problemsOfPart(written));
  if (inPart) return checkedPart(file, written, inPart, options.json === true);
  const { problems, source, text, lines, program, looks } = await checkText(file, written);
  const errors = problems.filter((p) => p.severity === 'error').length;
  const reveals = options.reveals && program ? revealsOf(program) : undefined;
  const json = {
    file,
    ok: errors === 0,
    lines,
    problems,
    looks,
    ...(program && reveals ? { reveals: reveals.map((r) => ({ ...r, ...placeJson(program, r.line) })) } : {}),
  };
  const found = { file, problems, json };
  if (options.whole && errors === 0) print(text.trimEnd());
  if (options.json || (options.whole && errors === 0)) return found;
  for (const line of problemLines(problems, file, source)) print(line);
  const warnings = problems.length - errors;
  const also = warnings > 0 ? ` ${warnings} ${warnings === 1 ? 'warning' : 'warnings'}.` : '';
  if (program)
    print(`${paint.green('✓')} ${program.name}: ${lines - 1} lines, nothing wrong.${also}${lookWords(looks)}`);
  else print(`${errors} ${errors === 1 ? 'error' : 'errors'}.${also}`);
  if (reveals && program) showReveals(program, reveals, file, text);
  return found;
}

/** The looks that a sheet declares: its author answers for them, and whoever checks it should see them. */
function lookWords(looks: readonly { readonly line: number; readonly reason: string }[]): string {
  if (looks.length === 0) return '';
  const each = looks.map(({ line, reason }) => `line ${line}, ${reason}`).join('; ');
  return ` ${looks.length} ${looks.length === 1 ? 'look' : 'looks'} declared: ${each}.`;
}

/** A part by itself: its names are known only with the sheet that uses it. */
function checkedPart(file: string, source: string, problems: readonly Problem[], isForMachines: boolean): Found {
  const lines = source.trimEnd().split('\n').length;
  const json = { file, ok: problems.length === 0, part: true, lines, problems };
  if (isForMachines) return { file, problems, json };
  for (const line of problemLines(problems, file, source)) print(line);
  if (problems.length === 0)
    print(
      `${paint.green('✓')} ${basename(file)} is a part: ${lines} lines, nothing wrong by itself. Check the sheet that uses it, too.`,
    );
  return { file, problems, json };
}

/** What the sheet lets everybody conclude by how it runs. */
function showReveals(program: Program, reveals: readonly Reveal[], file: string, source: string): void {
  const lines = source.split('\n');
  print(
    reveals.length === 0
      ? 'It reveals nothing by how it runs: nothing that all see depends on hidden cards.'
      : 'What hangs on hidden cards (unless they lie face up by then):',
  );
  for (const { line, message } of reveals)
    print(`  ${placeWords(program, file, line)} ${message}\n    ${paint.dim((lines[line - 1] ?? '').trim())}`);
}

async function formatFiles(files: readonly string[], options: { check?: boolean }): Promise<void> {
  await eachFile(files, (file) => formatFile(file, options));
}

async function formatFile(file: string, options: { check?: boolean }): Promise<void> {
  const source = await readText(file);
  const { format } = await language();
  const formatted = format(source);
  // What comes by a pipe goes on by one.
  if (file === INPUT && !options.check) return write(formatted);
  if (formatted === source) return print(`${file} is laid out well.`);
  if (options.check)
    throw new Exit(`${file} is not laid out as it should be.`, NO, `Lay it out with: ./wily format ${file}`);
  await writeFile(file, formatted);
  print(`${file} was laid out anew.`);
}

interface RehearseOptions {
  json?: boolean;
  junit?: string;
  coverage?: boolean;
}

async function runRehearsals(files: readonly string[], options: RehearseOptions): Promise<void> {
  const several = files.length > 1;
  const done = await eachFile(files, (file) => rehearseFile(file, options, several));
  if (options.junit !== undefined) await writeFile(options.junit, junitOf(done.map(({ suite }) => suite)));
  if (options.json) printJson(several ? done.map(({ json }) => json) : done[0]?.json);
  if (done.some(({ failed }) => failed > 0)) process.exitCode ||= NO;
}

async function rehearseFile(
  file: string,
  options: RehearseOptions,
  several: boolean,
): Promise<{ suite: Suite; json: object; failed: number }> {
  const sheetFile = file.replace(/\.rehearsal\.motley$/, '.motley');
  const tests = rehearsalsOf(sheetFile);
  const { problems, source, text: sheetText } = await readSheet(sheetFile);
  const errors = problems.filter((p) => p.severity === 'error');
  if (errors.length > 0)
    throw new Exit(problemLines(errors, sheetFile, source).join('\n'), NO, 'Mend the sheet first.');
  if (!existsSync(tests))
    throw new Exit(`There is no ${tests}: this sheet has no rehearsals yet.`, NO, 'The guide shows how to write one.');
  const text = await readText(tests);
  const { compileRehearsals } = await language();
  const parts = await partsFor(sheetFile);
  const compiled = await inTime(file, () => compileRehearsals(text, source, parts));
  if (!compiled.program)
    throw new Exit(problemLines(compiled.problems, tests, text).join('\n'), NO, 'Mend the rehearsals.');
  if (compiled.rehearsals.length === 0)
    throw new Exit(`There is no rehearsal in ${tests} yet.`, NO, 'The guide shows how to write one.');
  const { program } = compiled;
  const coverage = options.coverage ? new Coverage(program) : undefined;
  const results: (RehearsalResult & { seconds: number })[] = compiled.rehearsals.map((rehearsal) => {
    const start = performance.now();
    const result = rehearse(program, rehearsal, coverage);
    return { ...result, seconds: (performance.now() - start) / 1000 };
  });
  const failed = results.filter((result) => !result.passed).length;
  const suite = rehearsalSuite(basename(sheetFile), tests, results);
  const json = {
    sheet: sheetFile,
    passed: results.length - failed,
    failed,
    ...(coverage ? { coverage: coverageJson(program, coverage) } : {}),
    rehearsals: results.map(({ title, line, passed, failure, rows }) => ({
      title,
      line,
      passed,
      failure,
      choices: rows.length,
    })),
  };
  if (options.json) return { suite, json, failed };
  if (several) print(paint.bold(program.name));
  for (const result of results) {
    print(`${result.passed ? paint.green('✓') : paint.red('✗')} ${result.title}`);
    if (result.failure) print(`  ${tests}:${result.failure.line}: ${result.failure.message}`);
  }
  if (coverage) showCoverage(program, coverage, sheetFile, sheetText);
  const all = results.length;
  print(failed === 0 ? `All ${all} pass.` : `${failed} of ${all} ${failed === 1 ? 'fails' : 'fail'}.`);
  return { suite, json, failed };
}

const KINDS: readonly PointKind[] = ['statement', 'option', 'guard', 'refusal'];
const WHAT: Readonly<Record<PointKind, string>> = {
  statement: 'never runs',
  option: 'is never chosen',
  guard: 'never hides its option',
  refusal: 'never refuses',
};
/** Most places that are listed. */
const MOST_MISSED = 30;

const coverageJson = (program: Program, coverage: Coverage): object => ({
  share: coverage.share,
  ...Object.fromEntries(KINDS.map((kind) => [`${kind}s`, coverage.of(kind)])),
  missed: coverage.missed.map(({ kind, at }) => ({ kind, ...placeJson(program, lineOf(at)), column: columnOf(at) })),
});

/** What the rehearsals reach of their sheet, and the places that they do not. */
function showCoverage(program: Program, coverage: Coverage, file: string, source: string): void {
  const lines = source.split('\n');
  print();
  for (const { kind, at } of coverage.missed.slice(0, MOST_MISSED))
    print(
      `${placeWords(program, file, lineOf(at), columnOf(at))} ${paint.yellow(WHAT[kind])}  ${paint.dim(
        (lines[lineOf(at) - 1] ?? '')
          .slice(columnOf(at) - 1)
          .trim()
          .slice(0, 70),
      )}`,
    );
  if (coverage.missed.length > MOST_MISSED) print(`… and ${coverage.missed.length - MOST_MISSED} more.`);
  const figures = KINDS.map((kind) => {
    const { all, reached } = coverage.of(kind);
    return `${kind}s ${reached} of ${all}`;
  });
  print(`${figures.join(' · ')}: ${paint.bold(`${(100 * coverage.share).toFixed(1)} %`)} reached.`);
}

/** `new`, `check`, `format` and `rehearse`: writing a sheet. */
export function addSheetCommands(commands: Command): void {
  commands
    .command('new <name>')
    .description('write a small sheet that works, with a rehearsal, to start from')
    .addHelpText('after', '\nExample:\n  ./wily new "River Nines"')
    .action(newSheet);
  commands
    .command('check <files...>')
    .description('check sheets; - reads one from standard input')
    .option('--reveals', 'also say what it lets everybody conclude about hidden cards by how it runs')
    .option('--whole', 'show the sheet with the parts that it uses pasted in')
    .option('--junit <file>', 'also write what is wrong as JUnit XML')
    .option('--sarif <file>', 'also write what is wrong as SARIF 2.1')
    .option('--json', 'for machines')
    .addHelpText(
      'after',
      '\nExamples:\n  ./wily check sheets/lantern-twenty-one.motley\n  ./wily check sheets/*.motley --sarif found.sarif',
    )
    .action(check);
  commands
    .command('format <files...>')
    .description('lay sheets out: indentation and blank lines; - from standard input to standard output')
    .option('--check', 'only say whether it is laid out well')
    .addHelpText('after', '\nExample:\n  ./wily format river-nines.motley')
    .action(formatFiles);
  commands
    .command('rehearse <files...>')
    .description('run the rehearsals of sheets')
    .option('--coverage', 'also say which statements, options, guards and refusals they reach')
    .option('--junit <file>', 'also write the results as JUnit XML')
    .option('--json', 'for machines')
    .addHelpText(
      'after',
      '\nExamples:\n  ./wily rehearse sheets/lantern-twenty-one.motley\n  ./wily rehearse river-nines.motley --junit results.xml',
    )
    .action(runRehearsals);
}
