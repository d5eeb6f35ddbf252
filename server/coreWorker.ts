// Entry of the server's worker threads: core work off the event loop. Piscina calls the exports by name.
import pg from 'pg';
import { workerData } from 'piscina';
import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import sharp from 'sharp';
import { isCoreError } from '../core/errors';
import { releaseMemory } from '../core/kernels/heap';
import * as bundles from './bundleTasks';
import * as tasks from './coreTasks';
import * as placing from './placeTasks';
import * as printing from './printTasks';
import * as walls from './wallTasks';
import { asKnown } from './store/db';

export type Answer<T> =
  { ok: true; value: T } | { ok: false; error: { code: string; message: string; details: Record<string, unknown> } };

/** What travels to a thread beside the task itself. */
export interface Envelope<A> {
  readonly task: A;
  /** Not 0 once the task is to stop. */
  readonly flag: Int32Array<SharedArrayBuffer>;
  readonly needsBytes: number;
}

const { database } = workerData as { database: pg.ClientConfig };
const db = new pg.Pool({ ...database, max: 1, connectionTimeoutMillis: 5000, idleTimeoutMillis: 10_000 });
db.on('error', () => {}); // the next query says so itself
db.on('connect', (client) => client.on('error', () => {}));

// One picture after another is decoded, none of them twice: nothing is worth keeping.
sharp.cache(false);
sharp.concurrency(1);

// Memory outside of the engine's own is given back when its owner is collected, which may be long after a large task.
setFlagsFromString('--expose-gc');
const collectGarbage = runInNewContext('gc') as () => void;
/** A thread without work for so long keeps nothing of the last. */
const IDLE_MS = 20_000;
let idle: NodeJS.Timeout | undefined;

function letGo(): void {
  tasks.forgetAll();
  placing.forgetDrawn();
  releaseMemory();
  collectGarbage();
}

/** Tasks that took more leave nothing behind. */
const LARGE_BYTES = 200 * 1024 * 1024;

// A class does not survive the way between threads, so an error travels as plain values.
const answering =
  <A, T>(run: (host: tasks.TaskHost, task: A) => Promise<T>) =>
  async ({ task, flag, needsBytes }: Envelope<A>): Promise<Answer<T>> => {
    clearTimeout(idle);
    try {
      const host = { db, shouldStop: () => Atomics.load(flag, 0) !== 0, needsBytes };
      return { ok: true, value: await run(host, task) };
    } catch (thrown) {
      const error = asKnown(thrown);
      if (isCoreError(error))
        return { ok: false, error: { code: error.code, message: error.message, details: error.details } };
      tasks.forgetAll();
      throw error;
    } finally {
      if (needsBytes > LARGE_BYTES) letGo();
      else idle = setTimeout(letGo, IDLE_MS).unref();
    }
  };

export const prepareFile = answering(tasks.prepareFile);
export const prepareMade = answering(tasks.prepareMade);
export const prepareGround = answering(tasks.prepareGround);
export const openPdf = answering(tasks.openPdf);
export const describePage = answering(tasks.describePage);
export const drawPage = answering(tasks.drawPage);
export const preparePicked = answering(tasks.preparePicked);
export const makeBoard = answering(tasks.makeBoard);
export const findMeantGround = answering(tasks.findMeantGround);
export const makeFiles = answering(tasks.makeFiles);
export const makeLine = answering(tasks.makeLine);
export const makePicture = answering(tasks.makePicture);
export const prepareRunGround = answering(placing.prepareRunGround);
export const lookAtGrounds = answering(placing.lookAtGrounds);
export const placeOnGround = answering(placing.placeOnGround);
export const drawLaid = answering(placing.drawLaid);
export const drawProof = answering(placing.drawProof);
export const makeSheet = answering(printing.makeSheet);
export const findPageLines = answering(printing.findPageLines);
export const signDocument = answering(printing.signDocument);
export const makeOverlay = answering(placing.makeOverlay);
export const makeSurface = answering(printing.makeSurface);
export const lookAtSlot = answering(walls.lookAtSlot);
export const makeWall = answering(walls.makeWall);
export const masterSvg = answering(tasks.masterSvg);
export const readBundle = answering(bundles.readBundle);
