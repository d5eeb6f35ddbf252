// Entry of the server's worker threads: core work off the event loop. Piscina calls the export by name.
import { CoreError } from '../core/errors';
import * as tasks from './coreTasks';

export type Answer<T> =
  { ok: true; value: T } | { ok: false; error: { code: string; message: string; details: Record<string, unknown> } };

// A class does not survive the way between threads, so an error travels as plain values.
const answering =
  <A, T>(task: (input: A) => Promise<T>) =>
  async (input: A): Promise<Answer<T>> => {
    try {
      return { ok: true, value: await task(input) };
    } catch (error) {
      if (error instanceof CoreError)
        return { ok: false, error: { code: error.code, message: error.message, details: error.details } };
      throw error;
    }
  };

export const makeFile = answering(tasks.makeFile);
export const makeMaster = answering(tasks.makeMaster);
export const makeThumbnail = answering(tasks.makeThumbnail);
export const judgePicture = answering(tasks.judgePicture);
