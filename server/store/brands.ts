import { CoreError } from '../../core/errors';
import { DEFAULT_PATTERN } from '../../core/recipe/recipe';
import { changedColours, withColours } from '../../core/recipe/recolourVariants';
import type { BrandView, GroundView, NamedGradient, PaletteColour } from '../../contract/views';
import { type Db, isUniqueViolation, oneRow } from './db';

interface BrandRow {
  id: string;
  name: string;
  palette: PaletteColour[];
  gradients: NamedGradient[];
  pattern: string;
  start_set: BrandView['startSet'];
  standard_lines: BrandView['standardLines'];
  own_purposes: BrandView['ownPurposes'];
  edition: number;
  mark_count: string;
}

const toBrand = (r: BrandRow): BrandView => ({
  id: r.id,
  name: r.name,
  palette: r.palette,
  gradients: r.gradients,
  pattern: r.pattern,
  startSet: r.start_set,
  standardLines: r.standard_lines,
  ownPurposes: r.own_purposes,
  edition: r.edition,
  markCount: Number(r.mark_count),
});

const SELECT =
  'select b.id, b.name, b.palette, b.gradients, b.pattern, b.start_set, ' +
  'b.standard_lines, b.own_purposes, b.edition, (select count(*) from mark m where ' +
  'm.brand_id = b.id and m.removed_at is null) as mark_count from brand b';

export async function listBrands(db: Db): Promise<BrandView[]> {
  const { rows } = await db.query<BrandRow>(`${SELECT} order by b.created_at`);
  return rows.map(toBrand);
}

export async function findBrand(db: Db, id: string): Promise<BrandView> {
  const { rows } = await db.query<BrandRow>(`${SELECT} where b.id = $1`, [id]);
  return toBrand(oneRow(rows, 'brand'));
}

/** @throws CoreError 'store/duplicate-name' */
export async function addBrand(db: Db, name: string, palette: readonly PaletteColour[]): Promise<string> {
  try {
    const { rows } = await db.query<{ id: string }>(
      'insert into brand (name, palette, pattern) values ($1, $2, $3) returning id',
      [name.trim(), JSON.stringify(palette), DEFAULT_PATTERN],
    );
    return rows[0].id;
  } catch (error) {
    if (isUniqueViolation(error, 'brand_name_unique'))
      throw new CoreError(
        'store/duplicate-name',
        `There is a brand called "${name.trim()}" already.`,
        { name },
        { cause: error },
      );
    throw error;
  }
}

export interface BrandChange {
  readonly palette?: readonly PaletteColour[];
  readonly gradients?: readonly NamedGradient[];
  readonly pattern?: string;
  readonly startSet?: BrandView['startSet'];
  readonly standardLines?: BrandView['standardLines'];
  readonly ownPurposes?: BrandView['ownPurposes'];
}

/**
 * Changes a brand. In a transaction.
 * @param basedOn  the edition of the brand that the change was made to
 * @returns the brand before and after
 * @throws CoreError 'store/conflict' with the newer state when there is a later one
 */
export async function changeBrand(
  db: Db,
  id: string,
  basedOn: number,
  change: BrandChange,
): Promise<{ before: BrandView; after: BrandView }> {
  const { palette, gradients, pattern, startSet, standardLines, ownPurposes } = change;
  await db.query('select 1 from brand where id = $1 for update', [id]);
  const before = await findBrand(db, id);
  if (before.edition !== basedOn)
    throw new CoreError(
      'store/conflict',
      'The brand was changed in another window. Its newest state is shown now; make the change again.',
      { current: before },
    );
  const colours = changedColours(before.palette, palette ?? before.palette);
  const followed = before.gradients.map((g) => ({ ...g, stops: withColours(g.stops, colours) }));
  await db.query(
    `update brand set palette = $2, gradients = $3, pattern = $4, start_set = $5, standard_lines = $6,
       own_purposes = $7, edition = edition + 1 where id = $1`,
    [
      id,
      JSON.stringify(palette ?? before.palette),
      JSON.stringify(gradients ?? followed),
      pattern ?? before.pattern,
      asJson(startSet === undefined ? before.startSet : startSet),
      asJson(standardLines === undefined ? before.standardLines : standardLines),
      JSON.stringify(ownPurposes ?? before.ownPurposes),
    ],
  );
  return { before, after: await findBrand(db, id) };
}

