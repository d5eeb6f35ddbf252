import { definePurpose } from './purpose';

/** Engravers and stamp makers take no more. */
const MOST_PX = 2500;

export const stamp = definePurpose({
  id: 'stamp',
  title: 'Stamp',
  size: { id: 'longEdge', params: { px: MOST_PX } },
  hint: `Black on white, flat, at most ${MOST_PX} px.`,
  treat: () => ({
    fill: { id: 'oneColour', params: { colour: '#000000', insides: 'open' } },
    ground: '#ffffff',
    mostPx: MOST_PX,
  }),
});
