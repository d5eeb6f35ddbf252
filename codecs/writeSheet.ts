import type { Artwork } from '../core/artwork/artwork';
import { placeDrawing } from '../core/artwork/drawing';
import { extentsOf } from '../core/artwork/extentsOf';
import { CoreError } from '../core/errors';
import { formats } from '../core/formats';
import type { FileContent } from '../core/formats/format';
import { joinByPaint } from '../core/artwork/joinByPaint';
import { fitPhoto } from '../core/placements/fitPhoto';
import { layOnGround } from '../core/placements/layOnGround';
import { flatRaster } from '../core/placements/placeItem';
import { cropRaster } from '../core/raster/cropRaster';
import type { Raster } from '../core/raster/raster';
import { resizeRaster } from '../core/raster/resize';
import { type Part, partOf } from '../core/recipe/recipe';
import { markAtWidth } from '../core/contrast/placeMark';
import { type SheetLayout, type SheetOrder, layOutSheet } from '../core/sheets/layOutSheet';
import { formatHost } from './formatHost';
import { readBack } from './readBack';

export interface SheetContent {
  readonly mark: Artwork;
  /** Fills the sheet beneath the mark; blank paper without one. */
  readonly photo: Raster | null;
  /** The paper's own colour in files of pixels. */
  readonly ground: string;
  readonly opacity: number;
}

export interface WrittenSheet {
  readonly bytes: Uint8Array;
  readonly layout: SheetLayout;
  /** Pixels of the sheet per pixel of the mark; 1 for paths. */
  readonly enlargement: number;
}

/**
 * A print sheet as a file: a PDF page of the very size whose paths stay paths, or a flat picture with its resolution.
 * @throws CoreError 'cutout/nothing-left', 'size/impossible', 'file/read-back'
 */
export async function writeSheet(
  { mark, photo, ground, opacity }: SheetContent,
  order: SheetOrder,
  format: Part,
  name: string,
): Promise<WrittenSheet> {
  const extents = extentsOf(mark);
  if (!extents) throw new CoreError('cutout/nothing-left');
  const { drawing } = mark;
  const isVector = format.id === 'pdf' && drawing !== null && !photo && opacity === 1;
  const layout = layOutSheet(extents, order, isVector);
  const { width, height, ppi, mark: box } = layout;
  const page = { widthPx: width, heightPx: height, ppi };
  let content: FileContent;
  if (isVector) {
    const scale = box.width / extents.width;
    const matrix = [scale, 0, 0, scale, box.x - extents.x * scale, box.y - extents.y * scale] as const;
    content = { ...page, raster: null, drawing: joinByPaint(placeDrawing(drawing, matrix, width, height)) };
  } else {
    const raster = flatRaster(width, height, ground);
    if (photo) {
      const { from } = fitPhoto(photo, layout, 'fill');
      layOnGround(raster, resizeRaster(cropRaster(photo, from), width, height), { x: 0, y: 0 }, plain);
    }
    layOnGround(raster, markAtWidth(mark, box.width), box, { ...plain, opacity });
    content = { ...page, drawing: null, raster, isOpaque: true };
  }
  const params = { ...partOf(formats, format.id, format.params).params };
  const written = formats.get(format.id);
  const bytes = await written.write(content, { ...params, embed: !isVector } as never, formatHost);
  const fileLayout = { width, height, mark: box, enlargement: 1, ppi };
  const back = { id: format.id, params: { ...params, ...(format.id === 'pdf' ? { embed: !isVector } : {}) } };
  await readBack(bytes, { content, layout: fileLayout }, back, name);
  return { bytes, layout, enlargement: drawing ? 1 : box.width / extents.width };
}

const plain = { opacity: 1, mode: 'normal' } as const;
