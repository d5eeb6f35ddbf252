import { definePurpose } from './purpose';

export const icon = definePurpose({
  id: 'icon',
  title: 'Icon',
  size: { id: 'box', params: { widthPx: 512, heightPx: 512, paddingPct: 6 } },
  hint: 'Square, the mark in the middle.',
});
