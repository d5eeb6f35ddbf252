import { Hono } from 'hono';
import { paths } from '../../contract/paths';
import { checkBody, goToRequest, nameRevisionRequest } from '../../contract/requests';
import { CoreError } from '../../core/errors';
import type { AppDeps } from '../deps';
import { asId, withTransaction } from '../store/db';
import { findRevision, listHistory, nameRevision } from '../store/history';
import { findMarkPictures, goToRevision } from '../store/marks';
import { personOf } from './marks';
import { limitJson, readJson } from './readJson';
import { FOREVER, sendBlob } from './respond';

/** What a mark was before: its revisions, each with a small picture. */
export function historyRoutes({ pool, pictures: maker }: AppDeps) {
  return new Hono()
    .get(paths.markHistory(':id'), async (c) => c.json(await listHistory(pool, asId(c.req.param('id'), 'mark'))))
    .post(paths.markGoTo(':id'), limitJson, async (c) => {
      const { basedOn, revision } = await checkBody(goToRequest, await readJson(c));
      const id = asId(c.req.param('id'), 'mark');
      return c.json(await withTransaction(pool, (tx) => goToRevision(tx, id, basedOn, revision)));
    })
    .patch(paths.markRevision(':id', ':revision'), limitJson, async (c) => {
      const { name } = await checkBody(nameRevisionRequest, await readJson(c));
      const id = asId(c.req.param('id'), 'mark');
      await nameRevision(pool, id, asRevision(c.req.param('revision')), name);
      return c.json(await listHistory(pool, id));
    })
    .get(`${paths.markRevision(':id', ':revision')}/thumbnail.png`, async (c) => {
      const id = asId(c.req.param('id'), 'mark');
      const { recipe, thumbnailSha } = await findRevision(pool, id, asRevision(c.req.param('revision')));
      c.header('Cache-Control', FOREVER);
      if (thumbnailSha) return sendBlob(c, pool, thumbnailSha);
      const made = await maker.find('thumbnail', await findMarkPictures(pool, id), recipe, personOf(c));
      return sendBlob(c, pool, made.blobSha);
    })
    .get(`${paths.markRevision(':id', ':revision')}/whole.png`, async (c) => {
      const id = asId(c.req.param('id'), 'mark');
      const { recipe } = await findRevision(pool, id, asRevision(c.req.param('revision')));
      const made = await maker.find('whole', await findMarkPictures(pool, id), recipe, personOf(c));
      c.header('Cache-Control', FOREVER);
      return sendBlob(c, pool, made.blobSha);
    });
}

function asRevision(text: string | undefined): number {
  const revision = Number(text);
  if (!Number.isInteger(revision) || revision < 1 || revision > 2_147_483_647)
    throw new CoreError('store/not-found', 'There is no such revision.');
  return revision;
}
