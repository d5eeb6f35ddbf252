import { CoreError } from '../../core/errors';
import { DEFAULT_PATTERN } from '../../core/recipe/recipe';
import type { BrandView, GroundView, PaletteColour } from '../../contract/views';
import { type Db, isUniqueViolation, oneRow } from './db';

interface BrandRow {
  id: string;
  name: string;
  palette: PaletteColour[];
  pattern: string;
  edition: number;
  mark_count: string;
}

const toBrand = (r: BrandRow): BrandView => ({
  id: r.id,
  name: r.name,
  palette: r.palette,
  pattern: r.pattern,
  edition: r.edition,
  markCount: Number(r.mark_count),
});

const SELECT =
  'select b.id, b.name, b.palette, b.pattern, b.edition, (select count(*) from mark m where ' +
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

/**
 * Gives a brand another palette.
 * @param basedOn  the edition of the brand that the change was made to
 * @throws CoreError 'store/conflict' with the newer state when there is a later one
 */
export async function changePalette(
  db: Db,
  id: string,
  basedOn: number,
  palette: readonly PaletteColour[],
): Promise<BrandView> {
  const { rowCount } = await db.query(
    'update brand set palette = $3, edition = edition + 1 where id = $1 and edition = $2',
    [id, basedOn, JSON.stringify(palette)],
  );
  const brand = await findBrand(db, id);
  if (rowCount === 0)
    throw new CoreError(
      'store/conflict',
      'The palette was changed in another window. Its newest state is shown now; make the change again.',
      { current: brand },
    );
  return brand;
}

interface GroundRow {
  id: string;
  name: string;
  tone: GroundView['tone'];
  blob_sha: string;
  width: number;
  height: number;
}

export async function listGrounds(db: Db, brandId: string): Promise<GroundView[]> {
  const { rows } = await db.query<GroundRow>(
    'select id, name, tone, blob_sha, width, height from ground where brand_id = $1 order by position',
    [brandId],
  );
  return rows.map((r) => ({
    id: r.id,
    name: r.name,
    tone: r.tone,
    width: r.width,
    height: r.height,
    picture: `/api/blobs/${r.blob_sha}`,
  }));
}

export async function addGround(
  db: Db,
  brandId: string,
  g: { name: string; tone: string; blobSha: string; width: number; height: number; position: number },
): Promise<void> {
  await db.query(
    'insert into ground (brand_id, name, tone, blob_sha, width, height, position) values ' +
      '($1, $2, $3, $4, $5, $6, $7) on conflict do nothing',
    [brandId, g.name, g.tone, g.blobSha, g.width, g.height, g.position],
  );
}

/** Whether a blob may be shown as a picture: only ground photos are served by their content's name. */
export async function isGroundBlob(db: Db, sha: string): Promise<boolean> {
  return (await db.query('select 1 from ground where blob_sha = $1 limit 1', [sha])).rowCount !== 0;
}
