import {compileSheet, compileRehearsals} from './dist/index.js'; import {rehearse, Table, OPEN} from '../core/dist/index.js'; import fs from 'fs';
const t=fs.readFileSync('../sheets/lantern-twenty-one.motley','utf8');
const c=compileRehearsals(fs.readFileSync('../sheets/lantern-twenty-one.rehearsal.motley','utf8'), t);
console.log(c.problems);
for (const r of c.rehearsals) console.log(rehearse(c.program, r).title, JSON.stringify(rehearse(c.program,r).failure));
const {program}=compileSheet(t);
const tb=new Table(program,{seats:['Wren','Otter'],seed:'x',settings:{rounds:2}},{live:true});
let pl=tb.opening; let n=0;
for(let i=0;i<60&&!tb.isOver;i++){ for(const l of tb.lines(pl,tb.number,0)) console.log('  ',l.number,l.text); const p= tb.isPaused? tb.resume(): tb.playBot(tb.asked[0],0); pl=p.happenings; console.log(p.row.number,p.row.seat,p.row.option,JSON.stringify(p.row.args),p.row.digest.slice(0,8)); }
console.log(JSON.stringify(tb.view(0),null,0).slice(0,3000));
console.log(tb.game.parts.source.length);
