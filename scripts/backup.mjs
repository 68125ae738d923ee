// npm run backup and npm run restore: a copy of a data folder, made under play, and put into another folder.
import { resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { BACKUP_PROGRAMS, backup, restore } from './lib/backup.mjs';
import { DATABASE_PROGRAMS } from './lib/database.mjs';
import { fail, needPrograms, ROOT, Stop, say } from './lib/machine.mjs';

const HELP = `npm run backup -- --to FOLDER [--data .data]      copies the database and the developer key, while play goes on
npm run restore -- --from FOLDER --data FOLDER     puts a copy into a new data folder`;

async function main() {
  const [what, ...args] = process.argv.slice(2);
  const { values } = parseArgs({
    args,
    options: { data: { type: 'string' }, to: { type: 'string' }, from: { type: 'string' }, help: { type: 'boolean' } },
  });
  if (values.help) return say(HELP);
  needPrograms([...DATABASE_PROGRAMS, ...BACKUP_PROGRAMS]);
  if (what === 'backup') {
    if (!values.to) throw new Stop(`Say where the copy goes.\n${HELP}`);
    const { at } = await backup(resolve(values.data ?? `${ROOT}/.data`), resolve(values.to));
    return say(`Everything acknowledged before ${at} is in ${values.to}.`);
  }
  if (!values.from || !values.data) throw new Stop(`Say where the copy is, and which new folder it goes to.\n${HELP}`);
  await restore(resolve(values.from), resolve(values.data));
  say(`It is back: npm start -- --data ${values.data}`);
}

main().then(() => process.exit(0), fail);
