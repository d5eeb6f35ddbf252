import { type CoreError, isCoreError } from '../../core/errors';
import { slug, uniqueNames } from '../../core/recipe/fileNames';
import { checkedFor, keyOf } from '../checkRun';
import { type OpenRun, groundTask, openRun } from '../openRun';
import { isDatabaseAway } from '../store/db';
import { type RunGroundRow, endRun, isRunWanted, listRunGrounds, takeRun } from '../store/placements';
import type { Attempt, DeliveryDeps } from './makeDelivery';

const MOST_TRIES = 3;

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
export async function makeRun(deps: DeliveryDeps, id: string, attempt: Attempt): Promise<void> {
  const { pool, core } = deps;
  const waiter = { waiting: 'queue', signal: attempt.signal } as const;
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
        const { rule, options } = run.placement;
        const place = async () => {
          const seen = await checkedFor(deps, run, ground, waiter);
          const task = { ...groundTask(run.placement, ground), seen };
          await core.placeOnGround({ marks: run.marks, rule, options, ground: task, key, stem }, waiter);
        };
        await place().catch((error: unknown) => {
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
