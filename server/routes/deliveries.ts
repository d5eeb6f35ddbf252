import { Hono } from 'hono';
import { paths } from '../../contract/paths';
import { streamSSE } from 'hono/streaming';
import { addDeliveryRequest, checkBody } from '../../contract/requests';
import { CoreError } from '../../core/errors';
import { slug } from '../../core/recipe/fileNames';
import type { AppDeps } from '../deps';
import { announce } from '../jobs/makeDelivery';
import { planFiles } from '../planFiles';
import { readBlob } from '../store/blobs';
import { findBrand } from '../store/brands';
import { asId } from '../store/db';
import { addDelivery, cancelDelivery, findDelivery, findZip, listDeliveries } from '../store/deliveries';
import { findMark } from '../store/marks';
import { attachment } from './respond';
import { limitJson, readJson } from './readJson';

/** How often a stream looks for itself, should a notice get lost. */
const LOOK_AGAIN_MS = 2000;
const hasEnded = (state: string) => state !== 'waiting' && state !== 'making';

export const deliveryRoutes = ({ pool, jobs, events }: AppDeps) =>
  new Hono()
    .post(paths.markDeliveries(':id'), limitJson, async (c) => {
      const { basedOn } = await checkBody(addDeliveryRequest, await readJson(c));
      const mark = await findMark(pool, asId(c.req.param('id'), 'mark'));
      if (mark.revision !== basedOn)
        throw new CoreError(
          'store/conflict',
          'This mark was changed in another window. Look at it again, then make the files.',
        );
      const brand = await findBrand(pool, mark.brandId);
      const plan = planFiles(mark.recipe, { brand: brand.name, mark: mark.name });
      if (plan.length === 0)
        throw new CoreError('request/invalid', 'There is no size line to make a file of. Add one first.');
      const id = await addDelivery(pool, mark.id, mark.revision, plan.length, `${slug(mark.name) || 'mark'}-files.zip`);
      await jobs.addDelivery(id);
      return c.json(await findDelivery(pool, id), 201);
    })
    .get(paths.brandDeliveries(':id'), async (c) => {
      const markId = c.req.query('mark');
      return c.json(await listDeliveries(pool, asId(c.req.param('id'), 'brand'), markId ? asId(markId, 'mark') : null));
    })
    .get(paths.delivery(':id'), async (c) => c.json(await findDelivery(pool, asId(c.req.param('id'), 'delivery'))))
    .post(paths.deliveryCancel(':id'), async (c) => {
      const id = asId(c.req.param('id'), 'delivery');
      await cancelDelivery(pool, id);
      await announce(pool, id);
      return c.json(await findDelivery(pool, id));
    })
    .get(paths.deliveryZip(':id'), async (c) => {
      const zip = await findZip(pool, asId(c.req.param('id'), 'delivery'));
      if (!zip) throw new CoreError('store/not-found', 'This delivery has no files yet.');
      const { bytes } = await readBlob(pool, zip.sha);
      c.header('Content-Type', 'application/zip');
      c.header('Content-Disposition', attachment(zip.name));
      return c.body(bytes as Buffer<ArrayBuffer>);
    })
    .get(paths.deliveryEvents(':id'), async (c) => {
      const id = asId(c.req.param('id'), 'delivery');
      await findDelivery(pool, id);
      return streamSSE(c, async (stream) => {
        let wake = () => {};
        const end = events.subscribe(id, () => wake());
        stream.onAbort(end);
        try {
          while (!stream.aborted) {
            const moved = new Promise<void>((resolve) => (wake = resolve));
            const delivery = await findDelivery(pool, id);
            await stream.writeSSE({ event: 'delivery', data: JSON.stringify(delivery) });
            if (hasEnded(delivery.state)) return;
            await Promise.race([moved, stream.sleep(LOOK_AGAIN_MS)]);
          }
        } finally {
          end();
        }
      });
    });
