import { wholeField } from '../params';
import { MAX_SIDE_PX } from '../raster/resize';
import { LEAST_SIDE_PX, defineSize, layOutByWidth, paddingField } from './size';

export const width = defineSize({
  id: 'width',
  title: 'Width',
  hint: 'So many pixels wide, as high as the mark asks.',
  params: {
    widthPx: wholeField({
      label: 'Width',
      option: 'width',
      initial: 1200,
      min: LEAST_SIDE_PX,
      max: MAX_SIDE_PX,
      step: 1,
      unit: 'px',
    }),
    paddingPct: paddingField,
  },
  describe: (p) => `${p.widthPx} px wide`,
  layOut: (mark, p, grid) => layOutByWidth(mark, p.widthPx, p.paddingPct, grid),
});
