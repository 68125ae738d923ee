import { ANSWERED, ASK, ASKED, ASKED_SEAT, CHOSEN, NUMBER, TIME_UP, WAIT, WAIT_ANY, WAIT_EVERY } from '../layout.js';
import { BUDGETS } from '../prices.js';
import type { Module } from './module.js';
import type { ScriptWriter } from './script.js';
import { js } from './written.js';

/**
 * The functions with which a table goes on: `answer` puts a legal answer where the script reads it, `resume` ends a
 * pause, `expire` an ask whose time is up. Each runs the script to its next wait, counts operations from nothing, and
 * gives what `always` gives. They stand beside the script, for games are simulated that do little more in a step.
 */
export function answeringCode(module: Module, script: ScriptWriter): string {
  const { asks } = module.program;
  const { layout } = module;
  const { pendingBase } = layout;
  const cases = asks.flatMap((ask, i) => {
    const places = script.frames.get(ask.routine)?.places;
    if (ask.who.k === 'every' || !places) return [];
    const options = ask.options.flatMap(({ params }, option) => {
      const puts = params.flatMap(({ local }, p) => {
        const place = places.get(local);
        // Flags come as 0 and 1, as they are kept.
        return place ? [`${place.slot?.js ?? place.js}=args[${p}];`] : [];
      });
      return puts.length > 0 ? [`case ${option}:${puts.join('')}break;`] : [];
    });
    return options.length > 0 ? [`case ${i}:switch(option){${options.join('')}}break;`] : [];
  });
  const put = cases.length > 0 ? `switch(s.f[${ASK}]|0){${cases.join('')}}` : '';
  // What is asked of all waits for the last of them, in a list that nobody writes into.
  const wait = js`
    s.refs[${pendingBase}+seat]=args.length===0?[option]:args.length===1?[option,args[0]]:[option,...args];
    s.f[${ANSWERED}]|=1<<seat;
    if(s.f[${ANSWERED}]!==s.f[${ASKED}]){begin();return -1;}`;
  const texts = module.program.vars.flatMap(({ t, at }, i) =>
    t === 'text' ? [[layout.varBase[i] ?? 0, (layout.varBase[i] ?? 0) + (layout.varCount[i] ?? 1), at]] : [],
  );
  const weighed = texts.length > 0 ? `weighTexts(s,${JSON.stringify(texts)});` : '';
  const act = module.mode.quiet ? '' : `act(seat,s.f[${ASK}]|0,option);`;
  const races = asks.some(({ who }) => who.k === 'any');
  const race = races ? `if(s.f[${WAIT}]===${WAIT_ANY})s.f[${ASKED_SEAT}]=seat;` : '';
  return [
    `function begin(most=${BUDGETS.step}){ops=0;written=0;limit=most;}`,
    `function step(s){ops=0;written=0;limit=ofStep;search=0;script(s);${weighed}return always(s);}`,
    `function expire(s){s.f[${NUMBER}]++;s.f[${CHOSEN}]=${TIME_UP};return step(s);}`,
    `function resume(s){s.f[${NUMBER}]++;s.f[${WAIT}]=0;return step(s);}`,
    `function answer(s,seat,option,args){s.f[${NUMBER}]++;if(s.f[${WAIT}]===${WAIT_EVERY}){${wait}}else{${race}s.f[${CHOSEN}]=option;${put}${act}}return step(s);}`,
  ].join('\n');
}
