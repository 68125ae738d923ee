import {
  columnOf,
  type Expr,
  eachExprIn,
  exprsOfBot,
  exprsOfDomain,
  lineOf,
  type Program,
  sameExpr,
} from '@wily-jester/core';
import type { Sheet } from '../symbols/scope.js';

/** What the parameters of a def stand for where it is called. */
type Given = ReadonlyMap<number, Expr>;
const NOTHING_GIVEN: Given = new Map();

/** One look for hidden cards through an expression and all defs that it calls, with the eyes of one seat. */
interface Look {
  readonly sheet: Sheet;
  readonly program: Program;
  /** Who looks, in words. */
  readonly what: string;
  /** Whether a seat is the one that looks. */
  readonly isOwn: (owner: Expr) => boolean;
  /** Whether a pile is one that the sheet says the seat sees; it is noted that this was needed. */
  readonly isDeclared?: (pile: Extract<Expr, { k: 'pile' }>, owner: Expr | null) => boolean;
  /** Calls that were followed already, in words. */
  readonly followed: Set<string>;
}

function through(look: Look, pieces: readonly (Expr | null)[], given: Given): void {
  const { program, followed } = look;
  const meant = (e: Expr): Expr => (e.k === 'local' ? (given.get(e.i) ?? e) : e);
  eachExprIn(pieces, (e) => {
    if (e.k === 'call') {
      const def = program.defs[e.def];
      if (!def) return;
      const inside = new Map(def.params.map((param, i) => [param.local, meant(e.args[i] as Expr)]));
      const call = JSON.stringify([e.def, ...inside.values()], (key, value) => (key === 'at' ? undefined : value));
      if (followed.has(call)) return;
      followed.add(call);
      through(look, [def.body], inside);
      return;
    }
    const of = e.k === 'cards' ? e.of : e.k === 'fn' && e.f === 'top' ? e.args[0] : undefined;
    if (of?.k === 'pile') into(look, of, of.owner && meant(of.owner));
  });
}

function into(
  { sheet, program, what, isOwn, isDeclared }: Look,
  of: Extract<Expr, { k: 'pile' }>,
  owner: Expr | null,
): void {
  const pile = program.piles[of.i];
  if (!pile) return;
  const isDown = pile.facing === 'down';
  const isOthers = pile.facing === 'private' && (owner === null || !isOwn(owner));
  if (!isDown && !isOthers) return;
  if (isDeclared?.(of, owner)) return;
  const column = columnOf(of.at);
  sheet.warn(
    { line: lineOf(of.at), column, endColumn: column + pile.name.length },
    `${what} looks into "${pile.name}", whose cards ${isDown ? 'nobody sees' : 'only their owner sees'}. Reading a hidden card there stops the table.`,
  );
}

/** Choices and bots that read what their seat may not see. */
export function secrets(sheet: Sheet, program: Program): void {
  for (const [number, ask] of program.asks.entries()) {
    const { who, about } = ask;
    const declared = sheet.looks.find((look) => look.ask === number);
    let isNeeded = false;
    const isDeclared = (pile: Extract<Expr, { k: 'pile' }>, owner: Expr | null): boolean => {
      if (!declared || about?.k !== 'pile' || about.i !== pile.i) return false;
      const isSame = owner === null ? about.owner === null : about.owner !== null && sameExpr(owner, about.owner);
      isNeeded ||= isSame;
      return isSame;
    };
    const isOwn = (owner: Expr): boolean =>
      who.k === 'one' ? sameExpr(owner, who.seat) : owner.k === 'local' && owner.i === who.local;
    for (const option of ask.options) {
      const look = {
        sheet,
        program,
        what: `The option "${option.name}"`,
        isOwn,
        isDeclared,
        followed: new Set<string>(),
      };
      const read = [
        option.when,
        option.label,
        ...option.needs.flatMap((need) => [need.e, need.text]),
        ...option.params.flatMap((param) => exprsOfDomain(param.domain)),
      ];
      through(look, read, NOTHING_GIVEN);
    }
    if (declared && !isNeeded) sheet.error(declared.node, 'Nothing here needs the "because": leave it out.');
  }
  for (const bot of program.bots) {
    const isOwn = (owner: Expr): boolean => owner.k === 'me';
    const look = { sheet, program, what: `The bot "${bot.name}"`, isOwn, followed: new Set<string>() };
    through(look, exprsOfBot(bot), NOTHING_GIVEN);
  }
}
