import { faceAscii } from '../../cards/face.js';
import { type Expr, FACINGS } from '../../program/types.js';
import type { Arg } from '../../rules/domains.js';
import type { StateLayout } from '../layout.js';
import type { State } from '../state.js';
import type { Piece } from '../text.js';
import { alwaysCode } from './always.js';
import { answeringCode } from './answering.js';
import { dealingCode } from './dealing.js';
import { ExprWriter, type Place } from './expressions.js';
import { type Mode, Module } from './module.js';
import { askCode, BRANCH } from './options.js';
import { ScriptWriter } from './script.js';
import { Slots } from './slots.js';
import { spend } from './spend.js';
import { resetVar, StmtWriter } from './statements.js';

type Args = readonly Arg[];
/** Reads something as one seat sees it: state, viewer, and up to four values. */
type Read<T> = (s: State, v: number, ...args: Args) => T;

export type DomainCode =
  | {
      readonly k: 'range';
      readonly from: Read<number>;
      readonly to: Read<number>;
      readonly by: Read<number> | null;
      readonly marks: readonly Read<number>[];
    }
  | { readonly k: 'values'; readonly list: Read<readonly number[]> }
  | {
      readonly k: 'cards';
      readonly list: Read<readonly number[]>;
      readonly least: Read<number>;
      readonly most: Read<number> | null;
      readonly grow: Read<boolean> | null;
      readonly shapes: readonly number[] | null;
    };

/** The functions of one option. */
export interface OptionCode {
  readonly when: Read<boolean> | null;
  readonly on: Read<number | readonly number[]> | null;
  /** The label once all parameters are chosen. */
  readonly label: Read<readonly Piece[]> | null;
  /** The label with `{name}` where a parameter's value will stand. */
  readonly template: Read<readonly Piece[]> | null;
  readonly domains: readonly DomainCode[];
  readonly needs: readonly { readonly holds: Read<boolean>; readonly text: Read<readonly Piece[]> | null }[];
}
export interface BotLineCode {
  readonly args: readonly (Read<Arg> | null)[];
  readonly when: Read<boolean> | null;
  readonly prefer: Read<readonly number[]> | null;
}

/** What generated code gives back. */
export interface Code {
  readonly begin: () => void;
  readonly spent: () => number;
  readonly init: (s: State) => void;
  readonly script: (s: State) => void;
  /** Carries out an answer that is legal, and gives what {@link always} gives. */
  readonly answer: (s: State, seat: number, option: number, args: Args) => number;
  /** Ends a pause, and gives what {@link always} gives. */
  readonly resume: (s: State) => number;
  readonly options: readonly (readonly OptionCode[])[];
  /** Whether an answer is legal for a seat that is asked, by ask. */
  readonly legal: readonly ((s: State, v: number, option: number, args: Args) => boolean)[];
  /** The first declaration of what is always so that does not hold, or −1. */
  readonly always: (s: State) => number;
  readonly needs: readonly { readonly holds: (s: State) => boolean; readonly text: (s: State) => readonly Piece[] }[];
  readonly bots: readonly (readonly BotLineCode[])[];
  readonly notes: readonly Read<unknown>[];
  readonly probes: readonly ((s: State) => unknown)[];
  readonly refills: readonly (readonly [number, (s: State) => unknown])[];
}

/** Generated code before it is brought to life: its text, its constants, and where its slots lie. */
export interface Assembled {
  /** Whether what seats have seen is asked for anywhere, and so kept. */
  readonly tracking: boolean;
  readonly source: string;
  readonly texts: readonly string[];
  readonly wordLists: readonly (readonly string[])[];
  /** What each card is called in the words of a state, by its facing. */
  readonly cardWords: readonly (readonly string[])[];
  readonly slots: Slots;
  /** The ask, pause or call at which each resting block stands in the sheet. */
  readonly restPlaces: ReadonlyMap<number, number>;
}

