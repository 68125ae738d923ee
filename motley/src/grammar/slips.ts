/** What people write who know other languages: each slip has a sentence of its own. */

/** Something that is told in place of what the parser says. */
interface Slip {
  /** Where it stands in its line, from 0, and how long it is. */
  readonly from: number;
  readonly length: number;
  readonly message: string;
}

interface Row {
  /** What the line holds; its first group is what is pointed at. Texts are blanked before. */
  readonly looks: RegExp;
  readonly says: string | ((found: RegExpExecArray) => string);
}

/** Longer lines are not looked at, in characters. */
const LONGEST_LINE = 300;

/** Conditions: what stands between such a word and the brace behind it. */
const CONDITION = String.raw`\b(?:if|while|until|when|where|needs)\b[^{}]*?[^=!<>:+*-]`;

/** Looked at in this order; the first that a line shows where the parser stumbled is told. */
const SLIPS: readonly Row[] = [
  { looks: /(&&)/d, says: 'Write "and".' },
  { looks: /(\|\|)/d, says: 'Write "or".' },
  { looks: /(!==)/d, says: 'Write "!=".' },
  { looks: /(===)/d, says: 'Write "==".' },
  { looks: /(<>)/d, says: 'Write "!=".' },
  { looks: /(!)(?!=)/d, says: 'Write "not".' },
  { looks: /(;)/d, says: 'Nothing ends a statement: leave out the ";". Items are parted by ",".' },
  { looks: /(\/\*)/d, says: 'Notes begin with "//" and go to the end of their line.' },
  { looks: /('[^']*'?)/d, says: 'Texts stand in double quotes.' },
  { looks: /(:=)/d, says: '"=" sets a variable.' },
  { looks: /\b\w+(\+\+|--)/d, says: ({ 1: sign }) => `Write "${sign === '++' ? '+= 1' : '-= 1'}".` },
  { looks: /(\?)/d, says: 'Write "if … then … else …" for one of two values.' },
  { looks: new RegExp(`${CONDITION}(=)(?![=>])`, 'd'), says: '"=" sets a variable; "==" compares.' },
  { looks: /\b(foreach)\b/d, says: 'Two words: "for each".' },
  { looks: /\bfor each \w+ (of)\b/d, says: 'Write "in", not "of": for each s in seats { … }.' },
  {
    looks: /\b(for) (?!each\b)(\w+) in (?![^{]*\.\.)/d,
    says: ({ 2: name }) =>
      `"for" counts from one number to another: write "for each ${name} in …" for each item of a list.`,
  },
  { looks: /\b(elif|elsif|elseif|elseIf)\b/d, says: 'Write "else if".' },
  { looks: /\bif\b[^{}]*\b(then)\s*\{/d, says: 'Leave out "then": braces follow the condition.' },
  { looks: /\b(?:while|for)\b[^{}]*(\bdo)\s*\{/d, says: 'Leave out "do": braces follow the condition.' },
  {
    looks: /\b(?:if|while|ask|play|repeat|option|else)\b[^{}"]*(:)\s*(?:\{|$|option\b)/d,
    says: 'Leave out the ":": braces follow.',
  },
  { looks: /\b(repeat)\s+\d/d, says: 'Write "for i in 1..3 { … }" to do something three times.' },
  {
    looks: /\b(function|func|fn)\b/d,
    says: 'Write "def f(x: …) = …" for a value, or "routine f(x: …) { … }" for what is done.',
  },
  { looks: /\bexpect (?:asked \w+|finished) (and|or|,)/d, says: 'The rest stands in a line of its own: expect …' },
  { looks: /\bneeds\b[^"{}]*(""|")/d, says: 'Write "else" before the words of a refusal: needs … else "…".' },
  { looks: /\bdeal\b[^{}]*?\d+\s+(to)\b/d, says: 'Say what is dealt from: deal 2 from pack to row.' },
  { looks: /(?:^|[{}])\s*[\w.]+\s*(==)[^{}]*$/d, says: '"=" sets a variable; "==" compares.' },
  {
    looks: /\bsay\s+(if)\b/d,
    says: 'say takes a text. Choose around it: if … { say "…" } else { say "…" }, or within it: say "{if … then "…" else "…"}".',
  },
  { looks: /\bsay\s+([A-Za-z]\w*)/d, says: ({ 1: name }) => `say takes a text: "{${name}}".` },
  { looks: /[\w\])]\s*(=[+*-])\s/d, says: ({ 1: sign = '' }) => `Write "${sign.charAt(1)}=".` },
  {
    looks: /\b(?:def|routine)\s+\w+\s*\((?:[^():]*:[^(),]*,)*\s*(\w+)\s*[,)]/d,
    says: ({ 1: name }) => `Say what "${name}" is: ${name}: card, ${name}: seat, ${name}: int.`,
  },
  {
    looks: /\bdef\s+\w+\s*(?:\([^()]*\))?\s*(\{)/d,
    says: 'A def is a value: def name(c: card) = …; what is done stands in a routine.',
  },
  { looks: /\bsetting\s+\w+\s*(=)/d, says: 'Say what a setting may be: setting goal: 1..100 = 5 "points to win".' },
  {
    looks: /\balways\s+(\w)/d,
    says: 'Say in words what is always so, and then the condition: always "no chip is lost" sum(seats, …) == 40.',
  },
  { looks: /\b(facedown|faceup)\b/d, says: ({ 1: word = '' }) => `Two words: face ${word.slice(4)}.` },
];

/** Names that stand for something else here. */
export const OTHER_NAMES: ReadonlyMap<string, string> = new Map([
  ['true', 'Write "yes".'],
  ['false', 'Write "no".'],
  ['True', 'Write "yes".'],
  ['False', 'Write "no".'],
  ['null', 'Write "nothing".'],
  ['none', 'Write "nothing", or "no" for a flag.'],
  ['nil', 'Write "nothing".'],
  ['None', 'Write "nothing".'],
  ['undefined', 'Write "nothing".'],
  ['len', 'Write "size(…)".'],
  ['length', 'Write "size(…)".'],
  ['filter', 'Write "only(list, x => …)".'],
  ['some', 'Write "any(list, x => …)".'],
  ['every', 'Write "all(list, x => …)".'],
  ['players', 'Write "seats".'],
  ...['over', 'ended', 'gameOver'].map((name): [string, string] => [
    name,
    'A game ends with "finish", and a rehearsal expects it with "expect finished".',
  ]),
  ['bottom', 'Cards lie bottom first: first(pile) is the lowest, top(pile) the highest.'],
  ['random', 'Chance is "shuffle" and "pick": pick n from 1..6.'],
  ['this', 'Write the seat\'s own name, such as "s".'],
]);

/** Words at the head of a statement that are none, and what is meant. */
export const OTHER_STATEMENTS: ReadonlyMap<string, string> = new Map([
  ['print', 'Write say "…".'],
  ['echo', 'Write say "…".'],
  ['log', 'Write say "…".'],
  ['end', 'Blocks end with "}".'],
  ['endif', 'Blocks end with "}".'],
  ['const', 'Write "let" for a name that stays, "var" for one that changes.'],
  ['int', 'Write "var x = …", or "let x = …" for a name that stays.'],
  ['continue', 'There is no continue: put the rest into an "if".'],
  ['exit', 'Write "finish" to end the game.'],
  ['facedown', 'Two words: face down.'],
  ['faceup', 'Two words: face up.'],
  ['mod', 'Write "%".'],
  ['then', 'Leave out "then": braces follow the condition.'],
]);

/** A line with its texts and notes left blank, so that nothing in them is taken for code. */
function codeOf(line: string): string {
  let code = '';
  let isText = false;
  for (let i = 0; i < line.length; i++) {
    const sign = line[i] as string;
    if (!isText && line.startsWith('//', i)) break;
    if (sign === '"') {
      isText = !isText;
      code += '"';
    } else if (isText && sign === '\\') {
      code += '  ';
      i++;
    } else code += isText ? ' ' : sign;
  }
  return code;
}

/** The slip that a line shows, where it shows one. @param column where the parser stumbled, from 1 */
export function slipIn(line: string, column: number): Slip | null {
  // The expressions look back over what they passed: short lines are all that they are for.
  if (line.length > LONGEST_LINE) return null;
  const code = codeOf(line);
  for (const { looks, says } of SLIPS) {
    const found = looks.exec(code);
    const [from, to] = found?.indices?.[1] ?? [];
    // What stands far behind the stumble is no reason for it.
    if (!found || from === undefined || to === undefined || from > column + 2) continue;
    return { from, length: to - from, message: typeof says === 'string' ? says : says(found) };
  }
  return null;
}
