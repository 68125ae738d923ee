/**
 * npm run grammar: writes the parser from motley.langium, the library that it runs on as one file (as a thousand files
 * the library takes longer to load than a sheet takes to compile), and the bundled parts as texts, so that the language
 * reads no files and loads in a browser. The words of the language are read off the grammar, for whatever needs to know
 * them without a parser.
 */
import { spawnSync } from 'node:child_process';
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { rolldown } from 'rolldown';

const MOTLEY = new URL('../', import.meta.url);
const GENERATED = new URL('src/grammar/generated/', MOTLEY);

// The generator asks before it removes files that it did not write, and would wait for an answer.
rmSync(GENERATED, { recursive: true, force: true });
const written = spawnSync(
  'npx',
  ['--no-install', 'langium', 'generate', '--mode', 'production', '--file', 'langium-config.json'],
  { cwd: MOTLEY, stdio: ['ignore', 'inherit', 'inherit'] },
);
if (written.status !== 0) process.exit(written.status ?? 1);

// All that parses uses the one file, or there would be two libraries at once.
for (const name of readdirSync(GENERATED).filter((file) => file.endsWith('.ts'))) {
  const file = new URL(name, GENERATED);
  writeFileSync(file, readFileSync(file, 'utf8').replaceAll(`from 'langium'`, `from '#langium'`));
}
writeFileSync(
  new URL('words.ts', GENERATED),
  wordsOf(grammarIn(readFileSync(new URL('grammar.ts', GENERATED), 'utf8'))),
);
const bundle = await rolldown({ input: fileURLToPath(import.meta.resolve('langium')), platform: 'browser' });
await bundle.write({
  file: fileURLToPath(new URL('langium.js', GENERATED)),
  format: 'esm',
  minify: { mangle: false, compress: true },
});

/** The grammar as the generator wrote it down. */
function grammarIn(source) {
  const [, json] = /loadGrammarFromJson\((`[\s\S]*`|"[\s\S]*"|'[\s\S]*')\)/.exec(source) ?? [];
  if (json === undefined) throw new Error('the generated grammar has another form');
  return JSON.parse(new Function(`return ${json}`)());
}

/** The words of the language, and those with which things begin. */
function wordsOf({ rules }) {
  const words = new Set();
  const note = (element) => {
    if (element?.$type === 'Keyword' && /^[a-z]+$/.test(element.value)) words.add(element.value);
    for (const value of Object.values(element ?? {})) if (typeof value === 'object') note(value);
  };
  note(rules);
  const ruleOf = ({ rule }) => rules[Number(/rules@(\d+)/.exec(rule.$ref)[1])];
  /** The words with which an element may begin, and whether it may be empty. */
  const first = (element, inside = new Set()) => {
    const found = new Set();
    let isEmpty = false;
    const add = (part) => {
      const of = first(part, inside);
      for (const word of of.found) found.add(word);
      return of.isEmpty;
    };
    switch (element.$type) {
      case 'Keyword':
        found.add(element.value);
        break;
      case 'Alternatives':
        isEmpty = element.elements.map(add).some(Boolean);
        break;
      case 'Group':
        isEmpty = element.elements.every(add);
        break;
      case 'Assignment':
        isEmpty = add(element.terminal);
        break;
      case 'RuleCall': {
        const rule = ruleOf(element);
        // What begins with a value begins with no word of its own.
        if (rule.$type === 'ParserRule' && rule.name !== 'Postfix' && !inside.has(rule.name)) {
          inside.add(rule.name);
          isEmpty = add(rule.definition);
        }
        break;
      }
      case 'Action':
        isEmpty = true;
        break;
      default:
        throw new Error(`the grammar has a form that is not known here: ${element.$type}`);
    }
    return { found, isEmpty: isEmpty || element.cardinality === '?' || element.cardinality === '*' };
  };
  const headsOf = (...names) => {
    const heads = new Set(
      names.flatMap((name) => [...first(rules.find((rule) => rule.name === name).definition).found]),
    );
    return [...heads].filter((word) => /^[a-z]+$/.test(word)).sort();
  };
  const list = (name, text, of) => `/** ${text} */\nexport const ${name}: readonly string[] = ${JSON.stringify(of)};\n`;
  return [
    '// Written by scripts/grammar.mjs from the grammar.\n',
    list('KEYWORDS', 'All words of the language.', [...words].sort()),
    list('STATEMENT_HEADS', 'The words with which statements begin.', headsOf('Statement', 'Option')),
    list('DECLARATION_HEADS', 'The words with which declarations begin.', headsOf('Part')),
    list('REHEARSAL_HEADS', 'The words with which rehearsals and their lines begin.', headsOf('Rehearsal', 'Line')),
  ].join('\n');
}

const PARTS = new URL('parts/', MOTLEY);
const texts = readdirSync(PARTS)
  .filter((file) => file.endsWith('.motley'))
  .sort()
  .map((file) => [file.replace(/\.motley$/, ''), readFileSync(new URL(file, PARTS), 'utf8')]);
const folder = new URL('src/parts/generated/', MOTLEY);
mkdirSync(folder, { recursive: true });
writeFileSync(
  new URL('bundled.ts', folder),
  `// Written by scripts/grammar.mjs from the files in parts/.\nexport const BUNDLED: Readonly<Record<string, string>> = ${JSON.stringify(Object.fromEntries(texts), null, 2)};\n`,
);
