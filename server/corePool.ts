import { availableParallelism } from 'node:os';
import { Piscina } from 'piscina';
import { CoreError, type ErrorCode } from '../core/errors';
import type { FileTask, JudgeTask, MadeFile, MasterTask, PictureJudgement, ThumbnailResult } from './coreTasks';
import type { Answer } from './coreWorker';

export interface CorePool {
  makeFile(task: FileTask, signal?: AbortSignal): Promise<MadeFile>;
  makeMaster(task: MasterTask): Promise<Uint8Array>;
  makeThumbnail(task: MasterTask & { longestPx: number }): Promise<ThumbnailResult>;
  judgePicture(task: JudgeTask): Promise<PictureJudgement>;
  close(): Promise<void>;
}

/** Threads that run core; as many as there are processors. @param entry  the built worker file */
export function createCorePool(entry: string): CorePool {
  const pool = new Piscina({
    filename: entry,
    maxThreads: availableParallelism(),
    minThreads: 1,
    idleTimeout: 60_000,
    concurrentTasksPerWorker: 1,
  });
  const call = async <T>(name: string, input: unknown, signal?: AbortSignal): Promise<T> => {
    const answer = (await pool.run(input, { name, signal })) as Answer<T>;
    if (answer.ok) return answer.value;
    throw new CoreError(answer.error.code as ErrorCode, answer.error.message, answer.error.details);
  };
  return {
    makeFile: (task, signal) => call('makeFile', task, signal),
    makeMaster: (task) => call('makeMaster', task),
    makeThumbnail: (task) => call('makeThumbnail', task),
    judgePicture: (task) => call('judgePicture', task),
    close: () => pool.destroy(),
  };
}
