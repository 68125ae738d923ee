import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Client, ServiceError } from '@wily-jester/client';
import { type TrialPlan, TrialPlayer, TrialTotals, trialArms, trialFigures } from '@wily-jester/core';
import { compileSheet } from '@wily-jester/motley';
import type { NewTrial, Trial } from '@wily-jester/protocol';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { newDeveloper, openTwo, ROOT, seatKey, startTestService, until } from './setup/service.js';

const WAR: NewTrial = { sheet: 'Long War', games: 1_000, title: 'How long is a war?' };
let place: Awaited<ReturnType<typeof startTestService>>;
let client: Client;

beforeAll(async () => {
  place = await startTestService();
  client = place.client;
});
afterAll(() => place.service.stop());

async function overOf(id: string, of = client): Promise<{ last: Trial; seen: Trial[] }> {
  const seen: Trial[] = [];
  for await (const trial of of.followTrial(id)) seen.push(trial);
  return { last: seen.at(-1) as Trial, seen };
}

/** The same trial, played here. */
function playedHere(games: number, settings: Record<string, number | string>): unknown {
  const { program } = compileSheet(readFileSync(join(ROOT, 'sheets/long-war.motley'), 'utf8'));
  if (!program) throw new Error('the sheet has errors');
  const plan: TrialPlan = { arms: trialArms(program, { settings }), seed: '1', games, longest: 100_000 };
  const [player, totals] = [new TrialPlayer(plan), new TrialTotals(plan)];
  for (let block = 0; !totals.isDone; block++) totals.offer(player.playBlock(block));
  return JSON.parse(JSON.stringify(trialFigures(totals, plan)));
}