const asJson = (value: unknown) => (value === null ? null : JSON.stringify(value));

interface GroundRow {
  id: string;
  name: string;
  tone: GroundView['tone'];
  hex: string | null;
  blob_sha: string | null;
  width: number;
  height: number;
  is_proof: boolean;
}

const toGround = (r: GroundRow): GroundView => ({
  id: r.id,
  name: r.name,
  tone: r.tone,
  hex: r.hex,
  width: r.width,
  height: r.height,
  picture: r.blob_sha && `/api/blobs/${r.blob_sha}`,
  isProof: r.is_proof,
});

const GROUND = 'id, name, tone, hex, blob_sha, width, height, is_proof';

export async function listGrounds(db: Db, brandId: string): Promise<GroundView[]> {
  const { rows } = await db.query<GroundRow>(
    `select ${GROUND} from ground where brand_id = $1 order by position, name`,
    [brandId],
  );
  return rows.map(toGround);
}

export interface NewGround {
  readonly name: string;
  readonly tone: GroundView['tone'];
  readonly hex: string | null;
  readonly blobSha: string | null;
  readonly width: number;
  readonly height: number;
  readonly isProof?: boolean;
}

/** Adds a ground as the last one; a name that is taken gets a number. */
export async function addGround(db: Db, brandId: string, g: NewGround): Promise<GroundView> {
  for (let n = 1; ; n++) {
    const name = n === 1 ? g.name : `${g.name} ${n}`;
    const { rows } = await db.query<GroundRow>(
      `insert into ground (brand_id, name, tone, hex, blob_sha, width, height, is_proof, position)
       values ($1, $2, $3, $4, $5, $6, $7, $8,
         (select coalesce(max(position) + 1, 0) from ground where brand_id = $1))
       on conflict on constraint ground_name_unique do nothing returning ${GROUND}`,
      [brandId, name, g.tone, g.hex, g.blobSha, g.width, g.height, g.isProof ?? true],
    );
    if (rows[0]) return toGround(rows[0]);
  }
}

/** @throws CoreError 'store/duplicate-name', 'store/not-found' */
export async function changeGround(
  db: Db,
  id: string,
  { name, isProof }: { name?: string; isProof?: boolean },
): Promise<GroundView> {
  try {
    const { rows } = await db.query<GroundRow>(
      `update ground set name = coalesce($2, name), is_proof = coalesce($3, is_proof)
       where id = $1 returning ${GROUND}`,
      [id, name ?? null, isProof ?? null],
    );
    return toGround(oneRow(rows, 'ground'));
  } catch (error) {
    if (!isUniqueViolation(error, 'ground_name_unique')) throw error;
    throw new CoreError(
      'store/duplicate-name',
      `There is a ground called "${name}" already.`,
      { name },
      { cause: error },
    );
  }
}

/** The photo of a brand's ground. @throws CoreError 'store/not-found' */
export async function findGroundPhoto(db: Db, brandId: string, id: string): Promise<string> {
  const { rows } = await db.query<{ blob_sha: string }>(
    'select blob_sha from ground where id = $1 and brand_id = $2 and blob_sha is not null',
    [id, brandId],
  );
  return oneRow(rows, 'ground').blob_sha;
}

/** @throws CoreError 'store/not-found' */
export async function removeGround(db: Db, id: string): Promise<void> {
  oneRow((await db.query('delete from ground where id = $1 returning id', [id])).rows, 'ground');
}

/** Whether a blob may be shown as a picture: only ground photos are served by their content's name. */
export async function isGroundBlob(db: Db, sha: string): Promise<boolean> {
  return (await db.query('select 1 from ground where blob_sha = $1 limit 1', [sha])).rowCount !== 0;
}
