import { type Context, Hono } from 'hono';
import { paths } from '../../contract/paths';
import { checkBody, pickRequest } from '../../contract/requests';
import { CoreError } from '../../core/errors';
import type { AppDeps } from '../deps';
import { findBrand } from '../store/brands';
import { asId } from '../store/db';
import { takeInPicked } from '../takeIn';
import { cleanName, limitUpload, personOf } from './marks';
import { limitJson, readJson } from './readJson';
import { FOREVER } from './respond';

/** Page pictures of any other size are not drawn. */
const MOST_LONG_PX = 2400;

/** PDF files to take marks from. */
export function pdfRoutes({ pool, core }: AppDeps) {
  return new Hono()
    .post(paths.brandPdfs(':id'), limitUpload, async (c) => {
      await findBrand(pool, asId(c.req.param('id'), 'brand'));
      const name = cleanName(c.req.query('name'));
      const bytes = new Uint8Array(await c.req.arrayBuffer());
      return c.json(await core.openPdf({ bytes, name }, personOf(c)), 201);
    })
    .get(paths.pdfPage(':sha', ':page'), async (c) => c.json(await core.describePage(pageOf(c), personOf(c))))
    .get(paths.pdfPicture(':sha', ':page'), async (c) => {
      const longPx = Math.min(MOST_LONG_PX, Math.max(16, Math.round(Number(c.req.query('longPx') ?? 1200)) || 1200));
      const png = await core.drawPage({ ...pageOf(c), longPx }, personOf(c));
      c.header('Content-Type', 'image/png');
      c.header('Cache-Control', FOREVER);
      return c.body(png);
    })
    .post(paths.brandPicked(':id'), limitJson, async (c) => {
      const brand = await findBrand(pool, asId(c.req.param('id'), 'brand'));
      const picked = await checkBody(pickRequest, await readJson(c));
      const taken = await takeInPicked({ pool, core }, brand.id, picked, personOf(c));
      return c.json(taken, taken.isDuplicate ? 200 : 201);
    });
}

/** The page that a request is about. @throws CoreError 'store/not-found' */
export function pageOf(c: Context) {
  const sha = c.req.param('sha') ?? '';
  const page = Number(c.req.param('page'));
  if (!/^[0-9a-f]{64}$/.test(sha) || !Number.isInteger(page))
    throw new CoreError('store/not-found', 'There is no such page.');
  return { sha, page, name: cleanName(c.req.query('name')) };
}
