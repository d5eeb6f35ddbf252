import { definePurpose } from './purpose';

export const print = definePurpose({
  id: 'print',
  title: 'Print',
  widthPx: 3000,
  paddingPct: 0,
  isSquare: false,
  hint: '254 mm at 300 pixels per inch.',
});
