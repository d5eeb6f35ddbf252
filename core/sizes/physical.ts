import { MM_PER_INCH } from '../units';
import { choiceField, numberField } from '../params';
import { defineSize, layOutByWidth, paddingField } from './size';

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
    edge: choiceField({
      label: 'Width of',
      hint: 'Whether the clear space counts.',
      initial: 'page',
      choices: [
        { value: 'page', label: 'The page' },
        { value: 'ink', label: 'The mark' },
      ],
    }),
    paddingPct: paddingField,
  },
  describe: (p) => `${p.widthMm} mm wide at ${p.ppi} ppi`,
  layOut: (mark, p, grid) => {
    const asked = (p.widthMm / MM_PER_INCH) * p.ppi;
    const width = Math.max(grid.least, grid.round(asked));
    if (p.edge === 'page' || p.paddingPct === 0)
      return { ...layOutByWidth(mark, width, p.paddingPct, grid), ppi: truePpi(width, p) };
    // The page is larger than the mark by the clear space, a share of its own longer side.
    const inner = layOutByWidth(mark, width, 0, grid);
    const share = p.paddingPct / 100;
    const pad = grid.round((Math.max(inner.width, inner.height) * share) / (1 - 2 * share));
    return {
      ...inner,
      width: inner.width + 2 * pad,
      height: inner.height + 2 * pad,
      mark: { ...inner.mark, x: pad, y: pad },
      ppi: truePpi(width, p),
    };
  },
});

/** Whole pixels come to a size so close to the one asked for, mm, or the resolution gives way. */
const CLOSE_MM = 0.02;

/** The resolution that makes so many pixels as wide as asked; the one asked for where that is close enough. */
function truePpi(width: number, { widthMm, ppi }: { widthMm: number; ppi: number }): number {
  const off = Math.abs((width / ppi) * MM_PER_INCH - widthMm);
  return off < CLOSE_MM ? ppi : (width / widthMm) * MM_PER_INCH;
}
