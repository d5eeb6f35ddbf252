import { Hono } from 'hono';
import { paths } from '../../contract/paths';
import {
  addSiblingsRequest,
  changeMarkRequest,
  checkBody,
  makeMarkRequest,
  saveRecipeRequest,
} from '../../contract/requests';
import { CoreError } from '../../core/errors';
import { readRecipe } from '../../core/recipe/recipe';
import type { AppDeps } from '../deps';
import { MOST_BYTES } from '../../codecs/decodePicture';
import { findBrand } from '../store/brands';
import { asId, withTransaction } from '../store/db';
import { addSiblings, changeMark, findMark, listMarks, removeMark, saveRecipe, stepHistory } from '../store/marks';
import { makeMark } from '../makeMark';
import { takeIn } from '../takeIn';
import { limitBody, limitJson, readJson } from './readJson';

export const markRoutes = ({ pool, core }: AppDeps) =>
  new Hono()
    .get(paths.brandMarks(':id'), async (c) => c.json(await listMarks(pool, asId(c.req.param('id'), 'brand'))))
    .post(paths.brandMarks(':id'), limitUpload, async (c) => {
      const brand = await findBrand(pool, asId(c.req.param('id'), 'brand'));
      const name = cleanName(c.req.query('name'));
      const bytes = new Uint8Array(await c.req.arrayBuffer());
      const taken = await takeIn({ pool, core }, brand.id, bytes, name);
      return c.json(taken, taken.isDuplicate ? 200 : 201);
    })
    .post(paths.brandMade(':id'), limitJson, async (c) => {
      const brand = await findBrand(pool, asId(c.req.param('id'), 'brand'));
      const taken = await makeMark({ pool, core }, brand.id, await checkBody(makeMarkRequest, await readJson(c)));
      return c.json(taken, taken.isDuplicate ? 200 : 201);
    })
    .get(paths.mark(':id'), async (c) => c.json(await findMark(pool, asId(c.req.param('id'), 'mark'))))
    .patch(paths.mark(':id'), limitJson, async (c) => {
      const change = await checkBody(changeMarkRequest, await readJson(c));
      return c.json(await changeMark(pool, asId(c.req.param('id'), 'mark'), change));
    })
    .delete(paths.mark(':id'), async (c) => {
      await removeMark(pool, asId(c.req.param('id'), 'mark'));
      return c.body(null, 204);
    })
    .put(paths.markRecipe(':id'), limitJson, async (c) => {
      const id = asId(c.req.param('id'), 'mark');
      const body = await checkBody(saveRecipeRequest, await readJson(c));
      const recipe = readRecipe(body.recipe);
      return c.json(await withTransaction(pool, (tx) => saveRecipe(tx, id, body.basedOn, recipe, body.why)));
    })
    .post(paths.markSiblings(':id'), limitJson, async (c) => {
      const id = asId(c.req.param('id'), 'mark');
      const { marks } = await checkBody(addSiblingsRequest, await readJson(c));
      const siblings = marks.map((m) => ({ name: m.name, recipe: readRecipe(m.recipe) }));
      const added = await withTransaction(pool, (tx) => addSiblings(tx, id, siblings));
      return c.json(await Promise.all(added.map((one) => findMark(pool, one))), 201);
    })
    .post(paths.markStep(':id', 'undo'), async (c) =>
      c.json(await withTransaction(pool, (tx) => stepHistory(tx, asId(c.req.param('id'), 'mark'), 'undo'))),
    )
    .post(paths.markStep(':id', 'redo'), async (c) =>
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

const MOST_UPLOAD_MB = MOST_BYTES / 1048576;

const limitUpload = limitBody(MOST_UPLOAD_MB, (c) => {
  const name = cleanName(c.req.query('name'));
  const declared = Math.ceil(Number(c.req.header('content-length') ?? 0) / 1048576);
  const size = declared > MOST_UPLOAD_MB ? `${declared} MB` : `more than ${MOST_UPLOAD_MB} MB`;
  return new CoreError(
    'intake/too-large',
    `${name} has ${size}; the most is ${MOST_UPLOAD_MB} MB. Save it smaller, or as JPEG.`,
    { file: name },
  );
});
