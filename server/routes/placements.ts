import { Hono } from 'hono';
import { paths } from '../../contract/paths';
import {
  addOwnGroundsRequest,
  addPlacementRequest,
  changePlacementRequest,
  changeRunGroundRequest,
  checkBody,
  lookRequest,
  overlayRequest,
} from '../../contract/requests';
import type { GroundChange, PlacementView, RunOptions } from '../../contract/views';
import { ENDING_OF, type OverlayForm } from '../../codecs/video/overlayClip';
import { zipLength, zipStream } from '../../codecs/zipStream';
import { CoreError } from '../../core/errors';
import { itemsWith } from '../../core/placements/itemOn';
import { type Placement, isStrip, readPlacement } from '../../core/placements/readPlacement';
import { slug } from '../../core/recipe/fileNames';
import type { AppDeps } from '../deps';
import { checkBackgrounds, checkedFor, keyOf } from '../checkRun';
import { groundTask, openMark, openRun } from '../openRun';
import { readBlob } from '../store/blobs';
import { findBrand, findGroundPhoto, listGrounds } from '../store/brands';
import { asId, withTransaction } from '../store/db';
import { takeExportName } from '../store/exportedNames';
import { findMark } from '../store/marks';
import {
  USUAL_OPTIONS,
  addPlacement,
  addRunGround,
  beginRun,
  changePlacement,
  changeRunGround,
  copyGrounds,
  endRun,
  findPlacement,
  findRunGround,
  listPlacements,
  listRunGrounds,
  removePlacement,
  removeRunGround,
  toGroundView,
} from '../store/placements';
import { cleanName, limitUpload, personOf } from './marks';
import { limitJson, readJson } from './readJson';
import { FOREVER, attachment, sendBlob } from './respond';

const MOST_LAID_PX = 4000;

