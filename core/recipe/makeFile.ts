import type { Artwork } from '../artwork/artwork';
import { type Drawing, placeDrawing } from '../artwork/drawing';
import { extentsOf } from '../artwork/extentsOf';
import { renderDrawing } from '../artwork/renderDrawing';
import { CoreError } from '../errors';
import { formats } from '../formats';
import type { FileContent, FormatHost } from '../formats/format';
import type { Matrix } from '../geometry/matrix';
import type { RectPx } from '../params';
import { bleedColours } from '../raster/bleedColours';
import { cropRaster } from '../raster/cropRaster';
import type { Raster } from '../raster/raster';
import { resizeRaster } from '../raster/resize';
import { sizes } from '../sizes';
import { type Extent, type FileLayout, anywhere, checkLayout, wholePixels } from '../sizes/size';
import type { Part } from './recipe';

/** What a file is made by: a line of a recipe, or as much of one. */
export interface FileOrder {
  readonly size: Part;
  readonly format: Part;
}

/**
 * Where a mark lies in its file.
 * @param extent  the mark's visible extents at its own full size
 * @param hasPaths  paths are rendered at the very size: nothing is enlarged
 * @throws CoreError 'size/impossible' when a side would be over 16384 px
 */
export function layOutFile(extent: Extent, { size, format }: FileOrder, hasPaths = false): FileLayout {
  const grid = formats.get(format.id).accepts === 'paths' ? anywhere : wholePixels;
  const layout = checkLayout(sizes.get(size.id).layOut(extent, size.params as never, grid));
  return hasPaths ? { ...layout, enlargement: 1 } : layout;
}

export interface PreparedFile {
  readonly content: FileContent;
  readonly layout: FileLayout;
}

/**
 * The page of one file: trimmed to what is visible, sized, padded. Paths stay paths where the format takes them, and
 * are rendered at the very size otherwise; pixels are resized, their colours carried into the clear part.
 * @throws CoreError 'cutout/nothing-left' when nothing is visible, 'format/needs-paths' for a format of paths without
 *   any,
 *   'size/impossible' for a size that cannot be made
 */
export function prepareFile(variant: Artwork, order: FileOrder): PreparedFile {
  const format = formats.get(order.format.id);
  const { drawing } = variant;
  if (format.accepts === 'paths' && !drawing) {
    throw new CoreError(
      'format/needs-paths',
      `${format.title} holds paths, and this mark has none: it is made of pixels. Choose a ` +
        'format of pixels, or start from a drawing, typed text or an SVG file.',
      { format: format.id },
    );
  }
  const extents = extentsOf(variant);
  if (!extents || extents.width <= 0 || extents.height <= 0) throw new CoreError('cutout/nothing-left');
  const layout = layOutFile(extents, order, drawing !== null);
  const page = { widthPx: layout.width, heightPx: layout.height, ppi: layout.ppi };
  if (!drawing) return { layout, content: { ...page, drawing: null, raster: pictureOf(variant, extents, layout) } };
  const matrix = onto(extents, layout.mark);
  if (format.accepts === 'pixels') {
    const raster = renderDrawing(drawing, { width: layout.width, height: layout.height, matrix });
    return { layout, content: { ...page, drawing, raster: bleedColours(raster) } };
  }
  // In the drawing's own units, so that what is written does not hang on the size asked for.
  return { layout, content: { ...page, raster: null, drawing: pageOf(drawing, extents, layout) } };
}

/** A file's bytes. The caller reads them back. @throws CoreError as `prepareFile` */
export async function makeFile(
  variant: Artwork,
  order: FileOrder,
  host: FormatHost,
): Promise<PreparedFile & { bytes: Uint8Array }> {
  const prepared = prepareFile(variant, order);
  const { format } = order;
  const bytes = await formats.get(format.id).write(prepared.content, format.params as never, host);
  return { ...prepared, bytes };
}

function pictureOf({ raster, reduction: r }: Artwork, e: RectPx, { width, height, mark }: FileLayout): Raster {
  const shown = { x: e.x / r, y: e.y / r, width: e.width / r, height: e.height / r };
  const page = { width, height, left: mark.x, top: mark.y };
  return bleedColours(resizeRaster(cropRaster(raster, shown), mark.width, mark.height, page));
}

/** Fills a rectangle with another to its very borders; by rounding the two may differ in shape by half a pixel. */
function onto(from: RectPx, to: RectPx): Matrix {
  const [sx, sy] = [to.width / from.width, to.height / from.height];
  return [sx, 0, 0, sy, to.x - from.x * sx, to.y - from.y * sy];
}

/** Closer to its page than this a drawing fills it: the rest is the rounding of what it was read from. */
const FILLS_PX = 2e-4;

function pageOf(drawing: Drawing, extents: RectPx, { width, height, mark }: FileLayout): Drawing {
  const { widthPx, heightPx } = drawing;
  const off = [extents.x, extents.y, extents.width - widthPx, extents.height - heightPx, mark.x, mark.y];
  if (off.every((v) => Math.abs(v) < FILLS_PX)) return drawing;
  const scale = extents.width / mark.width;
  const matrix: Matrix = [1, 0, 0, 1, mark.x * scale - extents.x, mark.y * scale - extents.y];
  return placeDrawing(drawing, matrix, width * scale, height * scale);
}
