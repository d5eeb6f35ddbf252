import { Hono } from 'hono';
import { paths } from '../../contract/paths';
import { streamSSE } from 'hono/streaming';
import { addDeliveryRequest, checkBody } from '../../contract/requests';
import { CoreError, isCoreError } from '../../core/errors';
import { formats } from '../../core/formats';
import { slug } from '../../core/recipe/fileNames';
import { checkOrder } from '../../core/recipe/fileOrder';
import { layOutFile } from '../../core/recipe/makeFile';
import { type PlannedFile, planFiles } from '../../core/recipe/planFiles';
import type { FileLayout } from '../../core/sizes/size';
import { cutToBytes } from '../../core/text/cutText';
import type { CorePool } from '../corePool';
import type { MarkView } from '../../contract/views';
import type { AppDeps } from '../deps';
import { announce } from '../jobs/makeDelivery';
import { findBrand } from '../store/brands';
import { asId, isDatabaseAway, withTransaction } from '../store/db';
import { addDelivery, cancelDelivery, findDelivery, findZip, listDeliveries, retryDelivery } from '../store/deliveries';
import { findMark } from '../store/marks';
import { attachment, sendBlob } from './respond';
import { limitJson, readJson } from './readJson';

/** How often a stream looks for itself, should a notice get lost. */
const LOOK_AGAIN_MS = 2000;
/** With its ending, a ZIP's name is no longer than file systems take. */
const MOST_ZIP_STEM = 200;
const hasEnded = (state: string) => state !== 'waiting' && state !== 'making';

export const deliveryRoutes = ({ pool, core, events }: AppDeps) =>
  new Hono()
    .post(paths.markDeliveries(':id'), limitJson, async (c) => {
      const { basedOn } = await checkBody(addDeliveryRequest, await readJson(c));
      const mark = await findMark(pool, asId(c.req.param('id'), 'mark'));
      if (mark.revision !== basedOn)
        throw new CoreError(
          'store/conflict',
          'This mark was changed in another window. Look at it again, then make the files.',
          { current: mark },
        );
      const brand = await findBrand(pool, mark.brandId);
      const plan = planFiles(mark.recipe, {
        ...{ brand: brand.name, mark: mark.name, version: mark.revision },
        date: new Date().toISOString().slice(0, 10),
      });
      if (plan.length === 0)
        throw new CoreError('request/invalid', 'There is no size line to make a file of. Add one first.');
      for (const file of plan) checkPage(core, file, mark);
      const zipName = `${cutToBytes(slug(mark.name), MOST_ZIP_STEM) || 'mark'}-files.zip`;
      const id = await withTransaction(pool, (tx) => addDelivery(tx, mark.id, mark.revision, plan.length, zipName));
      return c.json(await findDelivery(pool, id), 201);
    })
    .get(paths.brandDeliveries(':id'), async (c) => {
      const markId = c.req.query('mark');
      const { id } = await findBrand(pool, asId(c.req.param('id'), 'brand'));
      return c.json(await listDeliveries(pool, id, markId ? asId(markId, 'mark') : null));
    })
    .get(paths.delivery(':id'), async (c) => c.json(await findDelivery(pool, asId(c.req.param('id'), 'delivery'))))
    .post(paths.deliveryCancel(':id'), async (c) => {
      const id = asId(c.req.param('id'), 'delivery');
      await cancelDelivery(pool, id);
      await announce(pool, id);
      return c.json(await findDelivery(pool, id));
    })
    .post(paths.deliveryAgain(':id'), async (c) => {
      const id = asId(c.req.param('id'), 'delivery');
      await withTransaction(pool, (tx) => retryDelivery(tx, id));
      await announce(pool, id);
      return c.json(await findDelivery(pool, id));
    })
    .get(paths.deliveryZip(':id'), async (c) => {
      const zip = await findZip(pool, asId(c.req.param('id'), 'delivery'));
      if (!zip) throw new CoreError('store/not-found', 'This delivery has no files yet.');
      c.header('Content-Disposition', attachment(zip.name));
      return sendBlob(c, pool, zip.sha);
    })
    .get(paths.deliveryEvents(':id'), async (c) => {
      const id = asId(c.req.param('id'), 'delivery');
      await findDelivery(pool, id);
      return streamSSE(c, async (stream) => {
        let wake = () => {};
        const end = events.subscribe(id, () => wake());
        stream.onAbort(end);
        try {
          while (!stream.aborted && !events.isClosed) {
            const moved = new Promise<void>((resolve) => (wake = resolve));
            const delivery = await findDelivery(pool, id).catch((error: unknown) => {
              // A stream outlives a short absence of the database.
              if (isDatabaseAway(error)) return null;
              throw error;
            });
            if (!delivery) {
              await stream.sleep(LOOK_AGAIN_MS);
              continue;
            }
            await stream.writeSSE({ event: 'delivery', data: JSON.stringify(delivery) });
            if (hasEnded(delivery.state)) return;
            await Promise.race([moved, stream.sleep(LOOK_AGAIN_MS)]);
          }
        } finally {
          end();
        }
      });
    });

/** Shapes that a mark may turn out to have, however wide or tall its picture is. */
const SHAPES = [
  { width: 2000, height: 20 },
  { width: 20, height: 2000 },
];

/**
 * Tells before anything is begun what cannot be made here whatever the mark's shape, which is known only once it is cut
 * out.
 * @throws CoreError 'memory/too-little'
 */
function checkPage(core: CorePool, { order, name }: PlannedFile, { width, height }: MarkView): void {
  checkOrder(order);
  if (formats.get(order.format.id).accepts === 'paths') return;
  const pages = [{ width, height }, ...SHAPES].flatMap((shape) => {
    try {
      return [layOutFile(shape, order)];
    } catch (error) {
      if (isCoreError(error)) return [];
      throw error;
    }
  });
  const area = (page: FileLayout) => page.width * page.height;
  if (pages.length === 0) return;
  const least = pages.reduce((a, b) => (area(b) < area(a) ? b : a));
  core.checkPage(name({ width: least.width, height: least.height, ppi: least.ppi }), least);
}
