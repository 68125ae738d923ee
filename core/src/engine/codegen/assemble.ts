import type { Ask, Expr, Option } from '../../program/types.js';
import type { Arg } from '../domains.js';
import type { Shape } from '../shape.js';
import type { State } from '../state.js';
import type { Piece } from '../text.js';
import { ExprWriter, type Place } from './expressions.js';
import { Module } from './module.js';
import { ScriptWriter, Slots } from './script.js';
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
  readonly options: readonly (readonly OptionCode[])[];
  readonly always: readonly ((s: State) => boolean)[];
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
  readonly slots: Slots;
  /** The ask, pause or call at which each resting block stands in the sheet. */
  readonly restPlaces: ReadonlyMap<number, number>;
  /** The slot of each kept local, by `routine local`; those among the lists are negative. */
  readonly paramSlots: ReadonlyMap<string, number>;
}

const BRANCH = ['a0', 'a1', 'a2', 'a3'];

/** Writes all the code of one table: one function a def, routine and clause, and the script's blocks. */
export function assemble(shape: Shape, covering: boolean): Assembled {
  const { program } = shape;
  const module = new Module(shape, covering);
  const slots = new Slots(shape.slotBase, shape.refSlotBase);
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
      `function r${i}(${['s', ...routine.params.map((p) => `l${p}`)].join(',')}){spend(1,${routine.at});${st.block(routine.body, exits)}return false;}`,
    );
  }
  const nowhere = new Map<number, Place>();
  const x = new ExprWriter(module, nowhere, false);
  const options = program.asks.map(
    (ask) => `[${ask.options.map((option) => optionCode(module, script, ask, option)).join(',')}]`,
  );
  const always = program.always.map((a) => module.fn('w', ['s'], nowhere, a.e, false));
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
    const def = program.defs[note.def];
    const asPile = def?.params[0]?.t === 'list:card';
    const name = module.def(note.def, [asPile], true);
    const fn = module.helper((h) => `function ${h}(s,v,p){return ${name}(s,v,p);}`);
    return fn;
  });
  const probes = program.probes.map((probe) => module.fn('p', ['s'], nowhere, probe, false, probe.t === 'text'));
  const init = program.vars.map((_, i) => resetVar(module, x, i)).join('');
  const refills = program.piles.flatMap((pile, decl) =>
    pile.refill === null
      ? []
      : shape.piles.flatMap((placed, p) => (placed.decl === decl ? [`[${p},r${pile.refill}]`] : [])),
  );
  const paramSlots = new Map<string, number>();
  for (const [routine, frame] of script.frames)
    for (const [local, place] of frame.places) {
      const [, row, slot] = /^\(?s\.(f|refs)\[(\d+)\]/.exec(place.js) ?? [];
      if (slot !== undefined) paramSlots.set(`${routine} ${local}`, row === 'f' ? Number(slot) : -Number(slot));
    }
  const source = [
    '"use strict";',
    'let ops=0;',
    'function spend(n,at){ops+=n;if(ops>LIMIT)tooLong(at);}',
    module.source,
    scriptCode,
    `function init(s){${init}}`,
    'return {begin(){ops=0;},spent(){return ops;},init,script,',
    `options:[${options.join(',')}],always:[${always.join(',')}],needs:[${needs.join(',')}],bots:[${bots.join(',')}],`,
    `notes:[${notes.join(',')}],probes:[${probes.join(',')}],refills:[${refills.join(',')}]};`,
  ].join('\n');
  return {
    tracking: module.asksWhatWasSeen,
    source,
    texts: module.texts,
    wordLists: module.wordLists,
    slots,
    restPlaces: script.restPlaces,
    paramSlots,
  };
}

/** A value as the number that states keep: flags become 0 and 1. */
function numeric(module: Module, params: readonly string[], places: ReadonlyMap<number, Place>, e: Expr): string {
  const name = module.fn('t', params, places, e, true);
  return e.t === 'flag'
    ? module.helper((h) => `function ${h}(${params.join(',')}){return Number(${name}(${params.join(',')}));}`)
    : name;
}

/** A list of flags as the numbers that choices carry. */
function asNumbers(module: Module, params: readonly string[], list: string): string {
  const given = params.join(',');
  return module.helper((name) => `function ${name}(${given}){return ${list}(${given}).map(Number);}`);
}

function optionCode(module: Module, script: ScriptWriter, ask: Ask, option: Option): string {
  const frame = script.frames.get(ask.routine);
  const places = new Map<number, Place>(frame?.places ?? []);
  if (ask.who.k === 'every') places.set(ask.who.local, { js: 'v', isThere: true });
  for (const [i, param] of option.params.entries())
    places.set(param.local, { js: param.t === 'flag' ? `(${BRANCH[i]}!==0)` : (BRANCH[i] as string) });
  const params = ['s', 'v', ...BRANCH];
  const read = (e: Expr | null): string => (e ? module.fn('q', params, places, e, true) : 'null');
  const text = (e: Expr | null): string => (e ? module.fn('q', params, places, e, true, true) : 'null');
  const domains = option.params.map(({ domain }) =>
    domain.k === 'cards'
      ? `{k:"cards",list:${read(domain.list)},least:${read(domain.least)},most:${read(domain.most)},grow:${read(domain.grow)},shapes:${domain.shapes ? JSON.stringify(domain.shapes) : 'null'}}`
      : domain.k === 'range'
        ? `{k:"range",from:${read(domain.from)},to:${read(domain.to)},by:${read(domain.by)},marks:[${domain.landmarks.map((m) => read(m.e)).join(',')}]}`
        : `{k:"values",list:${domain.t === 'flag' ? asNumbers(module, params, read(domain.list)) : read(domain.list)}}`,
  );
  const needs = option.needs.map((need) => `{holds:${read(need.e)},text:${text(need.text)}}`);
  const when = read(option.when);
  const guard =
    module.covering && option.when
      ? module.helper(
          (h) =>
            `function ${h}(${params.join(',')}){if(${when}(${params.join(',')}))return true;${module.mark('guard', option.when?.at ?? 0)}return false;}`,
        )
      : when;
  return `{when:${guard},on:${read(option.on)},label:${text(option.label)},template:${text(template(option))},domains:[${domains.join(',')}],needs:[${needs.join(',')}]}`;
}

/** The label with `{name}` in place of each parameter; `null` where it does more with them than naming them. */
function template(option: Option): Expr | null {
  if (option.label?.k !== 'text') return null;
  const parts = option.label.parts.map((part) => {
    const param =
      typeof part !== 'string' && part.k === 'local' ? option.params.find((p) => p.local === part.i) : undefined;
    return param ? `{${param.name}}` : part;
  });
  return { ...option.label, parts };
}
