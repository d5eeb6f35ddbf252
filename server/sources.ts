import type { Recipe } from '../core/recipe/recipe';
import type pg from 'pg';
import type { CorePool, Waiter } from './corePool';
import type { TaskSource } from './coreTasks';
import type { MarkPictures } from './store/marks';
import { type KeptPicture, type PictureKind, findPicture, pictureKey } from './store/pictures';

/** What the stages of a mark start from, for a task. */
export function sourceOf(pictures: MarkPictures, size: 'working' | 'reduced'): TaskSource {
  const reduction = size === 'working' ? 1 : pictures.width / pictures.reducedWidth;
  return { sha: pictures[size], kind: pictures.source, reduction };
}

/** A picture that is being made, and how many wait for it. */
interface Making {
  readonly made: Promise<KeptPicture>;
  readonly end: AbortController;
  waiters: number;
}

export interface PictureMaker {
  /**
   * A mark's master or thumbnail: kept from before, or made now. Whoever asks for one that is being made waits for the
   * same; once nobody does any more, the work is stopped.
   */
  find(kind: PictureKind, pictures: MarkPictures, recipe: Recipe, waiter: Waiter): Promise<KeptPicture>;
}

export function createPictureMaker({ pool, core }: { pool: pg.Pool; core: CorePool }): PictureMaker {
  const making = new Map<string, Making>();

  function begin(key: string, kind: PictureKind, pictures: MarkPictures, recipe: Recipe, { waiting }: Waiter): Making {
    const end = new AbortController();
    const source = sourceOf(pictures, kind === 'master' ? 'working' : 'reduced');
    const made = core.makePicture({ key, kind, source, recipe }, pictures, { waiting, signal: end.signal });
    const entry: Making = { made, end, waiters: 0 };
    making.set(key, entry);
    const forget = () => {
      if (making.get(key) === entry) making.delete(key);
    };
    made.then(forget, forget);
    return entry;
  }

  return {
    async find(kind, pictures, recipe, waiter) {
      const key = pictureKey(kind, sourceOf(pictures, kind === 'master' ? 'working' : 'reduced').sha, recipe.stages);
      const kept = await findPicture(pool, key);
      if (kept) return kept;
      const entry = making.get(key) ?? begin(key, kind, pictures, recipe, waiter);
      entry.waiters++;
      const leave = () => {
        if (--entry.waiters > 0) return;
        making.delete(key);
        entry.end.abort();
      };
      if (waiter.signal?.aborted) leave();
      else waiter.signal?.addEventListener('abort', leave, { once: true });
      try {
        return await entry.made;
      } finally {
        waiter.signal?.removeEventListener('abort', leave);
      }
    },
  };
}
