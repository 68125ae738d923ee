import type { Expr, SetOp, Stmt, Target, Type } from '@wily-jester/core';
import type * as ast from '../grammar/generated/ast.js';
import { placeOf } from '../grammar/places.js';
import { OTHER_STATEMENTS } from '../grammar/slips.js';
import { nearest } from '../problems.js';
import { isList, itemOf } from '../symbols/builtins.js';
import type { Frame, Sheet } from '../symbols/scope.js';
import { article, counted } from '../symbols/wording.js';
import { lowerAsk } from './asks.js';
import { type Around, secondsOf } from './clauses.js';
import type { ExprContext, StmtContext } from './context.js';
import { lowerDeal, lowerLetMove, lowerMove } from './moves.js';
import { lowerTally } from './tallies.js';
import { compileText } from './texts.js';
import { leaves } from './ways-out.js';

/** Words that begin a statement. */
const STATEMENTS = [
  'shuffle',
  'pick',
  'deal',
  'move',
  'gather',
  'turn',
  'show',
  'let',
  'var',
  'if',
  'while',
  'repeat',
  'for',
  'break',
  'return',
  'say',
  'tell',
  'chapter',
  'pause',
  'score',
  'finish',
  'reset',
  'ask',
  'tally',
];

/** Compiles statements; blocks open a scope of names of their own. */
export class Statements implements StmtContext {
  readonly sheet: Sheet;
  constructor(
    readonly x: ExprContext,
    readonly frame: Frame,
  ) {
    this.sheet = x.sheet;
  }

  block(node: ast.Block, around: Around): Stmt[] {
    this.frame.open();
    const statements: Stmt[] = [];
    let ended: string | undefined;
    for (const child of node.statements) {
      if (ended) {
        const gives = ended === 'return' && child.$type === 'AssignOrCall' && child.op === undefined;
        this.sheet.error(
          child,
          gives ? 'A routine gives nothing back: a def does.' : `This is never reached: "${ended}" stands before it.`,
        );
        break;
      }
      const lowered = this.statement(child, around);
      statements.push(...lowered);
      const last = lowered.at(-1);
      if (last && (last.s === 'break' || last.s === 'return' || last.s === 'finish')) ended = last.s;
    }
    this.frame.close();
    return statements;
  }

  cards(node: ast.Expr, what: string): Expr {
    return this.x.want(node, this.frame, 'list:card', what);
  }
  pile(node: ast.Expr, what: string): Expr {
    const e = this.x.lower(node, this.frame);
    if (e.k === 'family') {
      const pile = this.sheet.piles[e.i];
      this.sheet.error(
        node,
        `"${pile?.name}" is several piles: say which, such as ${pile?.perSeat && !e.owner ? `s.${pile.name}` : `${pile?.name}[1]`}.`,
      );
      return this.x.hole(node, 'pile');
    }
    return this.x.fit(e, 'pile', node, what);
  }

  newLocal(node: ast.Statement, name: string, t: Type): number {
    if (this.frame.find(name) !== undefined || this.sheet.names.has(name) || this.sheet.declared.has(name))
      this.sheet.refuseHiding(node, name);
    return this.frame.add(name, t);
  }

  private target(node: ast.Expr): Target | undefined {
    if (node.$type === 'Member' && node.name === 'score') {
      this.sheet.error(node, 'A score is set with a statement of its own: score s = 10.');
      return undefined;
    }
    const e = this.x.lower(node, this.frame);
    if (e.k === 'var') return { k: 'var', i: e.i, owner: e.owner, ...(e.second ? { second: e.second } : {}) };
    if (e.k === 'local') {
      if (!this.frame.changeable.has(e.i))
        this.sheet.error(node, `"${this.frame.locals[e.i]?.name}" keeps its value: only a "var" can be changed.`);
      return { k: 'local', i: e.i };
    }
    if (!(e.k === 'lit' && e.t === 'nothing')) this.sheet.error(node, 'Only a variable can be changed.');
    return undefined;
  }
  private typeOf(target: Target): Type {
    if (target.k === 'score') return 'int';
    return (target.k === 'local' ? this.frame.locals[target.i]?.t : this.sheet.vars[target.i]?.t) ?? 'int';
  }

