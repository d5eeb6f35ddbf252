import { wholeField } from '../params';
import { defineFormat, encoded } from './format';

export const avif = defineFormat({
  id: 'avif',
  title: 'AVIF',
  extension: 'avif',
  mimeType: 'image/avif',
  accepts: 'pixels',
  hint: 'Very small, for the web; edges are close to the master’s, not the same.',
  params: {
    quality: wholeField({ label: 'Quality', initial: 85, min: 30, max: 100, step: 5 }),
  },
  write: (file, params, host) => encoded('avif', file, host, params),
});
