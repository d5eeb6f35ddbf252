import { Hono } from 'hono';
import { paths } from '../../contract/paths';
import {
  addBrandRequest,
  addGroundRequest,
  changeBrandRequest,
  changeGroundRequest,
  checkBody,
} from '../../contract/requests';
import type { BrandChanged } from '../../contract/views';
import { rgbFromHex } from '../../core/colour/hex';
import { measureTone } from '../../core/raster/measureTone';
import { readVariant } from '../../core/recipe/recipe';
import { changedColours, changedGradients } from '../../core/recipe/recolourVariants';
import { readOwnPurpose, readStandardLine } from '../../core/recipe/standardLines';
import type { AppDeps } from '../deps';
import {
  addBrand,
  addGround,
  changeBrand,
  changeGround,
  findBrand,
  listBrands,
  listGrounds,
  removeGround,
} from '../store/brands';
import { asId, withTransaction } from '../store/db';
import { addJob } from '../store/jobs';
import { recolourMarks } from '../store/marks';
import { cleanName, limitUpload, personOf } from './marks';
import { limitJson, readJson } from './readJson';

/** Photos' names lose their ending and what programs put between words. */
const groundName = (file: string) =>
  file
    .replace(/\.[a-z0-9]+$/i, '')
    .replace(/[_\-\s]+/g, ' ')
    .trim()
    .slice(0, 100) || 'Photo';

export const brandRoutes = ({ pool, core }: AppDeps) =>
  new Hono()
    .get(paths.brands, async (c) => c.json(await listBrands(pool)))
    .post(paths.brands, limitJson, async (c) => {
      const body = await checkBody(addBrandRequest, await readJson(c));
      return c.json(await findBrand(pool, await addBrand(pool, body.name, body.palette ?? [])), 201);
    })
    .patch(paths.brand(':id'), limitJson, async (c) => {
      const { basedOn, startSet, standardLines, ownPurposes, ...rest } = await checkBody(
        changeBrandRequest,
        await readJson(c),
      );
      const id = asId(c.req.param('id'), 'brand');
      const set = startSet?.map((v, k) => readVariant(v, `startSet[${k}]`)) ?? startSet;
      const lines = standardLines?.map((l, k) => readStandardLine(l, `standardLines[${k}]`)) ?? standardLines;
      const own = ownPurposes?.map((p, k) => readOwnPurpose(p, `ownPurposes[${k}]`));
      const changed = await withTransaction(pool, async (tx): Promise<BrandChanged> => {
        const { before, after } = await changeBrand(tx, id, basedOn, {
          ...rest,
          startSet: set as never,
          standardLines: lines as never,
          ownPurposes: own,
        });
        const colours = changedColours(before.palette, after.palette);
        const gradients = changedGradients(before.gradients, after.gradients);
        if (colours.size + gradients.size === 0) return { brand: after, marks: 0, variants: 0, outdated: 0 };
        const { ids, variants, outdated } = await recolourMarks(tx, id, { colours, gradients });
        for (const one of ids) await addJob(tx, 'lookAt', one);
        return { brand: after, marks: ids.length, variants, outdated };
      });
      return c.json(changed);
    })
    .get(paths.brandGrounds(':id'), async (c) => {
      const { id } = await findBrand(pool, asId(c.req.param('id'), 'brand'));
      return c.json(await listGrounds(pool, id));
    })
    .post(paths.brandGrounds(':id'), limitJson, async (c) => {
      const { id } = await findBrand(pool, asId(c.req.param('id'), 'brand'));
      const { name, hex } = await checkBody(addGroundRequest, await readJson(c));
      const tone = measureTone({ data: Uint8Array.from([...rgbFromHex(hex), 255]) });
      const ground = { name, hex: hex.toLowerCase(), blobSha: null, width: 1, height: 1, tone };
      return c.json(await addGround(pool, id, ground), 201);
    })
    .post(paths.brandGroundPhotos(':id'), limitUpload, async (c) => {
      const { id } = await findBrand(pool, asId(c.req.param('id'), 'brand'));
      const file = cleanName(c.req.query('name'));
      const bytes = new Uint8Array(await c.req.arrayBuffer());
      const prepared = await core.prepareGround({ bytes, name: file }, personOf(c));
      return c.json(await addGround(pool, id, { name: groundName(file), hex: null, ...prepared }), 201);
    })
    .patch(paths.ground(':id'), limitJson, async (c) => {
      const change = await checkBody(changeGroundRequest, await readJson(c));
      return c.json(await changeGround(pool, asId(c.req.param('id'), 'ground'), change));
    })
    .delete(paths.ground(':id'), async (c) => {
      await removeGround(pool, asId(c.req.param('id'), 'ground'));
      return c.body(null, 204);
    });
