import {
  type Expr,
  faceText,
  type Program,
  type Rehearsal,
  type RehearsalStep,
  type RehearsedChoice,
  type Side,
} from '@wily-jester/core';
import type * as ast from '../grammar/generated/ast.js';
import { isWithoutCode, parse } from '../grammar/parse.js';
import { placeOf, sourceOf } from '../grammar/places.js';
import type { Parts } from '../parts/library.js';
import type { Problem } from '../problems.js';
import { Frame, type Sheet, untilEnough } from '../symbols/scope.js';
import { counted } from '../symbols/wording.js';
import { Expressions } from './expressions.js';
import { type Compiled, compileSheet } from './sheet.js';
import { compileText, faceIn, plainText } from './texts.js';

/** A sheet's rehearsals, ready to run on the program that comes with them. */
export interface CheckedRehearsals {
  /** The sheet's program with what the rehearsals look at. */
  readonly program: Program | undefined;
  readonly rehearsals: readonly Rehearsal[];
  readonly problems: readonly Problem[];
}

/** Checks and compiles rehearsals against the text of their sheet. Never throws. */
export function compileRehearsals(text: string, sheetText: string, parts?: Parts): CheckedRehearsals {
  const compiled: Compiled = compileSheet(sheetText, parts);
  const none = (problems: readonly Problem[]): CheckedRehearsals => ({ program: undefined, rehearsals: [], problems });
  const { sheet, program } = compiled;
  if (!sheet || !program)
    return none([
      {
        severity: 'error',
        line: 1,
        column: 1,
        endColumn: 2,
        message: 'The sheet itself has errors: mend those first.',
      },
    ]);
  // A file without any is no mistake: they come later.
  if (isWithoutCode(text)) return { program, rehearsals: [], problems: [] };
  const { document, problems } = parse(text);
  if (!document) return none(problems);
  if (document.game)
    return none([
      {
        severity: 'error',
        line: 1,
        column: 1,
        endColumn: 2,
        message: 'This is a rule sheet. A rehearsal file begins with rehearse "what it shows" { … }.',
      },
    ]);
  sheet.problems.length = 0;
  const probes: Expr[] = [];
  const rehearsals = untilEnough(() => document.rehearsals.map((node) => lowerRehearsal(sheet, probes, node))) ?? [];
  const wrong = sheet.problems.some((p) => p.severity === 'error');
  return { program: wrong ? undefined : { ...program, probes }, rehearsals, problems: sheet.problems };
}

