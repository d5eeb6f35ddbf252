import type { TaskSource } from './coreTasks';
import { readBlob } from './store/blobs';
import type { Db } from './store/db';
import { findMarkPictures } from './store/marks';

/** What the stages of a mark start from, for a task: its working picture or drawing, or a reduction of it. */
export async function readSource(db: Db, markId: string, size: 'working' | 'reduced'): Promise<TaskSource> {
  const pictures = await findMarkPictures(db, markId);
  const sha = pictures[size];
  const { bytes } = await readBlob(db, sha);
  const reduction = size === 'working' ? 1 : pictures.width / pictures.reducedWidth;
  return { key: sha, kind: pictures.source, bytes, reduction };
}
