import type { GroundChange, PlacementCard, PlacementView, RunGroundView, RunOptions } from '../../contract/views';
import { CoreError } from '../../core/errors';
import { type Placement, readPlacement } from '../../core/placements/readPlacement';
import { type Db, isUniqueViolation, oneRow } from './db';
import { addJob } from './jobs';

interface PlacementRow {
  id: string;
  brand_id: string;
  name: string;
  rule: unknown;
  options: RunOptions;
  edition: number;
  run_state: PlacementView['run']['state'];
  run_problem: string | null;
  run_count: number;
  run_done: number;
  run_began_at: Date | null;
}

export interface RunGroundRow {
  id: string;
  placement_id: string;
  position: number;
  name: string;
  kind: 'photo' | 'clip';
  blob_sha: string;
  preview_sha: string;
  width: number;
  height: number;
  seconds: number | null;
  change: GroundChange | null;
  seen: (string | null)[] | null;
  seen_key: string | null;
  made_key: string | null;
  made_sha: string | null;
  made_name: string | null;
  made_size: string | null;
  made_crc: string | null;
}

export interface FoundPlacement {
  readonly id: string;
  readonly brandId: string;
  readonly name: string;
  readonly rule: Placement;
  readonly options: RunOptions;
  readonly edition: number;
  readonly run: PlacementView['run'];
}

const toFound = (r: PlacementRow): FoundPlacement => ({
  ...{
    id: r.id,
    brandId: r.brand_id,
    name: r.name,
    rule: readPlacement(r.rule),
    options: r.options,
    edition: r.edition,
  },
  run: {
    ...{ state: r.run_state, problem: r.run_problem, count: r.run_count, done: r.run_done },
    beganAt: r.run_began_at?.toISOString() ?? null,
  },
});

export const toGroundView = (r: RunGroundRow, key: string | null): RunGroundView => ({
  ...{ id: r.id, name: r.name, kind: r.kind, width: r.width, height: r.height, seconds: r.seconds, change: r.change },
  made: r.made_sha ? { name: r.made_name as string, size: Number(r.made_size) } : null,
  isOutdated: r.made_sha !== null && r.made_key !== key,
});

/** How results are written before anybody says otherwise. */
export const USUAL_OPTIONS: RunOptions = {
  ...{ format: 'same', quality: 92, keepsLocation: false, longEdgePx: null, pattern: '{photo}-{mark}' },
};

const taken = (error: unknown, name: string): unknown =>
  isUniqueViolation(error, 'placement_name_unique')
    ? new CoreError('store/duplicate-name', `There is a placement called "${name}" already.`)
    : error;

export async function addPlacement(
  db: Db,
  brandId: string,
  p: { name: string; rule: Placement; options: RunOptions },
): Promise<string> {
  try {
    const { rows } = await db.query<{ id: string }>(
      'insert into placement (brand_id, name, rule, options) values ($1, $2, $3, $4) returning id',
      [brandId, p.name, JSON.stringify(p.rule), JSON.stringify(p.options)],
    );
    return rows[0].id;
  } catch (error) {
    throw taken(error, p.name);
  }
}

/** The grounds of another placement, as they came. */
export const copyGrounds = (db: Db, from: string, to: string) =>
  db.query(
    `insert into run_ground (placement_id, position, name, kind, blob_sha, preview_sha, width, height, seconds)
     select $2, position, name, kind, blob_sha, preview_sha, width, height, seconds
     from run_ground where placement_id = $1`,
    [from, to],
  );

export async function findPlacement(db: Db, id: string): Promise<FoundPlacement> {
  const { rows } = await db.query<PlacementRow>('select * from placement where id = $1', [id]);
  return toFound(oneRow(rows, 'placement'));
}

export async function listPlacements(db: Db, brandId: string): Promise<PlacementCard[]> {
  const { rows } = await db.query<PlacementRow & { grounds: string }>(
    `select p.*, (select count(*) from run_ground g where g.placement_id = p.id) as grounds
     from placement p where p.brand_id = $1 order by p.updated_at desc`,
    [brandId],
  );
  return rows.map((r) => {
    const { id, name, rule, run } = toFound(r);
    return { id, name, items: rule.items, groundCount: Number(r.grounds), state: run.state };
  });
}

/** @throws CoreError 'store/conflict' where somebody else changed it in the meantime, 'store/duplicate-name' */
export async function changePlacement(
  db: Db,
  id: string,
  basedOn: number,
  change: { name?: string; rule?: Placement; options?: RunOptions },
): Promise<void> {
  try {
    const { rowCount } = await db.query(
      `update placement set name = coalesce($3, name), rule = coalesce($4, rule), options = coalesce($5, options),
         edition = edition + 1, updated_at = now() where id = $1 and edition = $2`,
      [
        ...[id, basedOn, change.name ?? null],
        ...[change.rule, change.options].map((v) => (v === undefined ? null : JSON.stringify(v))),
      ],
    );
    if (rowCount === 1) return;
  } catch (error) {
    throw taken(error, change.name ?? '');
  }
  await findPlacement(db, id);
  throw new CoreError(
    'store/conflict',
    'This placement was changed in another window. Its newest state is shown now; make the change again.',
  );
}

export async function removePlacement(db: Db, id: string): Promise<void> {
  oneRow((await db.query('delete from placement where id = $1 returning id', [id])).rows, 'placement');
}

