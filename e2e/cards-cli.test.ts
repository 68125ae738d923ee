import { describe, expect, it } from 'vitest';
import { json, wily } from './setup/programs.js';

describe('looking at cards', () => {
  it('shows a whole deck', async () => {
    const { out, err, code } = await wily(['cards']);
    expect(code).toBe(0);
    // Nor does the engine have anything to say, on whichever release of Node.js.
    expect(err).toBe('');
    expect(out).toContain('A♠');
    expect(out.match(/[♠♥♦♣]/g)).toHaveLength(52);
    expect(out).toContain('52 cards, in deck order.');
    const short = json(await wily(['cards', '--deck', 'ranks 7..A with 2 jokers', '--json'])) as {
      count: number;
      cards: { name: string }[];
    };
    expect(short.count).toBe(34);
    expect(short.cards.at(-1)?.name).toBe('joker 2');
  });

  it('says where a deck cannot be read', async () => {
    const { err, code } = await wily(['cards', '--deck', 'standrd']);
    expect(code).toBe(2);
    expect(err).toContain('Did you mean "standard"');
    expect(err).toContain('Decks: "standard"');
  });

  it('shuffles, the same for the same word', async () => {
    const after = async (seed: string): Promise<string[]> =>
      (json(await wily(['shuffle', '--seed', seed, '--json'])) as { after: string[] }).after;
    const first = await after('lantern');
    expect(await after('lantern')).toEqual(first);
    expect(await after('reed')).not.toEqual(first);
    expect([...first].sort()).toEqual(
      [...(json(await wily(['cards', '--json'])) as { cards: { face: string }[] }).cards.map((c) => c.face)].sort(),
    );
    expect((await wily(['shuffle', '--seed', 'x'])).out).toMatch(/Before[\s\S]*After[\s\S]*--seed x/);
  });

  it('deals card by card, one at a time or in packets', async () => {
    const { out } = await wily(['deal', '--seats', '3', '--cards', '2', '--in-order']);
    expect(out).toMatch(/^Wren draws K♣ and holds 1\. +51 left\nOtter draws Q♣ and holds 1\. +50 left/);
    expect(out).toContain('46 cards are left, the next on top:');
    const packets = json(await wily(['deal', '--seats', '2', '--cards', '2', '--in-order', '--packets', '--json'])) as {
      hands: { cards: string[] }[];
      left: string[];
    };
    expect(packets.hands.map((h) => h.cards)).toEqual([
      ['K♣', 'Q♣'],
      ['J♣', '10♣'],
    ]);
    expect(packets.left).toHaveLength(48);
  });

  it.each([
    [['deal', '--seats', '9', '--cards', '9'], 'need 81 cards'],
    [['deal', '--seats', 'many'], '--seats is a whole number'],
    [['dael'], 'Did you mean deal'],
    [['deal', '--sets', '3'], '--seats'],
  ])('refuses %j, with the next step', async (args, message) => {
    const { code, err } = await wily(args);
    expect(code).toBe(2);
    expect(err).toContain(message);
  });

  it('explains every command with an example', async () => {
    const { out } = await wily(['--help']);
    for (const command of [
      'cards',
      'shuffle',
      'deal',
      'new',
      'check',
      'format',
      'rehearse',
      'play',
      'sheets',
      'tables',
    ]) {
      expect(out).toContain(command);
      const help = await wily([command, '--help']);
      expect([command, help.code]).toEqual([command, 0]);
      expect(help.out).toMatch(/Examples?:\n {2}\.\/wily/);
    }
  });
});