describe('trials in the service', () => {
  it('are played behind the tables, followed as they grow, and come to what they come to anywhere', async () => {
    const opened = await client.openTrial(WAR);
    expect(opened).toMatchObject({ title: 'How long is a war?', game: 'Long War', status: 'waiting', asked: 1_000 });
    const { last, seen } = await overOf(opened.id);
    expect(last.trial).toMatchObject({ status: 'done', played: 1_000, problem: null });
    expect(seen.length).toBeGreaterThan(1);
    expect(last.figures).toEqual(playedHere(1_000, {}));
    expect((await client.trials())[0]).toMatchObject({ id: opened.id, status: 'done', played: 1_000 });
    expect(await client.trial(opened.id)).toEqual(last);
  });

  it('of several developers take turns: a long one makes room, and goes on after it', async () => {
    const pike = await newDeveloper(client, 'pike');
    const long = await client.openTrial({ ...WAR, games: 5_000_000 });
    // Of one's own trials one is played after the other.
    const next = await client.openTrial(WAR);
    const short = await pike.openTrial({ ...WAR, games: 300 });
    const { last } = await overOf(short.id);
    expect(last.trial).toMatchObject({ status: 'done', played: 300 });
    expect((await client.trial(next.id)).trial.played).toBe(0);
    const { played } = (await client.trial(long.id)).trial;
    expect(played).toBeGreaterThan(0);
    await until(async () => (await client.trial(long.id)).trial.played > played, 'the long one to go on');
    // And so do two long ones.
    const other = await pike.openTrial({ ...WAR, games: 5_000_000 });
    const playedOf = async (id: string): Promise<number> => (await client.trial(id)).trial.played;
    await until(async () => (await playedOf(other.id)) > 0, 'the other long one to begin');
    const before = await playedOf(long.id);
    await until(async () => (await playedOf(long.id)) > before, 'the first one to have its turn again');
    for (const { id } of [long, next, other]) await client.deleteTrial(id);
  });

  it('hold settings against each other, and stop when they know enough', async () => {
    const { id } = await client.openTrial({
      sheet: 'Quayside Twenty-One',
      games: 1_000_000,
      bots: ['chart'],
      settings: { rounds: 1, stake: 100_000, insures: false, surrenders: false },
      compare: { name: 'pays', values: ['threeToTwo', 'sixToFive'] },
      until: { tally: 'house keeps', within: 0.003 },
    });
    const { last } = await overOf(id);
    expect(last.figures?.ended).toBe('known well enough');
    const found = last.figures?.differences.find(({ tally }) => tally === 'house keeps');
    expect(found?.isClear).toBe(true);
    expect(Math.abs((found?.value ?? 0) - 0.0136)).toBeLessThan(0.005);
  });

  it('are ended with what they have, and deleted', async () => {
    const { id } = await client.openTrial({ ...WAR, games: 50_000_000 });
    await until(async () => (await client.trial(id)).trial.played > 0, 'the first games');
    const stopped = await client.stopTrial(id);
    expect(stopped.trial.status).toBe('stopped');
    expect(stopped.figures?.ended).toBe('stopped early');
    expect(stopped.figures?.games).toBe(stopped.trial.played);
    await client.deleteTrial(id);
    await expect(client.trial(id)).rejects.toMatchObject({ problem: { status: 404 } });
  });

  it('are ended one by one: what waits is played next, and nobody waits for it', async () => {
    const first = await client.openTrial({ ...WAR, games: 50_000_000 });
    const second = await client.openTrial({ ...WAR, games: 50_000_000 });
    await until(async () => (await client.trial(first.id)).trial.played > 0, 'the first games');
    expect((await client.trial(second.id)).trial.status).toBe('waiting');
    expect((await client.stopTrial(first.id)).trial.status).toBe('stopped');
    await until(async () => (await client.trial(second.id)).trial.played > 0, 'the next trial');
    await client.deleteTrial(second.id);
  });

  it('go on after a restart from what was kept, and come to the same', async () => {
    const { id } = await client.openTrial({ ...WAR, games: 5_000 });
    await until(async () => (await client.trial(id)).trial.played > 500, 'some games');
    await place.service.stop();
    place = await startTestService(place);
    client = place.client;
    const { trial } = await client.trial(id);
    expect(trial.status).toBe('running');
    expect(trial.played).toBeGreaterThan(500);
    const { last } = await overOf(id);
    expect(last.trial.status).toBe('done');
    expect(last.figures).toEqual(playedHere(5_000, {}));
  });

  it('fail with the words of the game that could not go on, and hold up nobody', async () => {
    const source =
      'game "Torn" for 1 seat {\n  deck standard\n  play {\n    tally "t" 1 / (size(pack) - 52)\n    finish\n  }\n}\n';
    await client.addSheet({ source });
    const torn = await client.openTrial({ sheet: 'Torn', games: 10 });
    const { last } = await overOf(torn.id);
    expect(last.trial).toMatchObject({ status: 'failed', played: 0 });
    expect(last.trial.problem).toContain('Game 1 stopped: This divides by zero. (line 4 of the sheet)');
    const after = await client.openTrial({ ...WAR, games: 250 });
    expect((await overOf(after.id)).last.trial.status).toBe('done');
  });

  it('refuse what does not fit the sheet, and whoever is no developer', async () => {
    const problem = async (wish: object): Promise<string> =>
      client.openTrial({ ...WAR, ...wish } as NewTrial).then(
        () => 'taken',
        (error: unknown) => (error instanceof ServiceError ? `${error.problem.status} ${error.problem.detail}` : ''),
      );
    expect(await problem({ sheet: 'No Such Game' })).toMatch(/^404 There is no sheet/);
    expect(await problem({ seats: 9 })).toMatch(/^422 "Long War" is for 2, 3, 4 seats/);
    expect(await problem({ bots: ['nobody'] })).toMatch(/^422 .*no bot "nobody"/);
    expect(await problem({ bots: ['thinking'] })).toMatch(/^422 .*thinking is counted there/);
    expect(await problem({ compare: { name: 'speed', values: [1, 2] } })).toMatch(/^422 .*no setting "speed"/);
    expect(await problem({ until: { tally: 'luck', within: 1 } })).toMatch(/^422 There is no figure "luck"/);
    expect(await problem({ settings: { decks: 77 } })).toMatch(/^422/);
    expect(await problem({ games: 0 })).toMatch(/^422 games must be >= 1/);
    const opened = await openTwo(client);
    const seat = new Client({ address: client.options.address, key: seatKey(opened, 1) });
    await expect(seat.trials()).rejects.toMatchObject({ problem: { status: 403 } });
    await expect(seat.openTrial(WAR)).rejects.toMatchObject({ problem: { status: 403 } });
    await expect(new Client({ address: client.options.address }).trials()).rejects.toMatchObject({
      problem: { status: 401 },
    });
  });
});
