import type pg from 'pg';
import type { Logger } from 'pino';
import { isCoreError } from '../../core/errors';
import type { PictureMaker } from '../sources';
import { collectBlobs } from '../store/blobs';
import { eraseOldMarks, findMarkPictures, findUnseenRevision, saveLook } from '../store/marks';
import { forgetPictures } from '../store/pictures';

/** Looks at a mark's newest revision: makes its thumbnail and remembers what was found. */
export async function lookAt(
  { pool, pictures: maker }: { pool: pg.Pool; pictures: PictureMaker },
  markId: string,
): Promise<void> {
  const unseen = await findUnseenRevision(pool, markId);
  if (!unseen) return;
  const pictures = await findMarkPictures(pool, markId);
  try {
    // Somebody will soon look at it on a screen, so it goes before files.
    const { findings, blobSha } = await maker.find('thumbnail', pictures, unseen.recipe, { waiting: 'person' });
    await saveLook(pool, unseen.revision, { findings, thumbnailSha: blobSha });
  } catch (error) {
    // These settings leave no picture, which the screen says by itself: nothing was found then.
    if (!isCoreError(error) || ['store/unavailable', 'work/stopped'].includes(error.code)) throw error;
    await saveLook(pool, unseen.revision, { findings: [], thumbnailSha: null });
  }
}

/** Takes away what nobody can reach any more: old removed marks, pictures of nothing, blobs of nobody. */
export async function collect(pool: pg.Pool, log: Logger): Promise<void> {
  const marks = await eraseOldMarks(pool);
  await forgetPictures(pool);
  const blobs = await collectBlobs(pool);
  if (marks + blobs > 0) log.info({ marks, blobs }, 'collected what nobody refers to');
}
