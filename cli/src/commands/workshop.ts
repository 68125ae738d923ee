import { randomUUID } from 'node:crypto';
import { existsSync, watch } from 'node:fs';
import { basename } from 'node:path';
import { type Client, ServiceError, Unreachable } from '@wily-jester/client';
import type { Draft, DraftTexts } from '@wily-jester/protocol';
import type { Command } from 'commander';
import { Exit } from '../exit.js';
import { addressFor, clientFor, type RemoteOptions, remote } from '../remote.js';
import { paint } from '../show/paint.js';
import { complain, print, printJson } from '../show/print.js';
import { GameFiles } from '../workshop/disk.js';

/** An editor that saves writes several times in a row: files are read after so long, in milliseconds. */
const REST = 120;
/** After the line was lost, it is tried again so long after, in milliseconds. */
const AGAIN = 1_000;

const textsOf = ({ sheet, rehearsals, parts }: Draft): DraftTexts => ({ sheet, rehearsals, parts });

/** A draft and the files of one's own disk, kept in step: whoever writes is followed by the other. */
class InStep {
  private readonly window = `disk ${randomUUID().slice(0, 8)}`;
  private last: DraftTexts;
  private number: number;
  private readonly warned = new Set<string>();
  /** One thing after the other: what the disk says, then what the page says. */
  private turn: Promise<void> = Promise.resolve();

  constructor(
    private readonly client: Client,
    private readonly files: GameFiles,
    private readonly draft: Draft,
  ) {
    this.last = textsOf(draft);
    this.number = draft.number;
  }

  private inTurn(work: () => Promise<void>): void {
    this.turn = this.turn.then(work).catch((error: unknown) => {
      if (!(error instanceof ServiceError || error instanceof Unreachable || error instanceof Exit)) throw error;
      complain(error.message);
    });
  }

  /** What was saved on the disk goes to the draft. */
  saved(): void {
    this.inTurn(async () => {
      const now = await this.files.read();
      this.warnOf(now);
      if (this.files.isIn(this.last, now)) return;
      try {
        await this.keep(now);
        print(paint.dim('saved here, shown there'));
      } catch (error) {
        if (!(error instanceof ServiceError && error.kind === 'changed')) throw error;
        // Both wrote: the page's text stays in the draft's history, and the page is told.
        this.number = (await this.client.draft(this.draft.id)).number;
        await this.keep(now, true);
        print('Both wrote: this file counts, and the page’s text is in the draft’s history.');
      }
    });
  }

  /** Says which files a text asks for that nobody confirmed, once each. */
  private warnOf(texts: DraftTexts): void {
    for (const name of this.files.strangers(texts)) {
      if (this.warned.has(name)) continue;
      this.warned.add(name);
      print(
        `"${name}" is asked for now. ${name}.motley is neither read nor written: to keep it in step, start again with --with ${name}`,
      );
    }
  }

  private async keep(now: DraftTexts, anew = false): Promise<void> {
    const whole = this.files.into(this.last, now);
    const texts = { after: this.number, ...whole, window: this.window, anew };
    const { number } = await this.client.keepDraft(this.draft.id, texts);
    this.number = number;
    this.last = whole;
  }

  /** What was written on the page goes to the disk. */
  private heard(number: number, window: string | null): void {
    if (window === this.window || number <= this.number) return;
    this.inTurn(async () => {
      const draft = await this.client.draft(this.draft.id);
      if (draft.number <= this.number) return;
      const onDisk = await this.files.read();
      // What was saved meanwhile goes first: it must not be written over.
      if (!this.files.isIn(this.last, onDisk)) return this.saved();
      this.number = draft.number;
      this.last = textsOf(draft);
      this.warnOf(this.last);
      const written = await this.files.write(this.last);
      if (written.length > 0)
        print(paint.dim(`written there, saved here: ${written.map((file) => basename(file)).join(', ')}`));
    });
  }

  /** Follows both until the signal. */
  async follow(signal: AbortSignal): Promise<void> {
    let timer: NodeJS.Timeout | undefined;
    const watcher = watch(this.files.folder, { signal }, (_, name) => {
      if (name !== null && !name.endsWith('.motley')) return;
      clearTimeout(timer);
      timer = setTimeout(() => this.saved(), REST);
    });
    watcher.on('error', () => undefined);
    while (!signal.aborted) {
      try {
        for await (const { number, window } of this.client.followDraft(this.draft.id, signal))
          this.heard(number, window);
      } catch (error) {
        if (signal.aborted) break;
        if (error instanceof ServiceError) throw error;
        await new Promise((done) => setTimeout(done, AGAIN));
      }
    }
    clearTimeout(timer);
    await this.turn;
  }
}

interface WorkshopOptions extends RemoteOptions {
  with?: string[];
}

async function openWorkshop(file: string, options: WorkshopOptions): Promise<void> {
  const files = await GameFiles.of(file, options.with ?? []);
  const texts = await files.read();
  const client = clientFor(options);
  const draft = await client.addDraft({ ...texts, origin: files.sheet });
  const { word } = await client.makeLogin();
  const link = `${addressFor(options)}/workshop/${draft.id}#open=${word}`;
  if (options.json) printJson({ draft: draft.id, link });
  else {
    print(`${paint.bold(draft.title)} stands in the workshop, in step with ${files.sheet}.`);
    print('Whoever writes there writes these files here, and no others:');
    for (const each of files.all)
      print(`  ${each}${existsSync(each) ? '' : paint.dim('  (once there is something in it)')}`);
    print(`Open ${link}`);
    print(paint.dim('Save here or write there: each follows the other, until Ctrl C.'));
  }
  const stop = new AbortController();
  process.once('SIGINT', () => stop.abort());
  process.once('SIGTERM', () => stop.abort());
  await new InStep(client, files, draft).follow(stop.signal);
}

export function addWorkshopCommand(program: Command): void {
  remote(
    program
      .command('workshop')
      .description('open a sheet of your disk in the workshop of a service, and keep both in step')
      .argument('<file>', 'a rule sheet; its rehearsals, and the parts beside it that it uses now, come along')
      .option('--with <part...>', 'parts beside it that it does not use yet, by name'),
  )
    .addHelpText('after', '\nExample:\n  ./wily workshop river-nines.motley')
    .action(openWorkshop);
}
