import { CoreError } from '../core/errors';
import type { Raster } from '../core/raster/raster';
import { type PdfPixels, readPage, withPdf } from './readPdfPage';

const MOST_PIXELS = 120_000_000;

/**
 * The pixels of a picture on a page of a PDF file, the right way up.
 * @param index  its place in the page's `pictures`
 * @throws CoreError 'intake/…' naming the file and what is wrong
 */
export const readPdfPicture = (bytes: Uint8Array, name: string, number: number, index: number): Promise<Raster> =>
  withPdf(bytes, name, async (pdf) => {
    const picture = (await readPage(pdf, name, number)).pictures[index];
    if (!picture?.source)
      throw new CoreError('intake/no-paths', `${name}: page ${number} has no picture there that can be taken.`, {
        file: name,
      });
    const { source, flips } = picture;
    if (typeof source !== 'string') return flipped(pixelsOf(source, name), flips);
    const page = await pdf.getPage(number);
    const objects = source.startsWith('g_') ? page.commonObjs : page.objs;
    const pixels = await new Promise<PdfPixels>((resolve) => objects.get(source, resolve));
    return flipped(pixelsOf(pixels, name), flips);
  });

function pixelsOf({ width, height, kind, data }: PdfPixels, name: string): Raster {
  const isWhole = data && width > 0 && height > 0 && width * height <= MOST_PIXELS;
  if (!isWhole)
    throw new CoreError('intake/damaged', `${name}: the picture on this page cannot be read.`, { file: name });
  const out = new Uint8Array(width * height * 4).fill(255);
  const rowBytes = (width + 7) >> 3;
  for (let y = 0, p = 0; y < height; y++) {
    for (let x = 0; x < width; x++, p++) {
      if (kind === 1) {
        const isLight = (data[y * rowBytes + (x >> 3)] >> (7 - (x & 7))) & 1;
        out.fill(isLight ? 255 : 0, p * 4, p * 4 + 3);
        continue;
      }
      const step = kind === 3 ? 4 : 3;
      for (let c = 0; c < step; c++) out[p * 4 + c] = data[p * step + c];
    }
  }
  return { width, height, data: out };
}

function flipped(raster: Raster, { across, down }: { across: boolean; down: boolean }): Raster {
  if (!across && !down) return raster;
  const { width, height, data } = raster;
  const from = new Uint32Array(data.buffer);
  const to = new Uint32Array(from.length);
  for (let y = 0; y < height; y++) {
    const row = (down ? height - 1 - y : y) * width;
    for (let x = 0; x < width; x++) to[y * width + x] = from[row + (across ? width - 1 - x : x)];
  }
  return { width, height, data: new Uint8Array(to.buffer) };
}
