import { definePurpose } from './purpose';

export const print = definePurpose({
  id: 'print',
  title: 'Print',
  size: { id: 'width', params: { widthPx: 3000 } },
  hint: '254 mm at 300 pixels per inch.',
});
