import { CoreError } from '../errors';
import type { RectPx } from '../params';
import { purposes } from '../purposes';
import { bleedColours } from '../raster/bleedColours';
import { cropRaster, placeOnCanvas } from '../raster/cropRaster';
import { findExtents } from '../raster/extents';
import type { Raster } from '../raster/raster';
import { MAX_SIDE_PX, resizeRaster } from '../raster/resize';
import type { SizeLine } from './recipe';

export interface FileLayout {
  readonly width: number;
  readonly height: number;
  /** Where the mark itself comes to lie. */
  readonly mark: RectPx;
  /** Pixels of the file per pixel of the source: above 1 the mark is enlarged. */
  readonly enlargement: number;
}

/**
 * Where a mark lies in its file.
 * @param extents  the mark's visible extents at the source's size
 * @throws CoreError 'size/impossible' when a side would be over 16384 px
 */
export function layOutFile(extents: RectPx, line: Pick<SizeLine, 'widthPx' | 'paddingPct' | 'purpose'>): FileLayout {
  const isSquare = purposes.get(line.purpose).isSquare;
  const aspect = extents.height / extents.width;
  const share = line.paddingPct / 100;
  // The padding is a share of the file's longer side, the same number of pixels on all four sides.
  const tall = !isSquare && aspect > 1;
  const width = line.widthPx;
  let pad = Math.round(share * width);
  let markWidth = Math.max(1, width - 2 * pad);
  if (tall && share > 0) {
    // width = w + 2·p and p = share·(w·aspect + 2·p): solved for w, so that the longer side's share holds.
    markWidth = Math.max(1, Math.round((width * (1 - 2 * share)) / (1 - 2 * share + 2 * share * aspect)));
    pad = Math.round((width - markWidth) / 2);
    markWidth = width - 2 * pad;
  }
  let markHeight = Math.max(1, Math.round(markWidth * aspect));
  if (isSquare && markHeight > markWidth) {
    markHeight = markWidth;
    markWidth = Math.max(1, Math.round(markHeight / aspect));
  }
  const height = isSquare ? width : markHeight + 2 * pad;
  if (height > MAX_SIDE_PX) {
    throw new CoreError(
      'size/impossible',
      `A file ${width} px wide would be ${height} px high; the most is ${MAX_SIDE_PX} px.`,
      { width, height },
    );
  }
  const mark = {
    x: Math.floor((width - markWidth) / 2),
    y: Math.floor((height - markHeight) / 2),
    width: markWidth,
    height: markHeight,
  };
  return { width, height, mark, enlargement: markWidth / extents.width };
}

/**
 * The picture of one file: trimmed to what is visible, resized, padded, colours carried into the clear part.
 * @throws CoreError 'cutout/nothing-left' when nothing is visible, 'size/impossible' for a size that cannot be made
 */
export function makeFilePicture(variant: Raster, line: Pick<SizeLine, 'widthPx' | 'paddingPct' | 'purpose'>): Raster {
  const extents = findExtents(variant);
  if (!extents) throw new CoreError('cutout/nothing-left');
  const layout = layOutFile(extents, line);
  const resized = resizeRaster(cropRaster(variant, extents), layout.mark.width, layout.mark.height);
  return bleedColours(placeOnCanvas(resized, layout.width, layout.height, layout.mark.x, layout.mark.y));
}
