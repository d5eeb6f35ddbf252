import { choiceField } from '../params';
import { defineFormat, encoded } from './format';

/** Straight alpha, with an sRGB profile and, where there is one, the physical size. */
export const tiff = defineFormat({
  id: 'tiff',
  title: 'TIFF',
  extension: 'tif',
  endings: ['tiff'],
  mimeType: 'image/tiff',
  accepts: 'pixels',
  hint: 'For print and title programs; large.',
  params: {
    compression: choiceField({
      label: 'Compression',
      initial: 'none',
      choices: [
        { value: 'none', label: 'None' },
        { value: 'lzw', label: 'LZW' },
      ],
    }),
    depth: choiceField({
      label: 'Depth',
      initial: '8',
      hint: 'One bit is black or white and nothing between, on a flat ground alone.',
      choices: [
        { value: '8', label: '8 bits' },
        { value: '1', label: '1 bit' },
      ],
    }),
  },
  needsGround: (p) => p.depth === '1',
  write: (file, params, host) => encoded('tiff', file, host, params),
});
