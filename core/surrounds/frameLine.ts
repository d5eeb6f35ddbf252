import { extentsOf } from '../artwork/extentsOf';
import { addBeneath } from '../layers/layers';
import { lengthField, lengthPx, lengthWords, unitField } from '../layers/lengths';
import { colourField } from '../params';
import { joinPaths } from '../vector/path';
import { boxPath, grownBox } from './boxes';
import { defineSurround } from './surround';

/** A hollow box round the mark. */
export const frameLine = defineSurround({
  id: 'frameLine',
  title: 'Frame line',
  params: {
    weight: lengthField('Weight', 1.5),
    padding: lengthField('Clear space', 10),
    unit: unitField,
    colour: colourField({ label: 'Colour', initial: '#000000' }),
  },
  describe: (p) => `in a frame line of ${lengthWords(p.weight, p.unit)}, ${p.colour}`,
  apply(artwork, p, ctx) {
    const extents = extentsOf(artwork);
    const weight = lengthPx(p.weight, p.unit, ctx);
    if (!extents || weight <= 0) return artwork;
    const inner = grownBox(extents, lengthPx(p.padding, p.unit, ctx));
    const path = joinPaths([boxPath(grownBox(inner, weight)), boxPath(inner, 0, true)]);
    return addBeneath(artwork, { path, hex: p.colour });
  },
});
