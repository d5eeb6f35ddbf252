import { wholeField } from '../params';
import { defineFormat, encoded } from './format';

/** Colours at full resolution, so that flat edges stay clean. */
export const jpeg = defineFormat({
  id: 'jpeg',
  title: 'JPEG',
  extension: 'jpg',
  endings: ['jpeg'],
  mimeType: 'image/jpeg',
  accepts: 'pixels',
  hint: 'For stamps and key colours alone: it has no transparency.',
  params: {
    quality: wholeField({ label: 'Quality', initial: 92, min: 40, max: 100, step: 1 }),
  },
  needsGround: () => true,
  write: (file, params, host) => encoded('jpeg', file, host, params),
});
