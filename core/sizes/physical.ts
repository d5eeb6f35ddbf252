import { numberField } from '../params';
import { defineSize, layOutByWidth, paddingField } from './size';

const MM_PER_INCH = 25.4;

export const physical = defineSize({
  id: 'physical',
  title: 'On paper',
  hint: 'So many millimetres wide in print.',
  params: {
    widthMm: numberField({
      label: 'Width',
      option: 'width-mm',
      initial: 100,
      min: 1,
      max: 5000,
      step: 1,
      unit: 'mm',
    }),
    ppi: numberField({
      label: 'Resolution',
      hint: 'How finely it is printed; paths need none.',
      option: 'ppi',
      initial: 300,
      min: 30,
      max: 2400,
      step: 1,
      unit: 'ppi',
    }),
    paddingPct: paddingField,
  },
  describe: (p) => `${p.widthMm} mm wide at ${p.ppi} ppi`,
  layOut: (mark, p, grid) => {
    const width = Math.max(grid.least, grid.round((p.widthMm / MM_PER_INCH) * p.ppi));
    return { ...layOutByWidth(mark, width, p.paddingPct, grid), ppi: p.ppi };
  },
});
