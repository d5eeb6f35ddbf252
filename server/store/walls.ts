import type { SlotLook, WallCard } from '../../contract/walls';
import { paths } from '../../contract/paths';
import { CoreError } from '../../core/errors';
import type { WallProblem } from '../../core/wall/auditLogo';
import type { MarkLook } from '../../core/wall/copies';
import { type WallRule, readWallRule } from '../../core/wall/wallRule';
import { type Db, isUniqueViolation, oneRow } from './db';

interface WallRow {
  id: string;
  brand_id: string;
  name: string;
  rule: unknown;
  edition: number;
}

/** What was found of a slot, as it is kept. */
export interface KeptLook extends Omit<SlotLook, 'picture'> {
  readonly problems: readonly WallProblem[];
  /** What copies are known by. */
  readonly alike: MarkLook;
}

export interface SlotRow {
  id: string;
  wall_id: string;
  position: number;
  mark_id: string;
  file: string;
  original_sha: string;
  shows: 'file' | 'mark' | null;
  variant: string | null;
  squeeze: number;
  look: KeptLook | null;
  look_key: string | null;
  picture_sha: string | null;
}

export interface FoundWall {
  readonly id: string;
  readonly brandId: string;
  readonly name: string;
  readonly rule: WallRule;
  readonly edition: number;
}

const toFound = (r: WallRow): FoundWall => ({
  ...{ id: r.id, brandId: r.brand_id, name: r.name, rule: readWallRule(r.rule), edition: r.edition },
});

const taken = (error: unknown, name: string): unknown =>
  isUniqueViolation(error, 'wall_name_unique')
    ? new CoreError('store/duplicate-name', `There is a wall called "${name}" already.`)
    : error;

export async function addWall(db: Db, brandId: string, name: string, rule: WallRule): Promise<string> {
  try {
    const { rows } = await db.query<{ id: string }>(
      'insert into wall (brand_id, name, rule) values ($1, $2, $3) returning id',
      [brandId, name, JSON.stringify(rule)],
    );
    return rows[0].id;
  } catch (error) {
    throw taken(error, name);
  }
}

export async function findWall(db: Db, id: string): Promise<FoundWall> {
  return toFound(oneRow((await db.query<WallRow>('select * from wall where id = $1', [id])).rows, 'wall'));
}

/** So many pictures stand for a wall in a list. */
const SHOWN = 6;

export async function listWalls(db: Db, brandId: string): Promise<WallCard[]> {
  const { rows } = await db.query<WallRow & { slots: string; shown: { id: string; sha: string }[] | null }>(
    `select w.*, (select count(*) from wall_slot s where s.wall_id = w.id) as slots,
       (select json_agg(json_build_object('id', t.id, 'sha', t.picture_sha) order by t.position) from
         (select s.id, s.picture_sha, s.position from wall_slot s where s.wall_id = w.id
            and s.picture_sha is not null order by s.position limit ${SHOWN}) t) as shown
     from wall w where w.brand_id = $1 order by w.updated_at desc`,
    [brandId],
  );
  return rows.map((r) => ({
    ...{ id: r.id, name: r.name, rule: readWallRule(r.rule), slotCount: Number(r.slots) },
    pictures: (r.shown ?? []).map(({ id, sha }) => paths.wallSlotPicture(id, sha)),
  }));
}

/** @throws CoreError 'store/conflict' where somebody else changed it in the meantime, 'store/duplicate-name' */
export async function changeWall(
  db: Db,
  id: string,
  basedOn: number,
  change: { name?: string; rule?: WallRule },
): Promise<void> {
  try {
    const { rowCount } = await db.query(
      `update wall set name = coalesce($3, name), rule = coalesce($4, rule), edition = edition + 1, updated_at = now()
       where id = $1 and edition = $2`,
      [id, basedOn, change.name ?? null, change.rule ? JSON.stringify(change.rule) : null],
    );
    if (rowCount === 1) return;
  } catch (error) {
    throw taken(error, change.name ?? '');
  }
  await findWall(db, id);
  throw new CoreError(
    'store/conflict',
    'This wall was changed in another window. Its newest state is shown now; make the change again.',
  );
}

export async function removeWall(db: Db, id: string): Promise<void> {
  oneRow((await db.query('delete from wall where id = $1 returning id', [id])).rows, 'wall');
}

