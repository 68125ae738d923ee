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
import type { Command } from 'commander';
import { Exit, NO, WRONG_USE } from '../exit.js';
import { checkText, partsFor, readSheet, readText, rehearsalsOf } from '../files.js';
import { language } from '../language.js';
import { junitOf } from '../show/junit.js';
import { paint, print, printJson } from '../show/paint.js';
import { placeJson, placeWords } from '../show/places.js';
import { problemLines } from '../show/problems.js';
import { starterRehearsals, starterSheet } from '../starter.js';

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
  await writeFile(file, starterSheet(title));
  await writeFile(rehearsalsOf(file), starterRehearsals());
  print(`${file} is a small game that works, and ${rehearsalsOf(file)} tests it.`);
  print(paint.dim(`Next: ./wily play ${file} · ./wily rehearse ${file}`));
}

async function check(file: string, options: { json?: boolean; reveals?: boolean; whole?: boolean }): Promise<void> {
  const { problemsOfPart } = await language();
  const written = await readText(file);
  const inPart = problemsOfPart(written);
  if (inPart) return checkedPart(file, written, inPart, options.json === true);
  const { problems, source, text, lines, program } = await checkText(file, written);
  const errors = problems.filter((p) => p.severity === 'error').length;
  if (options.whole && errors === 0) return print(text.trimEnd());
  const { revealsOf } = await language();
  const reveals = options.reveals && program ? revealsOf(program) : undefined;
  if (options.json)
    printJson({
      file,
      ok: errors === 0,
      lines,
      problems,
      ...(program && reveals ? { reveals: reveals.map((r) => ({ ...r, ...placeJson(program, r.line) })) } : {}),
    });
  else {
    for (const line of problemLines(problems, file, source)) print(line);
    const warnings = problems.length - errors;
    const also = warnings > 0 ? ` ${warnings} ${warnings === 1 ? 'warning' : 'warnings'}.` : '';
    if (program) print(`${paint.green('✓')} ${program.name}: ${lines - 1} lines, nothing wrong.${also}`);
    else print(`${errors} ${errors === 1 ? 'error' : 'errors'}.${also}`);
  }
  if (reveals && program && !options.json) showReveals(program, reveals, file, text);
  if (errors > 0) process.exitCode = NO;
}

/** A part by itself: its names are known only with the sheet that uses it. */
function checkedPart(file: string, source: string, problems: readonly Problem[], json: boolean): void {
  const lines = source.trimEnd().split('\n').length;
  if (json) printJson({ file, ok: problems.length === 0, part: true, lines, problems });
  else for (const line of problemLines(problems, file, source)) print(line);
  if (problems.length > 0) process.exitCode = NO;
  else if (!json)
    print(
      `${paint.green('✓')} ${basename(file)} is a part: ${lines} lines, nothing wrong by itself. Check the sheet that uses it, too.`,
    );
}

/** What the sheet lets everybody conclude by how it runs. */
function showReveals(program: Program, reveals: readonly Reveal[], file: string, source: string): void {
  const lines = source.split('\n');
  print(
    reveals.length === 0
      ? 'It reveals nothing by how it runs: nothing that all see depends on hidden cards.'
      : 'What all who watch may conclude from (unless the cards lie face up by then):',
  );
  for (const { line, message } of reveals)
    print(`  ${placeWords(program, file, line)} ${message}\n    ${paint.dim((lines[line - 1] ?? '').trim())}`);
}

async function formatFile(file: string, options: { check?: boolean }): Promise<void> {
  const source = await readText(file);
  const { format } = await language();
  const formatted = format(source);
  if (formatted === source) return print(`${file} is laid out well.`);
  if (options.check)
    throw new Exit(`${file} is not laid out as it should be.`, NO, `Lay it out with: ./wily format ${file}`);
  await writeFile(file, formatted);
  print(`${file} was laid out anew.`);
}

async function runRehearsals(
  file: string,
  options: { json?: boolean; junit?: string; coverage?: boolean },
): Promise<void> {
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
  const compiled = compileRehearsals(text, source, await partsFor(sheetFile));
  if (!compiled.program)
    throw new Exit(problemLines(compiled.problems, tests, text).join('\n'), NO, 'Mend the rehearsals.');
  const { program } = compiled;
  const coverage = options.coverage ? new Coverage(program) : undefined;
  const results: (RehearsalResult & { seconds: number })[] = compiled.rehearsals.map((rehearsal) => {
    const start = performance.now();
    const result = rehearse(program, rehearsal, coverage);
    return { ...result, seconds: (performance.now() - start) / 1000 };
  });
  if (options.junit !== undefined) await writeFile(options.junit, junitOf(basename(sheetFile), tests, results));
  const failed = results.filter((result) => !result.passed);
  if (options.json)
    printJson({
      sheet: sheetFile,
      passed: results.length - failed.length,
      failed: failed.length,
      ...(coverage ? { coverage: coverageJson(program, coverage) } : {}),
      rehearsals: results.map(({ title, line, passed, failure, rows }) => ({
        title,
        line,
        passed,
        failure,
        choices: rows.length,
      })),
    });
  else {
    for (const result of results) {
      print(`${result.passed ? paint.green('✓') : paint.red('✗')} ${result.title}`);
      if (result.failure) print(`  ${tests}:${result.failure.line}: ${result.failure.message}`);
    }
    if (coverage) showCoverage(program, coverage, sheetFile, sheetText);
    print(
      failed.length === 0
        ? `All ${results.length} pass.`
        : `${failed.length} of ${results.length} ${failed.length === 1 ? 'fails' : 'fail'}.`,
    );
  }
  if (failed.length > 0) process.exitCode = NO;
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
    .command('check <file>')
    .description('check a sheet')
    .option('--reveals', 'also say what it lets everybody conclude about hidden cards by how it runs')
    .option('--whole', 'show the sheet with the parts that it uses pasted in')
    .option('--json', 'for machines')
    .addHelpText('after', '\nExample:\n  ./wily check sheets/lantern-twenty-one.motley')
    .action(check);
  commands
    .command('format <file>')
    .description('lay a sheet out: indentation and blank lines')
    .option('--check', 'only say whether it is laid out well')
    .addHelpText('after', '\nExample:\n  ./wily format river-nines.motley')
    .action(formatFile);
  commands
    .command('rehearse <file>')
    .description("run a sheet's rehearsals")
    .option('--coverage', 'also say which statements, options, guards and refusals they reach')
    .option('--junit <file>', 'also write the results as JUnit XML')
    .option('--json', 'for machines')
    .addHelpText(
      'after',
      '\nExamples:\n  ./wily rehearse sheets/lantern-twenty-one.motley\n  ./wily rehearse river-nines.motley --junit results.xml',
    )
    .action(runRehearsals);
}
