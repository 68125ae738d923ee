import {compileSheet} from './dist/index.js'; import fs from 'fs';
for (const f of process.argv.slice(2)) { const t=fs.readFileSync(f,'utf8'); const t0=performance.now(); const r=compileSheet(t); console.log(f.split('/').pop(), (performance.now()-t0).toFixed(0)+'ms', r.program? JSON.stringify(r.program).length:'-', r.problems.map(p=>`${p.line}:${p.column} ${p.severity} ${p.message}`)); }