/** Placements, the grounds that they are run over, and what was made of them. */
export function placementRoutes({ pool, core }: AppDeps) {
  const view = async (id: string): Promise<PlacementView> => {
    const { placement, ...run } = await openRun(pool, id, 'working');
    const grounds = await listRunGrounds(pool, id);
    return { ...placement, grounds: grounds.map((g) => toGroundView(g, keyOf({ placement, ...run }, g))) };
  };
  /** @throws CoreError 'request/invalid' for marks of another brand */
  const checkRule = async (rule: unknown, brandId: string): Promise<Placement> => {
    const read = readPlacement(rule);
    for (const item of read.items) {
      if (isStrip(item)) continue;
      const mark = await findMark(pool, asId(item.mark, 'mark'));
      if (mark.brandId !== brandId) throw new CoreError('request/invalid', `${mark.name} belongs to another brand.`);
    }
    return read;
  };
  return new Hono()
    .get(paths.brandPlacements(':id'), async (c) =>
      c.json(await listPlacements(pool, (await findBrand(pool, asId(c.req.param('id'), 'brand'))).id)),
    )
    .post(paths.brandPlacements(':id'), limitJson, async (c) => {
      const brand = await findBrand(pool, asId(c.req.param('id'), 'brand'));
      const { name, rule, options, like } = await checkBody(addPlacementRequest, await readJson(c));
      const read = await checkRule(rule, brand.id);
      const from = like ? await findPlacement(pool, like) : null;
      const id = await withTransaction(pool, async (tx) => {
        const usual = (options as RunOptions | undefined) ?? from?.options ?? USUAL_OPTIONS;
        const added = await addPlacement(tx, brand.id, { name, rule: read, options: usual });
        if (from && from.brandId === brand.id) await copyGrounds(tx, from.id, added);
        return added;
      });
      return c.json(await view(id), 201);
    })
    .get(paths.placement(':id'), async (c) => c.json(await view(asId(c.req.param('id'), 'placement'))))
    .patch(paths.placement(':id'), limitJson, async (c) => {
      const { id, brandId } = await findPlacement(pool, asId(c.req.param('id'), 'placement'));
      const { basedOn, name, rule, options } = await checkBody(changePlacementRequest, await readJson(c));
      await changePlacement(pool, id, basedOn, {
        ...(name ? { name } : {}),
        ...(rule ? { rule: await checkRule(rule, brandId) } : {}),
        ...(options ? { options: options as RunOptions } : {}),
      });
      return c.json(await view(id));
    })
    .delete(paths.placement(':id'), async (c) => {
      await removePlacement(pool, asId(c.req.param('id'), 'placement'));
      return c.body(null, 204);
    })
    .post(paths.placementGrounds(':id'), limitUpload, async (c) => {
      const { id } = await findPlacement(pool, asId(c.req.param('id'), 'placement'));
      const name = cleanName(c.req.query('name'));
      const bytes = new Uint8Array(await c.req.arrayBuffer());
      const prepared = await core.prepareRunGround({ bytes, name }, personOf(c));
      return c.json(toGroundView(await addRunGround(pool, id, { ...prepared, name }), null), 201);
    })
    .post(paths.placementOwnGrounds(':id'), limitJson, async (c) => {
      const { id, brandId } = await findPlacement(pool, asId(c.req.param('id'), 'placement'));
      const { grounds } = await checkBody(addOwnGroundsRequest, await readJson(c));
      const own = await listGrounds(pool, brandId);
      for (const groundId of grounds) {
        const ground = own.find((g) => g.id === groundId);
        const blobSha = await findGroundPhoto(pool, brandId, groundId);
        if (!ground) continue;
        const { width, height } = ground;
        await addRunGround(pool, id, {
          ...{ name: `${ground.name}.jpg`, kind: 'photo', blobSha, previewSha: blobSha, width, height, seconds: null },
        });
      }
      return c.json(await view(id), 201);
    })
    .patch(paths.runGround(':id'), limitJson, async (c) => {
      const ground = await findRunGround(pool, asId(c.req.param('id'), 'ground'));
      const { change } = await checkBody(changeRunGroundRequest, await readJson(c));
      const { rule } = await findPlacement(pool, ground.placement_id);
      // Read with the rule that it changes: what is wrong with it is told here.
      readPlacement({ ...rule, items: itemsWith(rule.items, change as GroundChange | null) });
      await changeRunGround(pool, ground.id, change as GroundChange | null);
      return c.json(await view(ground.placement_id));
    })
    .delete(paths.runGround(':id'), async (c) => {
      await removeRunGround(pool, asId(c.req.param('id'), 'ground'));
      return c.body(null, 204);
    })
    .get(paths.runGroundPreview(':id'), async (c) => {
      const { preview_sha: sha } = await findRunGround(pool, asId(c.req.param('id'), 'ground'));
      c.header('Cache-Control', FOREVER);
      return sendBlob(c, pool, sha);
    })
    .get(paths.runGroundOriginal(':id'), async (c) => {
      const { blob_sha: sha } = await findRunGround(pool, asId(c.req.param('id'), 'ground'));
      c.header('Cache-Control', FOREVER);
      return sendBlob(c, pool, sha);
    })
    .get(paths.runGroundFile(':id'), async (c) => {
      const ground = await findRunGround(pool, asId(c.req.param('id'), 'ground'));
      if (!ground.made_sha) throw new CoreError('store/not-found', 'Nothing was made of this ground yet.');
      c.header('Content-Disposition', attachment(ground.made_name as string));
      return sendBlob(c, pool, ground.made_sha);
    })
    .post(paths.runGroundOverlay(':id'), limitJson, async (c) => {
      const row = await findRunGround(pool, asId(c.req.param('id'), 'ground'));
      const { form, seconds, fade } = await checkBody(overlayRequest, await readJson(c));
      const run = await openRun(pool, row.placement_id, 'working');
      const { placement, marks } = run;
      const seen = await checkedFor({ pool, core }, run, row, personOf(c));
      const ground = { ...groundTask(placement, row), seen };
      const bytes = await core.makeOverlay({ marks, ground, form: form as OverlayForm, seconds, fade }, personOf(c));
      const ending = ENDING_OF[form as OverlayForm];
      c.header('Content-Type', ending === 'png' ? 'image/png' : ending === 'webm' ? 'video/webm' : `video/${ending}`);
      const name = await takeExportName(pool, placement.brandId, slug(placement.name) || 'overlay', ending);
      c.header('Content-Disposition', attachment(name));
      return c.body(bytes);
    })
    .post(paths.placementLook(':id'), limitJson, async (c) => {
      const id = asId(c.req.param('id'), 'placement');
      const { grounds: asked, corners } = await checkBody(lookRequest, await readJson(c));
      const wanted = (g: { readonly id: string }) => asked.includes(g.id);
      const looks = await checkBackgrounds({ pool, core }, { id, wanted, corners: corners ?? false }, personOf(c));
      return c.json(looks);
    })
    .post(paths.placementRun(':id'), async (c) => {
      const id = asId(c.req.param('id'), 'placement');
      const grounds = await listRunGrounds(pool, id);
      if (grounds.length === 0)
        throw new CoreError('request/invalid', 'This run has no photo or clip yet. Drop some first.');
      await withTransaction(pool, (tx) => beginRun(tx, id, grounds.length));
      return c.json(await view(id));
    })
    .post(paths.placementCancel(':id'), async (c) => {
      const id = asId(c.req.param('id'), 'placement');
      await endRun(pool, id, 'cancelled');
      return c.json(await view(id));
    })
    .get(paths.placementZip(':id'), async (c) => {
      const placement = await findPlacement(pool, asId(c.req.param('id'), 'placement'));
      const made = (await listRunGrounds(pool, placement.id)).filter((g) => g.made_sha);
      if (made.length === 0) throw new CoreError('store/not-found', 'This run has no files yet.');
      const entries = made.map((g) => ({
        ...{ name: g.made_name as string, size: Number(g.made_size), crc32: Number(g.made_crc) },
        read: async () => (await readBlob(pool, g.made_sha as string)).bytes,
      }));
      c.header('Content-Disposition', attachment(`${slug(placement.name) || 'run'}.zip`));
      c.header('Content-Type', 'application/zip');
      c.header('Content-Length', String(zipLength(entries)));
      return c.body(ReadableStream.from(zipStream(entries)) as ReadableStream);
    })
    .get(paths.markVariant(':id', ':variant'), async (c) => {
      const mark = await openMark(pool, asId(c.req.param('id'), 'mark'), 'reduced');
      const variant = c.req.param('variant') ?? '';
      const number = (key: string, least: number, most: number, usual: number) => {
        const value = Number(c.req.query(key) ?? usual);
        return Number.isFinite(value) ? Math.min(most, Math.max(least, value)) : usual;
      };
      const width = Math.round(number('width', 1, MOST_LAID_PX, 400));
      const png = await core.drawLaid({ mark, variant, width, turnDeg: number('turn', -360, 360, 0) }, personOf(c));
      if (c.req.query('revision') === String(mark.revision)) c.header('Cache-Control', FOREVER);
      c.header('Content-Type', 'image/png');
      return c.body(png);
    });
}
