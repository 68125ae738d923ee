/** npm run soak: many random games of every bundled sheet, several sheets at a time. `-- --games 100000` for the long form. */
import { spawn } from 'node:child_process';
import { readdirSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { parseArgs } from 'node:util';

/** What makes games short, so that many of them fit: the rules stay the same. */
const SHORT = {
  'alder-knock': ['most=1'],
  'cold-lock-draw': ['handLimit=1'],
  'eights-aside': ['goal=20', 'mostDeals=1'],
  'ferry-lamps': ['lamps=5'],
  'five-coin-machine': ['deals=3'],
  'fog-on-the-ford': ['turns=20', 'crossings=1'],
  'hearth-sums': ['goal=5'],
  'lantern-twenty-one': ['rounds=4'],
  'long-pot': ['handLimit=2'],
  'long-war': ['limit=30'],
  'millpond-cells': ['lent=1'],
  'mirror-twenty-one': ['goal=1'],
  'nine-greens': ['greens=1'],
  'quay-stairs': ['target=10'],
  'quayside-twenty-one': ['rounds=4'],
  'reed-melds': ['goal=20', 'mostDeals=1'],
  'standing-trump': ['target=50', 'floor=60', 'blindNil=yes', 'farBehind=50'],
  'thorn-and-lady': ['target=20'],
  'toll-gate': ['deals=1'],
  'weir-patience': ['redeals=0'],
};

const { values } = parseArgs({
  options: { games: { type: 'string', default: '2000' }, seed: { type: 'string', default: '1' } },
});
const root = new URL('..', import.meta.url);
const sheets = readdirSync(new URL('sheets/', root))
  .filter((file) => file.endsWith('.motley') && !file.endsWith('.rehearsal.motley'))
  .map((file) => file.replace('.motley', ''));

/** Soaks one sheet and gives its report's last line. */
function soak(sheet) {
  const set = SHORT[sheet] ?? [];
  const args = ['soak', `sheets/${sheet}.motley`, '--games', values.games, '--seed', values.seed];
  const child = spawn(process.execPath, ['wily', ...args, ...(set.length > 0 ? ['--set', ...set] : [])], { cwd: root });
  let out = '';
  child.stdout.on('data', (data) => {
    out += data;
  });
  child.stderr.on('data', (data) => {
    out += data;
  });
  return new Promise((resolve) => {
    child.on('close', (code) => resolve({ sheet, code, out: out.trim() }));
  });
}

/** Those that take longest go first, so that none is left alone at the end. */
const SLOWEST = ['millpond-cells', 'barley-cairn', 'reed-melds', 'quay-stairs'];
const waiting = [...sheets].sort((a, b) => SLOWEST.indexOf(b) - SLOWEST.indexOf(a));
let failed = 0;
async function work() {
  for (let sheet = waiting.shift(); sheet !== undefined; sheet = waiting.shift()) {
    const { code, out } = await soak(sheet);
    if (code !== 0) failed++;
    process.stdout.write(`${sheet}: ${code === 0 ? out.split('\n').at(-1) : out}\n`);
  }
}
await Promise.all(Array.from({ length: Math.min(4, availableParallelism()) }, work));
process.exitCode = failed > 0 ? 1 : 0;
