import type { Artwork } from '../core/artwork/artwork';
import type { Raster } from '../core/raster/raster';
import { extentsOf } from '../core/artwork/extentsOf';
import { prepareFile } from '../core/recipe/makeFile';
import { LEAST_SIDE_PX } from '../core/sizes/size';
import { encodePng } from '../codecs/encodePng';

const THUMBNAIL_PX = 560;
const NOTHING: Raster = { width: 1, height: 1, data: new Uint8Array(4) };

/** The trimmed master at card size, as a PNG; a clear pixel where nothing is visible. */
export async function drawThumbnail(master: Artwork): Promise<Buffer> {
  const extents = extentsOf(master);
  if (!extents) return encodePng(NOTHING);
  const own = Math.max(extents.width, extents.height) / master.reduction;
  const px = Math.max(LEAST_SIDE_PX, Math.floor(master.drawing ? THUMBNAIL_PX : Math.min(THUMBNAIL_PX, own)));
  const size = { id: 'longEdge', params: { px, paddingPct: 0 } };
  const { content } = prepareFile(master, { size, format: { id: 'png', params: {} } });
  return encodePng(content.raster as Raster);
}
