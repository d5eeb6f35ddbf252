import { Hono } from 'hono';
import { paths } from '../../contract/paths';
import { addBrandRequest, changeBrandRequest, checkBody } from '../../contract/requests';
import type { AppDeps } from '../deps';
import { addBrand, changePalette, findBrand, listBrands, listGrounds } from '../store/brands';
import { asId } from '../store/db';
import { limitJson, readJson } from './readJson';

export const brandRoutes = ({ pool }: AppDeps) =>
  new Hono()
    .get(paths.brands, async (c) => c.json(await listBrands(pool)))
    .post(paths.brands, limitJson, async (c) => {
      const body = await checkBody(addBrandRequest, await readJson(c));
      return c.json(await findBrand(pool, await addBrand(pool, body.name, body.palette ?? [])), 201);
    })
    .patch(paths.brand(':id'), limitJson, async (c) => {
      const { basedOn, palette } = await checkBody(changeBrandRequest, await readJson(c));
      return c.json(await changePalette(pool, asId(c.req.param('id'), 'brand'), basedOn, palette));
    })
    .get(paths.brandGrounds(':id'), async (c) => {
      const { id } = await findBrand(pool, asId(c.req.param('id'), 'brand'));
      return c.json(await listGrounds(pool, id));
    });
