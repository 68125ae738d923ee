import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { json, newFolder, wily } from './setup/programs.js';

describe('a sheet that uses a part, on the command line', () => {
  it('names the lines of parts as they stand there, whatever it finds in them', async () => {
    const cwd = newFolder();
    writeFileSync(
      join(cwd, 'prizes.motley'),
      `part "prizes" {
  var won of each seat: int = 0

  routine award {
    for each s in seats where any(s.hand, good) {
      s.won += 5
      if s.won > 5 { s.won = s.won / (s.won - 10) }
    }
  }
  needs def good(c: card): flag
}
`,
    );
    writeFileSync(
      join(cwd, 'night.motley'),
      `game "Night" for 1 seat {
  deck standard
  pile hand of each seat face up
  use "prizes"
  def good(c: card) = c.rank == A
  play {
    shuffle pack
    for n in 1..3 { ask seats[1] { option go { deal 1 from pack to seats[1].hand award() } } }
    if size(pack) < 9 { pause 1s }
    finish
  }
}
`,
    );
    writeFileSync(
      join(cwd, 'night.rehearsal.motley'),
      'rehearse "kings win nothing" { seats Wren Wren.hand gets "K♠" Wren: go }\nrehearse "two aces" { seats Wren Wren.hand gets "A♠" "A♥" Wren: go Wren: go }\n',
    );
    const { out, code } = await wily(['rehearse', 'night.motley', '--coverage'], { cwd });
    expect(code).toBe(1);
    expect(out).toContain('the sheet made a fault in line 7 of part "prizes": This divides by zero.');
    expect(out).toMatch(/^night\.motley:9:25 never runs {2}pause 1s/m);
    writeFileSync(
      join(cwd, 'night.rehearsal.motley'),
      'rehearse "nothing" { seats Wren Wren.hand gets "K♠" Wren: go }',
    );
    expect((await wily(['rehearse', 'night.motley', '--coverage'], { cwd })).out).toMatch(
      /^prizes\.motley:6:7 never runs {2}s\.won \+= 5/m,
    );
    const reached = json(await wily(['rehearse', 'night.motley', '--coverage', '--json'], { cwd })) as {
      coverage: { missed: { line: number; part?: string }[] };
    };
    expect(reached.coverage.missed).toContainEqual({ kind: 'statement', line: 6, part: 'prizes', column: 7 });
    const stacked = await wily(['soak', 'night.motley', '--games', '400'], { cwd });
    expect(stacked.out).toContain('This divides by zero. (line 7 of part "prizes")');
    const soaked = json(await wily(['soak', 'night.motley', '--games', '400', '--json'], { cwd })) as {
      failures: { line: number; part: string }[];
    };
    expect(soaked.failures[0]).toMatchObject({ line: 7, part: 'prizes' });
  });
});
