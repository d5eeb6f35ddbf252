// npm run bench -- --files: 200 files of eight marks in one delivery, beside bare sharp that does the same encodes.
import { unzipSync } from 'fflate';
import { availableParallelism } from 'node:os';
import sharp from 'sharp';
import { paths } from '../../contract/paths';
import type { BrandView, DeliveryView, MarkView, TakenIn } from '../../contract/views';
import { readMemory } from '../support/fuzzRun';
import { ask } from '../support/ask';
import { createOwnCluster } from '../support/ownCluster';
import { disc, drawMark, either, onGround, pngOf, ring } from '../support/pictures';
import { type TestServer, startServer, stopServer } from '../support/testServer';

const MARKS = 8;
const FORMATS = ['png', 'png', 'png', 'webp', 'tiff'];
const VARIANTS = ['colour', 'black', 'reversed', 'black', 'reversed'];
const say = (line: string) => process.stdout.write(`${line}\n`);

/** Twenty-five lines: five sizes of five formats. */
const lines = [400, 700, 1000, 1300, 1500].flatMap((widthPx, k) =>
  FORMATS.map((format, n) => ({
    ...{ id: `l${k}-${n}`, variant: VARIANTS[n], purpose: 'web', format: { id: format, params: {} } },
    size: { id: 'width', params: { widthPx: widthPx + n, paddingPct: 0 } },
  })),
);

async function takeIn(server: TestServer, brand: BrandView, k: number): Promise<MarkView> {
  const shape = either(ring(900, 750, 700, 520 - k * 10), disc(900, 750, 260 + k * 9));
  const bytes = await pngOf(onGround(drawMark(1800, 1500, shape, [31, 90 + k, 69]), [250, 250, 248]));
  const { mark } = await ask<TakenIn>(server, 'POST', `${paths.brandMarks(brand.id)}?name=mark-${k}.png`, bytes);
  const recipe = { ...mark.recipe, files: { pattern: '{mark}-{variant}-{width}', lines } };
  return ask<MarkView>(server, 'PUT', paths.markRecipe(mark.id), { basedOn: mark.revision, why: 'bench', recipe });
}

/**
 * The same encodes by bare sharp, as many at a time as there are cores.
 * @param isReduced  it also makes each picture out of the largest, as a script without any check would
 * @returns seconds
 */
async function bare(files: readonly { name: string; bytes: Uint8Array }[], isReduced: boolean): Promise<number> {
  const decoded: { name: string; data: Buffer; width: number; height: number }[] = [];
  for (const { name, bytes } of files) {
    const { data, info } = await sharp(bytes).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
    decoded.push({ name, data, width: info.width, height: info.height });
  }
  sharp.concurrency(1);
  const largest = decoded.reduce((a, b) => (b.width > a.width ? b : a));
  const begun = performance.now();
  let next = 0;
  const turn = async () => {
    while (next < decoded.length) {
      const { name, data, width, height } = decoded[next++];
      const from = isReduced ? largest : { data, width, height };
      const raw = { width: from.width, height: from.height, channels: 4 as const };
      const opened = sharp(from.data, { raw });
      const picture = isReduced ? opened.resize(width, height, { fit: 'fill' }) : opened;
      if (name.endsWith('webp')) await picture.webp({ lossless: true, exact: true, effort: 4 }).toBuffer();
      else if (name.endsWith('tif')) await picture.tiff({ compression: 'none' }).toBuffer();
      else await picture.png({ compressionLevel: 7 }).toBuffer();
    }
  };
  await Promise.all(Array.from({ length: availableParallelism() }, turn));
  return (performance.now() - begun) / 1000;
}

const cluster = await createOwnCluster('bench-files');
const server = await startServer(cluster.config);
try {
  const brand = await ask<BrandView>(server, 'POST', paths.brands, { name: 'Files', palette: [] });
  const marks: MarkView[] = [];
  for (let k = 0; k < MARKS; k++) marks.push(await takeIn(server, brand, k));
  // Small pictures of the cards are made in the meantime.
  await new Promise((r) => setTimeout(r, 6000));
  const pid = server.child.pid as number;
  let most = 0;
  const timer = setInterval(() => (most = Math.max(most, readMemory(pid))), 20);
  const begun = performance.now();
  const body = { marks: marks.map((m) => ({ id: m.id, basedOn: m.revision })) };
  let done = await ask<DeliveryView>(server, 'POST', paths.brandDeliveries(brand.id), body);
  while (done.state === 'waiting' || done.state === 'making') {
    await new Promise((r) => setTimeout(r, 30));
    done = await ask<DeliveryView>(server, 'GET', paths.delivery(done.id));
  }
  const seconds = (performance.now() - begun) / 1000;
  clearInterval(timer);
  if (done.state !== 'ready') throw new Error(done.problem ?? done.state);
  const zip = unzipSync(new Uint8Array(await (await fetch(server.url + paths.deliveryZip(done.id))).arrayBuffer()));
  const files = Object.entries(zip).flatMap(([name, bytes]) => (name.startsWith('receipt') ? [] : [{ name, bytes }]));
  const alone = await bare(files, false);
  const reduced = await bare(files, true);
  say(
    `${files.length} files of ${MARKS} marks: ${seconds.toFixed(1)} s with everything, ${alone.toFixed(1)} s by bare ` +
      `sharp, ${(seconds / alone).toFixed(2)} times; with its own reductions ${reduced.toFixed(1)} s, ` +
      `${(seconds / reduced).toFixed(2)} times; server at most ${most} MB`,
  );
} finally {
  await stopServer(server);
  await cluster.remove();
}
