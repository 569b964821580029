import { absent, swallowed } from '@domatium/storage';
import { fork, type ChildProcess } from 'node:child_process';
import { readFile } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import PQueue from 'p-queue';
import { entryOf } from '../../entries.js';
import { Refused } from '../errors.js';
import type { Asks, Gives, TaskName } from './tasks.js';
import { say } from '@domatium/core/words/answers/readers';

/** What a task may take: milliseconds, and bytes of memory of its process. */
export interface Limits {
  readonly patience: number;
  readonly memory: number;
}

const MEGABYTE = 1024 * 1024;
const LIMITS: Readonly<Record<TaskName, Limits>> = {
  kind: { patience: 10_000, memory: 400 * MEGABYTE },
  measure: { patience: 10_000, memory: 500 * MEGABYTE },
  drawing: { patience: 20_000, memory: 700 * MEGABYTE },
  font: { patience: 10_000, memory: 400 * MEGABYTE },
  sizes: { patience: 300_000, memory: 1_300 * MEGABYTE },
};
const LOOK = 50;
const HEAP_MEGABYTES = 512;
/** As many wait at most; who comes later is asked to come again. */
const MOST_WAITING = 30;
/** A process that had nothing to do for so long is let go. */
const IDLE = 60_000;

/** A task took more time or memory than it may; its process is gone. */
export class TooMuchError extends Error {}

/** A task failed in its process; `code` is the system's, where it was the disk. */
export class TaskError extends Error {
  constructor(
    message: string,
    readonly code: string | null,
  ) {
    super(message);
  }
}

type Answer =
  { readonly share: number } | { readonly gives: unknown } | { readonly error: string; readonly code: string | null };

/**
 * Has what people send read by a process that holds nothing else: nothing that they can send takes the time or the
 * memory of anybody else. A process beyond its limits is killed, and the next task gets a fresh one.
 */
export class Reader {
  private readonly queue = new PQueue({ concurrency: 1 });
  private child: ChildProcess | null = null;
  private idle: NodeJS.Timeout | null = null;
  private isClosed = false;

  /** Longest stay of a task in the queue is bounded by the patience of those before it. */
  async run<Name extends TaskName>(
    name: Name,
    asks: Asks<Name>,
    onShare: (share: number) => Promise<void> = () => Promise.resolve(),
  ): Promise<Gives<Name>> {
    if (this.queue.size >= MOST_WAITING)
      throw new Refused('readers-busy', say.tryAgainInAMinuteNothing, {
        retryAfter: 60,
      });
    return (await this.queue.add(() => this.ask(name, asks, onShare))) as Gives<Name>;
  }

  private async ask(name: TaskName, asks: object, onShare: (share: number) => Promise<void>): Promise<unknown> {
    if (this.idle) clearTimeout(this.idle);
    const { patience, memory } = LIMITS[name];
    // What the task before took may not be given back yet, and is no fault of this one.
    if (this.child && (await memoryOf(this.child.pid)) > memory / 2) this.end();
    const child = (this.child ??= this.begin());
    try {
      return await new Promise((done, fail) => {
        const tooMuch = (what: string) => fail(new TooMuchError(say.takesTooMuch(name, what)));
        const timer = setTimeout(() => tooMuch('time'), patience);
        const look = setInterval(() => {
          void memoryOf(child.pid).then((bytes) => bytes > memory && tooMuch('memory'));
        }, LOOK);
        const settle = () => {
          clearTimeout(timer);
          clearInterval(look);
          child.off('message', heard).off('exit', ended);
        };
        const heard = (answer: Answer) => {
          if ('share' in answer) return void onShare(answer.share).catch(swallowed('telling a share'));
          settle();
          if ('gives' in answer) done(answer.gives);
          else fail(new TaskError(answer.error, answer.code));
        };
        const ended = () => {
          settle();
          // Its heap has a bound of its own, beyond which it ends by itself.
          // Whoever is stopped in the midst of a task has learned nothing of what it reads.
          fail(this.isClosed ? new TaskError('stopped', 'STOPPED') : new TooMuchError(say.endedItsProcess(name)));
        };
        child.on('message', heard).on('exit', ended);
        child.send({ name, asks });
      });
    } catch (error) {
      if (!(error instanceof TaskError)) this.end();
      throw error;
    } finally {
      this.idle = setTimeout(() => this.end(), IDLE).unref();
    }
  }

  private begin(): ChildProcess {
    const { path, execArgv } = entryOf('reader');
    const child = fork(path, [], {
      execArgv: [`--max-old-space-size=${HEAP_MEGABYTES}`, ...execArgv, '--disable-warning=ExperimentalWarning'],
      // It knows nothing of the database, nor of anything else it is not told.
      env: { PATH: process.env['PATH'], HOME: process.env['HOME'], UV_THREADPOOL_SIZE: String(availableParallelism()) },
      stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
    });
    child.on('error', swallowed('a reader'));
    child.once('exit', () => {
      if (this.child === child) this.child = null;
    });
    // A task under way keeps this process; one that waits for tasks does not.
    child.unref();
    child.channel?.unref();
    return child;
  }

  private end(): void {
    this.child?.kill('SIGKILL');
    this.child = null;
  }

  close(): void {
    this.isClosed = true;
    if (this.idle) clearTimeout(this.idle);
    this.end();
  }
}

/** Memory of a process as the system counts it; 0 where it can't be told. */
async function memoryOf(pid: number | undefined): Promise<number> {
  if (!pid) return 0;
  const status = await readFile(`/proc/${pid}/status`, 'utf8').catch(absent('memory of a reader', ''));
  return Number(/^VmRSS:\s+(\d+) kB/m.exec(status)?.[1] ?? 0) * 1024;
}
