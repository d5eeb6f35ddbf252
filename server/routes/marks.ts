import { Hono } from 'hono';
import {
  addSiblingsRequest,
  changeMarkRequest,
  checkBody,
  makeMarkRequest,
  saveRecipeRequest,
} from '../../contract/requests';
import { CoreError } from '../../core/errors';
import { readRecipe } from '../../core/recipe/recipe';
import type { AppDeps } from '../app';
import { MOST_BYTES } from '../../codecs/decodePicture';
import { findBrand } from '../store/brands';
import { asId, withTransaction } from '../store/db';
import { addSiblings, changeMark, findMark, listMarks, removeMark, saveRecipe, stepHistory } from '../store/marks';
import { makeMark } from '../makeMark';
import { takeIn } from '../takeIn';
import { readJson } from './readJson';

export const markRoutes = ({ pool, core }: AppDeps) =>
  new Hono()
    .get('/api/brands/:id/marks', async (c) => c.json(await listMarks(pool, asId(c.req.param('id'), 'brand'))))
    .post('/api/brands/:id/marks', async (c) => {
      const brand = await findBrand(pool, asId(c.req.param('id'), 'brand'));
      const name = cleanName(c.req.query('name'));
      const bytes = await readUpload(c.req.raw, name);
      const taken = await takeIn({ pool, core }, brand.id, bytes, name);
      return c.json(taken, taken.isDuplicate ? 200 : 201);
    })
    .post('/api/brands/:id/made', async (c) => {
      const brand = await findBrand(pool, asId(c.req.param('id'), 'brand'));
      const taken = await makeMark({ pool, core }, brand.id, await checkBody(makeMarkRequest, await readJson(c)));
      return c.json(taken, taken.isDuplicate ? 200 : 201);
    })
    .get('/api/marks/:id', async (c) => c.json(await findMark(pool, asId(c.req.param('id'), 'mark'))))
    .patch('/api/marks/:id', async (c) => {
      const change = await checkBody(changeMarkRequest, await readJson(c));
      return c.json(await changeMark(pool, asId(c.req.param('id'), 'mark'), change));
    })
    .delete('/api/marks/:id', async (c) => {
      await removeMark(pool, asId(c.req.param('id'), 'mark'));
      return c.body(null, 204);
    })
    .put('/api/marks/:id/recipe', async (c) => {
      const id = asId(c.req.param('id'), 'mark');
      const body = await checkBody(saveRecipeRequest, await readJson(c));
      const recipe = readRecipe(body.recipe);
      return c.json(await withTransaction(pool, (tx) => saveRecipe(tx, id, body.basedOn, recipe, body.why)));
    })
    .post('/api/marks/:id/siblings', async (c) => {
      const id = asId(c.req.param('id'), 'mark');
      const { marks } = await checkBody(addSiblingsRequest, await readJson(c));
      const siblings = marks.map((m) => ({ name: m.name, recipe: readRecipe(m.recipe) }));
      const added = await withTransaction(pool, (tx) => addSiblings(tx, id, siblings));
      return c.json(await Promise.all(added.map((one) => findMark(pool, one))), 201);
    })
    .post('/api/marks/:id/undo', async (c) =>
      c.json(await withTransaction(pool, (tx) => stepHistory(tx, asId(c.req.param('id'), 'mark'), 'undo'))),
    )
    .post('/api/marks/:id/redo', async (c) =>
      c.json(await withTransaction(pool, (tx) => stepHistory(tx, asId(c.req.param('id'), 'mark'), 'redo'))),
    );

/** A file's own name as a client gave it: no folders, no control characters, not too long. */
function cleanName(given: string | undefined): string {
  const name = (given ?? '')
    .replace(/^.*[\\/]/, '')
    // eslint-disable-next-line no-control-regex
    .replace(/[\u0000-\u001f\u007f]/g, '')
    .trim()
    .slice(0, 200);
  return name || 'unnamed file';
}

/** The body's bytes, stopped as soon as they are too many. @throws CoreError 'intake/too-large' naming the file */
async function readUpload(request: Request, name: string): Promise<Uint8Array> {
  const tooLarge = (size: number) =>
    new CoreError(
      'intake/too-large',
      `${name} has ${Math.ceil(size / 1048576)} MB or more; the most is 80 MB. Save it smaller, or as JPEG.`,
      { file: name },
    );
  const declared = Number(request.headers.get('content-length') ?? 0);
  if (declared > MOST_BYTES) throw tooLarge(declared);
  const chunks: Uint8Array[] = [];
  let size = 0;
  for await (const chunk of (request.body ?? []) as AsyncIterable<Uint8Array>) {
    size += chunk.length;
    if (size > MOST_BYTES) throw tooLarge(size);
    chunks.push(chunk);
  }
  return Buffer.concat(chunks);
}
