import { Hono } from 'hono';
import { paths } from '../../contract/paths';
import { checkBody, sheetRequest, signRequest } from '../../contract/requests';
import { CoreError } from '../../core/errors';
import { slug } from '../../core/recipe/fileNames';
import type { AppDeps } from '../deps';
import { openMark } from '../jobs/makeRun';
import type { SheetTask, SignTask } from '../printTasks';
import { findBrand, findGroundPhoto } from '../store/brands';
import { asId } from '../store/db';
import { personOf } from './marks';
import { pageOf } from './pdfs';
import { limitJson, readJson } from './readJson';
import { attachment } from './respond';

const TYPES = { pdf: 'application/pdf', tiff: 'image/tiff', png: 'image/png' } as const;
const ENDINGS = { pdf: 'pdf', tiff: 'tif', png: 'png' } as const;

/** Print sheets and documents: files that are made while somebody waits. */
export const printRoutes = ({ pool, core }: AppDeps) =>
  new Hono()
    .post(paths.brandSheets(':id'), limitJson, async (c) => {
      const brand = await findBrand(pool, asId(c.req.param('id'), 'brand'));
      const body = await checkBody(sheetRequest, await readJson(c));
      const { markId, groundId, name, ...order } = body;
      const mark = await openMark(pool, asId(markId, 'mark'), 'working');
      const photoSha = groundId ? await findGroundPhoto(pool, brand.id, asId(groundId, 'ground')) : null;
      const format = order.format as SheetTask['format'];
      const fileName = `${slug(name) || 'sheet'}.${ENDINGS[format]}`;
      const task = { ...order, format, mat: order.mat ?? null, mark, photoSha, name: fileName };
      const bytes = await core.makeSheet(task, personOf(c));
      c.header('Content-Type', TYPES[format]);
      c.header('Content-Disposition', attachment(fileName));
      return c.body(bytes);
    })
    .get(paths.pdfLines(':sha', ':page'), async (c) => c.json(await core.findPageLines(pageOf(c), personOf(c))))
    .post(paths.pdfSigned(':sha'), limitJson, async (c) => {
      const sha = c.req.param('sha') ?? '';
      if (!/^[0-9a-f]{64}$/.test(sha)) throw new CoreError('store/not-found', 'There is no such document.');
      const { markId, ink, name, places, typed } = await checkBody(signRequest, await readJson(c));
      const mark = await openMark(pool, asId(markId, 'mark'), 'working');
      const bytes = await core.signDocument(
        { mark, ink: ink as SignTask['ink'], sha, name, places, typed: typed ?? [] },
        personOf(c),
      );
      c.header('Content-Type', TYPES.pdf);
      c.header('Content-Disposition', attachment(`${name.replace(/\.pdf$/i, '')}-signed.pdf`));
      return c.body(bytes);
    });
