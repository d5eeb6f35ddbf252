import { defineFormat, encoded } from './format';

/** Every pixel as it is, also the colours beneath what is see-through. */
export const webp = defineFormat({
  id: 'webp',
  title: 'WebP',
  extension: 'webp',
  mimeType: 'image/webp',
  accepts: 'pixels',
  hint: 'Lossless, a third smaller than PNG; for the web.',
  params: {},
  write: (file, _, host) => encoded('webp', file, host),
});
