import { addBeneath, outlineOf } from '../layers/layers';
import { lengthField, lengthPx, lengthWords, unitField } from '../layers/lengths';
import { colourField } from '../params';
import { refitPath } from '../trace/refitPath';
import { COARSE, offsetPath } from '../vector/polygons';
import { defineSurround } from './surround';

/** The mark's outer shape, its holes closed, spread outwards and laid behind it. */
export const silhouette = defineSurround({
  id: 'silhouette',
  title: 'Silhouette',
  params: {
    spread: lengthField('Spread', 5),
    unit: unitField,
    fill: colourField({ label: 'Colour', initial: '#ffffff' }),
  },
  describe: (p) => `on its silhouette, ${lengthWords(p.spread, p.unit)} wider, ${p.fill}`,
  apply(artwork, p, ctx) {
    const own = outlineOf(artwork, true);
    if (own.verbs === '') return artwork;
    const by = lengthPx(p.spread, p.unit, ctx);
    const spread = offsetPath({ path: own, rule: 'nonzero' }, by, 'round', COARSE / artwork.reduction);
    return addBeneath(artwork, { path: artwork.drawing ? refitPath(spread) : spread, hex: p.fill });
  },
});
