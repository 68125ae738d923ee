// npm run screenshots: one current picture of each page and main command, made from the demo data on a service of its own.
import { spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { BlockList } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from 'playwright-core';
import { findBrowser } from './lib/browser.mjs';
import { startDatabase } from './lib/database.mjs';
import { ROOT, say } from './lib/machine.mjs';

const OUT = join(ROOT, 'docs/screenshots');
const LANTERN = 'sheets/lantern-twenty-one.motley';

/** Runs the command line as at a terminal, and gives what it prints with its colours. */
function command(line, input = '', env = {}) {
  const [program, ...args] = line.match(/"[^"]*"|\S+/g).map((word) => word.replace(/^"|"$/g, ''));
  return new Promise((done) => {
    const child = spawn(join(ROOT, program), args, { cwd: ROOT, env: { ...process.env, ...env, FORCE_COLOR: '1' } });
    let out = '';
    for (const stream of [child.stdout, child.stderr])
      stream.on('data', (data) => {
        out += String(data);
      });
    child.on('close', () => done(out));
    child.stdin.end(input);
  });
}

const escapeHtml = (text) => text.replace(/[&<>]/g, (sign) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;' })[sign]);
const STYLES = {
  1: 'font-weight:700',
  2: 'opacity:.62',
  31: 'color:#f08a80',
  32: 'color:#7fd0c4',
  33: 'color:#f3c981',
};

/** Terminal colours as HTML. */
function coloured(text) {
  // biome-ignore lint/suspicious/noControlCharactersInRegex: colours are control characters
  return escapeHtml(text).replace(/\u001b\[(\d+)m/g, (_, code) =>
    STYLES[code] ? `<span style="${STYLES[code]}">` : '</span>',
  );
}

async function terminal(browser, file, parts) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const body = parts.map(([line, out]) => `<b>$ ${escapeHtml(line)}</b>\n${coloured(out)}`).join('\n');
  await page.setContent(
    `<body style="margin:0;background:#101e2d;color:#dfe6ea;font:15px/20px 'DejaVu Sans Mono',monospace"><pre style="margin:0;padding:22px 28px;font:inherit;white-space:pre-wrap;height:800px;overflow:hidden;box-sizing:border-box">${body}</pre>`,
  );
  await page.screenshot({ path: join(OUT, file) });
  await page.close();
}

async function main() {
  mkdirSync(OUT, { recursive: true });
  const data = mkdtempSync(join(tmpdir(), 'wily-shots-'));
  const database = await startDatabase(data);
  const { startService } = await import('@wily-jester/service');
  const { Client } = await import('@wily-jester/client');
  const service = await startService({
    host: '127.0.0.1',
    port: 0,
    data,
    database: database.url,
    console: join(ROOT, 'console/dist'),
    sheets: join(ROOT, 'sheets'),
    logLevel: 'silent',
    keepClosed: null,
    rate: 100_000,
    guesses: 20,
    proxies: new BlockList(),
    checkAnswers: false,
  });
  const client = new Client({ address: service.address, key: service.developerKey });
  const browser = await chromium.launch({
    executablePath: findBrowser(),
    args: ['--no-sandbox', '--disable-quic', '--disable-background-networking'],
  });
  const env = { WILY_PORT: new URL(service.address).port, WILY_DATA: data };

  const shoot = async (path, file, { width = 1280, height = 800, work = async () => {} } = {}) => {
    const context = await browser.newContext({ viewport: { width, height }, reducedMotion: 'reduce' });
    const { word } = await client.makeLogin();
    const headers = { origin: service.address };
    await context.request.post(`${service.address}/api/session`, { data: { word }, headers });
    const page = await context.newPage();
    await page.goto(`${service.address}${path}`);
    await page.waitForSelector('h1');
    await work(page);
    await page.evaluate(() => document.fonts.ready);
    await page.waitForTimeout(400);
    await page.screenshot({ path: join(OUT, file) });
    await context.close();
    say(file);
  };

  // A table in its second round: Wren to choose, Otter and Heron played by people who have chosen.
  const seats = [{ name: 'Wren' }, { name: 'Otter' }, { name: 'Heron' }];
  const { table } = await client.openTable({ sheet: 'Lantern Twenty-One', seats, seed: 'lantern light', clocks: true });
  let once = 0;
  const choose = async (seat, option, args = {}) => {
    const { ask } = await client.offers(table.id, seat);
    await client.choose(table.id, { ask, option, args, once: `s${once++}`, seat });
  };
  const wait = async (holds) => {
    for (;;) {
      const view = await client.view(table.id, 'watch');
      if (await holds(view)) return view;
      await new Promise((done) => setTimeout(done, 50));
    }
  };
  for (const [seat, amount] of [
    [1, 20],
    [2, 20],
    [3, 10],
  ])
    await choose(seat, 'bet', { amount });
  for (;;) {
    const view = await wait((v) => v.waiting.kind === 'ask');
    if (view.waiting.together) break;
    await choose(view.waiting.seats[0], 'stand');
  }
  for (const [seat, amount] of [
    [2, 20],
    [3, 10],
    [1, 40],
  ])
    await choose(seat, 'bet', { amount });

  await shoot(`/tables/${table.id}`, 'table.png', {
    work: (page) => page.waitForSelector('[data-option=stand], [data-option=bet]'),
  });
  await shoot(`/tables/${table.id}`, 'table-phone.png', {
    width: 390,
    height: 844,
    work: (page) => page.waitForSelector('.panel'),
  });
  // Hold'em: three people and a bot, in the third hand.
  const pot = await client.openTable({
    sheet: "Long Pot Hold'em",
    seats: [{ name: 'Wren' }, { name: 'Otter' }, { name: 'Heron' }, { name: 'Pike', bot: 'patient' }],
    seed: 'long light',
    clocks: false,
    pace: 0,
  });
  const potId = pot.table.id;
  for (let i = 0; i < 400; i++) {
    const { waiting, chapter, piles } = await client.view(potId, 'watch');
    if (chapter.count >= 3 && piles.board.size >= 4) break;
    const [seat] = waiting.seats ?? [];
    if (waiting.kind !== 'ask' || seat === undefined || seat === 4) {
      await new Promise((done) => setTimeout(done, 40));
      continue;
    }
    const { offers } = await client.offers(potId, seat);
    const option = ['check', 'call', 'showIt'].find((name) => offers.some((o) => o.legal && o.option === name));
    await client.choose(potId, {
      ask: waiting.ask,
      option: option ?? offers.find((o) => o.legal).option,
      args: {},
      once: `pot${i}`,
      seat,
    });
  }
  await shoot(`/tables/${potId}/side`, 'side-by-side.png', {
    work: async (page) => {
      await page.waitForSelector('[data-pane="3"] .seat.own');
      await page
        .locator('[data-pane="3"] .p-slider')
        .first()
        .click({ position: { x: 60, y: 2 } });
      await page.locator('[data-pane="2"] >> text=Cut off').click();
      await page.waitForSelector('text=cut off');
    },
  });
  await shoot(`/tables/${potId}/past`, 'looking-back.png', {
    work: async (page) => {
      await page.waitForSelector('.rail');
      for (let i = 0; i < 12; i++) await page.getByLabel('The choice before').click();
      await page.waitForSelector('[data-pile="board"] [data-at]');
      await page.getByRole('button', { name: 'What was it worth?' }).click();
      await page.waitForSelector('text=not weighed yet', { state: 'detached' });
      await page.locator('[data-worth]').last().click();
    },
  });
  // The workshop: a good text in the middle of a game, with a rule that was just changed; and the same with a mistake.
  const begin = async (page) => {
    await page.locator('.starters button', { hasText: 'Between the Banks' }).click();
    for (let i = 0; i < 2; i++) {
      await page.locator('[data-option=stay]').click();
      await page.locator('.rail .ends', { hasText: `${2 * i + 2} of ${2 * i + 2}` }).waitFor();
    }
    await page.getByText('no fault').waitFor();
  };
  const search = async (page, text) => {
    await page.locator('.cm-content').click();
    await page.keyboard.press('Control+f');
    const field = page.locator('.cm-search input[name=search]');
    await field.fill('');
    await field.pressSequentially(text);
    await field.press('Enter');
    await field.press('Escape');
  };
  await shoot('/workshop', 'workshop.png', {
    work: async (page) => {
      await begin(page);
      await search(page, '1..10 = 2');
      await page.keyboard.type('1..10 = 3');
      await page.locator('.news', { hasText: 'Played again' }).waitFor();
      await search(page, 'gather left, boat');
      await page.keyboard.press('ArrowDown');
      const box = await page.locator('.cm-line', { hasText: 'pot += paid' }).boundingBox();
      await page.mouse.move(box.x + 60, box.y + 9);
      await page.locator('.wj-tip').waitFor();
    },
  });
  await shoot('/workshop', 'workshop-mistake.png', {
    work: async (page) => {
      await begin(page);
      await search(page, 'pot += paid');
      await page.keyboard.press('End');
      await page.keyboard.type('\npott += ');
      await page.locator('.wj-message').first().waitFor();
      await page.keyboard.type('s.');
      await page.locator('.cm-tooltip-autocomplete').waitFor();
      await page.locator('.greyed').waitFor();
    },
  });
  const patience = await client.openTable({ sheet: 'Weir Patience', seats: [{ name: 'Wren' }], seed: 'weir light' });
  for (let i = 0; i < 2; i++)
    await client.choose(patience.table.id, { ask: i, option: 'turnOver', once: `p${i}`, seat: 1 });
  await shoot(`/tables/${patience.table.id}`, 'patience.png', {
    work: (page) => page.waitForSelector('[data-pile="column/7"]'),
  });
  const players = ['Otter', 'Heron', 'Teal'].map((name) => ({ name, bot: 'plain' }));
  const thorn = await client.openTable({
    sheet: 'Thorn and Lady',
    seats: [{ name: 'Wren' }, ...players],
    seed: 'thorn light',
    clocks: false,
    pace: 0,
  });
  await wait(async () => (await client.view(thorn.table.id, 'watch')).number >= 3);
  const passed = ['hand/1#8', 'hand/1#7', 'hand/1#10'];
  await client.choose(thorn.table.id, { ask: 0, option: 'pass', args: { cs: passed }, once: 'pass', seat: 1 });
  // On to a turn at which there is something to think about.
  for (let turn = 0; turn < 3; turn++) {
    await wait(async () => (await client.view(thorn.table.id, 1)).waiting.seats?.includes(1));
    const { ask, offers } = await client.offers(thorn.table.id, 1);
    if (offers[0].ways.length > 2 && turn > 0) break;
    await client.choose(thorn.table.id, {
      ask,
      option: 'lay',
      args: { c: offers[0].ways[0][0] },
      once: `t${turn}`,
      seat: 1,
    });
  }
  await shoot(`/tables/${thorn.table.id}?as=1`, 'hint.png', {
    work: async (page) => {
      await page.click('[data-hint]');
      await page.waitForSelector('[data-hinted]');
    },
  });
  await shoot('/hands', 'hands.png', {
    work: async (page) => {
      for (const card of ['A♠', 'A♥', 'K♦', 'K♣']) await page.click(`[data-card="${card}"]`);
      await page.click('text=One more hand');
      for (const card of ['J♠', '10♠', '9♠', '2♦', '8♠']) await page.click(`[data-card="${card}"]`);
      await page.waitForSelector('text=deals counted');
    },
  });
  await shoot('/cards', 'cards.png', { work: (page) => page.waitForSelector('[data-card="51"]') });
  const asked = await client.openTrial({
    sheet: 'Quayside Twenty-One',
    title: 'What does softHit change: no or yes?',
    games: 100_000,
    bots: ['chart'],
    settings: { rounds: 1, stake: 100_000, insures: false, surrenders: false },
    compare: { name: 'softHit', values: [false, true] },
  });
  for await (const trial of client.followTrial(asked.id)) if (trial.trial.status === 'done') say(asked.title);
  await shoot(`/trials/${asked.id}`, 'trials.png', {
    work: (page) => page.waitForSelector('[data-chart="table-gain"] svg'),
  });
  await shoot('/shuffle', 'shuffle.png', {
    work: async (page) => {
      await page.waitForSelector('[data-chart="places"] svg >> nth=1');
      await page.waitForSelector('.tests td.failed');
    },
  });
  await shoot('/games', 'games.png', { work: (page) => page.waitForSelector('text=Start a table') });
  await shoot('/tables', 'tables.png', { work: (page) => page.waitForSelector('article') });

  const duel = './wily solve sheets/three-card-duel.motley --until 0.0002';
  const eights =
    './wily match sheets/eights-aside.motley --bots thinking:10ms,tidy --set mostDeals=1 --games 60 --whole';
  await terminal(browser, 'cli-solve.png', [
    [duel, await command(duel)],
    [eights, await command(eights)],
  ]);
  const tries = './wily trial sheets/lantern-twenty-one.motley --games 2000 --set rounds=20 stake=100000';
  const audits = './wily audit --of sort-by-coin --shuffles 2000';
  await terminal(browser, 'cli-trial.png', [
    [audits, await command(audits)],
    [tries, await command(tries)],
  ]);
  await terminal(browser, 'cli-play.png', [
    [`./wily play ${LANTERN} --seed x`, await command(`./wily play ${LANTERN} --seed x`, 'bet 20\nbet 1\nhit\nquit\n')],
  ]);
  const broken = 'docs/examples/misspelt.motley';
  await terminal(browser, 'cli-check.png', [
    [`./wily check ${broken}`, await command(`./wily check ${broken}`)],
    [`./wily check ${LANTERN}`, await command(`./wily check ${LANTERN}`)],
    [`./wily rehearse ${LANTERN}`, await command(`./wily rehearse ${LANTERN}`)],
    [`./wily tables choose ${table.id}`, await command(`./wily tables choose ${table.id}`, '', env)],
  ]);
  const hands = [
    './wily rank "AS AH 7C 7D 2H" "KD KC KH 4S 9D"',
    './wily odds "AS AH" "KD KC" "7S 8S" --board "9S 10S 2D"',
    './wily odds "QH QD" any --seed reed',
    './wily hands --cards 7',
  ];
  const shown = [];
  for (const line of hands) shown.push([line, await command(line)]);
  await terminal(browser, 'cli-hands.png', shown);
  say('cli-solve.png cli-trial.png cli-play.png cli-check.png cli-hands.png');
  await browser.close();
  await client.closeTable(table.id);
  await service.stop();
  await database.stop();
  rmSync(data, { recursive: true, force: true });
}

await main();
process.exit(0);
