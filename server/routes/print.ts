import { crc32 } from 'node:zlib';
import { Hono } from 'hono';
import { paths } from '../../contract/paths';
import {
  changePieceRequest,
  checkBody,
  keepPieceRequest,
  sheetRequest,
  signRequest,
  surfaceRequest,
} from '../../contract/requests';
import type { PieceView, SheetOrderView } from '../../contract/views';
import { CoreError } from '../../core/errors';
import type { Surface } from '../../core/surfaces/renderSurface';
import { zipLength, zipStream } from '../../codecs/zipStream';
import { slug } from '../../core/recipe/fileNames';
import type { Recipe } from '../../core/recipe/recipe';
import type { AppDeps } from '../deps';
import { openMark } from '../openRun';
import type { SheetTask, SignTask } from '../printTasks';
import { findBrand, findGroundPhoto } from '../store/brands';
import { asId } from '../store/db';
import { takeExportName } from '../store/exportedNames';
import { keepPiece, listPieces, markPiece, removePiece } from '../store/pieces';
import { cleanName, personOf } from './marks';
import { pageOf } from './pdfs';
import { limitJson, readJson } from './readJson';
import { attachment } from './respond';

const TYPES = { pdf: 'application/pdf', tiff: 'image/tiff', png: 'image/png' } as const;
const ENDINGS = { pdf: 'pdf', tiff: 'tif', png: 'png' } as const;

/** A mark on a cup or a sign is so large; it is looked at smaller. */
const PICTURE = { width: 2400, height: 1800 };
const LOOK_SCALE = 0.3;
const MARK_PX = 1600;

const nameOfVariant = ({ variants }: Recipe, id: string): string => variants.find((v) => v.id === id)?.name ?? id;

/** Print sheets, surfaces and documents: files that are made while somebody waits. */
export const printRoutes = ({ pool, core }: AppDeps) =>
  new Hono()
    .post(paths.brandSheets(':id'), limitJson, async (c) => {
      const brand = await findBrand(pool, asId(c.req.param('id'), 'brand'));
      const body = await checkBody(sheetRequest, await readJson(c));
      const { markId, groundId, name, ...order } = body;
      const mark = await openMark(pool, asId(markId, 'mark'), 'working');
      const photoSha = groundId ? await findGroundPhoto(pool, brand.id, asId(groundId, 'ground')) : null;
      const format = order.format as SheetTask['format'];
      const stem = slug(name) || 'sheet';
      const task = { ...order, format, mat: order.mat ?? null, mark, photoSha, name: `${stem}.${ENDINGS[format]}` };
      const bytes = await core.makeSheet(task, personOf(c));
      // Once it is made: a sheet that failed takes no name.
      const fileName = await takeExportName(pool, brand.id, stem, ENDINGS[format]);
      c.header('Content-Type', TYPES[format]);
      c.header('Content-Disposition', attachment(fileName));
      return c.body(bytes);
    })
    .get(paths.brandPieces(':id'), async (c) => c.json(await listPieces(pool, asId(c.req.param('id'), 'brand'))))
    .post(paths.brandPieces(':id'), limitJson, async (c) => {
      const brand = await findBrand(pool, asId(c.req.param('id'), 'brand'));
      const { id, name, order } = await checkBody(keepPieceRequest, await readJson(c));
      return c.json(await keepPiece(pool, brand.id, { id: id ?? null, name, order: order as SheetOrderView }), 201);
    })
    .patch(paths.piece(':id'), limitJson, async (c) => {
      const { state } = await checkBody(changePieceRequest, await readJson(c));
      return c.json(await markPiece(pool, asId(c.req.param('id'), 'piece'), state as PieceView['state']));
    })
    .delete(paths.piece(':id'), async (c) => {
      await removePiece(pool, asId(c.req.param('id'), 'piece'));
      return c.body(null, 204);
    })
    .post(paths.brandSurfaces(':id'), limitJson, async (c) => {
      const brand = await findBrand(pool, asId(c.req.param('id'), 'brand'));
      const { markId, variant, form, surface } = await checkBody(surfaceRequest, await readJson(c));
      const isLook = form === 'look';
      const mark = await openMark(pool, asId(markId, 'mark'), isLook ? 'reduced' : 'working');
      const scale = isLook ? LOOK_SCALE : 1;
      const [width, height] = [PICTURE.width * scale, PICTURE.height * scale];
      const own = { ...surface, width, height } as Surface;
      const made = await core.makeSurface({ mark, variant, surface: own, markPx: MARK_PX * scale }, personOf(c));
      if (isLook) {
        c.header('Content-Type', TYPES.png);
        return c.body(made.colours);
      }
      const wanted = [mark.name, nameOfVariant(mark.recipe, variant), own.kind].map((part) => slug(part) || 'mark');
      const zipName = await takeExportName(pool, brand.id, wanted.join('-'), 'zip');
      const stem = zipName.replace(/\.zip$/, '');
      const entries = (['colours', 'mask'] as const).map((part) => ({
        ...{ name: `${stem}-${part}.png`, size: made[part].length, crc32: crc32(made[part]) },
        read: async () => made[part],
      }));
      c.header('Content-Type', 'application/zip');
      c.header('Content-Disposition', attachment(zipName));
      c.header('Content-Length', String(zipLength(entries)));
      return c.body(ReadableStream.from(zipStream(entries)) as ReadableStream);
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
      const stem = `${cleanName(name).replace(/\.pdf$/i, '')}-signed`;
      c.header('Content-Disposition', attachment(await takeExportName(pool, mark.brandId, stem, 'pdf')));
      return c.body(bytes);
    });
