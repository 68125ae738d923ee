import type { Bot, BotLine, Expr } from '@wily-jester/core';
import type * as ast from '../grammar/generated/ast.js';
import { Frame } from '../symbols/scope.js';
import { counted } from '../symbols/wording.js';
import type { ExprContext } from './context.js';

/** Compiles a scripted bot: its lines are tried in turn. */
export function lowerBot(x: ExprContext, node: ast.BotDecl): Bot {
  const frame = new Frame('bot', true);
  if (node.lines.length === 0) x.sheet.error(node, `The bot "${node.name}" has no lines: it could play nothing.`);
  return {
    name: node.name,
    lines: node.lines.flatMap((line) => lowerLine(x, frame, line) ?? []),
    locals: frame.locals,
  };
}

function lowerLine(x: ExprContext, frame: Frame, node: ast.BotLine): BotLine | undefined {
  const { sheet } = x;
  const params = sheet.optionParams.get(node.option);
  if (!params) {
    sheet.unknown(node, node.option, sheet.optionNames, 'option');
    return undefined;
  }
  if (node.args.length !== params.length)
    sheet.error(
      node,
      `"${node.option}" takes ${counted(params.length, 'value')}${params.length > 0 ? ` (${params.map((p) => p.name).join(', ')})` : ''}, and here there ${node.args.length === 1 ? 'is' : 'are'} ${node.args.length}.`,
    );
  frame.open();
  const args = params.map((param, i): Expr | null => {
    const arg = node.args[i];
    if (!arg || (arg.$type === 'Ref' && arg.name === param.name)) return null;
    return x.want(arg, frame, param.t, `The ${param.name} of ${node.option}`);
  });
  const locals = params.map((param) => {
    const local = frame.add(param.name, param.t);
    if (param.tail) frame.tails.add(local);
    return local;
  });
  const when = node.condition ? x.want(node.condition, frame, 'flag', 'The condition') : null;
  const prefer = node.prefer ? x.want(node.prefer, frame, 'key', 'What is preferred') : null;
  frame.close();
  return { option: node.option, args, locals, when, prefer, at: sheet.at(node) };
}