function lowerRehearsal(sheet: Sheet, probes: Expr[], node: ast.Rehearsal): Rehearsal {
  const x = new Expressions(sheet);
  const seats: string[] = [];
  const settings: Record<string, number | boolean | string> = {};
  const gets: Record<string, string> = {};
  const promises: Record<string, { at: number; source: string }> = {};
  const starts: { variable: number; owner: number; second: number; probe: number }[] = [];
  const steps: RehearsalStep[] = [];
  const seatNames = new Map<string, number>();
  const frame = new Frame('probe', false, seatNames);
  const probe = (e: Expr): number => probes.push(e) - 1;
  const seatOf = (at: ast.ChoiceLine | ast.ExpectLine | ast.ClockPlays, name: string): number => {
    const seat = seatNames.get(name);
    if (seat === undefined) sheet.unknown(at, name, seatNames.keys(), 'seat');
    return seat ?? 0;
  };
  const choiceOf = (line: ast.ChoiceLine): RehearsedChoice => {
    const params = sheet.optionParams.get(line.option);
    if (!params) sheet.unknown(line, line.option, sheet.optionNames, 'option');
    else if (params.length !== line.args.length)
      sheet.error(
        line,
        `"${line.option}" takes ${counted(params.length, 'value')}, and here there ${line.args.length === 1 ? 'is' : 'are'} ${line.args.length}.`,
      );
    const args = line.args.map((arg, i): RehearsedChoice['args'][number] => {
      const t = params?.[i]?.t ?? 'int';
      if (t === 'card' && arg.$type === 'Text') {
        const face = faceIn(sheet, arg);
        return { face: face === undefined ? '' : faceText(face) };
      }
      if (t === 'list:card' && arg.$type === 'ListLit' && arg.items.every((item) => item.$type === 'Text'))
        return {
          faces: arg.items.flatMap((item) => (item.$type === 'Text' ? (faceIn(sheet, item) ?? []) : [])).map(faceText),
        };
      if (t === 'list:card' && arg.$type === 'Text') {
        const face = faceIn(sheet, arg);
        return { faces: face === undefined ? [] : [faceText(face)] };
      }
      return { t, probe: probe(x.want(arg, frame, t, `The ${params?.[i]?.name ?? 'value'}`)) };
    });
    return { seat: seatOf(line, line.seat), option: line.option, params: params?.map((p) => p.name) ?? [], args };
  };
  for (const line of node.lines) {
    const at = sheet.at(line);
    switch (line.$type) {
      case 'SeatsLine':
        for (const name of line.names) {
          if (!/^[A-Z]/.test(name) || name.length < 2)
            sheet.error(line, `A seat's name starts with a capital and is longer than one letter: "${name}" does not.`);
          if (seatNames.has(name)) sheet.error(line, `There is a seat "${name}" already.`);
          seatNames.set(name, seats.length);
          seats.push(name);
        }
        break;
      case 'SettingsLine':
        for (const { name, value } of line.values) {
          if (!sheet.settings.some((s) => s.name === name))
            sheet.unknown(
              line,
              name,
              sheet.settings.map((s) => s.name),
              'setting',
            );
          if (value.$type === 'Int') settings[name] = value.value;
          else if (value.$type === 'Ref') settings[name] = value.name;
          else sheet.error(value, 'A setting is given as a number or a word.');
        }
        break;
      case 'GetsLine': {
        const path = pathOf(sheet, x, frame, line.pile);
        const faces = line.faces.flatMap((face) => faceIn(sheet, face) ?? []);
        if (path !== undefined) promises[path] ??= { at, source: sourceOf(line.pile) };
        if (path !== undefined)
          gets[path] = [gets[path], ...faces.map(faceText)].filter((part) => part !== undefined).join(' ');
        break;
      }
      case 'StartLine': {
        const target = x.lower(line.target, frame);
        const keys = target.k === 'var' ? [target.owner, target.second ?? null] : [];
        if (target.k !== 'var' || keys.some((key) => key !== null && key.k !== 'lit' && key.k !== 'item')) {
          sheet.error(line, 'After "start" stands a variable of the sheet, such as start Otter.bank = 40.');
          break;
        }
        const [owner = -1, second = 0] = keys.flatMap((key) => (key ? keyValue(key) : []));
        starts.push({
          variable: target.i,
          owner,
          second,
          probe: probe(x.want(line.value, frame, target.t, 'The value')),
        });
        break;
      }
      case 'ChoiceLine':
        steps.push({ k: 'choose', at, choice: choiceOf(line) });
        break;
      case 'ExpectLine':
        steps.push(...expectation(sheet, x, frame, line, { probe, choiceOf, seatOf }));
        break;
      case 'ClockPlays':
        if (line.who !== 'clock') {
          sheet.error(
            line,
            `"${line.who} plays" is not said here. Did you mean: clock plays, bot steady plays until finished, or ${line.who}: …?`,
          );
          break;
        }
        steps.push({ k: 'clock', at, seat: line.seat === undefined ? null : seatOf(line, line.seat) });
        break;
      case 'BotPlays': {
        const bot = sheet.bots.findIndex((b) => b.name === line.bot);
        if (bot < 0)
          sheet.unknown(
            line,
            line.bot,
            sheet.bots.map((b) => b.name),
            'bot',
          );
        steps.push({
          k: 'bot',
          at,
          bot: Math.max(0, bot),
          until: line.condition ? probe(x.want(line.condition, frame, 'flag', 'The condition')) : null,
        });
        break;
      }
    }
  }
  if (seats.length === 0) sheet.error(node, 'A rehearsal says who sits at the table: seats Wren, Otter');
  return {
    title: plainText(sheet, node.title),
    line: placeOf(node).line,
    seats,
    settings,
    gets,
    promises,
    starts,
    steps,
  };
}

