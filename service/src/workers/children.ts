import { type ChildProcess, spawn } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { FairQueue } from './fair-queue.js';
import { taskFile } from './tasks.js';

/** Why work came to nothing: too much waited, it took too long, or it threw or used up its memory. */
export type WorkFailure = 'busy' | 'too-long' | 'failed';

export class WorkError extends Error {
  override readonly name = 'WorkError';
  constructor(
    readonly failure: WorkFailure,
    message: string,
  ) {
    super(message);
  }
}

export interface ChildLimits {
  /** Processes at most. */
  readonly children: number;
  /** Pieces of work that wait at most, and of one developer. */
  readonly waiting: number;
  readonly waitingOfOne: number;
  /** So many pieces of one developer are done at a time. */
  readonly atOnceOfOne: number;
  /** Longest time of a piece of work, in milliseconds of the child's own processor time, from when it begins. */
  readonly longest: number;
  /** The same by the clock, with the child's start, where the machine is busy. */
  readonly longestByClock: number;
  /** Memory of a child: its heap of small objects in MiB, and all of its data in bytes. */
  readonly heap: number;
  readonly data: number;
  /** A child is replaced after so many pieces of work. */
  readonly most: number;
}

/** What a child is sent, and what it answers. */
export interface ChildWork {
  readonly file: string;
  readonly input: unknown;
}
export type ChildAnswer = { readonly output: unknown } | { readonly error: string };
/** What it says before: it has started, has read the program, and begins. */
export type ChildNotice = 'begun';

interface Waiting extends ChildWork {
  readonly developer: string;
  done(output: unknown): void;
  failed(error: WorkError): void;
}

const CHILD = fileURLToPath(taskFile('child'));
/** How often the processor time of a child at work is looked at, in milliseconds. */
const LOOK = 100;
/** Ticks of the system's clock in which processes are told their time, a second. */
const TICKS = 100;

/** The processor time of a process so far, in milliseconds; 0 where the system does not say it. */
function processorTime(pid: number): number {
  try {
    const [, fields = ''] = /\) (.*)/s.exec(readFileSync(`/proc/${pid}/stat`, 'utf8')) ?? [];
    // utime and stime, the 14th and 15th of proc(5), the state being the third.
    const [user = 0, system = 0] = fields.split(' ').slice(11, 13).map(Number);
    return ((user + system) * 1000) / TICKS;
  } catch {
    return 0;
  }
}

const findProgram = (name: string): string | undefined =>
  ['/usr/bin', '/bin', '/usr/sbin'].map((folder) => `${folder}/${name}`).find(existsSync);

/** The command that runs a child within the system's own limits, and that ends it when its parent ends. */
function commandOf({ heap, data }: ChildLimits): string[] {
  const [prlimit, setpriv] = ['prlimit', 'setpriv'].map(findProgram);
  return [
    ...(prlimit ? [prlimit, `--data=${data}`, '--core=0'] : []),
    ...(setpriv ? [setpriv, '--pdeathsig', 'KILL'] : []),
    process.execPath,
    `--max-old-space-size=${heap}`,
    CHILD,
  ];
}

/** One process, and the work that it does. */
class Child {
  readonly process: ChildProcess;
  work: Waiting | null = null;
  done = 0;
  private timer: NodeJS.Timeout | undefined;
  /** Its processor time when the work began; nothing before it is the work's own. */
  private used: number | null = null;

  constructor(
    private readonly limits: ChildLimits,
    private readonly free: (child: Child) => void,
    private readonly gone: (child: Child) => void,
  ) {
    const [program = '', ...args] = commandOf(limits);
    // What a stranger's text makes of it belongs into no log.
    this.process = spawn(program, args, {
      stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
      env: { PATH: process.env.PATH },
    });
    this.process.on('message', (said: ChildAnswer | ChildNotice) => {
      if (said === 'begun') this.used = this.processorTime;
      else this.answered(said);
    });
    this.process.on('error', () => this.ended());
    this.process.on('exit', () => this.ended());
    // It keeps nobody up who has nothing else to do.
    this.process.unref();
    this.process.channel?.unref();
  }

