import { auditCsv, trialCsv } from '@wily-jester/charts';
import type { AuditReport, TrialFigures } from '@wily-jester/core';
import { describe, expect, it } from 'vitest';

const cell = (category: string) => ({
  marks: ['+sum(1)', -3],
  category,
  value: -0.5,
  interval: [-1, 0],
  doubt: null,
  times: 3,
  games: 4,
  deviation: null,
});

describe('a table for other programs', () => {
  it('holds no formula, whatever words the sheet has; numbers stay numbers', () => {
    const tallies = [
      { name: '=HYPERLINK("http://elsewhere.test")', form: 'category', cells: [cell('@SUM(A1)'), cell('-5')] },
    ];
    const figures = { games: 4, arms: [{ label: '-cmd', tallies }], differences: [] } as unknown as TrialFigures;
    const [head, first, second] = trialCsv(figures).split('\r\n');
    expect(head).toContain('setting,tally');
    expect(first).toBe(
      `'-cmd,"'=HYPERLINK(""http://elsewhere.test"")",category,'+sum(1),-3,'@SUM(A1),-0.5,-1,0,,3,4,,`,
    );
    expect(second).toContain(',-5,-0.5,');
    const report = {
      tests: [{ name: '=1+1', eye: 'pairs', p: 0.5, corrected: 0.5, effect: -1, mean: null, fair: null }],
    };
    expect(auditCsv(report as unknown as AuditReport)).toContain("\r\n'=1+1,pairs,0.5,0.5,-1,,\r\n");
  });
});
