import { createHash } from 'node:crypto';
import { isCoreError } from '../../core/errors';
import type { Recipe } from '../../core/recipe/recipe';
import { sourceOf } from '../sources';
import { findBrand } from '../store/brands';
import { type LiveLine, keepLiveFile, keepLiveProblem, listLiveLines } from '../store/live';
import { findMark, findMarkPictures } from '../store/marks';
import type { Attempt, DeliveryDeps } from './makeDelivery';

/** To be raised when the same line gives another file than before. */
const LIVE_VERSION = 1;

/** Makes the files of a mark's live addresses that changed, each served as soon as it was read back. */
export async function makeLive({ pool, core }: DeliveryDeps, markId: string, attempt: Attempt): Promise<void> {
  const lines = await listLiveLines(pool, markId);
  if (lines.length === 0) return;
  const mark = await findMark(pool, markId).catch((error: unknown) => {
    if (isCoreError(error) && error.code === 'store/not-found') return null;
    throw error;
  });
  if (!mark) return;
  const brand = await findBrand(pool, mark.brandId);
  const pictures = await findMarkPictures(pool, markId);
  const names = { brand: brand.name, mark: mark.name, date: mark.updatedAt.slice(0, 10), version: mark.revision };
  for (const line of lines) {
    const source = sourceOf(pictures, 'working');
    const fileKey = fileKeyOf(source.sha, mark.recipe, line, brand.palette);
    if (fileKey === line.fileKey) {
      await keepLiveProblem(pool, line, null);
      continue;
    }
    if (fileKey === null) {
      await keepLiveProblem(pool, line, 'Its size line was taken out of the mark.');
      continue;
    }
    const task = { source, recipe: mark.recipe, palette: brand.palette, names, lineId: line.lineId };
    try {
      const made = await core.makeLine(task, pictures, { waiting: 'queue', signal: attempt.signal });
      await keepLiveFile(pool, line, { fileKey, ...made });
    } catch (error) {
      if (!isCoreError(error) || ['store/unavailable', 'work/stopped'].includes(error.code)) throw error;
      await keepLiveProblem(pool, line, error.message);
    }
  }
}

/** What a line's file is made of, as one word; null where the mark has no such line any more. */
function fileKeyOf(sourceSha: string, recipe: Recipe, { lineId }: LiveLine, palette: unknown): string | null {
  const line = recipe.files.lines.find((l) => l.id === lineId);
  const variant = line && recipe.variants.find((v) => v.id === line.variant);
  if (!line || !variant) return null;
  const parts = [LIVE_VERSION, sourceSha, recipe.stages, line, variant, palette];
  return createHash('sha256').update(JSON.stringify(parts)).digest('hex');
}
