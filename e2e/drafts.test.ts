import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Client, ServiceError } from '@wily-jester/client';
import type { Draft } from '@wily-jester/protocol';
import type { Service } from '@wily-jester/service';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { newFolder, serviceProcess } from './setup/programs.js';
import { freshDatabase, startTestService, until } from './setup/service.js';

let service: Service;
let developer: Client;
beforeAll(async () => {
  ({ service, client: developer } = await startTestService());
});
afterAll(() => service.stop());

const SHEET = `game "Reed Draft" for 2 seats {
  deck standard
  play { ask seats[1] { option go { } } finish }
}
`;
const texts = ({ sheet, rehearsals, parts }: Draft) => ({ sheet, rehearsals, parts });

/** The problem that a call ends with. */
async function problemOf(call: Promise<unknown>): Promise<ServiceError> {
  const error = await call.then(() => undefined).catch((thrown: unknown) => thrown);
  if (error instanceof ServiceError) return error;
  throw error ?? new Error('this was expected to be refused');
}

describe('drafts', () => {
  it('are kept with a number that goes up, and listed with the latest first', async () => {
    const draft = await developer.addDraft({ sheet: SHEET });
    expect(draft).toMatchObject({ title: 'Reed Draft', number: 1, rehearsals: '', parts: {}, shelf: null });
    const other = await developer.addDraft({ sheet: 'half a game "' });
    expect(other.title).toBe('A game without a name');
    const kept = await developer.keepDraft(draft.id, {
      after: 1,
      ...texts(draft),
      sheet: SHEET.replace('Reed', 'Rush'),
      window: 'one',
    });
    expect(kept).toMatchObject({ number: 2, title: 'Rush Draft', window: 'one' });
    expect((await developer.drafts()).slice(0, 2).map(({ title }) => title)).toEqual([
      'Rush Draft',
      'A game without a name',
    ]);
    expect((await developer.draft(draft.id)).sheet).toContain('Rush Draft');
  });

  it('are not overwritten by somebody who began from an older number', async () => {
    const draft = await developer.addDraft({ sheet: SHEET });
    const keep = (after: number, sheet: string) => developer.keepDraft(draft.id, { after, ...texts(draft), sheet });
    const tries = await Promise.allSettled([keep(1, 'first'), keep(1, 'second'), keep(1, 'third')]);
    expect(tries.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
    const refused = await problemOf(keep(1, 'late'));
    expect([refused.status, refused.kind, refused.problem.number]).toEqual([409, 'changed', 2]);
    expect((await developer.draft(draft.id)).number).toBe(2);
  });

  it('have editions that can be gone back to', async () => {
    const draft = await developer.addDraft({ sheet: SHEET });
    for (let after = 1; after < 5; after++)
      await developer.keepDraft(draft.id, { after, ...texts(draft), sheet: `${SHEET}// ${after}\n` });
    const editions = await developer.editions(draft.id);
    // What is typed within a minute is one edition; how it began stays.
    expect(editions.map(({ number }) => number)).toEqual([5, 1]);
    expect((await developer.edition(draft.id, 1)).sheet).toBe(SHEET);
    expect((await developer.edition(draft.id, 5)).sheet).toContain('// 4');
    expect((await problemOf(developer.edition(draft.id, 3))).status).toBe(404);
    // What another window wrote, and what is replaced and not typed over, stays however new it is.
    const keep = (after: number, window: string, anew = false) =>
      developer.keepDraft(draft.id, { after, ...texts(draft), sheet: `${SHEET}// ${window} ${after}\n`, window, anew });
    await keep(5, 'one');
    await keep(6, 'two');
    await keep(7, 'two');
    await keep(8, 'two', true);
    expect((await developer.editions(draft.id)).map(({ number }) => number)).toEqual([9, 8, 6, 5, 1]);
  });

  it('become a version on the shelf, once they are without errors', async () => {
    const draft = await developer.addDraft({ sheet: SHEET });
    // The note tells it from any that stands there already.
    const source = `${SHEET}// ${draft.id}\n`;
    const refused = await problemOf(developer.shelveDraft(draft.id, { source: source.replace('option go', 'option') }));
    expect([refused.status, refused.kind, refused.problem.line]).toEqual([422, 'sheet', 3]);
    const shelved = await developer.shelveDraft(draft.id, { source });
    expect(shelved).toMatchObject({ added: true, draft: { shelf: shelved.sheet } });
    expect((await developer.sheet('Reed Draft')).hash).toBe(shelved.sheet);
    expect((await developer.editions(draft.id))[0]?.shelf).toBe(shelved.sheet);
    expect((await developer.shelveDraft(draft.id, { source })).added).toBe(false);
  });

  it('are shared by a key that reads this draft, and nothing else', async () => {
    const [mine, other] = [await developer.addDraft({ sheet: SHEET }), await developer.addDraft({ sheet: SHEET })];
    const guest = developer.withKey(await developer.shareDraft(mine.id));
    expect((await guest.session()).role).toBe('look');
    expect((await guest.draft(mine.id)).sheet).toBe(SHEET);
    for (const call of [
      () => guest.draft(other.id),
      () => guest.drafts(),
      () => guest.editions(mine.id),
      () => guest.keepDraft(mine.id, { after: 1, ...texts(mine) }),
      () => guest.sheets(),
      () => guest.deleteDraft(mine.id),
    ])
      expect((await problemOf(call())).status).toBe(403);
    await developer.endLooks(mine.id);
    expect((await problemOf(guest.draft(mine.id))).status).toBe(401);
  });

  it('from the same file go on as one draft', async () => {
    const origin = join(newFolder(), 'reed.motley');
    const first = await developer.addDraft({ sheet: SHEET, origin });
    const again = await developer.addDraft({ sheet: `${SHEET}// more\n`, origin });
    expect([again.id, again.number]).toEqual([first.id, 2]);
    expect((await developer.drafts()).filter((draft) => draft.origin === origin)).toHaveLength(1);
  });

  it('tell whoever follows them of each time that they are kept', async () => {
    const draft = await developer.addDraft({ sheet: SHEET });
    const stop = new AbortController();
    const heard: number[] = [];
    const following = (async () => {
      for await (const { number } of developer.followDraft(draft.id, stop.signal)) heard.push(number);
    })().catch(() => undefined);
    await until(() => heard.length === 1, 'the number at first');
    await developer.keepDraft(draft.id, { after: 1, ...texts(draft), sheet: '// new' });
    await until(() => heard.includes(2), 'the number after it was kept');
    stop.abort();
    await following;
  });

  it('go with their history and their keys', async () => {
    const draft = await developer.addDraft({ sheet: SHEET });
    const guest = developer.withKey(await developer.shareDraft(draft.id));
    await developer.deleteDraft(draft.id);
    expect((await problemOf(developer.draft(draft.id))).status).toBe(404);
    expect((await problemOf(developer.editions(draft.id))).status).toBe(404);
    expect((await problemOf(guest.draft(draft.id))).status).toBe(401);
  });

  it('take texts up to a length, and names of parts that are names', async () => {
    expect((await problemOf(developer.addDraft({ sheet: 'x'.repeat(80_001) }))).status).toBe(422);
    expect((await problemOf(developer.addDraft({ sheet: SHEET, parts: { 'No Name': '' } }))).status).toBe(422);
    expect(
      (await problemOf(developer.addDraft({ sheet: SHEET, parts: { __proto__: 'x', '../up': 'x' } }))).status,
    ).toBe(422);
  });
});

describe('the service, killed while somebody writes', () => {
  it('has what was kept, and goes on from its number', async () => {
    const env = {
      WILY_DB_URL: await freshDatabase(),
      WILY_DATA: mkdtempSync(join(tmpdir(), 'wily-data-')),
      WILY_PORT: '0',
    };
    const first = await serviceProcess(env);
    const key = readFileSync(join(env.WILY_DATA, 'developer.key'), 'utf8').trim();
    const client = new Client({ address: first.address, key });
    const draft = await client.addDraft({ sheet: SHEET });
    await client.keepDraft(draft.id, { after: 1, ...texts(draft), sheet: `${SHEET}// typed\n` });
    await first.kill();
    const second = await serviceProcess(env);
    const back = new Client({ address: second.address, key });
    expect(await back.draft(draft.id)).toMatchObject({ number: 2, sheet: `${SHEET}// typed\n` });
    expect((await back.keepDraft(draft.id, { after: 2, ...texts(draft) })).number).toBe(3);
    await second.kill();
  });
});
