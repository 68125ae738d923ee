import { BLOCK } from '@wily-jester/core';
import type { NewTrial, Trial, TrialSummary } from '@wily-jester/protocol';
import type { Logger } from 'pino';
import { Op } from 'sequelize';
import { guarded } from '../guarded.js';
import { newId } from '../ids.js';
import { Problem } from '../problems.js';
import { findSheet } from '../sheets/shelf.js';
import { SheetRow, TrialRow } from '../storage/models.js';
import { oneThread } from '../workers/thread.js';
import { planned } from './plans.js';
import type { StretchAnswer, StretchTask } from './stretch-task.js';

/** Trials that wait at most, and those that are kept at most. */
const MOST_WAITING = 500;
/** The same of one developer. */
const MOST_OF_ONE = 50;
const MOST_KEPT = 200;
/** So long a thread plays on before it tells how far it is, and so long beyond that it may take for a block, in milliseconds. */
const STRETCH = 500;
const LONGEST_BLOCK = 60_000;
/** What is there is kept so often, and a trial that nobody kept for so long is taken over, in milliseconds. */
const KEPT_EVERY = 3_000;
const LEFT_AFTER = 75_000;
const LOOKED_EVERY = 2_000;
/** So long a developer's trials are played while those of others wait, in milliseconds. */
const TURN = 5_000;
/** Memory of the thread that plays, in mebibytes. */
const HEAP = 384;

/** Trials that nobody plays now. */
const free = () => ({ status: ['waiting' as const, 'running' as const], heldUntil: { [Op.lt]: new Date() } });

/** A trial that this process plays, as its thread told of it last. */
interface Running {
  readonly id: string;
  played: number;
  /** As JSON. */
  figures: string | null;
  kept: string | null;
  seconds: number;
  isDone: boolean;
  isStopped: boolean;
  /** Settles once it is no longer played here. */
  over: Promise<void>;
}

/** Plays trials one after the other, behind the tables, and keeps them. */
export class TrialJobs {
  private readonly pool = oneThread('stretch-task', { heap: HEAP, idle: 30_000 });
  private running: Running | null = null;
  private looking: Promise<void> = Promise.resolve();
  private readonly timer: NodeJS.Timeout;
  private isClosed = false;
  /** Whose trials were played, the latest last: whoever waited longest goes first. */
  private readonly served = new Set<string>();

  constructor(private readonly log: Logger) {
    this.timer = setInterval(
      guarded(log, 'looking for trials', () => this.look()),
      LOOKED_EVERY,
    );
    this.timer.unref();
  }

  /** Asks for a trial. @throws Problem where it does not fit its sheet, or too many wait */
  async open(developer: string, wish: NewTrial): Promise<TrialSummary> {
    const sheet = await findSheet(wish.sheet);
    await planned(sheet.hash, wish);
    const status = ['waiting', 'running'] as const;
    if ((await TrialRow.count({ where: { status: [...status], developer } })) >= MOST_OF_ONE)
      throw new Problem('too-many', `${MOST_OF_ONE} trials of yours wait: stop one, or try again later.`, {
        retryAfter: 30,
      });
    if ((await TrialRow.count({ where: { status: [...status] } })) >= MOST_WAITING)
      throw new Problem('too-many', 'Too many trials wait: try again later.', { retryAfter: 30 });
    const row = await TrialRow.create({
      id: newId(),
      sheetHash: sheet.hash,
      title: wish.title?.trim() || sheet.name,
      wish: JSON.stringify(wish),
      status: 'waiting',
      asked: wish.games,
      developer,
      openedAt: new Date(),
      heldUntil: new Date(0),
    });
    await this.forgetOld();
    this.start();
    return summaryOf(row, sheet.name);
  }

  /** Of finished trials only the latest are kept. */
  private async forgetOld(): Promise<void> {
    const old = await TrialRow.findAll({
      attributes: ['id'],
      where: { status: ['done', 'stopped', 'failed'] },
      order: [['openedAt', 'DESC']],
      offset: MOST_KEPT,
      limit: 1_000,
      raw: true,
    });
    if (old.length > 0) await TrialRow.destroy({ where: { id: old.map(({ id }) => id) } });
  }

