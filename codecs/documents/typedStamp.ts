import { drawingOfPath } from '../../core/artwork/drawingOfPath';
import { formats } from '../../core/formats';
import type { RectPx } from '../../core/params';
import { partOf } from '../../core/recipe/recipe';
import { setType } from '../../core/type/setType';
import { findTypeface } from '../../core/type/typefaces';
import { boundsOfPath } from '../../core/vector/path';
import { formatHost } from '../formatHost';
import { loadTypeface } from '../loadTypeface';
import type { Stamp } from './signPdf';

const TYPEFACE = 'hanken';
/** As forms are filled in. */
const SIZE_PT = 10.5;
/** Set large, so that nothing is lost where a font's own units are rounded. */
const SET_PX = 1000;
/** Above its line, and after the line's left end. */
const RISE_PT = 2.5;
const INSET_PT = 4;

/**
 * A few typed words on a line of a page, as paths: no font goes into the document.
 * @param line  its left end and where it lies, points from the upper left corner
 */
export async function typedStamp(
  text: string,
  page: number,
  line: { x: number; y: number },
  hex: string,
): Promise<Stamp> {
  const font = loadTypeface(findTypeface(TYPEFACE).file);
  const setting = { sizePx: SET_PX, spacing: 0, lineHeight: 1.2, align: 'left' as const };
  const path = setType([text], font, setting);
  const bounds = boundsOfPath(path) as RectPx;
  const drawing = drawingOfPath(path, hex, bounds.width);
  const content = { widthPx: drawing.widthPx, heightPx: drawing.heightPx, ppi: null, raster: null, drawing };
  const { id, params } = partOf(formats, 'pdf');
  const pdf = await formats.get(id).write(content, params as never, formatHost);
  const scale = (SIZE_PT / SET_PX) * (bounds.width / drawing.widthPx);
  const [width, height] = [drawing.widthPx * scale, drawing.heightPx * scale];
  // What reaches below the line of writing reaches below there too.
  const below = Math.max(0, bounds.y + bounds.height) * (SIZE_PT / SET_PX);
  return { pdf, page, box: { x: line.x + INSET_PT, y: line.y - RISE_PT - height + below, width, height } };
}