/** A key that is written: a seat's name, a member, or an item of the teams, such as `teams[1]`. */
function keyValue(key: Expr): number {
  if (key.k === 'item' && key.n.k === 'lit') return key.n.v - 1;
  return key.k === 'lit' ? key.v : 0;
}

interface Tools {
  readonly probe: (e: Expr) => number;
  readonly choiceOf: (line: ast.ChoiceLine) => RehearsedChoice;
  readonly seatOf: (at: ast.ExpectLine, name: string) => number;
}

function expectation(sheet: Sheet, x: Expressions, frame: Frame, line: ast.ExpectLine, tools: Tools): RehearsalStep[] {
  const at = sheet.at(line);
  if (line.asked && line.seat !== undefined) return [{ k: 'asked', at, seat: tools.seatOf(line, line.seat) }];
  if (line.refused && line.choice)
    return [
      {
        k: 'refused',
        at,
        choice: tools.choiceOf(line.choice),
        reason: line.reason ? tools.probe(compileText(x, frame, line.reason)) : null,
      },
    ];
  if (line.finished) return [{ k: 'finished', at }];
  if (line.said && line.text) return [{ k: 'said', at, text: tools.probe(compileText(x, frame, line.text)) }];
  return line.condition ? holding(sheet, x, frame, line.condition, tools) : [];
}

const COMPARISONS = new Set(['==', '!=', '<', '<=', '>', '>=']);

/** `a and b` is checked one after the other, and a comparison keeps both sides, so that a failure says which and what. */
function holding(sheet: Sheet, x: Expressions, frame: Frame, node: ast.Expr, tools: Tools): RehearsalStep[] {
  if (node.$type === 'Binary' && node.op === 'and')
    return [...holding(sheet, x, frame, node.left, tools), ...holding(sheet, x, frame, node.right, tools)];
  const e = x.want(node, frame, 'flag', 'What is expected');
  let sides: [Side, Side] | null = null;
  if (e.k === 'op' && node.$type === 'Binary' && COMPARISONS.has(node.op)) {
    const side = (of: Expr, from: ast.Expr): Side => ({ probe: tools.probe(of), t: of.t, source: sourceOf(from) });
    sides = [side(e.a, node.left), side(e.b, node.right)];
  }
  return [
    { k: 'holds', at: sheet.at(node), probe: tools.probe(e), source: sourceOf(node).replace(/\s+/g, ' '), sides },
  ];
}

/** The path of the pile that a rehearsal names. */
function pathOf(sheet: Sheet, x: Expressions, frame: Frame, node: ast.Expr): string | undefined {
  const e = x.lower(node, frame);
  if (e.k === 'cell') {
    const key = e.index.map((i) => (i.k === 'lit' ? i.v : Number.NaN));
    const cell = sheet.piles[e.i]?.cells?.keys.findIndex((other) => String(other) === String(key)) ?? -1;
    if (cell < 0) sheet.error(node, `There is no ${sheet.piles[e.i]?.name}[${key.join(', ')}].`);
    return cell < 0 ? undefined : `${sheet.piles[e.i]?.name}/${cell + 1}`;
  }
  const pile = e.k === 'pile' ? sheet.piles[e.i] : undefined;
  if (e.k !== 'pile' || !pile || (e.owner && e.owner.k !== 'lit') || (e.index && e.index.k !== 'lit')) {
    sheet.error(node, 'Before "gets" stands a pile, such as Wren.hand or house.');
    return undefined;
  }
  const steps = [pile.name];
  if (e.owner?.k === 'lit') steps.push(String(e.owner.v + 1));
  if (e.index?.k === 'lit') steps.push(String(pile.by === 'suit' || pile.by === 'team' ? e.index.v + 1 : e.index.v));
  return steps.join('/');
}
