import { wholeField } from '../params';
import { MAX_SIDE_PX } from '../raster/resize';
import { LEAST_SIDE_PX, defineSize, layOutByHeight, layOutByWidth, paddingField } from './size';

export const longEdge = defineSize({
  id: 'longEdge',
  title: 'Long edge',
  hint: 'So many pixels along the longer side, whichever it is.',
  params: {
    px: wholeField({
      label: 'Long edge',
      option: 'long-edge',
      initial: 1200,
      min: LEAST_SIDE_PX,
      max: MAX_SIDE_PX,
      step: 1,
      unit: 'px',
    }),
    paddingPct: paddingField,
  },
  describe: (p) => `${p.px} px along the longer side`,
  layOut: (mark, p, grid) =>
    (mark.height > mark.width ? layOutByHeight : layOutByWidth)(mark, p.px, p.paddingPct, grid),
});
