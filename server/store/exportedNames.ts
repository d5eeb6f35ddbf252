import type { Db } from './db';

/** A brand has no more files of one name than this. */
const MAX_COUNT = 10_000;

/**
 * A name that no file of this brand has left under: the one wanted, or with the next number. It is taken from then on.
 * @param ending  without a point
 */
export async function takeExportName(db: Db, brandId: string, stem: string, ending: string): Promise<string> {
  for (let n = 1; n <= MAX_COUNT; n++) {
    const name = `${stem}${n === 1 ? '' : `-${n}`}.${ending}`;
    const { rowCount } = await db.query(
      'insert into exported_name (brand_id, name) values ($1, $2) on conflict do nothing',
      [brandId, name.toLowerCase()],
    );
    if (rowCount === 1) return name;
  }
  throw new Error(`No name is left for ${stem}`);
}
