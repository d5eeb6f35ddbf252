import { type Context, Hono } from 'hono';
import { paths } from '../../contract/paths';
import {
  addSiblingsRequest,
  changeMarkRequest,
  checkBody,
  saveRecipeRequest,
  stepRequest,
} from '../../contract/requests';
import { CoreError } from '../../core/errors';
import { readRecipe } from '../../core/recipe/recipe';
import { cutToLength } from '../../core/text/cutText';
import type { AppDeps } from '../deps';
import { MOST_BYTES } from '../../codecs/decodePicture';
import { findBrand } from '../store/brands';
import { asId, withTransaction } from '../store/db';
import { addJob } from '../store/jobs';
import {
  addSiblings,
  changeMark,
  eraseMark,
  findMark,
  listFormerOriginals,
  listMarks,
  listRemoved,
  removeMark,
  returnMark,
  saveRecipe,
  stepHistory,
} from '../store/marks';
import { takeIn, takeInMade, takeNewOriginal } from '../takeIn';
import { limitBody, limitDrawn, limitJson, readJson } from './readJson';
import { attachment, sendBlob } from './respond';

/** While a control moves a recipe is saved every moment: only the last one is looked at. */
const LOOK_AFTER_MS = 1500;

export function markRoutes({ pool, core }: AppDeps) {
  const step = async (c: Context, way: 'undo' | 'redo') => {
    const { basedOn } = await checkBody(stepRequest, await readJson(c));
    const id = asId(c.req.param('id'), 'mark');
    return withTransaction(pool, (tx) => stepHistory(tx, id, basedOn, way));
  };

  return (
    new Hono()
      .get(paths.brandMarks(':id'), async (c) => {
        const { id } = await findBrand(pool, asId(c.req.param('id'), 'brand'));
        return c.json(await listMarks(pool, id));
      })
      .get(paths.brandRemoved(':id'), async (c) => {
        const { id } = await findBrand(pool, asId(c.req.param('id'), 'brand'));
        return c.json(await listRemoved(pool, id));
      })
      .post(paths.brandMarks(':id'), limitUpload, async (c) => {
        const brand = await findBrand(pool, asId(c.req.param('id'), 'brand'));
        const name = cleanName(c.req.query('name'));
        const bytes = new Uint8Array(await c.req.arrayBuffer());
        const taken = await takeIn({ pool, core }, brand.id, { bytes, name }, personOf(c));
        return c.json(taken, taken.isDuplicate ? 200 : 201);
      })
      .post(paths.brandMade(':id'), limitDrawn, async (c) => {
        const brand = await findBrand(pool, asId(c.req.param('id'), 'brand'));
        const body = new Uint8Array(await c.req.arrayBuffer());
        const taken = await takeInMade({ pool, core }, brand.id, body, personOf(c));
        return c.json(taken, taken.isDuplicate ? 200 : 201);
      })
      .get(paths.mark(':id'), async (c) => c.json(await findMark(pool, asId(c.req.param('id'), 'mark'))))
      .patch(paths.mark(':id'), limitJson, async (c) => {
        const { basedOn, ...change } = await checkBody(changeMarkRequest, await readJson(c));
        const id = asId(c.req.param('id'), 'mark');
        return c.json(await withTransaction(pool, (tx) => changeMark(tx, id, basedOn, change)));
      })
      // Removed marks can be brought back for 30 days, so removing asks for no revision; `forGood` has no way back.
      .delete(paths.mark(':id'), async (c) => {
        const id = asId(c.req.param('id'), 'mark');
        if (c.req.query('forGood') === '1') await withTransaction(pool, (tx) => eraseMark(tx, id));
        else await removeMark(pool, id);
        return c.body(null, 204);
      })
      .post(paths.markOriginal(':id'), limitUpload, async (c) => {
        const mark = await findMark(pool, asId(c.req.param('id'), 'mark'));
        const basedOn = Number(c.req.query('basedOn'));
        if (!Number.isInteger(basedOn))
          throw new CoreError('request/invalid', 'The request does not say which revision it is based on.');
        const name = cleanName(c.req.query('name'));
        const bytes = new Uint8Array(await c.req.arrayBuffer());
        return c.json(await takeNewOriginal({ pool, core }, mark, { bytes, name, basedOn }, personOf(c)));
      })
      .get(paths.formerOriginals(':id'), async (c) => {
        const { id } = await findMark(pool, asId(c.req.param('id'), 'mark'));
        const listed = await listFormerOriginals(pool, id);
        return c.json(listed.map(({ id: own, name, replacedAt }) => ({ id: own, name, replacedAt })));
      })
      .get(`${paths.formerOriginals(':id')}/:former`, async (c) => {
        const { id } = await findMark(pool, asId(c.req.param('id'), 'mark'));
        const former = (await listFormerOriginals(pool, id)).find((o) => String(o.id) === c.req.param('former'));
        if (!former) throw new CoreError('store/not-found', 'There is no such original.');
        c.header('Content-Disposition', attachment(former.name));
        return sendBlob(c, pool, former.sha);
      })
      .post(paths.markReturn(':id'), async (c) =>
        c.json(await withTransaction(pool, (tx) => returnMark(tx, asId(c.req.param('id'), 'mark')))),
      )
      .put(paths.markRecipe(':id'), limitJson, async (c) => {
        const id = asId(c.req.param('id'), 'mark');
        const body = await checkBody(saveRecipeRequest, await readJson(c));
        const recipe = readRecipe(body.recipe);
        const saved = await withTransaction(pool, async (tx) => {
          const mark = await saveRecipe(tx, id, body.basedOn, recipe, body.why);
          await addJob(tx, 'lookAt', id, LOOK_AFTER_MS);
          return mark;
        });
        return c.json(saved);
      })
      .post(paths.markSiblings(':id'), limitJson, async (c) => {
        const id = asId(c.req.param('id'), 'mark');
        const { basedOn, marks } = await checkBody(addSiblingsRequest, await readJson(c));
        const siblings = marks.map((m) => ({ name: m.name, recipe: readRecipe(m.recipe) }));
        const added = await withTransaction(pool, async (tx) => {
          const ids = await addSiblings(tx, id, basedOn, siblings);
          for (const one of ids) await addJob(tx, 'lookAt', one);
          return ids;
        });
        return c.json(await Promise.all(added.map((one) => findMark(pool, one))), 201);
      })
      .post(paths.markStep(':id', 'undo'), limitJson, async (c) => c.json(await step(c, 'undo')))
      .post(paths.markStep(':id', 'redo'), limitJson, async (c) => c.json(await step(c, 'redo')))
  );
}

/** A person who waits at the other end; when he leaves, the work for him ends. */
export const personOf = (c: Context) => ({ waiting: 'person' as const, signal: c.req.raw.signal });

/** A file's own name as a client gave it: no folders, no control characters, not too long. */
export function cleanName(given: string | undefined): string {
  const name = (given ?? '')
    .replace(/^.*[\\/]/, '')
    // eslint-disable-next-line no-control-regex
    .replace(/[\u0000-\u001f\u007f]/g, '')
    .trim();
  return cutToLength(name, 200) || 'unnamed file';
}

const MOST_UPLOAD_MB = MOST_BYTES / 1048576;

export const limitUpload = limitBody(MOST_UPLOAD_MB, (c) => {
  const name = cleanName(c.req.query('name'));
  const declared = Math.ceil(Number(c.req.header('content-length') ?? 0) / 1048576);
  const size = declared > MOST_UPLOAD_MB ? `${declared} MB` : `more than ${MOST_UPLOAD_MB} MB`;
  return new CoreError(
    'intake/too-large',
    `${name} has ${size}; the most is ${MOST_UPLOAD_MB} MB. Save it smaller, or as JPEG.`,
    { file: name },
  );
});
