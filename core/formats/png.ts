import { defineFormat } from './format';

/** 8 bits a channel, straight alpha, sRGB, not interlaced. */
export const png = defineFormat({
  id: 'png',
  title: 'PNG',
  extension: 'png',
  mimeType: 'image/png',
  accepts: 'pixels',
});
