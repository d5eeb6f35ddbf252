import type { Db } from './db';

export type JobName = 'makeDelivery' | 'makeRun' | 'makeLive' | 'lookAt' | 'collect';

/** A process that dies in the middle of a job uses up one of these. */
const MOST_ATTEMPTS = 25;
/** The lower, the sooner: what a screen waits for goes before files. */
const PRIORITY: Record<JobName, number> = { lookAt: -10, makeDelivery: 0, makeRun: 0, makeLive: 0, collect: 10 };

/**
 * Puts a job into the queue, in the caller's transaction. The same job twice is one job, which then begins anew.
 * @param id  what the job is about
 */
export async function addJob(db: Db, name: JobName, id: string, afterMs = 0): Promise<void> {
  await db.query(
    `select graphile_worker.add_job($1, json_build_object('id', $2::text), job_key => $1 || ' ' || $2,
       max_attempts => $3, run_at => now() + make_interval(secs => $4), priority => $5)`,
    [name, id, MOST_ATTEMPTS, afterMs / 1000, PRIORITY[name]],
  );
}
