// Writes the TextMate grammar of Motley for editors that colour with one: node motley/scripts/textmate.mjs
import { writeFileSync } from 'node:fs';
import { keywords } from '@wily-jester/motley';

const words = (list) => `\\b(?:${list.join('|')})\\b`;
const grammar = {
  name: 'Motley',
  scopeName: 'source.motley',
  fileTypes: ['motley'],
  patterns: [{ include: '#code' }],
  repository: {
    code: {
      patterns: [
        { name: 'comment.line.double-slash.motley', match: '//.*$' },
        { include: '#text' },
        { name: 'constant.numeric.motley', match: '\\b\\d+(?:s|min)?\\b' },
        {
          match: '\\b(setting|kind|pile|var|def|routine|bot|let)\\s+([A-Za-z]\\w*)',
          captures: { 1: { name: 'keyword.other.motley' }, 2: { name: 'entity.name.motley' } },
        },
        {
          match: '\\b(option)\\s+([A-Za-z]\\w*)',
          captures: { 1: { name: 'keyword.other.motley' }, 2: { name: 'entity.name.function.motley' } },
        },
        // After a point every word is a name.
        { match: '\\.[A-Za-z]\\w*' },
        { name: 'keyword.other.motley', match: words(keywords()) },
        { name: 'constant.language.motley', match: words(['yes', 'no', 'nothing', 'A', 'J', 'Q', 'K']) },
        { name: 'constant.language.motley', match: words(['spades', 'hearts', 'diamonds', 'clubs', 'black', 'red']) },
      ],
    },
    text: {
      name: 'string.quoted.double.motley',
      begin: '"',
      end: '"',
      patterns: [
        { name: 'constant.character.escape.motley', match: '\\\\.' },
        { name: 'meta.embedded.motley', begin: '\\{', end: '\\}', patterns: [{ include: '#code' }] },
      ],
    },
  },
};
const file = new URL('../../docs/editors/motley.tmLanguage.json', import.meta.url);
writeFileSync(file, `${JSON.stringify(grammar, null, 2)}\n`);
