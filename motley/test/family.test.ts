import { describe, expect, it } from 'vitest';
import { familyOf } from '../src/editing/family.js';

const SHEET = 'game "Night" for 1 seat { use "prizes" use "side-pots" deck standard }';
const FILES: Readonly<Record<string, string>> = {
  'file:///g/night.motley': SHEET,
  'file:///g/night.rehearsal.motley': 'rehearse "it" { }',
  'file:///g/prizes.motley': '// Prizes.\n\npart "prizes" { }',
  'file:///g/day.motley': 'game "Day" for 1 seat { deck standard }',
  'file:///g/dusk.motley': 'game "Dusk" for 1 seat { use "prizes" deck standard }',
  'file:///other/prizes.motley': 'part "prizes" { }',
};
const texts = (files: Readonly<Record<string, string>> = FILES) => ({
  text: (uri: string) => files[uri] ?? (uri.includes('/parts/') ? 'part "side-pots" { }' : undefined),
  beside: (uri: string) =>
    Object.keys(files).filter((other) => other.startsWith(uri.slice(0, uri.lastIndexOf('/') + 1))),
});
const told = (uri: string, files?: Readonly<Record<string, string>>) => {
  const { self, sheet, files: members } = familyOf(uri, texts(files));
  const name = (of: string | undefined): string | undefined => of?.slice(of.lastIndexOf('/') + 1);
  return {
    kind: self.kind,
    sheet: name(sheet?.uri),
    files: members.map((file) => `${name(file.uri)}${file.isBundled ? ' (bundled)' : ''}`).sort(),
  };
};
const NIGHT = ['night.motley', 'night.rehearsal.motley', 'prizes.motley', 'side-pots.motley (bundled)'];

describe('the files that tell a game together', () => {
  it('are a sheet, its rehearsals and the parts that it uses, whichever of them is looked at', () => {
    expect(told('file:///g/night.motley')).toEqual({ kind: 'sheet', sheet: 'night.motley', files: NIGHT });
    expect(told('file:///g/night.rehearsal.motley')).toEqual({
      kind: 'rehearsals',
      sheet: 'night.motley',
      files: NIGHT,
    });
    expect(told('file:///g/day.motley')).toEqual({ kind: 'sheet', sheet: 'day.motley', files: ['day.motley'] });
  });

  it('are for a part those of every sheet beside it that uses it', () => {
    expect(told('file:///g/prizes.motley')).toEqual({
      kind: 'part',
      sheet: 'night.motley',
      files: ['dusk.motley', ...NIGHT],
    });
    expect(told('file:///other/prizes.motley')).toEqual({ kind: 'part', sheet: undefined, files: ['prizes.motley'] });
  });

  it('are found though a text begins with any number of signs', () => {
    const slashes = `${'/'.repeat(400)}\n${' \n'.repeat(400)}`;
    const files = {
      'file:///g/night.motley': `${slashes}${SHEET}`,
      'file:///g/prizes.motley': `${slashes}part "prizes" { }`,
    };
    expect(told('file:///g/night.motley', files).kind).toBe('sheet');
    expect(told('file:///g/prizes.motley', files)).toMatchObject({ kind: 'part', sheet: 'night.motley' });
  });

  it('are nothing but the text itself where it stands in no file', () => {
    expect(told('untitled:Untitled-1', { 'untitled:Untitled-1': 'game "New" for 1 seat {' }).files).toEqual([
      'untitled:Untitled-1',
    ]);
  });
});
