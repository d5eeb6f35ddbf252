import { serveStatic } from '@hono/node-server/serve-static';
import { Hono } from 'hono';
import { existsSync, readFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { paths } from '../../contract/paths';
import {
  type ProofPage,
  type ProofView,
  addProofRequest,
  answerRequest,
  changeProofRequest,
} from '../../contract/proofs';
import { checkBody } from '../../contract/requests';
import { CoreError, isCoreError } from '../../core/errors';
import type { AppDeps } from '../deps';
import { isNewerThere, makeProof } from '../makeProof';
import { findBrand } from '../store/brands';
import { asId } from '../store/db';
import {
  type FoundProof,
  addAnswer,
  changeProof,
  countOpening,
  findProof,
  findProofPicture,
  listProofPictures,
  listProofs,
  openProof,
  removeProof,
} from '../store/proofs';
import { personOf } from './marks';
import { limitJson, readJson } from './readJson';
import { sendBlob } from './respond';

/** Links to what somebody outside is to look at: made, listed and closed by those who work here. */
export function proofRoutes({ pool, core }: AppDeps) {
  const view = async (proof: FoundProof): Promise<ProofView> => ({
    ...proof.view,
    isNewer: await isNewerThere(pool, proof),
  });
  return new Hono()
    .get(paths.brandProofs(':id'), async (c) => {
      const { id } = await findBrand(pool, asId(c.req.param('id'), 'brand'));
      return c.json(await Promise.all((await listProofs(pool, id)).map(view)));
    })
    .post(paths.proofs, limitJson, async (c) => {
      const { kind, targetId, title, endsOn } = await checkBody(addProofRequest, await readJson(c));
      const order = { kind, targetId: asId(targetId, kind), title, endsOn: endsOn ?? null };
      return c.json(await view(await findProof(pool, await makeProof({ pool, core }, order, personOf(c)))), 201);
    })
    .patch(paths.ownProof(':id'), limitJson, async (c) => {
      const id = asId(c.req.param('id'), 'proof link');
      const { isClosed, endsOn } = await checkBody(changeProofRequest, await readJson(c));
      await changeProof(pool, id, { isClosed: isClosed && isClosed === 'yes', endsOn });
      return c.json(await view(await findProof(pool, id)));
    })
    .delete(paths.ownProof(':id'), async (c) => {
      await removeProof(pool, asId(c.req.param('id'), 'proof link'));
      return c.body(null, 204);
    });
}

/** Nothing of a link is kept by anything between, or told to other sites. */
const PRIVATE = { 'Cache-Control': 'private, no-store', 'X-Robots-Tag': 'noindex' };

/** The links themselves: open to whoever has one. */
export function openProofRoutes({ pool, proofDir }: AppDeps) {
  const page = proofDir && existsSync(proofDir) ? readFileSync(join(proofDir, 'index.html'), 'utf8') : '';
  const root = proofDir ? relative(process.cwd(), proofDir) || '.' : '.';
  return (
    new Hono()
      .use('/proof/page/*', async (c, next) => {
        await next();
        if (c.res.status === 200) c.header('Cache-Control', 'public, max-age=31536000, immutable');
      })
      .use('/proof/page/*', serveStatic({ root, rewriteRequestPath: (path) => path.replace(/^\/proof\/page/, '') }))
      .get('/proof/page/*', () => {
        throw new CoreError('store/not-found', 'There is no such address.');
      })
      .use('/proof/*', async (c, next) => {
        await next();
        for (const [name, value] of Object.entries(PRIVATE)) c.header(name, value);
      })
      // The page says by itself whether the link shows anything, so that every address answers alike.
      .get(paths.proof(':key'), async (c) => {
        const isOpen = await openProof(pool, c.req.param('key') ?? '').then(
          () => true,
          (error: unknown) => {
            if (isCoreError(error) && error.code === 'store/not-found') return false;
            throw error;
          },
        );
        return c.html(page, isOpen ? 200 : 404);
      })
      .get(paths.proofData(':key'), async (c) => {
        const proof = await openProof(pool, c.req.param('key') ?? '');
        await countOpening(pool, proof.id);
        const shown: ProofPage = {
          ...proof.page,
          isNewer: await isNewerThere(pool, proof),
          pictures: await listProofPictures(pool, proof),
        };
        return c.json(shown);
      })
      .get(paths.proofPicture(':key', ':picture'), async (c) => {
        const proof = await openProof(pool, c.req.param('key') ?? '');
        const position = Number(c.req.param('picture'));
        if (!Number.isInteger(position)) throw new CoreError('store/not-found', 'There is no such picture.');
        return sendBlob(c, pool, await findProofPicture(pool, proof.id, position));
      })
      .post(paths.proofAnswers(':key'), limitJson, async (c) => {
        if (c.req.header('sec-fetch-site') === 'cross-site')
          throw new CoreError('request/forbidden-origin', 'This request came from another site and was refused.');
        const proof = await openProof(pool, c.req.param('key') ?? '');
        const said = await checkBody(answerRequest, await readJson(c));
        const words = (said.words ?? '').trim();
        if (said.kind === 'note' && words === '')
          throw new CoreError('request/invalid', 'Write the note first; it is empty.');
        await addAnswer(pool, proof.id, {
          ...{ kind: said.kind, words, who: (said.who ?? '').trim() },
          ...{ picture: said.picture ?? null, x: said.x ?? null, y: said.y ?? null },
        });
        return c.json((await openProof(pool, proof.key)).page.answers, 201);
      })
  );
}
