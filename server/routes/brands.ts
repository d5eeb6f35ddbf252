import { Hono } from 'hono';
import { addBrandRequest, checkBody } from '../../contract/requests';
import type { AppDeps } from '../app';
import { addBrand, findBrand, listBrands, listGrounds } from '../store/brands';
import { asId } from '../store/db';
import { readJson } from './readJson';

export const brandRoutes = ({ pool }: AppDeps) =>
  new Hono()
    .get('/api/brands', async (c) => c.json(await listBrands(pool)))
    .post('/api/brands', async (c) => {
      const body = await checkBody(addBrandRequest, await readJson(c));
      return c.json(await findBrand(pool, await addBrand(pool, body.name, body.palette)), 201);
    })
    .get('/api/brands/:id/grounds', async (c) => c.json(await listGrounds(pool, asId(c.req.param('id'), 'brand'))));
