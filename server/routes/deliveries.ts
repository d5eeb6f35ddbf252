import { crc32 } from 'node:zlib';
import { Hono } from 'hono';
import { paths } from '../../contract/paths';
import { streamSSE } from 'hono/streaming';
import { addBrandDeliveryRequest, addDeliveryRequest, checkBody } from '../../contract/requests';
import { CoreError, isCoreError } from '../../core/errors';
import { formats } from '../../core/formats';
import { slug } from '../../core/recipe/fileNames';
import { checkOrder } from '../../core/recipe/fileOrder';
import { layOutFile } from '../../core/recipe/makeFile';
import { type PlannedFile, planFiles } from '../../core/recipe/planFiles';
import type { FileLayout } from '../../core/sizes/size';
import { cutToBytes } from '../../core/text/cutText';
import type { CorePool } from '../corePool';
import { type ZipEntry, zipLength, zipStream } from '../../codecs/zipStream';
import type { DeliveryView, MarkView } from '../../contract/views';
import type { AppDeps } from '../deps';
import { writeReceipt, writeReceiptJson } from '../jobs/receipt';
import { readBlob } from '../store/blobs';
import { findBrand } from '../store/brands';
import { asId, isDatabaseAway, withTransaction } from '../store/db';
import {
  type MadeFile,
  addDelivery,
  announce,
  cancelDelivery,
  findDeliveredFile,
  findDelivery,
  findZip,
  listDeliveries,
  retryDelivery,
} from '../store/deliveries';
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
      checkSeen(mark, basedOn);
      return c.json(await askFor({ pool, core }, [mark]), 201);
    })
    .post(paths.brandDeliveries(':id'), limitJson, async (c) => {
      const { id } = await findBrand(pool, asId(c.req.param('id'), 'brand'));
      const { marks: asked } = await checkBody(addBrandDeliveryRequest, await readJson(c));
      const marks: MarkView[] = [];
      for (const { id: markId, basedOn } of asked) {
        const mark = await findMark(pool, asId(markId, 'mark'));
        if (mark.brandId !== id)
          throw new CoreError(
            'request/invalid',
            `${mark.name} belongs to another brand. One delivery is of one brand.`,
          );
        checkSeen(mark, basedOn);
        marks.push(mark);
      }
      return c.json(await askFor({ pool, core }, marks), 201);
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
      const before = await findDelivery(pool, id);
      if (before.state === 'ready') {
        // What was delivered stays as it was; the files of today are another delivery.
        const marks = await Promise.all(before.marks.map((m) => findMark(pool, m.id)));
        return c.json(await askFor({ pool, core }, marks), 201);
      }
      await withTransaction(pool, (tx) => retryDelivery(tx, id));
      await announce(pool, id);
      return c.json(await findDelivery(pool, id));
    })
    .get(paths.deliveryZip(':id'), async (c) => {
      const id = asId(c.req.param('id'), 'delivery');
      const delivery = await findDelivery(pool, id);
      const zip = await findZip(pool, id);
      if (!zip) throw new CoreError('store/not-found', 'This delivery has no files yet.');
      c.header('Content-Disposition', attachment(zip.name));
      if (zip.sha) return sendBlob(c, pool, zip.sha);
      const entries = entriesOf(pool, delivery, zip.files);
      c.header('Content-Type', 'application/zip');
      c.header('Content-Length', String(zipLength(entries)));
      return c.body(ReadableStream.from(zipStream(entries)) as ReadableStream);
    })
    .get(paths.deliveryFile(':id', ':position'), async (c) => {
      const position = Number(c.req.param('position'));
      if (!Number.isInteger(position) || position < 0 || position > MOST_POSITION)
        throw new CoreError('store/not-found', 'This delivery has no such file.');
      const { name, sha } = await findDeliveredFile(pool, asId(c.req.param('id'), 'delivery'), position);
      c.header('Content-Disposition', attachment(name.split('/').pop() as string));
      return sendBlob(c, pool, sha);
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

const MOST_POSITION = 1_000_000;

function checkSeen(mark: MarkView, basedOn: number): void {
  if (mark.revision === basedOn) return;
  throw new CoreError(
    'store/conflict',
    'This mark was changed in another window. Look at it again, then make the files.',
    { current: mark },
  );
}

/**
 * Checks all lines of some marks, and has their files made.
 * @throws CoreError 'request/invalid' when there is nothing to make, and whatever cannot be made, before any is begun
 */
async function askFor(
  { pool, core }: Pick<AppDeps, 'pool' | 'core'>,
  marks: readonly MarkView[],
): Promise<DeliveryView> {
  let fileCount = 0;
  for (const mark of marks) {
    const brand = await findBrand(pool, mark.brandId);
    const plan = planFiles(mark.recipe, {
      ...{ brand: brand.name, mark: mark.name, version: mark.revision },
      date: new Date().toISOString().slice(0, 10),
    });
    if (plan.length === 0)
      throw new CoreError('request/invalid', `${mark.name} has no size line to make a file of. Add one first.`);
    for (const file of plan) checkPage(core, file, mark);
    fileCount += plan.length;
  }
  const stem = marks.length === 1 ? slug(marks[0].name) || 'mark' : 'marks';
  const zipName = `${cutToBytes(stem, MOST_ZIP_STEM)}-files.zip`;
  const order = { marks: marks.map(({ id, revision }) => ({ id, revision })), fileCount, zipName };
  const id = await withTransaction(pool, (tx) => addDelivery(tx, order));
  return findDelivery(pool, id);
}

/** What an archive holds: the files, and what was read back from them as text and for programs. */
function entriesOf(pool: AppDeps['pool'], { marks }: DeliveryView, files: readonly MadeFile[]): ZipEntry[] {
  const title = marks.map((m) => m.name).join(', ');
  const text = (name: string, content: string): ZipEntry => {
    const bytes = new TextEncoder().encode(content);
    return { name, size: bytes.length, crc32: crc32(bytes), read: async () => bytes };
  };
  return [
    ...files.map((f) => ({
      ...{ name: f.name, size: f.size, crc32: f.crc32 },
      read: async () => (await readBlob(pool, f.blobSha)).bytes,
    })),
    text('receipt.txt', writeReceipt(title, files)),
    text('receipt.json', writeReceiptJson(title, files)),
  ];
}

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
