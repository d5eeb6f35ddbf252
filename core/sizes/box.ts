import { wholeField } from '../params';
import { MAX_SIDE_PX } from '../raster/resize';
import { ACROSS, DOWN, alongSide } from './alongSide';
import { LEAST_SIDE_PX, alignField, defineSize, paddingField } from './size';

const side = (label: string, initial: number) =>
  wholeField({ label, initial, min: LEAST_SIDE_PX, max: MAX_SIDE_PX, step: 1, unit: 'px' });

export const box = defineSize({
  id: 'box',
  title: 'Exact box',
  hint: 'Exactly so wide and high, the mark in it as large as it can be.',
  params: { widthPx: side('Width', 512), heightPx: side('Height', 512), paddingPct: paddingField, align: alignField },
  describe: (p) => `in a box of ${p.widthPx} × ${p.heightPx} px`,
  layOut: (mark, p, grid) => {
    const { widthPx: width, heightPx: height } = p;
    const pad = grid.round((p.paddingPct / 100) * Math.max(width, height));
    const room = { width: Math.max(grid.least, width - 2 * pad), height: Math.max(grid.least, height - 2 * pad) };
    const aspect = mark.height / mark.width;
    let markWidth = room.width;
    let markHeight = Math.max(grid.least, grid.round(markWidth * aspect));
    if (markHeight > room.height) {
      markHeight = room.height;
      markWidth = Math.max(grid.least, grid.round(markHeight / aspect));
    }
    const roomOf = (whole: number, part: number) => {
      const from = Math.min(pad, grid.floor((whole - part) / 2));
      return { from, length: whole - 2 * from };
    };
    const place = {
      x: alongSide(p.align, ACROSS, roomOf(width, markWidth), markWidth, grid),
      y: alongSide(p.align, DOWN, roomOf(height, markHeight), markHeight, grid),
    };
    return {
      width,
      height,
      mark: { ...place, width: markWidth, height: markHeight },
      enlargement: markWidth / mark.width,
      ppi: null,
    };
  },
});
