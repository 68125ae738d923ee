import { childrenOf, type Expr, knownNumber, type Setting, SetupError, standardLimits } from '@wily-jester/core';
import { AstUtils } from '#langium';
import type * as ast from '../grammar/generated/ast.js';
import { Frame } from '../symbols/scope.js';
import type { ExprContext } from './context.js';
import { declareMember } from './declarations.js';
import { plainText } from './texts.js';

/** A limit or the standard value of a setting: a plain number, or one that follows from settings before it. */
function settingNumber(
  x: ExprContext,
  node: ast.Expr,
  standards: readonly number[],
  later: readonly string[],
): number | Expr {
  if (node.$type === 'Int') return node.value;
  const { problems } = x.sheet;
  const before = problems.length;
  for (const part of AstUtils.streamAst(node))
    if (part.$type === 'Ref' && later.includes((part as ast.Ref).name)) {
      const { name } = part as ast.Ref;
      x.sheet.error(part, `"${name}" is declared below: a setting follows only from settings that stand before it.`);
      return 0;
    }
  const e = x.want(node, new Frame('top', false), 'int', 'A setting');
  if (problems.length > before) return 0;
  try {
    const value = knownNumber(e, { settings: standards, seats: null }, 0);
    return settingsIn(e) ? e : value;
  } catch (error) {
    if (!(error instanceof SetupError)) throw error;
    x.sheet.error(node, error.message);
    return 0;
  }
}

/** Whether an expression reads a setting. */
const settingsIn = (e: Expr): boolean => e.k === 'setting' || childrenOf(e).some(settingsIn);

/** @param later the names of the settings that stand below it, its own included */
export function lowerSetting(x: ExprContext, node: ast.Setting, later: readonly string[]): Setting {
  const { sheet } = x;
  const help = node.help ? plainText(sheet, node.help) : '';
  const place = sheet.at(node);
  const standards = standardLimits(sheet).map((limits) => limits.standard);
  const number = (e: ast.Expr): number | Expr => settingNumber(x, e, standards, later);
  const now = (n: number | Expr): number =>
    typeof n === 'number' ? n : knownNumber(n, { settings: standards, seats: null }, 0);
  if (node.to) {
    const { problems } = sheet;
    const before = problems.length;
    const from = number(node.first);
    const to = number(node.to);
    const value = number(node.standard);
    const isSound = problems.length === before;
    const given = { name: node.name, t: 'int', help, at: place } as const;
    if (now(from) > now(to)) {
      if (isSound) sheet.error(node, 'The range of this setting is empty.');
      return { ...given, domain: { k: 'range', from, to: from }, standard: from };
    }
    if (isSound && (now(value) < now(from) || now(value) > now(to)))
      sheet.error(
        node.standard,
        `The standard value of "${node.name}" is ${now(value)}, which is not from ${now(from)} to ${now(to)}.`,
      );
    return { ...given, domain: { k: 'range', from, to }, standard: value };
  }
  if (node.first.$type === 'Ref' && node.first.name === 'flag' && node.others.length === 0) {
    const word = node.standard.$type === 'Ref' ? node.standard.name : '';
    if (word !== 'yes' && word !== 'no') sheet.error(node.standard, `A flag is "yes" or "no".`);
    return { name: node.name, t: 'flag', domain: { k: 'flag' }, standard: word === 'yes' ? 1 : 0, help, at: place };
  }
  const all = [node.first, ...node.others];
  if (all.every((e) => e.$type === 'Ref')) {
    const words = all.map((e) => (e.$type === 'Ref' ? e.name : ''));
    const word = node.standard.$type === 'Ref' ? node.standard.name : '';
    const kind = `${node.name} setting`;
    sheet.kinds.push({ name: kind, members: words.map((name) => ({ name, label: null })) });
    for (const [v, name] of words.entries()) declareMember(sheet, node, name, kind, v);
    const value = words.indexOf(word);
    if (value < 0) sheet.error(node.standard, `The standard value of "${node.name}" is one of ${sheet.listed(words)}.`);
    return {
      name: node.name,
      t: `kind:${kind}`,
      domain: { k: 'words', words },
      standard: Math.max(0, value),
      help,
      at: place,
    };
  }
  const values = all.map((e) => now(number(e)));
  const value = number(node.standard);
  if (!values.includes(now(value)))
    sheet.error(node.standard, `The standard value of "${node.name}" is one of ${sheet.listed(values.map(String))}.`);
  return { name: node.name, t: 'int', domain: { k: 'numbers', values }, standard: value, help, at: place };
}