/** Writes all the code of one table: one function a def, routine and clause, and the script's blocks. */
export function assemble(layout: StateLayout, mode: Mode): Assembled {
  const { program } = layout;
  const module = new Module(layout, mode);
  const slots = new Slots(layout.slotBase, layout.refSlotBase);
  const script = new ScriptWriter(module, slots);
  const scriptCode = script.write();
  for (const [i, routine] of program.routines.entries()) {
    if (i === 0 || routine.waits) continue;
    const st = new StmtWriter(module, new Map(routine.params.map((p) => [p, { js: `l${p}` }])));
    const exits = {
      leave: 'break;',
      returns: 'return false;',
      finishes: 'return finish(s);',
      finished: 'return true;',
    };
    module.add(
      `function r${i}(${['s', ...routine.params.map((p) => `l${p}`)].join(',')}){${module.lengths.isShortRoutine(i) ? '' : spend(1, routine.at)}${st.block(routine.body, exits)}return false;}`,
    );
  }
  const nowhere = new Map<number, Place>();
  const x = new ExprWriter(module, nowhere, false);
  const asks = program.asks.map((ask) => askCode(module, script, ask));
  const always = alwaysCode(module);
  const needs = program.needs.map(
    (need) =>
      `{holds:${module.fn('n', ['s'], nowhere, need.e, false)},text:${need.text ? module.fn('n', ['s'], nowhere, need.text, false, true) : 'null'}}`,
  );
  const bots = program.bots.map((bot) => {
    const lines = bot.lines.map((line) => {
      const bound = new Map(line.locals.map((local, i): [number, Place] => [local, { js: `a${i}` }]));
      for (const [i, local] of line.locals.entries())
        if (bot.locals[local]?.t === 'flag') bound.set(local, { js: `(a${i}!==0)` });
      const args = (line.args ?? []).map((arg) => (arg ? numeric(module, ['s', 'v'], nowhere, arg) : 'null'));
      const when = line.when ? module.fn('t', ['s', 'v', ...BRANCH], bound, line.when, true) : 'null';
      const prefer = line.prefer ? module.fn('t', ['s', 'v', ...BRANCH], bound, line.prefer, true) : 'null';
      return `{args:[${args.join(',')}],when:${when},prefer:${prefer}}`;
    });
    return `[${lines.join(',')}]`;
  });
  const notes = program.notes.map((note) => {
    const [param] = program.defs[note.def]?.params ?? [];
    const asPile = param?.t === 'list:card';
    const name = param ? module.def(note.def, [asPile], [!asPile], true) : module.def(note.def, [], [], true);
    return module.helper((h) => `function ${h}(s,v,p){return ${name}(s,v${param ? ',p' : ''});}`);
  });
  const probes = program.probes.map((probe) => module.fn('p', ['s'], nowhere, probe, false, probe.t === 'text'));
  const init = program.vars.map((_, i) => resetVar(module, x, i)).join('');
  const refills = program.piles.flatMap((pile, decl) =>
    pile.refill === null
      ? []
      : layout.piles.flatMap((placed, p) => (placed.decl === decl ? [`[${p},r${pile.refill}]`] : [])),
  );
  const source = [
    '"use strict";',
    'let ops=0,written=1;',
    dealingCode(layout, {
      noting: !mode.quiet || mode.tracking || module.asksWhatWasSeen,
      promised: mode.promised,
    }),
    module.source,
    scriptCode,
    always,
    `function init(s){${init}}`,
    answeringCode(module, script),
    'return {begin,spent(){return ops;},init,script,answer,resume,',
    `options:[${asks.map((ask) => ask.options).join(',')}],legal:[${asks.map((ask) => ask.legal).join(',')}],always,needs:[${needs.join(',')}],bots:[${bots.join(',')}],`,
    `notes:[${notes.join(',')}],probes:[${probes.join(',')}],refills:[${refills.join(',')}]};`,
  ].join('\n');
  return {
    tracking: module.asksWhatWasSeen,
    source,
    texts: module.texts,
    wordLists: module.wordLists,
    cardWords: FACINGS.map((_, facing) => layout.faces.map((face, c) => `${c}=${faceAscii(face)}${facing}`)),
    slots,
    restPlaces: script.restPlaces,
  };
}

/** A value as the number that states keep: flags become 0 and 1. */
function numeric(module: Module, params: readonly string[], places: ReadonlyMap<number, Place>, e: Expr): string {
  const name = module.fn('t', params, places, e, true);
  return e.t === 'flag'
    ? module.helper((h) => `function ${h}(${params.join(',')}){return Number(${name}(${params.join(',')}));}`)
    : name;
}
