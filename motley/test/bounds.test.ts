import { compileRehearsals, compileSheet, type Problem } from '@wily-jester/motley';
import { TooSlow, withinTime } from '@wily-jester/motley/within-time';
import { describe, expect, it } from 'vitest';
import { script } from './support.js';

const errorsOf = ({ problems }: { problems: readonly Problem[] }): string[] =>
  problems.filter(({ severity }) => severity === 'error').map(({ message }) => message);
const many = (count: number, line: (i: number) => string): string =>
  Array.from({ length: count }, (_, i) => line(i)).join('\n');

describe('a sheet that is too much', () => {
  it.each([
    ['pile x[a in 0..63, b in 0..63, c in 0..63, d in 0..63] face up', 'this one has more than 4096.'],
    ['pile x[a in 0..63, b in 0..3] face up', undefined],
    ['pile x[a in 0..63, b in 0..4] face up', 'this one has 320.'],
  ])('has no family laid out past its limit: %s', (top, wrong) => {
    const errors = errorsOf(compileSheet(script('finish', top)));
    if (wrong === undefined) expect(errors).toEqual([]);
    else expect(errors.join()).toContain(wrong);
  });

  it('is not looked at past a hundred errors, each of them a search for what was meant', () => {
    const { program, problems } = compileSheet(script(`${many(3_000, (i) => `let v${i} = u${i}`)} finish`));
    expect(program).toBeUndefined();
    expect(problems).toHaveLength(100);
    expect(problems[0]?.message).toContain('There is no name "u0" here.');
    const broken = compileRehearsals(
      `rehearse "all" { seats Wren ${many(300, (i) => `expect u${i} == 1`)} }`,
      script('finish'),
    );
    expect(broken.program).toBeUndefined();
    expect(broken.problems).toHaveLength(100);
  });

  it.each(['def d', 'var v', 'pile p', 'routine r'])('is not looked at where it declares too much: %s', (head) => {
    const tail = {
      'def d': ' = unknown',
      'var v': ' = unknown',
      'pile p': ' face up',
      'routine r': '() { unknown() }',
    }[head];
    const errors = errorsOf(
      compileSheet(
        script(
          'finish',
          many(900, (i) => `${head}${i}${tail}`),
        ),
      ),
    );
    expect(errors).toEqual(['A sheet has at most 500 declarations.']);
  });
});

describe('what is done with a text of somebody else', () => {
  it('is ended where it takes too long, and the next text is read as ever', () => {
    const endless = (): never => {
      for (;;);
    };
    expect(() => withinTime(endless, 50)).toThrow(TooSlow);
    expect(() => withinTime(() => withinTime(endless, 50), 5_000)).toThrow(TooSlow);
    expect(withinTime(() => compileSheet(script('finish')).program?.name)).toBe('Trial Run');
    expect(() =>
      withinTime(() => {
        throw new Error('its own');
      }),
    ).toThrow('its own');
  });
});
