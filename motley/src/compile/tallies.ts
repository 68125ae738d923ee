import type { Expr, Stmt, Tally, Type } from '@wily-jester/core';
import type * as ast from '../grammar/generated/ast.js';
import { sourceOf } from '../grammar/places.js';
import { listed } from '../problems.js';
import { article } from '../symbols/wording.js';
import type { StmtContext } from './context.js';
import { plainText } from './texts.js';

/** What can be told apart and so be counted, or be gone by: each is a number underneath, or a text. */
const COUNTABLE: ReadonlySet<string> = new Set(['flag', 'int', 'rank', 'suit', 'color', 'seat', 'team', 'text']);
const KEYS: ReadonlySet<string> = new Set(['flag', 'int', 'rank', 'suit', 'color', 'seat', 'team', 'text']);
const isIn = (types: ReadonlySet<string>, t: Type): boolean => types.has(t) || t.startsWith('kind:');

/** The most tallies of one sheet, and the longest name of one. */
const MOST_TALLIES = 64;
const LONGEST_NAME = 60;
/** What a tally may go by: one thing or two. */
const MOST_KEYS = 2;

/** What may be counted of something that itself may not. */
const INSTEAD: Readonly<Record<string, string>> = {
  poker: 'Count its .category.',
  low: 'Count whether it beats another.',
  card: 'Count its .rank or its .suit.',
  'list:card': 'Count how many there are: size(…).',
  pile: 'Count its cards: size(…).',
};

/** The form that a tally has, by what it counts; a problem and a number where that cannot be counted. */
function formOf(c: StmtContext, node: ast.Tally, e: Expr): Tally['form'] {
  const { sheet } = c;
  if (node.per) {
    if (e.t !== 'int' && e.t !== 'nothing')
      sheet.error(node.value, `What is counted per something is a number, and this is ${article(e.t)}.`);
    return 'ratio';
  }
  if (e.t === 'flag') return 'share';
  if (e.t === 'int' || e.t === 'nothing') return 'number';
  if (!isIn(COUNTABLE, e.t))
    sheet.error(node.value, `${article(e.t, true)} is not counted. ${INSTEAD[e.t] ?? 'Count a number of it.'}`);
  return 'category';
}

/** A text that is counted must not hold cards: they would be as many texts as there are cards, and tell who holds them. */
function refuseCards(c: StmtContext, node: ast.Expr, e: Expr): void {
  if (e.k !== 'text') return;
  if (e.parts.some((part) => typeof part !== 'string' && (part.t === 'card' || part.t === 'list:card')))
    c.sheet.error(node, 'A text that is counted holds no cards.');
}

/** Two tallies of one name are one, and must be alike. */
function declared(c: StmtContext, node: ast.Tally, tally: Tally): number {
  const { tallies } = c.sheet;
  const known = tallies.findIndex((other) => other.name === tally.name);
  if (known < 0) {
    if (tallies.length === MOST_TALLIES) c.sheet.error(node, `A sheet has at most ${MOST_TALLIES} tallies.`);
    return tallies.push(tally) - 1;
  }
  const before = tallies[known] as Tally;
  const keys = ({ by }: Tally): string => by.map(({ t }) => t).join();
  if (before.form !== tally.form || before.of !== tally.of || keys(before) !== keys(tally))
    c.sheet.error(
      node,
      `"${tally.name}" is counted otherwise in line ${Math.floor(before.at / 4096)}: two tallies of one name count the same, by the same.`,
    );
  return known;
}

/** `tally "name" value per base by key, key`: what trials count, which changes nothing at the table. */
export function lowerTally(c: StmtContext, node: ast.Tally): Stmt[] {
  const { sheet, x, frame } = c;
  const name = plainText(sheet, node.title).trim();
  if (name === '' || name.length > LONGEST_NAME)
    sheet.error(node.title, `A tally has a name of 1 to ${LONGEST_NAME} characters.`);
  const e = x.lower(node.value, frame);
  const per = node.per ? x.want(node.per, frame, 'int', 'What it is counted per') : null;
  refuseCards(c, node.value, e);
  const by = node.keys.map((key) => {
    const lowered = x.lower(key, frame);
    if (!isIn(KEYS, lowered.t) && lowered.t !== 'nothing')
      sheet.error(
        key,
        `A tally goes by ${listed(['numbers', 'yes or no', 'ranks', 'suits', 'kinds', 'seats', 'teams', 'texts'])}, not by ${article(lowered.t)}.`,
      );
    refuseCards(c, key, lowered);
    return lowered;
  });
  if (by.length > MOST_KEYS)
    sheet.error(node.keys[MOST_KEYS] as ast.Expr, `A tally goes by at most ${MOST_KEYS} things.`);
  const at = sheet.at(node);
  const tally = declared(c, node, {
    name,
    form: formOf(c, node, e),
    of: e.t,
    by: by.slice(0, MOST_KEYS).map(({ t }, i) => ({ t, words: sourceOf(node.keys[i] as ast.Expr) })),
    at: sheet.at(node),
  });
  return [{ s: 'tally', at, tally, e, per, by: by.slice(0, MOST_KEYS) }];
}