  statement(node: ast.Statement, around: Around): Stmt[] {
    const at = this.sheet.at(node);
    const { x, frame, sheet } = this;
    const inner: Around = { ...around, inLoop: true };
    switch (node.$type) {
      case 'Shuffle':
        return [{ s: 'shuffle', at, pile: this.pile(node.pile, 'What is shuffled') }];
      case 'PickStmt': {
        const target = this.target(node.target);
        const from = x.list(node.list, frame, 'What is picked from');
        if (!target) return [];
        if (this.typeOf(target) !== itemOf(from.t))
          sheet.error(
            node,
            `This picks ${article(itemOf(from.t))}, and the variable holds ${article(this.typeOf(target))}.`,
          );
        return [{ s: 'pick', at, target, from }];
      }
      case 'Deal':
        return [lowerDeal(this, node, null)];
      case 'Move':
        return lowerMove(this, node);
      case 'Gather': {
        const to = this.pile(node.target, 'Where cards are gathered');
        const piles: Expr[] = node.all
          ? sheet.piles.map((_, i): Expr => ({ k: 'family', t: 'list:pile', at, i, owner: null }))
          : node.piles.map((p) => x.want(p, frame, 'list:pile', 'What is gathered'));
        return [{ s: 'gather', at, piles, to }];
      }
      case 'Turn': {
        if (node.seat)
          return [
            {
              s: 'reveal',
              at,
              what: this.cards(node.what, 'What is turned'),
              to: x.want(node.seat, frame, 'seat', 'Who sees it'),
            },
          ];
        return [
          { s: 'turn', at, how: node.how === 'up' ? 'up' : 'down', what: this.cards(node.what, 'What is turned') },
        ];
      }
      case 'Show':
        return [
          {
            s: 'show',
            at,
            what: this.cards(node.what, 'What is shown'),
            to: node.seat ? x.want(node.seat, frame, 'seat', 'Who sees it') : null,
          },
        ];
      case 'Let': {
        if (node.deal) {
          const one =
            node.deal.count?.$type === 'Int' &&
            node.deal.count.value === 1 &&
            !node.deal.each &&
            !node.deal.across &&
            !node.deal.upTo;
          const local = this.newLocal(node, node.name, one ? 'card' : 'list:card');
          return [lowerDeal(this, node.deal, local)];
        }
        if (node.move) {
          return lowerLetMove(this, node, node.move);
        }
        if (!node.value) return [];
        const e = x.lower(node.value, frame);
        const kept = e.t === 'pile' && e.k === 'cards' ? x.fit(e, 'list:card', node.value, 'The value') : e;
        return [{ s: 'let', at, local: this.newLocal(node, node.name, kept.t), e: kept }];
      }
      case 'LocalVar': {
        const wanted = node.type ? sheet.typeNamed(node.type, node.type.name) : undefined;
        const e = wanted ? x.want(node.value, frame, wanted, 'The first value') : x.lower(node.value, frame);
        const local = this.newLocal(node, node.name, e.t);
        frame.changeable.add(local);
        return [{ s: 'let', at, local, e }];
      }
      case 'If':
        return [this.ifStatement(node, around)];
      case 'While': {
        const c = x.want(node.condition, frame, 'flag', 'The condition');
        const body = this.block(node.body, inner);
        if (c.k === 'lit' && c.v === 1) this.needsWayOut(node, body);
        return [{ s: 'while', at, c, body }];
      }
      case 'Repeat': {
        const body = this.block(node.body, inner);
        if (!node.until) this.needsWayOut(node, body);
        return [
          { s: 'repeat', at, body, until: node.until ? x.want(node.until, frame, 'flag', 'The condition') : null },
        ];
      }
      case 'ForEach': {
        const list = x.list(node.list, frame, 'What "for each" goes through');
        frame.open();
        const local = this.newLocal(node, node.name, itemOf(list.t));
        const where = node.where ? x.want(node.where, frame, 'flag', 'The condition') : null;
        const body = this.block(node.body, inner);
        frame.close();
        return [{ s: 'each', at, local, list, where, body }];
      }
      case 'ForCount': {
        const from = x.want(node.from, frame, 'int', 'Where counting begins');
        const to = x.want(node.to, frame, 'int', 'Where counting ends');
        frame.open();
        const local = this.newLocal(node, node.name, 'int');
        const body = this.block(node.body, inner);
        frame.close();
        return [{ s: 'for', at, local, from, to, body }];
      }
      case 'Break':
        if (around.inEvery)
          sheet.error(node, '"break" cannot stand in the answers to an "ask every": they are all carried out.');
        else if (!around.inLoop) sheet.error(node, '"break" leaves a loop, and there is none around it.');
        return [{ s: 'break', at }];
      case 'Return':
        if (around.inEvery)
          sheet.error(node, '"return" cannot stand in the answers to an "ask every": they are all carried out.');
        return [{ s: 'return', at }];
      case 'Say':
        return [
          {
            s: 'say',
            at,
            text: compileText(x, frame, node.text),
            to: node.seat ? x.want(node.seat, frame, 'seat', 'Who is told') : null,
          },
        ];
      case 'Chapter':
        return [{ s: 'chapter', at, text: compileText(x, frame, node.text) }];
      case 'Pause':
        if (around.inEvery)
          sheet.error(node, '"pause" cannot stand in the answers to an "ask every": they run in one go.');
        return [{ s: 'pause', at, seconds: secondsOf(node.time) }];
      case 'Score': {
        const of = x.lower(node.of, frame);
        const e = x.want(node.value, frame, 'int', 'A score');
        if (of.t === 'team') return this.scoreTeam(node, of, e);
        const owner = x.fit(of, 'seat', node.of, 'Whose score it is');
        return [{ s: 'set', at, target: { k: 'score', owner }, op: node.op as SetOp, e }];
      }
      case 'Finish':
        return [{ s: 'finish', at }];
      case 'Reset':
        return [{ s: 'reset', at, vars: this.resetVars(node) }];
      case 'Tally':
        return lowerTally(this, node);
      case 'Ask':
        if (around.inEvery) {
          sheet.error(node, '"ask" cannot stand in the answers to an "ask every": they run in one go.');
          return [];
        }
        return [{ s: 'ask', at, ask: lowerAsk(this, node, around) }];
      case 'AssignOrCall':
        return this.assignOrCall(node, around);
    }
  }

