import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { converse, newFolder, wily } from './setup/programs.js';
import { ROOT, until } from './setup/service.js';

const LANTERN = join(ROOT, 'sheets/lantern-twenty-one.motley');

describe('playing in the terminal', () => {
  it('shows piles, choices and refusals, and takes choices back', async () => {
    const { out, code } = await wily(
      ['play', LANTERN, '--seed', 'x', '--set', 'rounds=1', '--seats', 'Wren,Otter:steady'],
      { input: 'bet 11\n1 20\nfly\nhit\nundo\nlog\nseed\nhelp\n2\n' },
    );
    expect(code).toBe(0);
    expect(out).toContain('The amount is from 10 to 200 in steps of 2, not 11.  (line 74)');
    expect(out).toMatch(/the house +2♦ ▒▒/);
    expect(out).toContain('There is no option "fly" here. There are hit, stand, double.');
    expect(out).toContain('You hit and get 4♦.');
    expect(out).toContain('Back at number 2.');
    expect(out).toContain('Wren is asked (live: 30 s, then stand):');
    expect(out).toContain('The game is over.');
  });

  it('lays everything open, the piles that nobody sees included', async () => {
    const { out } = await wily(['play', LANTERN, '--open', '--seats', 'Wren', '--set', 'decks=1'], {
      input: 'bet 10\nquit\n',
    });
    expect(out).not.toContain('▒▒');
    expect(out.match(/shoe .*[♠♥♦♣]/)).not.toBeNull();
  });

  it('says after the end what can be done, and begins a new game', async () => {
    const cwd = newFolder();
    writeFileSync(
      join(cwd, 'swap.motley'),
      `game "Swap" for 1 seat { deck of "7♦" "J♦" "2♣" "3♣" pile hand of each seat face up pile out face up
        play { deal all from pack to seats[1].hand
          ask seats[1] { option swap(cs: 2 cards in seats[1].hand) "swap {cs}" { move cs to out say "Swapped {cs}." finish } } } }`,
    );
    const typed = ['swap [7D, "JD"]', 'swap 2C 3C', 'log', 'back', 'swap 7D,2C', 'again', 'quit'].join('\n');
    const { out, code } = await wily(['play', 'swap.motley'], { cwd, input: `${typed}\n` });
    expect(code).toBe(0);
    expect(out.match(/What now\? log/g)?.length).toBeGreaterThanOrEqual(3);
    expect(out).toMatch(/Swapped (7♦ J♦|J♦ 7♦)\./);
    expect(out).toContain('Back at number 0.');
    expect(out).toMatch(/Swapped (7♦ 2♣|2♣ 7♦)\./);
    expect(out.match(/Wren is asked/g)?.length ?? 0).toBeGreaterThanOrEqual(3);
  });

  it('tries every save of the sheet on the game so far', async () => {
    const cwd = newFolder();
    const file = join(cwd, 'lantern.motley');
    const text = readFileSync(LANTERN, 'utf8');
    writeFileSync(file, text);
    const game = converse(['play', file, '--seats', 'Wren', '--seed', 'x', '--watch'], cwd);
    await until(() => game.said().includes('Wren is asked'), 'the first question');
    game.say('bet 20');
    await until(() => game.said().includes('number 1'), 'the bet');
    writeFileSync(file, text.replace('"You have too few chips to double."', '"Too few!"'));
    await until(() => game.said().includes('all 1 choices so far fit it'), 'the new text to be tried');
    writeFileSync(file, text.replace('by 2 such', 'by 7 such'));
    await until(
      () => game.said().includes('The new text does not fit the game so far. Choice 1 (bet of Wren) is refused'),
      'the text that does not fit',
    );
    writeFileSync(file, text.replace('routine settle', 'rotine settle'));
    await until(() => game.said().includes('Did you mean "routine"'), 'the message');
    game.say('quit');
    expect(await game.ended).toBe(0);
  });

  it.each([
    [['--seats', 'Wren,Otter:wild'], 'has no bot "wild"'],
    [['--set', 'rounds'], 'write it like rounds=5'],
    [['--set', 'rounds=0'], 'rounds is a whole number from 1 to 1000'],
  ])('refuses %j', async (args, message) => {
    const { code, err } = await wily(['play', LANTERN, ...args]);
    expect([code, err]).toEqual([2, expect.stringContaining(message)]);
  });
});
