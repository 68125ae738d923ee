import {
  type Always,
  type DeckDecl,
  GENRES,
  type Genre,
  type Need,
  type Program,
  SEMANTICS,
  STRENGTHS,
} from '@wily-jester/core';
import { checkCallDepth } from '../check/depth.js';
import { checkFlow } from '../check/flow.js';
import type * as ast from '../grammar/generated/ast.js';
import { parse } from '../grammar/parse.js';
import { sourceOf } from '../grammar/places.js';
import { bundledParts, type Parts } from '../parts/library.js';
import { paste } from '../parts/paste.js';
import type { Problem } from '../problems.js';
import { Frame, Sheet, untilEnough } from '../symbols/scope.js';
import { article, counted } from '../symbols/wording.js';
import { lowerBot } from './bots.js';
import {
  declareMember,
  lowerDeck,
  lowerLayout,
  lowerOrders,
  lowerPile,
  lowerShape,
  lowerVariable,
  seatCounts,
} from './declarations.js';
import { checkHole, declareDefs } from './defs.js';
import { Expressions } from './expressions.js';
import { setOrder } from './own-order.js';
import { declareRoutines, lowerRoutines, setRefill } from './routines.js';
import { lowerSetting } from './settings.js';
import { compileText, labelText, plainText } from './texts.js';

const MOST_DECLARATIONS = 500;

/** What checking a sheet gives: its problems, and the program where there is no error. */
export interface Checked {
  readonly program: Program | undefined;
  readonly problems: readonly Problem[];
  readonly lines: number;
  /** The sheet as it is kept: with the parts that it uses pasted in. */
  readonly text: string;
  /** Looks that the sheet declares with `about … because`: its author answers for them. */
  readonly looks: readonly { readonly line: number; readonly reason: string }[];
}

/** A sheet in the middle of being compiled, for rehearsals that look into it. */
export interface Compiled extends Checked {
  readonly sheet: Sheet | undefined;
  /** The errors in one of its parts, as they stand there. */
  inPart(name: string): readonly Problem[];
}

/** Checks and compiles the text of a rule sheet, with the parts that it uses. Never throws. */
export function compileSheet(text: string, parts: Parts = bundledParts): Compiled {
  const lines = text.split('\n').length;
  const failed = (problems: readonly Problem[]): Compiled => ({
    program: undefined,
    problems,
    lines,
    text,
    looks: [],
    sheet: undefined,
    inPart: () => [],
  });
  const { document, problems } = parse(text);
  if (problems.length > 0) return failed(problems);
  if (!document?.game) return failed([noSheet(document)]);
  const pasted = paste(text, document.game, parts);
  if (pasted.problems.length > 0) return failed(pasted.problems);
  const whole = pasted.text === text ? { document, problems } : parse(pasted.text);
  if (!whole.document?.game) return failed(pasted.relocated(whole.problems));
  const sheet = new Sheet();
  const { game } = whole.document;
  const lowered = untilEnough(() => lowerGame(sheet, game, blurbOf(text)));
  const program = lowered && { ...lowered, ...(pasted.parts.length > 0 ? { parts: pasted.parts } : {}) };
  const found = pasted.relocated(sheet.problems);
  found.sort((a, b) => a.line - b.line || a.column - b.column);
  const wrong = found.some((p) => p.severity === 'error');
  return {
    program: wrong ? undefined : program,
    problems: found,
    lines,
    text: pasted.text,
    looks: sheet.looks.map(({ line, reason }) => ({ line, reason })),
    sheet,
    inPart: (name) => pasted.inPart(name, sheet.problems),
  };
}

const noSheet = (document: ast.Document | undefined): Problem => ({
  severity: 'error',
  line: 1,
  column: 1,
  endColumn: 2,
  message: document?.part
    ? 'This is a part, and no sheet: a sheet pastes it in with use "its-name".'
    : 'This is not a rule sheet: it should begin with game "Name" for … seats { … }.',
});

/** The comment at the head of a sheet. */
function blurbOf(text: string): string {
  const lines: string[] = [];
  for (const line of text.split('\n')) {
    const comment = /^\s*\/\/\s?(.*)$/.exec(line);
    if (!comment) break;
    lines.push(comment[1]?.trim() ?? '');
  }
  return lines.join(' ').trim();
}

function partsOf<T extends ast.Part['$type']>(game: ast.Game, type: T): Extract<ast.Part, { $type: T }>[] {
  return game.parts.filter((part) => part.$type === type) as Extract<ast.Part, { $type: T }>[];
}

const MOST_GENRES = 2;

