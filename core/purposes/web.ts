import { definePurpose } from './purpose';

export const web = definePurpose({
  id: 'web',
  title: 'Web',
  size: { id: 'width', params: { widthPx: 1200 } },
  hint: 'Pages and newsletters; trimmed to the mark.',
});
