import { formatHost } from '../codecs/formatHost';
import { readBack } from '../codecs/readBack';
import { artworkOfRaster } from '../core/artwork/artwork';
import { formats } from '../core/formats';
import type { Raster } from '../core/raster/raster';
import { type PreparedFile, makeFile } from '../core/recipe/makeFile';
import { partOf } from '../core/recipe/recipe';
import { sizes } from '../core/sizes';
import { writeWhole } from './command';

export interface PictureJob {
  readonly output: string;
  /** The id of a format of pixels. */
  readonly format: string;
  /** A width, or an exact box, px; null for the picture's own grid. */
  readonly size: { readonly width: number; readonly height: number | null } | null;
}

/** A cut-out picture in another format or size than it has, read back before it appears under its name. */
export async function writePicture(job: PictureJob, picture: Raster): Promise<void> {
  const format = partOf(formats, job.format);
  const { prepared, bytes } = await made(job, picture);
  await readBack(bytes, prepared, format, job.output);
  writeWhole(job.output, bytes);
}

async function made(
  { size, format: id }: PictureJob,
  picture: Raster,
): Promise<{ prepared: PreparedFile; bytes: Uint8Array }> {
  const format = partOf(formats, id);
  const { squares, write } = formats.get(id);
  if (size || squares) {
    const width = size?.width ?? picture.width;
    const height = size?.height ?? null;
    const asked =
      height === null
        ? partOf(sizes, 'width', { widthPx: width })
        : partOf(sizes, 'box', { widthPx: width, heightPx: height });
    const file = await makeFile(artworkOfRaster(picture), { size: asked, format }, formatHost);
    return { prepared: file, bytes: file.bytes };
  }
  const { width, height } = picture;
  const content = { widthPx: width, heightPx: height, ppi: null, raster: picture, drawing: null };
  const layout = { width, height, mark: { x: 0, y: 0, width, height }, enlargement: 1, ppi: null };
  return { prepared: { content, layout }, bytes: await write(content, format.params as never, formatHost) };
}
