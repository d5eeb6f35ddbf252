import type { PieceView, SheetOrderView } from '../../contract/views';
import { type Db, oneRow } from './db';

interface PieceRow {
  id: string;
  name: string;
  sheet: SheetOrderView;
  state: PieceView['state'];
}

const FIELDS = 'id, name, sheet, state';
const toView = ({ id, name, sheet, state }: PieceRow): PieceView => ({ id, name, order: sheet, state });

export async function listPieces(db: Db, brandId: string): Promise<PieceView[]> {
  const { rows } = await db.query<PieceRow>(
    `select ${FIELDS} from piece where brand_id = $1 order by state = 'archived', updated_at desc`,
    [brandId],
  );
  return rows.map(toView);
}

/** A new piece, or one that is there in another shape. @throws CoreError 'store/not-found' */
export async function keepPiece(
  db: Db,
  brandId: string,
  piece: { readonly id: string | null; readonly name: string; readonly order: SheetOrderView },
): Promise<PieceView> {
  const sheet = JSON.stringify(piece.order);
  const { rows } = piece.id
    ? await db.query<PieceRow>(
        `update piece set name = $3, sheet = $4, updated_at = now()
         where id = $1 and brand_id = $2 returning ${FIELDS}`,
        [piece.id, brandId, piece.name, sheet],
      )
    : await db.query<PieceRow>(`insert into piece (brand_id, name, sheet) values ($1, $2, $3) returning ${FIELDS}`, [
        ...[brandId, piece.name, sheet],
      ]);
  return toView(oneRow(rows, 'piece'));
}

export async function markPiece(db: Db, id: string, state: PieceView['state']): Promise<PieceView> {
  const { rows } = await db.query<PieceRow>(`update piece set state = $2 where id = $1 returning ${FIELDS}`, [
    id,
    state,
  ]);
  return toView(oneRow(rows, 'piece'));
}

export async function removePiece(db: Db, id: string): Promise<void> {
  oneRow((await db.query('delete from piece where id = $1 returning id', [id])).rows, 'piece');
}
