import type pg from 'pg';
import { isCoreError } from '../core/errors';
import { itemsWith } from '../core/placements/itemOn';
import { isStrip, readPlacement } from '../core/placements/readPlacement';
import type { GroundTask, PlacedMark } from './placeTasks';
import { sourceOf } from './sources';
import { findBrand } from './store/brands';
import { findMark, findMarkPictures } from './store/marks';
import { type FoundPlacement, type RunGroundRow, findPlacement } from './store/placements';

/** A mark as it is now. */
export interface OpenMark extends PlacedMark {
  readonly name: string;
  readonly brandId: string;
  readonly revision: number;
  /** What its stages start from, whatever size is opened. */
  readonly workingSha: string;
}

/** A placement with its marks as they are now. */
export interface OpenRun {
  readonly placement: FoundPlacement;
  readonly marks: readonly OpenMark[];
}

/** @param size  of the marks: the working picture for files, the reduced one for looking */
export async function openRun(pool: pg.Pool, id: string, size: 'working' | 'reduced'): Promise<OpenRun> {
  const placement = await findPlacement(pool, id);
  const ids = new Set(placement.rule.items.flatMap((item) => (isStrip(item) ? [] : item.mark)));
  const marks = [];
  for (const markId of ids) {
    // A placement outlives a mark of it: whoever lays the mark says that it is gone.
    const mark = await openMark(pool, markId, size).catch((error: unknown) => {
      if (isCoreError(error) && error.code === 'store/not-found') return null;
      throw error;
    });
    if (mark) marks.push(mark);
  }
  return { placement, marks };
}

export async function openMark(pool: pg.Pool, markId: string, size: 'working' | 'reduced'): Promise<OpenMark> {
  const mark = await findMark(pool, markId);
  const { palette } = await findBrand(pool, mark.brandId);
  const pictures = await findMarkPictures(pool, markId);
  const { name, brandId, revision, recipe } = mark;
  const source = sourceOf(pictures, size);
  return { id: markId, name, brandId, revision, recipe, source, palette, workingSha: pictures.working };
}

/** A ground with its items, whatever differs on it alone read with the rest. */
export function groundTask({ rule }: FoundPlacement, ground: RunGroundRow): GroundTask {
  const { id, name, kind, width, height } = ground;
  const { items } = readPlacement({ ...rule, items: itemsWith(rule.items, ground.change) });
  return { id, name, kind, width, height, items, sha: ground.blob_sha, previewSha: ground.preview_sha };
}
