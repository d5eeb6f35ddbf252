import { definePurpose } from './purpose';

export const watermark = definePurpose({
  id: 'watermark',
  title: 'Watermark',
  size: { id: 'width', params: { widthPx: 800 } },
  hint: 'On photos, scaled by the program that places it.',
});
