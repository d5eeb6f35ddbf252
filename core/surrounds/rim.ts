import { addBeneath, outlineOf } from '../layers/layers';
import { lengthField, lengthPx, lengthWords, unitField } from '../layers/lengths';
import { choiceField, colourField } from '../params';
import { refitPath } from '../trace/refitPath';
import type { Path } from '../vector/path';
import { COARSE, type Clip, differenceOf, offsetPath, unionOf } from '../vector/polygons';
import { defineSurround } from './surround';

/** An even line all round the mark, outside it. */
export const rim = defineSurround({
  id: 'rim',
  title: 'Rim',
  params: {
    width: lengthField('Width', 4),
    unit: unitField,
    colour: colourField({ label: 'Colour', initial: '#ffffff' }),
    join: choiceField({
      label: 'Corners',
      initial: 'round',
      choices: [
        { value: 'round', label: 'Round' },
        { value: 'mitre', label: 'Mitred' },
      ],
    }),
    holes: choiceField({
      label: 'Holes',
      initial: 'rimmed',
      choices: [
        { value: 'rimmed', label: 'Rimmed too' },
        { value: 'skipped', label: 'Left as they are' },
      ],
    }),
  },
  describe: (p) => `with a rim of ${lengthWords(p.width, p.unit)}, ${p.colour}`,
  apply(artwork, p, ctx) {
    const by = lengthPx(p.width, p.unit, ctx);
    const own = outlineOf(artwork);
    if (by <= 0 || own.verbs === '') return artwork;
    const outline = { path: own, rule: 'nonzero' as const };
    const fine = COARSE / artwork.reduction;
    const { drawing } = artwork;
    const grown = offsetPath(outline, by, p.join === 'mitre' ? 'mitre' : 'round', fine, drawing === null);
    const ring = p.holes === 'skipped' ? withoutHoles(grown, outline, fine) : grown;
    if (!drawing) return addBeneath(artwork, { path: ring, hex: p.colour, beside: own });
    // Under paths that hide it the rim goes through beneath, so that no seam shows; else it ends at the mark.
    const isSolid = drawing.shapes.every((s) => s.opacity === 1);
    const path = isSolid ? ring : differenceOf({ path: ring, rule: 'nonzero' }, [outline], fine);
    return addBeneath(artwork, { path: refitPath(path), hex: p.colour });
  },
});

/** A rim round the outside alone: what lies in the mark's holes stays clear. */
function withoutHoles(grown: Path, outline: Clip, fine: number): Path {
  const filled = { path: unionOf([outline], fine, true), rule: 'nonzero' as const };
  const holes = { path: differenceOf(filled, [outline], fine), rule: 'nonzero' as const };
  const outer = { path: unionOf([{ path: grown, rule: 'nonzero' }], fine, true), rule: 'nonzero' as const };
  return differenceOf(outer, [holes], fine);
}