export interface NewSlot {
  readonly markId: string;
  readonly file: string;
  readonly originalSha: string;
  /** Null for whoever looks first to say. */
  readonly shows: 'mark' | null;
  /** Its place among all; after all others where nothing is said. */
  readonly at?: number;
}

/** More marks than this are another wall. */
export const MOST_SLOTS = 300;

export async function addSlot(db: Db, wallId: string, s: NewSlot): Promise<void> {
  const { rowCount } = await db.query(
    `insert into wall_slot (wall_id, position, mark_id, file, original_sha, shows)
     select $1, coalesce($7, max(position) + 1, 0), $2, $3, $4, $5 from wall_slot where wall_id = $1
     having count(*) < $6`,
    [wallId, s.markId, s.file, s.originalSha, s.shows, MOST_SLOTS, s.at ?? null],
  );
  if (rowCount !== 1)
    throw new CoreError('request/invalid', `A wall has at most ${MOST_SLOTS} slots. Begin another one.`);
}

export async function listSlots(db: Db, wallId: string): Promise<SlotRow[]> {
  const { rows } = await db.query<SlotRow>(
    `select s.*, s.squeeze::float8 as squeeze from wall_slot s where s.wall_id = $1 order by s.position, s.id`,
    [wallId],
  );
  return rows;
}

export async function findSlot(db: Db, id: string): Promise<SlotRow> {
  return oneRow((await db.query<SlotRow>('select * from wall_slot where id = $1', [id])).rows, 'slot');
}

export type SlotChange = Partial<Pick<SlotRow, 'shows' | 'variant' | 'squeeze' | 'original_sha'>>;

/** Changes what a slot shows; `variant` null is its own colours, left out it stays. */
export async function changeSlot(db: Db, id: string, change: SlotChange): Promise<void> {
  const { rows } = await db.query(
    `update wall_slot set shows = coalesce($2, shows), variant = case when $3 then $4 else variant end,
       squeeze = coalesce($5, squeeze), original_sha = coalesce($6, original_sha) where id = $1 returning id`,
    [
      ...[id, change.shows ?? null, change.variant !== undefined, change.variant ?? null],
      ...[change.squeeze ?? null, change.original_sha ?? null],
    ],
  );
  oneRow(rows, 'slot');
}

/** Moves a slot to another place among those of its wall. In a transaction. */
export async function moveSlot(db: Db, { id, wall_id: wallId }: SlotRow, to: number): Promise<void> {
  const { rows } = await db.query<{ id: string }>(
    'select id from wall_slot where wall_id = $1 order by position, id for update',
    [wallId],
  );
  const order = rows.map((r) => r.id).filter((own) => own !== id);
  order.splice(Math.min(to, order.length), 0, id);
  await db.query(
    `update wall_slot s set position = t.n - 1 from unnest($2::uuid[]) with ordinality as t (id, n)
     where s.wall_id = $1 and s.id = t.id`,
    [wallId, order],
  );
}

/** Takes a slot away; those behind it move up. */
export async function removeSlot(db: Db, id: string): Promise<void> {
  await findSlot(db, id);
  await db.query(
    `with gone as (delete from wall_slot where id = $1 returning wall_id, position)
     update wall_slot s set position = s.position - 1 from gone g
     where s.wall_id = g.wall_id and s.position > g.position and s.id <> $1`,
    [id],
  );
}

/** What was found of a slot, unless it was changed while somebody looked. */
export const keepSlotLook = (
  db: Db,
  id: string,
  asked: SlotRow['shows'],
  found: { look: KeptLook; key: string; pictureSha: string; shows: 'file' | 'mark' },
) =>
  db.query(
    `update wall_slot set look = $2, look_key = $3, picture_sha = $4, shows = $5
     where id = $1 and shows is not distinct from $6`,
    [id, JSON.stringify(found.look), found.key, found.pictureSha, found.shows, asked],
  );

/** The mark of a brand that a file was an original of, now or before; the one that has it now first. */
export async function findMarkOfFile(db: Db, brandId: string, sha: string): Promise<string | null> {
  const { rows } = await db.query<{ id: string }>(
    `select m.id from mark m where m.brand_id = $1 and m.removed_at is null and (m.original_sha = $2 or exists
       (select 1 from former_original o where o.mark_id = m.id and o.original_sha = $2))
     order by m.original_sha <> $2, m.part limit 1`,
    [brandId, sha],
  );
  return rows[0]?.id ?? null;
}
