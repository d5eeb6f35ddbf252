import { definePurpose } from './purpose';

export const icon = definePurpose({
  id: 'icon',
  title: 'Icon',
  widthPx: 512,
  paddingPct: 6,
  isSquare: true,
  hint: 'Square, the mark in the middle.',
});