export interface NewRunGround {
  readonly name: string;
  readonly kind: 'photo' | 'clip';
  readonly blobSha: string;
  readonly previewSha: string;
  readonly width: number;
  readonly height: number;
  readonly seconds: number | null;
}

/** More grounds than this are another run. */
export const MOST_GROUNDS = 600;

export async function addRunGround(db: Db, placementId: string, g: NewRunGround): Promise<RunGroundRow> {
  const { rows } = await db.query<RunGroundRow>(
    `insert into run_ground (placement_id, position, name, kind, blob_sha, preview_sha, width, height, seconds)
     select $1, coalesce(max(position) + 1, 0), $2, $3, $4, $5, $6, $7, $8 from run_ground where placement_id = $1
     having count(*) < $9 returning *`,
    [placementId, g.name, g.kind, g.blobSha, g.previewSha, g.width, g.height, g.seconds, MOST_GROUNDS],
  );
  if (rows.length === 0)
    throw new CoreError('request/invalid', `A run has at most ${MOST_GROUNDS} grounds. Begin another one.`);
  return rows[0];
}

export async function listRunGrounds(db: Db, placementId: string): Promise<RunGroundRow[]> {
  const { rows } = await db.query<RunGroundRow>(
    'select * from run_ground where placement_id = $1 order by position, id',
    [placementId],
  );
  return rows;
}

export async function findRunGround(db: Db, id: string): Promise<RunGroundRow> {
  return oneRow((await db.query<RunGroundRow>('select * from run_ground where id = $1', [id])).rows, 'ground');
}

export async function changeRunGround(db: Db, id: string, change: GroundChange | null): Promise<void> {
  // What was looked at is looked at anew.
  const { rows } = await db.query(
    'update run_ground set change = $2, seen = null, seen_key = null where id = $1 returning id',
    [id, change === null ? null : JSON.stringify(change)],
  );
  oneRow(rows, 'ground');
}

export async function removeRunGround(db: Db, id: string): Promise<void> {
  oneRow((await db.query('delete from run_ground where id = $1 returning id', [id])).rows, 'ground');
}

/** What a check found, and what it was made of. */
export interface Seen {
  readonly seen: readonly (string | null)[];
  readonly key: string;
  /** The placement's edition that was checked. */
  readonly edition: number;
}

/** Keeps which variants a check chose, unless the placement or this background was changed meanwhile. */
export const keepSeen = (db: Db, ground: Pick<RunGroundRow, 'id' | 'change'>, { seen, key, edition }: Seen) =>
  db.query(
    `update run_ground g set seen = $2, seen_key = $3 from placement p
     where g.id = $1 and p.id = g.placement_id and p.edition = $4 and g.change is not distinct from $5::jsonb`,
    [ground.id, JSON.stringify(seen), key, edition, ground.change === null ? null : JSON.stringify(ground.change)],
  );

export interface Made {
  readonly key: string;
  readonly sha: string;
  readonly name: string;
  readonly size: number;
  readonly crc32: number;
  readonly report: object;
}

/** A made file takes the place of the one before it, whole; and the run moves on. */
export async function keepMade(db: Db, id: string, m: Made): Promise<void> {
  await db.query(
    `with kept as (
       update run_ground set made_key = $2, made_sha = $3, made_name = $4, made_size = $5, made_crc = $6, report = $7
       where id = $1 returning placement_id)
     update placement set run_done = run_done + 1 where id = (select placement_id from kept)`,
    [id, m.key, m.sha, m.name, m.size, m.crc32, JSON.stringify(m.report)],
  );
}

/** A run and the job that makes it, in one transaction. @returns false when one is under way */
export async function beginRun(db: Db, id: string, count: number): Promise<boolean> {
  const { rowCount } = await db.query(
    `update placement set run_state = 'waiting', run_problem = null, run_count = $2, run_done = 0, run_began_at = now()
     where id = $1 and run_state not in ('waiting', 'making')`,
    [id, count],
  );
  if (rowCount !== 1) return false;
  await addJob(db, 'makeRun', id);
  return true;
}

const whileMade = "run_state in ('waiting', 'making')";

/** @returns false when it was cancelled */
export const takeRun = async (db: Db, id: string, done: number): Promise<boolean> =>
  (
    await db.query(`update placement set run_state = 'making', run_done = $2 where id = $1 and ${whileMade}`, [
      id,
      done,
    ])
  ).rowCount === 1;

export const isRunWanted = async (db: Db, id: string): Promise<boolean> =>
  (await db.query(`select 1 from placement where id = $1 and ${whileMade}`, [id])).rowCount === 1;

export const endRun = (db: Db, id: string, state: 'ready' | 'failed' | 'cancelled', problem: string | null = null) =>
  db.query(`update placement set run_state = $2, run_problem = $3 where id = $1 and ${whileMade}`, [
    id,
    state,
    problem,
  ]);

/** Ends as failed what no job works on any more, its attempts used up by processes that died in the middle of it. */
export const failAbandonedRuns = (db: Db) =>
  db.query(
    `update placement p set run_state = 'failed', run_problem = $1 where ${whileMade} and not exists (
       select 1 from graphile_worker.jobs j
       where j.key = 'makeRun ' || p.id and (j.locked_at is not null or j.attempts < j.max_attempts))`,
    ['Writing these files was begun many times and never came to an end. Try again.'],
  );
