import { definePurpose } from './purpose';

export const videoOverlay = definePurpose({
  id: 'videoOverlay',
  title: 'Video overlay',
  size: { id: 'width', params: { widthPx: 480, paddingPct: 2 } },
  hint: 'A quarter of a 1920 px frame; a little clear space keeps edges off the safe area.',
});