/** What kind of game the header says that it is. */
function genresOf(sheet: Sheet, game: ast.Game): Genre[] {
  const { genres } = game;
  for (const name of genres)
    if (!(GENRES as readonly string[]).includes(name)) sheet.unknown(game, name, GENRES, 'kind of game');
  if (genres.length > MOST_GENRES) sheet.error(game, `A game is of ${MOST_GENRES} kinds at most.`);
  const twice = genres.find((name, i) => genres.indexOf(name) < i);
  if (twice !== undefined) sheet.error(game, `"${twice}" stands here twice.`);
  return genres.filter((name): name is Genre => (GENRES as readonly string[]).includes(name));
}

/** With the seed every order of the table is known: whoever never had to show a hand has shown it then. */
function checkSeedShown(sheet: Sheet, node: ast.SeedShown, seats: readonly number[]): void {
  if (node.what !== 'seed') sheet.unknown(node, node.what, ['seed'], 'thing that a table shows');
  const hidden = sheet.piles.find(
    (pile, i) => i > 0 && (pile.facing === 'private' || (pile.perSeat && pile.facing === 'down')),
  );
  if (hidden && Math.max(...seats) > 1)
    sheet.warn(
      node,
      `Once a game is over its seed tells every card that lay in "${hidden.name}", shown or not. Leave "show seed" out where a hand may stay hidden.`,
    );
}

function lowerGame(sheet: Sheet, game: ast.Game, blurb: string): Program {
  const x = new Expressions(sheet);
  if (game.parts.length > MOST_DECLARATIONS)
    sheet.tooMuch(game, `A sheet has at most ${MOST_DECLARATIONS} declarations.`);
  const seats = seatCounts(sheet, game.seats);
  const genres = genresOf(sheet, game);
  const orders = lowerOrders(sheet, partsOf(game, 'Order'));
  sheet.suitOrder = orders.suitOrder;
  for (const part of partsOf(game, 'Shape')) lowerShape(sheet, part);

  const settings = partsOf(game, 'Setting');
  for (const [i, node] of settings.entries()) {
    const later = settings.slice(i).map((other) => other.name);
    sheet.settings.push(lowerSetting(x, node, later));
    sheet.declare(node.name, node, 'setting', { k: 'setting', i: sheet.settings.length - 1 });
  }
  for (const node of partsOf(game, 'KindDecl')) {
    if (!/^[A-Z][a-z]/.test(node.name))
      sheet.error(node, `A kind's name starts with a capital, and is longer than one letter: "${node.name}" does not.`);
    sheet.declare(node.name, node, 'kind', null);
    sheet.kinds.push({
      name: node.name,
      members: node.members.map((m) => ({ name: m.name, label: m.label ? labelText(sheet, m.label) : null })),
    });
    for (const [v, member] of node.members.entries()) declareMember(sheet, member, member.name, node.name, v);
  }
  sheet.piles.push({
    name: 'pack',
    label: null,
    perSeat: false,
    by: null,
    many: null,
    open: false,
    cells: null,
    spots: null,
    sorted: null,
    facing: 'down',
    refill: null,
    shape: 'stack',
    alike: false,
    at: sheet.at(game),
  });
  const pileNodes = partsOf(game, 'PileDecl');
  for (const node of pileNodes) lowerPile(sheet, node);
  const decks = partsOf(game, 'Deck').map((node): DeckDecl => lowerDeck(x, node));
  if (decks.length === 0)
    sheet.error(game.title, 'This sheet has no deck. Add a line such as: deck standard', 'deck standard');

  declareDefs(x, partsOf(game, 'Def'));
  for (const node of partsOf(game, 'VarDecl')) lowerVariable(x, node);
  const routineNodes = partsOf(game, 'Routine');
  declareRoutines(sheet, routineNodes);
  for (const node of partsOf(game, 'BotDecl')) {
    if (STRENGTHS.includes(node.name))
      // No error: sheets that were written before the word was taken still play.
      sheet.warn(
        node,
        `Any sheet has an opponent called "${node.name}", which plays in place of this bot: choose another name.`,
      );
    if (sheet.bots.some((bot) => bot.name === node.name)) sheet.error(node, `There is a bot "${node.name}" already.`);
    sheet.bots.push({ name: node.name, locals: [], lines: [] });
  }
  for (const i of sheet.defs.keys()) sheet.ensureDef(i);
  for (const node of partsOf(game, 'Hole')) checkHole(sheet, node);
  lowerRoutines(x, scriptOf(sheet, game), routineNodes);
  for (const [i, node] of pileNodes.entries()) {
    setRefill(sheet, node, i + 1);
    setOrder(x, node, i + 1);
  }
  for (const [i, node] of partsOf(game, 'BotDecl').entries()) sheet.bots[i] = lowerBot(x, node);

  const top = new Frame('top', false);
  const needs = partsOf(game, 'TopNeeds').map(
    (node): Need => ({
      e: x.want(node.condition, top, 'flag', 'What is needed'),
      text: compileText(x, top, node.text),
      source: sourceOf(node.condition),
      depth: 0,
      at: sheet.at(node),
    }),
  );
  const always = partsOf(game, 'Always').map(
    (node): Always => ({
      name: plainText(sheet, node.title),
      e: x.want(node.condition, top, 'flag', 'What always holds'),
      at: sheet.at(node),
    }),
  );
  checkCans(x);
  const [undo] = partsOf(game, 'Undo');
  if (undo && undo.how !== 'free') sheet.unknown(undo, undo.how, ['free'], 'way to undo');
  const [shown] = partsOf(game, 'SeedShown');
  if (shown) checkSeedShown(sheet, shown, seats);
  const [wins] = partsOf(game, 'Wins');
  if (wins && wins.which !== 'least' && wins.which !== 'most')
    sheet.unknown(wins, wins.which, ['least', 'most'], 'way to win');
  const layouts = partsOf(game, 'Layout');
  for (const extra of layouts.slice(1)) sheet.error(extra, 'There is a layout already: a sheet has one.');
  const program: Program = {
    semantics: SEMANTICS,
    name: titleOf(sheet, game),
    blurb,
    seats,
    ...(genres.length > 0 ? { genres } : {}),
    teams: sheet.teams,
    winsLeast: wins?.which === 'least',
    undoFree: undo !== undefined,
    ...(shown ? { showsSeed: true } : {}),
    settings: sheet.settings,
    needs,
    decks,
    ...orders,
    kinds: sheet.kinds,
    shapes: sheet.shapes,
    piles: sheet.piles,
    vars: sheet.vars,
    ...lowerLayout(sheet, layouts[0]),
    defs: sheet.defs,
    routines: sheet.routines,
    asks: sheet.asks,
    always,
    bots: sheet.bots,
    ...(sheet.tallies.length > 0 ? { tallies: sheet.tallies } : {}),
    probes: [],
  };
  checkCallDepth(sheet, (name) => sheet.declared.get(name)?.node);
  checkFlow(sheet, program, game);
  return program;
}

