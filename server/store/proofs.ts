import { paths } from '../../contract/paths';
import type { ProofAnswer, ProofKind, ProofPage, ProofPicture, ProofView } from '../../contract/proofs';
import { CoreError } from '../../core/errors';
import { type Db, oneRow } from './db';

interface ProofRow {
  id: string;
  key: string;
  brand_name: string;
  kind: ProofKind;
  title: string;
  target_id: string;
  version: number;
  ends_on: string | null;
  closed_at: Date | null;
  has_ended: boolean;
  opened_count: number;
  opened_at: Date | null;
  created_at: Date;
  state: string;
}

interface AnswerRow {
  id: string;
  proof_id: string;
  kind: ProofAnswer['kind'];
  picture: number | null;
  x: number | null;
  y: number | null;
  who: string;
  words: string;
  made_at: Date;
}

const PROOFS = `
  select p.*, b.name as brand_name, coalesce(p.mark_id, p.wall_id, p.delivery_id) as target_id,
    to_char(p.ends_on, 'YYYY-MM-DD') as ends_on, p.ends_on is not null and p.ends_on < current_date as has_ended
  from proof p join brand b on b.id = p.brand_id`;

const toAnswer = (r: AnswerRow): ProofAnswer => ({
  ...{ id: Number(r.id), kind: r.kind, picture: r.picture, x: r.x, y: r.y, who: r.who, words: r.words },
  madeAt: r.made_at.toISOString(),
});

/** A link as it is kept; `state` names what it shows. */
export interface FoundProof {
  readonly id: string;
  readonly key: string;
  readonly kind: ProofKind;
  readonly targetId: string;
  readonly state: string;
  readonly view: Omit<ProofView, 'isNewer'>;
  readonly page: Omit<ProofPage, 'isNewer' | 'pictures'>;
}

function toFound(r: ProofRow, answers: readonly ProofAnswer[]): FoundProof {
  const both = { kind: r.kind, title: r.title, version: r.version, endsOn: r.ends_on, answers };
  const isClosed = r.closed_at !== null;
  return {
    ...{ id: r.id, key: r.key, kind: r.kind, targetId: r.target_id, state: r.state },
    view: {
      ...both,
      ...{ id: r.id, path: paths.proof(r.key), targetId: r.target_id },
      state: isClosed ? 'closed' : r.has_ended ? 'ended' : 'open',
      ...{ openedCount: r.opened_count, openedAt: r.opened_at?.toISOString() ?? null },
      createdAt: r.created_at.toISOString(),
    },
    page: { ...both, brand: r.brand_name, madeAt: r.created_at.toISOString() },
  };
}

export interface NewProof {
  readonly brandId: string;
  readonly key: string;
  readonly kind: ProofKind;
  readonly title: string;
  readonly targetId: string;
  readonly state: string;
  /** The thing whose versions are counted together. */
  readonly subject: string;
  /** What of it is shown, as one word: proofs with the same are of one version. */
  readonly shows: string;
  readonly endsOn: string | null;
  readonly pictures: readonly NewPicture[];
}

export interface NewPicture extends Omit<ProofPicture, 'picture'> {
  readonly blobSha: string | null;
}

const COLUMN: Record<ProofKind, string> = {
  ...{ board: 'mark_id', variants: 'mark_id', wall: 'wall_id', delivery: 'delivery_id' },
};

/** A link with all that it shows. In a transaction. @returns its id */
export async function addProof(db: Db, p: NewProof): Promise<string> {
  const { rows } = await db.query<{ id: string }>(
    `insert into proof (brand_id, key, kind, title, ${COLUMN[p.kind]}, state, subject, shows, ends_on, version)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, coalesce(
       (select min(version) from proof where subject = $7 and shows = $8),
       (select max(version) + 1 from proof where subject = $7), 1)) returning id`,
    [p.brandId, p.key, p.kind, p.title, p.targetId, p.state, p.subject, p.shows, p.endsOn],
  );
  for (const [k, own] of p.pictures.entries())
    await db.query(
      `insert into proof_picture (proof_id, position, title, words, blob_sha, width, height, is_opaque, ground)
       values ($1, $2, $3, $4, $5, $6, $7, $8, $9)`,
      [rows[0].id, k, own.title, own.words, own.blobSha, own.width, own.height, own.isOpaque, own.ground],
    );
  return rows[0].id;
}

