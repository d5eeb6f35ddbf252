import type { Artwork } from '../core/artwork/artwork';
import { extentsOf } from '../core/artwork/extentsOf';
import { renderDrawing } from '../core/artwork/renderDrawing';
import { keyClash } from '../core/findings/keyClash';
import { formats } from '../core/formats';
import { scaling } from '../core/geometry/matrix';
import { measurePage } from '../core/raster/measurePage';
import type { Raster } from '../core/raster/raster';
import { type FileOrder, treatmentOf } from '../core/recipe/fileOrder';
import { prepareFile } from '../core/recipe/makeFile';
import { toBitmap } from './bitmaps';
import { estimateBytes } from './estimateBytes';
import type { PageDone } from './protocol';

/** Pages of paths are shown no larger than this along a side. */
const MOST_SHOWN_PX = 4096;

/** One file as it will be, before it is written: its page as a picture, and what that shows. */
export async function makePage(drawn: Artwork, order: FileOrder): Promise<PageDone> {
  const { content, layout } = prepareFile(drawn, order);
  const raster = content.raster ?? shownAs(content.drawing, layout.width, layout.height);
  const { ground } = treatmentOf(order);
  const isKey = order.purpose?.id === 'keyColour' && ground !== undefined;
  const isOfPaths = formats.get(order.format.id).accepts === 'paths';
  return {
    bitmap: await toBitmap(raster),
    width: layout.width,
    height: layout.height,
    extents: extentsOf(drawn) ?? layout.mark,
    facts: measurePage(raster),
    paths: isOfPaths && content.drawing ? content.drawing.shapes.length : null,
    bytes: await estimateBytes(content, order.format),
    keyClash: isKey ? keyClash(drawn.raster, ground) : null,
  };
}

function shownAs(
  drawing: NonNullable<ReturnType<typeof prepareFile>['content']['drawing']> | null,
  w: number,
  h: number,
): Raster {
  if (!drawing) throw new Error('A page of neither pixels nor paths');
  const times = Math.min(1, MOST_SHOWN_PX / Math.max(w, h));
  const width = Math.max(1, Math.round(w * times));
  return renderDrawing(drawing, {
    width,
    height: Math.max(1, Math.round(h * times)),
    matrix: scaling(width / drawing.widthPx),
  });
}
