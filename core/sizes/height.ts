import { wholeField } from '../params';
import { MAX_SIDE_PX } from '../raster/resize';
import { LEAST_SIDE_PX, defineSize, layOutByHeight, paddingField } from './size';

export const height = defineSize({
  id: 'height',
  title: 'Height',
  hint: 'So many pixels high, as wide as the mark asks.',
  params: {
    heightPx: wholeField({
      label: 'Height',
      option: 'height',
      initial: 400,
      min: LEAST_SIDE_PX,
      max: MAX_SIDE_PX,
      step: 1,
      unit: 'px',
    }),
    paddingPct: paddingField,
  },
  describe: (p) => `${p.heightPx} px high`,
  layOut: (mark, p, grid) => layOutByHeight(mark, p.heightPx, p.paddingPct, grid),
});
