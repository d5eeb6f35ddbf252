import { definePurpose } from './purpose';

export const watermark = definePurpose({
  id: 'watermark',
  title: 'Watermark',
  widthPx: 800,
  paddingPct: 0,
  isSquare: false,
  hint: 'On photos, scaled by the program that places it.',
});
