import { CoreError } from '../core/errors';
import { checkNeeds } from '../core/recipe/needs';

/** Who waits for a task: a person at a screen, or a job of the queue. People go first. */
export type Waiting = 'person' | 'queue';

/** What is known of a task before it starts. */
export interface TaskOrder {
  /** As a message names it, such as "Making the master of badge.png". */
  readonly what: string;
  readonly waiting: Waiting;
  /** Memory that it takes at most, bytes. */
  readonly needsBytes: number;
  /** What to do where that is too much, or it takes too long. */
  readonly advice?: string;
  /** How long it may run. */
  readonly mostMs: number;
  /** Raised when nobody waits for it any more. */
  readonly signal?: AbortSignal;
}

/** How a running task is told to end: `flag` is asked for now and then; after a while `signal` ends its thread. */
export interface Stop {
  readonly flag: Int32Array<SharedArrayBuffer>;
  readonly signal: AbortSignal;
}

export interface TaskDesk {
  /**
   * Runs work as soon as a thread and enough memory are free.
   * @throws CoreError 'memory/too-little' at once when it needs more than there ever is, 'work/stopped' when its signal
   *   is raised, 'work/too-long' when it runs over its time
   */
  run<T>(order: TaskOrder, work: (stop: Stop) => Promise<T>): Promise<T>;
  readonly counts: { readonly running: number; readonly waiting: number; readonly bytes: number };
}

export interface DeskLimits {
  readonly threads: number;
  /** Of all tasks together. */
  readonly memoryBytes: number;
  /** How long a task that is told to stop may go on before its thread is ended. */
  readonly graceMs?: number;
}

interface Entry {
  readonly order: TaskOrder;
  readonly start: () => void;
}

/**
 * Decides which task runs when: people's before the queue's, in the order in which they came, no more memory at a time
 * than is allowed. The queue never takes the last free thread.
 */
export function createTaskDesk({ threads, memoryBytes, graceMs = 1500 }: DeskLimits): TaskDesk {
  const waiting: Record<Waiting, Entry[]> = { person: [], queue: [] };
  const running = { person: 0, queue: 0 };
  let bytes = 0;

  function startNext(): void {
    for (const who of ['person', 'queue'] as const) {
      for (let entry = waiting[who][0]; entry && mayStart(entry.order); entry = waiting[who][0]) {
        waiting[who].shift();
        entry.start();
      }
      // Whoever of the queue came later must not take the memory that a person waits for.
      if (waiting[who].length > 0) return;
    }
  }

  function mayStart({ waiting: who, needsBytes }: TaskOrder): boolean {
    const busy = running.person + running.queue;
    if (busy >= threads || (who === 'queue' && running.queue >= Math.max(1, threads - 1))) return false;
    return busy === 0 || bytes + needsBytes <= memoryBytes;
  }

  function waitForTurn(order: TaskOrder): Promise<void> {
    return new Promise((resolve, reject) => {
      const leave = () => {
        waiting[order.waiting] = waiting[order.waiting].filter((e) => e !== entry);
        reject(stopped(order));
        startNext();
      };
      const entry: Entry = {
        order,
        start: () => {
          order.signal?.removeEventListener('abort', leave);
          running[order.waiting]++;
          bytes += order.needsBytes;
          resolve();
        },
      };
      order.signal?.addEventListener('abort', leave, { once: true });
      waiting[order.waiting].push(entry);
      startNext();
    });
  }

  return {
    async run(order, work) {
      checkNeeds(order.what, order.needsBytes, memoryBytes, order.advice);
      if (order.signal?.aborted) throw stopped(order);
      await waitForTurn(order);
      try {
        return await runInTime(order, work, graceMs);
      } finally {
        running[order.waiting]--;
        bytes -= order.needsBytes;
        startNext();
      }
    },
    get counts() {
      return {
        running: running.person + running.queue,
        waiting: waiting.person.length + waiting.queue.length,
        bytes,
      };
    },
  };
}

const stopped = ({ what }: TaskOrder) =>
  new CoreError('work/stopped', `${what} was stopped: nobody waits for it any more.`);

async function runInTime<T>(order: TaskOrder, work: (stop: Stop) => Promise<T>, graceMs: number): Promise<T> {
  const flag = new Int32Array(new SharedArrayBuffer(4));
  const end = new AbortController();
  let reason: CoreError | null = null;
  let grace: NodeJS.Timeout | undefined;
  const stop = (why: CoreError) => {
    reason ??= why;
    Atomics.store(flag, 0, 1);
    grace ??= setTimeout(() => end.abort(), graceMs);
  };
  const leave = () => stop(stopped(order));
  const seconds = Math.round(order.mostMs / 1000);
  const late = setTimeout(
    () =>
      stop(
        new CoreError(
          'work/too-long',
          `${order.what} took longer than ${seconds} s and was ended. ${order.advice ?? 'Choose a smaller size.'}`,
        ),
      ),
    order.mostMs,
  );
  order.signal?.addEventListener('abort', leave, { once: true });
  try {
    return await work({ flag, signal: end.signal });
  } catch (error) {
    throw reason ?? error;
  } finally {
    clearTimeout(late);
    clearTimeout(grace);
    order.signal?.removeEventListener('abort', leave);
  }
}
