import { choiceField, numberField, optionalNumberField, wholeField } from '../params';
import { MAX_SIDE_PX } from '../raster/resize';
import { ACROSS, DOWN, alongSide } from './alongSide';
import { LEAST_SIDE_PX, alignField, defineSize } from './size';

const side = (label: string, initial: number) =>
  wholeField({ label, initial, min: LEAST_SIDE_PX, max: MAX_SIDE_PX, step: 1, unit: 'px' });

/**
 * Margins of the safe areas of a picture of 16:9, as shares of its width and height.
 * @see EBU R 95, "Safe areas for 16:9 television production", 2017: action safe 3.5 %, graphics (title) safe 5 %
 */
const SAFE_MARGIN = { none: 0, action: 0.035, title: 0.05 };

const at = (label: string) =>
  optionalNumberField({
    label,
    hint: 'The mark’s middle, in place of its corner.',
    min: 0,
    max: 100,
    step: 1,
    unit: '%',
  });

export const frame = defineSize({
  id: 'frame',
  title: 'Exact frame',
  hint: 'A picture of exactly this size, such as a video frame, the mark somewhere in it.',
  params: {
    widthPx: side('Width', 1920),
    heightPx: side('Height', 1080),
    corner: alignField,
    insetPct: numberField({
      label: 'Inset',
      hint: 'From the edges, or from the safe area, as a share of the frame’s shorter side.',
      initial: 4,
      min: 0,
      max: 45,
      step: 0.5,
      unit: '%',
    }),
    markPct: numberField({
      label: 'Mark',
      hint: 'Its width, as a share of the frame’s; smaller where it would not fit.',
      initial: 18,
      min: 1,
      max: 100,
      step: 1,
      unit: '%',
    }),
    safe: choiceField({
      label: 'Inside',
      initial: 'none',
      hint: 'Action safe keeps 3.5 % of width and height free, title safe 5 % (EBU R 95).',
      choices: [
        { value: 'none', label: 'The frame' },
        { value: 'action', label: 'Action safe' },
        { value: 'title', label: 'Title safe' },
      ],
    }),
    atXPct: at('Across'),
    atYPct: at('Down'),
  },
  describe: (p) => `in a frame of ${p.widthPx} × ${p.heightPx} px`,
  layOut: (mark, p, grid) => {
    const { widthPx: width, heightPx: height } = p;
    const share = SAFE_MARGIN[p.safe];
    const inset = (p.insetPct / 100) * Math.min(width, height);
    const roomOf = (whole: number) => {
      const from = Math.min(grid.round(share * whole + inset), grid.floor((whole - 1) / 2));
      return { from, length: whole - 2 * from };
    };
    const [across, down] = [roomOf(width), roomOf(height)];
    const wanted = (p.markPct / 100) * width;
    const scale = Math.min(wanted / mark.width, across.length / mark.width, down.length / mark.height);
    const fitted = (v: number, room: number) => Math.min(room, Math.max(grid.least, grid.round(v * scale)));
    const [w, h] = [fitted(mark.width, across.length), fitted(mark.height, down.length)];
    const within = (middlePct: number, room: typeof across, whole: number, part: number) => {
      const from = grid.round((middlePct / 100) * whole - part / 2);
      return Math.max(room.from, Math.min(room.from + room.length - part, from));
    };
    const x = p.atXPct === null ? alongSide(p.corner, ACROSS, across, w, grid) : within(p.atXPct, across, width, w);
    const y = p.atYPct === null ? alongSide(p.corner, DOWN, down, h, grid) : within(p.atYPct, down, height, h);
    return { width, height, mark: { x, y, width: w, height: h }, enlargement: w / mark.width, ppi: null };
  },
});
