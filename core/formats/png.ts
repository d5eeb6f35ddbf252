import { choiceField, flagField } from '../params';
import { defineFormat, encoded } from './format';

/** 8 bits a channel, straight alpha, not interlaced; a physical size only where one was asked for. */
export const png = defineFormat({
  id: 'png',
  title: 'PNG',
  extension: 'png',
  mimeType: 'image/png',
  accepts: 'pixels',
  hint: 'Pixels with true transparency.',
  params: {
    palette: flagField({
      label: 'Palette',
      hint: 'At most 256 colours are written as a palette where that is smaller; no pixel changes.',
      initial: true,
    }),
    profile: choiceField({
      label: 'Colour space',
      initial: 'named',
      hint: 'That it is sRGB is said in one word, or by a whole profile.',
      choices: [
        { value: 'named', label: 'sRGB, named' },
        { value: 'embedded', label: 'sRGB, profile' },
      ],
    }),
  },
  write: (file, params, host) => encoded('png', file, host, params),
});
