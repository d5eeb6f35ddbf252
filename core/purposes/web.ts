import { definePurpose } from './purpose';

export const web = definePurpose({
  id: 'web',
  title: 'Web',
  widthPx: 1200,
  paddingPct: 0,
  isSquare: false,
  hint: 'Pages and newsletters; trimmed to the mark.',
});
