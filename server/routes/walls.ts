import { crc32 } from 'node:zlib';
import { Hono } from 'hono';
import { paths } from '../../contract/paths';
import { checkBody } from '../../contract/requests';
import {
  WALL_RECEIPT_HEADER,
  type WallView,
  addSlotsRequest,
  addWallRequest,
  changeSlotRequest,
  changeWallRequest,
  lookAtWallRequest,
  mendRequest,
  wallOutRequest,
} from '../../contract/walls';
import type { MadeFile } from '../../codecs/wallFiles';
import { zipLength, zipStream } from '../../codecs/zipStream';
import { CoreError } from '../../core/errors';
import { slug } from '../../core/recipe/fileNames';
import { USUAL_WALL, readWallRule } from '../../core/wall/wallRule';
import type { AppDeps } from '../deps';
import { lookAtSlots, openWall, toWallView } from '../openWall';
import { countsOf, receiptFiles } from '../wallReceipt';
import { mendWall } from '../mendWall';
import { makeWallFiles } from '../makeWallFiles';
import { sha256 } from '../store/blobs';
import { findBrand } from '../store/brands';
import { asId, withTransaction } from '../store/db';
import { findMark, findMarkPictures } from '../store/marks';
import {
  addSlot,
  addWall,
  changeSlot,
  changeWall,
  findMarkOfFile,
  findSlot,
  findWall,
  listWalls,
  moveSlot,
  removeSlot,
  removeWall,
} from '../store/walls';
import { takeIn } from '../takeIn';
import { cleanName, limitUpload, personOf } from './marks';
import { limitJson, readJson } from './readJson';
import { FOREVER, attachment, sendBlob } from './respond';