  /** A team's score is that of each of its seats. */
  private scoreTeam(node: ast.Score, team: Expr, e: Expr): Stmt[] {
    const at = this.sheet.at(node);
    const value = this.frame.add('', 'int');
    const seat = this.frame.add('', 'seat');
    const local = (i: number, t: Type): Expr => ({ k: 'local', t, at, i });
    const list: Expr = { k: 'fn', t: 'list:seat', at, f: 'seatsOf', args: [team] };
    const target: Target = { k: 'score', owner: local(seat, 'seat') };
    return [
      { s: 'let', at, local: value, e },
      {
        s: 'each',
        at,
        local: seat,
        list,
        where: null,
        body: [{ s: 'set', at, target, op: node.op as SetOp, e: local(value, 'int') }],
      },
    ];
  }

  private resetVars(node: ast.Reset): number[] {
    return node.names.flatMap((name) => {
      const meaning = this.sheet.names.get(name);
      if (meaning?.k === 'var') return [meaning.i];
      if (meaning) this.sheet.error(node, `"${name}" is not a variable: only variables can be reset.`);
      else
        this.sheet.unknown(
          node,
          name,
          [...this.sheet.names].filter(([, m]) => m.k === 'var').map(([n]) => n),
          'variable',
        );
      return [];
    });
  }

  private ifStatement(node: ast.If, around: Around): Stmt {
    const c = this.x.want(node.condition, this.frame, 'flag', 'The condition');
    if (c.k === 'lit' && c.t === 'flag' && node.condition.$type === 'Ref')
      this.sheet.warn(node.condition, `This condition is always ${c.v ? 'true' : 'false'}.`);
    const yes = this.block(node.yes, around);
    const no = node.no ? this.block(node.no, around) : node.elseIf ? [this.ifStatement(node.elseIf, around)] : null;
    return { s: 'if', at: this.sheet.at(node), c, yes, no };
  }

