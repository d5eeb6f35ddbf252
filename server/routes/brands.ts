import { Hono } from 'hono';
import { addBrandRequest, changeBrandRequest, checkBody } from '../../contract/requests';
import type { AppDeps } from '../app';
import { addBrand, changePalette, findBrand, listBrands, listGrounds } from '../store/brands';
import { asId } from '../store/db';
import { readJson } from './readJson';

export const brandRoutes = ({ pool }: AppDeps) =>
  new Hono()
    .get('/api/brands', async (c) => c.json(await listBrands(pool)))
    .post('/api/brands', async (c) => {
      const body = await checkBody(addBrandRequest, await readJson(c));
      return c.json(await findBrand(pool, await addBrand(pool, body.name, body.palette)), 201);
    })
    .patch('/api/brands/:id', async (c) => {
      const body = await checkBody(changeBrandRequest, await readJson(c));
      return c.json(await changePalette(pool, asId(c.req.param('id'), 'brand'), body.palette));
    })
    .get('/api/brands/:id/grounds', async (c) => c.json(await listGrounds(pool, asId(c.req.param('id'), 'brand'))));