/** Walls: marks in equal slots, looked at, mended, levelled and written. */
export function wallRoutes({ pool, core }: AppDeps) {
  const view = async (id: string): Promise<WallView> => toWallView(await openWall(pool, id));

  return new Hono()
    .get(paths.brandWalls(':id'), async (c) =>
      c.json(await listWalls(pool, (await findBrand(pool, asId(c.req.param('id'), 'brand'))).id)),
    )
    .post(paths.brandWalls(':id'), limitJson, async (c) => {
      const brand = await findBrand(pool, asId(c.req.param('id'), 'brand'));
      const { name, rule } = await checkBody(addWallRequest, await readJson(c));
      return c.json(await view(await addWall(pool, brand.id, name, readWallRule(rule ?? USUAL_WALL))), 201);
    })
    .get(paths.wall(':id'), async (c) => c.json(await view(asId(c.req.param('id'), 'wall'))))
    .patch(paths.wall(':id'), limitJson, async (c) => {
      const { id } = await findWall(pool, asId(c.req.param('id'), 'wall'));
      const { basedOn, name, rule } = await checkBody(changeWallRequest, await readJson(c));
      await changeWall(pool, id, basedOn, { ...(name ? { name } : {}), ...(rule ? { rule: readWallRule(rule) } : {}) });
      return c.json(await view(id));
    })
    .delete(paths.wall(':id'), async (c) => {
      await removeWall(pool, asId(c.req.param('id'), 'wall'));
      return c.body(null, 204);
    })
    .post(paths.wallFiles(':id'), limitUpload, async (c) => {
      const { id, brandId } = await findWall(pool, asId(c.req.param('id'), 'wall'));
      const name = cleanName(c.req.query('name'));
      const bytes = new Uint8Array(await c.req.arrayBuffer());
      const originalSha = sha256(bytes);
      // A file that a mark had before a newer one is that mark's still.
      const known = await findMarkOfFile(pool, brandId, originalSha);
      const markId = known ?? (await takeIn({ pool, core }, brandId, { bytes, name }, personOf(c))).mark.id;
      // Files come several at a time, and stand in the order in which they were dropped.
      const at = /^\d{1,5}$/.test(c.req.query('at') ?? '') ? Number(c.req.query('at')) : undefined;
      await addSlot(pool, id, { markId, file: name, originalSha, shows: null, at });
      return c.json(await view(id), 201);
    })
    .post(paths.wallSlots(':id'), limitJson, async (c) => {
      const { id, brandId } = await findWall(pool, asId(c.req.param('id'), 'wall'));
      const { marks } = await checkBody(addSlotsRequest, await readJson(c));
      await withTransaction(pool, async (tx) => {
        for (const own of marks) {
          const mark = await findMark(tx, own);
          if (mark.brandId !== brandId)
            throw new CoreError('request/invalid', `${mark.name} belongs to another brand.`);
          const { original } = await findMarkPictures(tx, own);
          await addSlot(tx, id, {
            ...{ markId: own, file: `${slug(mark.name) || 'mark'}.png`, originalSha: original, shows: 'mark' },
          });
        }
      });
      return c.json(await view(id), 201);
    })
    .post(paths.wallLook(':id'), limitJson, async (c) => {
      const id = asId(c.req.param('id'), 'wall');
      const { slots } = await checkBody(lookAtWallRequest, await readJson(c));
      await lookAtSlots({ pool, core }, await openWall(pool, id), slots, personOf(c));
      return c.json(await view(id));
    })
    .post(paths.wallMend(':id'), limitJson, async (c) => {
      const id = asId(c.req.param('id'), 'wall');
      const { slots } = await checkBody(mendRequest, await readJson(c));
      await mendWall({ pool, core }, id, slots ?? null, personOf(c));
      return c.json(await view(id));
    })
    .post(paths.wallOut(':id'), limitJson, async (c) => {
      const id = asId(c.req.param('id'), 'wall');
      const { form, problems = 'refuse' } = await checkBody(wallOutRequest, await readJson(c));
      const { name, files, receipt } = await makeWallFiles({ pool, core }, { id, form, problems }, personOf(c));
      const stem = slug(name) || 'wall';
      c.header(WALL_RECEIPT_HEADER, countsOf(receipt));
      if (form === 'files')
        return sendZip([...files, ...receiptFiles(receipt)], `${stem}.zip`, {
          [WALL_RECEIPT_HEADER]: countsOf(receipt),
        });
      c.header('Content-Type', form === 'pdf' ? 'application/pdf' : 'image/png');
      c.header('Content-Disposition', attachment(`${stem}.${form === 'pdf' ? 'pdf' : 'png'}`));
      return c.body(files[0].bytes as Uint8Array<ArrayBuffer>);
    })
    .patch(paths.wallSlot(':id'), limitJson, async (c) => {
      const slot = await findSlot(pool, asId(c.req.param('id'), 'slot'));
      const { position, ...change } = await checkBody(changeSlotRequest, await readJson(c));
      if (change.variant) {
        const { recipe } = await findMark(pool, slot.mark_id);
        if (!recipe.variants.some((v) => v.id === change.variant))
          throw new CoreError('store/not-found', 'The mark has no such variant any more.');
      }
      await withTransaction(pool, async (tx) => {
        await changeSlot(tx, slot.id, change);
        if (position !== undefined) await moveSlot(tx, slot, position);
      });
      return c.json(await view(slot.wall_id));
    })
    .delete(paths.wallSlot(':id'), async (c) => {
      const slot = await findSlot(pool, asId(c.req.param('id'), 'slot'));
      await removeSlot(pool, slot.id);
      return c.json(await view(slot.wall_id));
    })
    .get(paths.wallSlotPicture(':id'), async (c) => {
      const { picture_sha: sha } = await findSlot(pool, asId(c.req.param('id'), 'slot'));
      if (!sha) throw new CoreError('store/not-found', 'Nobody has looked at this slot yet.');
      if (c.req.query('of') === sha.slice(0, 16)) c.header('Cache-Control', FOREVER);
      return sendBlob(c, pool, sha);
    });
}

/** Files in one archive. */
export function sendZip(files: readonly MadeFile[], name: string, headers: Record<string, string> = {}): Response {
  const entries = files.map((f) => ({
    ...{ name: f.name, size: f.bytes.length, crc32: crc32(f.bytes) },
    read: async () => f.bytes,
  }));
  return new Response(ReadableStream.from(zipStream(entries)) as ReadableStream, {
    headers: {
      ...headers,
      'Content-Type': 'application/zip',
      'Content-Disposition': attachment(name),
      'Content-Length': String(zipLength(entries)),
    },
  });
}