/** Longest name of a game, in characters. */
const LONGEST_TITLE = 80;
/** Signs that steer a line's direction or a terminal, and halves of signs. */
const UNSEEN = /[\p{Cc}\p{Cf}\p{Cs}\p{Zl}\p{Zp}]/u;

/** The name of the game, as lists show it beside others. */
function titleOf(sheet: Sheet, game: ast.Game): string {
  const title = plainText(sheet, game.title).normalize('NFC');
  if (title.trim() === '') sheet.error(game.title, 'The name of a game is not empty.');
  if (title.length > LONGEST_TITLE)
    sheet.error(
      game.title,
      `The name of a game has at most ${LONGEST_TITLE} characters, and this one ${title.length}.`,
    );
  if (UNSEEN.test(title))
    sheet.error(game.title, 'The name of a game holds a sign that nobody can see: write it anew.');
  return title;
}

/** The script: a sheet has one. */
function scriptOf(sheet: Sheet, game: ast.Game): ast.Play | undefined {
  const [play, ...others] = partsOf(game, 'Play');
  for (const extra of others) sheet.error(extra, 'There is a "play" already: a sheet has one script.');
  if (!play) sheet.error(game.title, 'This sheet has no script: add play { … }, which says how the game runs.');
  return play;
}

/** `can` names an option and values for its parameters: both are known once all asks are compiled. */
function checkCans({ sheet }: Expressions): void {
  for (const { node, args } of sheet.cans) {
    const params = sheet.optionParams.get(node.option);
    if (!params) sheet.unknown(node, node.option, sheet.optionNames, 'option');
    else if (args.length > 0 && args.length !== params.length)
      sheet.error(
        node,
        `"${node.option}" takes ${counted(params.length, 'value')}, and here there are ${args.length}.`,
      );
    else
      for (const [i, arg] of args.entries()) {
        const given = node.args[i];
        const param = params[i]?.name ?? '';
        if (arg === null && given?.$type === 'Ref' && given.name !== param) sheet.unknown(given, given.name, [param]);
        if (arg && arg.t !== params[i]?.t)
          sheet.error(
            node,
            `The ${params[i]?.name} of ${node.option} is ${article(params[i]?.t ?? 'int')}, not ${article(arg.t)}.`,
          );
      }
  }
}