  /** All trials, the latest first. */
  async list(): Promise<TrialSummary[]> {
    const rows = await TrialRow.findAll({
      attributes: { exclude: ['kept', 'figures'] },
      order: [['openedAt', 'DESC']],
      limit: MOST_KEPT,
    });
    const names = await SheetRow.findAll({
      attributes: ['hash', 'name'],
      where: { hash: [...new Set(rows.map(({ sheetHash }) => sheetHash))] },
      raw: true,
    });
    const byHash = new Map(names.map(({ hash, name }) => [hash, name]));
    return rows.map((row) => summaryOf(row, byHash.get(row.sheetHash) ?? ''));
  }

  /** A trial with what it has found so far. @throws Problem where there is none */
  async show(id: string): Promise<Trial> {
    const row = await this.find(id);
    const name = (await SheetRow.findByPk(row.sheetHash, { attributes: ['name'] }))?.name ?? '';
    const now = this.running?.id === id ? this.running : null;
    const trial = now ? { ...summaryOf(row, name), played: now.played, seconds: now.seconds } : summaryOf(row, name);
    const figures = now ? now.figures : row.figures;
    return { trial, figures: figures ? (JSON.parse(figures) as Trial['figures']) : null };
  }

  private async find(id: string): Promise<TrialRow> {
    const row = await TrialRow.findByPk(id);
    if (!row) throw new Problem('not-found', 'There is no such trial.');
    return row;
  }

  /** Ends a trial: what is there is kept, with the wider intervals. */
  async stop(id: string): Promise<Trial> {
    await this.find(id);
    await TrialRow.update({ status: 'stopped' }, { where: { id, status: ['waiting', 'running'] } });
    const { running } = this;
    if (running?.id === id) {
      running.isStopped = true;
      await running.over;
    }
    return this.show(id);
  }

  /** Deletes a trial, played to its end or not. */
  async delete(id: string): Promise<void> {
    await this.stop(id);
    await TrialRow.destroy({ where: { id } });
  }

  /** Looks for a trial that waits, or that a process which is gone has left. */
  private async look(): Promise<void> {
    this.start();
    await this.looking;
  }
  private start(): void {
    if (this.running || this.isClosed) return;
    this.looking = this.looking
      .then(() => this.playNext())
      .catch((error: unknown) => this.log.error(error, 'a trial could not be played'));
  }

  private async claimed(): Promise<TrialRow | null> {
    const waiting = await TrialRow.findAll({
      attributes: ['id', 'developer'],
      where: free(),
      order: [['openedAt', 'ASC']],
      raw: true,
    });
    const turn = [...this.served];
    const [first] = waiting.sort((a, b) => turn.indexOf(a.developer) - turn.indexOf(b.developer));
    const row = first ? await TrialRow.findByPk(first.id) : null;
    if (!row) return null;
    this.served.delete(row.developer);
    this.served.add(row.developer);
    const [taken] = await TrialRow.update(
      { status: 'running', heldUntil: new Date(Date.now() + LEFT_AFTER) },
      { where: { id: row.id, heldUntil: row.heldUntil, status: row.status } },
    );
    return taken === 1 ? row : null;
  }

  private async playNext(): Promise<void> {
    if (this.running || this.isClosed) return;
    const row = await this.claimed();
    if (!row) return;
    try {
      const wish = JSON.parse(row.wish) as NewTrial;
      const begin = { ...(await planned(row.sheetHash, wish)), kept: row.kept ?? null };
      this.running = {
        id: row.id,
        played: row.played,
        figures: row.figures,
        kept: begin.kept,
        seconds: row.seconds,
        isDone: false,
        isStopped: false,
        over: Promise.resolve(),
      };
      const played = this.play(this.running, row.developer, begin);
      this.running.over = played.catch(() => undefined);
      await played;
    } catch (error) {
      const problem = error instanceof Error ? error.message : String(error);
      await TrialRow.update({ status: 'failed', problem: problem.slice(0, 500) }, { where: { id: row.id } });
    } finally {
      this.running = null;
    }
    if (!this.isClosed) await this.playNext();
  }

