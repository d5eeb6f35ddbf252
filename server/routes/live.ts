import { randomBytes } from 'node:crypto';
import { Hono } from 'hono';
import { addLiveRequest } from '../../contract/live';
import { paths } from '../../contract/paths';
import { checkBody } from '../../contract/requests';
import { CoreError } from '../../core/errors';
import { lastingPattern } from '../../core/recipe/fileNames';
import { planFiles } from '../../core/recipe/planFiles';
import type { AppDeps } from '../deps';
import { findBrand } from '../store/brands';
import { asId, withTransaction } from '../store/db';
import { addLive, findLive, listLive, removeLive } from '../store/live';
import { findMark } from '../store/marks';
import { limitJson, readJson } from './readJson';

/** So much of an address is chance: 16 bytes. */
const KEY_BYTES = 16;

/** Steady addresses of size lines: given and taken back by those who work here. */
export const liveRoutes = ({ pool }: AppDeps) =>
  new Hono()
    .get(paths.brandLive(':id'), async (c) => {
      const { id } = await findBrand(pool, asId(c.req.param('id'), 'brand'));
      return c.json(await listLive(pool, id));
    })
    .post(paths.allLive, limitJson, async (c) => {
      const { markId, lineId } = await checkBody(addLiveRequest, await readJson(c));
      const mark = await findMark(pool, asId(markId, 'mark'));
      const brand = await findBrand(pool, mark.brandId);
      const names = { brand: brand.name, mark: mark.name, date: mark.updatedAt.slice(0, 10), version: mark.revision };
      // The address stays while sizes change: its name tells none.
      const files = { ...mark.recipe.files, pattern: lastingPattern(mark.recipe.files.pattern) };
      const file = planFiles({ ...mark.recipe, files }, names).find((f) => f.line.id === lineId);
      if (!file) throw new CoreError('store/not-found', 'The mark has no such size line any more.');
      const name = file.name({ width: 1, height: 1, ppi: null });
      const key = randomBytes(KEY_BYTES).toString('base64url');
      const id = await withTransaction(pool, (tx) => addLive(tx, { key, markId, lineId, name }));
      return c.json(await findLive(pool, id), 201);
    })
    .delete(paths.oneLive(':id'), async (c) => {
      await removeLive(pool, asId(c.req.param('id'), 'live address'));
      return c.body(null, 204);
    });

/**
 * Whoever shows the file asks whether it is still the newest, and mostly hears that it is. Any page may show it; as a
 * page of its own it can do nothing.
 */
const HEADERS = {
  'Cache-Control': 'public, no-cache',
  'Access-Control-Allow-Origin': '*',
  'Cross-Origin-Resource-Policy': 'cross-origin',
  'X-Content-Type-Options': 'nosniff',
  'Content-Security-Policy': "default-src 'none'; style-src 'unsafe-inline'; sandbox",
};

/** The addresses themselves: open to whoever has one. */
export const openLiveRoutes = ({ live }: AppDeps) =>
  new Hono().get(paths.live(':key', ':name'), async (c) => {
    const key = c.req.param('key') ?? '';
    const file = await live.find(key);
    if (!file || file.name !== c.req.param('name'))
      return c.text('There is nothing under this address.\n', 404, { 'Cache-Control': 'no-store' });
    live.count(key);
    const headers = { ...HEADERS, ETag: file.tag };
    const known = c.req.header('if-none-match');
    if (known && isKnown(known, file.tag)) return c.body(null, 304, headers);
    return c.body(file.bytes, 200, {
      ...headers,
      'Content-Type': file.type,
      'Content-Length': String(file.bytes.length),
    });
  });

/** @see RFC 9110, 13.1.2: a list of tags, compared weakly, or any */
const isKnown = (list: string, tag: string): boolean =>
  list.trim() === '*' || list.split(',').some((own) => own.trim().replace(/^W\//, '') === tag);
