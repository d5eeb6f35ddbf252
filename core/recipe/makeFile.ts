import type { Artwork } from '../artwork/artwork';
import { type Drawing, type Shape, placeDrawing } from '../artwork/drawing';
import { extentsOf } from '../artwork/extentsOf';
import { renderDrawing } from '../artwork/renderDrawing';
import { joinByPaint } from '../artwork/joinByPaint';
import { rgbFromHex } from '../colour/hex';
import { CoreError } from '../errors';
import { formats } from '../formats';
import type { FileContent, FormatDefinition, FormatHost } from '../formats/format';
import type { Matrix } from '../geometry/matrix';
import type { RectPx } from '../params';
import { bleedColours } from '../raster/bleedColours';
import { cropRaster } from '../raster/cropRaster';
import { layOn, maskOf, withoutAlpha } from '../raster/flatten';
import type { Raster } from '../raster/raster';
import { resizeRaster } from '../raster/resize';
import { sizes } from '../sizes';
import { type Extent, type FileLayout, anywhere, checkLayout, wholePixels } from '../sizes/size';
import { type FileOrder, checkOrder, treatmentOf } from './fileOrder';
import { fitSize } from './fitSize';
import { type Part, partOf } from './recipe';

export type { FileOrder };

/** The size that a file gets: the one asked for, or the one that follows the mark where nobody asked for any. */
export const sizeFor = (
  extent: Extent,
  { size, fitted }: Pick<FileOrder, 'size' | 'fitted'>,
  hasPaths: boolean,
): Part => (fitted && !hasPaths ? fitSize(size, extent) : size);

/**
 * Where a mark lies in its file.
 * @param extent  the mark's visible extents at its own full size
 * @param hasPaths  paths are rendered at the very size: nothing is enlarged
 * @throws CoreError 'size/impossible' when a side would be over 16384 px, 'purpose/too-large'
 */
export function layOutFile(extent: Extent, order: FileOrder, hasPaths = false): FileLayout {
  const { format } = order;
  const size = sizeFor(extent, order, hasPaths);
  const definition = formats.get(format.id);
  const grid = definition.accepts === 'paths' ? anywhere : wholePixels;
  const largest = definition.squares?.(format.params as never)[0];
  const layout = checkLayout(
    largest ? squareOf(extent, size, largest) : sizes.get(size.id).layOut(extent, size.params as never, grid),
  );
  const { mostPx } = treatmentOf(order);
  if (mostPx !== undefined && Math.max(layout.width, layout.height) > mostPx)
    throw new CoreError('purpose/too-large', `For this purpose a file is at most ${mostPx} px on its longer side.`);
  return hasPaths ? { ...layout, enlargement: 1 } : layout;
}

/** The mark in the middle of a square, with the clear space that was asked for. */
function squareOf(extent: Extent, { params }: Part, side: number): FileLayout {
  const { paddingPct = 0 } = params as { paddingPct?: number };
  const box = partOf(sizes, 'box', { widthPx: side, heightPx: side, paddingPct });
  return sizes.get('box').layOut(extent, box.params as never, wholePixels);
}

export interface PreparedFile {
  readonly content: FileContent;
  readonly layout: FileLayout;
}

/**
 * The page of one file: trimmed to what is visible, sized, padded. Paths stay paths where the format takes them, and
 * are rendered at the very size otherwise; pixels are resized, their colours carried into the clear part. A purpose may
 * lay it on a flat ground, or ask for its mask.
 * @throws CoreError 'cutout/nothing-left' when nothing is visible; 'format/needs-paths', 'format/needs-ground',
 *   'format/no-opacity' or 'format/not-for-purpose' for what the format cannot hold; 'size/impossible' or
 *   'purpose/too-large' for a size that cannot be made
 */
export function prepareFile(variant: Artwork, order: FileOrder): PreparedFile {
  checkOrder(order);
  const format = formats.get(order.format.id);
  const { drawing } = variant;
  const isOfPaths = format.accepts === 'paths';
  const embeds = isOfPaths && !drawing && (format.embeds?.(order.format.params as never) ?? false);
  if (isOfPaths && !drawing && !embeds) throw needsPaths(format);
  const extents = extentsOf(variant);
  if (!extents || extents.width <= 0 || extents.height <= 0) throw new CoreError('cutout/nothing-left');
  // A picture inside a drawing lies on whole pixels, as any other.
  const laidOut = layOutFile(extents, embeds ? { ...order, format: partOf(formats, 'png') } : order, drawing !== null);
  const page = { widthPx: laidOut.width, heightPx: laidOut.height, ppi: laidOut.ppi };
  const { ground = null } = treatmentOf(order);
  if (isOfPaths && drawing) {
    // In the drawing's own units, so that what is written does not hang on the size asked for.
    const own = joinByPaint(pageOf(drawing, extents, laidOut));
    if (format.isHard) refuseFaint(own, format);
    return {
      layout: laidOut,
      content: { ...page, raster: null, drawing: ground ? onGround(own, ground) : own },
    };
  }
  const raster = pictureOn(variant, extents, laidOut);
  const squares = format.squares?.(order.format.params as never).map((side, k) => {
    const square = squareOf(extents, order.size, side);
    return flatten(k === 0 ? raster : pictureOn(variant, extents, square), order).raster as Raster;
  });
  return {
    layout: laidOut,
    content: { ...page, drawing: null, ...(squares ? { squares } : {}), ...flatten(raster, order) },
  };
}

const needsPaths = (format: FormatDefinition) =>
  new CoreError(
    'format/needs-paths',
    `${format.title} holds paths, and this mark has none: it is made of pixels. Choose a ` +
      'format of pixels, or start from a drawing, typed text or an SVG file.',
    { format: format.id },
  );

function refuseFaint({ shapes }: Drawing, { title }: FormatDefinition): void {
  if (shapes.some((s) => s.opacity < 1))
    throw new CoreError(
      'format/no-opacity',
      `${title} holds nothing half see-through, and parts of this variant are. Choose PDF or SVG, or make them opaque.`,
    );
}

/** The mark's own pixels on its page, or its paths rendered there. */
function pictureOn(variant: Artwork, extents: RectPx, layout: FileLayout): Raster {
  const { drawing } = variant;
  if (!drawing) return pictureOf(variant, extents, layout);
  const matrix = onto(extents, layout.mark);
  return bleedColours(renderDrawing(drawing, { width: layout.width, height: layout.height, matrix }));
}

/** A picture as its purpose asks for it: on a ground, without transparency, or as the mask of it. */
function flatten(raster: Raster, order: FileOrder): Pick<FileContent, 'raster' | 'isOpaque' | 'isGrey'> {
  const { ground = null, mask, isOpaque } = treatmentOf(order);
  if (order.role === 'mask') return { raster: maskOf(raster, mask === 'black'), isOpaque: true, isGrey: true };
  if (ground) return { raster: layOn(raster, rgbFromHex(ground)), isOpaque: true };
  // What bled into the clear part is the ground then.
  return isOpaque ? { raster: withoutAlpha(raster), isOpaque } : { raster };
}

function onGround(drawing: Drawing, hex: string): Drawing {
  const { widthPx: w, heightPx: h } = drawing;
  const path = { verbs: 'MLLLZ', coords: [0, 0, w, 0, w, h, 0, h] };
  const sheet: Shape = { id: 'ground', path, rule: 'nonzero', paint: { kind: 'colour', hex }, opacity: 1 };
  return { ...drawing, shapes: [sheet, ...drawing.shapes] };
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
