import { defineSurround } from './surround';

/** Nothing round the mark. */
export const none = defineSurround({
  id: 'none',
  title: 'No surround',
  params: {},
  describe: () => 'without a surround',
  apply: (filled) => filled,
});
