import { CoreError, type ErrorCode, isCoreError } from '../core/errors';
import type { Answers, Envelope, Reply, Request, Step } from './protocol';

/** A worker as a function from request to answer. */
export interface CoreClient {
  /** Asks and waits. @throws CoreError as the worker's own */
  ask<T extends Request['type']>(request: Extract<Request, { type: T }>): Promise<Answers[T]>;
  /**
   * Asks for the newest state of something: while one such request is under way only the last of those that follow
   * is kept; the ones between are answered with null. Answers come in the order of their requests.
   */
  askLatest<T extends Request['type']>(
    request: Extract<Request, { type: T }>,
    options?: LatestOptions,
  ): Promise<Answers[T] | null>;
  close(): void;
}

export interface LatestOptions {
  /**
   * A newer request stops the one under way, which is answered with null: for work that takes long and shows nothing on
   * the way.
   */
  readonly stopsEarlier?: boolean;
  /** Told how far long work is. */
  readonly onStep?: (step: Step) => void;
}

interface Call {
  readonly resolve: (value: never) => void;
  readonly reject: (error: unknown) => void;
  readonly onStep?: (step: Step) => void;
}

export interface WorkerLike {
  onmessage: ((event: MessageEvent<Reply>) => void) | null;
  onerror: ((event: ErrorEvent) => void) | null;
  postMessage(message: Envelope): void;
  terminate(): void;
}

/** @param worker  a fresh worker running `entry.ts` */
export function createCoreClient(worker: WorkerLike): CoreClient {
  const waiting = new Map<number, Call>();
  let lastId = 0;
  worker.onmessage = ({ data: reply }) => {
    const call = waiting.get(reply.id);
    if ('step' in reply) return call?.onStep?.(reply.step);
    waiting.delete(reply.id);
    if (!call) return;
    if (reply.ok) call.resolve(reply.value as never);
    else call.reject(new CoreError(reply.error.code as ErrorCode, reply.error.message, reply.error.details));
  };
  worker.onerror = (event) => {
    for (const call of waiting.values())
      call.reject(new CoreError('server/internal', `The preview stopped: ${event.message}. Reload the page.`));
    waiting.clear();
  };
  const post = (request: Request, stop?: SharedArrayBuffer, onStep?: Call['onStep']): Promise<never> =>
    new Promise((resolve, reject) => {
      const id = ++lastId;
      waiting.set(id, { resolve, reject, onStep });
      worker.postMessage(stop ? { id, request, stop } : { id, request });
    });
  const ask: CoreClient['ask'] = (request) => post(request);

  interface Pending {
    request: Request;
    stopsEarlier: boolean;
    onStep?: Call['onStep'];
    resolve: (value: null | never) => void;
    reject: (error: unknown) => void;
  }
  const lanes = new Map<string, { isBusy: boolean; next: Pending | null; stop?: SharedArrayBuffer }>();
  const startLane = (type: string, pending: Pending): void => {
    const lane = lanes.get(type) ?? { isBusy: false, next: null };
    lanes.set(type, lane);
    if (lane.isBusy) {
      lane.next?.resolve(null);
      lane.next = pending;
      if (pending.stopsEarlier && lane.stop) Atomics.store(new Int32Array(lane.stop), 0, 1);
      return;
    }
    lane.isBusy = true;
    lane.stop = pending.stopsEarlier ? stopFlag() : undefined;
    post(pending.request, lane.stop, pending.onStep)
      .then(
        (value) => pending.resolve(value as never),
        (error: unknown) => (lane.next || isStopped(error) ? pending.resolve(null) : pending.reject(error)),
      )
      .finally(() => {
        lane.isBusy = false;
        const { next } = lane;
        lane.next = null;
        if (next) startLane(type, next);
      });
  };
  return {
    ask,
    askLatest: (request, options = {}) =>
      new Promise((resolve, reject) =>
        startLane(request.type, {
          request,
          stopsEarlier: options.stopsEarlier ?? false,
          onStep: options.onStep,
          resolve: resolve as Pending['resolve'],
          reject,
        }),
      ),
    close: () => {
      worker.terminate();
      waiting.clear();
    },
  };
}

// Pages that are not isolated may not share memory; there work simply runs to its end.
const stopFlag = (): SharedArrayBuffer | undefined =>
  typeof SharedArrayBuffer === 'undefined' ? undefined : new SharedArrayBuffer(4);
const isStopped = (error: unknown) => isCoreError(error) && error.code === 'work/stopped';
