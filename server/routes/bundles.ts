import { Hono } from 'hono';
import { paths } from '../../contract/paths';
import { type BundleTaken, NEW_BRAND } from '../../contract/bundles';
import { zipLength, zipStream } from '../../codecs/zipStream';
import { CoreError } from '../../core/errors';
import { MOST_BUNDLE_MB } from '../bundleTasks';
import { storeBundle } from '../bundle/storeBundle';
import { type WrittenBundle, bundleBrand, bundleMark } from '../bundle/writeBundle';
import type { AppDeps } from '../deps';
import { asId } from '../store/db';
import { cleanName, personOf } from './marks';
import { limitBody } from './readJson';
import { attachment } from './respond';

const limitBundle = limitBody(MOST_BUNDLE_MB, (c) => {
  const name = cleanName(c.req.query('name'));
  return new CoreError('bundle/invalid', `${name} is larger than ${MOST_BUNDLE_MB} MB. Bundle its marks one by one.`, {
    file: name,
  });
});

/** A mark or a whole brand as one file, and taken in from one. */
export function bundleRoutes({ pool, core, pictures }: AppDeps) {
  const deps = { pool, core, pictures };
  const send = ({ name, entries }: WrittenBundle) =>
    new Response(ReadableStream.from(zipStream(entries)) as ReadableStream, {
      headers: {
        'Content-Type': 'application/zip',
        'Content-Disposition': attachment(`${name}-bundle.zip`),
        'Content-Length': String(zipLength(entries)),
        'Cache-Control': 'no-store',
      },
    });
  return new Hono()
    .get(paths.markBundle(':id'), async (c) =>
      send(await bundleMark(deps, asId(c.req.param('id'), 'mark'), personOf(c))),
    )
    .get(paths.brandBundle(':id'), async (c) =>
      send(await bundleBrand(deps, asId(c.req.param('id'), 'brand'), personOf(c))),
    )
    .post(paths.bundles, limitBundle, async (c) => {
      const name = cleanName(c.req.query('name'));
      const into = c.req.query('brand');
      const bytes = new Uint8Array(await c.req.arrayBuffer());
      const read = await core.readBundle({ bytes, name }, personOf(c));
      const stored = await storeBundle(pool, read, into && into !== NEW_BRAND ? asId(into, 'brand') : (into ?? null));
      const taken: BundleTaken = { ...stored, kind: read.manifest.kind, differ: read.differ };
      return c.json(taken, 201);
    });
}
