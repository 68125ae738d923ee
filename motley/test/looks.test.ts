import { describe, expect, it } from 'vitest';
import { compileSheet } from '../src/index.js';

const sheet = (ask: string, option: string): string => `game "Looks" for 2 seats { deck standard
  pile hand of each seat private as fan
  play { deal 5 each from pack to hand for each s in seats {
    ${ask} { option lay(c: card in ${option}) { move c to pack } option rest { } } } } }`;
const check = (ask: string, option: string): { messages: string[]; looks: unknown } => {
  const { problems, looks } = compileSheet(sheet(ask, option));
  return { messages: problems.map(({ severity, message }) => `${severity}: ${message}`), looks };
};
const OTHER = 'next(s).hand where c.rank > 3';

describe('a look that is declared', () => {
  it('silences the warning about that pile, and is named with its reason', () => {
    expect(check('ask s about next(s).hand', OTHER).messages[0]).toContain('looks into "hand"');
    const { messages, looks } = check('ask s about next(s).hand because "partners show their cards"', OTHER);
    expect(messages).toEqual([]);
    expect(looks).toEqual([{ line: 4, reason: 'partners show their cards' }]);
  });

  it('is of no other pile, and refused where it is not needed', () => {
    const { messages } = check('ask s about s.hand because "it is its own"', OTHER);
    expect(messages.join()).toContain('warning: The option "lay" looks into "hand"');
    expect(messages.join()).toContain('Nothing here needs the "because": leave it out.');
    expect(check('ask s about s.hand because "why"', 's.hand').messages).toEqual([
      'error: Nothing here needs the "because": leave it out.',
    ]);
  });

  it('goes with an ask of one seat', () => {
    const all = sheet('ask every t in seats about s.hand because "why"', 's.hand where c.rank > 3');
    expect(
      compileSheet(all)
        .problems.map((p) => p.message)
        .join(),
    ).toContain('"because" goes with an ask of one');
  });
});