  private needsWayOut(node: ast.Statement, body: readonly Stmt[]): void {
    if (!leaves(body, this.sheet))
      this.sheet.error(node, 'This loop has no way out: it needs a "break", an "until" or a "finish".');
  }

  private assignOrCall(node: ast.AssignOrCall, around: Around): Stmt[] {
    const { sheet, x, frame } = this;
    const at = sheet.at(node);
    if (node.op && node.value) {
      const target = this.target(node.target);
      if (!target) {
        x.lower(node.value, frame);
        return [];
      }
      const t = this.typeOf(target);
      if (node.op !== '=' && t !== 'int' && !(node.op === '+=' && isList(t)))
        sheet.error(node, `"${node.op}" counts, and this variable holds ${article(t)}.`);
      const e = x.want(node.value, frame, t, 'The new value');
      return [{ s: 'set', at, target, op: node.op, e }];
    }
    const { target } = node;
    if (target.$type !== 'Call' || target.callee?.$type !== 'Ref') {
      if (target.$type === 'Ref' && sheet.names.get(target.name)?.k === 'routine')
        sheet.error(node, `To run the routine, write ${target.name}().`, `${target.name}()`);
      else if (target.$type === 'Ref') this.strayWord(target);
      else if (this.strayLine !== placeOf(target).line)
        sheet.error(node, 'This is a value, and nothing is done with it.');
      return [];
    }
    const { name } = target.callee;
    const meaning = sheet.names.get(name);
    if (meaning?.k !== 'routine') {
      if (meaning?.k === 'def') sheet.error(node, `"${name}" gives a value, and nothing is done with it.`);
      else
        sheet.unknown(
          target.callee,
          name,
          [...sheet.names].filter(([, m]) => m.k === 'routine').map(([n]) => n),
          'routine',
        );
      return [];
    }
    sheet.use(name);
    const routine = sheet.routines[meaning.i];
    const params = routine?.params ?? [];
    if (params.length !== target.args.length)
      sheet.error(
        node,
        `"${name}" takes ${counted(params.length, 'value')}, and here there ${target.args.length === 1 ? 'is' : 'are'} ${target.args.length}.`,
      );
    const args = params.map((local, i): Expr => {
      const arg = target.args[i];
      const t = routine?.locals[local]?.t ?? 'int';
      return arg && arg.$type !== 'Lambda' && arg.$type !== 'ShapeList'
        ? x.want(arg, frame, t, `What ${name} is given`)
        : x.hole(node, t);
    });
    if (around.inEvery) this.callsInEvery.push({ node, routine: meaning.i });
    return [{ s: 'call', at, routine: meaning.i, args }];
  }

  /** A word alone is mostly a misspelt statement; what stands behind it on its line was meant as part of it. */
  private strayWord(node: ast.Ref): void {
    const { line, endColumn } = placeOf(node);
    if (this.strayLine === line) return;
    this.strayLine = line;
    const routines = [...this.sheet.names].filter(([, m]) => m.k === 'routine').map(([n]) => n);
    const other = OTHER_STATEMENTS.get(node.name);
    const near = other === undefined ? nearest(node.name, [...STATEMENTS, ...routines]) : undefined;
    const known = this.sheet.names.has(node.name) || this.frame.find(node.name) !== undefined;
    if (known && !near) this.sheet.error(node, `"${node.name}" is a value, and nothing is done with it.`);
    else
      this.sheet.error(
        { line, column: endColumn - node.name.length, endColumn },
        `"${node.name}" is no statement.${other !== undefined ? ` ${other}` : near ? ` Did you mean "${near}"?` : ''}`,
        near,
      );
  }
  private strayLine = 0;

  /** Routines run by the answers to an `ask every`; whether they wait is known only when all are compiled. */
  readonly callsInEvery: { node: ast.Statement; routine: number }[] = [];
}
