import { flagField } from '../params';
import type { Raster } from '../raster/raster';
import { defineFormat } from './format';

/** Pixels for web pages, a quarter smaller. */
export const webp = defineFormat({
  id: 'webp',
  title: 'WebP',
  extension: 'webp',
  mimeType: 'image/webp',
  accepts: 'pixels',
  hint: 'Smaller than PNG; for web pages.',
  params: { lossless: flagField({ label: 'Lossless', initial: true }) },
  write: (file, { lossless }, host) => host.encode('webp', file.raster as Raster, { ppi: file.ppi, lossless }),
});
