import type { Raster } from '../raster/raster';
import { defineFormat } from './format';

/** 8 bits a channel, straight alpha, sRGB, not interlaced; a physical size only where one was asked for. */
export const png = defineFormat({
  id: 'png',
  title: 'PNG',
  extension: 'png',
  mimeType: 'image/png',
  accepts: 'pixels',
  hint: 'Pixels with true transparency.',
  params: {},
  write: (file, _, host) => host.encode('png', file.raster as Raster, { ppi: file.ppi }),
});
