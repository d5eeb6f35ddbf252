import { Hono } from 'hono';
import { paths } from '../../contract/paths';
import type { AppDeps } from '../deps';

/** For whoever watches over the server. */
export const healthRoutes = ({ pool, core, jobs }: AppDeps) =>
  new Hono()
    .get(paths.alive, (c) => c.json({ isAlive: true }))
    .get(paths.ready, async (c) => {
      const [database, queue] = await Promise.all([
        pool.query('select 1').then(
          () => true,
          () => false,
        ),
        pool
          .query<{ waiting: string }>(
            'select count(*) as waiting from graphile_worker.jobs where locked_at is null and run_at <= now()',
          )
          .then(
            ({ rows }) => Number(rows[0].waiting),
            () => null,
          ),
      ]);
      const { running, waiting, bytes } = core.counts;
      const isReady = database && (jobs === null || jobs.isRunning);
      const state = {
        isReady,
        database,
        queue: { isRunning: jobs?.isRunning ?? null, waiting: queue },
        threads: { running, waiting, memoryMb: Math.round(bytes / 1048576) },
      };
      return c.json(state, isReady ? 200 : 503);
    });