  give(work: Waiting): void {
    this.work = work;
    this.used = null;
    const began = performance.now();
    this.timer = setInterval(() => {
      const own = this.used === null ? 0 : this.processorTime - this.used;
      if (own < this.limits.longest && performance.now() - began < this.limits.longestByClock) return;
      this.finish((failed) => failed.failed(new WorkError('too-long', 'it took too long')));
      this.process.kill('SIGKILL');
    }, LOOK);
    this.process.send({ file: work.file, input: work.input } satisfies ChildWork, (error) => {
      if (error) this.ended();
    });
  }

  private get processorTime(): number {
    return processorTime(this.process.pid ?? 0);
  }

  private answered(answer: ChildAnswer): void {
    this.done++;
    this.finish((work) => {
      if ('error' in answer) work.failed(new WorkError('failed', answer.error));
      else work.done(answer.output);
    });
    this.free(this);
  }

  private ended(): void {
    this.finish((work) => work.failed(new WorkError('failed', 'it used up its memory')));
    this.gone(this);
  }

  private finish(say: (work: Waiting) => void): void {
    clearInterval(this.timer);
    const { work } = this;
    this.work = null;
    if (work) say(work);
  }
}

/**
 * Does work in processes of their own, under the system's limits on time and memory: whatever a stranger's text does to
 * one of them, it ends nothing but that. Threads would be no wall: a large string at their limit ends the whole process.
 */
export class Children {
  private readonly children = new Set<Child>();
  private readonly idle: Child[] = [];
  private readonly waiting = new FairQueue<Waiting>();
  private isClosed = false;

  constructor(private readonly limits: ChildLimits) {}

  /**
   * Runs the function that a file exports by default.
   * @param developer whose work it is: each has a share
   * @param input plain data, as JSON holds it, and so is what it gives
   * @throws WorkError
   */
  run<Output>(developer: string, file: URL, input: unknown): Promise<Output> {
    return new Promise<Output>((done, failed) => {
      const { waiting, waitingOfOne } = this.limits;
      if (this.isClosed || this.waiting.size >= waiting || this.waiting.sizeOf(developer) >= waitingOfOne)
        return failed(new WorkError('busy', 'too much waits already'));
      const work = { developer, file: file.href, input, done: (output: unknown) => done(output as Output), failed };
      this.waiting.push(developer, work);
      this.pump();
    });
  }

  private pump(): void {
    while (!this.isClosed && (this.idle.length > 0 || this.children.size < this.limits.children)) {
      const next = this.waiting.next((developer) => this.underWayOf(developer) < this.limits.atOnceOfOne);
      if (!next) return;
      (this.idle.pop() ?? this.another()).give(next);
    }
  }

  private underWayOf(developer: string): number {
    return [...this.children].filter(({ work }) => work?.developer === developer).length;
  }

  private another(): Child {
    const child = new Child(
      this.limits,
      (free) => this.freed(free),
      (gone) => this.left(gone),
    );
    this.children.add(child);
    return child;
  }

  private freed(child: Child): void {
    if (child.done >= this.limits.most) child.process.kill('SIGKILL');
    else this.idle.push(child);
    this.pump();
  }

  private left(child: Child): void {
    if (!this.children.delete(child)) return;
    const at = this.idle.indexOf(child);
    if (at >= 0) this.idle.splice(at, 1);
    this.pump();
  }

  /** Ends all of them, with what they do. */
  close(): void {
    this.isClosed = true;
    for (const { failed } of this.waiting.empty()) failed(new WorkError('busy', 'the service stops'));
    for (const child of this.children) child.process.kill('SIGKILL');
  }
}

let shared: Children | undefined;

/** The compilers of this process, started when first needed. */
export function compilers(): Children {
  shared ??= new Children({
    children: 2,
    waiting: 64,
    waitingOfOne: 32,
    atOnceOfOne: 1,
    longest: 5_000,
    longestByClock: 20_000,
    heap: 192,
    data: 700_000_000,
    most: 200,
  });
  return shared;
}
