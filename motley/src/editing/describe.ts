import { byName, type Program, settingsRead, standardLimits } from '@wily-jester/core';
import { listed } from '../problems.js';
import { CONSTANTS, FUNCTIONS, typeText } from '../symbols/builtins.js';
import type { Sheet } from '../symbols/scope.js';
import type { Space } from './occurrences.js';

/** What the members of built-in values are, after a point. */
export const MEMBERS = byName<string>({
  rank: "a card's rank",
  suit: "a card's suit",
  color: "a card's colour: red or black",
  pips: "a card's pips: ace 1, jack 11, queen 12, king 13",
  number: 'the number on a numbered card',
  place: "a card's place in its pile, from 1, bottom first",
  pile: 'the pile where a card lies',
  score: 'the score of a seat or team',
  seat: 'the seat that owns a pile',
  team: "a seat's team",
  seats: "a team's seats",
  category: "a high hand's category, from highCard to straightFlush",
  ranks: 'the ranks that decide a high hand, the most important first',
  name: 'a hand in words',
});

/** A thing of a sheet in words: what it is, its type, and its own line of help. `undefined` for what the sheet does not declare. */
export function describe(sheet: Sheet, program: Program | undefined, name: string, space: Space): string | undefined {
  if (space === 'option') {
    const params = sheet.optionParams.get(name);
    if (!params) return undefined;
    return `option ${name}${params.length > 0 ? `(${params.map((p) => `${p.name}: ${p.tail ? 'tail' : typeText(p.t)}`).join(', ')})` : ''}`;
  }
  if (space === 'bot') return sheet.bots.some((bot) => bot.name === name) ? `bot ${name}` : undefined;
  const i = sheet.settings.findIndex((s) => s.name === name);
  const setting = sheet.settings[i];
  if (setting) {
    const { domain } = setting;
    const limits = standardLimits(sheet)[i];
    const follows = settingsRead(sheet, setting);
    const range =
      domain.k === 'range'
        ? `${limits?.from}..${limits?.to}${follows.length > 0 ? ` (follows ${listed(follows)})` : ''}`
        : domain.k === 'flag'
          ? 'flag'
          : (domain.k === 'words' ? domain.words : domain.values).join(' | ');
    return `setting ${name}: ${range}${setting.help ? `\n\n${setting.help}` : ''}`;
  }
  const pile = sheet.piles.find((p) => p.name === name);
  if (pile) {
    const family = pile.open
      ? '[many]'
      : pile.cells
        ? `[${pile.cells.names.join(', ')}]`
        : pile.many === null
          ? ''
          : `[${pile.many}]`;
    const each = pile.perSeat ? ' of each seat' : pile.by ? ` of each ${pile.by}` : '';
    return `pile ${name}${family}${each}, ${pile.facing === 'private' ? 'private' : `face ${pile.facing}`}${pile.label ? `\n\n${pile.label}` : ''}`;
  }
  const variable = sheet.vars.find((v) => v.name === name);
  if (variable) {
    const { of } = variable;
    const each = of.k === 'table' ? '' : ` of each ${of.k === 'pile' ? sheet.piles[of.pile]?.name : of.k}`;
    return `var ${name}${each}: ${typeText(variable.t)}${variable.label ? `\n\n${variable.label}` : ''}`;
  }
  const def = sheet.defs.find((d) => d.name === name);
  if (def) {
    const params = def.params.map((p) => `${def.locals[p.local]?.name}: ${typeText(p.t)}`).join(', ');
    return `def ${name}${params ? `(${params})` : ''}: ${typeText(def.t)}`;
  }
  const routine = sheet.routines.find((r, i) => i > 0 && r.name === name);
  if (routine) {
    const params = routine.params.map((p) => `${routine.locals[p]?.name}: ${typeText(routine.locals[p]?.t ?? 'int')}`);
    return `routine ${name}(${params.join(', ')})${routine.waits ? '\n\nIt waits: an ask or a pause is inside.' : ''}`;
  }
  const shape = sheet.shapes.find((s) => s.name === name);
  if (shape)
    return `shape ${name}: ${shape.least}${shape.most === null ? ' or more' : shape.most === shape.least ? '' : ` to ${shape.most}`} cards`;
  const kind = sheet.kinds.find((k) => k.name === name);
  if (kind) return `kind ${name} = ${kind.members.map((m) => m.name).join(' | ')}`;
  const member = sheet.kinds.find((k) => k.members.some((m) => m.name === name));
  if (member) return `${name}, one of ${member.name}`;
  const usage = FUNCTIONS[name]?.usage;
  if (usage) return `${usage}\n\nA function of the language.`;
  const constant = CONSTANTS[name];
  if (constant) return `${name}: ${typeText(constant.t)}`;
  const places = program?.seats;
  return name === 'seats' && places
    ? `seats: all seats of the table, ${Math.min(...places)} to ${Math.max(...places)}`
    : undefined;
}
