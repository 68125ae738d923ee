const STEP = '  ';
/** Words that go on with what stood on the line before. */
const GOES_ON = /^(needs|else|when|prefer|such|within|stuck|copies|with|otherwise)\b/;

/** What one line does to the nesting, read past its texts and comments. */
interface LineShape {
  /** The line with a space inside of each brace of its code. */
  readonly spaced: string;
  /** Closers before anything else on the line. */
  readonly leading: number;
  readonly change: number;
  /** The last thing on the line that is no comment. */
  readonly last: string;
}

function shapeOf(line: string): LineShape {
  let change = 0;
  let leading = 0;
  let started = false;
  let last = '';
  let spaced = '';
  let end = line.length;
  const texts: ('"' | '{')[] = [];
  for (let i = 0; i < line.length; i++) {
    const sign = line[i] as string;
    const top = texts.at(-1);
    if (top === '"') {
      spaced += sign;
      if (sign === '\\') spaced += line[++i] ?? '';
      else if (sign === '"') texts.pop();
      else if (sign === '{') texts.push('{');
      last = sign;
      continue;
    }
    if (sign === '/' && line[i + 1] === '/') {
      end = i;
      break;
    }
    if (texts.length === 0 && sign === '}' && /[^\s{]$/.test(spaced)) spaced += ' ';
    spaced += sign;
    if (texts.length === 0 && sign === '{' && /^[^\s}]/.test(line.slice(i + 1))) spaced += ' ';
    if (sign === '"') texts.push('"');
    else if (sign === '}' && top === '{') texts.pop();
    else if (texts.length === 0 && /[{([]/.test(sign)) {
      change++;
      started = true;
    } else if (texts.length === 0 && /[})\]]/.test(sign)) {
      change--;
      if (!started) leading++;
    }
    if (/\S/.test(sign)) {
      last = sign;
      if (!/[})\]]/.test(sign)) started = true;
    }
  }
  return { leading, change, last, spaced: spaced + line.slice(end) };
}

/**
 * Lays out a sheet: two spaces a level, what goes on with a line two levels in, one empty line at
 * most between lines, none at the ends of a block, no blanks at line ends, a space inside of braces. Words, their
 * other spacing within a line and all comments stay as they are. Formatting twice gives the same as formatting once.
 */
export function format(text: string): string {
  const kept = laidOut(text).filter((line) => line !== null);
  return `${kept.join('\n')}\n`;
}

/** The lines of a text as they are laid out, one for each of its own: `null` for an empty line that goes. */
export function laidOut(text: string): (string | null)[] {
  const out: (string | null)[] = [];
  let depth = 0;
  let goesOn = false;
  /** Where the last line is that stays; empty lines after it are one at most. */
  let last = -1;
  const dropEmpty = (): void => {
    if (out[last] !== '') return;
    out[last] = null;
    while (last >= 0 && out[last] === null) last--;
  };
  for (const raw of text.replace(/\r\n?/g, '\n').replace(/\t/g, STEP).split('\n')) {
    const line = raw.trim();
    if (line === '') {
      const stays = last >= 0 && out[last] !== '';
      out.push(stays ? '' : null);
      if (stays) last = out.length - 1;
      continue;
    }
    const shape = shapeOf(line);
    const level = Math.max(0, depth - shape.leading);
    const isComment = line.startsWith('//');
    if (shape.leading > 0) dropEmpty();
    // At the top of a sheet "needs" is a declaration; inside an option it goes on with it.
    const clause = GOES_ON.test(line) && level > 1;
    const extra: number = !isComment && shape.leading === 0 && (goesOn || clause) ? (clause ? 2 : 1) : 0;
    last = out.push(STEP.repeat(level + extra) + shape.spaced) - 1;
    depth = Math.max(0, depth + shape.change);
    if (!isComment)
      goesOn = shape.last === '=' || (shape.last === ',' && (goesOn || /\bdef\b/.test(line) || extra > 0));
  }
  dropEmpty();
  return out;
}