export async function listProofs(db: Db, brandId: string): Promise<FoundProof[]> {
  const { rows } = await db.query<ProofRow>(`${PROOFS} where p.brand_id = $1 order by p.created_at desc`, [brandId]);
  const answers = await db.query<AnswerRow>(
    'select a.* from proof_answer a join proof p on p.id = a.proof_id where p.brand_id = $1 order by a.id',
    [brandId],
  );
  return rows.map((r) => toFound(r, answers.rows.filter((a) => a.proof_id === r.id).map(toAnswer)));
}

export async function findProof(db: Db, id: string): Promise<FoundProof> {
  const { rows } = await db.query<ProofRow>(`${PROOFS} where p.id = $1`, [id]);
  return toFound(oneRow(rows, 'proof link'), await listAnswers(db, id));
}

async function listAnswers(db: Db, id: string): Promise<ProofAnswer[]> {
  const { rows } = await db.query<AnswerRow>('select * from proof_answer where proof_id = $1 order by id', [id]);
  return rows.map(toAnswer);
}

/**
 * A link that is open, by what its address holds. One that never was, one that was closed and one that ended are the
 * same to who asks. @throws CoreError 'store/not-found'
 */
export async function openProof(db: Db, key: string): Promise<FoundProof> {
  const { rows } = await db.query<ProofRow>(
    `${PROOFS} where p.key = $1 and p.closed_at is null and (p.ends_on is null or p.ends_on >= current_date)`,
    [key],
  );
  if (rows.length === 0) throw new CoreError('store/not-found', 'This link shows nothing, or nothing any more.');
  return toFound(rows[0], await listAnswers(db, rows[0].id));
}

export const countOpening = (db: Db, id: string) =>
  db.query('update proof set opened_count = opened_count + 1, opened_at = now() where id = $1', [id]);

export async function listProofPictures(db: Db, { id, key }: FoundProof): Promise<ProofPicture[]> {
  const { rows } = await db.query<{
    title: string;
    words: string;
    blob_sha: string | null;
    width: number;
    height: number;
    is_opaque: boolean;
    ground: string;
  }>('select * from proof_picture where proof_id = $1 order by position', [id]);
  return rows.map((r, k) => ({
    ...{ title: r.title, words: r.words, width: r.width, height: r.height },
    ...{ isOpaque: r.is_opaque, ground: r.ground },
    picture: r.blob_sha ? paths.proofPicture(key, k) : null,
  }));
}

export async function findProofPicture(db: Db, proofId: string, position: number): Promise<string> {
  const { rows } = await db.query<{ blob_sha: string | null }>(
    'select blob_sha from proof_picture where proof_id = $1 and position = $2 and blob_sha is not null',
    [proofId, position],
  );
  return oneRow(rows, 'picture').blob_sha as string;
}

/** More answers than this are no help to anybody. */
export const MOST_ANSWERS = 500;

/** @throws CoreError 'request/invalid' when a link has all the answers that it takes */
export async function addAnswer(db: Db, proofId: string, a: Omit<ProofAnswer, 'id' | 'madeAt'>): Promise<void> {
  const { rowCount } = await db.query(
    `insert into proof_answer (proof_id, kind, picture, x, y, who, words)
     select $1::uuid, $2, $3::integer, $4::float8, $5::float8, $6, $7
     where (select count(*) from proof_answer where proof_id = $1) < ${MOST_ANSWERS}`,
    [proofId, a.kind, a.picture, a.x, a.y, a.who, a.words],
  );
  if (rowCount !== 1)
    throw new CoreError('request/invalid', 'This link has all the answers that it takes. Write to who sent it.');
}

export async function changeProof(
  db: Db,
  id: string,
  change: { isClosed?: boolean; endsOn?: string | null },
): Promise<void> {
  const { rows } = await db.query(
    `update proof set
       closed_at = case when $2::boolean is null then closed_at when $2 then coalesce(closed_at, now()) end,
       ends_on = case when $3 then $4 else ends_on end where id = $1 returning id`,
    [id, change.isClosed ?? null, change.endsOn !== undefined, change.endsOn ?? null],
  );
  oneRow(rows, 'proof link');
}

export async function removeProof(db: Db, id: string): Promise<void> {
  oneRow((await db.query('delete from proof where id = $1 returning id', [id])).rows, 'proof link');
}