  /** Whether another developer waits for a turn: with a new trial, or with one that made room. */
  private async othersWait(developer: string): Promise<boolean> {
    return (await TrialRow.count({ where: { ...free(), developer: { [Op.ne]: developer } } })) > 0;
  }

  private async play(running: Running, developer: string, begin: NonNullable<StretchTask['begin']>): Promise<void> {
    const began = Date.now();
    let keptAt = began;
    let isKnown = false;
    while (!running.isDone && !running.isStopped && !this.isClosed) {
      const from = performance.now();
      const answer = await this.stretch({
        trial: running.id,
        milliseconds: STRETCH,
        keeps: Date.now() - keptAt >= KEPT_EVERY,
        begin: isKnown ? null : { ...begin, kept: running.kept },
      });
      if (answer.kind === 'fault') throw new Error(answer.words);
      isKnown = answer.kind === 'stretch';
      if (answer.kind === 'unknown') continue;
      const { played, figures, kept, isDone } = answer;
      Object.assign(running, {
        played,
        figures,
        isDone,
        seconds: running.seconds + (performance.now() - from) / 1000,
      });
      if (kept === null) continue;
      running.kept = kept;
      keptAt = Date.now();
      if (!(await this.keep(running, 'running'))) return;
      // A long trial makes room for those of others, and goes on after them.
      if (Date.now() - began > TURN && (await this.othersWait(developer))) break;
    }
    await this.end(running, isKnown);
  }

  /** Keeps a trial that is over, or that this process lets go of. */
  private async end(running: Running, isKnown: boolean): Promise<void> {
    if (running.isDone || running.isStopped) {
      await this.keep(running, running.isDone ? 'done' : 'stopped');
      return;
    }
    // The process ends, or others have their turn: what its thread has come to is kept, so that another one goes on from there.
    const last = isKnown ? await this.stretch({ trial: running.id, milliseconds: 0, keeps: true, begin: null }) : null;
    if (last?.kind === 'stretch')
      Object.assign(running, {
        played: last.played,
        figures: last.figures,
        kept: last.kept,
        isDone: last.isDone,
      });
    if (running.isDone) await this.keep(running, 'done');
    else await this.keep(running, 'running', 0);
  }

  private async stretch(task: StretchTask): Promise<StretchAnswer> {
    try {
      return (await this.pool.run(task, {
        signal: AbortSignal.timeout(task.milliseconds + LONGEST_BLOCK),
      })) as StretchAnswer;
    } catch (error) {
      if (error instanceof Error && error.name === 'AbortError')
        throw new Error(`${BLOCK} games take longer than ${LONGEST_BLOCK / 1000} seconds: this is too slow to try.`);
      throw error;
    }
  }

  /** Keeps what there is. @returns whether the trial is still this process's own to play */
  private async keep(running: Running, status: TrialRow['status'], held = LEFT_AFTER): Promise<boolean> {
    const { id, played, seconds, figures, kept } = running;
    const isOver = status !== 'running';
    const [changed] = await TrialRow.update(
      {
        status,
        played,
        seconds,
        kept: isOver ? null : kept,
        figures,
        heldUntil: new Date(Date.now() + held),
      },
      { where: { id, status: isOver ? ['running', 'stopped'] : ['running'] } },
    );
    if (changed === 1) return true;
    // Another process has ended it meanwhile.
    running.isStopped = true;
    if (!isOver) await this.keep(running, 'stopped');
    return false;
  }

  async close(): Promise<void> {
    this.isClosed = true;
    clearInterval(this.timer);
    await this.looking;
    await this.pool.destroy();
  }
}

const summaryOf = (row: TrialRow, game: string): TrialSummary => ({
  id: row.id,
  title: row.title,
  game,
  sheet: row.sheetHash,
  status: row.status,
  asked: row.asked,
  played: row.played ?? 0,
  wish: JSON.parse(row.wish) as NewTrial,
  opened: row.openedAt.toISOString(),
  seconds: row.seconds ?? 0,
  problem: row.problem ?? null,
});
