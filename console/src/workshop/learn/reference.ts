import MarkdownIt from 'markdown-it';
import reference from '../../../../docs/motley.md?raw';
import type { DraftTexts } from '../files';

/** An example of the reference, and what it is part of. */
interface Example {
  readonly part: string;
  readonly text: string;
}

/** A stretch of the reference: words, or an example that can be tried. */
export type Piece =
  | { readonly html: string; readonly texts: null }
  | { readonly html: string; readonly texts: DraftTexts };

/** The reference under one of its headings. */
export interface Section {
  readonly title: string;
  readonly words: string;
  readonly pieces: readonly Piece[];
}

const markdown = new MarkdownIt({ html: false, linkify: false });
// Links of the page lead to files that are not here.
markdown.renderer.rules.link_open = (): string => '<span>';
markdown.renderer.rules.link_close = (): string => '</span>';

const EXAMPLE = /```motley (\w+)\n([\s\S]*?)```/g;
const examplesIn = (page: string): Example[] =>
  [...page.matchAll(EXAMPLE)].map(([, part = '', text = '']) => ({ part, text }));

/** A small game around a script and further declarations. */
const around = (
  script: string,
  top: string,
  deck = 'deck standard',
): string => `// An example of the reference, with a small game around it.
game "An Example" for 1 to 4 seats {
  ${deck}
  pile stock face down
  pile row face up as fan
  pile hand of each seat private as fan
${indented(top)}
  play {
${indented(script, 4)}
  }
}
`;
const indented = (text: string, by = 2): string =>
  text
    .trimEnd()
    .split('\n')
    .map((line) => (line.trim() === '' ? '' : ' '.repeat(by) + line))
    .join('\n');

/** A whole draft around an example. */
export function draftOf({ part, text }: Example, all: readonly Example[]): DraftTexts {
  const own = all.find((example) => example.part === 'sheet')?.text ?? '';
  const sheet = (source: string, parts: DraftTexts['parts'] = {}): DraftTexts => ({
    sheet: source,
    rehearsals: '',
    parts,
  });
  switch (part) {
    case 'sheet':
      return sheet(text);
    case 'rehearsal':
      return { sheet: own, rehearsals: text, parts: {} };
    case 'deck':
      return sheet(around('finish', '', text.trim().split('\n').join('\n  ')));
    case 'script':
      return sheet(around(text, 'pile lock[3] face up'));
    case 'bot':
      return sheet(
        around(
          'repeat {\n  ask seats[1] {\n    option lay(c: card in seats[1].hand) { move c to row }\n    option rest { finish }\n  }\n}',
          text,
        ),
      );
    case 'uses':
    case 'part': {
      const used = all.find((example) => example.part === 'part')?.text ?? '';
      const uses = all.find((example) => example.part === 'uses')?.text ?? '';
      const name = /^[ \t]*part[ \t]+"([\w-]+)"/m.exec(used)?.[1] ?? 'part';
      return sheet(around('finish', uses), { [name]: used });
    }
    default:
      return sheet(around('finish', text));
  }
}

export function sectionsOf(page: string): Section[] {
  const all = examplesIn(page);
  return page.split(/^(?=## )/m).map((part): Section => {
    const title = /^#+ (.*)$/m.exec(part)?.[1] ?? '';
    const body = part.replace(/^#+ .*\n/, '');
    const pieces: Piece[] = [];
    let from = 0;
    for (const found of body.matchAll(EXAMPLE)) {
      pieces.push({ html: markdown.render(body.slice(from, found.index)), texts: null });
      const example = { part: found[1] ?? '', text: found[2] ?? '' };
      pieces.push({ html: markdown.render(`\`\`\`\n${example.text}\`\`\``), texts: draftOf(example, all) });
      from = found.index + found[0].length;
    }
    pieces.push({ html: markdown.render(body.slice(from)), texts: null });
    return { title: title.replace(/^Motley: /, ''), words: `${title}\n${body}`.toLowerCase(), pieces };
  });
}

/** The reference of the language, heading by heading. */
export const SECTIONS: readonly Section[] = sectionsOf(reference);

/** The sections that hold all of some words; where none does, those that hold most of them. */
export function sectionsWith(wanted: string, sections = SECTIONS): readonly Section[] {
  const words = wanted.toLowerCase().split(/\s+/).filter(Boolean);
  const held = sections.map((section) => words.filter((word) => section.words.includes(word)).length);
  const most = Math.max(...held);
  return words.length === 0 ? sections : most === 0 ? [] : sections.filter((_, i) => held[i] === most);
}
