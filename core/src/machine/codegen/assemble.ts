import type { Ask } from '../../program/types.js';
import type { StateLayout } from '../layout.js';
import { BUDGETS } from '../prices.js';
import { alwaysCode } from './always.js';
import { answeringCode } from './answering.js';
import { botCode } from './bots.js';
import { dealingCode } from './dealing.js';
import { ExprWriter } from './expressions.js';
import { type Mode, Module } from './module.js';
import { askCode } from './options.js';
import type { Place } from './places.js';
import { pricedCode } from './priced.js';
import { ScriptWriter } from './script.js';
import { Slots } from './slots.js';
import { pay, standsAt } from './spend.js';
import { resetVar, StmtWriter } from './statements.js';
import { js, textOf } from './written.js';

/** Generated code before it is compiled: its text, its constants, and its slots. */
export interface Assembled {
  /** Whether what seats have seen is asked for anywhere, and so kept. */
  readonly tracking: boolean;
  readonly source: string;
  readonly texts: readonly string[];
  readonly wordLists: readonly (readonly string[])[];
  readonly slots: Slots;
  /** The ask, pause or call at which each resting block stands in the sheet. */
  readonly restPlaces: ReadonlyMap<number, number>;
}

/** Writes all the code of one table: one function a def, routine and clause, and the script's blocks. */
export function assemble(layout: StateLayout, mode: Mode): Assembled {
  const { program } = layout;
  const module = new Module(layout, mode, (of, places, options) => new ExprWriter(of, places, options));
  const slots = new Slots(layout.slotBase, layout.refSlotBase);
  const script = new ScriptWriter(module, slots);
  const scriptCode = script.write();
  for (const [i, routine] of program.routines.entries()) {
    if (i === 0 || routine.waits) continue;
    const st = new StmtWriter(module, new Map(routine.params.map((p) => [p, { js: `l${p}` }])));
    const exits = {
      leave: ['break;'],
      returns: ['return false;'],
      finishes: ['return finish(s);'],
      finished: ['return true;'],
    };
    const params = ['s', ...routine.params.map((p) => `l${p}`)].join(',');
    module.add(
      `function r${i}(${params}){${module.counted(i, routine.at)}${textOf(st.block(routine.body, exits))}return false;}`,
    );
  }
  const nowhere = new Map<number, Place>();
  const x = new ExprWriter(module, nowhere, { guarded: false });
  const asks = program.asks.map((ask) => askCode(module, script, ask));
  const always = alwaysCode(module);
  const needs = program.needs.map(
    (need) =>
      `{holds:${module.fn('n', ['s'], nowhere, need.e, false)},text:${need.text ? module.fn('n', ['s'], nowhere, need.text, false, true) : 'null'}}`,
  );
  const bots = program.bots.map((bot) => botCode(module, bot, asks));
  const notes = program.notes.map((note) => {
    const [param] = program.defs[note.def]?.params ?? [];
    const asPile = param?.t === 'list:card';
    const name = param ? module.def(note.def, [asPile], [!asPile], true) : module.def(note.def, [], [], true);
    const weight = 1 + module.lengths.weightOf(program.defs[note.def]?.body);
    return module.helper(
      (h) =>
        `function ${h}(s,v,p){${standsAt(program.defs[note.def]?.body.at ?? 0)}${pay(weight)}return ${name}(s,v${param ? ',p' : ''});}`,
    );
  });
  const orders = program.piles.map(({ ownOrder, at }) => {
    if (!ownOrder) return 'null';
    const fn = module.fn('k', ['s', 'v', 'cs'], new Map([[ownOrder.local, { js: 'cs' }]]), ownOrder.e, true);
    return module.helper((h) => `function ${h}(s,v,cs){${standsAt(at)}${pay(1)}return ${fn}(s,v,cs);}`);
  });
  const probes = program.probes.map((probe) => module.fn('p', ['s'], nowhere, probe, false, probe.t === 'text'));
  const init = program.vars.map((_, i) => resetVar(module, x, i)).join('');
  const refills = program.piles.flatMap((pile, decl) =>
    pile.refill === null
      ? []
      : layout.piles.flatMap((placed, p) => (placed.decl === decl ? [`[${p},r${pile.refill}]`] : [])),
  );
  const written = [
    `let ops=0,limit=${BUDGETS.step},ofStep=${BUDGETS.step},search=0,written=1,here=0;`,
    'function pay(n){if((ops+=n)>limit)tooDear(here,limit);}',
    dealingCode(layout, {
      noting: !mode.quiet || mode.tracking || module.asksWhatWasSeen,
      promised: mode.promised,
      rehearsing: mode.rehearsing,
    }),
    module.source,
    scriptCode,
    choosableCode(asks.map((ask) => ask.choosable)),
    always,
    `function init(s){${init}}`,
    answeringCode(module, script),
    `return {begin,pay,spent(){return ops;},here(){return here;},allow(n){ofStep=n*${BUDGETS.step};},`,
    'init,script,answer,expire,resume,',
    js`
      options:[${asks.map((ask) => ask.options).join(',')}],
      legal:[${asks.map((ask) => ask.legal).join(',')}],choosable,racers:[${asks.map((ask) => ask.racers).join(',')}],
      draw:[${asks.map((ask, i) => drawCode(program.asks[i] as Ask, ask.draws)).join(',')}],
      always,needs:[${needs.join(',')}],bots:[${bots.map(({ plays }) => plays).join(',')}],botLines:[${bots.map(({ lines }) => lines).join(',')}],`,
    `notes:[${notes.join(',')}],orders:[${orders.join(',')}],probes:[${probes.join(',')}],refills:[${refills.join(',')}]};`,
  ].join('\n');
  const source = ['"use strict";', pricedCode(written), written].join('\n');
  return {
    tracking: module.asksWhatWasSeen,
    source,
    texts: module.texts,
    wordLists: module.wordLists,
    slots,
    restPlaces: script.restPlaces,
  };
}

/** The function that draws a choice of an ask. */
function drawCode({ options }: Ask, draws: readonly string[]): string {
  const among = (fits: (aside: boolean) => boolean): string =>
    `drawingAmong(D,[${options.flatMap(({ aside }, i) => (fits(aside) ? [i] : [])).join(',')}],begin)`;
  return js`
    ((D)=>{
      const all=${among(() => true)},moves=${among((aside) => !aside)},asides=${among((aside) => aside)};
      return (s,v,g,open)=>open?all(s,v,g):moves(s,v,g)??asides(s,v,g);
    })([${draws.join(',')}])`;
}

/**
 * The function that finds whether a seat has a move left in an ask. It has a budget of its own, shared by all seats that
 * are asked in a step: what cannot be found within it counts as a move.
 */
const choosableCode = (asks: readonly string[]): string =>
  js`
    function movesLeft(s,ask,v){switch(ask){${asks.map((fn, i) => `case ${i}:return ${fn}(s,v);`).join('')}}return false;}
    function choosable(s,ask,v){
      const before=ops,most=limit,place=here;
      ops=search;limit=${BUDGETS.offers};
      try{return movesLeft(s,ask,v);}
      catch(error){if(isTooDear(error))return true;throw error;}
      finally{search=ops;ops=before;limit=most;here=place;}
    }`;
