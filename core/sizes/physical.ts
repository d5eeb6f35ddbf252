import { MM_PER_INCH } from '../units';
import { choiceField, numberField } from '../params';
import { defineSize, layOutByWidth, paddingField } from './size';

/** A length in the unit in which it is a round number: 203.2 mm was asked for as 8 in. */
export function lengthOnPaper(mm: number): string {
  const inches = Math.round((mm / MM_PER_INCH) * 1000) / 1000;
  const isRound = (v: number) => Math.abs(v * 4 - Math.round(v * 4)) < 1e-6;
  return !isRound(mm / 10) && !Number.isInteger(mm) && isRound(inches) ? `${inches} in` : `${mm} mm`;
}

// Whole pixels come to the width asked for give or take half a pixel; the resolution is what was asked, which is what
// a receiver checks.
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
  describe: (p) => `${lengthOnPaper(p.widthMm)} wide at ${p.ppi} ppi`,
  layOut: (mark, p, grid) => {
    const asked = (p.widthMm / MM_PER_INCH) * p.ppi;
    const width = Math.max(grid.least, grid.round(asked));
    if (p.edge === 'page' || p.paddingPct === 0)
      return { ...layOutByWidth(mark, width, p.paddingPct, grid), ppi: p.ppi };
    // The page is larger than the mark by the clear space, a share of its own longer side.
    const inner = layOutByWidth(mark, width, 0, grid);
    const share = p.paddingPct / 100;
    const pad = grid.round((Math.max(inner.width, inner.height) * share) / (1 - 2 * share));
    return {
      ...inner,
      width: inner.width + 2 * pad,
      height: inner.height + 2 * pad,
      mark: { ...inner.mark, x: pad, y: pad },
      ppi: p.ppi,
    };
  },
});
