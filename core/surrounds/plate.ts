import { extentsOf } from '../artwork/extentsOf';
import { addBeneath } from '../layers/layers';
import { lengthField, lengthPx, lengthWords, unitField } from '../layers/lengths';
import { choiceField, colourField } from '../params';
import { boxPath, grownBox } from './boxes';
import { defineSurround } from './surround';

/** A plain plate behind the mark. */
export const plate = defineSurround({
  id: 'plate',
  title: 'Plate',
  params: {
    shape: choiceField({
      label: 'Shape',
      initial: 'rectangle',
      choices: [
        { value: 'rectangle', label: 'Rectangle' },
        { value: 'rounded', label: 'Rounded' },
        { value: 'circle', label: 'Circle' },
      ],
    }),
    padding: lengthField('Clear space', 10),
    unit: unitField,
    colour: colourField({ label: 'Colour', initial: '#ffffff' }),
    radius: lengthField('Corner radius', 8),
  },
  describe: (p) =>
    `on a ${p.shape === 'rounded' ? 'rounded plate' : `${p.shape} plate`}, ${p.colour}, ` +
    `${lengthWords(p.padding, p.unit)} of clear space`,
  apply(artwork, p, ctx) {
    const extents = extentsOf(artwork);
    if (!extents) return artwork;
    const padding = lengthPx(p.padding, p.unit, ctx);
    if (p.shape === 'circle') {
      const [cx, cy] = [extents.x + extents.width / 2, extents.y + extents.height / 2];
      // Clear of the extents' corners too.
      const r = Math.hypot(extents.width, extents.height) / 2 + padding;
      return addBeneath(artwork, {
        path: boxPath({ x: cx - r, y: cy - r, width: 2 * r, height: 2 * r }, r),
        hex: p.colour,
      });
    }
    const radius = p.shape === 'rounded' ? lengthPx(p.radius, p.unit, ctx) : 0;
    return addBeneath(artwork, { path: boxPath(grownBox(extents, padding), radius), hex: p.colour });
  },
});
