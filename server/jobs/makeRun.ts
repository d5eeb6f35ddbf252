import { createHash } from 'node:crypto';
import type pg from 'pg';
import { type CoreError, isCoreError } from '../../core/errors';
import { itemsWith } from '../../core/placements/itemOn';
import { isStrip, readPlacement } from '../../core/placements/readPlacement';
import { slug, uniqueNames } from '../../core/recipe/fileNames';
import type { GroundTask, PlacedMark } from '../placeTasks';
import { sourceOf } from '../sources';
import { findBrand } from '../store/brands';
import { isDatabaseAway } from '../store/db';
import { findMark, findMarkPictures } from '../store/marks';
import {
  type FoundPlacement,
  type RunGroundRow,
  endRun,
  findPlacement,
  isRunWanted,
  listRunGrounds,
  takeRun,
} from '../store/placements';
import type { Attempt, DeliveryDeps } from './makeDelivery';

const MOST_TRIES = 3;

/** A placement with its marks as they are now. */
export interface OpenRun {
  readonly placement: FoundPlacement;
  readonly marks: readonly (PlacedMark & { readonly name: string; readonly revision: number })[];
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

export async function openMark(pool: pg.Pool, markId: string, size: 'working' | 'reduced') {
  const mark = await findMark(pool, markId);
  const { palette } = await findBrand(pool, mark.brandId);
  const source = sourceOf(await findMarkPictures(pool, markId), size);
  return { id: markId, name: mark.name, revision: mark.revision, recipe: mark.recipe, source, palette };
}

/** A ground with its items, whatever differs on it alone read with the rest. */
export function groundTask({ rule }: FoundPlacement, ground: RunGroundRow): GroundTask {
  const { id, name, kind, width, height } = ground;
  const { items } = readPlacement({ ...rule, items: itemsWith(rule.items, ground.change) });
  return { id, name, kind, width, height, items, sha: ground.blob_sha, previewSha: ground.preview_sha };
}

/** What a ground's file is made of, as one word: as long as it stays, so does the file. */
export function keyOf({ placement, marks }: OpenRun, ground: RunGroundRow): string {
  const { items } = groundTask(placement, ground);
  const { frame, fit } = placement.rule;
  const used = marks.map(({ source, recipe, palette }) => [source.sha, recipe.stages, recipe.variants, palette]);
  const parts = [ground.blob_sha, items, frame, fit, placement.options, used, ground.seen];
  return createHash('sha256').update(JSON.stringify(parts)).digest('hex');
}

/** The names of a run's files without their endings, no two alike. */
export function stemsOf({ placement, marks }: OpenRun, grounds: readonly RunGroundRow[]): string[] {
  const mark = slug(marks[0]?.name ?? '') || 'mark';
  const stems = grounds.map((g) => {
    const photo = g.name.replace(/\.[^.]+$/, '').replace(/[\\/:*?"<>|\p{Cc}]/gu, '-');
    const filled = placement.options.pattern
      .replaceAll('{photo}', photo)
      .replaceAll('{mark}', mark)
      .replaceAll('{placement}', slug(placement.name));
    return filled.trim() || photo;
  });
  return uniqueNames(stems.map((s) => `${s}.x`)).map((s) => s.slice(0, -2));
}

/**
 * Makes what changed of a run, each file kept as soon as it is made, so that one that was interrupted goes on where it
 * was.
 */
export async function makeRun({ pool, core }: DeliveryDeps, id: string, attempt: Attempt): Promise<void> {
  try {
    const run = await openRun(pool, id, 'working');
    const grounds = await listRunGrounds(pool, id);
    const stems = stemsOf(run, grounds);
    const left = grounds
      .map((ground, k) => ({ ground, key: keyOf(run, ground), stem: stems[k] }))
      .filter(({ ground, key }) => ground.made_key !== key);
    if (!(await takeRun(pool, id, Math.max(0, run.placement.run.count - left.length)))) return;
    const problems: string[] = [];
    const turn = async () => {
      for (let next = left.shift(); next; next = left.shift()) {
        if (!(await isRunWanted(pool, id))) return;
        const { ground, key, stem } = next;
        const task = { ...groundTask(run.placement, ground), seen: ground.seen };
        const { rule, options } = run.placement;
        await core
          .placeOnGround(
            { marks: run.marks, rule, options, ground: task, key, stem },
            { waiting: 'queue', signal: attempt.signal },
          )
          .catch((error: unknown) => {
            if (!isOver(error)) throw error;
            problems.push((error as CoreError).message);
          });
      }
    };
    const turns = await Promise.allSettled(Array.from({ length: core.threads }, turn));
    const failed = turns.find((t) => t.status === 'rejected');
    if (failed) throw failed.reason;
    if (problems.length === 0) await endRun(pool, id, 'ready');
    else await endRun(pool, id, 'failed', problems.slice(0, 3).join(' '));
  } catch (error) {
    if (!isOver(error) && (isDatabaseAway(error) || isCoreError(error) || attempt.number < MOST_TRIES)) throw error;
    const said = isCoreError(error) ? error.message : 'Something went wrong inside Tassel. Try again.';
    await endRun(pool, id, 'failed', said);
  }
}

const isOver = (error: unknown) => isCoreError(error) && !['store/unavailable', 'work/stopped'].includes(error.code);
